import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { readDate } from "../responses/lines";
import { Header } from "../ui/Header";
import { say, sayWrong } from "../ui/notices";
import { many } from "../ui/words";
import { keys } from "../api/keys";

const weekdays = ["Sunday", "Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday"] as const;

/** Reads holidays, a line each: the date, then its name. */
function readHolidays(text: string): { holidays: Schema["Holiday"][]; problems: string[] } {
  const holidays: Schema["Holiday"][] = [];
  const problems: string[] = [];
  text.split(/\r?\n/).forEach((raw, i) => {
    const line = raw.trim();
    if (!line) return;
    const [first = "", ...rest] = line.split(/[\s,;\t]+/);
    const date = readDate(first);
    if (date) holidays.push({ date, name: rest.join(" ").slice(0, 80) || "Holiday" });
    else problems.push(`Line ${i + 1}: “${first}” is not a date such as 12/24/2026.`);
  });
  return { holidays, problems };
}

/** On which days nothing is mailed. */
export function CalendarSettingsPage() {
  const setting = useQuery({ queryKey: keys.settings("calendar"), queryFn: () => ask(api.GET("/api/settings/calendar")) }).data;
  return setting ? <CalendarForm setting={setting} /> : null;
}

function CalendarForm({ setting }: { setting: Schema["CalendarSetting"] }) {
  const [weekend, setWeekend] = useState<readonly string[]>(setting.weekend);
  const [federal, setFederal] = useState(setting.federalHolidays);
  const [text, setText] = useState(setting.holidays.map((h) => `${h.date} ${h.name}`).join("\n"));
  const { holidays, problems } = readHolidays(text);
  const save = async () => {
    try {
      await ask(
        api.PUT("/api/settings/calendar", { body: { weekend: weekend as Schema["DayOfWeek"][], federalHolidays: federal, holidays } }),
      );
      say("The calendar is saved. Dates that depend on it follow.");
      await queryClient.invalidateQueries();
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <>
      <Header kind={<Link to="/settings">Settings</Link>} title="Calendar" state="days on which nothing is mailed" />
      <form
        className="flex min-h-0 flex-1 flex-col gap-5 overflow-auto p-6"
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <fieldset className="flex flex-wrap gap-4">
          <legend className="mb-2 font-semibold">No mail on</legend>
          {weekdays.map((d) => (
            <label key={d} className="flex cursor-pointer items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={weekend.includes(d)}
                onChange={(e) => setWeekend(e.target.checked ? [...weekend, d] : weekend.filter((w) => w !== d))}
              />
              {d}
            </label>
          ))}
        </fieldset>
        <label className="flex cursor-pointer items-center gap-2">
          <input type="checkbox" className="checkbox checkbox-sm" checked={federal} onChange={(e) => setFederal(e.target.checked)} />
          Federal holidays of the United States
        </label>
        <label className="max-w-xl">
          <span className="mb-1 block font-semibold">Other holidays</span>
          <textarea
            className="textarea h-56 w-full font-mono text-[12.5px]"
            value={text}
            placeholder={"12/24/2026 Christmas Eve\n7/3/2027 Garden closed"}
            onChange={(e) => setText(e.target.value)}
          />
          <span className="mt-1 block text-[12px] text-faint">
            One per line: the date, then its name. {holidays.length > 0 && `${many(holidays.length, "holiday")}.`}
          </span>
        </label>
        {problems.length > 0 && (
          <ul className="text-error" role="alert">
            {problems.slice(0, 8).map((p) => (
              <li key={p}>{p}</li>
            ))}
          </ul>
        )}
        <div>
          <button className="btn btn-primary" disabled={problems.length > 0 || weekend.length > 6}>
            Save calendar
          </button>
          {weekend.length > 6 && <p className="mt-2 text-error">Leave at least one day on which mail goes out.</p>}
        </div>
      </form>
    </>
  );
}
