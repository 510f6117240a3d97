import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ChevronDown, ChevronUp, Search } from "lucide-react";
import { useMemo, useState } from "react";
import { api, ask, type Schema } from "../api/client";
import { fromBase64, PdfPages } from "../ui/PdfPages";
import { useDelayed } from "../ui/useDelayed";
import { windowShares } from "../ui/windowShares";
import { count } from "../ui/words";
import { PreviewIssues } from "./RecipientWalk";
import type { usePreview } from "./usePreview";
import { Beside } from "../ui/Beside";
import { keys } from "../api/keys";

interface Props {
  listId: number | null;
  preview: ReturnType<typeof usePreview>;
  children: React.ReactNode;
}

/** The finished page of the recipient that is chosen: any by search, the next one, the one with the longest letter, one with blanks. */
export function FinishedPage({ listId, preview, children }: Props) {
  const { shown, error, look } = preview;
  const [search, setSearch] = useState<string | null>(null);
  const rested = useDelayed(search ?? "", 200);
  const found = useQuery({
    queryKey: keys.lists(listId, "search", rested),
    queryFn: () =>
      ask(api.GET("/api/lists/{id}/recipients", { params: { path: { id: listId ?? 0 }, query: { search: rested, limit: 8 } } })),
    enabled: listId !== null && rested.trim() !== "",
    placeholderData: keepPreviousData,
  }).data;
  const pdf = useMemo(() => (shown ? fromBase64(shown.pdf) : undefined), [shown]);
  // Where a drop sends it in a window envelope, the window is drawn over its first page.
  const windowMark = JSON.stringify(shown?.window ?? null);
  const pieces = useMemo(() => {
    const w = JSON.parse(windowMark) as Schema["WindowArea"] | null;
    return w ? [{ name: "", pages: 1, window: windowShares(w) }] : undefined;
  }, [windowMark]);
  return (
    <Beside label="Preview" className="on-sand flex w-[352px] shrink-0 flex-col border-l border-line bg-base-200">
      <div className="relative flex h-9 shrink-0 items-center gap-1 border-b border-line px-3">
        {search === null ? (
          <>
            <button
              className="min-w-0 flex-1 cursor-pointer truncate text-left font-semibold"
              title="Search recipients"
              disabled={listId === null}
              onClick={() => setSearch("")}
            >
              {shown?.recipient ?? (listId === null ? "Choose a list to see a recipient" : "…")}
            </button>
            {shown?.recipient && (
              <span className="whitespace-nowrap text-faint">
                {count(shown.offset + 1)} of {count(shown.recipients)}
              </span>
            )}
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label="Search recipients"
              disabled={listId === null}
              onClick={() => setSearch("")}
            >
              <Search size={14} />
            </button>
          </>
        ) : (
          <input
            className="input input-sm flex-1"
            aria-label="Search recipients"
            autoFocus
            placeholder="Search by name, place, or any value"
            value={search}
            onChange={(e) => setSearch(e.target.value)}
            onBlur={() => setTimeout(() => setSearch(null), 150)}
            onKeyDown={(e) => {
              if (e.key === "Escape") setSearch(null);
              if (e.key === "Enter" && found?.rows[0]) {
                preview.show(found.rows[0].id);
                setSearch(null);
              }
            }}
          />
        )}
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label="Previous recipient"
          disabled={preview.isFirst}
          onClick={() => preview.walk(-1)}
        >
          <ChevronUp size={15} />
        </button>
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label="Next recipient"
          disabled={preview.isLast}
          onClick={() => preview.walk(1)}
        >
          <ChevronDown size={15} />
        </button>
        {search !== null && search.trim() !== "" && found && (
          <ul
            className="absolute top-9 right-3 left-3 z-40 rounded-box border border-base-300 bg-base-100 p-1 shadow-lg"
            aria-label="Search results"
          >
            {found.rows.length === 0 && <li className="px-2 py-1 text-faint">No recipients match your search.</li>}
            {found.rows.map((r) => (
              <li key={r.id}>
                <button
                  className="w-full cursor-pointer truncate rounded px-2 py-1 text-left hover:bg-base-200"
                  onMouseDown={(e) => e.preventDefault()}
                  onClick={() => (preview.show(r.id), setSearch(null))}
                >
                  {r.values.filter(Boolean).slice(0, 5).join(" · ")}
                </button>
              </li>
            ))}
          </ul>
        )}
      </div>
      <div className="flex h-8 shrink-0 items-center gap-1.5 border-b border-line px-3">
        <span className="flex-1 text-faint">{shown && shown.pages > 1 ? `${shown.pages} pages` : ""}</span>
        <button
          className="btn btn-quiet btn-xs"
          disabled={listId === null}
          onClick={() => void look("longest")}
          title="The recipient with the longest letter"
        >
          Longest
        </button>
        <button
          className="btn btn-quiet btn-xs"
          disabled={listId === null}
          onClick={() => void look("blanks")}
          title="A recipient with blank fields in this letter"
        >
          With blanks
        </button>
      </div>
      <div className="min-h-0 flex-1 overflow-auto p-3" role="region" tabIndex={0} aria-label="Preview pages">
        <PdfPages data={pdf} width={324} mark={preview.isNow ? `${preview.offset}` : ""} pageMarks={shown?.pageMarks} pieces={pieces} />
        {error && <p className="p-3 text-error">{error.message}</p>}
        <PreviewIssues issues={shown?.issues ?? []} className="mt-3" />
      </div>
      {children}
    </Beside>
  );
}
