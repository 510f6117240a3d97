import { Extension } from "@tiptap/core";
import { ReactRenderer } from "@tiptap/react";
import Suggestion, { type SuggestionKeyDownProps, type SuggestionProps } from "@tiptap/suggestion";
import { useEffect, useImperativeHandle, useState, type Ref } from "react";

export interface FieldChoice {
  name: string;
  hint: string;
}

interface Handle {
  onKeyDown: (props: SuggestionKeyDownProps) => boolean;
}

function Choices({ items, command, ref }: SuggestionProps<FieldChoice> & { ref?: Ref<Handle> }) {
  const [at, setAt] = useState(0);
  useEffect(() => setAt(0), [items]);
  useImperativeHandle(ref, () => ({
    onKeyDown: ({ event }) => {
      if (items.length === 0) return false;
      if (event.key === "ArrowDown") setAt((at + 1) % items.length);
      else if (event.key === "ArrowUp") setAt((at + items.length - 1) % items.length);
      else if (event.key === "Enter" || event.key === "Tab") command(items[at] as FieldChoice);
      else return false;
      return true;
    },
  }));
  return (
    <ul
      className="max-h-64 w-64 overflow-auto rounded-box border border-base-300 bg-base-100 p-1 text-[13px] text-base-content shadow-lg"
      role="listbox"
      aria-label="Fields"
    >
      {items.length === 0 && <li className="px-2 py-1 text-faint">No matching columns. Close with {"}"} to write an expression.</li>}
      {items.map((item, i) => (
        <li
          key={item.name}
          role="option"
          aria-selected={i === at}
          className={`flex cursor-pointer gap-2 rounded px-2 py-1 ${i === at ? "chosen" : ""}`}
          onMouseDown={(e) => {
            e.preventDefault();
            command(item);
          }}
        >
          <span className="flex-1 truncate">{item.name}</span>
          <span className="max-w-28 truncate text-faint">{item.hint}</span>
        </li>
      ))}
    </ul>
  );
}

/** Completes field names after an opening brace; a closed brace turns what was typed into a field. */
export function fieldCompletion(choices: () => FieldChoice[]) {
  return Extension.create({
    name: "fieldCompletion",
    addProseMirrorPlugins() {
      return [
        Suggestion<FieldChoice>({
          editor: this.editor,
          char: "{",
          allowSpaces: true,
          allowedPrefixes: null,
          items: ({ query }) =>
            /[|}"]/.test(query)
              ? []
              : choices()
                  .filter((c) => c.name.toLowerCase().includes(query.trim().toLowerCase()))
                  .slice(0, 12),
          command: ({ editor, range, props }) => {
            const marks = editor.state.storedMarks ?? editor.state.selection.$from.marks();
            editor
              .chain()
              .focus()
              .insertContentAt(range, {
                type: "field",
                attrs: { source: props.name },
                marks: marks.map((m) => m.toJSON() as { type: string }),
              })
              .run();
          },
          render: () => {
            let view: ReactRenderer<Handle, SuggestionProps<FieldChoice>> | null = null;
            const place = (props: SuggestionProps<FieldChoice>) => {
              const box = props.clientRect?.();
              if (!box || !view) return;
              const style = (view.element as HTMLElement).style;
              style.position = "fixed";
              style.zIndex = "60";
              style.left = `${Math.min(box.left, window.innerWidth - 270)}px`;
              style.top = box.bottom + 270 > window.innerHeight ? `${Math.max(0, box.top - 262)}px` : `${box.bottom + 4}px`;
            };
            return {
              onStart: (props) => {
                view = new ReactRenderer(Choices, { props, editor: props.editor });
                document.body.append(view.element);
                place(props);
              },
              onUpdate: (props) => {
                view?.updateProps(props);
                place(props);
              },
              onKeyDown: (props) => {
                if (props.event.key === "Escape") {
                  view?.element.remove();
                  return true;
                }
                return view?.ref?.onKeyDown(props) ?? false;
              },
              onExit: () => {
                view?.element.remove();
                view?.destroy();
                view = null;
              },
            };
          },
        }),
      ];
    },
  });
}
