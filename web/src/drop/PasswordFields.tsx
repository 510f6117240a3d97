import { useId } from "react";
import { count, pieceNumber } from "../ui/words";
import type { Form } from "./order";

/** Passwords and what may be done with the files. What is typed here is kept encrypted with the run and shown nowhere again. */
export function PasswordFields({ form, set, blank }: { form: Form; set: (part: Partial<Form>) => void; blank: number[] }) {
  const id = useId();
  const each = form.output === "each";
  const field = (name: string, key: "open" | "owner", by: "openBy" | "ownerBy") => (
    <>
      <label className="text-faint" htmlFor={`${id}${key}`}>
        {name}
      </label>
      <span className="flex items-center gap-2">
        <input
          id={`${id}${key}`}
          type={each && form[by] ? "text" : "password"}
          autoComplete="new-password"
          className="input input-sm min-w-0 flex-1"
          placeholder={each && form[by] ? "{No.}" : key === "open" ? "Blank: no password" : "Blank: no one can"}
          maxLength={300}
          value={form[key]}
          onChange={(e) => set({ [key]: e.target.value })}
        />
        {each && (
          <label className="flex items-center gap-1 text-[12px] whitespace-nowrap">
            <input type="checkbox" className="checkbox checkbox-xs" checked={form[by]} onChange={(e) => set({ [by]: e.target.checked })} />{" "}
            Different for each recipient
          </label>
        )}
      </span>
    </>
  );
  return (
    <>
      <span className="text-faint">Security</span>
      <label className="flex items-center gap-1.5">
        <input type="checkbox" className="checkbox checkbox-sm" checked={form.locked} onChange={(e) => set({ locked: e.target.checked })} />{" "}
        Protect with a password (AES-256)
      </label>
      {form.locked && (
        <>
          {field("Password to open", "open", "openBy")}
          {field("Password to change permissions", "owner", "ownerBy")}
          <span className="text-faint">Allow</span>
          <span className="flex gap-3">
            {(
              [
                ["mayPrint", "printing"],
                ["mayCopy", "copying text"],
                ["mayChange", "changes"],
              ] as const
            ).map(([key, name]) => (
              <label key={key} className="flex items-center gap-1">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  checked={form[key]}
                  onChange={(e) => set({ [key]: e.target.checked })}
                />{" "}
                {name}
              </label>
            ))}
          </span>
          {blank.length > 0 && (
            <p className="col-start-2 text-[12.5px] text-error" role="alert">
              The password is blank for {count(blank.length)}: piece {blank.slice(0, 4).map(pieceNumber).join(", ")}
              {blank.length > 4 ? " …" : ""}. Hold them, or fill in the values the password uses.
            </p>
          )}
        </>
      )}
    </>
  );
}
