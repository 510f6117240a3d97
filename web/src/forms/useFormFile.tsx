import { useState, type ReactNode } from "react";
import { sendFile, ServerError } from "../api/client";
import { Dialog } from "../ui/Dialog";

interface Asked {
  file: string;
  why: string;
  answer: (password: string | null) => void;
}

/**
 * Sends the PDF of a form. One that opens only with a password is asked for it, as often as it takes; the server keeps it, encrypted.
 * `send` answers null where somebody gave up.
 */
export function useFormFile(): { send: <T>(path: string, file: File) => Promise<T | null>; dialog: ReactNode } {
  const [asked, setAsked] = useState<Asked | null>(null);
  const ask = (file: string, why: string) =>
    new Promise<string | null>((answer) =>
      setAsked({
        file,
        why,
        answer: (password) => {
          setAsked(null);
          answer(password);
        },
      }),
    );
  const send = async <T,>(path: string, file: File) => {
    let password: string | undefined;
    for (;;) {
      try {
        return await sendFile<T>(path, file, undefined, undefined, password ? { "Open-Password": encodeURIComponent(password) } : {});
      } catch (e) {
        if (!(e instanceof ServerError) || e.status !== 423) throw e;
        const given = await ask(file.name, e.message);
        if (given === null) return null;
        password = given;
      }
    }
  };
  return { send, dialog: asked && <PasswordDialog key={asked.why} asked={asked} /> };
}

function PasswordDialog({ asked }: { asked: Asked }) {
  const [password, setPassword] = useState("");
  return (
    <Dialog title={`Password of ${asked.file}`} onClose={() => asked.answer(null)}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          e.stopPropagation();
          if (password) asked.answer(password);
        }}
      >
        <p>{asked.why} It is asked for once, and kept encrypted on the server.</p>
        <label>
          <span className="mb-1 block font-semibold">Password</span>
          <input
            type="password"
            className="input w-full"
            autoFocus
            autoComplete="off"
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
        </label>
        <div className="flex gap-2">
          <button className="btn btn-primary btn-sm" disabled={!password}>
            Open the PDF
          </button>
          <button type="button" className="btn btn-quiet btn-sm" onClick={() => asked.answer(null)}>
            Cancel
          </button>
        </div>
      </form>
    </Dialog>
  );
}
