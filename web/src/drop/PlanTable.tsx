import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Schema } from "../api/client";
import { count, many, pieceNumber, size } from "../ui/words";
import { kinds } from "../designs/kinds";

const ounce = 28.349523125;

/** Grams as people at the counter say them, where the currency tells on which side of the ocean that is. */
export function weight(grams: number, currency: string) {
  if (currency === "USD")
    return grams < ounce * 16 ? `${(grams / ounce).toFixed(grams / ounce < 10 ? 2 : 1)} oz` : `${(grams / ounce / 16).toFixed(1)} lb`;
  return grams < 1000 ? `${grams.toFixed(1)} g` : `${(grams / 1000).toFixed(1)} kg`;
}

export const money = (amount: number, currency: string, digits = 2) =>
  new Intl.NumberFormat("en-US", { style: "currency", currency, minimumFractionDigits: digits, maximumFractionDigits: digits }).format(
    amount,
  );

const sum = (of: Schema["DesignCost"][], what: "sheets" | "grams" | "price") => of.reduce((total, d) => total + d[what], 0);

/** What the run comes to: sheets, weight, cost; and who is left out and why. */
export function PlanTable({ plan: p, print }: { plan: Schema["PlanView"]; print: boolean }) {
  return (
    <>
      {p.mail ? <MailPlan plan={p} mail={p.mail} /> : <PaperPlan plan={p} print={print} />}
      {p.corrected > 0 && (
        <p className="mt-2 text-[12.5px] text-doubt-ink">
          {many(p.corrected, "recipient")} of these {p.corrected === 1 ? "was" : "were"} corrected after the piece was produced. Choose
          above whether the reprint uses the correction.
        </p>
      )}
      <Excluded plan={p} />
    </>
  );
}

/** Addresses that several of the messages go to: each person gets one, the reader of that mailbox gets them all. */
export function SharedAddresses({ shared }: { shared: Schema["SharedAddress"][] }) {
  if (shared.length === 0) return null;
  return (
    <div
      className="mt-2 border-l-[3px] border-warning bg-doubt px-3 py-2 text-[12.5px] text-doubt-ink"
      role="note"
      aria-label="Addresses that get more than one"
    >
      <strong className="block">
        {many(shared.length, "address", "addresses")} {shared.length === 1 ? "gets" : "get"} more than one message
      </strong>
      <ul>
        {shared.slice(0, 5).map((s) => (
          <li key={s.address} className="break-words">
            {s.address}: {s.pieces.map((x) => `${pieceNumber(x.piece)} ${x.name}`).join("; ")}
            {s.sent > 0 ? `; ${many(s.sent, "message")} already sent there` : ""}
          </li>
        ))}
      </ul>
      {shared.length > 5 && <span>and {count(shared.length - 5)} more addresses.</span>}
    </div>
  );
}

/** What the messages are like: from whom, the subject and the files of three, what each comes to. */
function MailPlan({ plan: p, mail }: { plan: Schema["PlanView"]; mail: Schema["MailPlanView"] }) {
  return (
    <>
      <h2 className="mt-5 mb-1">Estimate</h2>
      <table className="w-full" aria-label="Estimate">
        <tbody>
          <Line
            label="Email recipients"
            n={count(p.pieces)}
            more={p.pieces > 0 ? `${pieceNumber(p.firstPiece ?? 0)} to ${pieceNumber(p.lastPiece ?? 0)}` : ""}
          />
        </tbody>
      </table>
      {mail.samples[0] && (
        <p className="truncate py-1.5">
          <span className="text-faint">From</span> {mail.samples[0].from}
        </p>
      )}
      {mail.objection && (
        <p role="alert" className="mt-2 border-l-[3px] border-error bg-error/10 px-3 py-2">
          {mail.objection}
          {mail.setting && (
            <Link to={`/settings#${mail.setting}`} className="mt-1 block font-semibold underline">
              Open Settings
            </Link>
          )}
        </p>
      )}
      <SharedAddresses shared={mail.shared} />
      <ul className="mt-2 flex flex-col gap-1.5" aria-label="Sample messages">
        {mail.samples.map((m) => (
          <li key={m.piece} className="border border-line px-2.5 py-1.5 text-[12.5px] leading-[17px]" data-testid="mail-sample">
            <p className="truncate font-semibold" title={m.subject}>
              {m.subject}
            </p>
            <p className="truncate text-faint">
              {pieceNumber(m.piece)} to {m.to}
            </p>
            {m.files.map((f) => (
              <p key={f.name} className="truncate">
                {f.name}, {size(f.size)}
                {f.protected ? ", with personal password" : ""}
              </p>
            ))}
            {m.problem ? <p className="text-error">{m.problem}</p> : <p className="text-faint">{size(m.size)} total</p>}
          </li>
        ))}
      </ul>
      {mail.remarks.map((r) => (
        <p key={r} className="mt-1.5 text-[12.5px] text-doubt-ink">
          {r}
        </p>
      ))}
    </>
  );
}

