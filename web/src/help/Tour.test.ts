import { expect, test } from "vitest";
import { besides } from "./Tour";

const card = { width: 320, height: 180 };
const place = (left: number, top: number, width: number, height: number) =>
  ({ left, top, width, height, right: left + width, bottom: top + height }) as DOMRect;

test("a card stands beside what it tells of, and never outside the window", () => {
  const screen = { width: 1280, height: 800 };
  // Room to the right, to the left, below, above.
  expect(besides(place(68, 200, 392, 600), card, screen)).toEqual({ left: 472, top: 200 });
  expect(besides(place(980, 700, 300, 100), card, screen)).toEqual({ left: 648, top: 612 });
  expect(besides(place(68, 60, 1212, 60), card, screen)).toEqual({ left: 68, top: 132 });
  expect(besides(place(68, 700, 1212, 90), card, screen)).toEqual({ left: 68, top: 508 });
  for (const [w, h] of [
    [360, 560],
    [768, 1024],
    [1024, 700],
  ] as const)
    for (const p of [place(0, 0, w, h), place(w - 40, h - 40, 40, 40), place(-50, -50, 20, 20)]) {
      const at = besides(p, card, { width: w, height: h });
      expect(at.left).toBeGreaterThanOrEqual(8);
      expect(at.top).toBeGreaterThanOrEqual(8);
      expect(at.left + card.width).toBeLessThanOrEqual(w);
      expect(at.top + card.height).toBeLessThanOrEqual(h);
    }
});
