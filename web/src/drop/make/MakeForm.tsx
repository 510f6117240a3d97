import { MakeFiles } from "./MakeFiles";
import { MakeOutput } from "./MakeOutput";
import { MakePaper } from "./MakePaper";
import { MakePrinting } from "./MakePrinting";
import { MakeSending } from "./MakeSending";
import { MakeWho } from "./MakeWho";
import type { PartProps } from "./parts";

/** Who, in which order, as what: everything that is asked before a run. */
export function MakeForm({ selected, ...part }: PartProps & { selected: number }) {
  const { output } = part.o.form;
  return (
    <div className="grid grid-cols-[78px_1fr] items-center gap-x-2 gap-y-2">
      <h2 className="col-span-2 mb-1">New run</h2>
      <MakeWho {...part} selected={selected} />
      <MakeOutput {...part} />
      {output === "email" && <MakeSending {...part} />}
      {output === "print" ? <MakePrinting {...part} /> : <MakeFiles {...part} />}
      {!part.o.mailing && <MakePaper {...part} />}
    </div>
  );
}
