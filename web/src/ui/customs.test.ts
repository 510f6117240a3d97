import { afterEach, expect, test } from "vitest";
import { follow, fromLength, fromPaper, length, lengthNumber, lengths, momentOf, paperNumber, paperUnit, writtenDay } from "./customs";
import { day, moment } from "./words";

const of = (locale: string, inInches: boolean, timeZone = "UTC") => follow({ inInches, timeZone, organization: { locale } });
afterEach(() => of("en-US", false));

test("lengths are in the organization's unit, and what is typed comes back as it was", () => {
  of("en-US", true);
  expect(length(25.4)).toBe("1 in");
  expect(lengths(215.9, 279.4)).toBe("8.5 × 11 in");
  for (const typed of [0.0625, 0.125, 0.75, 1, 4.125, 11]) expect(lengthNumber(fromLength(typed))).toBeCloseTo(typed, 3);
  of("de-DE", false);
  expect(lengths(210, 297)).toBe("210 × 297 mm");
  expect(fromLength(12.5)).toBe(12.5);
});

test("paper is weighed as it is sold: 20 lb bond is 75 g/m²", () => {
  of("en-US", true);
  expect(Math.round(fromPaper(20))).toBe(75);
  expect(Math.round(fromPaper(24))).toBe(90);
  expect([paperNumber(fromPaper(24)), paperUnit()]).toEqual([24, "lb bond"]);
  of("fr-FR", false);
  expect([paperNumber(90), paperUnit()]).toEqual([90, "g/m²"]);
});

test("dates and the clock are the organization's, wherever the browser is", () => {
  of("en-US", true, "America/New_York");
  expect(moment("2027-03-02T21:20:00Z")).toMatch(/^Mar 2(, 2027)?, 4:20\sPM$/);
  expect(day("2027-03-12")).toBe("Mar 12, 2027");
  of("de-DE", false, "Asia/Tokyo");
  expect(moment("2027-03-02T21:20:00Z")).toMatch(/^3 Mar( 2027)?, 06:20$/);
  expect(day("2027-03-12")).toBe("12 Mar 2027");
  expect(writtenDay("2027-03-12", { weekday: "long", month: "long", day: "numeric" })).toBe("Friday 12 March");
});

test("an hour that is typed is the organization's hour, also around the change of the clock", () => {
  of("en-US", true, "America/New_York");
  expect(momentOf("2027-03-02T16:20")).toBe("2027-03-02T21:20:00.000Z");
  expect(momentOf("2027-07-02T16:20")).toBe("2027-07-02T20:20:00.000Z");
  // March 14, 2027: from 2:00 to 3:00 there is no hour.
  expect(momentOf("2027-03-14T02:30")).toBe("2027-03-14T07:30:00.000Z");
  expect(momentOf("2027-03-14T03:00")).toBe("2027-03-14T07:00:00.000Z");
  of("en-GB", false, "Pacific/Kiritimati");
  expect(momentOf("2027-01-01T00:00")).toBe("2026-12-31T10:00:00.000Z");
});

test("a zone that the browser does not know is the browser's own", () => {
  of("en-US", true, "Moon/Tycho");
  expect(() => moment("2027-03-02T21:20:00Z")).not.toThrow();
});
