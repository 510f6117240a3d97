import type { ReactNode } from "react";

/** The strip at the top of a screen: what it is, its state, what to do with it. */
export function Header({ kind, title, state, children }: { kind: ReactNode; title: ReactNode; state?: ReactNode; children?: ReactNode }) {
  return (
    <header className="flex h-[54px] shrink-0 items-center gap-6 border-b border-line px-4">
      <div className="min-w-0">
        <div className="text-[11.5px] text-faint">{kind}</div>
        <h1 className="truncate">{title}</h1>
      </div>
      {state && <div className="min-w-0 text-[12px] text-faint">{state}</div>}
      <div className="ml-auto flex shrink-0 items-center gap-2">{children}</div>
    </header>
  );
}
