import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, NavLink, Outlet, useLocation, useNavigate, useOutletContext, useParams } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { useBasis } from "../api/basis";
import { dropQuery } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { RemovalDialog } from "../ui/RemovalDialog";
import { useActions } from "../ui/keys";
import { sayWrong } from "../ui/notices";
import { count, day } from "../ui/words";
import { checkAgain } from "./acts";
import { MissingRecord } from "../shell/WentWrong";
import { PageTitle } from "../ui/PageTitle";
import { keys } from "../api/keys";
import { stepFrom } from "./nextStep";

export type Drop = Schema["DropView"];

/** The five questions, each with its own state under its name. */
function places(d: Drop) {
  const t = d.trays;
  const made = t.produced + t.mailed + t.returned;
  return [
    { to: "who", label: "Who", state: t.held ? `${count(t.onTheList - t.held)} of ${count(t.onTheList)}` : `all ${count(t.onTheList)}` },
    { to: "what", label: "What", state: d.designName },
    {
      to: "proof",
      label: "Proof",
      state: d.checking
        ? "checking…"
        : t.needsReview
          ? `${count(t.needsReview)} to review`
          : d.signOff.state === "valid"
            ? "signed off"
            : d.signOff.state === "lapsed"
              ? "sign-off lapsed"
              : "no issues",
    },
    { to: "produce", label: "Produce", state: made ? `${count(made)} produced` : "none yet" },
    {
      to: "ledger",
      label: "Ledger",
      state: d.lastMailed ? `${count(t.mailed + t.returned)} mailed, last ${day(d.lastMailed, false)}` : "nothing mailed",
    },
  ];
}

/** What the open part of the drop is called, by its address. */
const placeName = (path: string) =>
  ({ who: "Who", what: "What", proof: "Proof", produce: "Produce", ledger: "Ledger" })[path.split("/")[3] ?? ""];

export function DropPage() {
  const id = Number(useParams().id);
  const drop = useQuery(dropQuery(id));
  const [changing, setChanging] = useState(false);
  const { pathname } = useLocation();
  if (drop.error) return <MissingRecord error={drop.error} what="drop" to="/campaigns" back="Go to Campaigns" />;
  if (!drop.data) return null;
  const d = drop.data;
  return (
    <>
      <header className="flex min-h-[54px] shrink-0 flex-wrap items-stretch gap-y-1 border-b border-line pl-4">
        <PageTitle parts={[d.name, placeName(pathname), d.campaignName]} />
        <div className="flex w-[208px] min-w-0 flex-col justify-center">
          <Link to="/campaigns" className="block truncate text-[11.5px] text-faint hover:underline">
            {d.campaignName}
          </Link>
          <h1 className="truncate" title={d.name}>
            Drop {d.number} · {d.name}
          </h1>
        </div>
        <nav className="flex min-h-[54px]" aria-label="Drop sections">
          {places(d).map((p) => (
            <NavLink
              key={p.to}
              to={p.to}
              className={({ isActive }) =>
                `flex min-w-[106px] max-w-[190px] flex-col justify-center border-b-[3px] px-3 pt-[3px] ${isActive ? "border-primary" : "border-transparent hover:bg-base-200"}`
              }
            >
              {({ isActive }) => (
                <>
                  <span className={`text-[13.5px] font-semibold ${isActive ? "text-primary" : ""}`}>{p.label}</span>
                  <span className="truncate text-[11.5px] text-faint">{p.state}</span>
                </>
              )}
            </NavLink>
          ))}
        </nav>
        <div className="ml-auto flex items-center gap-4 pr-4">
          <button className="cursor-pointer text-right" onClick={() => setChanging(true)} title="Edit name and mail date">
            <span className="block text-[11.5px] text-faint">Mail date</span>
            <span className="font-semibold whitespace-nowrap">{d.mailDate ? day(d.mailDate, false) : "Not set"}</span>
          </button>
          <NextStep drop={d} />
        </div>
      </header>
      {d.checkError && (
        <div className="flex shrink-0 items-center gap-3 border-b border-line bg-error/10 px-4 py-2 text-error" role="alert">
          <span className="flex-1">The pieces could not be checked: {d.checkError}</span>
          <button className="btn btn-sm bg-base-100" onClick={() => void checkAgain(id)}>
            Check again
          </button>
        </div>
      )}
      {d.mistakes.length > 0 && <Mistakes mistakes={d.mistakes} />}
      <Outlet context={d} />
      {changing && <ChangeDrop drop={d} close={() => setChanging(false)} />}
    </>
  );
}

