import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { api, ask } from "../api/client";
import { previewQuery } from "../api/queries";
import { say, sayWrong } from "../ui/notices";
import { useDelayed } from "../ui/useDelayed";

interface Of {
  designId: number;
  listId: number | null;
  document: object;
  /** How long, in milliseconds, the typing rests before the preview follows it. */
  rest: number;
  /** The recipient that is shown first. */
  recipientId?: number;
}

/** What a recipient gets of a design while it is written, and the way from one recipient to another. */
export function usePreview({ designId, listId, document, rest, recipientId }: Of) {
  // With another list, its first recipient is shown.
  const [who, setWho] = useState({ listId, offset: 0, id: recipientId ?? null });
  const at = who.listId === listId ? who : { listId, offset: 0, id: null };
  const delayed = useDelayed(document, rest);
  const query = useQuery({
    ...previewQuery(designId, listId, at.offset, at.id, delayed),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  });
  const shown = query.data;
  const offset = shown && at.id !== null ? shown.offset : at.offset;
  const go = useCallback((n: number) => setWho({ listId, offset: n, id: null }), [listId]);
  /** Shows a recipient by their number in the list's table. */
  const show = useCallback((id: number) => setWho({ listId, offset: 0, id }), [listId]);
  return {
    shown,
    error: query.error,
    offset,
    /** True once what is shown is of the document as it is now. */
    isNow: !query.isPlaceholderData && delayed === document,
    isFirst: offset === 0,
    isLast: !shown || offset >= shown.recipients - 1,
    go,
    show,
    walk: (by: number) => go(Math.max(0, Math.min((shown?.recipients ?? 1) - 1, offset + by))),
    /** Shows the recipient with the longest piece, or the one with the most blanks. */
    look: async (which: "longest" | "blanks") => {
      if (listId === null) return;
      try {
        const { recipientId } = await ask(
          api.POST("/api/designs/find", { body: { document: document as Record<string, never>, listId, designId, which } }),
        );
        if (recipientId !== null) show(recipientId);
        else say(which === "blanks" ? "No recipient has a blank in a field of this design." : "The list has no recipients.");
      } catch (e) {
        sayWrong(e);
      }
    },
  };
}
