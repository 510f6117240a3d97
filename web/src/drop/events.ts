import type { Schema } from "../api/client";
import { day } from "../ui/words";

/** An event of the ledger as a sentence. */
export function eventSentence(e: Schema["EventRow"]): string {
  const note = e.note ? `: ${e.note}` : "";
  switch (e.kind) {
    case "Joined":
      return "Came into the drop";
    case "Checked": {
      const keys = e.keysJson ? (JSON.parse(e.keysJson) as string[]) : [];
      return keys.length === 0 ? "Checked: nothing doubtful" : `Checked: ${keys.map(findingWords).join("; ")}`;
    }
    case "Accepted":
      return `Accepted as it is: ${((JSON.parse(e.keysJson ?? "[]") as string[]).map(findingWords)).join("; ")}`;
    case "Reopened":
      return "Finding opened again";
    case "Held":
      return `Held${note}`;
    case "Released":
      return "Released";
    case "Corrected":
      return `Corrected ${e.note ?? ""}`;
    case "Produced":
      return `Produced in run ${e.runNumber ?? ""}`;
    case "TakenBack":
      return `Piece of run ${e.runNumber ?? ""} set aside, to be made again`;
    case "Mailed":
      return `Mailed on ${day(e.date)}`;
    case "MailUndone":
      return `Mailing of ${day(e.date)} was recorded by mistake`;
    case "Returned":
      return `Came back${note}`;
    case "ReturnUndone":
      return "Return was recorded by mistake";
    default:
      return e.kind;
  }
}

const kinds: Record<string, string> = { Blank: "blank", WrongType: "does not fit", OutOfRange: "cannot be computed", UnknownField: "no such column", RunsOver: "runs over its page", TooWide: "wider than a line", MissingGlyph: "no glyph", MissingPicture: "no picture", CoarsePicture: "coarse picture", TooLarge: "too large", Address: "doubtful address", AddressTooLong: "too long", DoesNotFit: "does not fit", InClearZone: "", Window: "not right", Barcode: "cannot be made" };

/** A finding's key in words: its subject and its kind. */
function findingWords(key: string) {
  const [kind = "", subject = "", detail] = key.split("|");
  return `${subject} ${kinds[kind] ?? kind}${kind === "MissingGlyph" && detail ? ` U+${detail.split(" ").join(", U+")}` : ""}`;
}

/** What a group of findings is called. */
export function groupTitle(g: { kind: string; subject: string }) {
  switch (g.kind) {
    case "Blank":
      return `No ${g.subject}`;
    case "WrongType":
      return `${g.subject} does not fit`;
    case "OutOfRange":
      return `${g.subject} cannot be computed`;
    case "UnknownField":
      return `No column “${g.subject}”`;
    case "RunsOver":
      return "Runs over its page";
    case "TooWide":
      return "A word wider than its line";
    case "MissingPicture":
      return "A picture that is not there";
    case "CoarsePicture":
      return "A picture too coarse for print";
    case "TooLarge":
      return "Larger than its page";
    case "Address":
      return `Doubtful address: ${g.subject}`;
    case "AddressTooLong":
      return `Too long a line${g.subject.replace(/^address/, "")}`;
    case "DoesNotFit":
      return `${g.subject.replace(/^./, (c) => c.toUpperCase())} does not fit`;
    case "InClearZone":
      return g.subject.replace(/^./, (c) => c.toUpperCase());
    case "Window":
      return "Letter and window";
    case "Barcode":
      return `No ${g.subject}`;
    default:
      return "Characters no typeface has";
  }
}
