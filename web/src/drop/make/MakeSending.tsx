import { useId } from "react";
import { Name, type PartProps } from "./parts";

/** Sending: through which account, and when. */
export function MakeSending({ o }: PartProps) {
  const { form, set } = o;
  const id = useId();
  return (
    <>
      <Name of={`${id}account`}>Account</Name>
      <select
        id={`${id}account`}
        className="select select-sm w-60"
        value={o.account?.id ?? ""}
        onChange={(e) => set({ account: Number(e.target.value) })}
      >
        {o.accounts.map((a) => (
          <option key={a.id} value={a.id}>
            {a.name}
          </option>
        ))}
      </select>
      <Name of={`${id}at`}>Send time</Name>
      <span className="flex items-center gap-2">
        <input
          id={`${id}at`}
          type="datetime-local"
          step={1}
          className="input input-sm w-52"
          value={form.at}
          onChange={(e) => set({ at: e.target.value })}
        />
        <span className="text-faint">{form.at ? "" : "Now"}</span>
      </span>
    </>
  );
}
