import type { Editor, JSONContent } from "@tiptap/core";
import { Stamp } from "lucide-react";
import { useState } from "react";
import { Dialog } from "../ui/Dialog";
import { sayWrong } from "../ui/notices";
import { writingLocale } from "./typing";
import { bringPicture, Drop } from "./Toolbar";

const text = (t: string): JSONContent => ({ type: "text", text: t });
const field = (source: string): JSONContent => ({ type: "field", attrs: { source } });
const line = (...content: JSONContent[]): JSONContent => ({ type: "paragraph", content });

/** Ready pieces of a letter: they come in as ordinary text and fields and can be changed like those. */
export function Pieces({ editor, today, inBand }: { editor: Editor; today: string; inBand: boolean }) {
  const [signing, setSigning] = useState(false);
  const put = (content: JSONContent | JSONContent[]) => editor.chain().focus().insertContent(content).run();
  const all: [string, string, () => void][] = [
    ["Date", "Date the piece is produced", () => put(field("Today | date long"))],
    [
      "Fixed date",
      "Today’s date, never changes",
      () => put(text(new Intl.DateTimeFormat(writingLocale(), { dateStyle: "long", timeZone: "UTC" }).format(new Date(`${today}T12:00Z`)))),
    ],
    ["Delivery address", "Skips blank lines", () => put(line(field("Delivery address")))],
    ["Salutation", "never “Dear ,”", () => put(line(field("Salutation")))],
    ["Signature", "Picture, name, and job title", () => setSigning(true)],
    ["Barcode", "QR, Code 128, Data Matrix, Intelligent Mail", () => put({ type: "barcode", attrs: { source: "Piece number" } })],
    ...(inBand
      ? [
          [
            "Page n of m",
            "Starts over with each letter",
            () => put([text("page "), field("Page number"), text(" of "), field("Page count")]),
          ] as [string, string, () => void],
        ]
      : []),
  ];
  return (
    <>
      <Drop
        label="Snippets"
        face={
          <>
            <Stamp size={14} /> Snippets
          </>
        }
      >
        {(close) => (
          <ul className="w-64">
            {all.map(([name, hint, run]) => (
              <li key={name}>
                <button
                  className="flex w-full cursor-pointer items-baseline gap-2 rounded px-2 py-1 text-left hover:bg-base-200"
                  onMouseDown={(e) => e.preventDefault()}
                  onClick={() => (run(), close())}
                >
                  <span className="font-semibold">{name}</span>
                  <span className="flex-1 text-right text-[12px] text-faint">{hint}</span>
                </button>
              </li>
            ))}
          </ul>
        )}
      </Drop>
      {signing && <Signature put={put} close={() => setSigning(false)} />}
    </>
  );
}

function Signature({ put, close }: { put: (content: JSONContent[]) => void; close: () => void }) {
  const [name, setName] = useState("");
  const [role, setRole] = useState("");
  const [file, setFile] = useState<File | null>(null);
  const sign = async () => {
    try {
      const brought = file && (await bringPicture(file));
      put([
        ...(brought
          ? [
              {
                type: "picture",
                attrs: { ...brought.attrs, width: Math.min(50, brought.attrs.width), align: "left", alt: `${name}’s signature` },
              },
            ]
          : [
              {
                type: "paragraph",
                content: [{ type: "text", text: name, marks: [{ type: "textStyle", attrs: { fontFamily: "Caveat", fontSize: "24pt" } }] }],
              },
            ]),
        line(text(name), ...(role ? [{ type: "hardBreak" }, text(role)] : [])),
      ]);
      close();
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <Dialog title="Signature" onClose={close}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim()) void sign();
        }}
      >
        <label>
          Name
          <input
            className="input input-sm w-full"
            aria-label="Signer’s name"
            autoFocus
            value={name}
            onChange={(e) => setName(e.target.value)}
            placeholder="Marisol Quint"
          />
        </label>
        <label>
          Role
          <input
            className="input input-sm w-full"
            aria-label="Job title"
            value={role}
            onChange={(e) => setRole(e.target.value)}
            placeholder="Keeper of Members"
          />
        </label>
        <label>
          Signature picture (without one, the name is set in a handwriting font)
          <input
            type="file"
            className="file-input file-input-sm w-full"
            aria-label="Signature file"
            accept="image/png,image/jpeg,image/svg+xml"
            onChange={(e) => setFile(e.target.files?.[0] ?? null)}
          />
        </label>
        <button className="btn btn-primary self-start" disabled={!name.trim()}>
          Insert
        </button>
      </form>
    </Dialog>
  );
}
