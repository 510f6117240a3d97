import type { Editor } from "@tiptap/core";
import { useEditorState } from "@tiptap/react";
import {
  AlignCenter,
  AlignJustify,
  AlignLeft,
  AlignRight,
  ArrowDownToLine,
  ArrowLeftToLine,
  ArrowRightToLine,
  ArrowUpToLine,
  Asterisk,
  Bold,
  Columns2,
  CopyPlus,
  FileCog,
  Frame,
  GitBranch,
  ImagePlus,
  Italic,
  Link2,
  List,
  ListOrdered,
  Minus,
  Quote,
  Redo2,
  Repeat2,
  SeparatorHorizontal,
  Search,
  Sheet,
  SquareDashed,
  Strikethrough,
  Subscript,
  Superscript,
  Table2,
  TableCellsMerge,
  TableCellsSplit,
  Trash2,
  Underline,
  Undo2,
  UnfoldVertical,
} from "lucide-react";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { sendFile, type Schema } from "../api/client";
import { useActions } from "../ui/keys";
import { NumberField } from "../ui/NumberField";
import { sayWrong } from "../ui/notices";
import { putBracket, rowAt, setRowBracket } from "./brackets";
import { FindBar } from "./FindBar";
import type { Letter } from "./letter";
import { wholeAddress } from "./links";
import { ButtonTool } from "./ButtonTool";
import { cellSides, followTable, type CellLines } from "./nodes/tables";

const pixelSizes = [12, 13, 14, 15, 16, 18, 20, 22, 24, 28, 32, 40, 48];
const sizes = [8, 9, 10, 10.5, 11, 12, 13, 14, 16, 17, 18, 20, 24, 28, 36, 48];
const inks = ["#000000", "#1e5b4a", "#b4541f", "#a63a2b", "#4a6178", "#6b5b45", "#8a8577"];
const shades = ["", "#f2ede3", "#e4efe9", "#fdf0d3", "#e9edf2", "#f6e4df"];

interface Props {
  editor: Editor;
  letter: Letter;
  families: string[];
  sets: string[];
  pieces: React.ReactNode;
  /** Opens the settings of the page; null where they cannot be changed. */
  onPage: (() => void) | null;
  /** False where there are no pages to break. */
  paged?: boolean;
}

/** Brings a picture's file in and says how large it begins. */
export async function bringPicture(file: File) {
  const picture = await sendFile<Schema["PictureRow"]>(`/api/pictures?name=${encodeURIComponent(file.name)}`, file);
  const drawing = picture.mediaType === "image/svg+xml" || picture.mediaType === "application/pdf";
  const width = Math.min(120, Math.max(10, Math.round((picture.width / (drawing ? 72 : 150)) * 25.4)));
  return { picture, attrs: { asset: picture.id, width, aspect: picture.width / picture.height, alt: file.name.replace(/\.[^.]+$/, "") } };
}

