/** Whether the times of day that stand with a column's dates get a column of their own. */
export function KeepTimes({
  column,
  time,
  checked,
  onChange,
}: {
  column: string;
  time: string | null | undefined;
  checked: boolean;
  onChange: (on: boolean) => void;
}) {
  return (
    <label className="mt-0.5 flex items-center gap-1 text-[12px] font-normal" title={time ? `Times of day, such as ${time}` : undefined}>
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        aria-label={`Keep the times of ${column}`}
        checked={checked}
        onChange={(e) => onChange(e.target.checked)}
      />
      Keep times
    </label>
  );
}
