import { ClipboardPaste, FileSpreadsheet, Upload as UploadIcon } from "lucide-react";
import { useQuery } from "@tanstack/react-query";
import { useLayoutEffect, useRef, useState } from "react";
import { DropZone } from "../../ui/DropZone";
import { queryClient, sendFile, type Schema } from "../../api/client";
import { settingsQuery } from "../../api/queries";
import { size } from "../../ui/words";

export type Upload = Schema["UploadView"];

/** Takes a file by dropping, choosing, or pasting rows from a spreadsheet, and sends it to the server. */
export function FileDrop({ onUpload, pasted }: { onUpload: (upload: Upload) => void; pasted: string }) {
  const settings = useQuery(settingsQuery()).data;
  const [sending, setSending] = useState<{ name: string; share: number; cancel: () => void } | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);

  const take = async (file: Blob | undefined, name: string) => {
    if (!file) return;
    setWrong(null);
    const { maxUpload } = await queryClient.ensureQueryData(settingsQuery());
    if (file.size > maxUpload) {
      setWrong(`“${name}” is ${size(file.size)}. The limit is ${size(maxUpload)}. Split the file and import the parts.`);
      return;
    }
    const abort = new AbortController();
    setSending({ name, share: 0, cancel: () => abort.abort() });
    try {
      onUpload(
        await sendFile<Upload>(
          `/api/uploads?name=${encodeURIComponent(name)}`,
          file,
          (share) => setSending((s) => s && { ...s, share }),
          abort.signal,
        ),
      );
    } catch (e) {
      if (!abort.signal.aborted) setWrong(e instanceof Error ? e.message : String(e));
    } finally {
      setSending(null);
    }
  };
  const takePasted = (text: string) => {
    if (text.trim() === "") return setWrong("Nothing to paste. Copy the rows in your spreadsheet first, including the headings.");
    void take(new Blob([text], { type: "text/tab-separated-values" }), `${pasted}.tsv`);
  };
  const latest = useRef(takePasted);
  useLayoutEffect(() => {
    latest.current = takePasted;
  });
  // With the page, not after it: what is seen can be used.
  useLayoutEffect(() => {
    const onPaste = (e: ClipboardEvent) => {
      if (e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement) return;
      const file = e.clipboardData?.files[0];
      if (file) void take(file, file.name);
      else latest.current(e.clipboardData?.getData("text/plain") ?? "");
    };
    window.addEventListener("paste", onPaste);
    return () => window.removeEventListener("paste", onPaste);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const pasteFromButton = async () => {
    try {
      takePasted(await navigator.clipboard.readText());
    } catch {
      setWrong("Your browser does not allow pasting with a button. Press Ctrl V here instead.");
    }
  };

  return (
    <div>
      <DropZone
        className="h-64 w-[560px] max-w-full flex-col justify-center"
        onFiles={(files) => {
          const file = files[0];
          void take(file, file?.name ?? "");
        }}
      >
        {sending ? (
          <>
            <span className="font-semibold">{sending.name}</span>
            <progress className="progress progress-primary w-72" value={sending.share} max={1} aria-label="Uploading file" />
            <span className="text-faint">{Math.round(sending.share * 100)} %</span>
            <button className="btn btn-quiet btn-sm" onClick={sending.cancel}>
              Cancel
            </button>
          </>
        ) : (
          <>
            <FileSpreadsheet size={34} strokeWidth={1.3} className="text-faint" />
            <p>Drag a spreadsheet or other list file here</p>
            <div className="flex gap-2">
              <button className="btn btn-primary" autoFocus onClick={() => input.current?.click()}>
                <UploadIcon size={15} /> Choose a file
              </button>
              <button
                className="btn btn-quiet"
                title="Paste rows copied from a spreadsheet, including headings (Ctrl V)"
                onClick={() => void pasteFromButton()}
              >
                <ClipboardPaste size={15} /> Paste rows
              </button>
            </div>
            <input
              ref={input}
              type="file"
              className="hidden"
              aria-label="List file"
              accept={settings?.listFormats.flatMap((f) => f.extensions).join(",")}
              onChange={(e) => void take(e.target.files?.[0], e.target.files?.[0]?.name ?? "")}
            />
            <p className="text-[12px] text-faint">
              {settings?.listFormats.map((f) => f.name).join(", ")}; up to {settings ? size(settings.maxUpload) : "…"}
            </p>
          </>
        )}
      </DropZone>
      {wrong && (
        <p role="alert" className="mt-4 max-w-2xl rounded-box border-l-4 border-error bg-error/10 px-4 py-3">
          {wrong}
        </p>
      )}
    </div>
  );
}