/** What can be done to the text that is selected: above its letters, below its paragraphs, and last the table that one stands in. */
export function Toolbar({ editor, letter, families, sets, pieces, onPage, paged = true }: Props) {
  const file = useRef<HTMLInputElement>(null);
  const s = useEditorState({
    editor,
    selector: ({ editor: e }) => {
      const block = e.isActive("heading") ? "heading" : "paragraph";
      const attrs = e.getAttributes(block);
      return {
        bold: e.isActive("bold"),
        italic: e.isActive("italic"),
        underline: e.isActive("underline"),
        strike: e.isActive("strike"),
        superscript: e.isActive("superscript"),
        subscript: e.isActive("subscript"),
        link: e.isActive("link"),
        color: (e.getAttributes("textStyle").color as string | undefined) ?? "#000000",
        family: (e.getAttributes("textStyle").fontFamily as string | undefined) ?? letter.type.family,
        size: parseFloat((e.getAttributes("textStyle").fontSize as string | undefined) ?? `${letter.type.size}`),
        picture: e.isActive("picture"),
        align: e.isActive("picture") ? String(e.getAttributes("picture").align) : String(attrs.textAlign ?? "left"),
        level: e.isActive("heading") ? Number(attrs.level) : 0,
        lineSpacing: (attrs.lineSpacing as number | null) ?? letter.type.lineSpacing,
        spaceBefore: (attrs.spaceBefore as number | null) ?? 0,
        spaceAfter: (attrs.spaceAfter as number | null) ?? letter.type.spaceAfter,
        indent: (attrs.indent as number | null) ?? 0,
        indentRight: (attrs.indentRight as number | null) ?? 0,
        firstLine: (attrs.firstLine as number | null) ?? 0,
        bullet: e.isActive("bulletList"),
        numbered: e.isActive("orderedList"),
        quote: e.isActive("blockquote"),
        table: e.isActive("table"),
        canUndo: e.can().undo(),
        canRedo: e.can().redo(),
      };
    },
  });
  const button = (label: string, Icon: typeof Bold, active: boolean, run: () => void, off = false) => (
    <button
      key={label}
      className={`btn btn-sm btn-square h-7 w-[26px] ${active ? "btn-primary" : "btn-ghost"}`}
      aria-label={label}
      title={label}
      aria-pressed={active}
      disabled={off}
      onMouseDown={(e) => e.preventDefault()}
      onClick={run}
    >
      <Icon size={15} />
    </button>
  );
  const align = (to: string) =>
    s.picture ? editor.chain().focus().updateAttributes("picture", { align: to }).run() : editor.chain().focus().setTextAlign(to).run();
  const bring = async (picked: File | undefined) => {
    if (!picked) return;
    try {
      const { attrs } = await bringPicture(picked);
      editor
        .chain()
        .focus()
        .insertContent({ type: "picture", attrs: { ...attrs, align: "left" } })
        .run();
    } catch (e) {
      sayWrong(e);
    }
  };
  const divider = <span className="mx-1 h-5 shrink-0 border-l border-base-300" />;
  const [finding, setFinding] = useState(false);
  useEffect(() => {
    editor.storage.findInText.open = () => setFinding(true);
    return () => {
      editor.storage.findInText.open = null;
    };
  }, [editor]);
  useActions([{ keys: "Ctrl+f", label: "Find and replace in the text", run: () => setFinding(true) }]);
  return (
    <>
      <div className="@container shrink-0 border-b border-line px-2 py-0.5" role="toolbar" aria-label="Text">
        <div className="flex min-h-8 flex-wrap items-center gap-0.5">
          {button("Undo (Ctrl Z)", Undo2, false, () => editor.chain().focus().undo().run(), !s.canUndo)}
          {button("Redo (Ctrl Y)", Redo2, false, () => editor.chain().focus().redo().run(), !s.canRedo)}
          {divider}
          <select
            className="select select-sm w-[120px] shrink-0 pr-6 pl-2"
            aria-label="Font"
            value={s.family}
            onChange={(e) =>
              e.target.value === letter.type.family
                ? editor.chain().focus().unsetFontFamily().run()
                : editor.chain().focus().setFontFamily(e.target.value).run()
            }
          >
            {families.map((f) => (
              <option key={f}>{f}</option>
            ))}
          </select>
          <select
            className="select select-sm w-[74px] shrink-0 pr-6 pl-2"
            aria-label="Size"
            value={s.size}
            onChange={(e) =>
              Number(e.target.value) === letter.type.size
                ? editor.chain().focus().unsetFontSize().run()
                : editor.chain().focus().setFontSize(`${e.target.value}pt`).run()
            }
          >
            {[...new Set([...(paged ? sizes : pixelSizes.map((px) => px * 0.75)), s.size])]
              .sort((a, b) => a - b)
              .map((n) => (
                <option key={n} value={n}>
                  {paged ? `${n} pt` : `${Math.round(n / 0.75)} px`}
                </option>
              ))}
          </select>
          {button("Bold (Ctrl B)", Bold, s.bold, () => editor.chain().focus().toggleBold().run())}
          {button("Italic (Ctrl I)", Italic, s.italic, () => editor.chain().focus().toggleItalic().run())}
          {button("Underline (Ctrl U)", Underline, s.underline, () => editor.chain().focus().toggleUnderline().run())}
          {button("Strikethrough", Strikethrough, s.strike, () => editor.chain().focus().toggleStrike().run())}
          {button("Superscript", Superscript, s.superscript, () => editor.chain().focus().toggleSuperscript().run())}
          {button("Subscript", Subscript, s.subscript, () => editor.chain().focus().toggleSubscript().run())}
          <Ink
            value={s.color}
            choices={inks}
            label="Color of the text"
            onPick={(c) => (c === inks[0] ? editor.chain().focus().unsetColor().run() : editor.chain().focus().setColor(c).run())}
          />
          <LinkButton editor={editor} active={s.link} />
          {button("Find and replace (Ctrl F)", Search, finding, () => setFinding(!finding))}
          <span className="flex-1" />
          <button
            className="btn btn-ghost btn-sm h-7"
            onMouseDown={(e) => e.preventDefault()}
            onClick={() => putBracket(editor, "when", "")}
            title="Print the selection only for recipients who meet a condition"
          >
            <GitBranch size={14} /> <span className="@max-[690px]:sr-only">When</span>
          </button>
          <button
            className="btn btn-ghost btn-sm h-7"
            disabled={sets.length === 0}
            onMouseDown={(e) => e.preventDefault()}
            onClick={() => putBracket(editor, "each", sets[0] ?? "")}
            title={sets.length === 0 ? "This list has no detail rows" : "Repeat the selection for each detail row"}
          >
            <Repeat2 size={14} /> <span className="@max-[690px]:sr-only">Each</span>
          </button>
        </div>
        <div className="flex min-h-8 flex-wrap items-center gap-0.5">
          <label className="flex shrink-0 items-center" title="Paragraph style">
            <select
              className="select select-sm w-[96px] shrink-0 pr-6 pl-2"
              aria-label="Paragraph style"
              value={s.level}
              onChange={(e) =>
                Number(e.target.value) === 0
                  ? editor.chain().focus().setNode("paragraph").run()
                  : editor
                      .chain()
                      .focus()
                      .setHeading({ level: Number(e.target.value) as 1 | 2 | 3 })
                      .run()
              }
            >
              <option value={0}>Text</option>
              <option value={1}>Heading 1</option>
              <option value={2}>Heading 2</option>
              <option value={3}>Heading 3</option>
            </select>
          </label>
          {button("Left", AlignLeft, s.align === "left", () => align("left"))}
          {button("Centered", AlignCenter, s.align === "center", () => align("center"))}
          {button("Right", AlignRight, s.align === "right", () => align("right"))}
          {!s.picture && button("Justified", AlignJustify, s.align === "justify", () => align("justify"))}
          {button("Bulleted list", List, s.bullet, () => editor.chain().focus().toggleBulletList().run())}
          {button("Numbered list", ListOrdered, s.numbered, () => editor.chain().focus().toggleOrderedList().run())}
          {button("Block quote", Quote, s.quote, () => editor.chain().focus().toggleBlockquote().run())}
          <Spacing
            lineSpacing={s.lineSpacing}
            before={s.spaceBefore}
            after={s.spaceAfter}
            indent={s.indent}
            indentRight={s.indentRight}
            firstLine={s.firstLine}
            onSet={(attributes) => editor.chain().focus().setMeasures(attributes).run()}
          />
          {divider}
          {button("Insert picture", ImagePlus, false, () => file.current?.click())}
          {button("Table", Table2, false, () => editor.chain().focus().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run())}
          {button("Horizontal line", Minus, false, () => editor.chain().focus().setHorizontalRule().run())}
          {paged && <MoreParts editor={editor} />}
          {!paged && <ButtonTool editor={editor} />}
          {paged && button("Page break (Ctrl Enter)", SeparatorHorizontal, false, () => editor.chain().focus().setPageBreak().run())}
          <span className="flex-1" />
          {pieces}
          {onPage && (
            <button className="btn btn-ghost btn-sm h-7" onClick={onPage} aria-label="Page">
              <FileCog size={15} /> Page
            </button>
          )}
          <input
            ref={file}
            type="file"
            className="hidden"
            accept="image/png,image/jpeg,image/svg+xml"
            aria-label="Picture file"
            onChange={(e) => {
              void bring(e.target.files?.[0]);
              e.target.value = "";
            }}
          />
        </div>
        {s.table && (
          <div className="flex min-h-8 flex-wrap items-center gap-0.5" role="group" aria-label="Table">
            <TableTools editor={editor} sets={sets} button={button} divider={divider} />
          </div>
        )}
      </div>
      {finding && <FindBar editor={editor} close={() => setFinding(false)} />}
    </>
  );
}

