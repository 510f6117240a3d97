import {
  AlignmentType,
  Document,
  Footer,
  Header,
  HeadingLevel,
  ImageRun,
  LevelFormat,
  Packer,
  PageBreak,
  PageNumber,
  Paragraph,
  SimpleField,
  Tab,
  Table,
  TableCell,
  TableRow,
  TextRun,
  WidthType,
} from "docx";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "./server.mjs";

const text = (t, more = {}) => new TextRun({ text: t, ...more });
const line = (children, more = {}) => new Paragraph({ children: typeof children === "string" ? [text(children)] : children, ...more });
const cell = (t, more = {}) => new TableCell({ children: [line(t)], ...more });

/** A renewal letter as a word processor writes it: letterhead picture, list, table of visits, a condition, and placeholders in three kinds of
 * marks. */
export function renewalLetter({ closing = "With warm regards," } = {}) {
  return Packer.toBuffer(
    new Document({
      styles: { default: { document: { run: { font: "Calibri", size: 22 }, paragraph: { spacing: { after: 160, line: 259 } } } } },
      numbering: {
        config: [
          {
            reference: "steps",
            levels: [
              { level: 0, format: LevelFormat.DECIMAL, text: "%1.", style: { paragraph: { indent: { left: 720, hanging: 360 } } } },
              { level: 1, format: LevelFormat.LOWER_LETTER, text: "%2)", style: { paragraph: { indent: { left: 1440, hanging: 360 } } } },
            ],
          },
        ],
      },
      sections: [
        {
          properties: { titlePage: true, page: { size: { width: 12240, height: 15840 } } },
          headers: {
            first: new Header({
              children: [
                line([
                  new ImageRun({
                    type: "png",
                    data: readFileSync(join(root, "demo/files/emblem.png")),
                    transformation: { width: 60, height: 60 },
                    altText: { name: "Emblem", description: "Emblem", title: "Emblem" },
                  }),
                ]),
                line("14 Quay Road, Fernquay, OR 97412", { alignment: AlignmentType.RIGHT }),
              ],
            }),
            default: new Header({ children: [line("Fernquay Botanic Garden")] }),
          },
          footers: {
            default: new Footer({
              children: [line([new TextRun({ children: ["Page ", PageNumber.CURRENT, " of ", PageNumber.TOTAL_PAGES] })])],
            }),
            first: new Footer({
              children: [line([new TextRun({ children: ["Page ", PageNumber.CURRENT, " of ", PageNumber.TOTAL_PAGES] })])],
            }),
          },
          children: [
            line("Jordan Sample"),
            line("123 Any Street"),
            line("Anytown, OR 97000"),
            line([text("Dear "), text("{{F", { bold: true }), text("Name}}", { bold: true }), text(",")]),
            line("Your membership renews", { heading: HeadingLevel.HEADING_1 }),
            line([
              text("Your level is «Level», and "),
              new SimpleField('MERGEFIELD Amount \\# "$#,##0.00"', "$64.00"),
              text(" is due by {{Renewal Date, MMMM d, yyyy}}."),
            ]),
            line("{{#if Level == 'Patron'}}"),
            line("As a patron you are invited to the evening in the glasshouse."),
            line("{{/if}}"),
            line("What to do:"),
            line("Look at your visits.", { numbering: { reference: "steps", level: 0 } }),
            line("Those of this year.", { numbering: { reference: "steps", level: 1 } }),
            line("Those of last year.", { numbering: { reference: "steps", level: 1 } }),
            line("Renew.", { numbering: { reference: "steps", level: 0 } }),
            new Table({
              width: { size: 9000, type: WidthType.DXA },
              columnWidths: [6000, 3000],
              rows: [
                new TableRow({ tableHeader: true, children: [cell("Visit"), cell("Guests")] }),
                new TableRow({ children: [cell("{{#each visits}}{{Day}}"), cell("{{Guests}}{{/each}}")] }),
              ],
            }),
            line([new PageBreak(), text("Second page for {{FName}} {{LName}}.")]),
            line([new PageBreak(), text(closing)]),
            line([text("[Signer]"), new TextRun({ children: [new Tab()] }), text("[Region Mgr]")]),
          ],
        },
      ],
    }),
  );
}
