import { useState } from "react";
import { fromLength, lengthNumber, lengthStep } from "./customs";

/** A length in the organization's unit; what it holds and tells is millimeters, kept between two bounds. */
export function LengthInput({
  label,
  value,
  low,
  high,
  onSet,
  className = "input input-sm w-20",
  title,
}: {
  label: string;
  value: number;
  low: number;
  high: number;
  onSet: (value: number) => void;
  className?: string;
  title?: string;
}) {
  // What is typed stays as it is until the field is left: halfway to 0.75 stands 0.7.
  const [draft, setDraft] = useState<string | null>(null);
  const set = (mm: number) => onSet(Math.max(low, Math.min(high, mm)));
  return (
    <input
      // Whole steps would refuse an inch in millimeters.
      type="number"
      step="any"
      className={`${className} tabular-nums`}
      aria-label={label}
      title={title}
      value={draft ?? lengthNumber(value)}
      onChange={(e) => {
        setDraft(e.target.value);
        if (e.target.value !== "" && Number.isFinite(Number(e.target.value))) set(fromLength(Number(e.target.value)));
      }}
      onBlur={() => setDraft(null)}
      onKeyDown={(e) => {
        if (e.key !== "ArrowUp" && e.key !== "ArrowDown") return;
        e.preventDefault();
        setDraft(null);
        const now = lengthNumber(value) + (e.key === "ArrowUp" ? 1 : -1) * lengthStep();
        set(fromLength(Number(now.toFixed(4))));
      }}
    />
  );
}
