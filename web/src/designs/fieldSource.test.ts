import { describe, expect, it } from "vitest";
import { readField, writeField } from "./fieldSource";

describe("the parts of a field", () => {
  it.each([
    ["First", { expression: "First", formats: [], whenBlank: null }],
    ["`Amount due` | money 0", { expression: "Amount due", formats: ["money 0"], whenBlank: null }],
    ['First | title | else "Friend"', { expression: "First", formats: ["title"], whenBlank: "Friend" }],
    ['First | else "say \\"hi\\" | now"', { expression: "First", formats: [], whenBlank: 'say "hi" | now' }],
    ['join(" | ", First, Last)', { expression: 'join(" | ", First, Last)', formats: [], whenBlank: null }],
    ["`a | b` & c", { expression: "`a | b` & c", formats: [], whenBlank: null }],
    ["", { expression: "", formats: [], whenBlank: null }],
    ['First | else ""', { expression: "First", formats: [], whenBlank: "" }],
  ])("are read from %s", (source, parts) => expect(readField(source)).toEqual(parts));

  it.each(['First | title | else "Friend"', "Amount due | money 0", 'First | else "a \\"b\\" \\\\ c"', 'City & " | " & State'])(
    "are written as they were read: %s",
    (source) => expect(writeField(readField(source))).toBe(source),
  );
});
