import { useRef, useState } from "react";

/** What was done to a document, step by step, to be undone and done again. Typing in one place in one go is one step. */
export function useSteps<D>(document: D, write: (document: D) => void) {
  const [past, setPast] = useState<D[]>([]);
  const [future, setFuture] = useState<D[]>([]);
  const [epoch, setEpoch] = useState(0);
  const typing = useRef<{ id: string; at: number } | null>(null);
  return {
    /** Changes with every step back or forward: what holds a text of its own begins anew. */
    epoch,
    canUndo: past.length > 0,
    canRedo: future.length > 0,
    set: (next: D, typedIn?: string) => {
      const now = performance.now();
      const goesOn = typedIn !== undefined && typing.current?.id === typedIn && now - typing.current.at < 2000;
      typing.current = typedIn === undefined ? null : { id: typedIn, at: now };
      if (!goesOn) setPast((p) => [...p.slice(-99), document]);
      setFuture([]);
      write(next);
    },
    undo: () => {
      const before = past.at(-1);
      if (before === undefined) return;
      setPast(past.slice(0, -1));
      setFuture([document, ...future]);
      write(before);
      setEpoch((n) => n + 1);
    },
    redo: () => {
      const next = future[0];
      if (next === undefined) return;
      setFuture(future.slice(1));
      setPast([...past, document]);
      write(next);
      setEpoch((n) => n + 1);
    },
  };
}
