import type { WatermarkSetting } from "./letter";

/** A letter's watermark on the paper of the screen. */
export function WatermarkText({ mark }: { mark: WatermarkSetting | null }) {
  if (!mark) return null;
  return (
    <div
      className="letter-watermark"
      aria-hidden
      style={{
        fontSize: `${mark.size}pt`,
        color: mark.color,
        opacity: mark.strength,
        transform: `rotate(${-mark.angle}deg)`,
      }}
    >
      {mark.text}
    </div>
  );
}
