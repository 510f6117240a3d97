import { useQuery } from "@tanstack/react-query";
import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { settingsQuery } from "../api/queries";
import { envelopesQuery } from "../surfaces/queries";
import { Header } from "../ui/Header";
import { say, sayWrong } from "../ui/notices";
import { useBasis } from "../api/basis";
import { pricesQuery } from "../api/queries";
import { customs, fromPaper, paperNumber, paperUnit } from "../ui/customs";

type Prices = Schema["PriceTable"];

/** What paper, envelopes, labels and postage weigh and cost: every plan is reckoned by it. */
export function PricesPage() {
  const prices = useQuery(pricesQuery()).data;
  const currency = useQuery(settingsQuery()).data?.organization.currency ?? "";
  return (
    <>
      <Header
        kind="Settings"
        title="Prices and weights"
        state={
          <Link className="hover:underline" to="/settings">
            Back to settings
          </Link>
        }
      />
      {prices && <Form prices={prices} currency={currency} />}
    </>
  );
}

function Form({ prices, currency }: { prices: Prices; currency: string }) {
  const [p, setP] = useState(prices);
  const basis = useBasis("/api/settings/prices");
  const formats = useQuery(envelopesQuery()).data ?? [];
  const save = async () => {
    try {
      await ask(api.PUT("/api/settings/prices", { headers: basis.headers(), body: p }));
      basis.saved();
      await queryClient.invalidateQueries();
      say("Saved. New estimates use these prices.");
    } catch (e) {
      sayWrong(e);
    }
  };
  const number = (label: string, value: number, set: (n: number) => void, step = 0.001) => (
    <input
      type="number"
      className="input input-sm w-24 text-right tabular-nums"
      aria-label={label}
      min={0}
      step={step}
      value={value}
      onChange={(e) => set(Number(e.target.value))}
    />
  );
  const text = (label: string, value: string, set: (t: string) => void) => (
    <input className="input input-sm w-60" aria-label={label} maxLength={80} value={value} onChange={(e) => set(e.target.value)} />
  );
  const remove = (label: string, run: () => void, off = false) => (
    <button type="button" className="btn btn-ghost btn-sm px-1.5" aria-label={`Remove ${label}`} disabled={off} onClick={run}>
      <Trash2 size={14} />
    </button>
  );
  const add = (label: string, run: () => void) => (
    <button type="button" className="btn btn-quiet btn-sm mt-2 self-start" onClick={run}>
      <Plus size={14} /> {label}
    </button>
  );
  const at = <T,>(list: T[], i: number, part: Partial<T>) => list.map((x, n) => (n === i ? { ...x, ...part } : x));
  const head = "text-left text-[12px] text-faint font-normal";
  return (
    <form
      className="grid min-h-0 flex-1 grid-cols-2 content-start gap-x-10 gap-y-6 overflow-auto p-6"
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <section className="flex flex-col" aria-label="Paper and envelopes">
        <h2 className="mb-1">Paper</h2>
        <table className="self-start">
          <thead>
            <tr>
              <th className={head}>Name (letters use the first one)</th>
              <th className={head}>{paperUnit()}</th>
              <th className={head}>{currency} per sheet</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {p.papers.map((x, i) => (
              <tr key={i}>
                <td className="py-0.5 pr-2">{text("Paper name", x.name, (name) => setP({ ...p, papers: at(p.papers, i, { name }) }))}</td>
                <td className="pr-2">
                  {number(
                    customs().inches ? "Basis weight in pounds" : "Grams per square meter",
                    paperNumber(x.gramsPerSquareMetre),
                    (typed) => setP({ ...p, papers: at(p.papers, i, { gramsPerSquareMetre: fromPaper(typed) }) }),
                    0.1,
                  )}
                </td>
                <td>{number("Price per sheet", x.price, (price) => setP({ ...p, papers: at(p.papers, i, { price }) }))}</td>
                <td>{remove(x.name, () => setP({ ...p, papers: p.papers.filter((_, n) => n !== i) }), p.papers.length === 1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {add("Add paper", () => setP({ ...p, papers: [...p.papers, { name: "", gramsPerSquareMetre: 80, price: 0 }] }))}
        <h2 className="mt-5 mb-1">Envelopes and labels</h2>
        <table className="self-start">
          <thead>
            <tr>
              <th className={head}>Item</th>
              <th className={head}>Grams each</th>
              <th className={head}>{currency} each</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {p.envelopes.map((x, i) => (
              <tr key={`e${i}`}>
                <td className="py-0.5 pr-2">
                  <select
                    className="select select-sm w-60"
                    aria-label="Envelope size"
                    value={x.format}
                    onChange={(e) =>
                      setP({
                        ...p,
                        envelopes: at(p.envelopes, i, {
                          format: e.target.value,
                          name: formats.find((f) => f.id === e.target.value)?.name ?? "Envelope",
                        }),
                      })
                    }
                  >
                    <option value="">Any other envelope</option>
                    {formats.map((f) => (
                      <option key={f.id} value={f.id}>
                        {f.name}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="pr-2">
                  {number("Grams per envelope", x.grams, (grams) => setP({ ...p, envelopes: at(p.envelopes, i, { grams }) }), 0.01)}
                </td>
                <td>{number("Price per envelope", x.price, (price) => setP({ ...p, envelopes: at(p.envelopes, i, { price }) }))}</td>
                <td>{remove(x.name, () => setP({ ...p, envelopes: p.envelopes.filter((_, n) => n !== i) }))}</td>
              </tr>
            ))}
            {p.labels.map((x, i) => (
              <tr key={`l${i}`}>
                <td className="py-0.5 pr-2">Label (price per sheet)</td>
                <td className="pr-2">
                  {number("Grams per label", x.grams, (grams) => setP({ ...p, labels: at(p.labels, i, { grams }) }), 0.01)}
                </td>
                <td>{number("Price per label sheet", x.price, (price) => setP({ ...p, labels: at(p.labels, i, { price }) }))}</td>
                <td />
              </tr>
            ))}
          </tbody>
        </table>
        {add("Add envelope", () =>
          setP({
            ...p,
            envelopes: [
              ...p.envelopes,
              {
                format: formats.find((f) => p.envelopes.every((e) => e.format !== f.id))?.id ?? "",
                name: formats[0]?.name ?? "Envelope",
                grams: 7,
                price: 0,
              },
            ],
          }),
        )}
      </section>
      <section className="flex flex-col gap-4" aria-label="Postage">
        <h2>Postage</h2>
        {p.postage.map((c, i) => (
          <fieldset key={i} className="border border-line p-3" aria-label={c.name}>
            <div className="mb-1.5 flex items-center gap-2">
              {text("Class name", c.name, (name) => setP({ ...p, postage: at(p.postage, i, { name }) }))}
              <label className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={c.abroad}
                  onChange={(e) => setP({ ...p, postage: at(p.postage, i, { abroad: e.target.checked }) })}
                />{" "}
                abroad
              </label>
              {remove(c.name, () => setP({ ...p, postage: p.postage.filter((_, n) => n !== i) }))}
            </div>
            <table>
              <thead>
                <tr>
                  <th className={head}>Up to (grams)</th>
                  <th className={head}>{currency}</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {c.steps.map((s, k) => (
                  <tr key={k}>
                    <td className="py-0.5 pr-2">
                      {number(
                        "Up to (grams)",
                        s.upToGrams,
                        (upToGrams) => setP({ ...p, postage: at(p.postage, i, { steps: at(c.steps, k, { upToGrams }) }) }),
                        0.01,
                      )}
                    </td>
                    <td>
                      {number("Postage", s.price, (price) =>
                        setP({ ...p, postage: at(p.postage, i, { steps: at(c.steps, k, { price }) }) }),
                      )}
                    </td>
                    <td>
                      {remove(
                        "weight step",
                        () => setP({ ...p, postage: at(p.postage, i, { steps: c.steps.filter((_, n) => n !== k) }) }),
                        c.steps.length === 1,
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {add("Add weight step", () =>
              setP({
                ...p,
                postage: at(p.postage, i, {
                  steps: [
                    ...c.steps,
                    { upToGrams: Math.round(((c.steps.at(-1)?.upToGrams ?? 0) + 28.35) * 100) / 100, price: c.steps.at(-1)?.price ?? 0 },
                  ],
                }),
              }),
            )}
          </fieldset>
        ))}
        {add("Add class", () =>
          setP({ ...p, postage: [...p.postage, { name: "", abroad: false, steps: [{ upToGrams: 28.35, price: 0 }] }] }),
        )}
        <p className="max-w-md text-faint">
          One ounce is 28.35 grams. The starting prices are examples. Enter your own postage and supplier prices.
        </p>
      </section>
      <button className="btn btn-primary col-span-2 justify-self-start">Save</button>
    </form>
  );
}
