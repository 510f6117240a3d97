import { useQuery } from "@tanstack/react-query";
import type { Editor } from "@tiptap/core";
import { NodeSelection } from "@tiptap/pm/state";
import { useEditorState } from "@tiptap/react";
import { CirclePlus, Crosshair } from "lucide-react";
import { useState } from "react";
import { type Schema } from "../api/client";
import { readField } from "./fieldSource";
import type { UsedField } from "./letter";
import { detailsQuery } from "../api/queries";
import { cellText } from "../lists/columns";
import { Beside } from "../ui/Beside";

export const builtIns = [
  { name: "Delivery address", hint: "From column roles" },
  { name: "Salutation", hint: "From column roles" },
  { name: "Today", hint: "Date of the run" },
  { name: "Piece number", hint: "0001" },
  { name: "Sender", hint: "organization" },
  { name: "Name in full", hint: "From column roles" },
  { name: "Household name", hint: "From column roles" },
  { name: "Family name first", hint: "From column roles" },
];
const pageFields = [
  { name: "Page number", hint: "1" },
  { name: "Page count", hint: "1" },
];

interface Props {
  editor: Editor;
  columns: Schema["Column"][];
  /** The shown recipient's values, in the order of the columns. */
  values: (string | null)[];
  listId: number | null;
  used: UsedField[];
  inBand: boolean;
  mistakes: ReadonlyMap<string, string>;
  onInsert: (names: string[]) => void;
}

const room = "w-[212px] shrink-0 border-r border-line";

/** Its place while the editor is being made ready: the page must not jump aside when it comes. */
export const FieldsPaneToCome = () => <div className={`${room} max-[1000px]:hidden`} />;

