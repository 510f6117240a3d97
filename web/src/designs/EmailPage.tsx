import { useQuery } from "@tanstack/react-query";
import type { Editor, JSONContent } from "@tiptap/core";
import { useMemo, useState } from "react";
import { settingsQuery } from "../api/queries";
import { MailView } from "../mail/MailView";
import { useActions } from "../ui/keys";
import { many } from "../ui/words";
import { AttachmentsPane } from "./AttachmentsPane";
import { BandEditor } from "./BandEditor";
import { DesignFrame } from "./DesignFrame";
import { completeEmail, type Email } from "./email";
import { FieldsPane, FieldsPaneToCome } from "./FieldsPane";
import { completeLetter, fieldsOf } from "./letter";
import { BracketList } from "./nodes/BracketNodes";
import { Chips } from "./nodes/FieldNode";
import { Pieces } from "./Pieces";
import { Selected } from "./Selected";
import { Toolbar } from "./Toolbar";
import { useDesign } from "./useDesign";
import { mistakesBySource, offersBySource } from "./mistakes";
import type { EditorProps } from "./editor";
import { useChoices } from "./useChoices";
import { usePreview } from "./usePreview";
import { Beside } from "../ui/Beside";

const rest = 120;
type Header = "subject" | "preheader" | "fromName" | "fromAddress" | "replyTo" | "to" | "cc" | "bcc";

