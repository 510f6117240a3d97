import { DropZone } from "../ui/DropZone";

/** Where a PDF is dropped or chosen that becomes a form. */
export function FormDrop({ busy, onFile }: { busy: boolean; onFile: (file: File) => void }) {
  return (
    <DropZone className="p-4" onFiles={(files) => !busy && files[0] && onFile(files[0])}>
      <p className="flex-1">
        {busy ? "Reading the PDF…" : "Drag a PDF form here, with or without form fields. The PDF is kept unchanged."}
      </p>
      <label className={`btn btn-primary btn-sm ${busy ? "btn-disabled" : ""}`}>
        Choose PDF
        <input
          type="file"
          className="sr"
          aria-label="PDF of the form"
          accept="application/pdf,.pdf"
          disabled={busy}
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = "";
            if (file) onFile(file);
          }}
        />
      </label>
    </DropZone>
  );
}
