// Forms by three writers, for the tests; the demo's form is made by the first of them.
import { PDFDocument, StandardFonts, rgb, PDFName, PDFBool } from "pdf-lib";
import PDFKit from "pdfkit";
import * as jspdf from "jspdf";

/** An application for a plot in the members' nursery, two pages, its fields in an order of their own. */
export async function nursery({ plain = false } = {}) {
  const doc = await PDFDocument.create();
  doc.setTitle("Application for a nursery plot");
  doc.setCreationDate(new Date("2027-01-11T09:00:00Z"));
  doc.setModificationDate(new Date("2027-01-11T09:00:00Z"));
  doc.setProducer("Fernquay Botanic Garden");
  const [serif, bold, sans] = await Promise.all(
    [StandardFonts.TimesRoman, StandardFonts.TimesRomanBold, StandardFonts.Helvetica].map((f) => doc.embedFont(f)),
  );
  const first = doc.addPage([612, 792]);
  const second = doc.addPage([612, 792]);
  const form = doc.getForm();
  const green = rgb(0.12, 0.36, 0.29);
  const text = (page, x, y, said, size = 8.5, font = serif) => page.drawText(said, { x, y, size, font });
  const line = (page, x, y, width, height) =>
    page.drawRectangle({ x, y, width, height, borderColor: green, borderWidth: 0.75, color: rgb(1, 1, 1) });
  text(first, 54, 718, "Application for a nursery plot", 19, bold);
  text(first, 54, 700, "Fernquay Botanic Garden. To be returned to the garden office by March 1.", 9.5);
  first.drawLine({ start: { x: 54, y: 690 }, end: { x: 558, y: 690 }, thickness: 1.2, color: green });
  const later = [];
  /** A field with its label above it. */
  const field = (page, name, label, x, y, width, height, more = {}) => {
    text(page, x, y + height + 3, label);
    line(page, x, y, width, height);
    later.push([
      more.order ?? later.length,
      () => {
        if (plain) return;
        if (more.options) {
          const list = form.createDropdown(name);
          list.addOptions(more.options);
          list.addToPage(page, { x, y, width, height, font: sans, borderWidth: 0 });
          return;
        }
        const box = form.createTextField(name);
        if (more.max) box.setMaxLength(more.max);
        if (more.comb) box.enableCombing();
        if (more.multiline) box.enableMultiline();
        if (more.required) box.enableRequired();
        box.addToPage(page, { x, y, width, height, font: sans, borderWidth: 0 });
        box.setFontSize(more.size ?? 10);
        if (more.value) box.setText(more.value);
        if (more.readOnly) box.enableReadOnly();
      },
    ]);
  };
  field(first, "name_last", "Family name", 54, 646, 244, 20, { order: 9, required: true });
  field(first, "name_first", "Given name", 314, 646, 244, 20, { order: 3 });
  field(first, "addr1", "Street and number", 54, 604, 330, 20, { order: 17 });
  field(first, "addr2", "Apartment", 400, 604, 158, 20, { order: 1 });
  field(first, "city", "City", 54, 562, 244, 20, { order: 12 });
  field(first, "st", "State", 314, 562, 60, 20, { order: 2, max: 2 });
  field(first, "zip", "ZIP", 390, 562, 168, 20, { order: 14, max: 5, comb: true });
  field(first, "memno", "Member number", 54, 520, 160, 20, { order: 0 });
  field(first, "since", "Member since", 230, 520, 160, 20, { order: 8 });
  field(first, "valid", "Renewal date", 406, 520, 152, 20, { order: 16 });
  text(first, 54, 492, "Level");
  const radio = (group, x, y, value, label) => {
    first.drawCircle({ x: x + 6, y: y + 6, size: 6, borderColor: green, borderWidth: 0.75 });
    text(first, x + 17, y + 3, label, 9.5);
    later.push([30, () => !plain && group().addOptionToPage(value, first, { x, y, width: 12, height: 12, borderWidth: 0 })]);
  };
  let level;
  const levels = () => (level ??= form.createRadioGroup("level"));
  ["Friend", "Household", "Patron", "Benefactor"].forEach((l, i) => radio(levels, 54 + i * 126, 472, l, l));
  field(first, "tel", "Telephone", 54, 432, 244, 20, { order: 5 });
  field(first, "mail", "Email", 314, 432, 244, 20, { order: 7 });
  field(first, "dob", "Date of birth", 54, 390, 160, 20, { order: 4 });
  field(first, "bed", "Kind of bed", 230, 390, 160, 20, { order: 6, options: ["Raised bed", "Open ground", "Cold frame"] });
  field(first, "due", "Amount due", 406, 390, 152, 20, { order: 10, size: 11 });
  field(first, "wish", "What would you like to grow?", 54, 290, 504, 76, { order: 11, multiline: true, size: 10 });
  const box = (name, x, y, label) => {
    line(first, x, y, 12, 12);
    text(first, x + 18, y + 2.5, label, 9.5);
    later.push([31, () => !plain && form.createCheckBox(name).addToPage(first, { x, y, width: 12, height: 12, borderWidth: 0 })]);
  };
  box("news", 54, 258, "Send me the nursery news");
  box("rules", 300, 258, "I know the rules of the nursery");
  field(first, "office", "For the office", 406, 200, 152, 20, { order: 13, value: "plot no.", readOnly: true });
  text(second, 54, 718, "Rules of the nursery", 15, bold);
  text(second, 54, 690, "Water in the morning. Leave the tools where you found them. Compost goes to the north gate.", 9.5);
  field(second, "name_full", "Name", 54, 620, 244, 20, { order: 15 });
  field(second, "town_date", "Place and date", 314, 620, 244, 20, { order: 18 });
  text(second, 54, 560, "Signature");
  second.drawLine({ start: { x: 54, y: 540 }, end: { x: 298, y: 540 }, thickness: 0.75 });
  for (const [, make] of later.sort((a, b) => a[0] - b[0])) make();
  if (!plain) doc.catalog.getOrCreateAcroForm().dict.set(PDFName.of("NeedAppearances"), PDFBool.False);
  return Buffer.from(await doc.save({ useObjectStreams: true }));
}

