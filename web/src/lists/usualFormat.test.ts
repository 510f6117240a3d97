import { describe, expect, it } from "vitest";
import { formatChoices } from "./UsualFormat";

const plain = (text: string) => text.replace(/[\u00a0\u202f]/g, " ");
const label = (locale: string, currency: string, format: string) =>
  plain(new Map(formatChoices(locale, currency, format)).get(format) ?? "not offered");

describe("the formats of a column", () => {
  it.each([
    ["en-US", "USD", "money", "$1,250.00"],
    ["en-US", "USD", "money 0", "$1,250"],
    ["en-US", "USD", "number 2", "1,250.00"],
    ["en-US", "USD", "percent", "12%"],
    ["en-US", "USD", "percent 2", "12.00%"],
    ["en-US", "USD", "number 3", "1,250.000"],
    ["de-DE", "EUR", "money", "1.250,00 €"],
    ["de-DE", "EUR", "number", "1.250"],
  ])("in %s and %s, %s is shown as %s", (locale, currency, format, shown) => expect(label(locale, currency, format)).toBe(shown));

  it("offers a column's own format once, and to print numbers as they are stored", () => {
    expect(formatChoices("en-US", "USD", null).map(([f]) => f)).toEqual(["", "money", "money 0", "number", "number 2", "percent"]);
    expect(formatChoices("en-US", "USD", "money").map(([f]) => f)).toHaveLength(6);
    expect(formatChoices("en-US", "USD", "number 4").at(-1)?.[0]).toBe("number 4");
  });
});
