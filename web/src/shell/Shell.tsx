import { useQuery } from "@tanstack/react-query";
import { Unplug } from "lucide-react";
import { useEffect } from "react";
import { Outlet } from "react-router";
import { listen, useAway } from "../api/events";
import { settingsQuery } from "../api/queries";
import { follow } from "../ui/customs";
import { Keys } from "../ui/keys";
import { Notices } from "../ui/notices";
import { JobStrip } from "./JobStrip";
import { Palette } from "./Palette";
import { useOwnFaces } from "./ownFaces";
import { Rail } from "./Rail";

/** Said on every page while the server cannot be reached. */
function Away() {
  if (!useAway()) return null;
  return (
    <p className="flex shrink-0 items-center gap-2 bg-error px-4 py-1.5 text-error-content" role="alert">
      <Unplug size={15} className="shrink-0" /> The server is not responding. What you see may be out of date. Bandeja keeps trying to
      reconnect.
    </p>
  );
}

export function Shell() {
  useEffect(listen, []);
  const settings = useQuery(settingsQuery());
  if (settings.data) follow(settings.data);
  useOwnFaces();
  // What is written in the wrong unit or zone, if only for a moment, could be read.
  if (settings.isPending) return null;
  return (
    <Keys>
      <div className="flex h-full">
        <Rail />
        <div className="flex min-w-0 flex-1 flex-col">
          <Away />
          <main className="flex min-h-0 flex-1 flex-col">
            <Outlet />
          </main>
          <JobStrip />
        </div>
      </div>
      <Palette />
      <Notices />
    </Keys>
  );
}
