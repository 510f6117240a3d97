import { useQuery } from "@tanstack/react-query";
import { useId, useState, type FormEvent } from "react";
import { api, ask, queryClient, type Schema } from "../api/client";
import { keys } from "../api/keys";
import { say, sayWrong } from "../ui/notices";
import { moment } from "../ui/words";

/** What people noted about a recipient, on whatever list it was: a call, a wish, an agreement. */
export function PersonNotes({ listId, recipientId }: { listId: number; recipientId: number }) {
  const id = useId();
  const path = { id: listId, recipientId };
  const notes = useQuery({
    queryKey: keys.lists(listId, "notes", recipientId),
    queryFn: () => ask(api.GET("/api/lists/{id}/recipients/{recipientId}/notes", { params: { path } })),
  }).data;
  const [text, setText] = useState("");
  const does = async (doing: Promise<unknown>, done: () => void) => {
    try {
      await doing;
      done();
    } catch (e) {
      sayWrong(e);
    }
    await queryClient.invalidateQueries({ queryKey: keys.lists(listId, "notes") });
  };
  const add = (e?: FormEvent) => {
    e?.preventDefault();
    if (!text.trim()) return;
    void does(ask(api.POST("/api/lists/{id}/recipients/{recipientId}/notes", { params: { path }, body: { text } })), () => setText(""));
  };
  const remove = (note: Schema["PersonNote"]) => {
    const of = { params: { path: { noteId: note.id } } };
    const restore = () => void does(ask(api.POST("/api/notes/{noteId}/restore", of)), () => undefined);
    void does(ask(api.DELETE("/api/notes/{noteId}", of)), () => say("The note was removed.", { action: { label: "Undo", run: restore } }));
  };
  if (!notes) return null;
  return (
    <section className="mb-6" aria-label="Notes">
      <h2 className="mb-2">Notes</h2>
      <ul>
        {notes.map((n) => (
          <li key={n.id} className="flex items-start gap-3 border-b border-line py-1.5">
            <div className="min-w-0 flex-1">
              <p className="break-words whitespace-pre-wrap">{n.text}</p>
              <p className="text-[12px] text-faint">
                {moment(n.at)}, {n.by}
                {n.listId !== listId && ` · ${n.listName}`}
              </p>
            </div>
            <button className="btn btn-xs btn-quiet" aria-label={`Remove note: ${n.text.slice(0, 40)}`} onClick={() => remove(n)}>
              Remove
            </button>
          </li>
        ))}
      </ul>
      <form className="mt-2 flex items-end gap-2" onSubmit={add}>
        <label className="min-w-0 flex-1" htmlFor={id}>
          <span className="sr-only">New note</span>
          <textarea
            id={id}
            className="textarea textarea-sm field-sizing-content max-h-40 min-h-9 w-full"
            rows={1}
            placeholder="Called; prefers email from now on"
            maxLength={4000}
            value={text}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => e.key === "Enter" && e.ctrlKey && add()}
          />
        </label>
        <button className="btn btn-quiet btn-sm" title="Ctrl Enter" disabled={!text.trim()}>
          Add note
        </button>
      </form>
    </section>
  );
}
