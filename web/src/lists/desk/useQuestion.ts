import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import type { Schema } from "../../api/client";
import { useDelayed } from "../../ui/useDelayed";
import type { Question } from "./SegmentBar";
import type { Side } from "./SidePane";
import { sortText, type Sort } from "./sorting";

/** What the table shows: whom one searches, the filter or segment, the kind of issue, the order; pane and issue stand in the address. */
export function useQuestion() {
  const [params, setParams] = useSearchParams();
  const [search, setSearch] = useState("");
  const [question, setQuestion] = useState<Question>({ where: "", segment: null });
  const [sorts, setSorts] = useState<Sort[]>([]);
  const issue = params.get("issue") as Schema["CheckKind"] | null;
  const setPart = (part: Record<string, string | null>) =>
    setParams(
      (p) => {
        for (const [key, value] of Object.entries(part))
          if (value === null) p.delete(key);
          else p.set(key, value);
        return p;
      },
      { replace: true },
    );
  const query = useDelayed(
    useMemo(
      () => ({
        search: search.trim() || undefined,
        where: question.segment === null ? question.where.trim() || undefined : undefined,
        segment: question.segment ?? undefined,
        issue: issue ?? undefined,
        sorts: sortText(sorts),
      }),
      [search, question, issue, sorts],
    ),
    180,
  );
  return {
    search,
    setSearch,
    question,
    setQuestion,
    sorts,
    setSorts,
    side: (params.get("pane") ?? "checks") as Side,
    issue,
    setPart,
    query,
    filtered: Boolean(query.search ?? query.where ?? query.segment ?? query.issue),
    /** The whole list, in its own order. */
    clear: () => {
      setSearch("");
      setQuestion({ where: "", segment: null });
      setSorts([]);
      setPart({ issue: null });
    },
  };
}

export type Asked = ReturnType<typeof useQuestion>;
