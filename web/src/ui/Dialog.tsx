import { useEffect, useRef, type ReactNode } from "react";

/** A question or a small form above the screen. Escape and a click beside it close it. */
export function Dialog({ title, children, onClose, wide }: { title: string; children: ReactNode; onClose: () => void; wide?: boolean }) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const dialog = ref.current;
    if (dialog && !dialog.open) dialog.showModal();
  }, []);
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
        {children}
      </div>
    </dialog>
  );
}
