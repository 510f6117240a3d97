import { FileArchive, FileStack, FileText, Inbox, Mail as MailIcon, Printer, Send } from "lucide-react";
import { onPaper } from "../../designs/kinds";
import { Name, type PartProps } from "./parts";

/** What is made of the pieces: on paper, and by email. */
export function MakeOutput({ drop, o }: PartProps) {
  const { form, set } = o;
  const { ways } = drop.channels;
  const outputs = [
    ["print", "print", Printer],
    ["one", onPaper(drop.package).length === 1 ? "one PDF" : "PDFs", FileText],
    ["parts", "parts", FileStack],
    ["each", "a PDF each", FileArchive],
  ] as const;
  const mailOutputs = [
    ["email", "send email", Send],
    ["eml", ".eml files", MailIcon],
    ["mbox", "mbox", Inbox],
  ] as const;
  return (
    <>
      {ways !== "Email" && (
        <>
          <Name>{ways === "Both" ? "on paper" : "as"}</Name>
          <div className="join">
            {outputs.map(([value, name, Icon]) => (
              <button
                key={value}
                className={`btn btn-sm join-item px-2 ${form.output === value ? "btn-primary" : "btn-quiet"}`}
                aria-pressed={form.output === value}
                onClick={() => set({ output: value })}
              >
                <Icon size={14} /> {name}
              </button>
            ))}
          </div>
        </>
      )}
      {ways !== "Paper" && (
        <>
          <Name>{ways === "Both" ? "by email" : "as"}</Name>
          <div className="join">
            {mailOutputs.map(([value, name, Icon]) => (
              <button
                key={value}
                className={`btn btn-sm join-item px-2 ${form.output === value ? "btn-primary" : "btn-quiet"}`}
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
