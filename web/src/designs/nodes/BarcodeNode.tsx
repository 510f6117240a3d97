import { mergeAttributes, Node } from "@tiptap/core";
import { NodeViewWrapper, ReactNodeViewRenderer, type NodeViewProps } from "@tiptap/react";
import { QrCode } from "lucide-react";
import { millimetre } from "../letter";

/** Measures of an Intelligent Mail barcode with its clear zone, millimetres (USPS-B-3200, section 3.2). */
const mail = { width: 80.75, height: 5.1 };

function BarcodeView({ node, selected }: NodeViewProps) {
  const imb = node.attrs.symbology === "imb";
  const { width, height } = imb ? mail : { width: Number(node.attrs.width), height: Number(node.attrs.height) };
  const placed = node.attrs.place === "page";
  const justify = { center: "center", right: "flex-end" }[String(node.attrs.align)] ?? "flex-start";
  return (
    <NodeViewWrapper
      className={placed ? "placed-picture" : "letter-picture relative flex"}
      style={
        placed
          ? { left: `calc(${String(node.attrs.x)}mm - var(--margin-left))`, top: `calc(${String(node.attrs.y)}mm - var(--margin-top))` }
          : { justifyContent: justify, marginBottom: "var(--space-after)" }
      }
      data-drag-handle
    >
      {/* What it holds differs from recipient to recipient: the bars themselves are on the finished page beside it. */}
      <span
        className={`flex items-center justify-center gap-1 overflow-hidden border border-slate-400 bg-slate-100 text-[9px] leading-tight text-slate-700 ${selected ? "outline-2 outline-primary" : ""}`}
        style={{ width: width * millimetre, height: height * millimetre }}
      >
        <QrCode size={Math.min(22, height * 2)} className="shrink-0" />
        <span className="min-w-0 break-words">{imb ? "Intelligent Mail" : String(node.attrs.source ?? "")}</span>
      </span>
    </NodeViewWrapper>
  );
}

/** A barcode on a line of its own, or at a place of the page; what it holds is an expression. */
export const BarcodeNode = Node.create({
  name: "barcode",
  group: "block",
  atom: true,
  selectable: true,
  draggable: true,
  addAttributes: () => ({
    symbology: { default: "qr" },
    source: { default: "" },
    width: { default: 25 },
    height: { default: 25 },
    barcodeId: { default: "00" },
    service: { default: "040" },
    mailer: { default: "" },
    align: { default: "left" },
    place: { default: null },
    x: { default: 0 },
    y: { default: 0 },
  }),
  parseHTML: () => [
    { tag: "div[data-barcode]", getAttrs: (e) => JSON.parse(e.getAttribute("data-barcode") ?? "{}") as Record<string, unknown> },
  ],
  renderHTML: ({ node }) => ["div", mergeAttributes({ "data-barcode": JSON.stringify(node.attrs) })],
  addNodeView: () => ReactNodeViewRenderer(BarcodeView),
});
