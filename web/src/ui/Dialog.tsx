import { useLayoutEffect, useRef, useState, type ReactNode } from "react";

/** A question or a small form above the screen. Escape and a click beside it close it. */
export function Dialog({ title, children, onClose, wide }: { title: string; children: ReactNode; onClose: () => void; wide?: boolean }) {
  const ref = useRef<HTMLDialogElement>(null);
  const [opened, setOpened] = useState(false);
  // What is in it comes once it is open: nothing can have the focus in a dialog that is not.
  useLayoutEffect(() => {
    const dialog = ref.current;
    if (dialog && !dialog.open) dialog.showModal();
    setOpened(true);
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
        <h2 className="mb-3">{title}</h2>
        {opened && children}
      </div>
    </dialog>
  );
}
