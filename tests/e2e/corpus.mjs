// Documents as other programs write them: two writers of DOCX and one of ODT, which know nothing of Bandeja. Each says what must come of it.
import * as d from "docx";
import htmlToDocx from "html-to-docx";
import { OdtDocument } from "odf-kit";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "./server.mjs";

const emblem = () => readFileSync(join(root, "demo/files/emblem.png"));
const sentence = "The glasshouse is quieter without you; in nine years you have walked the riverside path with us. ";
const T = (text, more = {}) => new d.TextRun({ text, ...more });
const P = (children, more = {}) => new d.Paragraph({ children: typeof children === "string" ? [T(children)] : children, ...more });
const cell = (text, more = {}) => new d.TableCell({ children: [P(text)], ...more });
const image = (more = {}) => new d.ImageRun({ type: "png", data: emblem(), transformation: { width: 96, height: 96 }, ...more });

const letterSheet = { page: { size: { width: 12240, height: 15840 } } };
const docx = (children, more = {}, section = {}) =>
  d.Packer.toBuffer(new d.Document({ ...more, sections: [{ properties: letterSheet, children, ...section }] }));
const bullets = (format, text, levels = 1) => ({
  config: [
    {
      reference: "own",
      levels: Array.from({ length: levels }, (_, level) => ({
        level,
        format,
        text: text(level),
        style: { paragraph: { indent: { left: 720 * (level + 1), hanging: 360 } } },
      })),
    },
  ],
});
const item = (text, level = 0) => P(text, { numbering: { reference: "own", level } });

