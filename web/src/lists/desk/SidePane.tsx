import { useSearchParams } from "react-router";
import type { Schema } from "../../api/client";
import { ChecksPane } from "./ChecksPane";
import { DetailsPane } from "./DetailsPane";
import { LogPane } from "./LogPane";
import { DuplicatesPane } from "./DuplicatesPane";
import { Beside } from "../../ui/Beside";

export type Side = "checks" | "duplicates" | "rows" | "log";

const sides: [Side, string][] = [
  ["checks", "Checks"],
  ["duplicates", "Duplicates"],
  ["rows", "Detail rows"],
  ["log", "Log"],
];

interface Props {
  list: Schema["ListView"];
  side: Side;
  issue: Schema["CheckKind"] | null;
  onSide: (side: Side) => void;
  onIssue: (kind: Schema["CheckKind"] | null) => void;
  onFind: (text: string) => void;
  onWhere: (where: string) => void;
}

/** Beside the table: what is wrong, who is there twice, the rows that belong to people, and what was done. */
export function SidePane({ list, side, issue, onSide, onIssue, onFind, onWhere }: Props) {
  const [params] = useSearchParams();
  return (
    <Beside
      label="List tools"
      className="on-sand flex w-[300px] shrink-0 flex-col border-l border-line bg-base-200"
      open={params.has("pane")}
    >
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
      {side === "checks" && <ChecksPane list={list} issue={issue} onIssue={onIssue} />}
      {side === "duplicates" && <DuplicatesPane list={list} onFind={onFind} />}
      {side === "rows" && <DetailsPane list={list} onWhere={onWhere} />}
      {side === "log" && <LogPane list={list} />}
    </Beside>
  );
}