/** An email is written: its headers above, its body as it will stand at 600 pixels, beside it a recipient's real message. */
export function EmailPage(props: EditorProps) {
  const { design } = props;
  const frame = useDesign(props, completeEmail);
  const { document: email, write: setEmail, listId, list, columns, readOnly } = frame;
  const [editor, setEditor] = useState<Editor | null>(null);
  const [header, setHeader] = useState<Header | null>(null);
  const [more, setMore] = useState(() => email.replyTo !== "" || email.to !== "" || email.cc !== "" || email.bcc !== "");
  const settings = useQuery(settingsQuery()).data;
  const families = settings?.families ?? [email.type.family];
  const { sets, setNames, choices } = useChoices(listId, columns);
  const set = (part: Partial<Email>) => setEmail((e) => ({ ...e, ...part }));

  const preview = usePreview({ designId: design.id, listId, document: email, rest });
  const { shown, offset, walk, look } = preview;
  useActions([
    { label: "Versions of this email", run: () => frame.setDialog("versions") },
    { keys: "ArrowDown", label: "Next recipient", run: () => walk(1), quiet: true },
    { keys: "ArrowUp", label: "Previous recipient", run: () => walk(-1), quiet: true },
  ]);
  // What the letters' own tools need to know of what they work on.
  const asLetter = useMemo(() => completeLetter({ type: email.type, content: email.content }), [email.type, email.content]);
  const mistakes = useMemo(() => mistakesBySource(shown?.mistakes), [shown]);
  const offers = useMemo(() => offersBySource(shown?.mistakes), [shown]);
  const used = useMemo(() => fieldsOf(asLetter), [asLetter]);
  const chips = useMemo(() => ({ mistakes, values: new Map<string, string>(), mode: "names" as const }), [mistakes]);
  const brackets = useMemo(() => ({ listId, total: list?.recipients ?? 0, sets: setNames }), [listId, list, setNames]);
  const insert = (names: string[]) => {
    // A field goes where one was writing: into a header, or into the body.
    if (header)
      return set({
        [header]: `${email[header]}${email[header] && !email[header].endsWith(" ") ? " " : ""}${names.map((n) => `{${n}}`).join(" ")}`,
      });
    if (!editor) return;
    const marks = (editor.state.storedMarks ?? editor.state.selection.$from.marks()).map((x) => x.toJSON() as { type: string });
    editor
      .chain()
      .focus()
      .insertContent(
        names.flatMap((name, i): JSONContent[] => [
          ...(i > 0 ? [{ type: "text", text: " " }] : []),
          { type: "field", attrs: { source: name }, marks },
        ]),
      )
      .run();
  };
  const line = (name: Header, label: string, placeholder: string) => (
    <label className="grid grid-cols-[92px_1fr] items-center gap-2">
      <span className="text-faint">{label}</span>
      <input
        className="input input-sm w-full"
        aria-label={label}
        value={email[name]}
        maxLength={2000}
        placeholder={placeholder}
        disabled={readOnly}
        onFocus={() => setHeader(name)}
        onChange={(e) => set({ [name]: e.target.value })}
      />
    </label>
  );
  const told = shown?.mistakes.filter((m) => !used.some((f) => f.source === m.source)) ?? [];
  return (
    <Chips.Provider value={chips}>
      <BracketList.Provider value={brackets}>
        <DesignFrame of={frame} values={shown?.values ?? []}>
          <div className="flex min-h-0 flex-1">
            {editor ? (
              <FieldsPane
                editor={editor}
                columns={columns}
                values={shown?.values ?? []}
                listId={listId}
                used={used}
                inBand={false}
                mistakes={mistakes}
                onInsert={insert}
              />
            ) : (
              <FieldsPaneToCome />
            )}
            <section className="flex min-w-0 flex-1 flex-col" aria-label="Editor">
              {editor && (
                <Toolbar
                  editor={editor}
                  letter={asLetter}
                  families={families}
                  sets={brackets.sets}
                  onPage={null}
                  paged={false}
                  pieces={<Pieces editor={editor} today={settings?.today ?? ""} inBand={false} />}
                />
              )}
              <div className="min-h-0 flex-1 overflow-auto bg-base-200 p-4">
                <div className="mx-auto flex max-w-[620px] flex-col gap-1.5">
                  <div className="grid grid-cols-2 gap-x-3">
                    {line("fromName", "Sender name", "Fernquay Botanic Garden")}
                    {line("fromAddress", "Sender address", "office@example.org")}
                  </div>
                  {line("subject", "Subject", "Your membership, {First name}")}
                  {line("preheader", "Preview text", "Shown after the subject in the inbox")}
                  {more ? (
                    <>
                      {line("to", "To", "The list’s email column")}
                      {line("replyTo", "Reply to", "Address for replies, if not the sender")}
                      <div className="grid grid-cols-2 gap-x-3">
                        {line("cc", "Cc", "Addresses or {Column}")}
                        {line("bcc", "Bcc", "Addresses or {Column}")}
                      </div>
                      {(email.cc !== "" || email.bcc !== "") && (
                        <label className="flex items-center gap-2 pl-[100px] text-[12px]">
                          <input
                            type="checkbox"
                            className="checkbox checkbox-xs"
                            checked={email.copiesWhole}
                            disabled={readOnly}
                            onChange={(e) => set({ copiesWhole: e.target.checked })}
                          />
                          Copies carry the recipient’s own files and their link to end email, too
                        </label>
                      )}
                    </>
                  ) : (
                    <button className="cursor-pointer self-start pl-[100px] text-[12px] text-faint underline" onClick={() => setMore(true)}>
                      To, reply-to, Cc, and Bcc
                    </button>
                  )}
                  {told.map((m) => (
                    <p
                      key={`${m.source}${m.position}${m.message}`}
                      className="border-l-[3px] border-warning bg-doubt px-2.5 py-1"
                      role="note"
                    >
                      {m.message}
                    </p>
                  ))}
                  <div
                    className="paper letter-page mt-2"
                    style={
                      {
                        width: "100%",
                        minHeight: 260,
                        padding: 24,
                        fontFamily: `"${email.type.family}"`,
                        fontSize: `${email.type.size}pt`,
                        lineHeight: email.type.lineSpacing,
                        "--space-after": `${email.type.spaceAfter}pt`,
                      } as React.CSSProperties
                    }
                  >
                    <BandEditor
                      label="Email"
                      content={email.content}
                      editable={!readOnly}
                      choices={choices}
                      onChange={(content) => set({ content })}
                      onFocus={() => setHeader(null)}
                      onReady={setEditor}
                    />
                  </div>
                  <AttachmentsPane
                    email={email}
                    columns={columns}
                    readOnly={readOnly}
                    usedIn={design.usedIn}
                    onChange={(attachments) => set({ attachments })}
                    onPart={set}
                  />
                </div>
              </div>
            </section>
            <Beside label="Preview" className="flex w-[346px] shrink-0 flex-col border-l border-line">
              <div className="flex h-10 shrink-0 items-center gap-1.5 border-b border-line px-3">
                <span className="min-w-0 flex-1 truncate">
                  {shown?.recipient ? (
                    <>
                      Preview for <strong>{shown.recipient}</strong>
                    </>
                  ) : (
                    <span className="text-faint">{listId === null ? "Choose a list to preview real messages" : "The list is empty"}</span>
                  )}
                </span>
                <button className="btn btn-quiet btn-xs" disabled={listId === null} onClick={() => void look("longest")}>
                  Longest
                </button>
                <button className="btn btn-quiet btn-xs" disabled={listId === null} onClick={() => void look("blanks")}>
                  With blanks
                </button>
                <button
                  className="btn btn-quiet btn-xs"
                  aria-label="Previous recipient"
                  disabled={preview.isFirst}
                  onClick={() => walk(-1)}
                >
                  ↑
                </button>
                <button className="btn btn-quiet btn-xs" aria-label="Next recipient" disabled={preview.isLast} onClick={() => walk(1)}>
                  ↓
                </button>
              </div>
              <div className="min-h-0 flex-1 p-2.5">{shown?.mail && <MailView mail={shown.mail} />}</div>
              {shown && shown.issues.length > 0 && (
                <ul className="max-h-32 shrink-0 overflow-auto border-t border-line px-3 py-2" aria-label="Issues">
                  {shown.issues.map((f) => (
                    <li key={f} className="mb-1 border-l-[3px] border-warning bg-doubt px-2 py-1">
                      {f}
                    </li>
                  ))}
                </ul>
              )}
              {preview.error && <p className="p-3 text-error">{preview.error.message}</p>}
              {editor && (
                <Selected
                  editor={editor}
                  columns={columns}
                  sets={sets}
                  listId={listId}
                  designId={design.id}
                  offset={offset}
                  mistakes={mistakes}
                  offers={offers}
                />
              )}
              {list && (
                <p className="shrink-0 border-t border-line px-3 py-1.5 text-[12px] text-faint">
                  {many(list.recipients, "recipient")} on the list. The drop decides which of them get email.
                </p>
              )}
            </Beside>
          </div>
        </DesignFrame>
      </BracketList.Provider>
    </Chips.Provider>
  );
}
