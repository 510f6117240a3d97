/** A field's text in its parts, for the chip and its panel. The server's parser is the one that decides what it means. */
export interface FieldParts {
  expression: string;
  formats: string[];
  /** What to print when blank; null where nothing is said, which makes a blank an issue. */
  whenBlank: string | null;
}

function splitAtBars(source: string) {
  const parts: string[] = [];
  let quoted = false;
  let ticked = false;
  let part = "";
  for (let i = 0; i < source.length; i++) {
    const c = source[i] as string;
    if (c === "\\" && quoted) {
      part += c + (source[++i] ?? "");
      continue;
    }
    if (c === '"' && !ticked) quoted = !quoted;
    else if (c === "`" && !quoted) ticked = !ticked;
    if (c === "|" && !quoted && !ticked) {
      parts.push(part.trim());
      part = "";
    } else part += c;
  }
  return [...parts, part.trim()];
}

export function readField(source: string): FieldParts {
  const [expression = "", ...formats] = splitAtBars(source);
  const otherwise = formats.find((f) => /^else\b/i.test(f));
  const text = otherwise?.replace(/^else\s*/i, "").trim();
  return {
    expression: expression.replace(/^`([^`]+)`$/, "$1"),
    formats: formats.filter((f) => f !== otherwise),
    whenBlank: text === undefined ? null : text.replace(/^"|"$/g, "").replace(/\\(["\\])/g, "$1"),
  };
}

export const writeField = (f: FieldParts) =>
  [f.expression, ...f.formats, ...(f.whenBlank === null ? [] : [`else "${f.whenBlank.replace(/(["\\])/g, "\\$1")}"`])].join(" | ");
