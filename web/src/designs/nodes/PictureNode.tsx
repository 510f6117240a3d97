import { mergeAttributes, Node } from "@tiptap/core";
import { NodeViewWrapper, ReactNodeViewRenderer, type NodeViewProps } from "@tiptap/react";
import { millimetre } from "../letter";
import { placeStyle } from "./boxes";
import { length } from "../../ui/customs";

const round = (n: number) => Math.round(n * 10) / 10;

/** Follows the pointer from a press until it is let go; distances in millimetres of the page. */
function drag(e: React.PointerEvent, scale: number, move: (dx: number, dy: number) => void) {
  e.preventDefault();
  e.stopPropagation();
  const target = e.currentTarget as HTMLElement;
  const [x, y] = [e.clientX, e.clientY];
  target.setPointerCapture(e.pointerId);
  const onMove = (m: PointerEvent) => move((m.clientX - x) / scale, (m.clientY - y) / scale);
  target.addEventListener("pointermove", onMove);
  target.addEventListener("pointerup", () => target.removeEventListener("pointermove", onMove), { once: true });
}

function PictureView({ node, selected, updateAttributes }: NodeViewProps) {
  const width = Number(node.attrs.width);
  const inline = node.type.name === "inlinePicture";
  const placed = !inline && node.attrs.place === "page";
  const beside = node.attrs.place === "left" || node.attrs.place === "right";
  const justify = { center: "center", right: "flex-end" }[String(node.attrs.align)] ?? "flex-start";
  const height = width / Number(node.attrs.aspect);
  const box = { width: width * millimetre, height: height * millimetre };
  const picture = (
    <span className="relative inline-block" style={{ lineHeight: 0 }}>
      {node.attrs.asset ? (
        <img
          src={`/api/pictures/${String(node.attrs.asset)}`}
          alt={String(node.attrs.alt ?? "")}
          style={{ ...box, display: "block", objectFit: "contain", maxWidth: "none" }}
          draggable={false}
          className={selected ? "outline-2 outline-primary" : ""}
        />
      ) : (
        <span className="picture-by-column" style={box}>
          Picture from {String(node.attrs.source ?? "")}
        </span>
      )}
      {selected && (
        <span
          role="slider"
          aria-label="Picture width"
          aria-valuenow={width}
          aria-valuetext={length(width)}
          tabIndex={0}
          className="absolute -right-1.5 -bottom-1.5 h-3 w-3 cursor-nwse-resize bg-[#1e5b4a]"
          onPointerDown={(e) => {
            const scale = (e.currentTarget.parentElement?.getBoundingClientRect().width ?? 1) / width;
            drag(e, scale, (dx) => updateAttributes({ width: Math.max(3, Math.min(400, round(width + dx))) }));
          }}
          onKeyDown={(e) => {
            const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key];
            if (!step) return;
            e.preventDefault();
            e.stopPropagation();
            updateAttributes({ width: Math.max(3, Math.min(400, round(width + step))) });
          }}
        />
      )}
    </span>
  );
  if (inline)
    return (
      <NodeViewWrapper as="span" className="inline-picture">
        {picture}
      </NodeViewWrapper>
    );
  if (placed)
    return (
      <NodeViewWrapper
        className="placed-picture"
        style={{ left: `calc(${String(node.attrs.x)}mm - var(--margin-left))`, top: `calc(${String(node.attrs.y)}mm - var(--margin-top))` }}
        onPointerDown={(e: React.PointerEvent) => {
          if (!selected) return;
          const scale =
            ((e.currentTarget as HTMLElement).querySelector("img, .picture-by-column")?.getBoundingClientRect().width ?? 1) / width;
          const [x, y] = [Number(node.attrs.x), Number(node.attrs.y)];
          drag(e, scale, (dx, dy) => updateAttributes({ x: round(x + dx), y: round(y + dy) }));
        }}
      >
        {picture}
      </NodeViewWrapper>
    );
  return (
    <NodeViewWrapper
      className="letter-picture relative flex"
      style={{ justifyContent: justify, marginBottom: beside ? 0 : "var(--space-after)" }}
      data-drag-handle
    >
      {picture}
    </NodeViewWrapper>
  );
}

const pictureAttributes = () => ({
  asset: { default: "" },
  source: { default: null },
  width: { default: 40 },
  aspect: { default: 1 },
  alt: { default: "" },
});
const read = (e: HTMLElement) => JSON.parse(e.getAttribute("data-picture") ?? "{}") as Record<string, unknown>;

/** A picture on a line of its own, or at a place of the page; widths and places in millimetres, its height by its shape. */
export const PictureNode = Node.create({
  name: "picture",
  group: "block",
  atom: true,
  selectable: true,
  draggable: true,
  addAttributes: () => ({
    ...pictureAttributes(),
    align: { default: "left" },
    place: { default: null },
    gap: { default: 3.2 },
    // In an email: where it leads.
    href: { default: null },
    x: { default: 0 },
    y: { default: 0 },
  }),
  parseHTML: () => [{ tag: "div[data-picture]", getAttrs: (e) => read(e) }],
  renderHTML: ({ node }) => ["div", mergeAttributes({ "data-picture": JSON.stringify(node.attrs) })],
  // What stands beside text floats as a whole.
  addNodeView: () =>
    ReactNodeViewRenderer(PictureView, {
      attrs: ({ node }) => ({ style: node.attrs.place === "left" || node.attrs.place === "right" ? placeStyle(node.attrs) : "" }),
    }),
});

/** A picture that stands in the line like a letter. */
export const InlinePictureNode = Node.create({
  name: "inlinePicture",
  group: "inline",
  inline: true,
  atom: true,
  selectable: true,
  draggable: true,
  addAttributes: pictureAttributes,
  parseHTML: () => [{ tag: "span[data-picture]", getAttrs: (e) => read(e) }],
  renderHTML: ({ node }) => ["span", mergeAttributes({ "data-picture": JSON.stringify(node.attrs) })],
  addNodeView: () => ReactNodeViewRenderer(PictureView, { as: "span", attrs: { style: "display: inline" } }),
});