/** The documents of the first writer: paragraph by paragraph. */
const first = [
  ["plain text", () => docx([P("One"), P(""), P("Two")]), ["One", "", "Two"]],
  [
    "formatting of parts of a line",
    () => docx([P([T("a "), T("bold", { bold: true }), T(" "), T("slanted", { italics: true, color: "AA0000", size: 40 })])]),
    ["a bold slanted"],
    ({ letter }) => [
      marksOf(letter, "bold").includes("bold"),
      letter.content[0].content.at(-1).marks.some((m) => m.attrs?.fontSize === "20pt" && m.attrs?.color === "#aa0000"),
    ],
  ],
  [
    "headings of three levels",
    () => docx([1, 2, 3].map((n) => P(`H${n}`, { heading: d.HeadingLevel[`HEADING_${n}`] }))),
    ["# H1", "## H2", "### H3"],
  ],
  [
    "a placeholder in pieces of different formatting",
    () => docx([P([T("Dear {{Fi"), T("rst ", { bold: true }), T("name"), T("}}"), T(",")])]),
    ["Dear {First name},"],
  ],
  [
    "four kinds of marks",
    () => docx([P("«City» and <<Level>> and [[ZIP]] and ${Last name}")]),
    ["{City} and {Level} and {ZIP} and {Last name}"],
  ],
  [
    "field codes, simple and complex",
    () =>
      docx([
        P([T("Dear "), new d.SimpleField("MERGEFIELD First_name", "x"), T(", from "), new d.SimpleField("MERGEFIELD City \\* Upper", "x")]),
      ]),
    ["Dear {First name}, from {City | upper}"],
  ],
  [
    "bullets within bullets",
    () => docx([item("a"), item("b", 1), item("c")], { numbering: bullets(d.LevelFormat.BULLET, () => "•", 3) }),
    ["• a", "  • b", "• c"],
  ],
  [
    "numbers, letters, and Roman numbers",
    () =>
      docx([item("one"), item("sub", 1), item("two")], {
        numbering: {
          config: [
            {
              reference: "own",
              levels: [
                { level: 0, format: d.LevelFormat.UPPER_ROMAN, text: "%1." },
                { level: 1, format: d.LevelFormat.LOWER_LETTER, text: "%2)" },
              ],
            },
          ],
        },
      }),
    ["1 one", "  1 sub", "1 two"],
    ({ letter }) => [letter.content[0].attrs.style === "upper-roman", JSON.stringify(letter).includes('"label":"%2)"')],
  ],
  [
    "labels with the numbers above",
    () => docx([item("one"), item("sub", 1)], { numbering: bullets(d.LevelFormat.DECIMAL, (l) => (l ? "%1.%2" : "%1."), 2) }),
    ["1 one", "  1 sub"],
    ({ letter }) => [JSON.stringify(letter).includes('"label":"%1.%2"')],
  ],
  [
    "a table with widths, a heading row, and merged cells",
    () =>
      docx([
        new d.Table({
          columnWidths: [3000, 2000, 2000],
          rows: [
            new d.TableRow({ tableHeader: true, children: [cell("Plant", { columnSpan: 2 }), cell("Price")] }),
            new d.TableRow({ children: [cell("Fern", { rowSpan: 2 }), cell("Fig"), cell("3")] }),
            new d.TableRow({ children: [cell("Ivy"), cell("4")] }),
          ],
        }),
      ]),
    ["| Plant | Price", "| Fern | Fig | 3", "| Ivy | 4"],
    ({ letter }) => [
      letter.content[0].content[0].content[0].type === "tableHeader",
      letter.content[0].content[1].content[0].attrs.rowspan === 2,
    ],
  ],
  [
    "rows repeated by tags in a table",
    () =>
      docx([
        new d.Table({
          rows: [
            new d.TableRow({ children: [cell("Date"), cell("Guests")] }),
            new d.TableRow({ children: [cell("{{#each Visits}}{{Visit date}}"), cell("{{Guests}}{{/each}}")] }),
          ],
        }),
      ]),
    ["| Date | Guests", "{each Visits} | {Visit date} | {Guests}"],
  ],
  [
    "conditions around paragraphs and within a line",
    () =>
      docx([
        P("{{#if Level}}"),
        P("Thank you, {{Level}}."),
        P("{{else}}"),
        P("Join us."),
        P("{{/if}}"),
        P("See you{{#if City}} in {{City}}{{/if}}."),
      ]),
    [
      "{when Level is not blank}",
      "Thank you, {Level}.",
      "{otherwise}",
      "Join us.",
      "{end}",
      "See you{when City is not blank} in {City}{end}.",
    ],
  ],
  [
    "tabs with leaders",
    () => docx([P([T("Fig"), T("\t3")], { tabStops: [{ type: "right", position: 6000, leader: "dot" }] })]),
    ["Fig\t3"],
    ({ letter }) => [letter.content[0].attrs.tabs[0].leader === "dots", letter.content[0].attrs.tabs[0].kind === "right"],
  ],
  ["line breaks and page breaks", () => docx([P([T("a"), T("b", { break: 1 })]), P([new d.PageBreak()]), P("c")]), ["a⏎b", "—", "c"]],
  [
    "alignment and indents",
    () => docx([P("r", { alignment: "right" }), P("i", { indent: { left: 720, firstLine: 360 } }), P(sentence, { alignment: "both" })]),
    ["r", "i", sentence],
    ({ letter }) => [
      letter.content[0].attrs.textAlign === "right",
      letter.content[1].attrs.indent === 12.7,
      letter.content[2].attrs.textAlign === "justify",
    ],
  ],
  [
    "shading and borders",
    () =>
      docx([
        P("x", { shading: { type: "clear", fill: "FFEEDD" }, border: { top: { style: "single", size: 8, color: "AA0000", space: 1 } } }),
      ]),
    ["x"],
    ({ letter }) => [letter.content[0].attrs.shade === "#ffeedd", letter.content[0].attrs.border.sides === "top"],
  ],
  [
    "a link",
    () => docx([P([new d.ExternalHyperlink({ link: "https://example.org/a?b=1&c=2", children: [T("here")] })])]),
    ["here"],
    ({ letter }) => [JSON.stringify(letter).includes("https://example.org/a?b=1&c=2")],
  ],
  [
    "a picture in the line and one alone",
    () => docx([P([T("see "), image()]), P([image()], { alignment: "center" })]),
    ["see ▣", "▣"],
    ({ letter }) => [letter.content[1].attrs.align === "center", Math.abs(letter.content[1].attrs.width - 25.4) < 0.2],
  ],
  [
    "a picture that text runs around",
    () =>
      docx([
        P([
          image({
            floating: {
              horizontalPosition: { relative: "column", align: "right" },
              verticalPosition: { relative: "paragraph", offset: 0 },
              wrap: { type: d.TextWrappingType.SQUARE },
            },
          }),
          T(sentence),
        ]),
      ]),
    ["▣ right", sentence],
  ],
  [
    "a picture at a place of the page",
    () =>
      docx([
        P([
          image({
            floating: {
              horizontalPosition: { relative: "page", offset: 914400 },
              verticalPosition: { relative: "page", offset: 457200 },
              behindDocument: true,
            },
          }),
          T("x"),
        ]),
      ]),
    ["▣ page", "x"],
    ({ letter }) => [letter.content[0].attrs.x === 25.4, letter.content[0].attrs.y === 12.7],
  ],
  [
    "headers and footers, another on the first page",
    () =>
      docx(
        [P("x")],
        {},
        {
          properties: { ...letterSheet, titlePage: true },
          headers: { default: new d.Header({ children: [P("every page")] }), first: new d.Header({ children: [P("first page")] }) },
          footers: {
            default: new d.Footer({
              children: [P([T("Page "), new d.TextRun({ children: [d.PageNumber.CURRENT, " of ", d.PageNumber.TOTAL_PAGES] })])],
            }),
          },
        },
      ),
    ["x"],
    ({ letter }) => [
      linesOf(letter.header)[0] === "every page",
      linesOf(letter.firstHeader)[0] === "first page",
      linesOf(letter.footer)[0] === "Page {Page number} of {Page count}",
    ],
  ],
  [
    "footnotes",
    () => docx([P([T("Said"), new d.FootnoteReferenceRun(1), T(" once.")])], { footnotes: { 1: { children: [P("By {{First name}}.")] } } }),
    ["Said[By {First name}.] once."],
  ],
  [
    "columns between ordinary text",
    () =>
      d.Packer.toBuffer(
        new d.Document({
          sections: [
            { properties: letterSheet, children: [P("before")] },
            { properties: { ...letterSheet, type: "continuous", column: { count: 3, space: 400 } }, children: [P("a"), P("b")] },
            { properties: { ...letterSheet, type: "continuous" }, children: [P("after")] },
          ],
        }),
      ),
    ["before", "[3 columns", "a", "b", "]", "after"],
  ],
  [
    "sections that begin on new pages",
    () =>
      d.Packer.toBuffer(
        new d.Document({
          sections: [
            { properties: letterSheet, children: [P("one")] },
            { properties: letterSheet, children: [P("two")] },
          ],
        }),
      ),
    ["one", "—", "two"],
  ],
  [
    "sections with other sheets and margins",
    () =>
      d.Packer.toBuffer(
        new d.Document({
          sections: [
            { properties: letterSheet, children: [P("one")] },
            {
              properties: { page: { size: { orientation: "landscape", width: 11906, height: 16838 }, margin: { left: 720 } } },
              children: [P("two")],
            },
            { properties: letterSheet, children: [P("three")] },
          ],
        }),
      ),
    ["one", "—", "two", "—", "three"],
    ({ letter, report }) => [
      letter.content[1].attrs.page.sheet === "a4",
      letter.content[1].attrs.page.orientation === "landscape",
      Math.abs(letter.content[1].attrs.page.margins.left - 12.7) < 0.05,
      letter.content[3].attrs.page.sheet === "letter",
      report.some((l) => l.text.startsWith("2 page layouts")),
    ],
  ],
  [
    "a text box",
    () => docx([new d.Textbox({ style: { width: "200pt", height: "60pt" }, children: [P("Open {{City}}")] }), P("x")]),
    ["[box", "Open {City}", "]", "x"],
  ],
  [
    "comments and tracked changes",
    () =>
      docx(
        [
          P([
            new d.CommentRangeStart(0),
            T("kept"),
            new d.CommentRangeEnd(0),
            new d.InsertedTextRun({ text: " new", id: 1, author: "T", date: "2026-01-01T00:00:00Z" }),
            new d.DeletedTextRun({ text: " old", id: 2, author: "T", date: "2026-01-01T00:00:00Z" }),
          ]),
        ],
        { comments: { children: [{ id: 0, author: "Tomás", date: new Date(0), children: [P("Check this")] }] } },
      ),
    ["kept new"],
    ({ report }) => [report.some((l) => l.text.includes("Check this")), report.some((l) => l.text.includes("tracked"))],
  ],
  [
    "a landscape sheet of A4 with its margins",
    () =>
      d.Packer.toBuffer(
        new d.Document({
          sections: [
            {
              properties: {
                page: {
                  size: { orientation: "landscape", width: 11906, height: 16838 },
                  margin: { top: 567, left: 1134, right: 1134, bottom: 567 },
                },
              },
              children: [P("x")],
            },
          ],
        }),
      ),
    ["x"],
    ({ letter }) => [letter.page.sheet === "a4", letter.page.orientation === "landscape", Math.abs(letter.page.margins.left - 20) < 0.1],
  ],
  [
    "scripts read from right to left, and far ones",
    () => docx([P("שלום {{First name}}", { bidirectional: true }), P("東京都 {{City}}")]),
    ["שלום {First name}", "東京都 {City}"],
    ({ letter }) => [letter.content[0].attrs?.textAlign === "right"],
  ],
];

