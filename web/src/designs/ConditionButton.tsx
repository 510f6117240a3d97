import { useQuery } from "@tanstack/react-query";
import { ListFilter } from "lucide-react";
import { useState } from "react";
import { createPortal } from "react-dom";
import { listQuery } from "../api/queries";
import { FilterBuilder } from "../lists/desk/FilterBuilder";

/** Picks a condition together: columns, comparisons, and values, dates from a calendar. It is the typed condition in another form. */
export function ConditionButton({ listId, test, onSet }: { listId: number; test: string; onSet: (test: string) => void }) {
  const [open, setOpen] = useState(false);
  const list = useQuery(listQuery(listId)).data;
  return (
    <>
      <button
        type="button"
        className="inline-flex cursor-pointer items-center gap-1"
        aria-label="Build a condition"
        title="Build a condition"
        disabled={!list}
        onClick={() => setOpen(true)}
      >
        <ListFilter size={12} />
      </button>
      {/* Outside the text: what is typed in it is not the letter's. */}
      {open &&
        list &&
        createPortal(
          <FilterBuilder
            list={list}
            text={test}
            title="Printed when"
            onClose={() => setOpen(false)}
            onUse={(where) => {
              setOpen(false);
              onSet(where);
            }}
          />,
          document.body,
        )}
    </>
  );
}
