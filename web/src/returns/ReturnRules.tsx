import { useState } from "react";
import { api, ask, queryClient } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { sayWrong } from "../ui/notices";
import { followNames, reasonNames, rulesQuery, type FollowUp, type ReturnRule } from "./returns";

/** What follows from a return, by its reason. */
export function ReturnRules({ rules, close }: { rules: ReturnRule[]; close: () => void }) {
  const [chosen, setChosen] = useState<Partial<Record<ReturnRule["reason"], FollowUp>>>({});
  const save = async () => {
    try {
      await ask(api.PUT("/api/returns/rules", { body: { rules: chosen as Record<string, FollowUp> } }));
      await queryClient.invalidateQueries({ queryKey: rulesQuery().queryKey });
      close();
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <Dialog title="Rules by reason" onClose={close}>
      <form
        className="flex flex-col gap-1.5"
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        {rules.map((r) => (
          <label key={r.reason} className="grid grid-cols-[1fr_190px] items-center gap-3">
            <span>{reasonNames[r.reason]}</span>
            <select
              className="select select-sm w-full"
              value={chosen[r.reason] ?? r.followUp}
              onChange={(e) => setChosen({ ...chosen, [r.reason]: e.target.value as FollowUp })}
            >
              {(Object.keys(followNames) as FollowUp[]).map((f) => (
                <option key={f} value={f}>
                  {followNames[f]}
                </option>
              ))}
            </select>
          </label>
        ))}
        <div className="mt-3 flex gap-2">
          <button className="btn btn-primary btn-sm">Save the rules</button>
          <button type="button" className="btn btn-quiet btn-sm" onClick={close}>
            Cancel
          </button>
        </div>
      </form>
    </Dialog>
  );
}
