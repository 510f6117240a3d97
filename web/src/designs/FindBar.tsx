import type { Editor } from "@tiptap/core";
import { useEditorState } from "@tiptap/react";
import { ChevronDown, ChevronUp, X } from "lucide-react";
import { useEffect, useState } from "react";
import { say } from "../ui/notices";
import { count, many } from "../ui/words";
import { chosen, mark, matchesOf, replace, walk, type Wanted } from "./finding";

const nothing: Wanted = { text: "", matchCase: false, wholeWord: false };

/** Finds a text in what is written, and puts another in its place. */
export function FindBar({ editor, close }: { editor: Editor; close: () => void }) {
  const [wanted, setWanted] = useState<Wanted>(() => {
    const { from, to } = editor.state.selection;
    const selected = editor.state.doc.textBetween(from, to, "\n");
    return { ...nothing, text: selected.length <= 200 && !selected.includes("\n") ? selected : "" };
  });
  const [other, setOther] = useState("");
  const { matches, at } = useEditorState({
    editor,
    selector: ({ editor: e }) => {
      const all = matchesOf(e, wanted);
      return { matches: all, at: chosen(all, e.state.selection) };
    },
  });
  useEffect(() => {
    mark(editor, wanted);
  }, [editor, wanted]);
  useEffect(
    () => () => {
      if (!editor.isDestroyed) mark(editor, nothing);
    },
    [editor],
  );
  const go = (by: 1 | -1) => walk(editor, matches, by);
  const one = () => {
    const now = matches[at];
    if (!now) return go(1);
    replace(editor, [now], other);
    walk(editor, matchesOf(editor, wanted), 1);
  };
  const all = () => {
    const n = replace(editor, matches, other);
    if (n > 0) say(`Replaced ${many(n, "match", "matches")}.`);
  };
  const check = (label: string, key: "matchCase" | "wholeWord") => (
    <label className="flex items-center gap-1.5 whitespace-nowrap">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={wanted[key]}
        onChange={(e) => setWanted({ ...wanted, [key]: e.target.checked })}
      />
      {label}
    </label>
  );
  return (
    <form
      role="search"
      aria-label="Find and replace"
      className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line bg-base-100 px-3 py-1.5"
      onSubmit={(e) => e.preventDefault()}
      onKeyDown={(e) => {
        if (e.key === "Escape") {
          e.preventDefault();
          e.stopPropagation();
          close();
          editor.commands.focus();
        }
      }}
    >
      <input
        className="input input-sm w-44"
        aria-label="Find"
        placeholder="Find"
        autoFocus
        maxLength={200}
        value={wanted.text}
        onChange={(e) => setWanted({ ...wanted, text: e.target.value })}
        onKeyDown={(e) => {
          if (e.key !== "Enter") return;
          e.preventDefault();
          go(e.shiftKey ? -1 : 1);
        }}
      />
      <span className="min-w-16 text-faint tabular-nums" role="status">
        {wanted.text === ""
          ? ""
          : matches.length === 0
            ? "No matches"
            : at < 0
              ? count(matches.length)
              : `${count(at + 1)} of ${count(matches.length)}`}
      </span>
      <span className="flex">
        <button
          type="button"
          className="btn btn-ghost btn-sm btn-square"
          aria-label="Previous match"
          title="Previous match (Shift Enter)"
          disabled={matches.length === 0}
          onClick={() => go(-1)}
        >
          <ChevronUp size={16} />
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm btn-square"
          aria-label="Next match"
          title="Next match (Enter)"
          disabled={matches.length === 0}
          onClick={() => go(1)}
        >
          <ChevronDown size={16} />
        </button>
      </span>
      {check("Match case", "matchCase")}
      {check("Whole words", "wholeWord")}
      {editor.isEditable && (
        <>
          <input
            className="input input-sm w-44"
            aria-label="Replace with"
            placeholder="Replace with"
            title="Braces insert fields: {First}"
            maxLength={500}
            value={other}
            onChange={(e) => setOther(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== "Enter") return;
              e.preventDefault();
              one();
            }}
          />
          <button type="button" className="btn btn-quiet btn-sm" disabled={matches.length === 0} onClick={one}>
            Replace
          </button>
          <button type="button" className="btn btn-quiet btn-sm" disabled={matches.length === 0} onClick={all}>
            Replace all
          </button>
        </>
      )}
      <button
        type="button"
        className="btn btn-ghost btn-sm btn-square ml-auto"
        aria-label="Close (Esc)"
        title="Close (Esc)"
        onClick={() => {
          close();
          editor.commands.focus();
        }}
      >
        <X size={16} />
      </button>
    </form>
  );
}
