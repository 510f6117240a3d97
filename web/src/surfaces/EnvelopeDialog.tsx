import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Dialog } from "../ui/Dialog";
import { envelopesQuery } from "./queries";
import { surfaceSize, type Surface, type Window } from "./surface";
import { LengthInput } from "../ui/LengthInput";
import { lengths, lengthUnit } from "../ui/customs";

/** Size, window and the post's zones of an envelope. */
export function EnvelopeDialog({
  surface,
  families,
  onChange,
  close,
}: {
  surface: Surface;
  families: string[];
  onChange: (part: Partial<Surface>) => void;
  close: () => void;
}) {
  const [s, setS] = useState(surface);
  const envelopes = useQuery(envelopesQuery()).data ?? [];
  const size = surfaceSize(s, envelopes, []);
  const row = "grid grid-cols-[128px_1fr] items-center gap-2";
  const number = (label: string, value: number, set: (n: number) => void, low = 0, high = 600) => (
    <label className="flex items-center gap-1.5">
      <span className="w-12">{label}</span>
      <LengthInput className="input input-sm w-24" label={label} value={value} low={low} high={high} onSet={set} /> {lengthUnit()}
    </label>
  );
  const w = s.window;
  const setW = (part: Partial<Window>) => w && setS({ ...s, window: { ...w, ...part } });
  const over = w && (w.x + w.width > size.width || w.y + w.height > size.height);
  const scale = 225 / Math.max(size.width, size.height);
  return (
    <Dialog title="Envelope setup" onClose={close} wide>
      <form
        className="flex gap-5"
        onSubmit={(e) => {
          e.preventDefault();
          if (over) return;
          onChange({
            format: s.format,
            width: s.width,
            height: s.height,
            orientation: s.orientation,
            window: s.window,
            zones: s.zones,
            type: s.type,
          });
          close();
        }}
      >
        <div className="flex flex-1 flex-col gap-2">
          <label className={row}>
            <span>Size</span>
            <select
              className="select select-sm w-full"
              aria-label="Size"
              value={s.format}
              onChange={(e) =>
                setS({ ...s, format: e.target.value, ...(e.target.value === "custom" ? { width: size.width, height: size.height } : {}) })
              }
            >
              {envelopes.map((f) => (
                <option key={f.id} value={f.id}>
                  {f.name}, {lengths(f.width, f.height)}
                </option>
              ))}
              <option value="custom">Custom size</option>
            </select>
          </label>
          {s.format === "custom" && (
            <div className="flex gap-4">
              {number("Width", s.width ?? 220, (n) => setS({ ...s, width: n }), 60)}
              {number("Height", s.height ?? 110, (n) => setS({ ...s, height: n }), 60)}
            </div>
          )}
          <label className={row}>
            <span>Orientation</span>
            <select
              className="select select-sm w-full"
              value={s.orientation ?? "landscape"}
              onChange={(e) => setS({ ...s, orientation: e.target.value as "landscape" | "portrait" })}
            >
              <option value="landscape">Landscape</option>
              <option value="portrait">Portrait</option>
            </select>
          </label>
          <label className={row}>
            <span>Clear zones</span>
            <select
              className="select select-sm w-full"
              value={s.zones ?? ""}
              onChange={(e) => setS({ ...s, zones: e.target.value || null })}
            >
              <option value="US">US Postal Service</option>
              <option value="UPU">International (UPU)</option>
              <option value="">None</option>
            </select>
          </label>
          <label className={row}>
            <span>Font</span>
            <select
              className="select select-sm w-full"
              value={s.type.family}
              onChange={(e) => setS({ ...s, type: { ...s.type, family: e.target.value } })}
            >
              {families.map((f) => (
                <option key={f}>{f}</option>
              ))}
            </select>
          </label>
          <label className="mt-2 flex items-center gap-2 font-semibold">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={Boolean(w)}
              onChange={(e) =>
                setS({
                  ...s,
                  window: e.target.checked
                    ? { x: 22.2, y: Math.round((size.height - 41.3) * 10) / 10, width: 114.3, height: 28.6, fold: "thirds", shift: 3 }
                    : null,
                })
              }
            />
            Window envelope
          </label>
          {w && (
            <>
              <div className="grid grid-cols-2 gap-1.5">
                {number("Left", w.x, (n) => setW({ x: n }))}
                {number("Top", w.y, (n) => setW({ y: n }))}
                {number("Width", w.width, (n) => setW({ width: n }), 5)}
                {number("Height", w.height, (n) => setW({ height: n }), 5)}
              </div>
              <label className={row}>
                <span>Letter fold</span>
                <select
                  className="select select-sm w-full"
                  value={w.fold}
                  onChange={(e) => setW({ fold: e.target.value as Window["fold"] })}
                >
                  <option value="thirds">In thirds</option>
                  <option value="half">In half</option>
                  <option value="flat">Not folded</option>
                </select>
              </label>
              <label className={row}>
                <span>Letter shift</span>
                <span className="flex items-center gap-1.5">
                  <LengthInput label="Letter shift" value={w.shift} low={0} high={20} onSet={(shift) => setW({ shift })} /> {lengthUnit()}{" "}
                  in each direction
                </span>
              </label>
              <p className="text-[12px] text-faint">
                If the drop sends both, each letter is checked against the window. The whole address must show, and nothing else.
              </p>
            </>
          )}
        </div>
        <div className="flex w-[235px] flex-col items-center gap-2">
          <svg
            width={size.width * scale}
            height={size.height * scale}
            role="img"
            aria-label={`Envelope, ${lengths(size.width, size.height)}`}
            className="paper"
          >
            {w && (
              <rect
                x={w.x * scale}
                y={w.y * scale}
                width={w.width * scale}
                height={w.height * scale}
                rx={5}
                fill="none"
                stroke={over ? "#a63a2b" : "#1e5b4a"}
                strokeWidth={1.5}
                strokeDasharray="4 3"
              />
            )}
          </svg>
          <p className="text-faint tabular-nums">{lengths(size.width, size.height)}</p>
          {over && <p className="text-error">The window extends past the edge of the envelope.</p>}
          <button className="btn btn-primary mt-auto self-end" disabled={Boolean(over)}>
            Apply
          </button>
        </div>
      </form>
    </Dialog>
  );
}
