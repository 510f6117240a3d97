import { useQuery } from "@tanstack/react-query";
import { Download, FilePen } from "lucide-react";
import { useNavigate } from "react-router";
import { api, ask } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { moment, size } from "../ui/words";
import { DocumentDrop } from "./DocumentDrop";

/** The file that a letter was made of, and a newer one in its place. */
export function FileDialog({ designId, close }: { designId: number; close: () => void }) {
  const navigate = useNavigate();
  const file = useQuery({
    queryKey: ["designs", designId, "file"],
    queryFn: () => ask(api.GET("/api/designs/{id}/file", { params: { path: { id: designId } } })),
    retry: false,
  });
  return (
    <Dialog title="File of this letter" onClose={close}>
      {file.data && (
        <p className="mb-3">
          Version {file.data.version} was made of <b>{file.data.name}</b>, {size(file.data.size)}, on {moment(file.data.at)} by{" "}
          {file.data.by}.{" "}
          <a className="btn btn-quiet btn-xs" href={`/api/designs/${designId}/file/content`} download={file.data.name}>
            <Download size={13} /> Download it
          </a>
        </p>
      )}
      {file.error && <p className="mb-3 text-faint">This letter was written here.</p>}
      <p className="mb-3">
        <a className="btn btn-quiet btn-sm" href={`/api/designs/${designId}/document.docx`} download>
          <FilePen size={14} /> Export it as DOCX
        </a>{" "}
        <span className="text-faint">with its fields as they are typed, to edit it elsewhere and bring it back</span>
      </p>
      <DocumentDrop onUpload={(u) => void navigate(`/designs/document/${u.id}?design=${designId}`)}>
        Replace with a newer file: drop a DOCX here. You see what changes first.
      </DocumentDrop>
    </Dialog>
  );
}
