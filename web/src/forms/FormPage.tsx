import { Download, FileUp } from "lucide-react";
import { useRef } from "react";
import { DesignFrame } from "../designs/DesignFrame";
import type { EditorProps } from "../designs/editor";
import { RecipientWalk } from "../designs/RecipientWalk";
import { useDesign } from "../designs/useDesign";
import { usePreview } from "../designs/usePreview";
import { useActions } from "../ui/keys";
import { sayWrong } from "../ui/notices";
import { completeForm, type Form } from "./form";
import { FormDesk } from "./FormDesk";
import { useFormFile } from "./useFormFile";

/** A form as it is made: with its versions, the list it is seen with, and its PDF. */
export function FormPage(props: EditorProps) {
  const { design } = props;
  const frame = useDesign<Form>(props, completeForm);
  const { document: form, write, listId, columns, readOnly } = frame;
  const preview = usePreview({ designId: design.id, listId, document: form, rest: 80 });
  const file = useRef<HTMLInputElement>(null);
  const pdfFile = useFormFile();
  const replace = async (newer: File | undefined) => {
    if (!newer) return;
    try {
      await frame.save.flush();
      const path = `/api/designs/${design.id}/form?basedOn=${frame.save.version}&file=${encodeURIComponent(newer.name)}`;
      if ((await pdfFile.send(path, newer)) !== null) frame.reload();
    } catch (e) {
      sayWrong(e);
    }
  };
  useActions([
    { keys: "ArrowDown", label: "Next recipient", run: () => preview.walk(1), quiet: true },
    { keys: "ArrowUp", label: "Previous recipient", run: () => preview.walk(-1), quiet: true },
    { label: "Versions of this design", run: () => frame.setDialog("versions") },
  ]);
  return (
    <DesignFrame of={frame} values={preview.shown?.values ?? []}>
      {pdfFile.dialog}
      <FormDesk
        {...{ form, write, listId, columns, readOnly, preview }}
        whose={<RecipientWalk preview={preview} listId={listId} />}
        tools={
          <>
            <a
              className="btn btn-quiet btn-sm"
              href={`/api/pictures/${form.asset}`}
              download={form.file}
              title={`Download ${form.file} unchanged`}
            >
              <Download size={14} /> PDF
            </a>
            <button className="btn btn-quiet btn-sm" disabled={readOnly} onClick={() => file.current?.click()}>
              <FileUp size={14} /> Newer PDF
            </button>
            <input
              ref={file}
              type="file"
              className="hidden"
              aria-label="Newer PDF"
              accept="application/pdf,.pdf"
              onChange={(e) => (void replace(e.target.files?.[0]), (e.target.value = ""))}
            />
          </>
        }
      />
    </DesignFrame>
  );
}