/** The documents of the second writer: it turns pages of the web into DOCX. */
const second = [
  [
    "paragraphs and formatting",
    "<p>Dear <strong>{{First name}}</strong>,</p><p>from <em>{{City}}</em></p>",
    ["Dear {First name},", "from {City}"],
  ],
  ["headings", "<h1>Title</h1><h2>Below</h2><p>text</p>", ["# Title", "## Below", "text"]],
  ["a list of bullets", "<ul><li>a</li><li>b<ul><li>c</li></ul></li></ul>", ["• a", "• b", "  • c"]],
  ["a list of numbers", "<ol><li>a</li><li>b</li></ol>", ["1 a", "1 b"]],
  [
    "a table",
    "<table><tr><td>Plant</td><td>Price</td></tr><tr><td>{{City}}</td><td>{{Level}}</td></tr></table>",
    ["| Plant | Price", "| {City} | {Level}", ""],
  ],
  ["a link and a line break", '<p>see<br/><a href="https://example.org/">here</a></p>', ["see⏎here"]],
  ["a page break", '<p>a</p><div class="page-break" style="page-break-after: always;"></div><p>b</p>', ["a", "—", "b"]],
  ["alignment and color", '<p style="text-align:right;color:#aa0000">r</p>', ["r"]],
  ["marks of two kinds", "<p>{{First name}} and [[City]]</p>", ["{First name} and {City}"]],
];

