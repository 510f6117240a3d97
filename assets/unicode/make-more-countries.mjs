// Adds to src/Bandeja.Core: the countries of ISO 3166-1 that have no row of their own in Places/Countries.tsv and Addressing/AddressFormats.tsv.
// Forms come from Chromium's address metadata (libaddressinput), as the npm package localized-address-format 1.3.3 (MIT) has it; lengths of postal
// codes from postal-codes-js 2.5.2 (Apache-2.0); codes from i18n-iso-countries 7.14.0 (MIT); names from Unicode CLDR, by the ICU of Node.js.
// Rows that were written by hand stay. Run: node assets/unicode/make-more-countries.mjs FOLDER-WITH-THE-UNPACKED-PACKAGES, then make-country-names.mjs.
import { readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";

const folder = process.argv[2];
const require = createRequire(import.meta.url);
const core = new URL("../../src/Bandeja.Core/", import.meta.url);
const marker = "# From here on made by assets/unicode/make-more-countries.mjs; its head names the sources.";
const iso = require(join(folder, "i18n-iso-countries/codes.json"));
const lengths = require(join(folder, "postal-codes-js/generated/postal-codes-alpha2.json"));
const forms = new Map([...readFileSync(join(folder, "localized-address-format/dist/index.esm.js"), "utf8").matchAll(/\['([A-Z]{2})', \{ local: '([^']*)'(?:, latin: '([^']*)')?/g)].map((m) => [m[1], m[3] ?? m[2]]));
const english = new Intl.DisplayNames(["en"], { type: "region" });
const short = new Intl.DisplayNames(["en"], { type: "region", style: "short" });
const american = new Set(["AS", "GU", "MH", "MP", "FM", "PR", "PW", "VI"]);

function byHand(file) {
  const text = readFileSync(new URL(file, core), "utf8").split(marker)[0].replace(/\n+$/, "");
  return { text, codes: new Set(text.split("\n").filter((l) => l && !l.startsWith("#")).map((l) => l.split("\t")[0])) };
}
const countries = byHand("Places/Countries.tsv");
const formats = byHand("Addressing/AddressFormats.tsv");
const general = formats.text.split("\n").find((l) => l.startsWith("*"));

/** What the country calls itself, in the languages that are likely there. */
const own = (code) => {
  const language = new Intl.Locale("und", { region: code }).maximize().language;
  return language === "und" ? null : new Intl.DisplayNames([language], { type: "region" }).of(code);
};
/** The lines of a form in the tokens of AddressFormats.tsv; null where it says nothing. */
const lines = (form) =>
  form
    .split("%n")
    .map((l) => l.replace(/%X/g, "").replace(/%S/g, "%R").replace(/[A-Z]{2,3}[- ]?(?=%Z)/, "").trim())
    .filter((l) => /%[ADCRZ]/.test(l))
    .flatMap((l) => (l.includes("%A") ? ["S", "U", ...(l.replace("%A", "").trim() ? [l.replace("%A", "").trim()] : [])] : [l]))
    .map((l) => l.replace(/%/g, "").replace(/^[^A-Z]+|[^A-Z]+$/g, ""))
    .filter(Boolean);

const countryRows = [];
const formatRows = [];
for (const [code, alpha3] of iso) {
  if (!countries.codes.has(code)) {
    const digits = /^(\d+)Digits/.exec(lengths[code]?.postalCodeFormat ?? "")?.[1];
    const names = [...new Set([english.of(code), short.of(code), own(code), alpha3].filter(Boolean))];
    countryRows.push([code, names.join("|"), american.has(code) ? "99999|99999-9999" : digits ? "9".repeat(+digits) : "", american.has(code) ? "0" : ""].join("\t"));
  }
  if (!formats.codes.has(code)) {
    const form = forms.get(code);
    const made = form ? lines(form) : [];
    const person = form && form.indexOf("%O") < form.indexOf("%N") ? "ONA" : "NOA";
    formatRows.push(made.length > 0 && made.includes("S") ? [code, person, [...made, ...(made.some((l) => l.includes("D")) ? [] : [])].join("|"), "Attn:", 0, "libaddressinput; UPU: " + english.of(code)].join("\t") : [code, "NOA", "S|U|D|C R Z", "Attn:", 0, "UPU S42-1, the general template"].join("\t"));
  }
}
writeFileSync(new URL("Places/Countries.tsv", core), `${countries.text}\n${marker}\n${countryRows.join("\n")}\n`);
writeFileSync(new URL("Addressing/AddressFormats.tsv", core), `${formats.text.replace(general + "\n", "").replace("\n" + general, "")}\n${general}\n${marker}\n${formatRows.join("\n")}\n`);
