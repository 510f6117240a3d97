import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { JSONContent } from "@tiptap/core";
import { NodeSelection } from "@tiptap/pm/state";
import { EditorContent, useEditor, useEditorState } from "@tiptap/react";
import { ChevronDown, ChevronUp, History } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { designQuery, listQuery, listsQuery, settingsQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { sayWrong } from "../ui/notices";
import { fromBase64, PdfPages } from "../ui/PdfPages";
import { useDelayed } from "../ui/useDelayed";
import { useSize } from "../ui/useSize";
import { count } from "../ui/words";
import { ChipPanel } from "./ChipPanel";
import { letterExtensions } from "./extensions";
import { builtIns, FieldsPane } from "./FieldsPane";
import { Mistakes } from "./FieldNode";
import { completeLetter, sheetPixels } from "./letter";
import { PageDialog } from "./PageDialog";
import { Toolbar } from "./Toolbar";
import { useAutosave, type SaveState } from "./useAutosave";
import { VersionsDialog } from "./VersionsDialog";

export function LetterPage() {
  const id = Number(useParams().id);
  const design = useQuery({ ...designQuery(id), refetchOnWindowFocus: false, staleTime: Infinity });
  const [opened, setOpened] = useState(0);
  if (design.error) return <p className="p-8 text-error">{design.error.message}</p>;
  if (!design.data) return null;
  // Bringing an old version back opens the editor anew.
  return <Writing key={`${id}.${opened}`} design={design.data} reopen={() => setOpened((n) => n + 1)} />;
}

function Writing({ design, reopen }: { design: Schema["DesignDetail"]; reopen: () => void }) {
  const [letter, setLetter] = useState(() => completeLetter(design.document));
  const [listId, setListId] = useState(design.listId);
  const [pageOpen, setPageOpen] = useState(false);
  const [versionsOpen, setVersionsOpen] = useState(false);
  const lists = useQuery(listsQuery()).data ?? [];
  const families = useQuery(settingsQuery()).data?.families ?? [letter.type.family];
  const list = useQuery({ ...listQuery(listId ?? 0), enabled: listId !== null }).data;
  const columns = useMemo(() => list?.columns ?? [], [list]);
  const save = useAutosave(design.id, design.version);

  const choices = useRef<{ name: string; hint: string }[]>([]);
  useEffect(() => {
    choices.current = [...columns.map((c) => ({ name: c.name, hint: { Text: "text", Number: "number", Date: "date", YesNo: "yes/no" }[c.type] })), ...builtIns];
  }, [columns]);
  const editor = useEditor({
    extensions: useMemo(() => letterExtensions(() => choices.current), []),
    content: { type: "doc", content: letter.content.length ? letter.content : [{ type: "paragraph" }] } satisfies JSONContent,
    editorProps: { attributes: { "aria-label": "Letter", spellcheck: "true" } },
    onCreate: ({ editor: e }) => {
      // The first thing may be a picture; writing begins in the text.
      let start = 0;
      e.state.doc.forEach((node, offset) => (start ||= node.type.name === "paragraph" ? offset + 1 : 0));
      e.commands.setTextSelection(start);
    },
    onUpdate: ({ editor: e }) => setLetter((l) => ({ ...l, content: e.getJSON().content })),
  });
  const first = useRef(letter);
  const { change } = save;
  useEffect(() => {
    if (letter !== first.current) change(letter);
  }, [letter, change]);

  // The finished page of a recipient follows the typing.
  const [offset, setOffset] = useState(0);
  const delayed = useDelayed(letter, 250);
  const preview = useQuery({
    queryKey: ["preview", design.id, listId, offset, delayed],
    queryFn: () => ask(api.POST("/api/designs/preview", { body: { document: delayed as unknown as Record<string, never>, listId, offset } })),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  });
  const shown = preview.data;
  const pdf = useMemo(() => (shown ? fromBase64(shown.pdf) : undefined), [shown]);
  const mistakes = useMemo(() => new Map(shown?.mistakes.map((m) => [m.source.replace(/^\{|\}$/g, ""), m.message])), [shown]);
  const walk = (by: number) => setOffset((o) => Math.max(0, Math.min((shown?.recipients ?? 1) - 1, o + by)));

  const chip = useEditorState({
    editor,
    selector: ({ editor: e }) => {
      const selection = e.state.selection;
      return selection instanceof NodeSelection && selection.node.type.name === "field" ? { source: String(selection.node.attrs.source), from: selection.from } : null;
    },
  });
  const setChip = (source: string) => {
    if (!chip) return;
    // Leaving a box of the panel sets the field, too; then the writer is elsewhere already and must not be called back.
    const still = editor.state.selection instanceof NodeSelection && editor.state.selection.from === chip.from && !editor.isFocused;
    const set = editor.chain().command(({ tr }) => (tr.setNodeAttribute(chip.from, "source", source), true));
    (still ? set.setNodeSelection(chip.from) : set).run();
  };
  const insert = (names: string[]) => {
    const marks = (editor.state.storedMarks ?? editor.state.selection.$from.marks()).map((m) => m.toJSON() as { type: string });
    const content = names.flatMap((name, i): JSONContent[] => [...(i > 0 ? [{ type: "text", text: " " }] : []), { type: "field", attrs: { source: name }, marks }]);
    editor.chain().focus().insertContent(content).run();
  };
  const chooseList = async (value: string) => {
    const next = value ? Number(value) : null;
    setListId(next);
    setOffset(0);
    try {
      await ask(api.PATCH("/api/designs/{id}", { params: { path: { id: design.id } }, body: { name: null, listId: next } }));
    } catch (e) {
      sayWrong(e);
    }
  };
  useActions([
    { label: "Set the page", run: () => setPageOpen(true) },
    { label: "Versions of this letter", run: () => setVersionsOpen(true) },
    { keys: "ArrowDown", label: "Next recipient", run: () => walk(1), quiet: true },
    { keys: "ArrowUp", label: "Recipient before", run: () => walk(-1), quiet: true },
  ]);

  const [area, size] = useSize<HTMLDivElement>();
  const sheet = sheetPixels(letter.page);
  const zoom = size.width > 0 ? Math.min(1, (size.width - 48) / sheet.width) : 0.7;
  const m = letter.page.margins;
  return (
    <Mistakes.Provider value={mistakes}>
      <Header kind="Letter" title={<Name design={design} />} state={<Saved state={save.state} version={save.version} usedIn={design.usedIn} retry={() => void save.flush()} />}>
        <button className="btn btn-quiet" onClick={() => setVersionsOpen(true)}>
          <History size={15} /> Versions
        </button>
        <label className="flex items-center gap-2">
          <span className="text-faint">shown with</span>
          <select className="select select-sm w-52" aria-label="Shown with" value={listId ?? ""} onChange={(e) => void chooseList(e.target.value)}>
            <option value="">no list</option>
            {lists.map((l) => (
              <option key={l.id} value={l.id}>
                {l.name}
              </option>
            ))}
          </select>
        </label>
        {listId !== null && (
          <Link className="btn btn-primary" to={`/campaigns/new?list=${listId}&design=${design.id}`}>
            Make a drop
          </Link>
        )}
      </Header>
      <div className="flex min-h-0 flex-1">
        <FieldsPane columns={columns} listId={listId} onInsert={insert} />
        <section className="flex min-w-0 flex-1 flex-col" aria-label="Writing">
          <Toolbar editor={editor} letter={letter} families={families} onPage={() => setPageOpen(true)} />
          <div ref={area} className="min-h-0 flex-1 overflow-auto bg-base-200 py-5">
            <div
              className="paper letter-page mx-auto"
              style={
                {
                  zoom,
                  width: sheet.width,
                  minHeight: sheet.height,
                  padding: `${m.top}mm ${m.right}mm ${m.bottom}mm ${m.left}mm`,
                  fontFamily: `"${letter.type.family}"`,
                  fontSize: `${letter.type.size}pt`,
                  lineHeight: letter.type.lineSpacing,
                  "--space-after": `${letter.type.spaceAfter}pt`,
                } as React.CSSProperties
              }
              onMouseDown={(e) => {
                if (e.target === e.currentTarget) {
                  e.preventDefault();
                  editor.commands.focus("end");
                }
              }}
            >
              <EditorContent editor={editor} />
            </div>
          </div>
        </section>
        <section className="on-sand flex w-[352px] shrink-0 flex-col border-l border-line bg-base-200" aria-label="Finished page">
          <div className="flex h-10 shrink-0 items-center gap-1 border-b border-line px-3">
            <span className="min-w-0 flex-1 truncate font-semibold">{shown?.recipient ?? (listId === null ? "No recipient: choose a list" : "…")}</span>
            {shown?.recipient && (
              <span className="text-faint">
                {count(shown.offset + 1)} of {count(shown.recipients)}
              </span>
            )}
            <button className="btn btn-ghost btn-xs btn-square" aria-label="Recipient before" disabled={offset === 0} onClick={() => walk(-1)}>
              <ChevronUp size={15} />
            </button>
            <button className="btn btn-ghost btn-xs btn-square" aria-label="Next recipient" disabled={!shown || offset >= shown.recipients - 1} onClick={() => walk(1)}>
              <ChevronDown size={15} />
            </button>
          </div>
          <div className="min-h-0 flex-1 overflow-auto p-3" role="region" tabIndex={0} aria-label="Finished pages">
            <PdfPages data={pdf} width={324} mark={preview.isPlaceholderData ? "" : String(offset)} />
            {preview.error && <p className="p-3 text-error">{preview.error.message}</p>}
            {shown && shown.findings.length > 0 && (
              <ul className="mt-3 flex flex-col gap-1">
                {shown.findings.map((f) => (
                  <li key={f} className="border-l-[3px] border-warning bg-doubt px-2 py-1">
                    {f}
                  </li>
                ))}
              </ul>
            )}
          </div>
          {chip && <ChipPanel key={chip.from} source={chip.source} columns={columns} listId={listId} mistake={mistakes.get(chip.source)} onChange={setChip} onRemove={() => editor.chain().focus().deleteSelection().run()} />}
        </section>
      </div>
      {pageOpen && <PageDialog letter={letter} families={families} onChange={(part) => setLetter((l) => ({ ...l, ...part }))} close={() => setPageOpen(false)} />}
      {versionsOpen && (
        <VersionsDialog
          designId={design.id}
          close={() => setVersionsOpen(false)}
          onRestored={() => {
            setVersionsOpen(false);
            void queryClient.refetchQueries({ queryKey: ["designs", design.id] }).then(reopen);
          }}
          before={save.flush}
        />
      )}
    </Mistakes.Provider>
  );
}

function Name({ design }: { design: Schema["DesignDetail"] }) {
  const [name, setName] = useState(design.name);
  const keep = async () => {
    if (!name.trim() || name === design.name) return setName(design.name);
    try {
      await ask(api.PATCH("/api/designs/{id}", { params: { path: { id: design.id } }, body: { name, listId: null } }));
      await queryClient.invalidateQueries({ queryKey: ["designs"] });
    } catch (e) {
      sayWrong(e);
    }
  };
  return <input className="w-56 rounded bg-transparent px-1 -ml-1 hover:bg-base-200" aria-label="Name of the letter" value={name} maxLength={120} onChange={(e) => setName(e.target.value)} onBlur={() => void keep()} onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()} />;
}

function Saved({ state, version, usedIn, retry }: { state: SaveState; version: number; usedIn: string[]; retry: () => void }) {
  return (
    <>
      {typeof state === "object" ? (
        <div className="text-error" role="alert">
          Not saved: {state.wrong}{" "}
          <button className="cursor-pointer underline" onClick={retry}>
            Try again
          </button>
        </div>
      ) : (
        <div data-testid="save-state">
          version {version}, {state === "saved" ? "saved" : "saving…"}
        </div>
      )}
      <div className="max-w-80 truncate">{usedIn.length ? `used in ${usedIn.join("; ")}` : "not used yet"}</div>
    </>
  );
}
