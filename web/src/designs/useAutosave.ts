import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask, personHeader, queryClient } from "../api/client";
import { designsQuery, versionsQuery } from "../api/queries";
import type { Letter } from "./letter";

export type SaveState = "saved" | "waiting" | "saving" | { wrong: string };

/** Saves a letter a moment after the last change, one save at a time, and what is left when the page is closed. */
export function useAutosave(id: number, firstVersion: number) {
  const [state, setState] = useState<SaveState>("saved");
  const [version, setVersion] = useState(firstVersion);
  const pending = useRef<Letter | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const busy = useRef(false);
  const based = useRef(firstVersion);

  const flush = useCallback(async () => {
    clearTimeout(timer.current);
    if (busy.current || !pending.current) return;
    busy.current = true;
    while (pending.current) {
      const document = pending.current;
      pending.current = null;
      setState("saving");
      try {
        const saved = await ask(api.PUT("/api/designs/{id}/document", { params: { path: { id } }, body: { basedOn: based.current, document: document as unknown as Record<string, never> } }));
        based.current = saved.number;
        setVersion(saved.number);
        setState("saved");
        queryClient.setQueryData(["designs", id], (old: object | undefined) => old && { ...old, document, version: saved.number, updatedAt: saved.updatedAt, by: saved.by });
        void queryClient.invalidateQueries({ queryKey: designsQuery().queryKey, exact: true });
        void queryClient.invalidateQueries({ queryKey: versionsQuery(id).queryKey });
      } catch (e) {
        pending.current ??= document;
        setState({ wrong: e instanceof Error ? e.message : String(e) });
        break;
      }
    }
    busy.current = false;
  }, [id]);

  const change = useCallback(
    (letter: Letter) => {
      pending.current = letter;
      setState("waiting");
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void flush(), 500);
    },
    [flush],
  );

  useEffect(() => {
    const leave = () => {
      if (!pending.current) return;
      void fetch(`/api/designs/${id}/document`, {
        method: "PUT",
        keepalive: true,
        headers: { "Content-Type": "application/json", ...personHeader() },
        body: JSON.stringify({ basedOn: based.current, document: pending.current }),
      });
      pending.current = null;
    };
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      void flush();
    };
  }, [id, flush]);

  return { state, version, change, flush, rebase: (n: number) => ((based.current = n), setVersion(n)) };
}
