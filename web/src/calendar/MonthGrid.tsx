import { useQuery } from "@tanstack/react-query";
import { ChevronLeft, ChevronRight } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { addDays, monthAfter, weeksOf } from "../campaigns/line";
import { Stack } from "../ui/Stack";
import { today, writtenDay } from "../ui/customs";
import { count, day, many } from "../ui/words";
import { useMoney, type Money } from "../ui/useMoney";
import { useActions } from "../ui/keys";
import { calendarQuery, move, type MailDay } from "./calendar";

const names = ["Su", "Mo", "Tu", "We", "Th", "Fr", "Sa"];
const monthName = (month: string) => writtenDay(`${month}-01`, { month: "long", year: "numeric" });
const longDay = (iso: string) => writtenDay(iso, { weekday: "long", month: "long", day: "numeric" });

/** What a day's mail comes to, in words. */
const tells = (d: MailDay, money: Money) =>
  `${d.campaign} · ${d.name}: ${many(d.pieces, "piece")}${d.cents === null ? "" : `, ${d.about ? "about " : ""}${money(d.cents)}`}${d.mailed ? ", mailed" : ""}`;

/** A month, or a week of it: what is mailed on each day. In the large form, dates are moved by dragging or by keys. */
export function MonthGrid({ small = false, week = false }: { small?: boolean; week?: boolean }) {
  const navigate = useNavigate();
  const money = useMoney();
  const now = today();
  const [month, setMonth] = useState(now.slice(0, 7));
  const [weekOf, setWeekOf] = useState(now);
  const [chosen, setChosen] = useState<number | null>(null);
  const [dragged, setDragged] = useState<MailDay | null>(null);
  const all = weeksOf(week ? weekOf.slice(0, 7) : month);
  const weeks = week ? all.filter((w) => w.includes(weekOf)) : all;
  const [from, to] = [weeks[0]?.[0] ?? now, weeks.at(-1)?.at(-1) ?? now];
  const view = useQuery(calendarQuery(from, to)).data;
  const days = view?.days ?? [];
  const key = (d: MailDay) => d.dropId ?? -(d.stepId ?? 0);
  const current = days.find((d) => key(d) === chosen) ?? null;
  const shift = (by: number) => (week ? setWeekOf(addDays(weekOf, 7 * by)) : setMonth(monthAfter(month, by)));
  const moveBy = (by: number) => {
    if (!current?.canMove) return;
    let on = addDays(current.on, by);
    // A day on which nothing is mailed is stepped over.
    for (let i = 0; i < 14 && isClosed(on); i++) on = addDays(on, by > 0 ? 1 : -1);
    void move(current, on);
  };
  const closed = new Map((view?.closed ?? []).map((h) => [h.date, h.name]));
  const isClosed = (iso: string) => closed.has(iso);
  const holiday = (iso: string) => (longDay(iso).startsWith(`${closed.get(iso)},`) ? undefined : closed.get(iso));
  useActions(
    small
      ? []
      : [
          { keys: "ArrowRight", label: "Mail it a day later", run: () => moveBy(1), quiet: true },
          { keys: "ArrowLeft", label: "Mail it a day earlier", run: () => moveBy(-1), quiet: true },
          { keys: "ArrowDown", label: "Mail it a week later", run: () => moveBy(7), quiet: true },
          { keys: "ArrowUp", label: "Mail it a week earlier", run: () => moveBy(-7), quiet: true },
          { keys: "PageDown", label: week ? "Next week" : "Next month", run: () => shift(1), quiet: true },
          { keys: "PageUp", label: week ? "Previous week" : "Previous month", run: () => shift(-1), quiet: true },
          { keys: "Enter", label: "Open the drop", run: () => current?.dropId && void navigate(`/drops/${current.dropId}`), quiet: true },
        ],
  );
  const most = Math.max(1, ...days.map((d) => d.pieces));
  return (
    <section aria-label="Calendar" className={small ? "" : "flex min-h-0 flex-1 flex-col p-4"}>
      <div className="mb-1.5 flex items-center gap-1">
        <h2 className="mr-auto">{week ? `Week of ${day(from)}` : monthName(month)}</h2>
        <button
          className="btn btn-xs btn-square btn-ghost"
          aria-label={week ? "Previous week" : "Previous month"}
          onClick={() => shift(-1)}
        >
          <ChevronLeft size={15} />
        </button>
        <button className="btn btn-xs btn-square btn-ghost" aria-label={week ? "Next week" : "Next month"} onClick={() => shift(1)}>
          <ChevronRight size={15} />
        </button>
      </div>
      <table className={`w-full table-fixed ${small ? "" : "h-full"}`}>
        <thead>
          <tr className="text-[11.5px] text-faint">
            {names.map((n) => (
              <th key={n} className="pb-1 font-normal">
                {n}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeks.map((w) => (
            <tr key={w[0]} className="border-t border-base-300">
              {w.map((iso) => {
                const of = days.filter((d) => d.on === iso);
                const outside = !week && !iso.startsWith(month);
                return (
                  <td
                    key={iso}
                    className={`align-top ${small ? "h-[46px]" : "h-24 border-l border-line first:border-l-0"} ${isClosed(iso) && !small ? "on-sand bg-base-200" : ""} ${
                      iso === now ? "outline-2 -outline-offset-2 outline-accent" : ""
                    }`}
                    onDragOver={(e) => dragged && !isClosed(iso) && e.preventDefault()}
                    onDrop={() => {
                      if (dragged && dragged.on !== iso) void move(dragged, iso);
                      setDragged(null);
                    }}
                    data-day={iso}
                  >
                    <span
                      className={`block px-1 pt-0.5 text-[12px] ${iso === now ? "font-bold" : ""} ${outside ? "text-faint" : ""}`}
                      title={holiday(iso)}
                    >
                      {Number(iso.slice(8))}
                      {!small && holiday(iso) && <span className="ml-1.5 text-[11px]">{holiday(iso)}</span>}
                    </span>
                    {small
                      ? of.length > 0 && (
                          <Link
                            className="block px-1"
                            to={of.length === 1 && of[0]?.dropId ? `/drops/${of[0].dropId}` : "/calendar"}
                            title={of.map((d) => tells(d, money)).join("\n")}
                            aria-label={`${longDay(iso)}: ${of.map((d) => tells(d, money)).join("; ")}`}
                          >
                            <Stack
                              count={of.reduce((n, d) => n + d.pieces, 0) || 1}
                              of={most}
                              className={of.every((d) => d.mailed) ? "text-success" : iso < now ? "text-accent" : "text-primary"}
                            />
                          </Link>
                        )
                      : of.map((d) => (
                          <button
                            key={key(d)}
                            draggable={d.canMove}
                            onDragStart={() => setDragged(d)}
                            onDragEnd={() => setDragged(null)}
                            onClick={() => setChosen(key(d))}
                            onDoubleClick={() => d.dropId && void navigate(`/drops/${d.dropId}`)}
                            className={`mx-1 mb-1 block w-[calc(100%-8px)] rounded border px-1.5 py-0.5 text-left text-[12px] leading-4 ${
                              d.mailed
                                ? "border-success/50 bg-success/10"
                                : d.on < now
                                  ? "border-accent bg-accent/10"
                                  : "border-primary/50 bg-primary/10"
                            } ${chosen === key(d) ? "outline-2 outline-primary" : ""} ${d.canMove ? "cursor-grab" : "cursor-pointer"}`}
                            aria-pressed={chosen === key(d)}
                            title={`${longDay(iso)}: ${tells(d, money)}`}
                          >
                            <span className="sr-only">
                              {longDay(iso)}, {d.campaign}:{" "}
                            </span>
                            <span className="block truncate font-semibold">{d.name}</span>
                            <span className="block truncate">
                              {count(d.pieces)}
                              {d.cents !== null && ` · ${d.about ? "about " : ""}${money(d.cents)}`}
                            </span>
                          </button>
                        ))}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {!small && (
        <p className="mt-2 min-h-5 shrink-0 text-[12.5px] text-faint" role="status">
          {current
            ? `${tells(current, money)}. ${current.canMove ? "Arrow keys move its date; Enter opens it." : "Its date cannot be moved; Enter opens it."}`
            : days.length
              ? "Click a drop, then move it with the arrow keys, or drag it to another day."
              : "Nothing is mailed in this period."}
        </p>
      )}
    </section>
  );
}
