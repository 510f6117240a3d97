import type { OwnStock } from "./surface";

interface Props {
  stock: OwnStock;
  /** Width of the drawing, pixels. */
  width: number;
  /** What a place of the sheet is: used up before, spoiled, where labels begin. */
  state?: (position: number) => "used" | "spoiled" | "start" | undefined;
  onPlace?: (position: number) => void;
}

/** A sheet of labels as a drawing; its places can be clicked. */
export function SheetDrawing({ stock, width, state, onPlace }: Props) {
  const scale = width / Math.max(1, stock.sheetWidth);
  const places = Array.from({ length: Math.min(4000, Math.max(0, stock.columns * stock.rows)) }, (_, i) => ({
    position: i + 1,
    x: stock.left + (i % stock.columns) * stock.pitchX,
    y: stock.top + Math.floor(i / stock.columns) * stock.pitchY,
  }));
  const radius =
    stock.corner === "round" ? Math.min(stock.labelWidth, stock.labelHeight) / 2 : stock.corner === "rounded" ? stock.radius : 0;
  const look = { used: "fill-base-300 stroke-base-300", spoiled: "fill-doubt stroke-warning", start: "fill-primary stroke-primary" };
  return (
    <svg width={width} height={stock.sheetHeight * scale} className="paper" role={onPlace ? "group" : "img"} aria-label="Label sheet">
      {places.map((p) => {
        const s = state?.(p.position);
        const shape = (
          <>
            <rect
              x={p.x * scale}
              y={p.y * scale}
              width={Math.max(0, stock.labelWidth * scale)}
              height={Math.max(0, stock.labelHeight * scale)}
              rx={radius * scale}
              className={`${s ? look[s] : `fill-none stroke-slate-400 ${onPlace ? "hover:fill-primary/20" : ""}`}`}
              pointerEvents="all"
              strokeWidth={0.8}
            />
            {onPlace && (
              <text
                x={(p.x + stock.labelWidth / 2) * scale}
                y={(p.y + stock.labelHeight / 2) * scale + 3}
                textAnchor="middle"
                fontSize={9}
                className={s === "start" ? "fill-primary-content" : "fill-current"}
                pointerEvents="none"
              >
                {s === "spoiled" ? "✕" : p.position}
              </text>
            )}
          </>
        );
        return onPlace ? (
          <g
            key={p.position}
            role="button"
            tabIndex={0}
            aria-label={`Position ${p.position}${s ? `, ${{ used: "used", spoiled: "spoiled", start: "labels start here" }[s]}` : ""}`}
            className="cursor-pointer outline-offset-1"
            onClick={() => onPlace(p.position)}
            onKeyDown={(e) => {
              if (e.key === "Enter" || e.key === " ") {
                e.preventDefault();
                onPlace(p.position);
              }
            }}
          >
            {shape}
          </g>
        ) : (
          <g key={p.position}>{shape}</g>
        );
      })}
    </svg>
  );
}
