import { Link, NavLink, Outlet } from "react-router";
import { day, many } from "../ui/words";
import { useDrop, type Drop } from "./DropPage";

/** Is it right: everybody at the bench, the few in whom everything is seen, what the issues are. */
export function ProofPlace() {
  const drop = useDrop();
  const open = drop.issues.reduce((sum, f) => sum + (f.open > 0 ? 1 : 0), 0);
  const view = (to: string, label: string, end = false) => (
    <NavLink
      to={to}
      end={end}
      className={({ isActive }) =>
        `-mb-px border-b-2 px-0.5 pt-1 pb-1 text-[12.5px] ${isActive ? "border-primary font-semibold text-primary" : "border-transparent text-faint hover:text-base-content"}`
      }
    >
      {label}
    </NavLink>
  );
  return (
    <>
      <div className="flex h-8 shrink-0 items-end gap-6 border-b border-line bg-base-100 px-4">
        <nav className="flex items-end gap-6" aria-label="Proofing views">
          {view("", "All recipients", true)}
          {view("set", "Proof set")}
          {view("issues", open ? `${many(open, "kind")} of issues` : "Issues")}
        </nav>
        <span className="ml-auto pb-1 text-[12px]">
          <SignOffLine drop={drop} />
        </span>
      </div>
      <Outlet context={drop} />
    </>
  );
}

/** Whether the drop is signed off, in a line. */
export function SignOffLine({ drop }: { drop: Drop }) {
  const s = drop.signOff;
  if (s.state === "valid")
    return (
      <span className="text-success">
        Signed off by {s.by}, {day(s.at, false)}
      </span>
    );
  if (s.state === "lapsed")
    return (
      <span className="text-error">
        Sign-off by {s.by} lapsed: {s.changes[0]}
      </span>
    );
  return s.needed ? (
    <Link className="text-doubt-ink underline" to={`/drops/${drop.id}/proof/set`}>
      Needs sign-off before it can be produced
    </Link>
  ) : null;
}
