import { ChevronDown, ChevronUp, Redo2, Undo2 } from "lucide-react";
import { useState } from "react";
import { count } from "../ui/words";
import type { usePreview } from "./usePreview";
import type { useSteps } from "./useSteps";

/** The recipient whose piece is shown, and the way to others. */
export function RecipientWalk({ preview, listId }: { preview: ReturnType<typeof usePreview>; listId: number | null }) {
  const { shown, walk, look } = preview;
  return (
    <div className="ml-auto flex items-center gap-1.5">
      <span className="max-w-56 truncate">{shown?.recipient ?? (listId === null ? "No recipient" : "")}</span>
      <span className="text-faint tabular-nums">
        {shown && shown.recipients > 0 ? `${count(shown.offset + 1)} of ${count(shown.recipients)}` : ""}
      </span>
      <button
        className="btn btn-ghost btn-xs btn-square"
        aria-label="Previous recipient"
        disabled={preview.isFirst}
        onClick={() => walk(-1)}
      >
        <ChevronUp size={15} />
      </button>
      <button className="btn btn-ghost btn-xs btn-square" aria-label="Next recipient" disabled={preview.isLast} onClick={() => walk(1)}>
        <ChevronDown size={15} />
      </button>
      <button className="btn btn-quiet btn-xs" disabled={listId === null} onClick={() => void look("longest")}>
        Longest
      </button>
      <button className="btn btn-quiet btn-xs" disabled={listId === null} onClick={() => void look("blanks")}>
        With blanks
      </button>
    </div>
  );
}

/** Back and forward. */
export function StepButtons({
  steps,
  readOnly,
}: {
  steps: Pick<ReturnType<typeof useSteps>, "canUndo" | "canRedo" | "undo" | "redo">;
  readOnly: boolean;
}) {
  return (
    <>
      <button
        className="btn btn-ghost btn-sm btn-square"
        aria-label="Undo"
        title="Undo (Ctrl Z)"
        disabled={!steps.canUndo || readOnly}
        onClick={steps.undo}
      >
        <Undo2 size={15} />
      </button>
      <button
        className="btn btn-ghost btn-sm btn-square"
        aria-label="Redo"
        title="Redo (Ctrl Y)"
        disabled={!steps.canRedo || readOnly}
        onClick={steps.redo}
      >
        <Redo2 size={15} />
      </button>
    </>
  );
}

const fewIssues = 5;

/** What a preview found; where it is much, only the first, so that the page stays in sight. */
export function PreviewIssues({ issues, className }: { issues: readonly string[]; className: string }) {
  const [all, setAll] = useState(false);
  if (issues.length === 0) return null;
  const shown = all || issues.length <= fewIssues + 1 ? issues : issues.slice(0, fewIssues);
  return (
    <ul className={`flex flex-col gap-1 ${className}`} aria-label="Issues">
      {shown.map((f) => (
        <li key={f} className="border-l-[3px] border-warning bg-doubt px-2 py-1">
          {f}
        </li>
      ))}
      {shown.length < issues.length && (
        <li>
          <button className="cursor-pointer font-semibold text-accent" onClick={() => setAll(true)}>
            {issues.length - shown.length} more
          </button>
        </li>
      )}
    </ul>
  );
}