/** The documents of the third writer: OpenDocument. It ends a line of the file between two parts of a text, which the standard reads as a
 * space. */
const third = [
  [
    "paragraphs and formatting",
    (o) => o.addParagraph((p) => p.addText("Dear ").addText("{{First", { bold: true }).addText(" name}}").addText(",")),
    ["Dear {First name} ,"],
  ],
  ["headings", (o) => o.addHeading("Title", 1).addHeading("Below", 2).addParagraph("text"), ["# Title", "## Below", "text"]],
  [
    "bullets within bullets",
    (o) =>
      o.addList((l) =>
        l
          .addItem("a")
          .addNested((n) => n.addItem("b"))
          .addItem("c"),
      ),
    ["• a", "  • b", "• c"],
  ],
  ["a numbered list", (o) => o.addList(["one", "two"], { type: "numbered" }), ["1 one", "1 two"]],
  [
    "a table with borders",
    (o) =>
      o.addTable(
        [
          ["Plant", "Price"],
          ["{{City}}", "{{Level}}"],
        ],
        { border: "0.5pt solid #000000" },
      ),
    ["| Plant | Price", "| {City} | {Level}"],
    ({ letter }) => [letter.content[0].attrs.lines === "all"],
  ],
  [
    "a picture",
    (o) => o.addImage(emblem(), { width: "4cm", height: "4cm", mimeType: "image/png" }),
    ["▣"],
    ({ letter }) => [Math.abs(letter.content[0].attrs.width - 40) < 0.5],
  ],
  [
    "a sheet with margins, header, and footer",
    (o) =>
      o
        .setPageLayout({ width: "21cm", height: "29.7cm", marginTop: "1.5cm", marginLeft: "3cm" })
        .setHeader("Fernquay")
        .setFooter("Page ###")
        .addParagraph("x"),
    ["x"],
    ({ letter }) => [
      letter.page.sheet === "a4",
      letter.page.margins.left === 30,
      linesOf(letter.header)[0] === "Fernquay",
      linesOf(letter.footer)[0] === "Page {Page number}",
    ],
  ],
  [
    "tabs, links, and line breaks",
    (o) => o.addParagraph((p) => p.addText("a").addTab().addText("b").addLineBreak().addLink("here", "https://example.org/")),
    ["a \t b ⏎here"],
  ],
  [
    "page breaks and centered text",
    (o) => o.addParagraph("a").addPageBreak().addParagraph("b", { align: "center" }),
    ["a", "—", "", "b"],
    ({ letter }) => [letter.content.at(-1).attrs.textAlign === "center"],
  ],
];

/** A letter of two pages, in the face that office programs begin with. */
export const longLetter = () => {
  const words = sentence.trim().split(" ");
  // Paragraphs of many lengths, each with its words in another order.
  const text = (n) => Array.from({ length: 30 + ((n * 37) % 90) }, (_, i) => words[(i * (n + 3) + n) % words.length]).join(" ");
  return docx(
    Array.from({ length: 14 }, (_, n) =>
      P([T(text(n)), ...(n % 3 ? [] : [T(" and so on.", { bold: true })])], n % 5 === 4 ? { indent: { left: 720, right: 360 } } : {}),
    ),
    { styles: { default: { document: { run: { font: "Calibri", size: 22 }, paragraph: { spacing: { after: 160, line: 259 } } } } } },
    { properties: { page: { size: { width: 12240, height: 15840 }, margin: { top: 1440, right: 1440, bottom: 1440, left: 1440 } } } },
  );
};

