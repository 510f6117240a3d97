import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../api/client";
import { campaignsQuery, designsQuery, listsQuery } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { useDelayed } from "../ui/useDelayed";
import { keyName, useActions, useRegistry } from "../ui/keys";
import { keys } from "../api/keys";

/** Every action and record, by typing a part of its name. */
export function Palette() {
  const [open, setOpen] = useState(false);
  useActions([{ keys: "Ctrl+k", label: "Search pages and actions", run: () => setOpen(true), quiet: true }]);
  return open ? <Opened close={() => setOpen(false)} /> : null;
}

function Opened({ close }: { close: () => void }) {
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const asked = useDelayed(text.trim(), 250);
  // Found by the server, by name, email address, or a document of theirs.
  const people =
    useQuery({
      queryKey: keys.lists("people", asked),
      queryFn: () => ask(api.GET("/api/people", { params: { query: { text: asked } } })),
      enabled: asked.length > 2,
    }).data ?? [];
  const actions = useRegistry()?.all() ?? [];
  const lists = useQuery(listsQuery()).data ?? [];
  const designs = useQuery(designsQuery()).data ?? [];
  const campaigns = useQuery(campaignsQuery()).data ?? [];
  const records = [
    ...campaigns.map((c) => ({ kind: "Campaign", label: c.name, to: `/campaigns/${c.id}` })),
    ...campaigns.flatMap((c) => c.drops.map((d) => ({ kind: "Drop", label: `${c.name} · ${d.name}`, to: `/drops/${d.id}` }))),
    ...lists.map((l) => ({ kind: "List", label: l.name, to: `/lists/${l.id}` })),
    ...designs.map((d) => ({ kind: "Letter", label: d.name, to: `/designs/${d.id}` })),
    ...[
      ["Today", "/"],
      ["Campaigns", "/campaigns"],
      ["Plan a campaign", "/campaigns/plan"],
      ["Calendar", "/calendar"],
      ["Enter responses", "/responses"],
      ["Enter returns", "/returns"],
      ["Start drop", "/campaigns/new"],
      ["Lists", "/lists"],
      ["Import list", "/lists/new"],
      ["Designs", "/designs"],
      ["Settings", "/settings"],
    ].map(([label = "", to = ""]) => ({ kind: "Page", label, to })),
  ];
  const item = "flex cursor-pointer items-center gap-3 rounded px-2 py-1.5 data-[selected=true]:chosen";
  const after = (run: () => void) => () => {
    close();
    // The dialog gives the focus back first.
    setTimeout(run, 0);
  };
  return (
    <Dialog title="Search pages and actions" onClose={close}>
      <Command label="Search pages and actions">
        <Command.Input
          autoFocus
          placeholder="Type part of a name"
          className="input input-sm mb-2 w-full"
          value={text}
          onValueChange={setText}
        />
        <Command.List className="max-h-80 overflow-auto">
          <Command.Empty className="p-2 text-faint">No matches.</Command.Empty>
          {actions
            .filter((a) => !a.quiet)
            .map((a) => (
              <Command.Item key={a.label} value={`do ${a.label}`} onSelect={after(a.run)} className={item}>
                <span className="w-14 text-[11px] text-faint">Action</span>
                <span className="flex-1">{a.label}</span>
                {a.keys && <kbd className="kbd text-base-content">{keyName(a.keys.split(" ")[0] ?? "")}</kbd>}
              </Command.Item>
            ))}
          {records.map((r) => (
            <Command.Item key={r.to} value={`${r.kind} ${r.label} ${r.to}`} onSelect={after(() => void navigate(r.to))} className={item}>
              <span className="w-14 text-[11px] text-faint">{r.kind}</span>
              <span className="flex-1 truncate">{r.label}</span>
            </Command.Item>
          ))}
          {asked.length > 2 &&
            people.map((p) => (
              <Command.Item
                key={p.recipientId}
                // What was typed may be a part of an email address, or of a document’s name.
                value={`Recipient ${p.recipientId} ${text}`}
                onSelect={after(() => void navigate(`/lists/${p.listId}/recipients/${p.recipientId}`))}
                className={item}
              >
                <span className="w-14 text-[11px] text-faint">Recipient</span>
                <span className="flex-1 truncate">
                  {p.name}, {p.place}
                </span>
                <span className="truncate text-[11px] text-faint">{p.listName}</span>
              </Command.Item>
            ))}
        </Command.List>
      </Command>
    </Dialog>
  );
}
