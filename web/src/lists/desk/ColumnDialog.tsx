import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, queryClient, type Schema } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { say, sayWrong } from "../../ui/notices";
import { useDelayed } from "../../ui/useDelayed";
import { roleNames, typeNames } from "../columns";
import { UsualFormat } from "../UsualFormat";
import { useBasis } from "../../api/basis";
import { act } from "./acts";
import { isUsed, usesQuery } from "./ColumnUses";
import { keys } from "../../api/keys";

type Column = Schema["Column"];

/** Makes a column, filled by hand or computed, or changes one. */
export function ColumnDialog({ list, column, onClose }: { list: Schema["ListView"]; column: Column | null; onClose: () => void }) {
  const [name, setName] = useState(column?.name ?? "");
  const [type, setType] = useState<Column["type"]>(column?.type ?? "Text");
  const [role, setRole] = useState<Column["role"]>(column?.role ?? "None");
  const [format, setFormat] = useState(column?.format ?? null);
  const [computed, setComputed] = useState(column?.kind === "Computed");
  const [expression, setExpression] = useState(column?.expression ?? "");
  const asked = useDelayed(expression.trim(), 200);
  const answer = useQuery({
    queryKey: keys.lists(list.id, "expression", asked),
    queryFn: () =>
      ask(
        api.POST("/api/lists/{id}/expression", {
          params: { path: { id: list.id } },
          body: { expression: asked, columnId: column?.id ?? null },
        }),
      ),
    enabled: computed && asked !== "",
  });
  const functions = useQuery({
    queryKey: keys.functions(),
    queryFn: () => ask(api.GET("/api/functions")),
    enabled: computed,
    staleTime: Infinity,
  }).data;
  const mistake = answer.data?.errors[0];
  const basis = useBasis(`/api/lists/${list.id}`);
  const uses = useQuery({ ...usesQuery(list.id, column?.id ?? 0), enabled: column !== null, staleTime: 0 }).data;
  const [told, setTold] = useState(false);
  const touched =
    column !== null &&
    (name !== column.name ||
      type !== column.type ||
      role !== column.role ||
      format !== (column.format ?? null) ||
      (computed && expression !== column.expression));
  const save = async () => {
    if (column) {
      const body = {
        name: name !== column.name ? name : null,
        type: type !== column.type ? type : null,
        role: role !== column.role ? role : null,
        expression: computed && expression !== column.expression ? expression : null,
        // Empty to print the numbers as they are stored again.
        format: format !== (column.format ?? null) ? (format ?? "") : null,
      };
      if (Object.values(body).every((v) => v === null)) return onClose();
      if (
        await act(
          list.id,
          ask(
            api.PATCH("/api/lists/{id}/columns/{columnId}", {
              params: { path: { id: list.id, columnId: column.id } },
              headers: basis.headers(),
              body,
            }),
          ),
        )
      )
        onClose();
      return;
    }
    try {
      await ask(
        api.POST("/api/lists/{id}/columns", {
          params: { path: { id: list.id } },
          body: {
            name,
            type: computed ? (answer.data?.type ?? "Text") : type,
            role,
            expression: computed ? expression : null,
            format: !computed && type === "Number" ? format : null,
          },
        }),
      );
      await queryClient.invalidateQueries({ queryKey: keys.lists(list.id) });
      say(`Added column ${name}.`);
      onClose();
    } catch (e) {
      sayWrong(e);
    }
  };
  const submit = async () => {
    // What uses the column is said once before it is changed under it, also where that is not known yet.
    try {
      if (touched && !told && isUsed(uses ?? (await queryClient.fetchQuery(usesQuery(list.id, column.id))))) setTold(true);
      else await save();
    } catch (e) {
      sayWrong(e);
    }
  };
  const line = "grid grid-cols-[90px_1fr] items-center gap-2";
  return (
    <Dialog title={column ? `Edit column ${column.name}` : "Add column"} onClose={onClose} wide>
      <form
        className="flex flex-col gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <label className={line}>
          <span className="font-semibold">Heading</span>
          <input className="input input-sm w-full" autoFocus value={name} maxLength={80} onChange={(e) => setName(e.target.value)} />
        </label>
        {!column && (
          <div className={line}>
            <span className="font-semibold">Values</span>
            <div className="flex gap-4">
              <label className="flex items-center gap-1.5">
                <input type="radio" className="radio radio-sm" checked={!computed} onChange={() => setComputed(false)} /> Entered by hand
              </label>
              <label className="flex items-center gap-1.5">
                <input type="radio" className="radio radio-sm" checked={computed} onChange={() => setComputed(true)} /> Computed
              </label>
            </div>
          </div>
        )}
        {(!computed || column) && (
          <label className={line}>
            <span className="font-semibold">Type</span>
            <select className="select select-sm w-full" value={type} onChange={(e) => setType(e.target.value as Column["type"])}>
              {Object.entries(typeNames).map(([value, label]) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </select>
          </label>
        )}
        {(!computed || column) && type === "Number" && (
          <label className={line}>
            <span className="font-semibold">In print</span>
            <UsualFormat column={name || "the column"} value={format} className="select select-sm w-full" onChange={setFormat} />
          </label>
        )}
        <label className={line}>
          <span className="font-semibold">Role</span>
          <select className="select select-sm w-full" value={role} onChange={(e) => setRole(e.target.value as Column["role"])}>
            {Object.entries(roleNames).map(([value, label]) => {
              const other = value !== "None" && list.columns.find((c) => c.role === value && c.id !== column?.id);
              return (
                <option key={value} value={value}>
                  {label}
                  {other ? ` (now ${other.name})` : ""}
                </option>
              );
            })}
          </select>
        </label>
        {computed && (
          <>
            <label className={`${line} items-start`}>
              <span className="pt-1 font-semibold">Formula</span>
              <textarea
                className={`textarea textarea-sm w-full font-mono text-[12.5px] ${mistake ? "border-error" : ""}`}
                aria-label="Formula"
                rows={2}
                placeholder={sample(list.columns)}
                value={expression}
                onChange={(e) => setExpression(e.target.value)}
              />
            </label>
            <div className="ml-[98px] min-h-24" role="status">
              {mistake ? (
                <p className="text-error">
                  {mistake.message} <span className="text-faint">(at character {Number(mistake.position) + 1})</span>{" "}
                  {mistake.suggestion && (
                    <button
                      type="button"
                      className="cursor-pointer underline"
                      onClick={() =>
                        setExpression(
                          expression.slice(0, Number(mistake.position)) +
                            (mistake.suggestion ?? "") +
                            expression.slice(Number(mistake.position) + Number(mistake.length)),
                        )
                      }
                    >
                      Use {mistake.suggestion}
                    </button>
                  )}
                </p>
              ) : answer.data && asked !== "" ? (
                <>
                  <p className="mb-1 text-faint">
                    Result: {typeNames[answer.data.type]}
                    {answer.data.problems > 0 && (
                      <span className="text-doubt-ink">
                        ; cannot be computed for {answer.data.problems} of the first {answer.data.of}
                      </span>
                    )}
                  </p>
                  <table className="w-full text-[12.5px]">
                    <tbody>
                      {answer.data.samples.slice(0, 5).map((s) => (
                        <tr key={s.recipientId} className="border-b border-line">
                          <td className="w-44 max-w-44 truncate py-0.5 text-faint">{s.name}</td>
                          <td className="py-0.5">
                            {s.problem ? (
                              <span className="text-doubt-ink">{s.problem}</span>
                            ) : (
                              (s.value ?? <span className="text-faint italic">blank</span>)
                            )}
                          </td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </>
              ) : (
                <p className="text-[12px] text-faint">Use column names, + − * / &amp;, and {functions?.join(", ")}.</p>
              )}
            </div>
          </>
        )}
        {told && uses && (
          <p className="border-l-[3px] border-warning bg-doubt px-3 py-2 text-doubt-ink" role="alert">
            {[
              ...uses.columns.map((u) => `the column ${u.name}`),
              ...uses.segments.map((u) => `the segment ${u.name}`),
              ...uses.designs.map((u) => u.name),
              ...uses.drops.map((u) => `the drop ${u.name}`),
            ].join(", ")}{" "}
            {uses.columns.length + uses.segments.length + uses.designs.length + uses.drops.length === 1 ? "uses" : "use"} this column. A new
            heading changes there, too. A new type, role, or format changes what is printed, and the drops are checked again.
          </p>
        )}
        <div className="mt-1 flex justify-end gap-2">
          <button type="button" className="btn btn-quiet" onClick={onClose}>
            Cancel
          </button>
          <button className="btn btn-primary" disabled={!name.trim() || (computed && (mistake !== undefined || !expression.trim()))}>
            {column ? (told ? "Change it anyway" : "Save") : "Add column"}
          </button>
        </div>
      </form>
    </Dialog>
  );
}

const sample = (columns: Column[]) => {
  const number = columns.find((c) => c.type === "Number");
  return number ? `if(${number.name} > 100, "patron", "friend")` : `upper(${columns[0]?.name ?? "Last"})`;
};
