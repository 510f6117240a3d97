import { useState } from "react";
import { Tour, type TourStop } from "../help/Tour";
import { useActions } from "../ui/keys";

const stops: TourStop[] = [
  {
    at: '[aria-label="Trays"]',
    title: "Trays",
    text: "Every recipient is in exactly one tray, so the numbers always add up to the list. Click a tray to see only who is in it.",
  },
  {
    at: 'section[aria-label="Recipients"]',
    title: "Recipients",
    text: "Press ↓ and ↑ to go from one to the next, / to search, and Space to select several. An orange mark means the piece needs review.",
  },
  {
    at: 'section[aria-label="Package"]',
    title: "The real piece",
    text: "This is exactly what will be printed or sent for this recipient, page by page. Press Z for a larger view.",
  },
  {
    at: 'aside[aria-label="This recipient"]',
    title: "What to do",
    text: "Fix a wrong value (F), accept it as it is (A), or hold the recipient (H). The issues with the piece are listed here. U undoes.",
  },
  {
    at: 'nav[aria-label="Proofing views"]',
    title: "Proof set and issues",
    text: "You do not have to look at every piece: the proof set is the few that show every difference between them. Issues can be fixed for many at once.",
  },
  {
    at: "[data-next-step]",
    title: "The next step",
    text: "This button always offers what comes next: review, produce, mark as mailed. Press N.",
  },
];

const remembered = "bandeja.tour.bench";

/** Offers a tour of the bench to whoever has not seen it, and starts it from the help and the palette. */
export function BenchTour() {
  const [touring, setTouring] = useState(false);
  const [offered, setOffered] = useState(() => localStorage.getItem(remembered) === null);
  const settle = () => {
    localStorage.setItem(remembered, "seen");
    setOffered(false);
  };
  useActions([{ label: "Take the tour of the bench", isTour: true, run: () => (settle(), setTouring(true)) }]);
  return (
    <>
      {offered && (
        <section className="flex shrink-0 items-center gap-3 border-b border-line bg-base-200 px-4 py-1" aria-label="Tour">
          <span className="min-w-0 flex-1 truncate">New at the bench? The tour takes a minute.</span>
          <button className="btn btn-quiet btn-sm" onClick={() => (settle(), setTouring(true))}>
            Start tour
          </button>
          <button className="btn btn-ghost btn-sm" onClick={settle}>
            No, thanks
          </button>
        </section>
      )}
      {touring && <Tour stops={stops} onEnd={() => setTouring(false)} />}
    </>
  );
}
