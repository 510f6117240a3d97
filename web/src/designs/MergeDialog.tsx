import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { sayWrong } from "../ui/notices";
import { moment } from "../ui/words";
import type { useAutosave } from "./useAutosave";
import { keys } from "../api/keys";

/** Two people saved the same design: both texts are kept, and are merged block by block, or one is chosen. */
export function MergeDialog({
  designId,
  save,
  onText,
  close,
}: {
  designId: number;
  save: ReturnType<typeof useAutosave>;
  onText: () => void;
  close: () => void;
}) {
  const texts = useQuery({
    queryKey: keys.designs(designId, "merge"),
    queryFn: () =>
      ask(
        api.POST("/api/designs/{id}/merge", {
          params: { path: { id: designId } },
          body: { base: save.base() as Record<string, never>, mine: save.mine() as Record<string, never> },
        }),
      ),
    gcTime: 0,
    staleTime: 0,
  });
  const settle = async (which: "merged" | "mine" | "theirs") => {
    const found = texts.data;
    if (!found) return;
    try {
      if (which === "merged" && found.merged) await save.put(found.merged as object, found.version, found.revision);
      else {
        // Mine is saved after theirs in either case, so that both stay among the versions.
        await save.put(save.mine(), found.version, found.revision, true);
        if (which === "theirs")
          await ask(api.POST("/api/designs/{id}/restore", { params: { path: { id: designId } }, body: { number: found.version } }));
      }
      close();
      onText();
    } catch (e) {
      sayWrong(e);
      void texts.refetch();
    }
  };
  const found = texts.data;
  return (
    <Dialog title="Two texts of this design" onClose={close}>
      {texts.error && <p className="text-error">{texts.error.message}</p>}
      {found && (
        <>
          <p className="mb-2">
            {found.by} saved this design {moment(found.at)}, while you were writing. Both texts are kept among the versions, whichever you
            choose.
          </p>
          <p className="mb-3 text-faint">
            {found.merged
              ? "You changed different places, so both changes fit into one text."
              : "You both changed the same text, so the versions cannot be merged. Choose one, then copy anything you need from the other."}
          </p>
          <div className="flex flex-col items-stretch gap-2">
            <button className="btn btn-primary" disabled={!found.merged} onClick={() => void settle("merged")}>
              Merge both texts
            </button>
            <button className="btn btn-quiet" onClick={() => void settle("mine")}>
              Keep my text as the newest
            </button>
            <button className="btn btn-quiet" onClick={() => void settle("theirs")}>
              Keep the text of {found.by} as the newest
            </button>
          </div>
        </>
      )}
    </Dialog>
  );
}