/** The fields at hand: a click puts one in, ticks put several in at once; below them where the letter has them already. */
export function FieldsPane({ editor, columns, values, listId, used, inBand, mistakes, onInsert }: Props) {
  const [find, setFind] = useState("");
  const [ticked, setTicked] = useState<string[]>([]);
  const [pane, setPane] = useState<"all" | "used">("all");
  const sets = useQuery({ ...detailsQuery(listId ?? 0), enabled: listId !== null }).data;
  const selected = useEditorState({
    editor,
    selector: ({ editor: e }) => {
      const { from, to, empty, $from, $to } = e.state.selection;
      return empty || e.state.selection instanceof NodeSelection || !$from.sameParent($to)
        ? ""
        : e.state.doc.textBetween(from, to, " ").trim().slice(0, 60);
    },
  });
  const fits = (name: string) => name.toLowerCase().includes(find.trim().toLowerCase());
  const line = (name: string, hint: string, likely = false) => (
    <li key={name} className={`group flex h-7 items-center gap-1.5 ${likely ? "bg-doubt" : ""}`}>
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        aria-label={`Select ${name}`}
        checked={ticked.includes(name)}
        onChange={(e) => setTicked(e.target.checked ? [...ticked, name] : ticked.filter((t) => t !== name))}
      />
      <button
        className="flex min-w-0 flex-1 cursor-pointer items-center gap-2 rounded px-1 text-left hover:bg-base-200"
        title={selected ? `Replace “${selected}” with {${name}}` : `Insert {${name}}`}
        onMouseDown={(e) => e.preventDefault()}
        onClick={() => onInsert([name])}
      >
        <span className="max-w-[70%] shrink-0 truncate">{name}</span>
        <span className="min-w-0 flex-1 truncate text-right text-faint">{hint}</span>
        <CirclePlus size={13} className="shrink-0 opacity-0 group-hover:opacity-70" />
      </button>
    </li>
  );
  // A selected word that is the shown recipient's value is most likely that column.
  const likely = (i: number) =>
    selected !== "" &&
    [values[i], cellText(columns[i]?.type ?? "", values[i])].some((v) => v?.trim().toLowerCase() === selected.toLowerCase());
  const counts = new Map<string, number>();
  for (const field of used) counts.set(field.source, (counts.get(field.source) ?? 0) + 1);
  const go = (source: string) => {
    const places: number[] = [];
    editor.state.doc.descendants((node, at) => void (node.type.name === "field" && node.attrs.source === source && places.push(at)));
    if (places.length === 0) return;
    const next = places.find((p) => p > editor.state.selection.from) ?? places[0] ?? 0;
    editor
      .chain()
      .focus()
      .command(({ tr }) => (tr.setSelection(NodeSelection.create(tr.doc, next)), true))
      .scrollIntoView()
      .run();
  };
  return (
    <Beside label="Fields" className={`flex flex-col ${room}`} side="left" from={1000}>
      <div className="px-3 pt-2 pb-2">
        <div className="mb-1.5 flex gap-3" role="tablist">
          {(
            [
              ["all", "Fields"],
              ["used", `Used ${used.length}`],
            ] as const
          ).map(([key, label]) => (
            <button
              key={key}
              role="tab"
              aria-selected={pane === key}
              className={`cursor-pointer border-b-2 py-0.5 text-[13px] ${pane === key ? "border-primary font-semibold" : "border-transparent text-faint"}`}
              onClick={() => setPane(key)}
            >
              {label}
            </button>
          ))}
        </div>
        <input
          className="input input-sm w-full"
          aria-label="Search fields"
          placeholder="Search, or type { in the text"
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
        {selected !== "" && pane === "all" && (
          <p className="mt-1.5 bg-doubt px-1.5 py-1 text-[12px]">
            Click a field to replace <b>{selected}</b>.
          </p>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-auto px-3 pb-3" role="region" tabIndex={0} aria-label="All fields">
        {pane === "all" ? (
          <>
            <h3 className="mt-1 text-[12px] text-faint">Built-in fields</h3>
            <ul>{[...builtIns, ...(inBand ? pageFields : [])].filter((b) => fits(b.name)).map((b) => line(b.name, b.hint))}</ul>
            <h3 className="mt-2 text-[12px] text-faint">Columns</h3>
            {columns.length === 0 && <p className="text-faint">Choose a list above to use its columns as fields.</p>}
            <ul>{columns.map((c, i) => (fits(c.name) ? line(c.name, cellText(c.type, values[i]) ?? "", likely(i)) : null))}</ul>
            {sets?.map((set) => (
              <div key={set.id}>
                <h3 className="mt-2 text-[12px] text-faint">{set.name} (detail rows)</h3>
                <ul>{set.columns.map((c) => (fits(c.name) ? line(c.name, "Inside “each”") : null))}</ul>
                {fits(set.name) && <ul>{line(`count(${set.name})`, "Number of rows")}</ul>}
                <ul>
                  {set.columns.map((c) => (c.type === "Number" && fits(c.name) ? line(`sum(${set.name}.${c.name})`, "total") : null))}
                </ul>
              </div>
            ))}
          </>
        ) : (
          <ul aria-label="Used fields">
            {counts.size === 0 && <li className="text-faint">No fields yet.</li>}
            {[...counts].map(([source, n]) =>
              fits(source) ? (
                <li key={source}>
                  <button
                    className={`flex h-7 w-full cursor-pointer items-center gap-2 rounded px-1 text-left hover:bg-base-200 ${mistakes.has(source) ? "text-doubt-ink" : ""}`}
                    title={mistakes.get(source) ?? `Find {${source}} in the text`}
                    onClick={() => go(source)}
                  >
                    <Crosshair size={13} className="shrink-0 text-faint" />
                    <span className="min-w-0 flex-1 truncate">{readField(source).expression}</span>
                    <span className="max-w-20 truncate text-[11px] text-faint">{readField(source).formats.join(" ")}</span>
                    {n > 1 && <span className="text-faint">{n}×</span>}
                  </button>
                </li>
              ) : null,
            )}
          </ul>
        )}
      </div>
      {ticked.length > 0 && pane === "all" && (
        <div className="border-t border-line p-3">
          <button
            className="btn btn-primary btn-sm w-full"
            onMouseDown={(e) => e.preventDefault()}
            onClick={() => {
              onInsert(ticked);
              setTicked([]);
            }}
          >
            Insert {ticked.length === 1 ? "1 field" : `${ticked.length} fields`}
          </button>
        </div>
      )}
    </Beside>
  );
}
