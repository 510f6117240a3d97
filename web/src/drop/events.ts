import type { Schema } from "../api/client";
import { day } from "../ui/words";

/** An event of the ledger as a sentence. */
export function eventSentence(e: Schema["EventRow"]): string {
  const note = e.note ? `: ${e.note}` : "";
  switch (e.kind) {
    case "Joined":
      return "Added to the drop";
    case "Checked": {
      const keys = e.keysJson ? (JSON.parse(e.keysJson) as string[]) : [];
      return keys.length === 0 ? "Checked: no issues" : `Checked: ${keys.map(issueWords).join("; ")}`;
    }
    case "Accepted":
      return `Accepted as is: ${(JSON.parse(e.keysJson ?? "[]") as string[]).map(issueWords).join("; ")}`;
    case "Reopened":
      return "Issue opened again";
    case "Held":
      return `Held${note}`;
    case "Released":
      return "Released";
    case "Corrected":
      return `Corrected ${e.note ?? ""}`;
    case "Produced":
      return isEmail(e) ? `Email produced in run ${e.runNumber ?? ""}` : `Produced in run ${e.runNumber ?? ""}`;
    case "TakenBack":
      return `Piece of run ${e.runNumber ?? ""} moved back to Ready`;
    case "Mailed":
      return isEmail(e) ? `Emailed on ${day(e.date)}, run ${e.runNumber ?? ""}` : `Mailed on ${day(e.date)}`;
    case "GoesBy":
      return `Channel set to ${{ Paper: "paper", Email: "email", Both: "paper and email" }[e.note ?? ""] ?? e.note}${e.keysJson?.includes("hand") ? ", by hand" : ""}`;
    case "Refused":
      return `Rejected by the mail server${note}`;
    case "MailUndone":
      return `Mailing of ${day(e.date)} undone${note}`;
    case "Returned":
      return `Returned${note}`;
    case "InDoubt":
      return isEmail(e)
        ? `In doubt: may have been sent in run ${e.runNumber ?? ""}${note}`
        : `In doubt: may have been printed in run ${e.runNumber ?? ""}${note}`;
    case "DoubtSettled":
      return `Settled for run ${e.runNumber ?? ""}${note}`;
    case "ReturnUndone":
      return "Return undone";
    case "Reprinted":
      return `Reprinted in run ${e.runNumber ?? ""}`;
    case "ChangedAlone":
      return e.note ?? "Letter changed for this recipient only";
    default:
      return e.kind;
  }
}

/** True where a message is spoken of and not what is on paper. */
const isEmail = (e: Schema["EventRow"]) => e.keysJson?.startsWith('["email"') ?? false;

const kinds: Record<string, string> = {
  Blank: "blank",
  WrongType: "wrong type",
  OutOfRange: "cannot be computed",
  UnknownField: "no such column",
  RunsOver: "runs past the page limit",
  TooWide: "wider than a line",
  MissingGlyph: "character not in any font",
  MissingPicture: "no picture",
  CoarsePicture: "low-resolution picture",
  TooLarge: "too large",
  Address: "address",
  AddressTooLong: "too long",
  DoesNotFit: "does not fit",
  InClearZone: "",
  Window: "not visible in the window",
  Barcode: "cannot be created",
  OneOff: "changed for this recipient, and the design has changed since",
  EmailAddress: "no address to send to",
  EmailHeader: "no address",
  Attachment: "no file to attach",
  EmailTooLarge: "too large",
  Password: "blank",
  ButtonLink: "no link",
  Refused: "rejected by the mail server",
  Channel: "no channel",
  Design: "a mistake in the design",
  NothingPrinted: "prints nothing",
  HeavyPicture: "very large picture",
  Postal: "not as the post wants it",
  FormRequired: "required and blank",
  FormTooLong: "too long for its field",
  FormNotOffered: "not one of the choices",
  SampleText: "still sample text",
  LooksLikeField: "printed as it is, though it looks like a field",
};

/** An issue's key in words: its subject and its kind. */
function issueWords(key: string) {
  const [kind = "", subject = "", detail] = key.split("|");
  return `${subject} ${kinds[kind] ?? kind}${kind === "MissingGlyph" && detail ? ` U+${detail.split(" ").join(", U+")}` : ""}`;
}
