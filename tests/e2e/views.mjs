import { readFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "./server.mjs";

/** The main views of the demo, with records of its own in them. */
export const views = [
  "/",
  "/campaigns",
  "/campaigns/new",
  "/campaigns/plan",
  "/campaigns/1",
  "/campaigns/1/report",
  "/calendar",
  "/responses",
  "/settings/calendar",
  "/settings/contact-limit",
  "/lists",
  "/lists/new",
  "/lists/1",
  "/lists/1?issue=Capitals",
  "/lists/1?pane=duplicates",
  "/lists/1?pane=rows",
  "/lists/1/reload",
  "/lists/1/versions",
  "/suppressions/1",
  "/lists/1/recipients/412",
  "/designs",
  "/designs/3",
  "/designs/6",
  "/designs/7",
  "/designs/8",
  "/drops/3/who",
  "/drops/3/what",
  "/drops/3/proof",
  "/drops/3/proof/set",
  "/drops/3/proof/issues",
  "/drops/3/proof/letter/700/3",
  "/drops/3/produce",
  "/drops/3/produce/4",
  "/returns",
  "/devices?printer=1",
  "/settings/prices",
  "/drops/3/ledger",
  "/drops/5/what",
  "/drops/5/proof",
  "/drops/5/produce",
  "/devices",
  "/devices?account=1",
  "/devices/post-office",
  "/designs/10",
  "/designs/12",
  "/drops/6/what",
  "/drops/6/proof",
  "/drops/6/produce",
  "/drops/6/ledger",
  "/settings",
  "/setup",
  "/settings/salutations",
  "/settings/typefaces",
  // A document on its way to a letter; its upload is made by whoever walks the views.
  "/designs/document/?list=1",
];

/** The id of a document that was dropped and not yet made a letter. */
export const uploaded = async (page) => {
  const data = readFileSync(join(root, "demo/files/welcome-back.docx"));
  return (await (await page.request.post("/api/documents?name=welcome-back.docx", { data })).json()).id;
};
