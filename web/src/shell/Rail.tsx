import { CalendarCheck, FolderOpen, PencilLine, Printer, SlidersHorizontal, UsersRound } from "lucide-react";
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
          <path d="M1 2h4l2 16h14l2-16h4" />
          <path d="M9 5h10M9 9h10M10 13h8" />
        </svg>
      </div>
      {places.map((p) => (
        <Place key={p.to} {...p} />
      ))}
      <div className="mt-auto">
        <Place to="/settings" label="Settings" icon={SlidersHorizontal} />
      </div>
    </nav>
  );
}
