// Before the tests of a run: a folder for the demo's world, which all of them share; after them it is removed.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

export default function folderForTheDemo() {
  const folder = (process.env.BANDEJA_WORLD = mkdtempSync(join(tmpdir(), "bandeja-demo-")));
  return () => rmSync(folder, { recursive: true, force: true });
}
