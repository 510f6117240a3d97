import { useQuery } from "@tanstack/react-query";
import { History } from "lucide-react";
import type { ReactNode } from "react";
import { Link, useSearchParams } from "react-router";
import { listsQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { many, moment } from "../ui/words";
import { DesignName, SavedState } from "./DesignHead";
import { MatchDialog } from "./MatchDialog";
import { MergeDialog } from "./MergeDialog";
import type { useDesign } from "./useDesign";
import { VersionsDialog } from "./VersionsDialog";
import { kinds } from "./kinds";

interface Props {
  of: Omit<ReturnType<typeof useDesign<object>>, "document" | "write">;
  /** The shown recipient's values, in the order of the columns. */
  values: (string | null)[];
  /** What stands in the head beside what every design has there. */
  actions?: ReactNode;
  children: ReactNode;
}

/** What stands around every kind of design: its name and how it is saved, the list it is seen with, versions, and what was never saved. */
export function DesignFrame({ of: d, values, actions, children }: Props) {
  const { design, listId, save } = d;
  const [params] = useSearchParams();
  const lists = useQuery(listsQuery()).data ?? [];
  const kind = kinds[design.kind].name;
  return (
    <>
      <Header
        kind={kind.replace(/^./, (c) => c.toUpperCase())}
        title={<DesignName design={design} />}
        name={design.name}
        state={
          <SavedState
            state={save.state}
            version={save.version}
            usedIn={design.usedIn}
            retry={() => void save.flush()}
            settle={() => d.setDialog("merge")}
          />
        }
      >
        {d.open > 0 && (
          <button className="btn btn-sm bg-doubt text-doubt-ink" onClick={() => d.setDialog("matches")}>
            {many(d.open, "field has", "fields have")} no matching column
          </button>
        )}
        {params.has("drop") && (
          <Link className="btn btn-primary" to="/campaigns/new?draft">
            Back to your drop
          </Link>
        )}
        {actions}
        <button className="btn btn-quiet" onClick={() => d.setDialog("versions")}>
          <History size={15} /> Versions
        </button>
        <label className="flex items-center gap-2">
          <span className="text-faint">List</span>
          <select
            className="select select-sm w-44"
            aria-label="Preview list"
            value={listId ?? ""}
            onChange={(e) => void d.chooseList(e.target.value)}
          >
            <option value="">No list</option>
            {lists.map((l) => (
              <option key={l.id} value={l.id}>
                {l.name}
              </option>
            ))}
          </select>
        </label>
        {listId !== null && !params.has("drop") && (
          <Link className="btn btn-primary" to={`/campaigns/new?list=${listId}&design=${design.id}`}>
            Start drop
          </Link>
        )}
      </Header>
      {d.draft && (
        <p className="flex items-center gap-3 bg-doubt px-4 py-2" role="alert">
          <span className="flex-1">
            Changes made here {moment(d.draft.at)} were not saved because the browser was closed or the server was not responding.
          </span>
          <button className="btn btn-primary btn-sm" onClick={d.takeDraft}>
            Restore changes
          </button>
          <button className="btn btn-quiet btn-sm" onClick={d.leaveDraft}>
            Discard changes
          </button>
        </p>
      )}
      {/* What the other tab could not save is kept in the browser and offered when this one opens anew. */}
      {d.tab.other && (
        <p className="flex items-center gap-3 bg-doubt px-4 py-2" role="alert">
          <span className="flex-1">
            {d.tab.taken
              ? `This ${kind} is now being edited in another tab. It is read-only here.`
              : `This ${kind} is being edited in another tab. It is read-only here.`}
          </span>
          <button className="btn btn-primary btn-sm" onClick={d.writeHere}>
            Edit here instead
          </button>
        </p>
      )}
      {children}
      {d.dialog === "matches" && listId !== null && (
        <MatchDialog designId={design.id} listId={listId} columns={d.columns} values={values} close={() => d.setDialog(null)} />
      )}
      {d.dialog === "merge" && <MergeDialog designId={design.id} save={save} onText={d.reload} close={() => d.setDialog(null)} />}
      {d.dialog === "versions" && (
        <VersionsDialog
          designId={design.id}
          close={() => d.setDialog(null)}
          onRestored={() => {
            d.setDialog(null);
            d.reload();
          }}
          before={save.flush}
        />
      )}
    </>
  );
}
