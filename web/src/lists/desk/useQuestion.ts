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
  const doubt = params.get("doubt") as Schema["CheckKind"] | null;
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
        doubt: doubt ?? undefined,
        sorts: sortText(sorts),
      }),
      [search, question, doubt, sorts],
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
    doubt,
    setPart,
    query,
    filtered: Boolean(query.search ?? query.where ?? query.segment ?? query.doubt),
    /** The whole list, in its own order. */
    clear: () => {
      setSearch("");
      setQuestion({ where: "", segment: null });
      setSorts([]);
      setPart({ doubt: null });
    },
  };
}

export type Asked = ReturnType<typeof useQuestion>;
