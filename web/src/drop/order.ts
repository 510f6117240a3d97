import { useMemo, useState } from "react";
import type { Schema } from "../api/client";
import type { Start } from "../surfaces/StartPicker";
import { momentOf } from "../ui/customs";
import { useDelayed } from "../ui/useDelayed";
import type { Drop } from "./DropPage";
import { kinds } from "../designs/kinds";

export type Order = Schema["RunOrder"];
export type Who = "ready" | "pieces" | "selected" | "segment" | "reprint";

export interface Form {
  who: Who;
  pieces: string;
  segment: number | null;
  sort: string;
  output: "one" | "parts" | "each" | "docx" | "docxeach" | "print" | "email" | "eml" | "mbox";
  partOf: number;
  nameBy: string;
  locked: boolean;
  open: string;
  openBy: boolean;
  owner: string;
  ownerBy: boolean;
  mayPrint: boolean;
  mayCopy: boolean;
  mayChange: boolean;
  /** What becomes of forms’ fields; null for what each form says. */
  fields: Schema["FormOutput"] | null;
  printer: number | null;
  batchOf: number;
  breakSheets: boolean;
  duplex: boolean;
  copies: number;
  collated: boolean;
  postage: string;
  abroad: string;
  /** For reprints: With corrections made since, or as it was printed; null until it is chosen. */
  corrected: boolean | null;
  /** For reprints: the designs that are not wanted again. */
  leave: number[];
  starts: Record<number, Start>;
  account: number | null;
  /** When it is sent, as the browser's clock says it; blank for at once. */
  at: string;
}

/** True for what makes or sends messages. */
export const isMailOutput = (output: string) => output === "email" || output === "eml" || output === "mbox";

export const first: Form = {
  who: "ready",
  pieces: "",
  segment: null,
  sort: "piece",
  output: "one",
  partOf: 500,
  nameBy: "{Piece number} {Name in full}",
  locked: false,
  open: "",
  openBy: false,
  owner: "",
  ownerBy: false,
  mayPrint: true,
  mayCopy: true,
  mayChange: false,
  fields: null,
  printer: null,
  batchOf: 200,
  breakSheets: true,
  duplex: false,
  copies: 1,
  collated: true,
  postage: "",
  abroad: "",
  corrected: null,
  leave: [],
  starts: {},
  account: null,
  at: "",
};

/** What an order is made of beside the form. */
interface Setting {
  package: Drop["package"];
  selected: ReadonlySet<number>;
  printer: number | null;
  account: number | null;
}

/** The order that a form comes to: what is made has its own settings, and no others. */
export function orderOf(form: Form, { package: designs, selected, printer, account }: Setting): Order {
  const who = {
    pieces: form.who === "pieces" || form.who === "reprint" ? form.pieces : null,
    recipients: form.who === "selected" ? [...selected] : null,
    segmentId: form.who === "segment" ? form.segment : null,
    sort: form.sort,
  };
  const reprints = form.who === "reprint";
  const paper = {
    ...who,
    reprints,
    corrected: reprints ? form.corrected : null,
    designs: reprints && form.leave.length > 0 ? designs.map((d) => d.designId).filter((d) => !form.leave.includes(d)) : null,
    sheets: designs.flatMap((d) => {
      const start = kinds[d.kind].sharesSheets ? form.starts[d.designId] : undefined;
      return start ? [{ designId: d.designId, start: start.start, spoiled: start.spoiled }] : [];
    }),
    printerId: printer,
    duplex: form.duplex,
    postage: form.postage || null,
    postageAbroad: form.abroad || null,
  };
  const each = form.output === "each";
  const passwords =
    form.locked && !reprints
      ? {
          open: form.open || null,
          openBy: form.openBy && each,
          owner: form.owner || null,
          ownerBy: form.ownerBy && each,
          print: form.mayPrint,
          copy: form.mayCopy,
          change: form.mayChange,
        }
      : null;
  switch (form.output) {
    case "one":
      return { output: "one", ...paper, passwords };
    case "parts":
      return { output: "parts", ...paper, passwords, partOf: form.partOf };
    case "each":
      return { output: "each", ...paper, passwords, nameBy: form.nameBy, fields: form.fields };
    case "docx":
      return { output: "docx", ...paper };
    case "docxeach":
      return { output: "docxeach", ...paper, nameBy: form.nameBy };
    case "print":
      return {
        output: "print",
        ...paper,
        batchOf: form.batchOf,
        breakSheets: form.batchOf > 0 && form.breakSheets,
        copies: form.copies,
        collated: form.collated,
      };
    case "email":
      return { output: "email", ...who, accountId: account, notBefore: form.at ? momentOf(form.at) : null };
    case "eml":
      return { output: "eml", ...who, nameBy: form.nameBy };
    case "mbox":
      return { output: "mbox", ...who };
  }
}

/** What somebody is about to have made, and the order that it comes to. */
export function useOrder(
  drop: Drop,
  selected: ReadonlySet<number>,
  printers: Schema["PrinterRow"][],
  accounts: Schema["MailAccountRow"][],
  asked: { reprint: string | null },
) {
  const [form, setForm] = useState<Form>(() => ({
    ...first,
    output: drop.channels.ways === "Email" ? "email" : "one",
    who: asked.reprint ? "reprint" : selected.size > 0 ? "selected" : "ready",
    pieces: asked.reprint ?? "",
  }));
  const set = (part: Partial<Form>) => setForm((f) => ({ ...f, ...part }));
  const texts = useDelayed(
    useMemo(
      () => ({ pieces: form.pieces, nameBy: form.nameBy, open: form.open, owner: form.owner }),
      [form.pieces, form.nameBy, form.open, form.owner],
    ),
    250,
  );
  // Until what was just typed is in the order, nothing is begun with it: a password that is still on its way would leave the files open.
  const settled = texts.pieces === form.pieces && texts.nameBy === form.nameBy && texts.open === form.open && texts.owner === form.owner;
  const printing = printers.filter((p) => p.kind !== "paper");
  const printer = form.output === "print" ? (form.printer ?? printing[0]?.id ?? null) : form.printer;
  const account = accounts.find((a) => a.id === form.account) ?? accounts[0] ?? null;
  const mailing = isMailOutput(form.output);
  const unlocked = form.locked && form.output !== "print" && !mailing && form.who !== "reprint" && form.open === "" && form.owner === "";
  const order = useMemo<Order>(
    () => orderOf({ ...form, ...texts }, { package: drop.package, selected, printer, account: account?.id ?? null }),
    [form, texts, selected, printer, drop.package, account],
  );
  const ready =
    !unlocked &&
    (form.output !== "email" || account !== null) &&
    (form.who !== "reprint" || form.leave.length < drop.package.length) &&
    (form.who !== "pieces" && form.who !== "reprint" ? true : texts.pieces.trim() !== "") &&
    (form.who !== "segment" || form.segment !== null);
  return {
    form,
    set,
    order,
    ready,
    settled,
    unlocked,
    mailing,
    account,
    accounts,
    allPrinters: printers,
    printer: printers.find((p) => p.id === printer) ?? null,
    printing,
  };
}
