import type { Schema } from "../api/client";

/** An envelope's window in shares of the page that it stands over. */
export const windowShares = (w: Schema["WindowArea"] | null) =>
  w ? { x: w.x / w.pageWidth, y: w.y / w.pageHeight, width: w.width / w.pageWidth, height: w.height / w.pageHeight } : null;
