import { X } from "lucide-react";
import { useEffect, useLayoutEffect, useRef, useState } from "react";

/** A place that is shown: found by a selector; one that is not to be seen, such as a closed drawer, is passed over. */
export interface TourStop {
  at: string;
  title: string;
  text: string;
}

const width = 320;
const away = 12;

/** Beside the place if there is room, else below, else above it; always within the window. */
export function besides(place: DOMRect, card: { width: number; height: number }, window: { width: number; height: number }) {
  const within = (v: number, size: number, whole: number) => Math.max(8, Math.min(v, whole - size - 8));
  if (window.width - place.right >= card.width + 2 * away)
    return { left: within(place.right + away, card.width, window.width), top: within(place.top, card.height, window.height) };
  if (place.left >= card.width + 2 * away)
    return { left: place.left - card.width - away, top: within(place.top, card.height, window.height) };
  const left = within(place.left, card.width, window.width);
  return window.height - place.bottom >= card.height + away
    ? { left, top: within(place.bottom + away, card.height, window.height) }
    : { left, top: within(place.top - card.height - away, card.height, window.height) };
}

/** Walks through the parts of a screen, one after another. It can be stopped at any time, and the screen goes on working under it. */
export function Tour({ stops, onEnd }: { stops: readonly TourStop[]; onEnd: () => void }) {
  const [there] = useState(() => stops.filter((s) => document.querySelector(s.at)?.getClientRects().length));
  const [step, setStep] = useState(0);
  const [place, setPlace] = useState<DOMRect | null>(null);
  const [height, setHeight] = useState(180);
  const card = useRef<HTMLDivElement>(null);
  const stop = there[step];
  useLayoutEffect(() => {
    const look = () => {
      // What goes away while one reads leaves the card where it was.
      const seen = stop && document.querySelector(stop.at)?.getBoundingClientRect();
      if (seen) setPlace(seen);
      if (card.current) setHeight(card.current.offsetHeight);
    };
    look();
    window.addEventListener("resize", look);
    // Panes open and rows arrive while one reads.
    const again = window.setInterval(look, 400);
    return () => {
      window.removeEventListener("resize", look);
      window.clearInterval(again);
    };
  }, [stop]);
  useEffect(() => {
    const before = document.activeElement;
    return () => {
      if (before instanceof HTMLElement && before.isConnected) before.focus();
    };
  }, []);
  const none = !stop;
  useEffect(() => {
    if (none) onEnd();
  }, [none, onEnd]);
  if (!stop || !place) return null;
  const last = step === there.length - 1;
  return (
    <>
      <div
        aria-hidden
        className="pointer-events-none fixed z-40 rounded border-2 border-accent"
        style={{
          left: Math.max(2, place.left - 2),
          top: Math.max(2, place.top - 2),
          width: Math.min(window.innerWidth - 4, place.width + 4),
          height: Math.min(window.innerHeight - 4, place.height + 4),
        }}
      />
      <div
        ref={card}
        role="dialog"
        aria-label={`Tour, ${step + 1} of ${there.length}: ${stop.title}`}
        className="fixed z-50 rounded-box border border-line bg-base-100 p-4 shadow-xl"
        style={{ width, ...besides(place, { width, height }, { width: window.innerWidth, height: window.innerHeight }) }}
        onKeyDown={(e) => {
          // The keys of the screen are for the screen.
          e.stopPropagation();
          if (e.key === "Escape") onEnd();
          else if (e.key === "ArrowRight" && !last) setStep(step + 1);
          else if (e.key === "ArrowLeft" && step > 0) setStep(step - 1);
        }}
      >
        <div className="mb-1 flex items-start gap-2">
          <h2 className="flex-1">{stop.title}</h2>
          <button
            className="btn btn-ghost btn-sm btn-square -mt-1.5 -mr-1.5"
            aria-label="Stop tour (Esc)"
            title="Stop tour (Esc)"
            onClick={onEnd}
          >
            <X size={16} />
          </button>
        </div>
        <p className="mb-3">{stop.text}</p>
        <div className="flex items-center gap-2">
          <span className="flex-1 text-faint tabular-nums">
            {step + 1} of {there.length}
          </span>
          {step > 0 && (
            <button className="btn btn-quiet btn-sm" onClick={() => setStep(step - 1)}>
              Back
            </button>
          )}
          <button
            key={step}
            className="btn btn-primary btn-sm"
            ref={(button) => button?.focus({ preventScroll: true })}
            onClick={() => (last ? onEnd() : setStep(step + 1))}
          >
            {last ? "Done" : "Next"}
          </button>
        </div>
      </div>
    </>
  );
}
