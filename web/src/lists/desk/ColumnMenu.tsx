import { useEffect, useRef, useState } from "react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, ask, type Schema } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { act } from "./acts";
import { NameOrder } from "../NameOrder";
import { UsesDialog } from "./ColumnUses";
import { keys } from "../../api/keys";

type Column = Schema["Column"];

interface Props {
  list: Schema["ListView"];
  column: Column;
  at: DOMRect;
  onClose: () => void;
  onSort: (descending: boolean) => void;
  onChange: () => void;
  onHide: () => void;
}

/** What can be done with a column, under its heading. */
export function ColumnMenu({ list, column, at, onClose, onSort, onChange, onHide }: Props) {
  const ref = useRef<HTMLUListElement>(null);
  const [dividing, setDividing] = useState<Schema["Role"] | null>(null);
  const [removing, setRemoving] = useState(false);
  useEffect(() => {
    if (dividing || removing) return;
    ref.current?.querySelector("button")?.focus();
    const away = (e: PointerEvent) => !ref.current?.contains(e.target as Node) && onClose();
    window.addEventListener("pointerdown", away);
    return () => window.removeEventListener("pointerdown", away);
  }, [onClose, dividing, removing]);
  if (dividing) return <Divide list={list} column={column} whole={dividing} onClose={onClose} />;
  const path = { id: list.id, columnId: column.id };
  if (removing)
    return (
      <UsesDialog
        list={list}
        column={column}
        title={`Remove ${column.name}?`}
        effect="These use it. Drops that print it are checked again, and nothing is produced with a field that has no column."
        action={`Remove ${column.name}`}
        onClose={onClose}
        onDo={() => {
          // Closed at once, so that the keys are the table's again; what goes wrong is told in a notice.
          onClose();
          void act(list.id, ask(api.DELETE("/api/lists/{id}/columns/{columnId}", { params: { path } })));
        }}
      />
    );
  const whole: Schema["Role"] | null = ["Street", "City", "WholeAddress"].includes(column.role)
    ? "WholeAddress"
    : ["None", "FullName", "GivenName", "FamilyName"].includes(column.role) && column.type === "Text"
      ? "FullName"
      : null;
  const items: [string, () => void][] = [
    ["Sort ascending", () => onSort(false)],
    ["Sort descending", () => onSort(true)],
    ["Edit column…", onChange],
    ["Hide column", onHide],
    ...(whole && column.kind !== "Computed"
      ? ([[whole === "FullName" ? "Split full names…" : "Split full addresses…", () => setDividing(whole)]] as [string, () => void][])
      : []),
    [`Remove ${column.name}…`, () => setRemoving(true)],
  ];
  return (
    <ul
      ref={ref}
      role="menu"
      className="fixed z-40 w-56 rounded-box border border-base-300 bg-base-100 p-1 shadow-lg"
      style={{ top: at.bottom + 2, left: Math.min(at.left - 190, window.innerWidth - 240) }}
      onKeyDown={(e) => {
        if (e.key === "Escape") onClose();
        const buttons = [...(ref.current?.querySelectorAll("button") ?? [])];
        const now = buttons.indexOf(document.activeElement as HTMLButtonElement);
        if (e.key === "ArrowDown") buttons[(now + 1) % buttons.length]?.focus();
        else if (e.key === "ArrowUp") buttons[(now + buttons.length - 1) % buttons.length]?.focus();
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
    >
      {items.map(([label, run]) => (
        <li key={label} role="none">
          <button
            role="menuitem"
            className="w-full cursor-pointer truncate rounded px-2 py-1 text-left hover:bg-base-200"
            onClick={() => {
              run();
              // What asks further stays until that is answered.
              if (!label.endsWith("…") || run === onChange) onClose();
            }}
          >
            {label}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** Shows how a column would be divided before it is. */
function Divide({
  list,
  column,
  whole,
  onClose,
}: {
  list: Schema["ListView"];
  column: Column;
  whole: Schema["Role"];
  onClose: () => void;
}) {
  const path = { id: list.id, columnId: column.id };
  // What the values tell, until somebody says otherwise.
  const [familyFirst, setFamilyFirst] = useState<boolean | undefined>();
  const preview = useQuery({
    queryKey: keys.lists(list.id, "divide", column.id, whole, familyFirst),
    queryFn: () => ask(api.GET("/api/lists/{id}/columns/{columnId}/divide", { params: { path, query: { whole, familyFirst } } })),
    placeholderData: keepPreviousData,
  }).data;
  return (
    <Dialog title={`Split ${column.name}`} onClose={onClose} wide>
      <p className="mb-2 text-faint">Each part gets its own new column. {column.name} stays unchanged.</p>
      {whole === "FullName" && preview && <NameOrder familyFirst={familyFirst ?? preview.familyFirst} onChange={setFamilyFirst} />}
      <PartsTable parts={preview?.parts ?? []} />
      <div className="mt-3 flex justify-end gap-2">
        <button className="btn btn-quiet" onClick={onClose}>
          Don’t split
        </button>
        <button
          className="btn btn-primary"
          disabled={!preview || preview.parts.length < 2}
          onClick={() =>
            void act(
              list.id,
              ask(
                api.POST("/api/lists/{id}/columns/{columnId}/divide", {
                  params: { path },
                  body: { whole, familyFirst: preview?.familyFirst ?? null },
                }),
              ),
            ).then(onClose)
          }
        >
          Split
        </button>
      </div>
    </Dialog>
  );
}

/** A preview of divided values: headings first, the whole value in the first column. */
export function PartsTable({ parts }: { parts: (string | null)[][] }) {
  const [head, ...rows] = parts;
  if (!head || rows.length === 0) return <p className="text-faint">Nothing in this column can be split.</p>;
  return (
    <table className="w-full text-[12.5px]">
      <thead>
        <tr className="text-left text-faint">
          {head.map((h, i) => (
            <th key={i} className="border-b border-line py-1 pr-3 font-normal">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((r, i) => (
          <tr key={i}>
            {r.map((v, n) => (
              <td key={n} className={`border-b border-line py-1 pr-3 ${n === 0 ? "text-faint" : ""}`}>
                {v ?? <span className="text-faint">·</span>}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
