import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useLocation } from "react-router";
import { api, ask, person, queryClient, type Schema } from "../api/client";
import { settingsQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { say, sayWrong } from "../ui/notices";
import { useBasis } from "../api/basis";

const localeNames: Record<string, string> = {
  "en-US": "English, United States",
  "en-GB": "English, United Kingdom",
  "en-CA": "English, Canada",
  "es-ES": "Spanish, Spain",
  "es-MX": "Spanish, Mexico",
  "de-DE": "German, Germany",
  "fr-FR": "French, France",
};

export function SettingsPage() {
  const settings = useQuery(settingsQuery()).data;
  return (
    <>
      <Header kind="Bandeja" title="Settings" />
      <div className="flex min-h-0 flex-1 flex-col gap-8 overflow-auto p-6">
        {settings && <OrganisationForm settings={settings} />}
        <DeskForm />
      </div>
    </>
  );
}

const line = "grid grid-cols-[140px_320px_1fr] items-center gap-3";

function OrganisationForm({ settings }: { settings: Schema["SettingsView"] }) {
  const [o, setO] = useState(settings.organisation);
  const basis = useBasis("/api/settings", "/api/settings/organisation");
  const { hash } = useLocation();
  // A link from elsewhere names the field that has to be filled in.
  useEffect(() => {
    if (hash) document.getElementById(hash.slice(1))?.focus();
  }, [hash]);
  const save = async () => {
    try {
      await ask(api.PUT("/api/settings/organisation", { headers: basis.headers(), body: o }));
      basis.saved();
      await queryClient.invalidateQueries();
      say("Saved. Pieces are checked again where they print numbers or dates.");
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <h2>The organisation</h2>
      <label className={line}>
        <span>Name</span>
        <input className="input w-full" value={o.name} maxLength={120} onChange={(e) => setO({ ...o, name: e.target.value })} />
      </label>
      <label className={line}>
        <span className="self-start pt-1.5">Postal address</span>
        <textarea
          id="postal-address"
          className="textarea w-full"
          rows={3}
          maxLength={400}
          value={o.postalAddress}
          placeholder={"18 Quay Road\nFernquay OR 97412"}
          onChange={(e) => setO({ ...o, postalAddress: e.target.value })}
        />
        <span className="text-faint">a line each; stands in the foot of every email, as the law wants it</span>
      </label>
      <label className={line}>
        <span>Public address</span>
        <input
          id="public-address"
          className="input w-full"
          value={o.publicAddress}
          maxLength={200}
          placeholder="https://mail.example.org"
          onChange={(e) => setO({ ...o, publicAddress: e.target.value })}
        />
        <span className="text-faint">under which recipients reach the page that ends further mail, and nothing else of this server</span>
      </label>
      <label className={line}>
        <span>Writes numbers and dates in</span>
        <select className="select w-full" value={o.locale} onChange={(e) => setO({ ...o, locale: e.target.value })}>
          {settings.locales.map((l) => (
            <option key={l} value={l}>
              {localeNames[l] ?? l}
            </option>
          ))}
        </select>
        <span className="text-faint">
          how {"{Amount due | money}"} and {"{Renewal date | date long}"} print
        </span>
      </label>
      <label className={line}>
        <span>Currency</span>
        <input
          className="input w-24"
          value={o.currency}
          maxLength={3}
          onChange={(e) => setO({ ...o, currency: e.target.value.toUpperCase() })}
        />
        <span className="text-faint">three capitals (ISO 4217), for instance USD</span>
      </label>
      <label className={line}>
        <span>Country on addresses</span>
        <select
          className="select w-full"
          value={o.countryLine}
          onChange={(e) => setO({ ...o, countryLine: e.target.value as typeof o.countryLine })}
        >
          <option value="Abroad">abroad only</option>
          <option value="Always">always</option>
          <option value="Never">never</option>
        </select>
        <span className="text-faint">in capitals on the last line, in the organisation’s language</span>
      </label>
      <div className={line}>
        <span>Salutations</span>
        <Link className="btn btn-quiet justify-self-start" to="/settings/salutations">
          The ladders, by language
        </Link>
        <span className="text-faint">which greeting each recipient gets, and how many get which</span>
      </div>
      <div className={line}>
        <span>Prices and weights</span>
        <Link className="btn btn-quiet justify-self-start" to="/settings/prices">
          Paper, envelopes, postage
        </Link>
        <span className="text-faint">what a plan reckons a run’s cost and weight by</span>
      </div>
      <div className={line}>
        <span>Typefaces</span>
        <Link className="btn btn-quiet justify-self-start" to="/settings/typefaces">
          Your own, and those in documents
        </Link>
        <span className="text-faint">which typefaces letters can use, and what prints those that a document names</span>
      </div>
      <div className={line}>
        <span>Calendar</span>
        <Link className="btn btn-quiet justify-self-start" to="/settings/calendar">
          Weekends and holidays
        </Link>
        <span className="text-faint">days on which nothing is mailed; steps move off them</span>
      </div>
      <div className={line}>
        <span>Contact limit</span>
        <Link className="btn btn-quiet justify-self-start" to="/settings/contact-limit">
          The most mail a recipient gets
        </Link>
        <span className="text-faint">across all lists and campaigns; recipients over the limit are held</span>
      </div>
      <KeepFiles days={settings.keepFilesDays} />
      <button className="btn btn-primary self-start">Save</button>
    </form>
  );
}

function KeepFiles({ days }: { days: number }) {
  const [value, setValue] = useState(String(days));
  const keep = async () => {
    if (!/^\d+$/.test(value) || Number(value) === days) return setValue(String(days));
    try {
      await ask(api.PUT("/api/settings/keep-files", { body: { days: Number(value) } }));
      await queryClient.invalidateQueries({ queryKey: ["settings"] });
      say("Saved.");
    } catch (e) {
      sayWrong(e);
      setValue(String(days));
    }
  };
  return (
    <label className={line}>
      <span>Files of runs</span>
      <span className="flex items-center gap-2">
        are kept for{" "}
        <input
          className="input w-20 tabular-nums"
          aria-label="Days for which files are kept"
          inputMode="numeric"
          value={value}
          onChange={(e) => setValue(e.target.value)}
          onBlur={() => void keep()}
        />{" "}
        days
      </span>
      <span className="text-faint">later they are made again when they are asked for, with the same bytes</span>
    </label>
  );
}

function DeskForm() {
  const [name, setName] = useState(person.get());
  const [theme, setTheme] = useState(localStorage.getItem("bandeja.theme") ?? "");
  return (
    <section className="flex flex-col gap-3">
      <h2>This desk</h2>
      <label className={line}>
        <span>Your name</span>
        <input
          className="input w-full"
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
          onBlur={() => {
            if (name.trim()) person.set(name);
            else setName(person.get());
          }}
        />
        <span className="text-faint">stands beside what you do</span>
      </label>
      <label className={line}>
        <span>Light</span>
        <select
          className="select w-full"
          value={theme}
          onChange={(e) => {
            setTheme(e.target.value);
            if (e.target.value) localStorage.setItem("bandeja.theme", e.target.value);
            else localStorage.removeItem("bandeja.theme");
            if (e.target.value) document.documentElement.dataset.theme = e.target.value;
            else delete document.documentElement.dataset.theme;
          }}
        >
          <option value="">as the system prefers</option>
          <option value="bandeja">day</option>
          <option value="bandeja-night">night</option>
        </select>
      </label>
      <p className="text-faint">Kept in this browser only. Press ? on any screen for its keys, Ctrl K to go to or do anything.</p>
    </section>
  );
}
