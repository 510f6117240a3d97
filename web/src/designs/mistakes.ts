import type { Schema } from "../api/client";

/**
 * What is wrong in a design, by what stands between the braces. In plain text a brace that is not closed has no end: what it would hold
 * is the part of the text at which the mistake stands.
 */
export const mistakesBySource = (mistakes: readonly Schema["FieldMistake"][] | undefined): ReadonlyMap<string, string> =>
  new Map(mistakes?.map((m) => [sourceOf(m), m.message]));

/** What fields with a mistake would be with what was probably meant in its place, by what stands between the braces now. */
export const offersBySource = (mistakes: readonly Schema["FieldMistake"][] | undefined): ReadonlyMap<string, string> =>
  new Map(mistakes?.flatMap((m) => (m.offer === null ? [] : [[sourceOf(m), m.offer]])));

function sourceOf(m: Schema["FieldMistake"]) {
  const inText = m.source.indexOf("{", 1) > 0;
  const source = inText ? m.source.slice(Number(m.position), Number(m.position) + Number(m.length)) : m.source;
  return source.replace(/^\{|\}$/g, "");
}
