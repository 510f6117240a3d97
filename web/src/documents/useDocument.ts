import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { api, ask, type Schema } from "../api/client";
import { keys } from "../api/keys";

export type Answer = Schema["PlaceholderAnswer"];
export type Placeholder = Schema["Placeholder"];

/** A document that was brought in, as it would be a letter with what was chosen so far. */
export function useDocument() {
  const upload = useParams().upload ?? "";
  const [params, setParams] = useSearchParams();
  const designId = params.get("design") ? Number(params.get("design")) : null;
  const listId = params.get("list") ? Number(params.get("list")) : null;
  const [marks, setMarks] = useState<string[] | null>(null);
  const [answers, setAnswers] = useState<Record<string, Answer>>({});
  const look = useQuery({
    queryKey: keys.documents(upload, listId, designId, marks, answers),
    queryFn: ({ signal }) =>
      ask(
        api.POST("/api/documents/{id}/look", {
          params: { path: { id: upload } },
          body: { listId, designId, marks, answers },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: Infinity,
    gcTime: 60_000,
  });
  return {
    upload,
    designId,
    listId,
    setList: (id: string) =>
      setParams((p) => {
        if (id) p.set("list", id);
        else p.delete("list");
        return p;
      }),
    look,
    answer: (key: string, answer: Answer) => setAnswers((a) => ({ ...a, [key]: answer })),
    answers,
    /** Takes what stands between marks for placeholders, or for text. */
    toggleMarks: (sample: string) => {
      const used = (look.data?.marks ?? []).filter((m) => m.used).map((m) => m.sample);
      setMarks(used.includes(sample) ? used.filter((s) => s !== sample) : [...used, sample]);
    },
    marks: marks ?? look.data?.marks.filter((m) => m.used).map((m) => m.sample) ?? null,
  };
}

/** Those of which nobody knows yet what they become. */
export const openOnes = (placeholders: Placeholder[]) => placeholders.filter((p) => p.answer === null);
