import { queryOptions } from "@tanstack/react-query";
import { api, ask, type Schema } from "../api/client";
import { keys } from "../api/keys";

export type FoundPiece = Schema["FoundPiece"];
export type ReturnRule = Schema["ReturnRule"];
export type FollowUp = Schema["ReturnFollowUp"];

/** What a reason is called at the desk. */
export const reasonNames: Record<Schema["ReturnReason"], string> = {
  moved: "Moved, no new address",
  newAddress: "Moved, new address on the label",
  unknown: "Not known at this address",
  refused: "Refused",
  insufficient: "Insufficient address",
  vacant: "Vacant",
  deceased: "Deceased",
  other: "Other",
};

/** What follows, as a button says it. */
export const followNames: Record<FollowUp, string> = {
  record: "Record only",
  hold: "Hold everywhere",
  suppress: "Suppress",
  correct: "Correct only",
  remail: "Correct and mail again",
};

/** What followed, in a line of the log. */
export const followed: Record<FollowUp, string> = {
  record: "recorded",
  hold: "held everywhere",
  suppress: "suppressed",
  correct: "corrected",
  remail: "corrected, mailed again",
};

export const corrects = (follow: FollowUp) => follow === "correct" || follow === "remail";

/** The cells that were typed anew, by their columns. */
export const changedCells = (piece: FoundPiece, typed: Record<number, string>) =>
  Object.fromEntries(
    piece.address
      .filter((a) => typed[a.columnId] !== undefined && typed[a.columnId]?.trim() !== (a.value ?? "").trim())
      .map((a) => [a.columnId, typed[a.columnId] ?? ""]),
  );

// Under the drops’ key, so that what others enter arrives with what happens to drops.
export const returnsQuery = () => queryOptions({ queryKey: keys.drop("returns"), queryFn: () => ask(api.GET("/api/returns")) });
export const rulesQuery = () => queryOptions({ queryKey: keys.settings("returns"), queryFn: () => ask(api.GET("/api/returns/rules")) });

/** Two falling tones: whoever scans one piece after another looks at the pieces, not at the screen. */
export function soundNotFound() {
  try {
    const audio = new AudioContext();
    [440, 330].forEach((pitch, i) => {
      const tone = audio.createOscillator();
      const loudness = audio.createGain();
      tone.frequency.value = pitch;
      loudness.gain.value = 0.08;
      tone.connect(loudness).connect(audio.destination);
      tone.start(audio.currentTime + i * 0.16);
      tone.stop(audio.currentTime + i * 0.16 + 0.14);
    });
    window.setTimeout(() => void audio.close(), 600);
  } catch {
    // A browser without sound shows it.
  }
}
