import { expect, it } from "vitest";
import { foreignField, marksOf, typographic } from "./typing";

const typed = (text: string, locale = "en-US") => {
  let out = "";
  for (const c of text) {
    const made = typographic(out, c, marksOf(locale));
    out = made ? out.slice(0, out.length - made.replaces) + made.text : out + c;
  }
  return out;
};

it.each([
  ['She said "yes" -- twice.', "She said “yes” — twice."],
  ["It's the members' gate", "It’s the members’ gate"],
  ["('quoted') and \"'both'\"", "(‘quoted’) and “‘both’”"],
  ["Wait... and wait....", "Wait… and wait…."],
  ['Dear {First | else "friend"}, "hello"', 'Dear {First | else "friend"}, “hello”'],
  ["a-b and a---b", "a-b and a—-b"],
])("%s", (from, to) => expect(typed(from)).toBe(to));

it("follows the language of the organization", () => {
  expect(typed('Er sagt "ja" -- gut', "de-DE")).toBe("Er sagt „ja“ – gut");
  expect(typed("Wie geht's, 'gut'?", "de-DE")).toBe("Wie geht’s, ‚gut‘?");
  expect(typed('Elle dit "oui"', "fr-FR")).toBe("Elle dit «\u00a0oui\u00a0»");
});

it("finds the field that a placeholder of another program means", () => {
  const names = ["First name", "ZIP", "Amount due"];
  expect(foreignField("«First_Name»", names)).toBe("First name");
  expect(foreignField("{{ amount-due }}", names)).toBe("Amount due");
  expect(foreignField("{{Nickname}}", names)).toBe("Nickname");
  // Quotation marks of other languages stay text.
  expect(foreignField("«bonjour»", names)).toBeNull();
  expect(foreignField("«»", names)).toBeNull();
  expect(foreignField("{}", names)).toBeNull();
});
