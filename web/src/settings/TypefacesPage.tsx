import { useQuery } from "@tanstack/react-query";
import { Plus, Trash2, Upload } from "lucide-react";
import { useRef, useState } from "react";
import { DropZone } from "../ui/DropZone";
import { api, ask, queryClient, sendFile, type Schema } from "../api/client";
import { typefacesQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { say, sayWrong } from "../ui/notices";
import { many, size } from "../ui/words";
import { keys } from "../api/keys";

/** The organization's own typefaces, and what prints those that documents name. */
export function TypefacesPage() {
  const faces = useQuery(typefacesQuery()).data;
  return (
    <>
      <Header kind="Settings" title="Fonts" />
      {faces && (
        <div className="flex min-h-0 flex-1">
          <OwnFaces own={faces.own} families={faces.families} />
          <Replacements families={faces.families} rows={faces.replacements} />
        </div>
      )}
    </>
  );
}

const changed = async () => {
  await queryClient.invalidateQueries({ queryKey: keys.settings() });
};

function OwnFaces({ own, families }: { own: Schema["TypefaceRow"][]; families: string[] }) {
  const input = useRef<HTMLInputElement>(null);
  const [wrong, setWrong] = useState<string[]>([]);
  const [sending, setSending] = useState(0);
  const add = async (files: FileList | null) => {
    const all = [...(files ?? [])];
    if (!all.length) return;
    setWrong([]);
    setSending(all.length);
    let added = 0;
    for (const file of all) {
      try {
        await sendFile<Schema["TypefaceRow"]>(`/api/typefaces?name=${encodeURIComponent(file.name)}`, file);
        added++;
      } catch (e) {
        setWrong((w) => [...w, e instanceof Error ? e.message : String(e)]);
      }
      setSending((n) => n - 1);
    }
    await changed();
    if (added) say(`${many(added, "font was", "fonts were")} added. Letters can use ${added === 1 ? "it" : "them"} now.`);
  };
  const remove = async (face: Schema["TypefaceRow"]) => {
    try {
      await ask(api.DELETE("/api/typefaces/{id}", { params: { path: { id: face.id } } }));
      await changed();
      say(`${face.family} ${face.style} was removed.`);
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <section className="flex min-w-0 flex-1 flex-col gap-3 overflow-auto border-r border-line p-5" aria-label="Your fonts">
      <h2>Your fonts</h2>
      <DropZone className="p-3" onFiles={(files) => void add(files)}>
        <Upload size={22} strokeWidth={1.4} className="shrink-0 text-faint" />
        <span className="min-w-0 flex-1 text-faint">
          {sending > 0
            ? `${many(sending, "file", "files")} to go…`
            : "Drop TTF or OTF files here: regular, italic, bold, and bold italic of a family."}
        </span>
        <button className="btn btn-quiet btn-sm" disabled={sending > 0} onClick={() => input.current?.click()}>
          Choose files…
        </button>
        <input
          ref={input}
          type="file"
          className="hidden"
          multiple
          accept=".ttf,.otf,font/ttf,font/otf"
          aria-label="Font files"
          onChange={(e) => {
            void add(e.target.files);
            e.target.value = "";
          }}
        />
      </DropZone>
      {wrong.length > 0 && (
        <ul className="flex flex-col gap-1" role="alert">
          {wrong.map((w) => (
            <li key={w} className="border-l-[3px] border-error bg-base-200 px-2 py-1">
              {w}
            </li>
          ))}
        </ul>
      )}
      {own.length === 0 ? (
        <p className="max-w-prose text-faint">
          None yet. Letters can use the fonts that come with Bandeja. Add those of your organization, if their license allows embedding.
        </p>
      ) : (
        <ul className="flex flex-col">
          {own.map((f) => (
            <li key={f.id} className="flex items-center gap-3 border-b border-line py-2">
              <span className="min-w-0 flex-1">
                <span
                  className="block truncate text-[22px] leading-tight"
                  style={{ fontFamily: `"${f.family}"`, fontWeight: f.bold ? 700 : 400, fontStyle: f.italic ? "italic" : "normal" }}
                >
                  {f.family} {f.style}
                </span>
                {!families.includes(f.family) && (
                  <span className="block text-error">Its file is missing or damaged. Add {f.fileName} again.</span>
                )}
                <span className="block truncate text-faint">
                  {f.fileName} · {size(f.size)} · added by {f.by}
                </span>
              </span>
              <button className="btn btn-quiet btn-sm" aria-label={`Remove ${f.family} ${f.style}`} onClick={() => void remove(f)}>
                <Trash2 size={14} />
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Replacements({ families, rows }: { families: string[]; rows: Schema["FaceReplacement"][] }) {
  const [find, setFind] = useState("");
  const [named, setNamed] = useState("");
  const chosen = rows.filter((r) => r.isChosen);
  const set = async (replacements: { named: string; printed: string }[]) => {
    try {
      await ask(api.PUT("/api/typefaces/replacements", { body: { replacements } }));
      await changed();
      return true;
    } catch (e) {
      sayWrong(e);
      return false;
    }
  };
  const others = (name: string) => chosen.filter((r) => r.named !== name).map(({ named: n, printed }) => ({ named: n, printed }));
  const shown = rows.filter((r) => `${r.named} ${r.printed}`.toLowerCase().includes(find.trim().toLowerCase()));
  return (
    <section className="flex min-w-0 flex-1 flex-col gap-3 overflow-auto p-5" aria-label="Fonts in documents">
      <h2>Fonts in documents</h2>
      <p className="max-w-prose text-faint">
        A document names the fonts of the computer it was written on. If Bandeja does not have a font, a replacement is printed.
      </p>
      <form
        className="flex items-center gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          const name = named.trim();
          if (name && families[0])
            void set([...others(name), { named: name, printed: families[0] }]).then((ok) => {
              if (!ok) return;
              setNamed("");
              setFind("");
            });
        }}
      >
        <input
          className="input input-sm flex-1"
          aria-label="Font name in documents"
          placeholder="Another font name"
          value={named}
          maxLength={80}
          onChange={(e) => setNamed(e.target.value)}
        />
        <button className="btn btn-quiet btn-sm" disabled={!named.trim()}>
          <Plus size={14} /> Add
        </button>
        <input
          className="input input-sm w-40"
          aria-label="Search fonts"
          placeholder="find"
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
      </form>
      <table className="w-full text-left">
        <thead>
          <tr className="border-b border-line text-faint">
            <th className="py-1 font-normal">In the document</th>
            <th className="font-normal">Printed with</th>
            <th className="font-normal">Letters</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {shown.map((r) => (
            <tr key={r.named} className="border-b border-line">
              <td className="py-1.5 pr-2">{r.named}</td>
              <td className="pr-2">
                <select
                  className="select select-sm w-44"
                  aria-label={`${r.named} is printed with`}
                  value={r.printed}
                  onChange={(e) => void set([...others(r.named), { named: r.named, printed: e.target.value }])}
                >
                  {!families.includes(r.printed) && <option>{r.printed}</option>}
                  {families.map((f) => (
                    <option key={f}>{f}</option>
                  ))}
                </select>
              </td>
              <td className="text-faint">{r.isChosen ? "chosen here" : r.sameWidths ? "same widths" : "similar"}</td>
              <td className="text-right">
                {r.isChosen && (
                  <button className="btn btn-quiet btn-xs" onClick={() => void set(others(r.named))}>
                    Reset
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {shown.length === 0 && <p className="text-faint">No font has that name.</p>}
    </section>
  );
}
