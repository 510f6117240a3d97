interface Pressed {
  key: string;
  ctrl: boolean;
  shift: boolean;
}

interface Place {
  column: number;
  columns: number;
  rows: number;
  /** Rows of a page. */
  page: number;
}

/** How far a key moves in the table: rows and columns; null where it does not, as with Tab at its edges, which leaves it. */
export function moveOf({ key, ctrl, shift }: Pressed, { column, columns, rows, page }: Place): [number, number] | null {
  if (key === "Tab" && (shift ? column === 0 : column === columns - 1)) return null;
  const moves: Record<string, [number, number]> = {
    ArrowDown: [ctrl ? rows : 1, 0],
    ArrowUp: [ctrl ? -rows : -1, 0],
    ArrowRight: [0, ctrl ? columns : 1],
    ArrowLeft: [0, ctrl ? -columns : -1],
    PageDown: [page, 0],
    PageUp: [-page, 0],
    Tab: [0, shift ? -1 : 1],
    Home: [ctrl ? -rows : 0, -columns],
    End: [ctrl ? rows : 0, columns],
  };
  return moves[key] ?? null;
}
