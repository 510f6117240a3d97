import * as pdfjs from "pdfjs-dist";
import workerUrl from "pdfjs-dist/build/pdf.worker.min.mjs?url";
import { useEffect, useRef, useState } from "react";

pdfjs.GlobalWorkerOptions.workerSrc = workerUrl;

// One worker reads all documents: starting one takes longer than reading a letter.
let shared: pdfjs.PDFWorker | null = null;
const worker = () => (shared ??= new pdfjs.PDFWorker());

interface Drawn {
  mark: string;
  canvas: HTMLCanvasElement;
  /** What stands on the page; null until it was read, which is after the page is shown. */
  text: string | null;
}

/** Draws a document's pages; those whose mark is among the ones drawn before are taken over. Their texts are read when they are shown. */
async function render(
  data: Uint8Array,
  width: number,
  widthOf: ((points: number) => number) | undefined,
  only: readonly number[] | undefined,
  marks: readonly string[] | undefined,
  before: readonly Drawn[],
  cancelled: () => boolean,
  show: (pages: Drawn[]) => void,
): Promise<Drawn[] | null> {
  const task = pdfjs.getDocument({ data: data.slice(), worker: worker(), isEvalSupported: false, disableFontFace: true });
  try {
    const document = await task.promise;
    const drawn: Drawn[] = [];
    const pages: pdfjs.PDFPageProxy[] = [];
    for (const n of only?.filter((o) => o <= document.numPages) ??
      Array.from({ length: Math.min(document.numPages, 20) }, (_, i) => i + 1)) {
      if (cancelled()) return null;
      const mark = marks?.[n - 1] ?? "";
      const page = await document.getPage(n);
      pages.push(page);
      const known = mark ? before.find((d) => d.mark === mark && !drawn.includes(d)) : undefined;
      if (known) {
        drawn.push(known);
        continue;
      }
      const ratio = Math.min(window.devicePixelRatio || 1, 2);
      const own = widthOf?.(page.getViewport({ scale: 1 }).width) ?? width;
      const viewport = page.getViewport({ scale: (own / page.getViewport({ scale: 1 }).width) * ratio });
      const canvas = window.document.createElement("canvas");
      canvas.width = Math.round(viewport.width);
      canvas.height = Math.round(viewport.height);
      canvas.style.width = `${own}px`;
      canvas.style.height = `${Math.round(viewport.height / ratio)}px`;
      canvas.className = "paper block";
      canvas.setAttribute("role", "img");
      // The way that does not wait for the screen between steps: the page is drawn out of sight.
      await page.render({ canvas, viewport, intent: "print", annotationMode: pdfjs.AnnotationMode.DISABLE }).promise;
      drawn.push({ mark, canvas, text: null });
    }
    if (cancelled()) return null;
    show(drawn);
    for (const [i, d] of drawn.entries()) {
      if (d.text === null)
        d.text =
          (await pages[i]?.getTextContent())?.items.map((item) => ("str" in item ? item.str + (item.hasEOL ? "\n" : "") : "")).join("") ??
          "";
      d.canvas.setAttribute("aria-label", `Page ${i + 1}: ${d.text}`);
    }
    return drawn;
  } finally {
    void task.destroy();
  }
}

interface Props {
  data: Uint8Array | undefined;
  width: number;
  mark: string;
  /** A mark of what is on each page, where it is known: pages that stay the same are not drawn anew. */
  pageMarks?: readonly string[];
  /** How wide a page of so many points is drawn, where pages differ; else all have the one width. */
  widthOf?: (points: number) => number;
  /** Which pages are drawn, counted from 1; else all, up to 20. */
  only?: readonly number[];
  /** True where the pages are only a picture of what is read elsewhere. */
  silent?: boolean;
  /** What pages are: a name above the first of each piece, and a window over it, in shares of the page. */
  pieces?: readonly { name: string; pages: number; window?: { x: number; y: number; width: number; height: number } | null }[];
}

/** The pages with the names of the pieces between them. */
function laidOut(pages: Drawn[], pieces: Props["pieces"]): HTMLElement[] {
  if (!pieces) return pages.map((p) => p.canvas);
  const out: HTMLElement[] = [];
  let at = 0;
  for (const piece of pieces) {
    if (piece.name) {
      const name = document.createElement("p");
      name.className = "piece-name";
      name.textContent = piece.name;
      out.push(name);
    }
    for (let i = 0; i < piece.pages && at < pages.length; i++, at++) {
      const page = pages[at] as Drawn;
      const w = i === 0 ? piece.window : null;
      if (!w) {
        out.push(page.canvas);
        continue;
      }
      const holder = document.createElement("div");
      holder.className = "relative";
      const mark = document.createElement("div");
      mark.className = "window-mark";
      mark.title = "Envelope window";
      Object.assign(mark.style, { left: `${w.x * 100}%`, top: `${w.y * 100}%`, width: `${w.width * 100}%`, height: `${w.height * 100}%` });
      holder.append(page.canvas, mark);
      out.push(holder);
    }
  }
  out.push(...pages.slice(at).map((p) => p.canvas));
  return out;
}

/**
 * The pages of a PDF. The next document is drawn out of sight and put in place when it is whole, so that walking from one
 * recipient to the next never shows an empty page.
 */
export function PdfPages({ data, width, mark, pageMarks, widthOf, only, pieces, silent }: Props) {
  const holder = useRef<HTMLDivElement>(null);
  const drawn = useRef<{ width: number; pages: Drawn[] }>({ width, pages: [] });
  const [shown, setShown] = useState({ mark: "", text: "" });
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    if (!data) return;
    let over = false;
    const show = (pages: Drawn[]) => {
      drawn.current = { width, pages };
      holder.current?.replaceChildren(...laidOut(pages, pieces));
      setWrong(null);
    };
    render(data, width, widthOf, only, pageMarks, drawn.current.width === width ? drawn.current.pages : [], () => over, show)
      .then((pages) => {
        if (!over && pages) setShown({ mark, text: pages.map((p) => p.text).join("\n\n") });
      })
      .catch((e: unknown) => !over && setWrong(e instanceof Error ? e.message : String(e)));
    return () => {
      over = true;
    };
  }, [data, width, mark, pageMarks, widthOf, only, pieces]);
  return (
    <div className="relative">
      {wrong && <p className="m-4 text-error">The page could not be displayed: {wrong}</p>}
      <div ref={holder} className="flex flex-col items-center gap-3" />
      {!silent && (
        <pre className="sr" data-testid="page-text" data-mark={shown.mark}>
          {shown.text}
        </pre>
      )}
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
