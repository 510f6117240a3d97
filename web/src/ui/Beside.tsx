import { PanelRight } from "lucide-react";
import { useEffect, useState, useSyncExternalStore, type ReactNode } from "react";

/** Whether the window is as wide as asked, also as it changes. */
export function useWide(pixels: number) {
  const query = `(min-width: ${pixels}px)`;
  return useSyncExternalStore(
    (changed) => {
      const media = window.matchMedia(query);
      media.addEventListener("change", changed);
      return () => media.removeEventListener("change", changed);
    },
    () => window.matchMedia(query).matches,
  );
}

interface Props {
  /** What the pane is called, for readers of the screen and on its tab. */
  label: string;
  className: string;
  children: ReactNode;
  /** On which side of the main part it stands. */
  side?: "left" | "right";
  /** From which width of the window, in pixels, it stands beside the main part; in narrower windows it is a drawer. */
  from?: number;
  /** True where somebody was led to the pane: the drawer is open at first. */
  open?: boolean;
  /** Opens the drawer whenever it changes, for a key that leads into the pane. */
  opens?: number;
  testId?: string;
}

/** A pane beside the main part of a page; in a narrow window a drawer that a tab at the edge opens and Escape closes. */
export function Beside({ label, className, children, side = "right", from = 1100, open: atFirst = false, opens = 0, testId }: Props) {
  const wide = useWide(from);
  const [open, setOpen] = useState(atFirst);
  const [asked, setAsked] = useState(opens);
  if (asked !== opens) {
    setAsked(opens);
    setOpen(true);
  }
  useEffect(() => {
    if (wide) setOpen(false);
  }, [wide]);
  const pane = (
    <aside className={className} aria-label={label} data-testid={testId}>
      {children}
    </aside>
  );
  if (wide) return pane;
  return (
    <div
      className={`relative flex w-8 shrink-0 bg-base-200 ${side === "right" ? "border-l" : "border-r"} border-line`}
      onKeyDown={(e) => {
        if (e.key !== "Escape" || !open) return;
        e.stopPropagation();
        setOpen(false);
      }}
    >
      <button
        className="flex w-full cursor-pointer flex-col items-center gap-2 py-3 text-[12px] font-semibold hover:bg-base-300"
        aria-expanded={open}
        title={open ? `Hide: ${label} (Esc)` : `Show: ${label}`}
        onClick={() => setOpen((o) => !o)}
      >
        <PanelRight size={15} className={side === "left" ? "rotate-180" : ""} />
        <span className="[writing-mode:vertical-rl]">{label}</span>
      </button>
      <div
        className={`absolute inset-y-0 z-30 bg-base-100 shadow-xl ${side === "right" ? "right-full" : "left-full"} ${open ? "flex" : "hidden"}`}
        style={{ maxWidth: "calc(100vw - 110px)" }}
      >
        {pane}
      </div>
    </div>
  );
}
