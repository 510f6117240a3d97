import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask, queryClient } from "../api/client";
import { designsQuery, listsQuery } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { Empty } from "../ui/Empty";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { sayWrong } from "../ui/notices";
import { count, moment } from "../ui/words";

export function DesignsPage() {
  const navigate = useNavigate();
  const designs = useQuery(designsQuery()).data;
  const lists = useQuery(listsQuery()).data ?? [];
  const [writing, setWriting] = useState(false);
  useActions([{ keys: "n", label: "Write a letter", run: () => setWriting(true) }]);
  const begin = (
    <button className="btn btn-primary" onClick={() => setWriting(true)}>
      <Plus size={15} /> Write a letter
    </button>
  );
  return (
    <>
      <Header kind="What they get" title="Designs">
        {begin}
      </Header>
      {designs?.length === 0 && (
        <Empty title="No letter yet" actions={begin}>
          A letter is written on its page, with fields that are filled from a list. Type {"{"} to put one in; beside the letter stands the finished page of a real recipient.
        </Empty>
      )}
      {designs && designs.length > 0 && (
        <div className="min-h-0 flex-1 overflow-auto">
          <table className="table table-sm w-full">
            <thead>
              <tr className="text-faint">
                <th>Letter</th>
                <th>Written with</th>
                <th className="text-right">Version</th>
                <th>Changed</th>
                <th>Used in</th>
              </tr>
            </thead>
            <tbody>
              {designs.map((d) => (
                <tr key={d.id} className="cursor-pointer hover:bg-base-200" onClick={() => void navigate(`/designs/${d.id}`)}>
                  <td>
                    <Link className="font-semibold hover:underline" to={`/designs/${d.id}`}>
                      {d.name}
                    </Link>
                  </td>
                  <td className="text-faint">{lists.find((l) => l.id === d.listId)?.name ?? "no list"}</td>
                  <td className="text-right">{d.version}</td>
                  <td className="whitespace-nowrap text-faint">
                    {moment(d.updatedAt)}, {d.by}
                  </td>
                  <td className="max-w-md truncate text-faint">{d.usedIn.join("; ") || "nowhere yet"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {writing && <NewLetter lists={lists} close={() => setWriting(false)} />}
    </>
  );
}

function NewLetter({ lists, close }: { lists: { id: number; name: string; recipients: number }[]; close: () => void }) {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const [chosen, setChosen] = useState<string | null>(null);
  // Until one is chosen it is the newest list, also where the lists arrive after the dialog has opened.
  const list = chosen ?? String(lists[0]?.id ?? "");
  const begin = async () => {
    try {
      const id = await ask(api.POST("/api/designs", { body: { name, listId: list ? Number(list) : null, document: null } }));
      await queryClient.invalidateQueries({ queryKey: ["designs"] });
      void navigate(`/designs/${id}`);
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <Dialog title="Write a letter" onClose={close}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim()) void begin();
        }}
      >
        <label>
          <span className="mb-1 block font-semibold">Name</span>
          <input className="input w-full" autoFocus value={name} maxLength={120} placeholder="Second notice" onChange={(e) => setName(e.target.value)} />
        </label>
        <label>
          <span className="mb-1 block font-semibold">Fields come from</span>
          <select className="select w-full" value={list} onChange={(e) => setChosen(e.target.value)}>
            {lists.map((l) => (
              <option key={l.id} value={l.id}>
                {l.name}, {count(l.recipients)}
              </option>
            ))}
            <option value="">no list yet</option>
          </select>
        </label>
        <button className="btn btn-primary self-start" disabled={!name.trim()}>
          Write
        </button>
      </form>
    </Dialog>
  );
}
