import { useState } from "react";

export interface Cell {
  row: number;
  column: number;
}

export interface Range {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

/** The cells between two corners, whichever of them was first. */
export const rangeOf = (one: Cell, other: Cell): Range => ({
  top: Math.min(one.row, other.row),
  bottom: Math.max(one.row, other.row),
  left: Math.min(one.column, other.column),
  right: Math.max(one.column, other.column),
});

/** The nearest cell that a table of so many rows and columns has. */
export const within = (c: Cell, rows: number, columns: number): Cell => ({
  row: Math.max(0, Math.min(rows - 1, c.row)),
  column: Math.max(0, Math.min(columns - 1, c.column)),
});

/** The cell one is at, and the range that reaches from it to where the selection was pulled. */
export function useSelection(rows: number, columns: number) {
  const [focus, setFocus] = useState<Cell>({ row: 0, column: 0 });
  const [anchor, setAnchor] = useState<Cell>({ row: 0, column: 0 });
  const clamp = (c: Cell) => within(c, rows, columns);
  const range = rangeOf(focus, anchor);
  return {
    focus: clamp(focus),
    range,
    many: range.top !== range.bottom || range.left !== range.right,
    to: (cell: Cell, extend = false) => {
      const next = clamp(cell);
      setFocus(next);
      if (!extend) setAnchor(next);
      return next;
    },
    rows: (from: number, until: number) => {
      setAnchor({ row: from, column: 0 });
      setFocus({ row: until, column: Math.max(0, columns - 1) });
    },
    within: (row: number, column: number) => row >= range.top && row <= range.bottom && column >= range.left && column <= range.right,
  };
}
