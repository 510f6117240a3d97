import { CircleCheck, TriangleAlert, X } from "lucide-react";
import { useSyncExternalStore } from "react";

interface Notice {
  id: number;
  text: string;
  wrong?: boolean;
  action?: { label: string; run: () => void };
}

let notices: Notice[] = [];
let next = 1;
const listeners = new Set<() => void>();

function set(changed: Notice[]) {
  notices = changed;
  for (const listener of listeners) listener();
}

const dismiss = (id: number) => set(notices.filter((n) => n.id !== id));

/** Says something at the foot of the screen for a while; what went wrong stays until it is dismissed. */
export function say(text: string, more: Omit<Notice, "id" | "text"> = {}) {
  const id = next++;
  set([...notices.slice(-2), { id, text, ...more }]);
  if (!more.wrong) setTimeout(() => dismiss(id), more.action ? 9000 : 5000);
}

/** Says what went wrong. */
export const sayWrong = (error: unknown) => say(error instanceof Error ? error.message : String(error), { wrong: true });

export function Notices() {
  const all = useSyncExternalStore(
    (listener) => (listeners.add(listener), () => listeners.delete(listener)),
    () => notices,
  );
  return (
    <div className="fixed bottom-4 left-1/2 z-50 flex w-max max-w-[640px] -translate-x-1/2 flex-col gap-2" role="status" aria-live="polite">
      {all.map((n) => (
        <div
          key={n.id}
          className={`flex items-center gap-3 rounded-box px-3 py-2 shadow-lg ${n.wrong ? "bg-error text-error-content" : "bg-neutral text-neutral-content"}`}
        >
          {n.wrong ? <TriangleAlert size={16} className="shrink-0" /> : <CircleCheck size={16} className="shrink-0" />}
          <span>{n.text}</span>
          {n.action && (
            <button
              className="cursor-pointer font-semibold underline"
              onClick={() => {
                n.action?.run();
                dismiss(n.id);
              }}
            >
              {n.action.label}
            </button>
          )}
          <button className="cursor-pointer" aria-label="Dismiss" onClick={() => dismiss(n.id)}>
            <X size={14} />
          </button>
        </div>
      ))}
    </div>
  );
}
