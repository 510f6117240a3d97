import type { Drop } from "./DropPage";
import { count } from "../ui/words";

type State = Pick<Drop, "trays" | "checking">;

export interface Step {
  /** A place of the drop, or a page of its own where it begins with /. */
  to: string;
  label: string;
  /** Nothing of the drop is left to do. */
  isOver?: boolean;
}

/** The one thing that comes next in a drop, by what lies in its trays. */
export function nextStep({ trays: t, checking }: State): Step | null {
  const ready = Math.max(0, t.ready - t.inDoubt);
  if (ready > 0) return { to: "produce", label: `Produce ${count(ready)}…` };
  if (t.inDoubt > 0) return { to: "proof?inDoubt", label: `Resolve ${count(t.inDoubt)} in doubt` };
  if (t.produced > 0) return { to: "ledger", label: `Mark ${count(t.produced)} as mailed…` };
  if (checking) return null;
  if (t.needsReview > 0) return { to: "proof?tray=NeedsReview", label: `Review ${count(t.needsReview)}` };
  if (t.mailed + t.returned > 0) return { to: "ledger", label: "Open ledger", isOver: true };
  return t.held > 0 ? { to: "who", label: `See why ${count(t.held)} held` } : null;
}

/** The next step of whoever is at one of a drop's places: never the place itself. When all is mailed, what comes back is next. */
export function stepFrom(place: string, drop: State): Step | null {
  const next = nextStep(drop);
  if (next?.to !== place) return next;
  return next.isOver ? { to: "/returns", label: "Enter returns" } : null;
}
