import { today, writtenDay } from "../ui/customs";
import { day } from "../ui/words";
import { monthsOf, placeOf, stretchOf } from "./line";

export interface Mark {
  id: number;
  name: string;
  on: string;
  mailed: boolean;
  number: number;
}

/** A campaign along a line through time: its steps at their dates, and today. */
export function CampaignLine({ marks, label, onChoose }: { marks: Mark[]; label: string; onChoose?: (id: number) => void }) {
  const now = today();
  const stretch = stretchOf(
    marks.map((m) => m.on),
    now,
  );
  const at = (iso: string) => `${(placeOf(iso, stretch) * 100).toFixed(2)}%`;
  return (
    <div className="relative h-[62px] overflow-hidden" role="group" aria-label={label}>
      {monthsOf(stretch).map((m) => (
        <span
          key={m}
          className="absolute inset-y-0 border-l border-line pt-0.5 pl-1.5 text-[11px] whitespace-nowrap text-faint"
          style={{ left: at(m) }}
        >
          {writtenDay(m, { month: "long" })}
        </span>
      ))}
      <span className="absolute top-[40px] right-0 left-0 border-t border-base-300" aria-hidden />
      <span
        className="absolute top-4 bottom-0 w-0 border-l-2 border-accent"
        style={{ left: at(now) }}
        title={`Today, ${day(now)}`}
        aria-hidden
      />
      {marks.map((m) => (
        <button
          key={m.id}
          type="button"
          className={`absolute top-[29px] flex h-6 w-6 -translate-x-1/2 cursor-pointer items-center justify-center rounded-full text-[12px] font-bold ${
            m.mailed ? "bg-success text-success-content" : m.on < now ? "bg-accent text-accent-content" : "bg-primary text-primary-content"
          }`}
          style={{ left: at(m.on) }}
          title={`${m.name}, ${m.mailed ? "mailed" : "planned for"} ${day(m.on)}`}
          aria-label={`Step ${m.number}, ${m.name}, ${m.mailed ? "mailed" : "planned for"} ${day(m.on)}`}
          onClick={() => onChoose?.(m.id)}
        >
          {m.number}
        </button>
      ))}
    </div>
  );
}
