/** A stack of paper whose height tells how full a tray is. */
export function Stack({ count, of, className }: { count: number; of: number; className: string }) {
  if (count === 0) return null;
  const sheets = Math.max(1, Math.round(Math.sqrt(count / Math.max(1, of)) * 8));
  return (
    <span className={`stack ${className}`} aria-hidden>
      {Array.from({ length: sheets }, (_, i) => (
        <i key={i} />
      ))}
    </span>
  );
}