function NextStep({ drop }: { drop: Drop }) {
  const { pathname } = useLocation();
  const next = stepFrom(pathname.split("/")[3] ?? "", drop);
  const navigate = useNavigate();
  const go = (to: string) => void navigate(to.startsWith("/") ? to : `/drops/${drop.id}/${to}`);
  useActions([
    ...(next ? [{ keys: "n", label: `Next step: ${next.label}`, run: () => go(next.to) }] : []),
    ...["Who", "What", "Proof", "Produce", "Ledger"].map((p) => ({ label: `Open ${p}`, run: () => go(p.toLowerCase()) })),
  ]);
  return next ? (
    <Link className="btn btn-primary" to={next.to} data-next-step>
      {next.label}
    </Link>
  ) : null;
}

/** What is wrong in the designs: nothing is produced with it, and it is mended there. */
function Mistakes({ mistakes }: { mistakes: Drop["mistakes"] }) {
  const designs = [...new Map(mistakes.map((m) => [m.designId, m])).values()];
  const first = mistakes[0];
  return (
    <div className="flex shrink-0 items-center gap-3 border-b border-line bg-doubt px-4 py-2 text-doubt-ink" role="alert">
      <span className="min-w-0 flex-1">
        {first && (
          <>
            {first.name}: {first.message}
          </>
        )}
        {mistakes.length > 1 ? ` And ${count(mistakes.length - 1)} more.` : ""} Nothing is produced with a broken field.
      </span>
      {designs.map((m) => (
        <Link key={m.designId} className="btn btn-sm shrink-0 bg-base-100" to={`/designs/${m.designId}`}>
          Open {m.name}
        </Link>
      ))}
    </div>
  );
}

export const useDrop = () => useOutletContext<Drop>();

function ChangeDrop({ drop, close }: { drop: Drop; close: () => void }) {
  const [name, setName] = useState(drop.name);
  const [date, setDate] = useState(drop.mailDate ?? "");
  const basis = useBasis(`/api/drops/${drop.id}`);
  const navigate = useNavigate();
  const [removing, setRemoving] = useState(false);
  const save = async () => {
    try {
      await ask(
        api.PATCH("/api/drops/{id}", {
          params: { path: { id: drop.id } },
          headers: basis.headers(),
          body: { name, mailDate: date || null, needsSignOff: null, noMailDate: !date },
        }),
      );
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
      close();
    } catch (e) {
      sayWrong(e);
    }
  };
  if (removing) return <RemovalDialog kind="drop" id={drop.id} close={close} gone={() => void navigate("/campaigns")} />;
  return (
    <Dialog title="Name and mail date" onClose={close}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <label>
          <span className="mb-1 block font-semibold">Drop name</span>
          <input className="input w-full" value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
        </label>
        <label>
          <span className="mb-1 block font-semibold">Mail date</span>
          <input type="date" className="input w-full" value={date} onChange={(e) => setDate(e.target.value)} />
        </label>
        <div className="flex justify-between">
          <button className="btn btn-primary" disabled={!name.trim()}>
            Save
          </button>
          <button type="button" className="btn btn-quiet" onClick={() => setRemoving(true)}>
            Remove this drop…
          </button>
        </div>
      </form>
    </Dialog>
  );
}
