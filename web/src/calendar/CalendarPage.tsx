import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { Header } from "../ui/Header";
import { sayWrong } from "../ui/notices";
import { MonthGrid } from "./MonthGrid";
import { keys } from "../api/keys";

/** The mail dates of all campaigns, by month or week. */
export function CalendarPage() {
  const [week, setWeek] = useState(false);
  const [subscribing, setSubscribing] = useState(false);
  return (
    <>
      <Header kind={<Link to="/campaigns">Campaigns</Link>} title="Calendar">
        <div className="join" role="group" aria-label="Month or week">
          {[false, true].map((w) => (
            <button
              key={String(w)}
              className={`btn btn-sm join-item ${week === w ? "btn-primary" : "btn-quiet"}`}
              aria-pressed={week === w}
              onClick={() => setWeek(w)}
            >
              {w ? "Week" : "Month"}
            </button>
          ))}
        </div>
        <Link className="btn btn-quiet" to="/settings/calendar">
          Holidays
        </Link>
        <a className="btn btn-quiet" href="/api/calendar.ics" download="mail-dates.ics">
          Save as file
        </a>
        <button className="btn btn-quiet" onClick={() => setSubscribing(true)}>
          Subscribe…
        </button>
      </Header>
      <div className="flex min-h-0 flex-1 flex-col overflow-auto">
        <MonthGrid key={String(week)} week={week} />
      </div>
      {subscribing && <SubscribeDialog onClose={() => setSubscribing(false)} />}
    </>
  );
}

function SubscribeDialog({ onClose }: { onClose: () => void }) {
  const address = useQuery({ queryKey: keys.drop("calendar-address"), queryFn: () => ask(api.GET("/api/calendar/address")) });
  const renew = async () => {
    try {
      await ask(api.POST("/api/calendar/address"));
      await queryClient.invalidateQueries({ queryKey: keys.drop("calendar-address") });
    } catch (e) {
      sayWrong(e);
    }
  };
  const secret = address.data?.secret;
  return (
    <Dialog title="Subscribe to this calendar" onClose={onClose}>
      <p className="mb-3 text-faint">
        A calendar program that can reach this server shows the mail dates and keeps them current. Anyone who has the address can read the
        dates, and nothing else. A new address replaces the old one.
      </p>
      {secret && (
        <input
          className="input mb-3 w-full font-mono text-[12px]"
          readOnly
          aria-label="Address"
          value={`${location.origin}/calendar/${secret}.ics`}
          onFocus={(e) => e.target.select()}
        />
      )}
      <div className="flex gap-2">
        <button className="btn btn-primary" onClick={() => void renew()}>
          {secret ? "Create a new address" : "Create an address"}
        </button>
        <button className="btn btn-quiet" onClick={onClose}>
          Close
        </button>
      </div>
    </Dialog>
  );
}
