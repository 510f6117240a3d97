import { Download, Plus, Trash2, Upload } from "lucide-react";
import { Link } from "react-router";
import type { Schema } from "../../api/client";
import { Header } from "../../ui/Header";
import { many, moment } from "../../ui/words";

interface Props {
  list: Schema["ListView"];
  segment: number | null;
  open: (what: "export" | "new-column" | "report" | "removal") => void;
}

/** The list's name and state, and what is done with it as a whole. */
export function DeskHead({ list, segment, open }: Props) {
  return (
    <Header kind="List" title={list.name} state={<ListState list={list} onReport={() => open("report")} />}>
      <button className="btn btn-quiet" onClick={() => open("export")}>
        <Download size={15} /> Export
      </button>
      <Link className="btn btn-quiet" to={`/lists/${list.id}/reload`}>
        <Upload size={15} /> Update from file
      </Link>
      <button className="btn btn-quiet" onClick={() => open("new-column")}>
        <Plus size={15} /> Add column
      </button>
      <button className="btn btn-quiet btn-square" aria-label="Remove this list" title="Remove this list" onClick={() => open("removal")}>
        <Trash2 size={15} />
      </button>
      <Link className="btn btn-primary" to={`/campaigns/new?list=${list.id}${segment === null ? "" : `&segment=${segment}`}`}>
        Start drop
      </Link>
    </Header>
  );
}

function ListState({ list, onReport }: { list: Schema["ListView"]; onReport: () => void }) {
  return (
    <>
      <div>{many(list.recipients, "recipient")}</div>
      <div className="truncate">
        {list.sourceName ? `version ${list.version}, from ${list.sourceName}` : `entered by hand, ${moment(list.createdAt)}`}
        {list.report.length > 0 && (
          <>
            {" · "}
            <button className="cursor-pointer text-doubt-ink underline" onClick={onReport}>
              {many(list.report.length, "import note")}
            </button>
          </>
        )}
        {list.reload !== null && (
          <>
            {" · "}
            <Link className="text-doubt-ink underline" to={`/lists/${list.id}/reload`}>
              File update waiting
            </Link>
          </>
        )}
      </div>
    </>
  );
}
