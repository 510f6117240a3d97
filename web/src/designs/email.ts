import type { JSONContent } from "@tiptap/core";
import { completeLetter, type Letter } from "./letter";

/** Something that is attached: a design of the package, a file for everybody, a file of the recipient's own. */
export type Attached =
  | { kind: "design"; designId: number; name: string; password: string | null; as?: "pdf" | "docx" }
  | { kind: "file"; file: string; name: string; size: number }
  | { kind: "folder"; folderId: number; source: string; name: string };

/** An email in its stored form; docs/email.md describes it. */
export interface Email {
  kind: "email";
  subject: string;
  preheader: string;
  fromName: string;
  fromAddress: string;
  replyTo: string;
  to: string;
  cc: string;
  bcc: string;
  /** True where copies carry the recipient's own files and their link, too. */
  copiesWhole: boolean;
  format: "html" | "text";
  unsubscribe: boolean;
  /** Megabytes. */
  sizeLimit: number;
  type: Letter["type"];
  content: JSONContent[];
  attachments: Attached[];
}

/** A stored email with what it leaves open filled in, as the server's reader does. */
export function completeEmail(stored: unknown): Email {
  const d = (stored ?? {}) as Partial<Email>;
  const text = (value: unknown) => (typeof value === "string" ? value : "");
  return {
    kind: "email",
    subject: text(d.subject),
    preheader: text(d.preheader),
    fromName: text(d.fromName),
    fromAddress: text(d.fromAddress),
    replyTo: text(d.replyTo),
    to: text(d.to),
    cc: text(d.cc),
    bcc: text(d.bcc),
    copiesWhole: d.copiesWhole ?? false,
    format: d.format === "text" ? "text" : "html",
    unsubscribe: d.unsubscribe ?? true,
    sizeLimit: d.sizeLimit ?? 10,
    type: { family: "Source Sans 3", size: 12, lineSpacing: 1.45, spaceAfter: 10, ...d.type },
    content: completeLetter({ content: d.content }).content,
    attachments: d.attachments ?? [],
  };
}
