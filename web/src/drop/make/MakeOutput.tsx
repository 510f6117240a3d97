import { FileArchive, FilePen, FileStack, FileText, Inbox, Mail as MailIcon, Printer, Send } from "lucide-react";
import { kinds, onPaper } from "../../designs/kinds";
import { Name, type PartProps } from "./parts";

/** What is made of the pieces: on paper, and by email. */
export function MakeOutput({ drop, o }: PartProps) {
  const { form, set } = o;
  const { ways } = drop.channels;
  const outputs = [
    ["print", "Print", Printer],
    ["one", onPaper(drop.package).length === 1 ? "One PDF" : "PDFs", FileText],
    ["parts", "Split files", FileStack],
    ["each", "PDF per recipient", FileArchive],
  ] as const;
  // Letters alone can be edited afterwards; the rest of the package comes as PDFs.
  const documents = [
    ["docx", "One DOCX", FilePen],
    ["docxeach", "DOCX per recipient", FileArchive],
  ] as const;
  const choice = ([value, name, Icon]: (typeof outputs)[number] | (typeof documents)[number]) => (
    <button
      key={value}
      className={`btn btn-sm px-2 ${form.output === value ? "btn-primary" : "btn-quiet"}`}
      aria-pressed={form.output === value}
      onClick={() => set({ output: value })}
    >
      <Icon size={14} /> {name}
    </button>
  );
  const mailOutputs = [
    ["email", "Send email", Send],
    ["eml", ".eml files", MailIcon],
    ["mbox", "mbox", Inbox],
  ] as const;
  return (
    <>
      {ways !== "Email" && (
        <>
          <Name>{ways === "Both" ? "Paper output" : "Output"}</Name>
          <div className="flex flex-wrap gap-1">{outputs.map(choice)}</div>
          {drop.package.some((d) => kinds[d.kind].isText) && (
            <>
              <Name>Editable</Name>
              <div className="flex flex-wrap gap-1">{documents.map(choice)}</div>
            </>
          )}
        </>
      )}
      {ways !== "Paper" && (
        <>
          <Name>{ways === "Both" ? "Email output" : "Output"}</Name>
          <div className="flex flex-wrap gap-1">
            {mailOutputs.map(([value, name, Icon]) => (
              <button
                key={value}
                className={`btn btn-sm px-2 ${form.output === value ? "btn-primary" : "btn-quiet"}`}
                aria-pressed={form.output === value}
                disabled={form.who === "reprint"}
                onClick={() => set({ output: value })}
              >
                <Icon size={14} /> {name}
              </button>
            ))}
          </div>
        </>
      )}
    </>
  );
}
