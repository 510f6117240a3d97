import type { Editor } from "@tiptap/core";
import type { Letter } from "./letter";
import type { PageLayout } from "./nodes/textParts";
import { setSelectedNode } from "./selectedNode";
import { SheetFields } from "./SheetFields";

/** The page break that is selected: whether the pages after it have another sheet or other margins. */
export function PageBreakPanel({ editor, page, letter }: { editor: Editor; page: PageLayout | null; letter: Letter["page"] }) {
  const set = (to: PageLayout | null) => setSelectedNode(editor, { page: to });
  return (
    <section className="max-h-[55%] shrink-0 overflow-auto border-t border-line bg-base-100 p-3" aria-label="Page break">
      <h2 className="mb-2">Page break</h2>
      <div className="flex flex-col gap-1.5">
        <label className="flex items-center justify-between gap-2">
          Different page layout from here on
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={page !== null}
            onChange={(e) =>
              set(e.target.checked ? { ...letter, orientation: letter.orientation === "landscape" ? "portrait" : "landscape" } : null)
            }
          />
        </label>
        {page ? (
          <SheetFields page={page} onChange={set} />
        ) : (
          <p className="text-[12px] text-faint">The next page has the same size, orientation, and margins as the one before.</p>
        )}
      </div>
    </section>
  );
}
