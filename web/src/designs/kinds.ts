import type { Schema } from "../api/client";

export type DesignKind = Schema["PieceKind"];

interface Kind {
  /** What one is called, within a sentence. */
  name: string;
  /** With its article, as a choice of what to make; label sheets are made by the sheet. */
  choice: string;
  /** Above a list of designs. */
  heading: string;
  /** A run's files of such designs, and its batches. */
  many: string;
  /** What is counted in a run's plan. */
  counted: string;
  /** A name that somebody might give one. */
  example: string;
  /** What is on one that is begun empty; nothing is told of what begins with a file. */
  blank?: string;
  /** Where one writes (paragraphs), or where one places boxes. */
  isWritten: boolean;
  /** True where it is printed, false where it is sent. */
  isPaper: boolean;
  /** True where it has as many pages as its text takes. */
  hasPages: boolean;
  /** True where it is text that flows over its pages, and can be edited elsewhere. */
  isText: boolean;
  /** True where it can be changed for one recipient alone. */
  changesForOne?: boolean;
  /** True where several pieces lie on one sheet. */
  sharesSheets: boolean;
  /** True where it is made of a PDF that is brought. */
  isFile?: boolean;
  /** How much room one takes beside others, as a share of the bench's width; 0 for what is no paper. */
  height: number;
}

/** What there is to know of each kind of design, in the order of a package. A new kind does not compile until it is told here. */
export const kinds: Record<DesignKind, Kind> = {
  letter: {
    name: "letter",
    choice: "Letter",
    heading: "Letters",
    many: "letters",
    counted: "Pages",
    example: "Second notice",
    blank: "A blank page.",
    isWritten: true,
    isPaper: true,
    hasPages: true,
    isText: true,
    changesForOne: true,
    sharesSheets: false,
    height: 1.3,
  },
  form: {
    name: "form",
    choice: "Form",
    heading: "Forms",
    many: "forms",
    counted: "Pages",
    example: "Application for a nursery plot",
    isWritten: false,
    isPaper: true,
    hasPages: true,
    isText: false,
    changesForOne: true,
    sharesSheets: false,
    isFile: true,
    height: 1.3,
  },
  envelope: {
    name: "envelope",
    choice: "Envelope",
    heading: "Envelopes",
    many: "envelopes",
    counted: "Envelopes",
    example: "Envelope with indicia",
    blank: "Addresses only.",
    isWritten: false,
    isPaper: true,
    hasPages: false,
    isText: false,
    sharesSheets: false,
    height: 0.5,
  },
  labels: {
    name: "label sheet",
    choice: "Label sheet",
    heading: "Label sheets",
    many: "labels",
    counted: "Sheets",
    example: "Address labels",
    blank: "Addresses only.",
    isWritten: false,
    isPaper: true,
    hasPages: false,
    isText: false,
    sharesSheets: true,
    height: 0.22,
  },
  email: {
    name: "email",
    choice: "Email",
    heading: "Emails",
    many: "emails",
    counted: "Messages",
    example: "Renewal email",
    blank: "A salutation only.",
    isWritten: true,
    isPaper: false,
    hasPages: false,
    isText: false,
    sharesSheets: false,
    height: 0,
  },
};

/** The designs of a package that are printed. */
export const onPaper = <D extends { kind: DesignKind }>(designs: readonly D[]) => designs.filter((d) => kinds[d.kind].isPaper);

/** The piece or design whose pages are read: the letter, whatever else is in the package. */
export const paged = <D extends { kind: DesignKind }>(designs: readonly D[]) => designs.find((d) => kinds[d.kind].hasPages);

/** The design that can be changed for one recipient: the text before a form. */
export const changeable = <D extends { kind: DesignKind }>(designs: readonly D[]) =>
  designs.find((d) => kinds[d.kind].isText) ?? designs.find((d) => kinds[d.kind].changesForOne);

/** True where one of them is sent and not printed. */
export const isSent = (designs: readonly { kind: DesignKind }[]) => designs.some((d) => !kinds[d.kind].isPaper);

export const kindOrder = Object.keys(kinds) as DesignKind[];

/** With a capital, as a sentence or a heading begins. */
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
