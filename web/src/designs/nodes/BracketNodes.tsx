import { useQuery } from "@tanstack/react-query";
import { mergeAttributes, Node } from "@tiptap/core";
import { NodeViewContent, NodeViewWrapper, ReactNodeViewRenderer, type NodeViewProps } from "@tiptap/react";
import { X } from "lucide-react";
import { createContext, useContext, useEffect, useState } from "react";
import { api, ask } from "../../api/client";
import { useDelayed } from "../../ui/useDelayed";
import { count } from "../../ui/words";
import { ConditionButton } from "../ConditionButton";
import { Chips } from "./FieldNode";
import { keys } from "../../api/keys";

/** The list that brackets are counted with, and its sets of detail rows. */
export const BracketList = createContext<{ listId: number | null; total: number; sets: string[] }>({ listId: null, total: 0, sets: [] });

/** A box that holds a condition; what is typed is set when one leaves it. */
function Test({ value, onSet, label }: { value: string; onSet: (text: string) => void; label: string }) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  return (
    <input
      className="bracket-input"
      aria-label={label}
      value={text}
      size={Math.min(48, Math.max(12, text.length + 1))}
      placeholder="Amount due > 100"
      autoFocus={value === ""}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => text !== value && onSet(text)}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") e.currentTarget.blur();
      }}
    />
  );
}

/** For how many of the list a condition is met. */
export function Count({ test }: { test: string }) {
  const { listId, total } = useContext(BracketList);
  const rested = useDelayed(test, 400);
  const found = useQuery({
    queryKey: keys.lists(listId, "count", rested),
    queryFn: () =>
      ask(api.GET("/api/lists/{id}/recipients", { params: { path: { id: listId ?? 0 }, query: { limit: 1, where: rested } } })),
    enabled: listId !== null && rested.trim() !== "",
    retry: false,
  });
  if (!found.data || found.error) return null;
  return (
    <span>
      · {count(found.data.total)} of {count(total)} recipients
    </span>
  );
}

function BranchView({ node, editor, getPos, updateAttributes }: NodeViewProps) {
  const { mistakes } = useContext(Chips);
  const { listId } = useContext(BracketList);
  const at = getPos();
  const place = at === undefined ? null : editor.state.doc.resolve(at);
  const parent = place?.parent;
  const index = place?.index() ?? 0;
  const test = node.attrs.test === null ? null : String(node.attrs.test);
  const wrong = test === null ? undefined : mistakes.get(`when ${test}`);
  const isLast = parent ? index === parent.childCount - 1 : false;
  const add = (attrs: { test: string | null }) => {
    if (at === undefined) return;
    const whenEnd = isLast && test === null ? at : at + node.nodeSize;
    editor
      .chain()
      .insertContentAt(whenEnd, { type: "branch", attrs, content: [{ type: "paragraph" }] })
      .run();
  };
  const removeBracket = () => {
    if (at === undefined || !place || !parent) return;
    const from = at - 1 - (index > 0 ? Array.from({ length: index }, (_, i) => parent.child(i).nodeSize).reduce((a, b) => a + b, 0) : 0);
    editor
      .chain()
      .command(({ tr }) => {
        // The text of the first way stays; an “otherwise” or “or when” goes with what it holds.
        if (index === 0) tr.replaceWith(from, from + parent.nodeSize, parent.firstChild?.content ?? []);
        else tr.delete(at, at + node.nodeSize);
        return true;
      })
      .focus()
      .run();
  };
  return (
    <NodeViewWrapper className="branch">
      <div className="bracket-head" contentEditable={false} data-wrong={wrong ? "true" : undefined} title={wrong}>
        <span>{test === null ? "otherwise" : index > 0 ? "or when" : "when"}</span>
        {test !== null && <Test value={test} label="Condition" onSet={(text) => updateAttributes({ test: text })} />}
        {test !== null && listId !== null && (
          <ConditionButton listId={listId} test={test} onSet={(text) => updateAttributes({ test: text })} />
        )}
        {test !== null && !wrong && <Count test={test} />}
        {wrong && <span className="text-[11px]">{wrong}</span>}
        <span className="bracket-tools">
          {isLast && test !== null && (
            <>
              <button type="button" onClick={() => add({ test: "" })}>
                + Or when
              </button>
              <button type="button" onClick={() => add({ test: null })}>
                + Otherwise
              </button>
            </>
          )}
          <button
            type="button"
            aria-label={index === 0 ? "Remove condition and keep the text" : "Remove this branch"}
            title={index === 0 ? "Remove condition and keep the text" : "Remove this branch"}
            onClick={removeBracket}
          >
            <X size={12} />
          </button>
        </span>
      </div>
      <NodeViewContent className="branch-content" />
    </NodeViewWrapper>
  );
}

