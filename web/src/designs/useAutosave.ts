import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask, personHeader, queryClient, ServerError } from "../api/client";
import { designsQuery, versionsQuery } from "../api/queries";
import { keys } from "../api/keys";

export type SaveState = "saved" | "waiting" | "saving" | { offline: string } | { conflict: string } | { wrong: string };

interface Draft {
  basedOn: number;
  /** Which save of that version; not there in what an earlier version of this page kept. */
  revision?: number;
  at: string;
  document: object;
}

const draftKey = (id: number) => `bandeja.draft.${id}`;

/** What was written here and never reached the server: the browser was closed, or the server was away. */
export function keptDraft(id: number, version: number, stored: unknown, complete: (stored: unknown) => object): Draft | null {
  try {
    const draft = JSON.parse(localStorage.getItem(draftKey(id)) ?? "null") as Draft | null;
    if (!draft || JSON.stringify(draft.document) === JSON.stringify(complete(stored))) return null;
    return draft.basedOn <= version ? draft : null;
  } catch {
    return null;
  }
}

export const dropDraft = (id: number) => localStorage.removeItem(draftKey(id));

/**
 * Saves a design a moment after the last change, one save at a time, and what is left when the page is closed. Until the server has
 * it, it is kept in the browser too; where the server is away it is tried again, where somebody else saved meanwhile one chooses.
 */
export function useAutosave(id: number, firstVersion: number, firstRevision: number, stored: object) {
  const [state, setState] = useState<SaveState>("saved");
  const [version, setVersion] = useState(firstVersion);
  const pending = useRef<object | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const busy = useRef(false);
  const based = useRef({ version: firstVersion, revision: firstRevision });
  // What the server had when this was opened or saved last: what a merge starts from.
  const common = useRef(stored);
  const saved = useCallback(
    (document: object, v: { number: number; revision: number; updatedAt: string; by: string }) => {
      based.current = { version: v.number, revision: v.revision };
      common.current = document;
      setVersion(v.number);
      setState("saved");
      if (!pending.current) dropDraft(id);
      queryClient.setQueryData(
        keys.designs(id),
        (old: object | undefined) => old && { ...old, document, version: v.number, revision: v.revision, updatedAt: v.updatedAt, by: v.by },
      );
      void queryClient.invalidateQueries({ queryKey: designsQuery().queryKey, exact: true });
      void queryClient.invalidateQueries({ queryKey: versionsQuery(id).queryKey });
    },
    [id],
  );

  const flush = useCallback(async () => {
    clearTimeout(timer.current);
    if (busy.current || !pending.current) return;
    busy.current = true;
    while (pending.current) {
      const document = pending.current;
      pending.current = null;
      setState("saving");
      try {
        saved(
          document,
          await ask(
            api.PUT("/api/designs/{id}/document", {
              params: { path: { id } },
              body: {
                basedOn: based.current.version,
                revision: based.current.revision,
                document: document as Record<string, never>,
                beside: false,
              },
            }),
          ),
        );
      } catch (e) {
        pending.current ??= document;
        const message = e instanceof Error ? e.message : String(e);
        if (e instanceof ServerError && e.status === 412) setState({ conflict: message });
        else if (e instanceof ServerError && e.status > 0 && e.status < 500) setState({ wrong: message });
        else {
          setState({ offline: message });
          timer.current = setTimeout(() => void flush(), 4000);
        }
        break;
      }
    }
    busy.current = false;
  }, [id, saved]);

  /** Saves a text on what the server has now, after both texts were looked at. */
  const put = useCallback(
    async (document: object, number: number, revision: number, beside = false) => {
      const answer = await ask(
        api.PUT("/api/designs/{id}/document", {
          params: { path: { id } },
          body: {
            basedOn: beside ? based.current.version : number,
            revision: beside ? based.current.revision : revision,
            document: document as Record<string, never>,
            beside,
          },
        }),
      );
      pending.current = null;
      saved(document, answer);
    },
    [id, saved],
  );

  const change = useCallback(
    (document: object) => {
      pending.current = document;
      try {
        localStorage.setItem(
          draftKey(id),
          JSON.stringify({
            basedOn: based.current.version,
            revision: based.current.revision,
            at: new Date().toISOString(),
            document,
          } satisfies Draft),
        );
      } catch {
        // A browser that keeps nothing still saves to the server.
      }
      setState((s) => (typeof s === "object" && "conflict" in s ? s : "waiting"));
      clearTimeout(timer.current);
      // What is refused because somebody else saved waits until both texts were looked at.
      timer.current = setTimeout(() => void flush(), 500);
    },
    [flush, id],
  );

  useEffect(() => {
    const leave = () => {
      if (!pending.current) return;
      void fetch(`/api/designs/${id}/document`, {
        method: "PUT",
        keepalive: true,
        headers: { "Content-Type": "application/json", ...personHeader() },
        body: JSON.stringify({ basedOn: based.current.version, revision: based.current.revision, document: pending.current }),
      });
      // It stays kept in the browser: whether this last save arrived is seen when the letter is opened again.
    };
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      void flush();
    };
  }, [id, flush]);

  return { state, version, change, flush, put, base: () => common.current, mine: () => pending.current ?? common.current };
}

/** True while another tab of this browser has the same letter open; the one that was first goes on writing. */
export function useOtherTab(id: number) {
  const [other, setOther] = useState(false);
  const [taken, setTaken] = useState(false);
  const channel = useRef<BroadcastChannel>(undefined);
  useEffect(() => {
    const c = new BroadcastChannel(`bandeja-letter-${id}`);
    channel.current = c;
    const me = crypto.randomUUID();
    let first = true;
    c.onmessage = (e: MessageEvent<{ kind: "hello" | "here" | "mine" | "bye"; from: string }>) => {
      if (e.data.from === me) return;
      if (e.data.kind === "hello" && first) c.postMessage({ kind: "here", from: me });
      if (e.data.kind === "here") {
        first = false;
        setOther(true);
      }
      if (e.data.kind === "mine") {
        first = false;
        setOther(true);
        setTaken(true);
      }
      if (e.data.kind === "bye") {
        first = true;
        setOther(false);
      }
    };
    c.postMessage({ kind: "hello", from: me });
    const bye = () => first && c.postMessage({ kind: "bye", from: me });
    window.addEventListener("pagehide", bye);
    return () => {
      window.removeEventListener("pagehide", bye);
      bye();
      c.close();
    };
  }, [id]);
  return {
    other,
    taken,
    /**
     * From now on the other tab only looks. So does this one until the design is opened anew with what the server has: what was typed
     * before that would be lost with the editor that it was typed into.
     */
    take: () => channel.current?.postMessage({ kind: "mine", from: "take" }),
  };
}
