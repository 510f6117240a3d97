import { lengthUnit } from "./customs";
import { LengthInput } from "./LengthInput";

/** A number with its name before it and its unit behind it, kept between two bounds. Without a unit it is a length in millimeters, which is
 * shown in the organization's own. */
export function NumberField({
  label,
  value,
  low,
  high,
  unit,
  onSet,
}: {
  label: string;
  value: number;
  low: number;
  high: number;
  unit?: string;
  onSet: (value: number) => void;
}) {
  return (
    <label className="flex items-center justify-between gap-2">
      {label}
      <span className="flex items-center gap-1">
        {unit === undefined ? (
          <LengthInput label={label} value={value} low={low} high={high} onSet={onSet} />
        ) : (
          <input
            type="number"
            className="input input-sm w-20"
            aria-label={label}
            value={value}
            min={low}
            max={high}
            step={0.5}
            onChange={(e) => e.target.value !== "" && onSet(Math.max(low, Math.min(high, Number(e.target.value))))}
          />
        )}{" "}
        {unit ?? lengthUnit()}
      </span>
    </label>
  );
}
