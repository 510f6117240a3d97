import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { say, sayWrong } from "../ui/notices";
import { useDelayed } from "../ui/useDelayed";
import { keys } from "../api/keys";

type Person = Schema["PersonOnList"];

const change = async (what: Promise<unknown>, done: string) => {
  try {
    await what;
    say(done);
    await queryClient.invalidateQueries({ queryKey: keys.lists() });
  } catch (e) {
    sayWrong(e);
  }
};

/** The same person on other lists, found by name and address or email; a wrong match is separated here. */
export function SamePerson({ listId, recipientId, name }: { listId: number; recipientId: number; name: string }) {
  const path = { id: listId, recipientId };
  const view = useQuery({
    queryKey: keys.lists(listId, "person", recipientId),
    queryFn: () => ask(api.GET("/api/lists/{id}/recipients/{recipientId}/person", { params: { path } })),
  }).data;
  const [adding, setAdding] = useState(false);
  if (!view) return null;
  const join = (other: Person) =>
    change(
      ask(
        api.POST("/api/lists/{id}/recipients/{recipientId}/person/{otherId}/join", {
          params: { path: { ...path, otherId: other.recipientId } },
        }),
      ),
      `${name} and ${other.name} on ${other.listName} are now the same person.`,
    );
  const separate = (other: Person) =>
    change(
      ask(
        api.POST("/api/lists/{id}/recipients/{recipientId}/person/{otherId}/separate", {
          params: { path: { ...path, otherId: other.recipientId } },
        }),
      ),
      `${name} and ${other.name} on ${other.listName} are now different people.`,
    );
  return (
    <>
      <div className="mb-2 flex items-center gap-3">
        <h2 className="flex-1">On other lists</h2>
        <button className="btn btn-xs btn-quiet" onClick={() => setAdding(true)}>
          Add a match…
        </button>
      </div>
      {view.others.length === 0 && (
        <p className="mb-3 text-faint">
          {view.looking ? "This list is still being matched with the others." : "No match on another list."}
        </p>
      )}
      <ul className="mb-6" aria-label="On other lists">
        {view.others.map((o) => (
          <Other key={o.recipientId} person={o} words={o.why}>
            <button className="btn btn-xs btn-quiet" onClick={() => void separate(o)}>
              Mark as a different person
            </button>
          </Other>
        ))}
        {view.different.map((o) => (
          <Other key={o.recipientId} person={o} words="marked as a different person">
            <button className="btn btn-xs btn-quiet" onClick={() => void join(o)}>
              Mark as the same person
            </button>
          </Other>
        ))}
      </ul>
      {adding && (
        <FindPerson
          name={name}
          without={[recipientId, ...view.others.map((o) => o.recipientId)]}
          onClose={() => setAdding(false)}
          onFound={(p) => {
            setAdding(false);
            void join(p);
          }}
        />
      )}
    </>
  );
}

function Other({ person, words, children }: { person: Person; words: string; children: React.ReactNode }) {
  return (
    <li className="flex items-start gap-3 border-b border-line py-1.5">
      <div className="min-w-0 flex-1">
        <Link className="font-semibold hover:underline" to={`/lists/${person.listId}/recipients/${person.recipientId}`}>
          {person.name}
        </Link>{" "}
        <span className="text-faint">{person.place}</span>
        <span className="block text-[12px] text-faint">
          {person.listName}
          {!person.onTheList && ", removed from the list"} · {words}
        </span>
      </div>
      {children}
    </li>
  );
}

function FindPerson({
  name,
  without,
  onFound,
  onClose,
}: {
  name: string;
  without: number[];
  onFound: (person: Person) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState(name.split(",")[0] ?? "");
  const asked = useDelayed(text.trim(), 250);
  const found = useQuery({
    queryKey: keys.lists("people", asked),
    queryFn: () => ask(api.GET("/api/people", { params: { query: { text: asked } } })),
    enabled: asked.length > 1,
  }).data?.filter((p) => !without.includes(p.recipientId));
  return (
    <Dialog title={`The same person as ${name}`} onClose={onClose}>
      <input
        className="input mb-2 w-full"
        aria-label="Name or email"
        placeholder="Words of a name, or an email address"
        autoFocus
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <ul className="max-h-72 overflow-auto" aria-label="Found">
        {(found ?? []).map((p) => (
          <Other key={p.recipientId} person={p} words={p.onTheList ? "on the list" : "removed"}>
            <button className="btn btn-xs btn-primary" onClick={() => onFound(p)}>
              Mark as the same person
            </button>
          </Other>
        ))}
        {found?.length === 0 && <li className="text-faint">No recipients found.</li>}
      </ul>
      <button className="btn btn-quiet mt-3" onClick={onClose}>
        Cancel
      </button>
    </Dialog>
  );
}
