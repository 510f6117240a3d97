import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, ask, queryClient } from "../api/client";
import { listQuery } from "../api/queries";
import { sayWrong } from "../ui/notices";
import type { EditorProps } from "./editor";
import { matchesKey } from "./MatchDialog";
import { dropDraft, keptDraft, useAutosave, useOtherTab } from "./useAutosave";
import { keys } from "../api/keys";

/**
 * What every kind of design needs while it is open: the document and its saving, the other tab, what was never saved, the list it is seen
 * with. `complete` gives a stored document what it leaves open.
 */
export function useDesign<D extends object>({ design, start, reopen }: EditorProps, complete: (stored: unknown) => D) {
  const [document, write] = useState(() => complete(start ?? design.document));
  const [listId, setListId] = useState(design.listId);
  const [dialog, setDialog] = useState<"setup" | "versions" | "matches" | "merge" | "file" | null>(null);
  const [draft, setDraft] = useState(() => (start ? null : keptDraft(design.id, design.version, design.document, complete)));
  const save = useAutosave(design.id, design.version, design.revision, design.document as object);
  const first = useRef(document);
  const { change } = save;
  useEffect(() => {
    if (document !== first.current || start) change(document);
  }, [document, change, start]);
  const tab = useOtherTab(design.id);
  const list = useQuery({ ...listQuery(listId ?? 0), enabled: listId !== null }).data;
  const columns = useMemo(() => list?.columns ?? [], [list]);
  const matches = useQuery({
    queryKey: matchesKey(design.id, listId),
    queryFn: () => ask(api.GET("/api/designs/{id}/matches", { params: { path: { id: design.id }, query: { listId: listId ?? 0 } } })),
    enabled: listId !== null,
  }).data;
  useEffect(() => {
    // What was written since may have names that the list does not know.
    if (save.state === "saved") void queryClient.invalidateQueries({ queryKey: matchesKey(design.id, listId) });
  }, [save.state, save.version, design.id, listId]);
  const chooseList = async (value: string) => {
    const next = value ? Number(value) : null;
    setListId(next);
    if (next === null) return;
    try {
      await save.flush();
      const changed = await ask(
        api.PATCH("/api/designs/{id}", {
          params: { path: { id: design.id } },
          body: { name: null, listId: next, description: null, tags: null, archived: null },
        }),
      );
      await queryClient.invalidateQueries({ queryKey: matchesKey(design.id, next) });
      await queryClient.invalidateQueries({ queryKey: keys.preview(design.id) });
      if (changed.openNames > 0) setDialog("matches");
    } catch (e) {
      sayWrong(e);
    }
  };
  const openAnew = () => void queryClient.refetchQueries({ queryKey: keys.designs(design.id) }).then(() => reopen());
  return {
    design,
    document,
    write,
    save,
    listId,
    list,
    columns,
    chooseList,
    dialog,
    setDialog,
    readOnly: tab.other || draft !== null,
    /** How many names of the design have no column in the list. */
    open: matches?.filter((m) => m.columnId === null).length ?? 0,
    draft,
    takeDraft: () => draft && reopen(complete(draft.document)),
    leaveDraft: () => {
      dropDraft(design.id);
      setDraft(null);
    },
    tab,
    writeHere: () => {
      tab.take();
      openAnew();
    },
    /** Opens what the server has. */
    reload: () => {
      dropDraft(design.id);
      openAnew();
    },
  };
}
