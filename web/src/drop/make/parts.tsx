import type { Schema } from "../../api/client";
import type { Drop } from "../DropPage";
import type { useOrder } from "../order";

export interface PartProps {
  drop: Drop;
  o: ReturnType<typeof useOrder>;
  plan: Schema["PlanView"] | undefined;
}

/** What a control of the form is called. */
export function Name({ of, children }: { of?: string; children: React.ReactNode }) {
  return (
    <label className="text-faint" htmlFor={of}>
      {children}
    </label>
  );
}
