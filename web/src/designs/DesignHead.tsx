import { useState } from "react";
import { api, ask, queryClient, type Schema } from "../api/client";
import { sayWrong } from "../ui/notices";
import type { SaveState } from "./useAutosave";
import { kinds } from "./kinds";
import { keys } from "../api/keys";

/** A design's name, changed where it stands. */
export function DesignName({ design }: { design: Schema["DesignDetail"] }) {
  const [name, setName] = useState(design.name);
  const keep = async () => {
    if (!name.trim() || name === design.name) return setName(design.name);
    try {
      await ask(
        api.PATCH("/api/designs/{id}", {
          params: { path: { id: design.id } },
          body: { name, listId: null, description: null, tags: null, archived: null },
        }),
      );
      await queryClient.invalidateQueries({ queryKey: keys.designs() });
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <input
      className="-ml-1 field-sizing-content min-w-24 max-w-72 rounded bg-transparent px-1 text-ellipsis hover:bg-base-200 max-[1200px]:max-w-44"
      aria-label={`Name of the ${kinds[design.kind].name}`}
      value={name}
      maxLength={120}
      onChange={(e) => setName(e.target.value)}
      onBlur={() => void keep()}
      onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
    />
  );
}

/** Whether what was written is saved, and what to do where it could not be. */
export function SavedState({
  state,
  version,
  usedIn,
  retry,
  settle,
}: {
  state: SaveState;
  version: number;
  usedIn: string[];
  retry: () => void;
  settle: () => void;
}) {
  const link = (label: string, run: () => void) => (
    <button className="cursor-pointer font-semibold underline" onClick={run}>
      {label}
    </button>
  );
  return (
    <>
      {typeof state === "string" && (
        <div data-testid="save-state">
          Version {version}, {state === "saved" ? "saved" : "saving…"}
        </div>
      )}
      {typeof state === "object" && "conflict" in state && (
        <div className="text-error" role="alert">
          {state.conflict} {link("Merge or choose…", settle)}
        </div>
      )}
      {typeof state === "object" && "wrong" in state && (
        <div className="text-error" role="alert">
          Not saved: {state.wrong} {link("Try again", retry)}
        </div>
      )}
      {typeof state === "object" && "offline" in state && (
        <div className="text-error" role="alert">
          The server is not responding. Your changes are kept in this browser and will be saved when it is back. {link("Try now", retry)}
        </div>
      )}
      <div className="max-w-64 truncate">{usedIn.length ? `Used in ${usedIn.join("; ")}` : "Not used yet"}</div>
    </>
  );
}
