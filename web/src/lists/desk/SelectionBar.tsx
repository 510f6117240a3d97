import { useState } from "react";
import { api, ask, type Schema } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { say, sayWrong } from "../../ui/notices";
import { many } from "../../ui/words";
import { act } from "./acts";

interface Props {
  list: Schema["ListView"];
  rows: number;
  columns: Schema["Column"][];
  ids: () => Promise<number[]>;
  segment: number | null;
  done: () => void;
}

/** What can be done with the selected rows. */
export function SelectionBar({ list, rows, columns, ids, segment, done }: Props) {
  const [asking, setAsking] = useState<"set" | "remove" | null>(null);
  const [column, setColumn] = useState("");
  const [text, setText] = useState("");
  const editable = list.columns.filter((c) => c.kind !== "Computed");
  const chosen = Number(column) || (columns.find((c) => c.kind !== "Computed") ?? editable[0])?.id || 0;
  const tick = async (ticked: boolean | null) => {
    try {
      await ask(api.POST("/api/segments/{id}/tick", { params: { path: { id: segment ?? 0 } }, body: { recipients: await ids(), ticked } }));
      say(
        ticked === null
          ? "Now follows the filter."
          : `${ticked ? "Added to segment" : "Excluded from segment"} ${many(rows, "recipient")}.`,
      );
    } catch (e) {
      sayWrong(e);
    }
  };
  const run = async () => {
    const recipients = await ids();
    const worked =
      asking === "set"
        ? await act(
            list.id,
            ask(
              api.POST("/api/lists/{id}/set", {
                params: { path: { id: list.id } },
                body: { columnId: chosen, recipients, value: text || null },
              }),
            ),
          )
        : await act(
            list.id,
            ask(
              api.POST("/api/lists/{id}/recipients/remove", {
                params: { path: { id: list.id } },
                body: { recipients, reason: text || null },
              }),
            ),
          );
    if (!worked) return;
    setAsking(null);
    setText("");
    done();
  };
  return (
    <>
      <span className="font-semibold">{many(rows, "recipient")} selected</span>
      <button className="btn btn-quiet btn-xs" onClick={() => setAsking("set")}>
        Set column value…
      </button>
      <button className="btn btn-quiet btn-xs" onClick={() => setAsking("remove")}>
        Remove from list…
      </button>
      {segment !== null && (
        <>
          <button className="btn btn-quiet btn-xs" onClick={() => void tick(true)}>
            Add to segment
          </button>
          <button className="btn btn-quiet btn-xs" onClick={() => void tick(false)}>
            Exclude from segment
          </button>
        </>
      )}
      {asking && (
        <Dialog
          title={asking === "set" ? `Set column value for ${many(rows, "recipient")}` : `Remove ${many(rows, "recipient")} from the list`}
          onClose={() => setAsking(null)}
        >
          <form
            className="flex flex-col gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              void run();
            }}
          >
            {asking === "set" && (
              <label className="grid grid-cols-[70px_1fr] items-center">
                <span className="font-semibold">Column</span>
                <select className="select select-sm w-full" value={chosen} onChange={(e) => setColumn(e.target.value)}>
                  {editable.map((c) => (
                    <option key={c.id} value={c.id}>
                      {c.name}
                    </option>
                  ))}
                </select>
              </label>
            )}
            <label className="grid grid-cols-[70px_1fr] items-center">
              <span className="font-semibold">{asking === "set" ? "Value" : "Reason"}</span>
              <input
                className="input input-sm w-full"
                autoFocus
                placeholder={asking === "set" ? "blank" : "Moved away"}
                value={text}
                onChange={(e) => setText(e.target.value)}
              />
            </label>
            {asking === "remove" && (
              <p className="text-faint">Drops that have not mailed them yet will hold them, with this reason. You can undo this.</p>
            )}
            <div className="flex justify-end gap-2">
              <button type="button" className="btn btn-quiet" onClick={() => setAsking(null)}>
                Cancel
              </button>
              <button className="btn btn-primary">{asking === "set" ? "Set value" : "Remove"}</button>
            </div>
          </form>
        </Dialog>
      )}
    </>
  );
}
