import { describe, expect, it } from "vitest";
import { completeForm, fieldHint, fieldText, isOpen, newBox, offered, onlyField, type Form, type FormField } from "./form";

const field = (more: Partial<FormField> = {}): FormField => ({ name: "a", kind: "text", label: "A", widgets: [], ...more });
const form = (answers: Record<string, string> = {}): Form => ({
  kind: "form",
  asset: "x",
  file: "x.pdf",
  facts: { pages: [{ width: 612, height: 792 }], fields: [], notes: [] },
  answers,
  boxes: [],
  output: "printed",
  when: null,
  own: null,
});

describe("text that fills in a field", () => {
  it.each(["First", "Gift is for", "E-mail", "Amount (USD)", "Delivery address", "Größe"])("names %s so that it is read again", (name) =>
    expect(onlyField(fieldText(name))).toBe(name),
  );
  it("is one field only where nothing stands around it", () => {
    expect(onlyField("{First} {Last}")).toBeNull();
    expect(onlyField("No. {First}")).toBeNull();
    expect(onlyField("{Amount | money}")).toBeNull();
  });
});

describe("a field", () => {
  it("is open until it is answered, left empty included", () => {
    expect(isOpen(form(), field())).toBe(true);
    expect(isOpen(form({ a: "" }), field())).toBe(false);
    expect(isOpen(form(), field({ initial: "x" }))).toBe(false);
    expect(isOpen(form(), field({ readOnly: true }))).toBe(false);
    expect(isOpen(form(), field({ kind: "other" }))).toBe(false);
  });
  it("says what it takes", () => {
    expect(fieldHint(field({ comb: true, maxLength: 5, required: true }))).toBe("5 cells, required");
    expect(fieldHint(field({ kind: "choice", options: [{ value: "a", label: "A" }] }))).toBe("1 choice");
    expect(
      offered(
        field({
          kind: "choice",
          options: [
            { value: "a", label: "A" },
            { value: "b", label: "" },
          ],
        }),
      ),
    ).toEqual(["A", "b"]);
  });
});

it("a stored form gets what its boxes leave open", () => {
  const stored = { ...form(), boxes: [{ id: "q", page: 1, use: "text", x: 1, y: 2, width: 3, height: 4, value: "v" }] };
  expect(completeForm(stored).boxes[0]).toMatchObject({ id: "q", width: 3, family: "Arimo", valign: "middle" });
  const bare = { asset: "x", facts: { pages: [], fields: [] }, boxes: [{ value: "v" }] };
  expect(completeForm(bare)).toMatchObject({ output: "printed", answers: {}, boxes: [{ use: "text", page: 1, width: 60, value: "v" }] });
  expect(newBox("mark", 2, 1.26, 3.04).x).toBe(1.3);
});
