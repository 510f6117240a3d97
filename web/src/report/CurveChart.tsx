import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";

const looks = [
  { color: "var(--color-primary)", dash: undefined },
  { color: "var(--color-accent)", dash: "7 4" },
  { color: "var(--color-info)", dash: "2 3" },
  { color: "var(--color-secondary)", dash: "10 3 2 3" },
];

/** Shares that had responded by each day after the mailing; the lines differ without color, too. */
export default function CurveChart({ lines }: { lines: { name: string; curve: number[] }[] }) {
  const days = Math.max(1, ...lines.map((l) => l.curve.length));
  const data = Array.from({ length: days }, (_, day) => ({
    day,
    ...Object.fromEntries(lines.map((l, i) => [`l${i}`, Math.round((l.curve[day] ?? 0) * 1000) / 10])),
  }));
  return (
    <ResponsiveContainer width="100%" height={250}>
      <LineChart data={data} margin={{ top: 16, right: 120, bottom: 18, left: 0 }}>
        <CartesianGrid vertical={false} stroke="var(--color-base-300)" />
        <XAxis
          dataKey="day"
          type="number"
          domain={[0, days - 1]}
          tickLine={false}
          tick={{ fill: "var(--color-faint)", fontSize: 11.5 }}
          label={{ value: "days after mailing", position: "insideBottom", offset: -10, fill: "var(--color-faint)", fontSize: 11.5 }}
        />
        <YAxis unit="%" width={46} tickLine={false} axisLine={false} tick={{ fill: "var(--color-faint)", fontSize: 11.5 }} />
        <Tooltip
          formatter={(value, key) => [`${String(value)}%`, lines[Number(String(key).slice(1))]?.name ?? ""]}
          labelFormatter={(day) => `day ${String(day)}`}
          contentStyle={{ background: "var(--color-base-100)", border: "1px solid var(--color-base-300)" }}
        />
        {lines.map((l, i) => {
          const look = looks[i % looks.length];
          return (
            <Line
              key={l.name}
              dataKey={`l${i}`}
              name={l.name}
              type="stepAfter"
              stroke={look?.color}
              strokeDasharray={look?.dash}
              strokeWidth={2}
              dot={false}
              isAnimationActive={false}
              label={({ index, x, y }: { index?: number; x?: number | string; y?: number | string }) =>
                index === days - 1 ? (
                  <text x={Number(x) + 6} y={Number(y) + 4} fontSize={11.5} fontWeight={600} fill={look?.color}>
                    {l.name.length > 18 ? `${l.name.slice(0, 17)}…` : l.name}
                  </text>
                ) : (
                  <g />
                )
              }
            />
          );
        })}
      </LineChart>
    </ResponsiveContainer>
  );
}
