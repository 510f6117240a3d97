import { mergeAttributes, Node } from "@tiptap/core";
import { NodeViewWrapper, ReactNodeViewRenderer, type NodeViewProps } from "@tiptap/react";

const millimetre = 96 / 25.4;

function PictureView({ node, selected, updateAttributes }: NodeViewProps) {
  const width = Number(node.attrs.width);
  const justify = { center: "center", right: "flex-end" }[String(node.attrs.align)] ?? "flex-start";
  return (
    <NodeViewWrapper className="letter-picture relative flex" style={{ justifyContent: justify, marginBottom: "var(--space-after)" }} data-drag-handle>
      <span className="relative inline-block">
        <img src={`/api/pictures/${String(node.attrs.asset)}`} alt={String(node.attrs.alt ?? "")} style={{ width: width * millimetre, display: "block" }} draggable={false} className={selected ? "outline-2 outline-primary" : ""} />
        {selected && (
          <span
            role="slider"
            aria-label="Width of the picture"
            aria-valuenow={width}
            tabIndex={0}
            className="absolute -right-1.5 -bottom-1.5 h-3 w-3 cursor-nwse-resize bg-[#1e5b4a]"
            onPointerDown={(e) => {
              e.preventDefault();
              e.stopPropagation();
              const start = e.clientX;
              const target = e.currentTarget;
              const scale = (target.parentElement?.getBoundingClientRect().width ?? 1) / width;
              target.setPointerCapture(e.pointerId);
              const drag = (m: PointerEvent) => updateAttributes({ width: Math.max(5, Math.min(400, Math.round((width + (m.clientX - start) / scale) * 10) / 10)) });
              target.addEventListener("pointermove", drag);
              target.addEventListener("pointerup", () => target.removeEventListener("pointermove", drag), { once: true });
            }}
          />
        )}
      </span>
    </NodeViewWrapper>
  );
}

/** A picture on a line of its own; its width in millimetres, its height by its shape. */
export const PictureNode = Node.create({
  name: "picture",
  group: "block",
  atom: true,
  selectable: true,
  draggable: true,
  addAttributes() {
    return { asset: { default: "" }, width: { default: 40 }, aspect: { default: 1 }, align: { default: "left" }, alt: { default: "" } };
  },
  parseHTML() {
    return [{ tag: "div[data-picture]" }];
  },
  renderHTML({ HTMLAttributes, node }) {
    return ["div", mergeAttributes({ "data-picture": String(node.attrs.asset) }, HTMLAttributes)];
  },
  addNodeView() {
    return ReactNodeViewRenderer(PictureView);
  },
});
