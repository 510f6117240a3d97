import { useQuery } from "@tanstack/react-query";
import { Inbox, RefreshCw, Trash2 } from "lucide-react";
import { useState } from "react";
import { api, ask, queryClient, type Schema } from "../api/client";
import { mailboxQuery } from "../mail/queries";
import { say, sayWrong } from "../ui/notices";
import { many, moment } from "../ui/words";
import { keys } from "../api/keys";

type Mailbox = Schema["BounceMailboxRow"];
type Order = Schema["MailboxOrder"];

/** The mailbox in which an account's bounces arrive: where it is, how often it is read, and what came of it. */
export function BounceMailboxForm({ accountId, practice }: { accountId: number; practice: boolean }) {
  const { data, isPending } = useQuery(mailboxQuery(accountId));
  const [open, setOpen] = useState(false);
  if (isPending) return null;
  const mailbox = data ?? null;
  return (
    <section className="w-[400px]" aria-label="Bounce mailbox">
      <h2 className="mb-1">Bounce mailbox</h2>
      {mailbox ? (
        <Status mailbox={mailbox} />
      ) : (
        <p className="mb-2 text-faint">
          Returned email is not read automatically. You can still drop a saved report (.eml) on the run’s page.
        </p>
      )}
      {mailbox || open ? (
        <Fields key={mailbox ? "set" : "new"} accountId={accountId} practice={practice} mailbox={mailbox} onDone={() => setOpen(false)} />
      ) : (
        <button className="btn btn-quiet" onClick={() => setOpen(true)}>
          <Inbox size={14} /> Set up a mailbox…
        </button>
      )}
    </section>
  );
}