/** A newsletter: a picture that text runs around, a footnote, two columns, a box. */
export const newsletter = ({ face, other }) =>
  d.Packer.toBuffer(
    new d.Document({
      styles: { default: { document: { run: { font: face, size: 22 }, paragraph: { spacing: { after: 120 } } } } },
      footnotes: { 1: { children: [P("Counted in {{City}}.")] } },
      sections: [
        {
          properties: letterSheet,
          children: [
            P("Fernquay News for {{First name}}", { heading: d.HeadingLevel.HEADING_1 }),
            P([
              image({
                floating: {
                  horizontalPosition: { relative: "column", align: "right" },
                  verticalPosition: { relative: "paragraph", offset: 0 },
                  wrap: { type: d.TextWrappingType.SQUARE },
                },
              }),
              T(sentence.repeat(3)),
              new d.FootnoteReferenceRun(1),
            ]),
            P([T("Whoever comes on a Sunday sees the fig tree.", { font: other })]),
          ],
        },
        {
          properties: { ...letterSheet, type: "continuous", column: { count: 2, space: 500, separate: true } },
          children: Array.from({ length: 5 }, (_, i) => P(`${i + 1}. ${sentence}`)),
        },
        {
          properties: { ...letterSheet, type: "continuous" },
          children: [
            new d.Textbox({ style: { width: "200pt", height: "60pt" }, children: [P("Open daily from nine to five.")] }),
            P("Yours, the garden"),
          ],
        },
      ],
    }),
  );

/** All of them. */
export const corpus = [
  ...first.map(([name, make, lines, check]) => ({ name: `first writer: ${name}`, file: "a.docx", make, lines, check })),
  ...second.map(([name, html, lines]) => ({ name: `second writer: ${name}`, file: "b.docx", make: () => htmlToDocx(html), lines })),
  ...third.map(([name, write, lines, check]) => ({
    name: `third writer: ${name}`,
    file: "c.odt",
    make: async () => Buffer.from(await write(new OdtDocument()).save()),
    lines,
    check,
  })),
];

const marksOf = (letter, type) =>
  letter.content
    .flatMap((b) => b.content ?? [])
    .filter((n) => n.marks?.some((m) => m.type === type))
    .map((n) => n.text);

const textOf = (nodes) =>
  (nodes ?? [])
    .map((n) =>
      n.type === "text"
        ? n.text
        : n.type === "hardBreak"
          ? "⏎"
          : n.type === "field" || n.type === "marker"
            ? `{${n.attrs.source.replaceAll("`", "")}}`
            : n.type === "footnote"
              ? `[${linesOf(n.attrs.content).join(" ")}]`
              : "▣",
    )
    .join("");

/** A letter as lines, short enough to be written down. */
export function linesOf(blocks, indent = "") {
  return (blocks ?? []).flatMap((b) => {
    switch (b.type) {
      case "paragraph":
        return [indent + textOf(b.content)];
      case "heading":
        return [`${"#".repeat(b.attrs.level)} ${textOf(b.content)}`];
      case "bulletList":
      case "orderedList":
        return b.content.flatMap((i) => {
          const [first, ...rest] = i.content;
          return [`${indent}${b.type === "bulletList" ? "•" : "1"} ${textOf(first.content)}`, ...linesOf(rest, `${indent}  `)];
        });
      case "table":
        return b.content.map(
          (r) => `${r.attrs?.bracket ? `{${r.attrs.bracket}} ` : ""}${r.content.map((c) => `| ${linesOf(c.content).join(" ")}`).join(" ")}`,
        );
      case "picture":
        return [`▣${b.attrs.place ? ` ${b.attrs.place}` : ""}`];
      case "pageBreak":
        return ["—"];
      case "box":
        return ["[box", ...linesOf(b.content), "]"];
      case "columns":
        return [`[${b.attrs.count} columns`, ...linesOf(b.content), "]"];
      case "when":
        return [
          ...b.content.flatMap((x) => [x.attrs.test ? `{when ${x.attrs.test.replaceAll("`", "")}}` : "{otherwise}", ...linesOf(x.content)]),
          "{end}",
        ];
      case "each":
        return [`{each ${b.attrs.rows}}`, ...linesOf(b.content), "{end}"];
      default:
        return [b.type];
    }
  });
}
