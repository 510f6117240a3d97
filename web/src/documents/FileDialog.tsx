import { useQuery } from "@tanstack/react-query";
import { Download, FilePen } from "lucide-react";
import { useNavigate } from "react-router";
import { api, ask } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { moment, size } from "../ui/words";
import { DocumentDrop } from "./DocumentDrop";
import { keys } from "../api/keys";

/** The file a letter was imported from, and a newer one in its place. */
export function FileDialog({ designId, close }: { designId: number; close: () => void }) {
  const navigate = useNavigate();
  const file = useQuery({
    queryKey: keys.designs(designId, "file"),
    queryFn: () => ask(api.GET("/api/designs/{id}/file", { params: { path: { id: designId } } })),
    retry: false,
  });
  return (
    <Dialog title="Source file" onClose={close}>
      {file.data && (
        <p className="mb-3">
          Version {file.data.version} was imported from <b>{file.data.name}</b>, {size(file.data.size)}, on {moment(file.data.at)} by{" "}
          {file.data.by}.{" "}
          <a className="btn btn-quiet btn-xs" href={`/api/designs/${designId}/file/content`} download={file.data.name}>
            <Download size={13} /> Download
          </a>
        </p>
      )}
      {file.error && <p className="mb-3 text-faint">This letter was created in Bandeja.</p>}
      <p className="mb-3">
        <a className="btn btn-quiet btn-sm" href={`/api/designs/${designId}/document.docx`} download>
          <FilePen size={14} /> Export as DOCX
        </a>{" "}
        <span className="text-faint">with fields in braces, to edit elsewhere and import again</span>
      </p>
      <DocumentDrop onUpload={(u) => void navigate(`/designs/document/${u.id}?design=${designId}`)}>
        Update from file: drop a newer DOCX or ODT file here. You can review the changes before you save.
      </DocumentDrop>
    </Dialog>
  );
}