function EachView({ node, editor, getPos, updateAttributes }: NodeViewProps) {
  const { sets } = useContext(BracketList);
  const { mistakes } = useContext(Chips);
  const rows = String(node.attrs.rows);
  const wrong = mistakes.get(`each ${rows}`);
  const unwrap = () => {
    const at = getPos();
    if (at === undefined) return;
    editor
      .chain()
      .command(({ tr }) => (tr.replaceWith(at, at + node.nodeSize, node.content), true))
      .focus()
      .run();
  };
  return (
    <NodeViewWrapper className="bracket bracket-each">
      <div className="bracket-head" contentEditable={false} data-wrong={wrong ? "true" : undefined} title={wrong}>
        <span>Each row of</span>
        <select className="bracket-input" aria-label="Rows" value={rows} onChange={(e) => updateAttributes({ rows: e.target.value })}>
          {!sets.includes(rows) && <option value={rows}>{rows || "Choose rows"}</option>}
          {sets.map((s) => (
            <option key={s}>{s}</option>
          ))}
        </select>
        {wrong && <span className="text-[11px]">{wrong}</span>}
        <span className="bracket-tools">
          <button type="button" aria-label="Remove repeat and keep the text" title="Remove repeat and keep the text" onClick={unwrap}>
            <X size={12} />
          </button>
        </span>
      </div>
      <NodeViewContent />
    </NodeViewWrapper>
  );
}

/** Paragraphs that are there only for some: one or more ways, of which the first that holds is taken. */
export const WhenNode = Node.create({
  name: "when",
  group: "block",
  content: "branch+",
  defining: true,
  isolating: false,
  parseHTML: () => [{ tag: "div[data-when]" }],
  renderHTML: ({ HTMLAttributes }) => ["div", mergeAttributes({ "data-when": "", class: "bracket bracket-when" }, HTMLAttributes), 0],
});

export const BranchNode = Node.create({
  name: "branch",
  content: "block+",
  defining: true,
  addAttributes: () => ({
    test: {
      default: null,
      parseHTML: (e: HTMLElement) => e.getAttribute("data-test"),
      renderHTML: (a: Record<string, unknown>) => (a.test === null ? {} : { "data-test": String(a.test) }),
    },
  }),
  parseHTML: () => [{ tag: "div[data-branch]" }],
  renderHTML: ({ HTMLAttributes }) => ["div", mergeAttributes({ "data-branch": "" }, HTMLAttributes), 0],
  addNodeView: () =>
    ReactNodeViewRenderer(BranchView, { stopEvent: ({ event }) => (event.target as HTMLElement).closest?.(".bracket-head") !== null }),
});

/** Paragraphs that are there once for each detail row. */
export const EachNode = Node.create({
  name: "each",
  group: "block",
  content: "block+",
  defining: true,
  addAttributes: () => ({
    rows: {
      default: "",
      parseHTML: (e: HTMLElement) => e.getAttribute("data-rows"),
      renderHTML: (a: Record<string, unknown>) => ({ "data-rows": String(a.rows) }),
    },
  }),
  parseHTML: () => [{ tag: "div[data-each]" }],
  renderHTML: ({ HTMLAttributes }) => ["div", mergeAttributes({ "data-each": "" }, HTMLAttributes), 0],
  addNodeView: () =>
    ReactNodeViewRenderer(EachView, { stopEvent: ({ event }) => (event.target as HTMLElement).closest?.(".bracket-head") !== null }),
});
