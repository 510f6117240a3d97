import type { ReactNode } from "react";

/** What stands where there is nothing yet: the one next thing to do. */
export function Empty({ title, children, actions }: { title: string; children: ReactNode; actions?: ReactNode }) {
  return (
    <div className="flex max-w-lg flex-col items-start gap-3 p-8">
      <h2>{title}</h2>
      <div className="text-faint">{children}</div>
      <div className="flex flex-wrap gap-2">{actions}</div>
    </div>
  );
}
