import { Check, CircleDashed, Trash2, X } from "lucide-react";
import { useState } from "react";
import { api, ask, queryClient, type Schema } from "../api/client";
import { say, sayWrong } from "../ui/notices";
import { useBasis } from "../api/basis";
import { BounceMailboxForm } from "./BounceMailboxForm";
import { keys } from "../api/keys";

type Account = Schema["MailAccountRow"];
export const blankAccount: Account = {
  id: 0,
  name: "",
  kind: "smtp",
  host: "",
  port: 587,
  tls: "starttls",
  userName: null,
  hasPassword: false,
  perMinute: 60,
  perDay: 0,
  connections: 2,
  firstWait: 60,
};

/** An account that email is sent with: where its server is, how it signs in, how fast it may send; and a test of it, step by step. */
export function AccountForm({ account, onSaved }: { account: Account; onSaved: (id: number | null) => void }) {
  const [a, setA] = useState(account);
  const [password, setPassword] = useState("");
  const basis = useBasis("/api/mail-accounts", `/api/mail-accounts/${account.id}`);
  const practice = a.kind === "practice";
  // The server keeps a password only for the server, port, and user it was given for, and for encryption that is no weaker.
  const strength = ["none", "starttls", "tls"];
  const keepsPassword =
    account.hasPassword &&
    a.host.trim().toLowerCase() === account.host.toLowerCase() &&
    a.port === account.port &&
    (a.userName?.trim() || null) === account.userName &&
    strength.indexOf(a.tls) >= strength.indexOf(account.tls);
  const asksAgain = account.hasPassword && !keepsPassword && a.tls !== "none";
  const save = async () => {
    const body = {
      name: a.name,
      host: a.host,
      port: a.port,
      tls: a.tls,
      userName: a.userName,
      password: password || null,
      perMinute: a.perMinute,
      perDay: a.perDay,
      connections: a.connections,
      firstWait: a.firstWait,
    };
    try {
      const id =
        a.id === 0
          ? await ask(api.POST("/api/mail-accounts", { body }))
          : await ask(api.PUT("/api/mail-accounts/{id}", { params: { path: { id: a.id } }, headers: basis.headers(), body }));
      if (a.id !== 0) basis.saved();
      await queryClient.invalidateQueries({ queryKey: keys.accounts() });
      setPassword("");
      say("Saved. Changes apply to new runs.");
      onSaved(id);
    } catch (e) {
      sayWrong(e);
    }
  };
  const remove = async () => {
    try {
      await ask(api.DELETE("/api/mail-accounts/{id}", { params: { path: { id: a.id } } }));
      await queryClient.invalidateQueries({ queryKey: keys.accounts() });
      say(`Removed ${a.name}.`);
      onSaved(null);
    } catch (e) {
      sayWrong(e);
    }
  };
  const line = "grid grid-cols-[170px_1fr] items-center gap-3";
  const number = (label: string, key: "perMinute" | "perDay" | "connections" | "firstWait", unit: string, min: number) => (
    <label className={line}>
      <span>{label}</span>
      <span className="flex items-center gap-2">
        <input
          type="number"
          className="input w-28 tabular-nums"
          aria-label={label}
          min={min}
          value={a[key]}
          onChange={(e) => setA({ ...a, [key]: Math.max(min, Number(e.target.value) || 0) })}
        />{" "}
        <span className="text-faint">{unit}</span>
      </span>
    </label>
  );
  return (
    <div className="flex flex-wrap gap-x-10 gap-y-6 p-6">
      <form
        className="flex w-[480px] flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <label className={line}>
          <span className="font-semibold">Name</span>
          <input
            className="input w-72"
            aria-label="Account name"
            autoFocus={a.id === 0}
            value={a.name}
            maxLength={80}
            placeholder="Garden office"
            onChange={(e) => setA({ ...a, name: e.target.value })}
          />
        </label>
        {!practice && (
          <>
            <label className={line}>
              <span>Mail server</span>
              <input
                className="input w-72"
                value={a.host}
                maxLength={200}
                placeholder="smtp.example.org"
                onChange={(e) => setA({ ...a, host: e.target.value })}
              />
            </label>
            <label className={line}>
              <span>Encryption</span>
              <select
                className="select w-72"
                value={a.tls}
                onChange={(e) =>
                  setA({ ...a, tls: e.target.value, port: e.target.value === "tls" ? 465 : e.target.value === "starttls" ? 587 : a.port })
                }
              >
                <option value="starttls">STARTTLS (required)</option>
                <option value="tls">TLS</option>
                <option value="none">None (not secure)</option>
              </select>
            </label>
            <label className={line}>
              <span>Port</span>
              <input
                type="number"
                className="input w-28 tabular-nums"
                min={1}
                max={65535}
                value={a.port}
                onChange={(e) => setA({ ...a, port: Number(e.target.value) })}
              />
            </label>
            <label className={line}>
              <span>User name</span>
              <input
                className="input w-72"
                autoComplete="off"
                value={a.userName ?? ""}
                maxLength={200}
                placeholder="None"
                onChange={(e) => setA({ ...a, userName: e.target.value || null })}
              />
            </label>
            <label className={line}>
              <span>Password</span>
              <input
                type="password"
                className="input w-72"
                autoComplete="new-password"
                value={password}
                maxLength={500}
                placeholder={keepsPassword ? "unchanged" : asksAgain ? "enter it again" : "none"}
                onChange={(e) => setPassword(e.target.value)}
              />
            </label>
            <p className={`ml-[182px] text-[12px] ${asksAgain && !password ? "text-doubt-ink" : "text-faint"}`}>
              {asksAgain && !password
                ? "The saved password is for the server, user, and encryption you entered before. It is dropped when you save."
                : a.tls === "none"
                  ? "A password is sent only over an encrypted connection."
                  : "Stored encrypted and never shown again."}
            </p>
          </>
        )}
        {number("Sending limit", "perMinute", "per minute (0 = no limit)", 0)}
        {number("and", "perDay", "per 24 hours (0 = no limit)", 0)}
        {number("Simultaneous connections", "connections", "1 to 20", 1)}
        {number("Retry deferred mail after", "firstWait", "seconds; each later wait is three times as long", 1)}
        <div className="mt-2 ml-[182px] flex gap-2">
          <button className="btn btn-primary" disabled={!a.name.trim()}>
            Save
          </button>
          {a.id !== 0 && !practice && (
            <button type="button" className="btn btn-ghost" onClick={() => void remove()}>
              <Trash2 size={14} /> Remove
            </button>
          )}
        </div>
      </form>
      {a.id !== 0 && (
        <div className="flex flex-col gap-6">
          <BounceMailboxForm key={a.id} accountId={a.id} practice={practice} />
          <Trial id={a.id} />
        </div>
      )}
    </div>
  );
}

