import { FileText, Lock, Paperclip } from "lucide-react";
import { useState } from "react";
import type { Schema } from "../api/client";
import { useSize } from "../ui/useSize";
import { size } from "../ui/words";

type Look = Schema["MailLook"];

/** What every frame with a message in it is held to: it runs nothing and fetches nothing, also where our own page may. */
const held = "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; img-src data:; style-src 'unsafe-inline'\">";

/** As wide as a mail program's window on a desk: the message has its full width, and air beside it. */
const desktop = 720;

/** The same at a desktop's width, made smaller to fit beside the text. */
function DesktopFrame({ html, title }: { html: string; title: string }) {
  const [box, size] = useSize<HTMLDivElement>();
  const scale = size.width > 0 ? Math.min(1, size.width / desktop) : 1;
  return (
    <div ref={box} className="h-full overflow-hidden">
      <div
        className="origin-top-left"
        style={{ width: size.width / scale, height: size.height / scale, transform: scale < 1 ? `scale(${scale})` : undefined }}
      >
        <MailFrame html={html} title={title} />
      </div>
    </div>
  );
}

/** A message's HTML in a frame that runs no script, sends no form, opens no window and fetches nothing. */
export function MailFrame({ html, width, title }: { html: string; width?: number; title: string }) {
  return (
    <iframe
      sandbox=""
      title={title}
      className="h-full w-full border-0 bg-white"
      style={width ? { maxWidth: width } : undefined}
      srcDoc={html.includes("<head>") ? html.replace("<head>", `<head>${held}`) : held + html}
    />
  );
}

const views = { wide: "Desktop", narrow: "Phone", text: "Text" } as const;
type View = keyof typeof views;

/** A recipient's message as their mail program will show it: headers, body at desktop and phone width or as text, what is attached. */
export function MailView({ mail }: { mail: Look }) {
  const [chosen, setView] = useState<View>("wide");
  const view = mail.html === null ? "text" : chosen;
  const header = (name: string, value: string | string[]) =>
    value.length > 0 && (
      <div className="grid grid-cols-[84px_1fr] gap-2">
        <dt className="text-faint">{name}</dt>
        <dd className="min-w-0 truncate" title={String(value)}>
          {Array.isArray(value) ? value.join(", ") : value}
        </dd>
      </div>
    );
  return (
    <article className="flex h-full min-h-0 flex-col border border-line bg-base-100 shadow-sm" aria-label="Email">
      <div className="shrink-0 border-b border-line px-3.5 py-2 text-[12.5px] leading-[18px]">
        <div className="flex items-start gap-2">
          <h3 className="min-w-0 flex-1 text-[15px] leading-5 font-semibold" data-testid="mail-subject">
            {mail.subject || <span className="text-faint">No subject</span>}
          </h3>
          <div className="join shrink-0">
            {(Object.keys(views) as View[]).map((v) => (
              <button
                key={v}
                className={`btn btn-xs join-item ${view === v ? "btn-primary" : "btn-quiet"}`}
                aria-pressed={view === v}
                disabled={mail.html === null && v !== "text"}
                onClick={() => setView(v)}
              >
                {views[v]}
              </button>
            ))}
          </div>
        </div>
        <dl>
          {header("From", mail.from)}
          {header("To", mail.to || "no address (see the issues)")}
          {header("Cc", mail.cc)}
          {header("Bcc", mail.bcc)}
          {header("Reply to", mail.replyTo)}
          {header("Preview text", mail.preheader)}
        </dl>
      </div>
      <div className={`min-h-0 flex-1 ${view === "narrow" ? "flex justify-center bg-base-200" : ""}`}>
        {view === "text" ? (
          <pre
            className="h-full overflow-auto p-3.5 font-mono text-[12px] leading-[17px] whitespace-pre-wrap"
            tabIndex={0}
            aria-label="Plain text of the email"
          >
            {mail.text}
          </pre>
        ) : view === "wide" ? (
          <DesktopFrame html={mail.html ?? ""} title="Email body" />
        ) : (
          <MailFrame html={mail.html ?? ""} width={375} title="Email body" />
        )}
      </div>
      {(mail.files.length > 0 || mail.problem || mail.size > 0) && (
        <div className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-t border-line px-3.5 py-1.5 text-[12.5px]">
          {mail.files.map((f) => (
            <span
              key={f.name}
              className="flex min-w-0 items-center gap-1"
              title={f.protected ? "Opens with the recipient’s password" : undefined}
            >
              {f.protected ? <Lock size={13} className="shrink-0 text-primary" /> : <Paperclip size={13} className="shrink-0 text-faint" />}
              <span className="truncate">{f.name}</span>
              {f.size > 0 && <span className="shrink-0 text-faint">{size(f.size)}</span>}
            </span>
          ))}
          {mail.problem && <span className="text-error">{mail.problem}</span>}
          {mail.size > 0 && (
            <span className="ml-auto flex items-center gap-1 text-faint">
              <FileText size={13} /> {size(mail.size)} total
            </span>
          )}
        </div>
      )}
    </article>
  );
}
