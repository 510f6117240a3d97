import type { Schema } from "../../api/client";
import { ChecksPane } from "./ChecksPane";
import { DetailsPane } from "./DetailsPane";
import { LogPane } from "./LogPane";
import { TwinsPane } from "./TwinsPane";

export type Side = "checks" | "twins" | "rows" | "log";

const sides: [Side, string][] = [
  ["checks", "Checks"],
  ["twins", "Same person"],
  ["rows", "Detail rows"],
  ["log", "Log"],
];

interface Props {
  list: Schema["ListView"];
  side: Side;
  doubt: Schema["CheckKind"] | null;
  onSide: (side: Side) => void;
  onDoubt: (kind: Schema["CheckKind"] | null) => void;
  onFind: (text: string) => void;
  onWhere: (where: string) => void;
}

/** Beside the table: what is doubtful, who is there twice, the rows that belong to people, and what was done. */
export function SidePane({ list, side, doubt, onSide, onDoubt, onFind, onWhere }: Props) {
  return (
    <aside className="on-sand flex w-[300px] shrink-0 flex-col border-l border-line bg-base-200" aria-label="Beside the table">
      <div className="flex h-9 shrink-0 items-stretch border-b border-line px-1" role="tablist">
        {sides.map(([id, label]) => (
          <button
            key={id}
            role="tab"
            aria-selected={side === id}
            className={`cursor-pointer px-2 text-[12.5px] ${side === id ? "border-b-2 border-primary font-semibold" : "text-faint hover:text-base-content"}`}
            onClick={() => onSide(id)}
          >
            {label}
          </button>
        ))}
      </div>
      {side === "checks" && <ChecksPane list={list} doubt={doubt} onDoubt={onDoubt} />}
      {side === "twins" && <TwinsPane list={list} onFind={onFind} />}
      {side === "rows" && <DetailsPane list={list} onWhere={onWhere} />}
      {side === "log" && <LogPane list={list} />}
    </aside>
  );
}
