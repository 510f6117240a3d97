import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { useBasis } from "../api/basis";
import { api, ask, queryClient, type Schema } from "../api/client";
import { countriesQuery, listsQuery, settingsQuery, startersQuery, timeZonesQuery } from "../api/queries";
import { createFromStarter } from "../designs/StarterPicker";
import { kinds } from "../designs/kinds";
import { Header } from "../ui/Header";
import { zoneName } from "../ui/customs";
import { say, sayWrong } from "../ui/notices";
import { many } from "../ui/words";
import { keys } from "../api/keys";

type Organization = Schema["Organization"];

/** Three short steps at the beginning, each of which can be skipped; found again in Settings. */
export function SetupPage() {
  const settings = useQuery(settingsQuery()).data;
  const zones = useQuery(timeZonesQuery()).data;
  return (
    <>
      <Header kind="Settings" title="Setup" state="You can skip any step and change everything later in Settings." />
      <div className="min-h-0 flex-1 overflow-auto p-6">{settings && zones && <Steps settings={settings} zones={zones} />}</div>
    </>
  );
}

const titles = ["Organization", "Sender", "What you mail"];

function Steps({ settings, zones }: { settings: Schema["SettingsView"]; zones: string[] }) {
  const { organization } = settings;
  const navigate = useNavigate();
  const [step, setStep] = useState(0);
  const [kept, setKept] = useState(organization);
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const entered = (from: Organization) => ({
    ...from,
    country: from.country || from.locale.slice(3),
    // Whoever sets it up for the first time sits in the office, wherever the server stands.
    timeZone: from.timeZone || (from.name === "" && zones.includes(here) ? here : ""),
  });
  const [o, setO] = useState<Organization>(() => entered(organization));
  const [chosen, setChosen] = useState<string[]>(["letter-formal"]);
  const [busy, setBusy] = useState(false);
  const basis = useBasis("/api/settings", "/api/settings/organization");
  const countries = useQuery(countriesQuery()).data ?? [];
  const starters = useQuery(startersQuery()).data ?? [];
  const country = countries.find((c) => c.code === o.country);
  const save = async () => {
    if (JSON.stringify(o) === JSON.stringify(kept)) return;
    await ask(api.PUT("/api/settings/organization", { headers: basis.headers(), body: o }));
    basis.saved();
    setKept(o);
    await queryClient.invalidateQueries();
  };
  const next = async () => {
    setBusy(true);
    try {
      // The last step saves, too: the steps' titles lead to it past what was entered.
      await save();
      if (step < 2) {
        setStep(step + 1);
      } else {
        const list = (await queryClient.fetchQuery(listsQuery()))[0]?.id ?? null;
        for (const id of chosen) {
          await createFromStarter(id, "", list);
          // Where the next one fails, trying again makes no second copy of this one.
          setChosen((left) => left.filter((c) => c !== id));
        }
        await queryClient.invalidateQueries({ queryKey: keys.designs() });
        say(chosen.length > 0 ? `Setup is done. Created ${many(chosen.length, "design")}.` : "Setup is done.");
        void navigate("/");
      }
    } catch (e) {
      sayWrong(e);
    }
    setBusy(false);
  };
  const box = (label: string, name: "name" | "signer" | "signerTitle" | "email", placeholder: string, hint = "") => (
    <label className="block">
      <span className="mb-1 block font-semibold">{label}</span>
      <input
        className="input w-full"
        type={name === "email" ? "email" : "text"}
        value={o[name] ?? ""}
        maxLength={120}
        placeholder={placeholder}
        autoFocus={name === "name" || name === "signer"}
        onChange={(e) => setO({ ...o, [name]: e.target.value })}
      />
      {hint && <span className="mt-1 block text-[12px] text-faint">{hint}</span>}
    </label>
  );
  return (
    <form
      className="flex max-w-xl flex-col gap-4"
      onSubmit={(e) => {
        e.preventDefault();
        if (!busy) void next();
      }}
    >
      <ol className="flex flex-wrap gap-2" aria-label="Steps">
        {titles.map((t, i) => (
          <li key={t}>
            <button
              type="button"
              className={`btn btn-sm ${i === step ? "btn-primary" : "btn-quiet"}`}
              aria-current={i === step ? "step" : undefined}
              onClick={() => setStep(i)}
            >
              {i + 1}. {t}
            </button>
          </li>
        ))}
      </ol>
      {step === 0 && (
        <>
          {box("Organization name", "name", "Fernquay Botanic Garden", "Shown in letterheads and email footers.")}
          <label className="block">
            <span className="mb-1 block font-semibold">Return address</span>
            <textarea
              className="textarea w-full"
              rows={3}
              maxLength={400}
              value={o.postalAddress ?? ""}
              placeholder={country?.sheet === "a4" ? "14 Quay Road\nFernquay" : "14 Quay Road\nFernquay OR 97412"}
              onChange={(e) => setO({ ...o, postalAddress: e.target.value })}
            />
            <span className="mt-1 block text-[12px] text-faint">Without the name, one line per row.</span>
          </label>
          <label className="block">
            <span className="mb-1 block font-semibold">Country</span>
            <select
              className="select w-full"
              value={o.country ?? ""}
              onChange={(e) => {
                const c = countries.find((x) => x.code === e.target.value);
                if (c) setO({ ...o, country: c.code, locale: c.locale, currency: c.currency });
              }}
            >
              {countries.map((c) => (
                <option key={c.code} value={c.code}>
                  {c.name}
                </option>
              ))}
            </select>
            {/* Its line is kept while no country is chosen, so that what stands below does not move. */}
            <span className="mt-1 block min-h-[34px] text-[12px] text-faint">
              {country && (
                <>
                  Uses {country.sheet === "a4" ? "A4" : "US Letter"} paper, {country.inInches ? "inches" : "millimeters"}, and {o.currency}.
                  Dates look like {new Intl.DateTimeFormat(o.locale, { dateStyle: "long" }).format(new Date(2027, 2, 9))}.
                </>
              )}
            </span>
          </label>
          <label className="block">
            <span className="mb-1 block font-semibold">Time zone</span>
            <select className="select w-full" value={o.timeZone ?? ""} onChange={(e) => setO({ ...o, timeZone: e.target.value })}>
              <option value="">The server’s own ({zoneName(settings.timeZone)})</option>
              {zones.map((z) => (
                <option key={z} value={z}>
                  {zoneName(z)}
                </option>
              ))}
            </select>
          </label>
        </>
      )}
      {step === 1 && (
        <>
          {box("Signer’s name", "signer", "Marisol Quint", "Signs the letters you start from a ready-made design.")}
          {box("Job title", "signerTitle", "Keeper of Members")}
          {box("Sender email address", "email", "office@example.org", "The From address of emails you start from a ready-made design.")}
        </>
      )}
      {step === 2 && (
        <fieldset className="flex flex-col gap-2">
          <legend className="mb-1 font-semibold">Designs to start with</legend>
          <p className="text-faint">The designs you choose are created with your name and address. You can change or remove them.</p>
          {starters.map((s) => (
            <label key={s.id} className="flex items-start gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm mt-0.5"
                checked={chosen.includes(s.id)}
                onChange={(e) => setChosen(e.target.checked ? [...chosen, s.id] : chosen.filter((c) => c !== s.id))}
              />
              <span>
                <strong>{s.name}</strong> <span className="text-faint">({kinds[s.kind].name})</span>
                <span className="block text-[12px] text-faint">{s.description}</span>
              </span>
            </label>
          ))}
        </fieldset>
      )}
      <div className="flex gap-2">
        <button className="btn btn-primary" disabled={busy}>
          {step < 2 ? "Save and continue" : chosen.length > 0 ? `Create ${many(chosen.length, "design")}` : "Finish"}
        </button>
        {step > 0 && (
          <button type="button" className="btn btn-quiet" onClick={() => setStep(step - 1)}>
            Back
          </button>
        )}
        {step < 2 ? (
          <button
            type="button"
            className="btn btn-quiet"
            onClick={() => {
              setO(entered(kept));
              setStep(step + 1);
            }}
          >
            Skip this step
          </button>
        ) : (
          <Link className="btn btn-quiet" to="/">
            Skip
          </Link>
        )}
      </div>
    </form>
  );
}
