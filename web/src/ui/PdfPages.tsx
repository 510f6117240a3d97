import * as pdfjs from "pdfjs-dist";
import workerUrl from "pdfjs-dist/build/pdf.worker.min.mjs?url";
import { useEffect, useRef, useState } from "react";

pdfjs.GlobalWorkerOptions.workerSrc = workerUrl;

interface Rendered {
  canvases: HTMLCanvasElement[];
  text: string;
}

async function render(data: Uint8Array, width: number, cancelled: () => boolean): Promise<Rendered | null> {
  const task = pdfjs.getDocument({ data: data.slice(), isEvalSupported: false, disableFontFace: false });
  try {
    const document = await task.promise;
    const canvases: HTMLCanvasElement[] = [];
    const texts: string[] = [];
    for (let n = 1; n <= Math.min(document.numPages, 20); n++) {
      if (cancelled()) return null;
      const page = await document.getPage(n);
      const ratio = Math.min(window.devicePixelRatio || 1, 2);
      const viewport = page.getViewport({ scale: (width / page.getViewport({ scale: 1 }).width) * ratio });
      const canvas = window.document.createElement("canvas");
      canvas.width = Math.round(viewport.width);
      canvas.height = Math.round(viewport.height);
      canvas.style.width = `${width}px`;
      canvas.style.height = `${Math.round(viewport.height / ratio)}px`;
      canvas.className = "paper block";
      canvas.setAttribute("role", "img");
      await page.render({ canvas, viewport }).promise;
      const content = await page.getTextContent();
      texts.push(content.items.map((i) => ("str" in i ? i.str + (i.hasEOL ? "\n" : "") : "")).join(""));
      canvas.setAttribute("aria-label", `Page ${n}: ${texts[n - 1]}`);
      canvases.push(canvas);
    }
    return { canvases, text: texts.join("\n\n") };
  } finally {
    void task.destroy();
  }
}

/**
 * The pages of a PDF. The next document is drawn out of sight and put in place when it is whole, so that walking from one
 * recipient to the next never shows an empty page.
 */
export function PdfPages({ data, width, mark }: { data: Uint8Array | undefined; width: number; mark: string }) {
  const holder = useRef<HTMLDivElement>(null);
  const [shown, setShown] = useState({ mark: "", text: "" });
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    if (!data) return;
    let over = false;
    render(data, width, () => over)
      .then((rendered) => {
        if (over || !rendered) return;
        holder.current?.replaceChildren(...rendered.canvases);
        setShown({ mark, text: rendered.text });
        setWrong(null);
      })
      .catch((e: unknown) => !over && setWrong(e instanceof Error ? e.message : String(e)));
    return () => {
      over = true;
    };
  }, [data, width, mark]);
  return (
    <div className="relative">
      {wrong && <p className="m-4 text-error">The page could not be shown: {wrong}</p>}
      <div ref={holder} className="flex flex-col items-center gap-3" />
      <pre className="sr" data-testid="page-text" data-mark={shown.mark}>
        {shown.text}
      </pre>
    </div>
  );
}

/** Bytes from Base64. */
export function fromBase64(text: string) {
  const binary = atob(text);
  const bytes = new Uint8Array(binary.length);
  for (let i = 0; i < binary.length; i++) bytes[i] = binary.charCodeAt(i);
  return bytes;
}
