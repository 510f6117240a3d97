import { Sprout } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { say, sayWrong } from "../ui/notices";

/** Adds the sample garden and opens its drop. */
export function AddSample() {
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const add = async () => {
    setBusy(true);
    try {
      const sample = await ask(api.POST("/api/sample"));
      await queryClient.invalidateQueries();
      void navigate(`/drops/${sample.dropId}/proof`);
    } catch (e) {
      sayWrong(e);
      setBusy(false);
    }
  };
  return (
    <button className="btn btn-quiet" disabled={busy} onClick={() => void add()} title="40 made-up recipients, a letter, and a drop">
      <Sprout size={15} /> Try the sample garden
    </button>
  );
}

/** Says that the sample garden is here, and removes it. */
export function SampleNote({ sample }: { sample: Schema["SampleParts"] }) {
  const [removing, setRemoving] = useState(false);
  const remove = async () => {
    try {
      await ask(api.DELETE("/api/sample"));
      await queryClient.invalidateQueries();
      say("Removed the sample garden.");
      setRemoving(false);
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <div className="mt-4 flex flex-wrap items-center gap-3 rounded-box border border-line px-4 py-2" role="note" aria-label="Sample garden">
      <Sprout size={16} className="text-primary" />
      <span className="min-w-40 flex-1">The sample garden is made-up data to practice on. Nothing in it is a real recipient.</span>
      <Link className="btn btn-sm btn-quiet" to={`/drops/${sample.dropId}`}>
        Open sample
      </Link>
      <button className="btn btn-sm btn-quiet" onClick={() => setRemoving(true)}>
        Remove sample…
      </button>
      {removing && (
        <Dialog title="Remove the sample garden?" onClose={() => setRemoving(false)}>
          <p className="mb-4">
            This removes the sample list, its drops, and everything you produced or marked with it. You cannot undo this. Your own lists,
            designs, and drops are not affected.
          </p>
          <div className="flex gap-2">
            <button className="btn btn-primary" onClick={() => void remove()}>
              Remove the sample garden
            </button>
            <button className="btn btn-quiet" onClick={() => setRemoving(false)}>
              Cancel
            </button>
          </div>
        </Dialog>
      )}
    </div>
  );
}