/** A pledge card of another writer, with scripts that say how dates and numbers are written; locked where a password is given. */
export async function pledge(userPassword) {
  const lock = userPassword ? { userPassword, pdfVersion: "1.7ext3" } : {};
  const doc = new PDFKit({ size: [420, 298], margin: 20, info: { Title: "Pledge card" }, ...lock });
  const parts = [];
  doc.on("data", (d) => parts.push(d));
  const done = new Promise((resolve) => doc.on("end", resolve));
  doc.font("Helvetica");
  doc.initForm();
  doc.fontSize(14).text("Pledge card", 20, 20);
  doc.fontSize(9).text("Your name", 20, 60).text("Amount", 20, 100).text("Paid on", 200, 100).text("Gift is for", 20, 140);
  doc.formText("pledge.name", 90, 54, 300, 18, { required: true });
  doc.formText("pledge.amount", 90, 94, 90, 18, { format: { type: "number", nDec: 2, currency: "$", currencyPrepend: true } });
  doc.formText("pledge.date", 250, 94, 140, 18, { format: { type: "date", param: "mm/dd/yyyy" } });
  doc.formCombo("pledge.for", 90, 134, 200, 18, { select: ["Glasshouse", "Nursery", "Library"] });
  doc.formText("pledge.note", 90, 174, 300, 60, { multiline: true, align: "left" });
  doc.end();
  await done;
  return Buffer.concat(parts);
}

/** A visitor's card of a third writer. */
export function visitor() {
  const doc = new jspdf.jsPDF({ unit: "pt", format: [400, 300] });
  doc.setFontSize(11).text("Guest of", 20, 44).text("Comes by", 20, 84).text("Has a dog", 60, 125).text("Seat", 20, 165);
  const { AcroFormTextField, AcroFormCheckBox, AcroFormComboBox } = jspdf;
  const guest = new AcroFormTextField();
  Object.assign(guest, { fieldName: "guest", Rect: [100, 30, 200, 20], fontSize: 11, maxFontSize: 11 });
  doc.addField(guest);
  const by = new AcroFormComboBox();
  Object.assign(by, { fieldName: "by", Rect: [100, 70, 200, 20], fontSize: 11 });
  by.setOptions(["train", "bus", "bicycle"]);
  doc.addField(by);
  const dog = new AcroFormCheckBox();
  Object.assign(dog, { fieldName: "dog", Rect: [36, 112, 16, 16], appearanceState: "Off" });
  doc.addField(dog);
  const seat = new AcroFormTextField();
  Object.assign(seat, { fieldName: "seat", Rect: [100, 150, 60, 20], comb: true, maxLength: 3, fontSize: 11 });
  doc.addField(seat);
  return Buffer.from(doc.output("arraybuffer"));
}