/** A small menu that closes when one clicks elsewhere. */
export function Drop({
  label,
  face,
  children,
  wide,
}: {
  label: string;
  face: React.ReactNode;
  children: (close: () => void) => React.ReactNode;
  wide?: boolean;
}) {
  const [open, setOpen] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    if (!open) return;
    const away = (e: MouseEvent) => !box.current?.contains(e.target as globalThis.Node) && setOpen(false);
    const key = (e: KeyboardEvent) => e.key === "Escape" && setOpen(false);
    document.addEventListener("mousedown", away);
    document.addEventListener("keydown", key);
    return () => {
      document.removeEventListener("mousedown", away);
      document.removeEventListener("keydown", key);
    };
  }, [open]);
  return (
    <div ref={box} className="relative">
      <button
        className="btn btn-ghost btn-sm h-7 gap-1 px-1.5"
        aria-label={label}
        title={label}
        aria-expanded={open}
        onMouseDown={(e) => e.preventDefault()}
        onClick={() => setOpen(!open)}
      >
        {face}
      </button>
      {open && (
        <div
          role="dialog"
          aria-label={label}
          className={`absolute right-0 z-40 mt-1 rounded-box border border-base-300 bg-base-100 p-2 shadow-lg ${wide ? "w-72" : "w-max"}`}
        >
          {children(() => setOpen(false))}
        </div>
      )}
    </div>
  );
}

