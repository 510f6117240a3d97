import { FileText } from "lucide-react";
import { useRef, useState } from "react";
import { DropZone } from "../ui/DropZone";
import { queryClient, sendFile, type Schema } from "../api/client";
import { settingsQuery } from "../api/queries";
import { size } from "../ui/words";

/** A place to drop a word processor document, or to choose one. */
export function DocumentDrop({ children, onUpload }: { children: string; onUpload: (upload: Schema["UploadView"]) => void }) {
  const [sending, setSending] = useState<{ name: string; share: number; cancel: () => void } | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setWrong(null);
    const { maxUpload } = await queryClient.ensureQueryData(settingsQuery());
    if (file.size > maxUpload) {
      setWrong(`“${file.name}” has ${size(file.size)}; a file can have ${size(maxUpload)}.`);
      return;
    }
    const abort = new AbortController();
    setSending({ name: file.name, share: 0, cancel: () => abort.abort() });
    try {
      onUpload(
        await sendFile<Schema["UploadView"]>(
          `/api/documents?name=${encodeURIComponent(file.name)}`,
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
  return (
    <div>
      <DropZone className="p-3" onFiles={(files) => void take(files[0])}>
        <FileText size={26} strokeWidth={1.3} className="shrink-0 text-faint" />
        {sending ? (
          <>
            <span className="min-w-0 flex-1">
              <span className="block truncate font-semibold">{sending.name}</span>
              <progress className="progress progress-primary" value={sending.share} max={1} aria-label="Uploading the file" />
            </span>
            <button type="button" className="btn btn-quiet btn-sm" onClick={sending.cancel}>
              Cancel
            </button>
          </>
        ) : (
          <>
            <span className="min-w-0 flex-1">{children}</span>
            <button type="button" className="btn btn-quiet btn-sm" onClick={() => input.current?.click()}>
              Choose a file
            </button>
          </>
        )}
        <input
          ref={input}
          type="file"
          className="hidden"
          aria-label="Document"
          accept=".docx,.docm,.dotx,.odt"
          onChange={(e) => {
            void take(e.target.files?.[0]);
            e.target.value = "";
          }}
        />
      </DropZone>
      {wrong && (
        <p role="alert" className="mt-2 rounded-box border-l-4 border-error bg-error/10 px-3 py-2">
          {wrong}
        </p>
      )}
    </div>
  );
}
