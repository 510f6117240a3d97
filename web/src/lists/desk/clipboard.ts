/**
 * Cells as spreadsheets put them on the clipboard: tabs between cells, line ends between rows, quotation marks around what holds
 * either.
 */
export function toClipboard(rows: (string | null)[][]) {
  return rows
    .map((row) => row.map((v) => (v !== null && /["\t\r\n]/.test(v) ? `"${v.replaceAll('"', '""')}"` : (v ?? ""))).join("\t"))
    .join("\r\n");
}

export function fromClipboard(text: string): string[][] {
  const rows: string[][] = [];
  let row: string[] = [];
  let cell = "";
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const c = text[i] as string;
    if (quoted) {
      if (c === '"' && text[i + 1] === '"') cell += text[++i] ?? "";
      else if (c === '"') quoted = false;
      else cell += c;
    } else if (c === '"' && cell === "") quoted = true;
    else if (c === "\t") {
      row.push(cell);
      cell = "";
    } else if (c === "\n" || c === "\r") {
      if (c === "\r" && text[i + 1] === "\n") i++;
      rows.push([...row, cell]);
      row = [];
      cell = "";
    } else cell += c;
  }
  // A spreadsheet ends its last row with a line end; that is no row more.
  if (cell !== "" || row.length > 0) rows.push([...row, cell]);
  return rows;
}
