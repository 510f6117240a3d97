import { useRef } from "react";
import { tagOf } from "./client";

/**
 * The state of a record when a form over it was opened. A save says that it is based on that state: where somebody else has changed the
 * record meanwhile, the server refuses it and nothing of theirs is written over.
 */
export function useBasis(readFrom: string, savedTo = readFrom) {
  const tag = useRef<string | undefined>(tagOf(readFrom));
  return {
    headers: () => (tag.current ? { "If-Match": tag.current } : {}),
    /** After a save of one's own, the next is based on that. */
    saved: () => (tag.current = tagOf(savedTo)),
  };
}
