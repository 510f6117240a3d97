import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, queryClient, type Schema } from "../api/client";
import { Dialog } from "./Dialog";
import { say, sayWrong } from "./notices";
import { keys } from "../api/keys";

/** The things that can be removed: what is asked before, and what is done. */
const kinds = {
  list: {
    ask: (id: number) => ask(api.GET("/api/lists/{id}/removal", { params: { path: { id } } })),
    remove: (id: number) => ask(api.DELETE("/api/lists/{id}", { params: { path: { id } } })),
  },
  design: {
    ask: (id: number) => ask(api.GET("/api/designs/{id}/removal", { params: { path: { id } } })),
    remove: (id: number) => ask(api.DELETE("/api/designs/{id}", { params: { path: { id } } })),
  },
  drop: {
    ask: (id: number) => ask(api.GET("/api/drops/{id}/removal", { params: { path: { id } } })),
    remove: (id: number) => ask(api.DELETE("/api/drops/{id}", { params: { path: { id } } })),
  },
};

interface Props {
  kind: keyof typeof kinds;
  id: number;
  close: () => void;
  /** What follows once it is gone. */
  gone: () => void;
}

/** Says what goes with something before it is removed, or why it cannot be; the people of a list can be erased instead. */
export function RemovalDialog({ kind, id, close, gone }: Props) {
  const { data: removal, error } = useQuery({ queryKey: keys.removal(kind, id), queryFn: () => kinds[kind].ask(id), gcTime: 0 });
  const [busy, setBusy] = useState(false);
  const act = async (run: () => Promise<unknown>, done: string) => {
    setBusy(true);
    try {
      await run();
      gone();
      say(done);
      await queryClient.invalidateQueries();
    } catch (e) {
      sayWrong(e);
      setBusy(false);
    }
  };
  if (error)
    return (
      <Dialog title="Remove" onClose={close}>
        {error.message}
      </Dialog>
    );
  if (!removal) return null;
  const refused = removal.refusal !== null;
  return (
    <Dialog title={refused ? `${removal.name} cannot be removed` : `Remove ${removal.name}?`} onClose={close}>
      {refused ? <p className="mb-4">{removal.refusal}</p> : <Affected removal={removal} kind={kind} />}
      {kind === "list" && (
        <Erase
          name={removal.name}
          busy={busy}
          erase={(name) =>
            act(
              () => ask(api.POST("/api/lists/{id}/erase", { params: { path: { id } }, body: { name } })),
              "The recipients of this list were erased. The ledger keeps the counts.",
            )
          }
        />
      )}
      <div className="flex justify-end gap-2">
        <button className="btn btn-quiet" onClick={close} autoFocus>
          {refused ? "Close" : `Keep the ${kind}`}
        </button>
        {!refused && (
          <button
            className="btn btn-primary"
            disabled={busy}
            onClick={() => void act(() => kinds[kind].remove(id), `Removed ${removal.name}.`)}
          >
            Remove the {kind}
          </button>
        )}
      </div>
    </Dialog>
  );
}

function Affected({ removal, kind }: { removal: Schema["RemovalView"]; kind: Props["kind"] }) {
  return (
    <>
      <p className="mb-1">{kind === "list" ? "This is also removed and cannot be restored:" : "This cannot be undone."}</p>
      <ul className="mb-4 list-disc pl-5" aria-label="What this affects">
        {removal.affects.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </>
  );
}

/** Erasing needs the list's name, typed: nothing brings the people back. */
function Erase({ name, busy, erase }: { name: string; busy: boolean; erase: (name: string) => Promise<void> }) {
  const [typed, setTyped] = useState("");
  return (
    <form
      className="mb-4 border-t border-line pt-3"
      onSubmit={(e) => {
        e.preventDefault();
        void erase(typed);
      }}
    >
      <h3 className="font-semibold">Erase recipients</h3>
      <p className="mb-2 text-faint">
        Names, addresses, all earlier values, and the files produced for them are erased for good. How many pieces were mailed, and when,
        stays in the ledger.
      </p>
      <label>
        <span className="mb-1 block">
          To erase them, enter the list’s name: <strong>{name}</strong>
        </span>
        <span className="flex gap-2">
          <input className="input input-sm flex-1" value={typed} onChange={(e) => setTyped(e.target.value)} />
          <button className="btn btn-quiet btn-sm" disabled={busy || typed.trim() !== name}>
            Erase recipients
          </button>
        </span>
      </label>
    </form>
  );
}
