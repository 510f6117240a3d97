import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, queryClient } from "../api/client";
import { designsQuery } from "../api/queries";
import { PackagePicker } from "../campaigns/PackagePicker";
import { Dialog } from "../ui/Dialog";
import { sayWrong } from "../ui/notices";
import { keys } from "../api/keys";

/** Writes to one recipient alone: an empty letter, or designs that there are. The page is seen next, and can be changed for them. */
export function WriteDialog({
  listId,
  recipientId,
  name,
  onClose,
}: {
  listId: number;
  recipientId: number;
  name: string;
  onClose: () => void;
}) {
  const navigate = useNavigate();
  const designs = useQuery(designsQuery()).data ?? [];
  const [chosen, setChosen] = useState<number[]>([]);
  const [busy, setBusy] = useState(false);
  const write = async () => {
    setBusy(true);
    try {
      const { dropId, designId } = await ask(
        api.POST("/api/lists/{id}/recipients/{recipientId}/write", {
          params: { path: { id: listId, recipientId } },
          body: { listId, recipientId, designIds: chosen },
        }),
      );
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
      void navigate(
        chosen.length === 0 && designId !== null ? `/drops/${dropId}/proof/letter/${recipientId}/${designId}` : `/drops/${dropId}/proof`,
      );
    } catch (e) {
      sayWrong(e);
      setBusy(false);
    }
  };
  return (
    <Dialog title={`Write to ${name}`} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void write();
        }}
      >
        <p className="text-faint">
          Choose what they get, or nothing for an empty letter with their address and salutation. You see the page next and can change it
          for them; it is recorded under “Single letters”.
        </p>
        <PackagePicker designs={designs} listId={listId} chosen={chosen} onChange={setChosen} />
        <div className="flex gap-2">
          <button className="btn btn-primary" autoFocus disabled={busy}>
            {chosen.length ? "See the page" : "Write an empty letter"}
          </button>
          <button type="button" className="btn btn-quiet" onClick={onClose}>
            Cancel
          </button>
        </div>
      </form>
    </Dialog>
  );
}
