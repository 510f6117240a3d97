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

/** The cell one is at, and the range that reaches from it to where the selection was pulled. */
export function useSelection(rows: number, columns: number) {
  const [focus, setFocus] = useState<Cell>({ row: 0, column: 0 });
  const [anchor, setAnchor] = useState<Cell>({ row: 0, column: 0 });
  const clamp = (c: Cell): Cell => ({ row: Math.max(0, Math.min(rows - 1, c.row)), column: Math.max(0, Math.min(columns - 1, c.column)) });
  const range: Range = {
    top: Math.min(focus.row, anchor.row),
    bottom: Math.max(focus.row, anchor.row),
    left: Math.min(focus.column, anchor.column),
    right: Math.max(focus.column, anchor.column),
  };
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
