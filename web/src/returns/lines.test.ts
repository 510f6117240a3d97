import { expect, test } from "vitest";
import { readReturns } from "./lines";

test("columns are known by their headings, in any order", () => {
  const { lines, problems } = readReturns(
    'Reason,Piece number,Returned date,New street,City,State,ZIP\r\nMoved,0007,11/5/2026,"12 Quay Road, Apt 4",Fernquay,OR,01234\n\nvacant,8\n',
  );
  expect(problems).toEqual([]);
  expect(lines).toHaveLength(2);
  expect(lines[0]).toMatchObject({
    code: "0007",
    reason: "Moved",
    on: "2026-11-05",
    street: "12 Quay Road, Apt 4",
    region: "OR",
    postalCode: "01234",
  });
  expect(lines[1]).toMatchObject({ code: "8", reason: "vacant", street: null });
});

test("a file without headings, a line without a number, and a wrong date are said", () => {
  expect(readReturns("0007,moved").problems[0]).toContain("name the columns");
  const { lines, problems } = readReturns("Number\tReason\tDate\n\tmoved\t\n9\trefused\t31/31/2026");
  expect(lines).toHaveLength(1);
  expect(problems).toEqual(["Line 2 has no number.", "Line 3: “31/31/2026” is not a date such as 11/27/2026."]);
  expect(readReturns("").lines).toEqual([]);
});
