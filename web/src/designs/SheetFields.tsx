import { NumberField } from "../ui/NumberField";
import { sheets, type Letter, type Sheet } from "./letter";

type Layout = Letter["page"];

/** The sheet, how it is held, and its margins. */
export function SheetFields({ page, onChange }: { page: Layout; onChange: (page: Layout) => void }) {
  const margin = (side: keyof Layout["margins"], label: string) => (
    <NumberField
      label={label}
      value={page.margins[side]}
      low={0}
      high={100}
      onSet={(n) => onChange({ ...page, margins: { ...page.margins, [side]: n } })}
    />
  );
  const row = "flex items-center justify-between gap-2";
  return (
    <>
      <label className={row}>
        Paper size
        <select
          className="select select-sm w-52"
          value={page.sheet}
          onChange={(e) =>
            onChange({
              ...page,
              sheet: e.target.value as Sheet,
              ...(e.target.value === "custom" ? { width: page.width ?? 210, height: page.height ?? 210 } : {}),
            })
          }
        >
          {Object.entries(sheets).map(([key, s]) => (
            <option key={key} value={key}>
              {s.name}
            </option>
          ))}
          <option value="custom">Custom size</option>
        </select>
      </label>
      {page.sheet === "custom" && (
        <>
          <NumberField label="Width" value={page.width ?? 210} low={50} high={1000} onSet={(width) => onChange({ ...page, width })} />
          <NumberField label="Height" value={page.height ?? 210} low={50} high={1000} onSet={(height) => onChange({ ...page, height })} />
        </>
      )}
      <label className={row}>
        Orientation
        <select
          className="select select-sm w-52"
          value={page.orientation ?? "portrait"}
          onChange={(e) => onChange({ ...page, orientation: e.target.value as "portrait" | "landscape" })}
        >
          <option value="portrait">portrait</option>
          <option value="landscape">landscape</option>
        </select>
      </label>
      {margin("top", "Top margin")}
      {margin("bottom", "Bottom margin")}
      {margin("left", "Left margin")}
      {margin("right", "Right margin")}
    </>
  );
}