function PaperPlan({ plan: p, print }: { plan: Schema["PlanView"]; print: boolean }) {
  const c = p.cost;
  // By what they are printed on: two letters on the same paper are one line of it.
  const papers = [...new Set(c.designs.map((d) => d.on))].map((on) => {
    const of = c.designs.filter((d) => d.on === on);
    return { on, sheets: sum(of, "sheets"), grams: sum(of, "grams"), price: sum(of, "price") };
  });
  return (
    <>
      <h2 className="mt-5 mb-1">Estimate</h2>
      <table className="w-full" aria-label="Estimate">
        <tbody>
          <Line
            label="Recipients"
            n={count(p.pieces)}
            more={p.pieces > 0 ? `${pieceNumber(p.firstPiece ?? 0)} to ${pieceNumber(p.lastPiece ?? 0)}` : ""}
          />
          {p.designs.map((d) => {
            const sheets = c.designs.find((x) => x.name === d.name)?.sheets ?? d.pages;
            return (
              <Line
                key={d.designId}
                label={`${kinds[d.kind].counted}${p.designs.length > 1 ? ` of ${d.name}` : ""}`}
                n={count(d.pages)}
                more={
                  d.labels !== null
                    ? many(d.labels, "label")
                    : kinds[d.kind].hasPages && (sheets !== d.pages || print)
                      ? many(sheets, "sheet")
                      : kinds[d.kind].hasPages && p.pieces > 0 && d.pages > p.pieces
                        ? `${(d.pages / p.pieces).toFixed(2)} each`
                        : ""
                }
              />
            );
          })}
          {p.pieces > 0 && (
            <>
              <Line
                label="Weight per piece"
                n={weight(c.heaviest, c.currency)}
                more={c.lightest < c.heaviest ? `lightest ${weight(c.lightest, c.currency)}` : "all the same"}
              />
              {papers.map((x) => (
                <Line key={x.on} label={x.on} n={money(x.price, c.currency)} more={`${count(x.sheets)} · ${weight(x.grams, c.currency)}`} />
              ))}
              {c.postage.map((x) => (
                <Line
                  key={x.class}
                  label={x.class === "abroad" ? "International postage" : `Postage, ${x.class}`}
                  n={x.class === "abroad" ? "not in the total" : money(x.price, c.currency)}
                  more={
                    x.class === "abroad"
                      ? `${many(x.pieces, "international piece")}; choose a class`
                      : x.pieces > x.tooHeavy
                        ? `${count(x.pieces)} at ${money(x.price / (x.pieces - x.tooHeavy), c.currency, 3)}`
                        : "too heavy for this class"
                  }
                />
              ))}
              {papers.length + c.postage.length > 1 && (
                <Line label="Total" n={money(c.total, c.currency)} more={`${money(c.total / p.pieces, c.currency, 3)} each`} />
              )}
            </>
          )}
        </tbody>
      </table>
      {p.remarks.map((r) => (
        <p key={r} className="mt-1 text-[12.5px] text-doubt-ink">
          {r}
        </p>
      ))}
      <p className="mt-1 text-[12px] text-faint">
        Based on your{" "}
        <Link className="underline" to="/settings/prices">
          prices and weights
        </Link>
        .
      </p>
    </>
  );
}

/** Who is left out and why; with who is made they add up to the list. */
function Excluded({ plan: p }: { plan: Schema["PlanView"] }) {
  const out = p.onTheList - p.pieces;
  return (
    <>
      <h2 className="mt-5 mb-1">Excluded: {count(out)}</h2>
      <table className="w-full" aria-label="Excluded">
        <tbody>
          {p.excluded.map((l) => (
            <Line
              key={l.reason}
              label={l.reason}
              n={count(l.count)}
              more={
                l.tray === "NeedsReview" ? (
                  <Link className="underline" to="../proof">
                    View
                  </Link>
                ) : l.reason.startsWith("In doubt") ? (
                  <Link className="underline" to="../proof?inDoubt=1">
                    resolve them
                  </Link>
                ) : (
                  ""
                )
              }
            />
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-faint">
        {count(p.pieces)} + {count(out)} = {count(p.onTheList)} on the list.
      </p>
    </>
  );
}

function Line({ label, n, more }: { label: string; n: string; more: ReactNode }) {
  return (
    <tr className="border-b border-line">
      <td className="py-1.5">{label}</td>
      <td className="w-20 py-1.5 text-right font-semibold whitespace-nowrap">{n}</td>
      <td className="w-32 py-1.5 pl-2 text-right text-faint">{more}</td>
    </tr>
  );
}