function Ink({ value, choices, label, onPick }: { value: string; choices: string[]; label: string; onPick: (color: string) => void }) {
  return (
    <Drop
      label={label}
      face={
        <span
          className="h-4 w-4 rounded-sm border border-base-300"
          style={{ background: value || "repeating-linear-gradient(45deg,#ccc 0 2px,#fff 2px 4px)" }}
        />
      }
    >
      {(close) => (
        <div className="flex items-center gap-1">
          {choices.map((c) => (
            <button
              key={c}
              className={`h-6 w-6 cursor-pointer rounded-sm border ${c === value ? "border-2 border-primary" : "border-base-300"}`}
              style={{ background: c || "#fff" }}
              aria-label={c || "none"}
              onMouseDown={(e) => e.preventDefault()}
              onClick={() => {
                onPick(c);
                close();
              }}
            />
          ))}
          <input
            type="color"
            className="h-6 w-8 cursor-pointer"
            aria-label="Another color"
            value={value || "#ffffff"}
            onChange={(e) => onPick(e.target.value)}
          />
        </div>
      )}
    </Drop>
  );
}

/** What is put into letters less often. What is selected goes into a box or into columns; else they begin empty. */
function MoreParts({ editor }: { editor: Editor }) {
  const part = (label: string, Icon: typeof Bold, run: () => void, close: () => void) => (
    <button
      className="btn btn-ghost btn-sm justify-start"
      onMouseDown={(e) => e.preventDefault()}
      onClick={() => {
        run();
        close();
      }}
    >
      <Icon size={15} /> {label}
    </button>
  );
  return (
    <Drop label="Insert a box, columns, or a footnote" face={<CopyPlus size={15} />}>
      {(close) => (
        <div className="flex flex-col">
          {part(
            "Text box",
            SquareDashed,
            () =>
              editor
                .chain()
                .focus()
                .putInto("box", { border: { width: 0.75, color: "#000000" }, place: "right" })
                .run(),
            close,
          )}
          {part("Columns", Columns2, () => editor.chain().focus().putInto("columns", { count: 2 }).run(), close)}
          {part("Footnote", Asterisk, () => editor.chain().focus().putFootnote().run(), close)}
        </div>
      )}
    </Drop>
  );
}

function LinkButton({ editor, active }: { editor: Editor; active: boolean }) {
  return (
    <Drop label="Link" face={<Link2 size={15} className={active ? "text-primary" : ""} />} wide>
      {(close) => (
        <form
          className="flex flex-col gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            const full = wholeAddress(String(new FormData(e.currentTarget).get("href") ?? ""));
            const chain = editor.chain().focus().extendMarkRange("link");
            if (full) chain.setLink({ href: full }).run();
            else chain.unsetLink().run();
            close();
          }}
        >
          <label>
            <span className="mb-1 block text-faint">Web address (fields allowed)</span>
            <input
              name="href"
              className="input input-sm w-full"
              aria-label="Link address"
              autoFocus
              defaultValue={String(editor.getAttributes("link").href ?? "")}
              placeholder="https://fernquay.example/renew"
            />
          </label>
          <div className="flex gap-2">
            <button className="btn btn-primary btn-sm">Apply</button>
            {active && (
              <button
                type="button"
                className="btn btn-quiet btn-sm"
                onClick={() => (editor.chain().focus().extendMarkRange("link").unsetLink().run(), close())}
              >
                Remove link
              </button>
            )}
          </div>
        </form>
      )}
    </Drop>
  );
}

