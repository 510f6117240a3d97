import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { typefacesQuery } from "../api/queries";

/** By their digests: the id of one that was removed may come again. */
const loaded = new Map<string, FontFace>();

/** The organization's typefaces as the browser's own, so that letters look in the editor as they print. */
export function useOwnFaces() {
  const own = useQuery(typefacesQuery()).data?.own;
  useEffect(() => {
    if (!own) return;
    for (const [digest, face] of loaded)
      if (!own.some((f) => f.digest === digest)) {
        document.fonts.delete(face);
        loaded.delete(digest);
      }
    for (const f of own) {
      if (loaded.has(f.digest)) continue;
      const face = new FontFace(f.family, `url(/api/typefaces/${f.id}/file?digest=${f.digest})`, {
        weight: f.bold ? "700" : "400",
        style: f.italic ? "italic" : "normal",
        display: "block",
      });
      loaded.set(f.digest, face);
      document.fonts.add(face);
    }
  }, [own]);
}
