import { useMemo, useState } from "react";
import type { Schema } from "../api/client";
import type { Start } from "../surfaces/StartPicker";
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
  output: "one" | "parts" | "each" | "print" | "email" | "eml" | "mbox";
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
  printer: number | null;
  batchOf: number;
  breakSheets: boolean;
  duplex: boolean;
  copies: number;
  collated: boolean;
  postage: string;
  abroad: string;
  /** For reprints: with the corrections made since, or as it was printed; null until it is chosen. */
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

const first: Form = {
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

/** Everyone who is Ready, in one file: what is asked where only the counts matter. */
export const everyoneReady: Order = {
  pieces: null,
  recipients: null,
  segmentId: null,
  reprints: false,
  expected: null,
  sheets: null,
  printerId: null,
  sort: null,
  output: "one",
  partOf: null,
  nameBy: null,
  passwords: null,
  batchOf: 0,
  breakSheets: false,
  duplex: false,
  copies: 1,
  collated: true,
  postage: null,
  postageAbroad: null,
  designs: null,
  accountId: null,
  notBefore: null,
  corrected: null,
};

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
    () => ({
      pieces: form.who === "pieces" || form.who === "reprint" ? texts.pieces : null,
      recipients: form.who === "selected" ? [...selected] : null,
      segmentId: form.who === "segment" ? form.segment : null,
      reprints: form.who === "reprint",
      expected: null,
      sheets: drop.package.flatMap((d) =>
        kinds[d.kind].sharesSheets && form.starts[d.designId]
          ? [{ designId: d.designId, start: form.starts[d.designId]?.start ?? 1, spoiled: form.starts[d.designId]?.spoiled ?? null }]
          : [],
      ),
      printerId: mailing ? null : printer,
      sort: form.sort,
      output: form.output,
      partOf: form.output === "parts" ? form.partOf : null,
      nameBy: form.output === "each" || form.output === "eml" ? texts.nameBy : null,
      passwords:
        form.locked && form.output !== "print" && !mailing && form.who !== "reprint"
          ? {
              open: texts.open || null,
              openBy: form.openBy && form.output === "each",
              owner: texts.owner || null,
              ownerBy: form.ownerBy && form.output === "each",
              print: form.mayPrint,
              copy: form.mayCopy,
              change: form.mayChange,
            }
          : null,
      batchOf: form.output === "print" ? form.batchOf : 0,
      breakSheets: form.output === "print" && form.batchOf > 0 && form.breakSheets,
      duplex: form.duplex && !mailing,
      copies: form.output === "print" ? form.copies : 1,
      collated: form.collated,
      postage: mailing ? null : form.postage || null,
      postageAbroad: mailing ? null : form.abroad || null,
      designs:
        form.who === "reprint" && form.leave.length > 0 ? drop.package.map((d) => d.designId).filter((d) => !form.leave.includes(d)) : null,
      accountId: form.output === "email" ? (account?.id ?? null) : null,
      notBefore: form.output === "email" && form.at ? new Date(form.at).toISOString() : null,
      corrected: form.who === "reprint" ? form.corrected : null,
    }),
    [form, texts, selected, printer, drop.package, account, mailing],
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
