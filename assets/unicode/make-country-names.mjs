// Writes src/Bandeja.Core/Places/CountryNames.tsv: the countries' names by Unicode CLDR, as the ICU of Node.js has them, in the
// languages that an organization can choose. Run it with a Node.js that has all of ICU: node assets/unicode/make-country-names.mjs
import { readFileSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

const places = new URL("../../src/Bandeja.Core/Places/", import.meta.url);
const codes = readFileSync(new URL("Countries.tsv", places), "utf8").split("\n").filter((l) => l && !l.startsWith("#")).map((l) => l.split("\t")[0]);
const languages = ["es", "de", "fr", "it", "nl", "pt", "sv", "da", "nb", "fi", "pl", "cs", "el", "vi", "tr"];
const names = Object.fromEntries(languages.map((l) => [l, new Intl.DisplayNames([l], { type: "region" })]));
// The long names of these say to whom they belong; nobody writes that on an envelope.
const short = Object.fromEntries(languages.map((l) => [l, new Intl.DisplayNames([l], { type: "region", style: "short" })]));
const rows = codes.map((c) => [c, ...languages.map((l) => (["HK", "MO", "PS"].includes(c) ? short : names)[l].of(c))].join("\t"));
const head = `# Countries' names by Unicode CLDR ${process.versions.cldr}, made by assets/unicode/make-country-names.mjs.\n`;
writeFileSync(fileURLToPath(new URL("CountryNames.tsv", places)), head + ["code", ...languages].join("\t") + "\n" + rows.join("\n") + "\n");