function Spacing({
  lineSpacing,
  before,
  after,
  indent,
  indentRight,
  firstLine,
  onSet,
}: {
  lineSpacing: number;
  before: number;
  after: number;
  indent: number;
  indentRight: number;
  firstLine: number;
  onSet: (attributes: Record<string, unknown>) => void;
}) {
  const number = (label: string, value: number, name: string, low: number, high: number, step: number) => (
    <label className="flex items-center justify-between gap-3">
      {label}
      <input
        type="number"
        className="input input-sm w-20"
        aria-label={label}
        value={value}
        min={low}
        max={high}
        step={step}
        onChange={(e) => e.target.value !== "" && onSet({ [name]: Math.min(high, Math.max(low, Number(e.target.value))) })}
      />
    </label>
  );
  return (
    <Drop label="Spacing" face={<UnfoldVertical size={15} />}>
      {() => (
        <div className="flex w-60 flex-col gap-1.5">
          {number("Line spacing", lineSpacing, "lineSpacing", 0.8, 4, 0.05)}
          {number("Space before, pt", before, "spaceBefore", 0, 200, 1)}
          {number("Space after, pt", after, "spaceAfter", 0, 200, 1)}
          <NumberField label="Indent left" value={indent} low={0} high={150} onSet={(mm) => onSet({ indent: mm })} />
          <NumberField label="Indent right" value={indentRight} low={0} high={150} onSet={(mm) => onSet({ indentRight: mm })} />
          <NumberField label="First line" value={firstLine} low={-100} high={100} onSet={(mm) => onSet({ firstLine: mm })} />
          <button
            className="btn btn-quiet btn-sm"
            onClick={() =>
              onSet({ lineSpacing: null, spaceBefore: null, spaceAfter: null, indent: null, indentRight: null, firstLine: null })
            }
          >
            Reset to letter default
          </button>
        </div>
      )}
    </Drop>
  );
}

/** The lines at the four sides of the selected cells, and where their text stands. */
function CellMenu({ editor, lines, valign }: { editor: Editor; lines: CellLines | null; valign: string }) {
  const some = cellSides.map((side) => lines?.[side]).find((line) => line !== undefined) ?? { width: 1, color: "#000000" };
  const set = (to: CellLines | null) => editor.chain().setCellAttribute("lines", to).run();
  return (
    <div className="flex w-48 flex-col gap-1.5">
      <label className="flex items-center justify-between gap-2">
        Text in the cell
        <select
          className="select select-sm w-24"
          value={valign}
          onChange={(e) =>
            editor
              .chain()
              .setCellAttribute("valign", e.target.value === "top" ? null : e.target.value)
              .run()
          }
        >
          <option value="top">at the top</option>
          <option value="middle">in the middle</option>
          <option value="bottom">at the bottom</option>
        </select>
      </label>
      {cellSides.map((side) => (
        <label key={side} className="flex items-center justify-between gap-2">
          {`Line at the ${side}`}
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={Boolean(lines?.[side])}
            onChange={(e) => set({ ...lines, [side]: e.target.checked ? some : undefined })}
          />
        </label>
      ))}
      {lines && (
        <>
          <NumberField
            label="Line width"
            value={some.width}
            low={0.25}
            high={12}
            unit="pt"
            onSet={(width) =>
              set(Object.fromEntries(cellSides.flatMap((side) => (lines[side] ? [[side, { ...lines[side], width }]] : []))))
            }
          />
          <label className="flex items-center justify-between gap-2">
            Line color
            <input
              type="color"
              className="h-6 w-10 cursor-pointer"
              aria-label="Color of the cell’s lines"
              value={some.color}
              onChange={(e) =>
                set(
                  Object.fromEntries(cellSides.flatMap((side) => (lines[side] ? [[side, { ...lines[side], color: e.target.value }]] : []))),
                )
              }
            />
          </label>
          <button className="btn btn-quiet btn-sm" onClick={() => set(null)}>
            Same as the table
          </button>
        </>
      )}
    </div>
  );
}

