import { CalendarCheck, CircleHelp, FolderOpen, PencilLine, Printer, SlidersHorizontal, UsersRound } from "lucide-react";
import { NavLink } from "react-router";

const places = [
  { to: "/", label: "Today", icon: CalendarCheck },
  { to: "/campaigns", label: "Campaigns", icon: FolderOpen },
  { to: "/lists", label: "Lists", icon: UsersRound },
  { to: "/designs", label: "Designs", icon: PencilLine },
  { to: "/devices", label: "Devices", icon: Printer },
];

function Place({ to, label, icon: Icon }: (typeof places)[number]) {
  return (
    <NavLink
      to={to}
      end={to === "/"}
      className={({ isActive }) =>
        `flex h-[52px] flex-col items-center justify-center gap-1 text-[11px] ${isActive ? "bg-base-100 font-semibold text-primary" : "text-neutral-content/85 hover:bg-white/10"}`
      }
    >
      <Icon size={19} strokeWidth={1.6} />
      {label}
    </NavLink>
  );
}

export function Rail() {
  return (
    <nav className="flex w-[68px] shrink-0 flex-col bg-neutral" aria-label="Main navigation">
      <div className="flex h-[46px] items-center justify-center text-neutral-content">
        <svg
          width="28"
          height="20"
          viewBox="0 0 28 20"
          fill="none"
          stroke="currentColor"
          strokeWidth="1.8"
          strokeLinecap="round"
          strokeLinejoin="round"
          role="img"
          aria-label="Bandeja"
        >
          <path d="M2 11v7h24v-7" />
          <path d="M2 11h7l2 3h6l2-3h7" />
          <path d="M6 8V2h16v6M10 5.5h8" />
        </svg>
      </div>
      {places.map((p) => (
        <Place key={p.to} {...p} />
      ))}
      <div className="mt-auto">
        <button
          className="flex h-[52px] w-full cursor-pointer flex-col items-center justify-center gap-1 text-[11px] text-neutral-content/85 hover:bg-white/10"
          title="Help for this page (?)"
          onClick={() => window.dispatchEvent(new Event("bandeja-help"))}
        >
          <CircleHelp size={19} strokeWidth={1.6} />
          Help
        </button>
        <Place to="/settings" label="Settings" icon={SlidersHorizontal} />
      </div>
    </nav>
  );
}