function Status({ mailbox }: { mailbox: Mailbox }) {
  const [busy, setBusy] = useState(false);
  const read = async () => {
    setBusy(true);
    try {
      const found = await ask(api.POST("/api/mail-accounts/{id}/mailbox/read", { params: { path: { id: mailbox.accountId } } }));
      await queryClient.invalidateQueries({ queryKey: keys.accounts() });
      if (!found.problem)
        say(
          found.messages === 0
            ? "Nothing new in the mailbox."
            : `${many(found.messages, "new message")} read, ${many(found.reports, "new report")} among them.`,
        );
    } catch (e) {
      sayWrong(e);
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="mb-3 flex items-start gap-3">
      <p className="min-w-0 flex-1" role="status">
        {mailbox.problem ? (
          <span className="text-error">
            Not read{mailbox.readAt && ` at ${moment(mailbox.readAt)}`}: {mailbox.problem} It is tried again every{" "}
            {many(mailbox.everyMinutes, "minute")}.
          </span>
        ) : (
          <span className="text-faint">
            {mailbox.readAt
              ? `Last read ${moment(mailbox.readAt)}. ${many(mailbox.messages, "message")} so far, ${many(mailbox.reports, "report")} among them.`
              : "Not read yet."}
          </span>
        )}
      </p>
      <button className="btn btn-quiet btn-sm shrink-0" disabled={busy} onClick={() => void read()}>
        <RefreshCw size={13} /> {busy ? "Reading…" : "Read now"}
      </button>
    </div>
  );
}

function Fields({
  accountId,
  practice,
  mailbox,
  onDone,
}: {
  accountId: number;
  practice: boolean;
  mailbox: Mailbox | null;
  onDone: () => void;
}) {
  const [m, setM] = useState<Order>({
    host: mailbox?.host ?? "",
    port: mailbox?.port ?? 993,
    tls: mailbox?.tls ?? "tls",
    userName: mailbox?.userName ?? "",
    password: null,
    folder: mailbox?.folder ?? "INBOX",
    everyMinutes: mailbox?.everyMinutes ?? 10,
    returnAddress: mailbox?.returnAddress ?? null,
    ownAddress: mailbox?.ownAddress ?? false,
  });
  const [wrong, setWrong] = useState<string | null>(null);
  const params = { path: { id: accountId } };
  const save = async () => {
    setWrong(null);
    try {
      await ask(api.PUT("/api/mail-accounts/{id}/mailbox", { params, body: m }));
      setM({ ...m, password: null });
      await queryClient.invalidateQueries({ queryKey: keys.accounts() });
      say("Saved. The mailbox is read from now on.");
      onDone();
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  const remove = async () => {
    try {
      await ask(api.DELETE("/api/mail-accounts/{id}/mailbox", { params }));
      await queryClient.invalidateQueries({ queryKey: keys.accounts() });
      say("The mailbox is no longer read. Reports already imported are kept.");
      onDone();
    } catch (e) {
      sayWrong(e);
    }
  };
  const line = "grid grid-cols-[120px_1fr] items-center gap-3";
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      {!practice && (
        <>
          <label className={line}>
            <span>Mailbox server</span>
            <input
              className="input input-sm w-full"
              value={m.host}
              maxLength={200}
              placeholder="imap.example.org"
              onChange={(e) => setM({ ...m, host: e.target.value })}
            />
          </label>
          <label className={line}>
            <span>Encryption (IMAP)</span>
            <select
              className="select select-sm w-full"
              value={m.tls}
              onChange={(e) => setM({ ...m, tls: e.target.value, port: e.target.value === "tls" ? 993 : 143 })}
            >
              <option value="tls">TLS</option>
              <option value="starttls">STARTTLS, and nothing without it</option>
            </select>
          </label>
          <label className={line}>
            <span>Port (IMAP)</span>
            <input
              type="number"
              className="input input-sm w-24 tabular-nums"
              min={1}
              max={65535}
              value={m.port}
              onChange={(e) => setM({ ...m, port: Number(e.target.value) })}
            />
          </label>
          <label className={line}>
            <span>Mailbox user</span>
            <input
              className="input input-sm w-full"
              autoComplete="off"
              value={m.userName}
              maxLength={200}
              onChange={(e) => setM({ ...m, userName: e.target.value })}
            />
          </label>
          <label className={line}>
            <span>Mailbox password</span>
            <input
              type="password"
              className="input input-sm w-full"
              autoComplete="new-password"
              value={m.password ?? ""}
              maxLength={500}
              placeholder={mailbox?.hasPassword ? "unchanged" : ""}
              onChange={(e) => setM({ ...m, password: e.target.value || null })}
            />
          </label>
        </>
      )}
      <label className={line}>
        <span>Folder</span>
        <input
          className="input input-sm w-full"
          value={m.folder}
          maxLength={200}
          onChange={(e) => setM({ ...m, folder: e.target.value })}
        />
      </label>
      <label className={line}>
        <span>Read every</span>
        <span className="flex items-center gap-2">
          <input
            type="number"
            aria-label="Read every so many minutes"
            className="input input-sm w-24 tabular-nums"
            min={1}
            max={1440}
            value={m.everyMinutes}
            onChange={(e) => setM({ ...m, everyMinutes: Math.max(1, Number(e.target.value) || 1) })}
          />{" "}
          <span className="text-faint">minutes</span>
        </span>
      </label>
      <label className={line}>
        <span>Return address</span>
        <input
          type="email"
          className="input input-sm w-full"
          value={m.returnAddress ?? ""}
          maxLength={200}
          placeholder="the message’s sender"
          onChange={(e) => setM({ ...m, returnAddress: e.target.value || null, ownAddress: e.target.value ? m.ownAddress : false })}
        />
      </label>
      <label className="ml-[132px] flex items-start gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm mt-0.5"
          checked={m.ownAddress}
          onChange={(e) => setM({ ...m, ownAddress: e.target.checked })}
        />
        <span>
          A return address for each message
          <span className="block text-[12px] text-faint">
            For example bounces+7.0012.ab3f@… It matches any kind of bounce. Your mail server has to deliver addresses with a + to the
            mailbox.
          </span>
        </span>
      </label>
      {wrong && (
        <p role="alert" className="text-error">
          {wrong}
        </p>
      )}
      <div className="mt-1 ml-[132px] flex gap-2">
        <button className="btn btn-primary btn-sm" disabled={!practice && (!m.host.trim() || !m.userName.trim())}>
          Save mailbox
        </button>
        {mailbox ? (
          <button type="button" className="btn btn-ghost btn-sm" onClick={() => void remove()}>
            <Trash2 size={14} /> Stop reading
          </button>
        ) : (
          <button type="button" className="btn btn-ghost btn-sm" onClick={onDone}>
            Cancel
          </button>
        )}
      </div>
      <p className="text-[12px] text-faint">
        Messages in the mailbox are neither changed nor deleted, and letters from people are not fetched.
      </p>
    </form>
  );
}
