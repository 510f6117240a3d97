import { useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowLeft, Download, MailWarning, Paperclip, Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { MailFrame } from "../mail/MailView";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { say, sayWrong } from "../ui/notices";
import { useDelayed } from "../ui/useDelayed";
import { usePagedRows } from "../ui/usePagedRows";
import { many, moment, size } from "../ui/words";
import { keys } from "../api/keys";

/** What the practice post office took: a list to go through and search, each message to be read in full. */
export function InboxPage() {
  const [search, setSearch] = useState("");
  const delayed = useDelayed(search, 150);
  const [cursor, setCursor] = useState(0);
  const [range, setRange] = useState({ first: 0, last: 20 });
  const scroller = useRef<HTMLDivElement>(null);
  const box = useRef<HTMLInputElement>(null);
  const rows = usePagedRows(keys.postOffice("messages", delayed), range.first, range.last, (offset, limit) =>
    ask(api.GET("/api/post-office/messages", { params: { query: { search: delayed, offset, limit } } })),
  );
  const virtual = useVirtualizer({
    count: rows.total,
    getScrollElement: () => scroller.current,
    estimateSize: () => 52,
    overscan: 8,
    onChange: (v) =>
      setRange((r) =>
        (v.range?.startIndex ?? 0) === r.first && (v.range?.endIndex ?? 20) === r.last
          ? r
          : { first: v.range?.startIndex ?? 0, last: v.range?.endIndex ?? 20 },
      ),
  });
  const at = Math.min(cursor, Math.max(0, rows.total - 1));
  const id = rows.row(at)?.id;
  const move = (to: number) => {
    const next = Math.max(0, Math.min(rows.total - 1, to));
    setCursor(next);
    virtual.scrollToIndex(next);
  };
  const did = async (request: Promise<unknown>, text: string) => {
    try {
      await request;
      say(text);
    } catch (e) {
      sayWrong(e);
    } finally {
      void queryClient.invalidateQueries({ queryKey: keys.postOffice() });
    }
  };
  useActions([
    { keys: "ArrowDown", label: "Next message", run: () => move(at + 1), quiet: true },
    { keys: "ArrowUp", label: "Previous message", run: () => move(at - 1), quiet: true },
    { keys: "/", label: "Search messages", run: () => box.current?.focus() },
  ]);
  return (
    <>
      <Header kind="Devices" title="Practice post office" state={many(rows.total, "message")}>
        <input
          ref={box}
          className="input input-sm w-64"
          aria-label="Search messages"
          placeholder="Search address, subject, or text"
          value={search}
          onChange={(e) => {
            setSearch(e.target.value);
            setCursor(0);
          }}
        />
        <button
          className="btn btn-quiet"
          disabled={rows.total === 0}
          onClick={() => void did(ask(api.DELETE("/api/post-office/messages")), "Emptied the inbox.")}
        >
          <Trash2 size={14} /> Empty inbox
        </button>
        <Link className="btn btn-quiet" to="/devices?account=1">
          <ArrowLeft size={14} /> Behavior
        </Link>
      </Header>
      <div className="flex min-h-0 flex-1">
        <div
          ref={scroller}
          className="w-[380px] shrink-0 overflow-auto border-r border-line"
          role="region"
          tabIndex={0}
          aria-label="Messages"
        >
          {rows.total === 0 && !rows.loading && (
            <p className="p-6 text-faint">
              {delayed
                ? "No messages match your search."
                : "No messages yet. Send a test from the bench, or send a run through the practice post office."}
            </p>
          )}
          <div className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map((v) => {
              const row = rows.row(v.index);
              return (
                <button
                  key={v.key}
                  className={`absolute w-full cursor-pointer border-b border-line px-3 py-1.5 text-left ${v.index === at ? "chosen" : "hover:bg-base-200"}`}
                  style={{ top: v.start, height: 52 }}
                  aria-current={v.index === at || undefined}
                  data-testid="posted"
                  onClick={() => setCursor(v.index)}
                >
                  {row && (
                    <>
                      <span className="flex gap-2">
                        <span className="min-w-0 flex-1 truncate font-semibold">{row.recipients}</span>
                        <span className="shrink-0 text-[12px] text-faint">{moment(row.at)}</span>
                      </span>
                      <span className="flex items-center gap-1.5 text-faint">
                        <span className="min-w-0 flex-1 truncate">{row.subject}</span>
                        {row.files > 0 && <Paperclip size={12} />}
                        <span className="text-[12px]">{size(row.size)}</span>
                      </span>
                    </>
                  )}
                </button>
              );
            })}
          </div>
        </div>
        {id !== undefined && <Message key={id} id={id} did={did} />}
      </div>
    </>
  );
}

