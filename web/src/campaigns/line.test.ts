import { expect, test } from "vitest";
import { addDays, monthAfter, monthsOf, placeOf, stretchOf, weeksOf } from "./line";

test("days are counted over ends of months, years, and summer time", () => {
  expect(addDays("2027-02-28", 1)).toBe("2027-03-01");
  expect(addDays("2028-02-28", 1)).toBe("2028-02-29");
  expect(addDays("2027-01-01", -1)).toBe("2026-12-31");
  expect(addDays("2027-03-13", 2)).toBe("2027-03-15");
});

test("a stretch holds all dates and today, with room", () => {
  const s = stretchOf(["2027-03-01", "2027-04-19"], "2027-03-10");
  expect(s.from < "2027-03-01" && s.to > "2027-04-19").toBe(true);
  expect(placeOf("2027-03-01", s)).toBeGreaterThan(0);
  expect(placeOf("2027-04-19", s)).toBeLessThan(1);
  expect(monthsOf(s)).toEqual(["2027-03-01", "2027-04-01"]);
});

test("a month is shown in whole weeks", () => {
  const weeks = weeksOf("2026-11");
  expect(weeks[0]?.[0]).toBe("2026-11-01");
  expect(weeks.at(-1)?.at(-1)).toBe("2026-12-05");
  expect(weeksOf("2027-02")).toHaveLength(5);
  expect(weeks.flat()).toHaveLength(35);
  expect(monthAfter("2026-12", 1)).toBe("2027-01");
  expect(monthAfter("2027-01", -1)).toBe("2026-12");
});