function TableTools({
  editor,
  sets,
  button,
  divider,
}: {
  editor: Editor;
  sets: string[];
  button: (label: string, Icon: typeof Bold, active: boolean, run: () => void, off?: boolean) => React.ReactNode;
  divider: React.ReactNode;
}) {
  const t = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      lines: String(e.getAttributes("table").lines ?? "rows"),
      vanishes: Boolean(e.getAttributes("table").vanishes),
      bracket: String(rowAt(e)?.node.attrs.bracket ?? ""),
      shade: String((e.isActive("tableHeader") ? e.getAttributes("tableHeader") : e.getAttributes("tableCell")).shade ?? ""),
      valign: String((e.isActive("tableHeader") ? e.getAttributes("tableHeader") : e.getAttributes("tableCell")).valign ?? "top"),
      cellLines: ((lines: unknown) => (lines ? JSON.stringify(lines) : ""))(
        (e.isActive("tableHeader") ? e.getAttributes("tableHeader") : e.getAttributes("tableCell")).lines,
      ),
      canMerge: e.can().mergeCells(),
      canSplit: e.can().splitCell(),
    }),
  });
  const chain = () => editor.chain().focus();
  return (
    <>
      {button("Row above", ArrowUpToLine, false, () => chain().addRowBefore().run())}
      {button("Row below", ArrowDownToLine, false, () => chain().addRowAfter().run())}
      {button("Column to the left", ArrowLeftToLine, false, () => chain().addColumnBefore().run())}
      {button("Column to the right", ArrowRightToLine, false, () => chain().addColumnAfter().run())}
      <Drop label="Delete" face={<Trash2 size={14} />}>
        {(close) => (
          <div className="flex flex-col">
            {(
              [
                ["Delete row", () => chain().deleteRow().run()],
                ["Delete column", () => chain().deleteColumn().run()],
                ["Delete table", () => chain().deleteTable().run()],
              ] as const
            ).map(([label, run]) => (
              <button key={label} className="btn btn-ghost btn-sm justify-start" onClick={() => (run(), close())}>
                {label}
              </button>
            ))}
          </div>
        )}
      </Drop>
      {button("Merge cells", TableCellsMerge, false, () => chain().mergeCells().run(), !t.canMerge)}
      {button("Split cell", TableCellsSplit, false, () => chain().splitCell().run(), !t.canSplit)}
      {button("Header row", Sheet, false, () => chain().toggleHeaderRow().run())}
      <Ink
        value={t.shade}
        choices={shades}
        label="Cell shading"
        onPick={(c) =>
          chain()
            .setCellAttribute("shade", c || null)
            .run()
        }
      />
      {divider}
      <label className="flex items-center gap-1" title="Table borders">
        <select
          className="select select-sm w-[112px] shrink-0 pr-5 pl-2"
          aria-label="Table borders"
          value={t.lines}
          onChange={(e) => {
            followTable(editor);
            chain().updateAttributes("table", { lines: e.target.value }).run();
          }}
        >
          <option value="rows">Row lines</option>
          <option value="all">All borders</option>
          <option value="outside">Outside border</option>
          <option value="none">No borders</option>
        </select>
      </label>
      <Drop
        label="Lines and position of text in the cell"
        face={<Frame size={14} className={t.cellLines || t.valign !== "top" ? "text-accent" : ""} />}
      >
        {() => <CellMenu editor={editor} valign={t.valign} lines={t.cellLines ? (JSON.parse(t.cellLines) as CellLines) : null} />}
      </Drop>
      <Drop
        label={`Print row: ${t.bracket || "always"}`}
        face={<span className={`max-w-[84px] truncate ${t.bracket ? "text-accent" : ""}`}>{t.bracket || "row: always"}</span>}
        wide
      >
        {(close) => (
          <div className="flex flex-col gap-2">
            <button className="btn btn-quiet btn-sm justify-start" onClick={() => (setRowBracket(editor, null), close())}>
              Always, once
            </button>
            {sets.map((set) => (
              <button
                key={set}
                className="btn btn-quiet btn-sm justify-start"
                onClick={() => (setRowBracket(editor, `each ${set}`), close())}
              >
                Once for each row of {set}
              </button>
            ))}
            <form
              className="flex gap-1"
              onSubmit={(e) => {
                e.preventDefault();
                const test = String(new FormData(e.currentTarget).get("test") ?? "").trim();
                if (test) setRowBracket(editor, `when ${test}`);
                close();
              }}
            >
              <input
                name="test"
                className="input input-sm flex-1"
                aria-label="Print row when"
                placeholder="when Amount due > 0"
                defaultValue={t.bracket.startsWith("when ") ? t.bracket.slice(5) : ""}
              />
              <button className="btn btn-primary btn-sm">Apply</button>
            </form>
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={t.vanishes}
                onChange={(e) => chain().updateAttributes("table", { vanishes: e.target.checked }).run()}
              />
              Hide the table if it has no rows
            </label>
          </div>
        )}
      </Drop>
    </>
  );
}
