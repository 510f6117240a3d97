import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { typefacesQuery } from "../api/queries";

const loaded = new Map<number, FontFace>();

/** The organization's typefaces as the browser's own, so that letters look in the editor as they print. */
export function useOwnFaces() {
  const own = useQuery(typefacesQuery()).data?.own;
  useEffect(() => {
    if (!own) return;
    for (const [id, face] of loaded)
      if (!own.some((f) => f.id === id)) {
        document.fonts.delete(face);
        loaded.delete(id);
      }
    for (const f of own) {
      if (loaded.has(f.id)) continue;
      const face = new FontFace(f.family, `url(/api/typefaces/${f.id}/file)`, {
        weight: f.bold ? "700" : "400",
        style: f.italic ? "italic" : "normal",
        display: "block",
      });
      loaded.set(f.id, face);
      document.fonts.add(face);
    }
  }, [own]);
}
