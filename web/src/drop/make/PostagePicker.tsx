import type { Schema } from "../../api/client";

/** A class of postage. */
export function PostagePicker({
  id,
  name,
  classes,
  value,
  none,
  onChange,
}: {
  id?: string;
  name: string;
  classes: Schema["PostageClass"][];
  value: string;
  none: string;
  onChange: (value: string) => void;
}) {
  return (
    <select
      id={id}
      aria-label={id ? undefined : name}
      className="select select-sm min-w-0 flex-1"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      <option value="">{none}</option>
      {classes.map((c) => (
        <option key={c.name}>{c.name}</option>
      ))}
    </select>
  );
}
