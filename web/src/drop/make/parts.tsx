import type { Schema } from "../../api/client";
import type { Drop } from "../DropPage";
import type { useOrder } from "../order";

export interface PartProps {
  drop: Drop;
  o: ReturnType<typeof useOrder>;
  plan: Schema["PlanView"] | undefined;
}

/** What a control of the form is called. */
export function Name({ of, children }: { of?: string; children: React.ReactNode }) {
  return (
    <label className="text-faint" htmlFor={of}>
      {children}
    </label>
  );
}

/** A whole number of the form, within its limits. */
export function Amount({
  id,
  wide,
  min,
  max,
  value,
  title,
  onChange,
}: {
  id: string;
  wide?: boolean;
  min: number;
  max: number;
  value: number;
  title?: string;
  onChange: (value: number) => void;
}) {
  return (
    <input
      id={id}
      type="number"
      className={`input input-sm tabular-nums ${wide ? "w-24" : "w-20"}`}
      min={min}
      max={max}
      value={value}
      title={title}
      onChange={(e) => onChange(Math.min(max, Math.max(min, Number(e.target.value) || min)))}
    />
  );
}
