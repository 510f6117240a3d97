import { useQuery } from "@tanstack/react-query";
import { Send } from "lucide-react";
import { useState } from "react";
import { api, ask } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { say, sayWrong } from "../ui/notices";
import { accountsQuery } from "./queries";

const mine = "bandeja.test-address";

/** Sends oneself a recipient's message: marked as a test, and nothing of it in the ledger. */
export function TestMail({ dropId, recipientId, name }: { dropId: number; recipientId: number; name: string }) {
  const [asking, setAsking] = useState(false);
  const [to, setTo] = useState(() => localStorage.getItem(mine) ?? "");
  const accounts = useQuery({ ...accountsQuery(), enabled: asking }).data ?? [];
  const [chosen, setChosen] = useState<number | null>(null);
  const [busy, setBusy] = useState(false);
  const account = chosen ?? accounts[0]?.id;
  const send = async () => {
    if (account === undefined) return;
    setBusy(true);
    try {
      const { words } = await ask(
        api.POST("/api/drops/{id}/recipients/{recipientId}/test-mail", {
          params: { path: { id: dropId, recipientId } },
          body: { accountId: account, to },
        }),
      );
      localStorage.setItem(mine, to);
      say(`Sent the test to ${to}. Server reply: ${words}`);
      setAsking(false);
    } catch (e) {
      sayWrong(e);
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <button
        className="btn btn-quiet btn-xs"
        onClick={() => setAsking(true)}
        title="Sends this recipient’s email to you, marked as a test"
      >
        <Send size={12} /> Send test to me
      </button>
      {asking && (
        <Dialog title={`Test email for ${name}`} onClose={() => setAsking(false)}>
          <form
            className="flex flex-col gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              void send();
            }}
          >
            <label>
              <span className="mb-1 block font-semibold">To</span>
              <input
                className="input w-full"
                type="email"
                required
                autoFocus
                value={to}
                placeholder="you@example.org"
                onChange={(e) => setTo(e.target.value)}
              />
            </label>
            <label>
              <span className="mb-1 block font-semibold">Account</span>
              <select className="select w-full" value={account ?? ""} onChange={(e) => setChosen(Number(e.target.value))}>
                {accounts.map((a) => (
                  <option key={a.id} value={a.id}>
                    {a.name}
                  </option>
                ))}
              </select>
            </label>
            <p className="text-faint">
              The subject starts with [Test]. No copies are sent, the unsubscribe link does nothing, and the ledger does not record it.
            </p>
            <button className="btn btn-primary self-start" disabled={busy || !to.trim()}>
              {busy ? "Sending…" : "Send test"}
            </button>
          </form>
        </Dialog>
      )}
    </>
  );
}
