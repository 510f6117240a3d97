import { ArrowUpDown, Columns3, Replace, Search, UserRoundPlus } from "lucide-react";
import type { RefObject } from "react";
import type { Schema } from "../../api/client";
import { count } from "../../ui/words";
import { SegmentBar } from "./SegmentBar";
import type { Asked } from "./useQuestion";

interface Props {
  list: Schema["ListView"];
  asked: Asked;
  searchBox: RefObject<HTMLInputElement | null>;
  total: number;
  loading: boolean;
  wrongFilter: string | null;
  add: () => void;
  open: (what: "find" | "columns") => void;
}

/** Search, segment, order, and the tools of the table. */
export function DeskBar({ list, asked, searchBox, total, loading, wrongFilter, add, open }: Props) {
  const { search, setSearch, question, setQuestion, sorts, setSorts, query, filtered } = asked;
  return (
    <div className="flex h-11 shrink-0 items-center gap-2 border-b border-line px-3">
      <label className="input input-sm w-44">
        <Search size={14} className="text-faint" />
        <input
          ref={searchBox}
          aria-label="Search"
          placeholder="Search"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
          onKeyDown={(e) => e.key === "Escape" && (setSearch(""), e.currentTarget.blur())}
        />
        <kbd className="kbd">/</kbd>
      </label>
      <SegmentBar list={list} question={question} sorts={query.sorts ?? ""} wrong={wrongFilter !== null} onAsk={setQuestion} />
      <span
        className={`min-w-0 flex-1 truncate ${wrongFilter ? "text-error" : "text-faint"}`}
        role="status"
        title={wrongFilter ?? undefined}
      >
        {wrongFilter ?? (loading ? "…" : filtered ? `${count(total)} of ${count(list.recipients)}` : "")}
      </span>
      {sorts.length > 0 && (
        <button className="btn btn-quiet btn-sm" title="Clear sort" onClick={() => setSorts([])}>
          <ArrowUpDown size={13} /> {sorts.map((s) => list.columns.find((c) => c.id === s.column)?.name).join(", ")} ×
        </button>
      )}
      <button className="btn btn-quiet btn-sm btn-square" aria-label="Add recipient" title="Add recipient" onClick={add}>
        <UserRoundPlus size={15} />
      </button>
      <button
        className="btn btn-quiet btn-sm btn-square"
        aria-label="Find and replace"
        title="Find and replace (Ctrl H)"
        onClick={() => open("find")}
      >
        <Replace size={15} />
      </button>
      <button className="btn btn-quiet btn-sm btn-square" aria-label="Columns" title="Show or hide columns" onClick={() => open("columns")}>
        <Columns3 size={15} />
      </button>
    </div>
  );
}
