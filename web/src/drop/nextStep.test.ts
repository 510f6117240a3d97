import { expect, test } from "vitest";
import { nextStep, stepFrom } from "./nextStep";

const drop = (
  trays: Partial<Record<"needsReview" | "ready" | "held" | "produced" | "mailed" | "returned" | "inDoubt", number>>,
  checking = false,
) =>
  ({
    trays: { needsReview: 0, ready: 0, held: 0, produced: 0, mailed: 0, returned: 0, inDoubt: 0, onTheList: 9, noted: 0, ...trays },
    checking,
  }) as Parameters<typeof nextStep>[0];

test("what is ready is produced first, without what may have gone out", () => {
  expect(nextStep(drop({ ready: 1200, needsReview: 3 }))?.label).toBe("Produce 1,200…");
  expect(nextStep(drop({ ready: 5, inDoubt: 2 }))?.label).toBe("Produce 3…");
  expect(nextStep(drop({ ready: 2, inDoubt: 2 }))?.label).toBe("Resolve 2 in doubt");
});

test("what is produced is marked as mailed before what is left is reviewed", () => {
  expect(nextStep(drop({ produced: 7, needsReview: 1 }))?.label).toBe("Mark 7 as mailed…");
  expect(nextStep(drop({ needsReview: 1, mailed: 4 }))?.label).toBe("Review 1");
  expect(nextStep(drop({ needsReview: 1 }, true))).toBeNull();
});

test("nobody is led to where they are, and after the last step returns are entered", () => {
  expect(stepFrom("proof", drop({ mailed: 4 }))?.to).toBe("ledger");
  expect(stepFrom("ledger", drop({ mailed: 4 }))).toEqual({ to: "/returns", label: "Enter returns" });
  expect(stepFrom("ledger", drop({ produced: 4 }))).toBeNull();
  expect(stepFrom("produce", drop({ ready: 4 }))).toBeNull();
  expect(stepFrom("who", drop({ held: 4 }))).toBeNull();
  expect(stepFrom("ledger", drop({}))).toBeNull();
});
