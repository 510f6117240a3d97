import type { ReactNode } from "react";
import { PageTitle } from "./PageTitle";

/** What a heading says as text: what is set in it, in order. */
function words(node: ReactNode): string {
  if (typeof node === "string" || typeof node === "number") return String(node);
  if (Array.isArray(node)) return node.map(words).join("");
  return node && typeof node === "object" && "props" in node ? words((node.props as { children?: ReactNode }).children) : "";
}

/** The strip at the top of a screen: what it is, its state, what to do with it. */
export function Header({
  kind,
  title,
  name,
  state,
  children,
}: {
  kind: ReactNode;
  title: ReactNode;
  /** What the browser's tab is called where the title is no text. */
  name?: string;
  state?: ReactNode;
  children?: ReactNode;
}) {
  const parts = [name ?? words(title), words(kind)];
  return (
    <header className="flex min-h-[54px] shrink-0 flex-wrap items-center gap-x-6 gap-y-1 border-b border-line px-4 py-1">
      <PageTitle parts={parts.filter((p, i) => p !== "Bandeja" && parts.indexOf(p) === i)} />
      <div className="min-w-0">
        <div className="text-[11.5px] text-faint">{kind}</div>
        <h1 className="truncate">{title}</h1>
      </div>
      {state && <div className="min-w-0 text-[12px] text-faint">{state}</div>}
      <div className="ml-auto flex shrink-0 items-center gap-2">{children}</div>
    </header>
  );
}
