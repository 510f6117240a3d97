import { useState } from "react";

/** A value being corrected: Enter saves, Escape leaves it as it was. */
export function ValueField({
  label,
  value,
  onSave,
  onCancel,
}: {
  label: string;
  value: string;
  onSave: (value: string) => void;
  onCancel: () => void;
}) {
  const [text, setText] = useState(value);
  const long = value.includes("\n") || value.length > 80;
  const keys = (e: React.KeyboardEvent) => {
    if (e.key === "Escape") {
      e.preventDefault();
      e.stopPropagation();
      onCancel();
    }
    if (e.key === "Enter" && !(long && e.shiftKey)) {
      e.preventDefault();
      onSave(text);
    }
  };
  return (
    <span className="flex items-start gap-1">
      {long ? (
        <textarea
          aria-label={label}
          className="textarea textarea-sm w-full"
          rows={3}
          autoFocus
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={keys}
        />
      ) : (
        <input
          aria-label={label}
          className="input input-sm w-full"
          autoFocus
          value={text}
          onFocus={(e) => e.target.select()}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={keys}
        />
      )}
      <button className="btn btn-primary btn-sm" onMouseDown={(e) => e.preventDefault()} onClick={() => onSave(text)}>
        Save
      </button>
    </span>
  );
}
