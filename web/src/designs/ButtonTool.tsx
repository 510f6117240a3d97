import type { Editor } from "@tiptap/core";
import { useEditorState } from "@tiptap/react";
import { RectangleEllipsis } from "lucide-react";
import { useState } from "react";
import { buttonAt, buttonParagraph } from "./buttons";
import { wholeAddress } from "./links";
import { Drop } from "./Toolbar";

const colors = ["#1d5a44", "#b4541f", "#a63a2b", "#30507a", "#4a3a6b", "#1d1c18"];

/** Puts a button into an email, or changes the one that the cursor stands in. */
export function ButtonTool({ editor }: { editor: Editor }) {
  const inside = useEditorState({ editor, selector: ({ editor: e }) => buttonAt(e.state) !== null });
  return (
    <Drop label="Button" face={<RectangleEllipsis size={15} className={inside ? "text-primary" : ""} />} wide>
      {(close) => <ButtonForm editor={editor} close={close} />}
    </Drop>
  );
}

function ButtonForm({ editor, close }: { editor: Editor; close: () => void }) {
  const [now] = useState(() => buttonAt(editor.state));
  const [says, setSays] = useState(now?.says ?? "");
  const [href, setHref] = useState(now?.href ?? "");
  const [color, setColor] = useState(now?.color ?? "#1d5a44");
  const put = () => {
    const content = buttonParagraph(says.trim(), wholeAddress(href), color);
    if (now) editor.chain().focus().insertContentAt({ from: now.from, to: now.to }, content).run();
    else editor.chain().focus().insertContent(content).run();
    close();
  };
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (says.trim() && href.trim()) put();
      }}
    >
      <label>
        <span className="mb-1 block text-faint">Text (fields allowed)</span>
        <input
          className="input input-sm w-full"
          aria-label="Button text"
          autoFocus
          maxLength={120}
          placeholder="Renew now"
          value={says}
          onChange={(e) => setSays(e.target.value)}
        />
      </label>
      <label>
        <span className="mb-1 block text-faint">Web address (fields allowed)</span>
        <input
          className="input input-sm w-full"
          aria-label="Button link"
          maxLength={2000}
          placeholder="https://fernquay.example/renew?m={Member no.}"
          value={href}
          onChange={(e) => setHref(e.target.value)}
        />
      </label>
      <div className="flex items-center gap-1.5" role="group" aria-label="Button color">
        {colors.map((c) => (
          <button
            key={c}
            type="button"
            className={`h-6 w-6 cursor-pointer rounded border-2 ${c === color ? "border-base-content" : "border-transparent"}`}
            style={{ background: c }}
            aria-label={c}
            aria-pressed={c === color}
            onClick={() => setColor(c)}
          />
        ))}
        <input
          type="color"
          className="ml-1 h-6 w-8"
          aria-label="Other button color"
          value={color}
          onChange={(e) => setColor(e.target.value)}
        />
      </div>
      <div className="flex gap-2">
        <button className="btn btn-primary btn-sm" disabled={!says.trim() || !href.trim()}>
          {now ? "Apply" : "Insert button"}
        </button>
        {now && (
          <button
            type="button"
            className="btn btn-quiet btn-sm"
            onClick={() => {
              editor.chain().focus().deleteRange({ from: now.from, to: now.to }).run();
              close();
            }}
          >
            Remove
          </button>
        )}
      </div>
    </form>
  );
}
