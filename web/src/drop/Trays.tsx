import type { Tray } from "../api/client";
import { Stack } from "../ui/Stack";
import { count, trayNames } from "../ui/words";
import type { Drop } from "./DropPage";

const trays: { tray: Tray; key: keyof Drop["trays"]; color: string }[] = [
  { tray: "NeedsReview", key: "needsReview", color: "text-warning" },
  { tray: "Ready", key: "ready", color: "text-success" },
  { tray: "Held", key: "held", color: "text-info" },
  { tray: "Produced", key: "produced", color: "text-secondary" },
  { tray: "Mailed", key: "mailed", color: "text-primary" },
  { tray: "Returned", key: "returned", color: "text-error" },
];

export const trayOrder = trays.map((t) => t.tray);

/** The six trays and what they add up to. */
export function Trays({ counts, chosen, onChoose }: { counts: Drop["trays"]; chosen: Tray | null; onChoose: (tray: Tray | null) => void }) {
  return (
    <div
      className="on-sand flex h-[66px] shrink-0 items-start gap-[17px] border-b border-line bg-base-200 px-4 pt-2"
      role="group"
      aria-label="Trays"
    >
      {trays.map(({ tray, key, color }, i) => (
        <button
          key={tray}
          className="tray h-[47px] min-w-0 flex-1"
          aria-pressed={chosen === tray}
          onClick={() => onChoose(chosen === tray ? null : tray)}
          title={`Show only ${trayNames[tray]} (${i + 1})`}
        >
          <span className="block truncate text-[12px] leading-4 text-faint max-[800px]:text-[11px] max-[800px]:tracking-tight">
            {trayNames[tray]}
          </span>
          <span
            className={`block text-[18px] leading-[22px] font-bold ${counts[key] === 0 ? "text-faint" : ""}`}
            data-testid={`tray-${tray}`}
          >
            {count(counts[key])}
          </span>
          {/* In a narrow tray it would lie over the number. */}
          <span className="absolute right-2 bottom-[6px] max-[1000px]:hidden">
            <Stack count={counts[key]} of={counts.onTheList} className={color} />
          </span>
        </button>
      ))}
      <button
        className="w-[84px] shrink-0 cursor-pointer pt-1 text-left max-[800px]:w-[64px]"
        aria-pressed={chosen === null}
        onClick={() => onChoose(null)}
        title="Show all recipients (0)"
      >
        <span className="block text-[12px] leading-4 text-faint">on the list</span>
        <span className={`block text-[17px] leading-[22px] ${chosen === null ? "font-bold" : ""}`} data-testid="tray-sum">
          = {count(counts.onTheList)}
        </span>
      </button>
    </div>
  );
}
