import { X } from "lucide-react";
import { useLayoutEffect, useRef, useState, type ReactNode } from "react";

/** A question or a small form above the screen. Escape, the cross, and a click beside it close it; the focus goes back to where it was. */
export function Dialog({ title, children, onClose, wide }: { title: string; children: ReactNode; onClose: () => void; wide?: boolean }) {
  const ref = useRef<HTMLDialogElement>(null);
  const [opened, setOpened] = useState(false);
  // What is in it comes once it is open: nothing can have the focus in a dialog that is not.
  useLayoutEffect(() => {
    const dialog = ref.current;
    const before = document.activeElement;
    if (dialog && !dialog.open) dialog.showModal();
    setOpened(true);
    return () => {
      // The part that opened it may take it away without closing it. What has got the focus meanwhile keeps it.
      const free = document.activeElement === null || document.activeElement === document.body || dialog?.contains(document.activeElement);
      if (free && before instanceof HTMLElement && before.isConnected) before.focus();
    };
  }, []);
  useLayoutEffect(() => {
    const dialog = ref.current;
    if (!opened || !dialog || (document.activeElement !== dialog && dialog.contains(document.activeElement))) return;
    dialog.querySelector<HTMLElement>("input:enabled, select:enabled, textarea:enabled, button:enabled, a[href]")?.focus();
  }, [opened]);
  return (
    <dialog
      ref={ref}
      className="modal"
      aria-label={title}
      onClose={onClose}
      onMouseDown={(e) => e.target === ref.current && ref.current.close()}
      onKeyDown={(e) => e.stopPropagation()}
    >
      <div className={`modal-box p-4 ${wide ? "max-w-2xl" : "max-w-md"}`}>
        <h2 className="mb-3 pr-8">{title}</h2>
        {opened && children}
        <button
          type="button"
          className="btn btn-ghost btn-sm btn-square absolute top-2.5 right-2.5"
          aria-label="Close (Esc)"
          title="Close (Esc)"
          onClick={() => ref.current?.close()}
        >
          <X size={16} />
        </button>
      </div>
    </dialog>
  );
}
