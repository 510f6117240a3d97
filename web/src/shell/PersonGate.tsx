import { useState, type ReactNode } from "react";
import { person } from "../api/client";

/** Asks once per browser who is at the desk. */
export function PersonGate({ children }: { children: ReactNode }) {
  const [known, setKnown] = useState(person.get());
  const [name, setName] = useState("");
  if (known) return children;
  return (
    <main className="flex h-full items-center justify-center bg-base-200">
      <form
        className="w-[380px] rounded-box bg-base-100 p-6 shadow"
        onSubmit={(e) => {
          e.preventDefault();
          if (!name.trim()) return;
          person.set(name);
          setKnown(name);
        }}
      >
        <h1 className="mb-1">What is your name?</h1>
        <p className="mb-4 text-faint">
          Your name is shown next to your holds, corrections, and runs. It is saved in this browser, so you enter it only once.
        </p>
        <label className="mb-1 block font-semibold" htmlFor="person">
          Your name
        </label>
        <input id="person" className="input mb-4 w-full" autoFocus maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />
        <button className="btn btn-primary" disabled={!name.trim()}>
          Continue
        </button>
      </form>
    </main>
  );
}
