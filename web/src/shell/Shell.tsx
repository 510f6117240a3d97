import { useEffect } from "react";
import { Outlet } from "react-router";
import { listen } from "../api/events";
import { Keys } from "../ui/keys";
import { Notices } from "../ui/notices";
import { JobStrip } from "./JobStrip";
import { Palette } from "./Palette";
import { useOwnFaces } from "./ownFaces";
import { Rail } from "./Rail";

export function Shell() {
  useEffect(listen, []);
  useOwnFaces();
  return (
    <Keys>
      <div className="flex h-full">
        <Rail />
        <div className="flex min-w-0 flex-1 flex-col">
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
