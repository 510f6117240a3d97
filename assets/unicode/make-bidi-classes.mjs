// Makes src/Bandeja.Core/Composition/BidiClasses.txt and BidiBrackets.txt from the Unicode Character Database 15.0, as packaged by
// Debian (unicode-data):
//   node assets/unicode/make-bidi-classes.mjs /usr/share/unicode
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";

const root = process.argv[2];
const folder = "src/Bandeja.Core/Composition";
const lines = (file) => readFileSync(join(root, file), "utf8").split("\n");

// What has no character yet: DerivedBidiClass.txt, @missing, in its order; later lines count.
const missing = [
  [0x0000, 0x10ffff, "L"],
  ...[
    [0x0590, 0x05ff],
    [0x07c0, 0x085f],
    [0xfb1d, 0xfb4f],
    [0x10800, 0x10cff],
    [0x10d40, 0x10ebf],
    [0x10f00, 0x10f2f],
    [0x10f70, 0x10fff],
    [0x1e800, 0x1ec6f],
    [0x1ecc0, 0x1ecff],
    [0x1ed50, 0x1edff],
    [0x1ef00, 0x1efff],
  ].map(([a, b]) => [a, b, "R"]),
  ...[
    [0x0600, 0x07bf],
    [0x0860, 0x08ff],
    [0xfb50, 0xfdcf],
    [0xfdf0, 0xfdff],
    [0xfe70, 0xfeff],
    [0x10d00, 0x10d3f],
    [0x10ec0, 0x10eff],
    [0x10f30, 0x10f6f],
    [0x1ec70, 0x1ecbf],
    [0x1ed00, 0x1ed4f],
    [0x1ee00, 0x1eeff],
  ].map(([a, b]) => [a, b, "AL"]),
  [0x20a0, 0x20cf, "ET"],
];

const classes = new Array(0x110000);
for (const [a, b, c] of missing) classes.fill(c, a, b + 1);
// Default ignorable code points and those that are no characters are as if they were not there.
for (const line of lines("DerivedCoreProperties.txt")) {
  const m = /^([0-9A-F]+)(?:\.\.([0-9A-F]+))?\s*; Default_Ignorable_Code_Point/.exec(line);
  if (m) classes.fill("BN", parseInt(m[1], 16), parseInt(m[2] ?? m[1], 16) + 1);
}
for (let plane = 0; plane <= 16; plane++) classes.fill("BN", plane * 0x10000 + 0xfffe, plane * 0x10000 + 0x10000);
classes.fill("BN", 0xfdd0, 0xfdf0);
let first = -1;
for (const line of lines("UnicodeData.txt")) {
  const [code, name, , , bidi] = line.split(";");
  if (!bidi) continue;
  const at = parseInt(code, 16);
  if (name.endsWith(", First>")) first = at;
  else {
    classes.fill(bidi, name.endsWith(", Last>") ? first : at, at + 1);
  }
}

const ranges = [];
for (let i = 0; i < classes.length; i++) {
  const last = ranges.at(-1);
  if (last && last[2] === classes[i]) last[1] = i;
  else ranges.push([i, i, classes[i]]);
}
const text = ranges.map(([a, b, c]) => `${a.toString(16)} ${b.toString(16)} ${c}`).join("\n") + "\n";
writeFileSync(join(folder, "BidiClasses.txt"), text);

const brackets = lines("BidiBrackets.txt")
  .map((line) => /^([0-9A-F]+); ([0-9A-F]+); ([oc])/.exec(line))
  .filter(Boolean)
  .map(([, a, b, kind]) => `${a.toLowerCase()} ${b.toLowerCase()} ${kind}`);
writeFileSync(join(folder, "BidiBrackets.txt"), brackets.join("\n") + "\n");
