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
  /** Where one writes (paragraphs), or where one places boxes. */
  isWritten: boolean;
  /** How much room one takes beside others, as a share of the bench's width; 0 for what is no paper. */
  height: number;
}

/** What there is to know of each kind of design, in the order of a package. A new kind does not compile until it is told here. */
export const kinds: Record<DesignKind, Kind> = {
  letter: {
    name: "letter",
    choice: "a letter",
    heading: "Letters",
    many: "letters",
    counted: "Pages",
    example: "Second notice",
    isWritten: true,
    height: 1.3,
  },
  envelope: {
    name: "envelope",
    choice: "an envelope",
    heading: "Envelopes",
    many: "envelopes",
    counted: "Envelopes",
    example: "No. 10 with indicia",
    isWritten: false,
    height: 0.5,
  },
  labels: {
    name: "label sheet",
    choice: "label sheets",
    heading: "Label sheets",
    many: "labels",
    counted: "Sheets",
    example: "Address labels",
    isWritten: false,
    height: 0.22,
  },
  email: {
    name: "email",
    choice: "an email",
    heading: "Emails",
    many: "emails",
    counted: "Messages",
    example: "Renewal, by email",
    isWritten: true,
    height: 0,
  },
};

export const kindOrder = Object.keys(kinds) as DesignKind[];

/** With a capital, as a sentence or a heading begins. */
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
