import { useId } from "react";
import type { Schema } from "../api/client";
import { LengthInput } from "../ui/LengthInput";
import { lengthUnit } from "../ui/customs";

export interface BarcodeAttrs {
  symbology: "qr" | "code128" | "datamatrix" | "imb";
  source?: string;
  width?: number;
  height?: number;
  barcodeId?: string;
  service?: string;
  mailer?: string;
  align?: string;
}

const names: Record<BarcodeAttrs["symbology"], string> = {
  qr: "QR code",
  code128: "Code 128",
  datamatrix: "Data Matrix",
  imb: "Intelligent Mail",
};

/** What a barcode is and what it holds. */
export function BarcodeFields({
  attrs,
  columns,
  inBox,
  onChange,
}: {
  attrs: BarcodeAttrs;
  columns: Schema["Column"][];
  inBox?: boolean;
  onChange: (part: Partial<BarcodeAttrs>) => void;
}) {
  const id = useId();
  const row = "grid grid-cols-[96px_1fr] items-center gap-2";
  const word = (label: string, key: "barcodeId" | "service" | "mailer", hint: string) => (
    <label className={row}>
      <span>{label}</span>
      <input
        className="input input-sm w-full"
        aria-label={label}
        value={attrs[key] ?? ""}
        placeholder={hint}
        inputMode="numeric"
        onChange={(e) => onChange({ [key]: e.target.value.trim() })}
      />
    </label>
  );
  const measure = (label: string, key: "width" | "height") => (
    <label className={row}>
      <span>{label}</span>
      <span className="flex items-center gap-1.5">
        <LengthInput label={label} value={attrs[key] ?? 25} low={3} high={400} onSet={(mm) => onChange({ [key]: mm })} /> {lengthUnit()}
      </span>
    </label>
  );
  return (
    <div className="flex flex-col gap-1.5">
      <label className={row}>
        <span>Barcode</span>
        <select
          className="select select-sm w-full"
          aria-label="Barcode type"
          value={attrs.symbology}
          onChange={(e) => onChange({ symbology: e.target.value as BarcodeAttrs["symbology"] })}
        >
          {Object.entries(names).map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {attrs.symbology === "imb" ? (
        <>
          {word("Mailer ID", "mailer", "6 or 9 digits")}
          {word("Service type", "service", "3 digits, such as 040")}
          {word("Barcode ID", "barcodeId", "2 digits, such as 00")}
          <p className="text-[12px] text-faint">
            The routing code comes from the ZIP Code. Each run assigns serial numbers, which are not reused for 45 days. International
            addresses get no barcode.
          </p>
        </>
      ) : (
        <>
          <label className={row}>
            <span>Content</span>
            <input
              className="input input-sm w-full"
              aria-label="Barcode content"
              list={id}
              value={attrs.source ?? ""}
              placeholder={'"https://example.org/r/" & Piece number'}
              onChange={(e) => onChange({ source: e.target.value })}
            />
            <datalist id={id}>
              {["Piece number", ...columns.map((c) => c.name)].map((n) => (
                <option key={n} value={n} />
              ))}
            </datalist>
          </label>
          {!inBox && measure("Width", "width")}
          {!inBox && attrs.symbology === "code128" && measure("Height", "height")}
          <p className="text-[12px] text-faint">
            Enter a column or an expression. Put text in quotes and join parts with &. The barcode fills its {inBox ? "box" : "dimensions"},
            including the quiet zone.
          </p>
        </>
      )}
    </div>
  );
}
