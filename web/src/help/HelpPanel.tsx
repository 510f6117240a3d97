import { useQuery } from "@tanstack/react-query";
import { BookOpen, X } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import Markdown from "react-markdown";
import { useLocation } from "react-router";
import remarkGfm from "remark-gfm";
import { keyName, useRegistry } from "../ui/keys";
import { chapterOf, handbook, search } from "./handbook";
import { keys as answers } from "../api/keys";

/** Help for the page that is open: its keys, the handbook's chapter about it, and all chapters by search. */
export function HelpPanel({ onClose }: { onClose: () => void }) {
  const { pathname } = useLocation();
  const [chapter, setChapter] = useState<string | null>(null);
  const [text, setText] = useState("");
  const box = useRef<HTMLInputElement>(null);
  const chapters = useQuery({ queryKey: answers.handbook(), queryFn: handbook, staleTime: Infinity }).data ?? [];
  const actions = useRegistry()?.all() ?? [];
  const keys = actions.filter((a) => a.keys);
  const tour = actions.find((a) => a.isTour);
  const found = search(chapters, text);
  const shown = chapters.find((c) => c.id === (chapter ?? chapterOf(pathname)));
  useEffect(() => {
    const before = document.activeElement;
    box.current?.focus();
    return () => {
      if (before instanceof HTMLElement && before.isConnected) before.focus();
    };
  }, []);
  return (
    <aside
      className="on-sand fixed inset-y-0 right-0 z-40 flex w-[400px] max-w-full flex-col border-l border-line bg-base-200 shadow-xl"
      aria-label="Help"
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Escape") onClose();
      }}
    >
      <div className="flex items-center gap-2 border-b border-line px-4 py-2">
        <BookOpen size={16} />
        <h2 className="flex-1">Help</h2>
        <button className="btn btn-ghost btn-sm btn-square" aria-label="Close help" title="Close help (Esc)" onClick={onClose}>
          <X size={16} />
        </button>
      </div>
      <div className="flex gap-2 border-b border-line px-4 py-2">
        <input
          ref={box}
          className="input input-sm min-w-0 flex-1"
          aria-label="Search help"
          placeholder="Search the handbook and terms"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <select
          className="select select-sm w-36"
          aria-label="Chapter"
          value={shown?.id ?? ""}
          onChange={(e) => {
            setChapter(e.target.value);
            setText("");
          }}
        >
          {chapters.map((c) => (
            <option key={c.id} value={c.id}>
              {c.title}
            </option>
          ))}
        </select>
      </div>
      <div className="min-h-0 flex-1 overflow-auto px-4 py-3" tabIndex={0} role="region" aria-label="Help text">
        {text.trim() ? (
          <ul aria-label="Search results" className="flex flex-col gap-3">
            {found.length === 0 && <li className="text-faint">Nothing in the handbook matches “{text.trim()}”. Try another word.</li>}
            {found.map((f, i) => (
              <li key={i}>
                <button
                  className="cursor-pointer text-[12px] text-primary underline"
                  onClick={() => {
                    setChapter(f.chapter.id);
                    setText("");
                  }}
                >
                  {f.chapter.title}
                </button>
                <Text>{f.text}</Text>
              </li>
            ))}
          </ul>
        ) : (
          <>
            {tour && (
              <button
                className="btn btn-quiet btn-sm mb-4"
                onClick={() => {
                  onClose();
                  // The panel gives the focus back first.
                  setTimeout(tour.run, 0);
                }}
              >
                {tour.label}
              </button>
            )}
            {shown && <Text>{shown.text}</Text>}
            <h2 className="mt-5 mb-2">Keyboard shortcuts</h2>
            <dl className="grid grid-cols-[auto_1fr] items-center gap-x-4 gap-y-1.5">
              {keys.map((a) => (
                <div key={`${a.keys} ${a.label}`} className="contents">
                  <dt className="flex gap-1">
                    {a.keys?.split(" ").map((k) => (
                      <kbd key={k} className="kbd">
                        {keyName(k)}
                      </kbd>
                    ))}
                  </dt>
                  <dd>{a.label}</dd>
                </div>
              ))}
              <dt>
                <kbd className="kbd">?</kbd>
              </dt>
              <dd>Help for the page</dd>
            </dl>
          </>
        )}
      </div>
    </aside>
  );
}

/** Text of the handbook; links in it lead to files that are not served, so only their words are shown. */
function Text({ children }: { children: string }) {
  return (
    <div className="handbook">
      <Markdown
        remarkPlugins={[remarkGfm]}
        components={{
          h1: ({ children: c }) => <h2 className="mb-2">{c}</h2>,
          h2: ({ children: c }) => <h3 className="mt-4 mb-1 font-semibold">{c}</h3>,
          a: ({ children: c }) => <em>{c}</em>,
          p: ({ children: c }) => <p className="mb-2">{c}</p>,
          ul: ({ children: c }) => <ul className="mb-2 list-disc pl-5">{c}</ul>,
          ol: ({ children: c }) => <ol className="mb-2 list-decimal pl-5">{c}</ol>,
          li: ({ children: c }) => <li className="mb-1">{c}</li>,
          code: ({ children: c }) => <code className="rounded bg-base-100 px-1 text-[12px]">{c}</code>,
          table: ({ children: c }) => <table className="mb-2 w-full text-left">{c}</table>,
          td: ({ children: c }) => <td className="py-0.5 pr-3 align-top">{c}</td>,
          th: ({ children: c }) => <th className="py-0.5 pr-3 font-semibold">{c}</th>,
        }}
      >
        {children}
      </Markdown>
    </div>
  );
}
