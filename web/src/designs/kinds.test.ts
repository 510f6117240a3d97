import { expect, test } from "vitest";
import { changeable, isSent, kindOrder, onPaper, paged } from "./kinds";

const files = import.meta.glob<string>("../**/*.{ts,tsx}", { query: "?raw", import: "default", eager: true });

test("nobody asks which kind a design is: what differs stands in kinds.ts", () => {
  // The editor of envelopes and labels is theirs, and an email's document says what it is.
  const own = ["./kinds.ts", "./email.ts", "../api/schema.gen.ts"];
  const asked = Object.entries(files)
    .filter(([name]) => !own.includes(name) && !name.startsWith("../surfaces/") && !name.includes(".test."))
    .flatMap(([name, text]) => [...text.matchAll(/kind\s*[!=]==\s*"(letter|form|envelope|labels|email)"/g)].map((m) => `${name}: ${m[0]}`));
  expect(Object.keys(files).length).toBeGreaterThan(100);
  expect(asked).toEqual([]);
});

test("a package has what is printed, what has pages, and what is sent", () => {
  const all = kindOrder.map((kind) => ({ kind }));
  expect(onPaper(all).map((d) => d.kind)).toEqual(["letter", "form", "envelope", "labels"]);
  expect(paged(all)?.kind).toBe("letter");
  expect(paged(all.slice(1))?.kind).toBe("form");
  expect(changeable(all)?.kind).toBe("letter");
  expect(changeable(all.slice(1))?.kind).toBe("form");
  expect(changeable(all.slice(2))).toBeUndefined();
  expect(isSent(all)).toBe(true);
  expect(isSent(onPaper(all))).toBe(false);
});