const views = { html: "Preview", text: "Text", source: "Source" } as const;
type View = keyof typeof views;

function Message({ id, did }: { id: number; did: (request: Promise<unknown>, text: string) => Promise<void> }) {
  const message = useQuery({
    queryKey: keys.postOffice("message", id),
    queryFn: () => ask(api.GET("/api/post-office/messages/{id}", { params: { path: { id } } })),
  }).data;
  const [chosen, setView] = useState<View>("html");
  if (!message) return <section className="flex-1" aria-label="Message" />;
  const view = chosen === "html" && message.html === null ? "text" : chosen;
  return (
    <section className="flex min-w-0 flex-1 flex-col" aria-label="Message">
      <div className="shrink-0 border-b border-line px-4 py-2.5">
        <div className="flex items-start gap-3">
          <h2 className="min-w-0 flex-1 text-[16px]">{message.row.subject}</h2>
          <div className="join shrink-0">
            {(Object.keys(views) as View[]).map((v) => (
              <button
                key={v}
                className={`btn btn-xs join-item ${view === v ? "btn-primary" : "btn-quiet"}`}
                aria-pressed={view === v}
                disabled={v === "html" && message.html === null}
                onClick={() => setView(v)}
              >
                {views[v]}
              </button>
            ))}
          </div>
        </div>
        <dl className="text-[12.5px] leading-[18px]">
          <Line name="From" value={message.from} />
          <Line name="To" value={message.to} />
          <Line name="Cc" value={message.cc} />
          <Line name="Reply to" value={message.replyTo} />
          <Line
            name="Delivered"
            value={`To ${message.row.recipients}, from ${message.row.sender || "the mail server (delivery report)"}`}
          />
          <Line name="Date" value={message.date} />
        </dl>
      </div>
      <div className="min-h-0 flex-1 bg-base-200">
        {view === "html" ? (
          <MailFrame html={message.html ?? ""} title="Message body" />
        ) : (
          <pre
            className={`h-full overflow-auto p-4 text-[12px] leading-[17px] whitespace-pre-wrap ${view === "source" ? "font-mono break-all" : "font-mono"}`}
            tabIndex={0}
            aria-label={view === "source" ? "Message source" : "Message text"}
          >
            {view === "source" ? message.source : (message.text ?? "This message has no text.")}
          </pre>
        )}
      </div>
      <div className="flex shrink-0 flex-wrap items-center gap-2 border-t border-line px-4 py-2">
        {message.files.map((f) => (
          <a key={f.number} className="btn btn-quiet btn-sm" href={`/api/post-office/messages/${id}/files/${f.number}`} download={f.name}>
            <Paperclip size={13} /> {f.name}, {size(f.size)}
          </a>
        ))}
        <span className="flex-1" />
        <ReportButton message={message} did={did} />
        <a className="btn btn-quiet btn-sm" href={`/api/post-office/messages/${id}/source.eml`} download={`message-${id}.eml`}>
          <Download size={13} /> Save as .eml
        </a>
        <button
          className="btn btn-quiet btn-sm"
          onClick={() => void did(ask(api.DELETE("/api/post-office/messages/{id}", { params: { path: { id } } })), "Removed the message.")}
        >
          <Trash2 size={13} /> Remove
        </button>
      </div>
    </section>
  );
}

function Line({ name, value }: { name: string; value: string }) {
  return value ? (
    <div className="grid grid-cols-[66px_1fr] gap-2">
      <dt className="text-faint">{name}</dt>
      <dd className="min-w-0 truncate" title={value}>
        {value}
      </dd>
    </div>
  ) : null;
}

/** Lets the post office report back that the message could not be delivered after all. */
function ReportButton({
  message,
  did,
}: {
  message: Schema["PostedView"];
  did: (request: Promise<unknown>, text: string) => Promise<void>;
}) {
  if (!message.row.sender) return null;
  return (
    <button
      className="btn btn-quiet btn-sm"
      title="Sends a delivery report (RFC 3464) to the sender saying that the mailbox no longer exists"
      onClick={() =>
        void did(
          ask(
            api.POST("/api/post-office/messages/{id}/report", {
              params: { path: { id: message.row.id } },
              body: { status: "5.1.1", words: null },
            }),
          ),
          "Sent a delivery report to the sender.",
        )
      }
    >
      <MailWarning size={13} /> Return as undeliverable
    </button>
  );
}
