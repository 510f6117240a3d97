import { useQuery } from "@tanstack/react-query";
import type { Editor } from "@tiptap/core";
import { api, ask, type Schema } from "../api/client";
import { NumberField } from "../ui/NumberField";
import { wholeAddress } from "./links";
import { setSelectedNode } from "./selectedNode";
import { keys } from "../api/keys";

/** CSS pixels in a millimeter. */
const pixels = 96 / 25.4;

interface Props {
  editor: Editor;
  type: "picture" | "inlinePicture";
  attrs: Record<string, unknown>;
  columns: Schema["Column"][];
  mistake: string | undefined;
  /** True in a letter, which has pages: an email's pictures stand in its text, are measured in pixels, and may lead somewhere. */
  paged: boolean;
}

/** The picture that is selected: what it shows, how large and where, and whether a column chooses it for each recipient. */
export function PicturePanel({ editor, type, attrs, columns, mistake, paged }: Props) {
  const pictures = useQuery({ queryKey: keys.pictures(), queryFn: () => ask(api.GET("/api/pictures")) }).data ?? [];
  const at = editor.state.selection.from;
  const set = (changes: Record<string, unknown>) => setSelectedNode(editor, changes);
  const place =
    type === "inlinePicture" ? "text" : attrs.place === "page" || attrs.place === "left" || attrs.place === "right" ? attrs.place : "line";
  const move = (to: string) => {
    const { asset, source, width, aspect, alt } = attrs;
    const common = { asset, source, width, aspect, alt };
    if (to !== "text" && type === "picture") return set({ place: to === "line" ? null : to, ...(to === "page" ? { x: 25, y: 25 } : {}) });
    editor
      .chain()
      .command(({ tr }) => {
        const { nodes } = editor.schema;
        if (to === "text") {
          const paragraph = nodes.paragraph?.create(null, nodes.inlinePicture?.create(common));
          if (paragraph) tr.replaceWith(at, at + 1, paragraph);
        } else {
          const block = nodes.picture?.create({ ...common, place: to === "line" ? null : to, x: 25, y: 25 });
          if (block) tr.delete(at, at + 1).insert(tr.doc.resolve(at).before(1), block);
        }
        return true;
      })
      .run();
  };
  const number = (label: string, name: string, low: number, high: number) => (
    <NumberField label={label} value={Number(attrs[name])} low={low} high={high} onSet={(value) => set({ [name]: value })} />
  );
  return (
    <section className="max-h-[55%] shrink-0 overflow-auto border-t border-line bg-base-100 p-3" aria-label="Picture">
      <h2 className="mb-2">Picture</h2>
      {mistake && <p className="mb-2 bg-doubt px-2 py-1">{mistake}</p>}
      <div className="flex flex-col gap-1.5">
        <label className="flex items-center justify-between gap-2">
          Alt text
          <input
            className="input input-sm w-52"
            aria-label="Alt text"
            placeholder="Description for screen readers"
            value={String(attrs.alt ?? "")}
            onChange={(e) => set({ alt: e.target.value })}
          />
        </label>
        <label className="flex items-center justify-between gap-2">
          Position
          <select className="select select-sm w-52" aria-label="Picture position" value={place} onChange={(e) => move(e.target.value)}>
            <option value="line">On its own line</option>
            {paged && <option value="left">left, text wraps around it</option>}
            {paged && <option value="right">right, text wraps around it</option>}
            <option value="text">In line with text</option>
            {paged && <option value="page">At a fixed position on the page</option>}
          </select>
        </label>
        {paged ? (
          number("Width", "width", 3, 400)
        ) : (
          <NumberField
            label="Width"
            unit="px"
            value={Math.round(Number(attrs.width) * pixels)}
            low={8}
            high={552}
            onSet={(px) => set({ width: px / pixels })}
          />
        )}
        {!paged && type === "picture" && (
          <label className="flex items-center justify-between gap-2">
            Link
            <input
              className="input input-sm w-52"
              aria-label="Picture link"
              placeholder="https://fernquay.example/renew"
              title="Where a click on the picture leads. Fields in braces are allowed."
              defaultValue={String(attrs.href ?? "")}
              onBlur={(e) => set({ href: wholeAddress(e.target.value) || null })}
              onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
            />
          </label>
        )}
        {(place === "left" || place === "right") && number("Distance to the text", "gap", 0, 50)}
        {place === "page" && number("From the left edge", "x", -50, 400)}
        {place === "page" && number("From the top edge", "y", -50, 500)}
        <label className="flex items-center justify-between gap-2">
          Picture from
          <select
            className="select select-sm w-52"
            aria-label="Picture from"
            value={String(attrs.source ?? "")}
            onChange={(e) => set({ source: e.target.value ? e.target.value : null })}
          >
            <option value="">Same for every recipient</option>
            {columns.map((c) => (
              <option key={c.id} value={`\`${c.name}\``}>
                Column {c.name}
              </option>
            ))}
          </select>
        </label>
        {Boolean(attrs.source) && (
          <label className="flex items-center justify-between gap-2">
            If the column is blank
            <select
              className="select select-sm w-52"
              aria-label="Picture when the column is blank"
              value={String(attrs.asset ?? "")}
              onChange={(e) => set({ asset: e.target.value })}
            >
              <option value="">Flag as an issue</option>
              {pictures.map((p) => (
                <option key={p.name} value={p.id}>
                  {p.name}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
    </section>
  );
}