const signs = {
  right: <Check size={15} strokeWidth={3} className="text-primary" />,
  wrong: <X size={15} strokeWidth={3} className="text-error" />,
  "Not tested": <CircleDashed size={15} className="text-faint" />,
};

/** The account is tried out: what does not work is told at the step at which it does not, with what usually helps. */
function Trial({ id }: { id: number }) {
  const [from, setFrom] = useState(() => localStorage.getItem("bandeja.trial-from") ?? "");
  const [to, setTo] = useState(() => localStorage.getItem("bandeja.test-address") ?? "");
  const [steps, setSteps] = useState<Schema["TestStep"][] | null>(null);
  const [busy, setBusy] = useState(false);
  const run = async () => {
    setBusy(true);
    setSteps(null);
    try {
      setSteps(await ask(api.POST("/api/mail-accounts/{id}/test", { params: { path: { id } }, body: { from, to } })));
      localStorage.setItem("bandeja.trial-from", from);
      localStorage.setItem("bandeja.test-address", to);
    } catch (e) {
      sayWrong(e);
    } finally {
      setBusy(false);
    }
  };
  return (
    <section className="w-[400px]" aria-label="Test account">
      <h2 className="mb-2">Test account</h2>
      <form
        className="mb-3 flex flex-col gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          void run();
        }}
      >
        <label className="grid grid-cols-[60px_1fr] items-center gap-2">
          <span className="text-faint">from</span>
          <input
            type="email"
            required
            className="input input-sm w-full"
            value={from}
            placeholder="office@example.org"
            onChange={(e) => setFrom(e.target.value)}
          />
        </label>
        <label className="grid grid-cols-[60px_1fr] items-center gap-2">
          <span className="text-faint">to</span>
          <input
            type="email"
            required
            className="input input-sm w-full"
            value={to}
            placeholder="you@example.org"
            onChange={(e) => setTo(e.target.value)}
          />
        </label>
        <button className="btn btn-quiet self-start" disabled={busy}>
          {busy ? "Testing…" : "Run test"}
        </button>
      </form>
      {steps && (
        <ol className="flex flex-col gap-1.5" aria-label="Test steps">
          {steps.map((s) => (
            <li key={s.name} className={`flex gap-2 ${s.state === "Not tested" ? "text-faint" : ""}`} data-state={s.state}>
              <span className="mt-0.5 shrink-0" role="img" aria-label={s.state}>
                {signs[s.state as keyof typeof signs]}
              </span>
              <span>
                <strong>{s.name}</strong>
                {s.words && <span className={`block ${s.state === "wrong" ? "text-error" : "text-faint"}`}>{s.words}</span>}
                {s.help && <span className="block">{s.help}</span>}
              </span>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
