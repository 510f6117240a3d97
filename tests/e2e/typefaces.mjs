import { readFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "./server.mjs";

/** A typeface as somebody has it: one that ships, under another name of as many letters, or changed in its tables. */
export function ownTypeface(file, from, to, change = () => {}) {
  const data = readFileSync(join(root, "assets/fonts", file));
  const tables = Array.from({ length: data.readUInt16BE(4) }, (_, i) => 12 + 16 * i);
  const table = (tag) => {
    const at = tables.find((t) => data.toString("latin1", t, t + 4) === tag);
    return { at, bytes: data.subarray(data.readUInt32BE(at + 8), data.readUInt32BE(at + 8) + data.readUInt32BE(at + 12)) };
  };
  const utf16 = (text) => Buffer.from(text, "utf16le").swap16();
  const names = table("name").bytes;
  for (let at = names.indexOf(utf16(from)); at >= 0; at = names.indexOf(utf16(from), at + 1)) utf16(to).copy(names, at);
  change(table);
  for (const tag of ["name", "OS/2"]) {
    const { at, bytes } = table(tag);
    const padded = Buffer.alloc((bytes.length + 3) & ~3);
    bytes.copy(padded);
    let sum = 0;
    for (let i = 0; i < padded.length; i += 4) sum = (sum + padded.readUInt32BE(i)) >>> 0;
    data.writeUInt32BE(sum, at + 4);
  }
  return data;
}
