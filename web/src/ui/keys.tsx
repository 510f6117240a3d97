import { createContext, lazy, Suspense, useContext, useEffect, useLayoutEffect, useMemo, useRef, useState, type ReactNode } from "react";

const HelpPanel = lazy(async () => ({ default: (await import("../help/HelpPanel")).HelpPanel }));

/** Something that can be done on the screen, by key and from the command palette. */
export interface Action {
  /** For instance "h", "Shift+A", "Ctrl+Z", "ArrowDown"; several divided by spaces. */
  keys?: string;
  label: string;
  run: () => void;
  /** Not shown in the palette: walking and the like. */
  quiet?: boolean;
  /** Shows the parts of the page one after another; the help offers it. */
  isTour?: boolean;
}

interface Registry {
  add: (id: symbol, actions: () => Action[]) => void;
  remove: (id: symbol) => void;
  all: () => Action[];
}

const Actions = createContext<Registry | null>(null);

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

function pressed(e: KeyboardEvent) {
  const key = e.key.length === 1 ? e.key.toLowerCase() : e.key;
  const shift = e.shiftKey && (e.key.length > 1 || /[a-z]/i.test(e.key));
  return `${e.ctrlKey || e.metaKey ? "Ctrl+" : ""}${shift ? "Shift+" : ""}${key === " " ? "Space" : key}`;
}

export function Keys({ children }: { children: ReactNode }) {
  const sets = useRef(new Map<symbol, () => Action[]>());
  const [help, setHelp] = useState(false);
  useEffect(() => {
    const open = () => setHelp(true);
    window.addEventListener("bandeja-help", open);
    return () => window.removeEventListener("bandeja-help", open);
  }, []);
  const registry = useMemo<Registry>(
    () => ({
      add: (id, actions) => void sets.current.set(id, actions),
      remove: (id) => void sets.current.delete(id),
      all: () => [...sets.current.values()].flatMap((actions) => actions()),
    }),
    [],
  );
  // Before the screen is painted, here and where actions are offered: a key pressed at what is just seen is not lost.
  useLayoutEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.defaultPrevented || document.querySelector("dialog[open]")) return;
      const key = pressed(e);
      if (typing(e.target) && !key.startsWith("Ctrl+K") && key !== "Ctrl+k") return;
      if (key === "?") {
        e.preventDefault();
        setHelp((on) => !on);
        return;
      }
      const action = registry.all().find((a) => a.keys?.split(" ").some((k) => k.toLowerCase() === key.toLowerCase()));
      if (!action) return;
      e.preventDefault();
      action.run();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [registry]);
  return (
    <Actions.Provider value={registry}>
      {children}
      {help && (
        <Suspense fallback={null}>
          <HelpPanel onClose={() => setHelp(false)} />
        </Suspense>
      )}
    </Actions.Provider>
  );
}

/** A key as it is written on the keyboard. */
export const keyName = (key: string) =>
  key
    .split("+")
    .map(
      (part) =>
        ({ ArrowUp: "↑", ArrowDown: "↓", Escape: "Esc", PageUp: "Page ↑", PageDown: "Page ↓" })[part] ??
        (part.length === 1 ? part.toUpperCase() : part),
    )
    .join(" ");

/** Offers actions while the calling part is on the screen. */
export function useActions(actions: Action[]) {
  const registry = useContext(Actions);
  const latest = useRef(actions);
  useLayoutEffect(() => {
    latest.current = actions;
  });
  useLayoutEffect(() => {
    const id = Symbol("actions");
    registry?.add(id, () => latest.current);
    return () => registry?.remove(id);
  }, [registry]);
}

/** What can be done on the screen now, for the palette. */
export const useRegistry = () => useContext(Actions);
