import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useLocation } from "react-router";
import { api, ask, person, queryClient, type Schema } from "../api/client";
import { countriesQuery, settingsQuery, timeZonesQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { zoneName } from "../ui/customs";
import { say, sayWrong } from "../ui/notices";
import { useBasis } from "../api/basis";
import { keys } from "../api/keys";

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
        {settings && <OrganizationForm settings={settings} />}
        <DeskForm />
      </div>
    </>
  );
}

const line = "grid grid-cols-[140px_320px_1fr] items-center gap-3";

function OrganizationForm({ settings }: { settings: Schema["SettingsView"] }) {
  const [o, setO] = useState(settings.organization);
  const basis = useBasis("/api/settings", "/api/settings/organization");
  const countries = useQuery(countriesQuery()).data ?? [];
  const zones = useQuery(timeZonesQuery()).data ?? [];
  const { hash } = useLocation();
  // A link from elsewhere names the field that has to be filled in.
  useEffect(() => {
    if (hash) document.getElementById(hash.slice(1))?.focus();
  }, [hash]);
  const save = async () => {
    try {
      await ask(api.PUT("/api/settings/organization", { headers: basis.headers(), body: o }));
      basis.saved();
      await queryClient.invalidateQueries();
      say("Saved. Pieces with numbers or dates are being checked again.");
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
      <div className="flex items-center gap-4">
        <h2>Organization</h2>
        <Link className="underline" to="/setup">
          Go through setup again
        </Link>
      </div>
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
        <span className="text-faint">One line per row. Shown in the footer of every email, as the law requires.</span>
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
        <span className="text-faint">The web address for the unsubscribe page. No other part of this server is reachable there.</span>
      </label>
      <label className={line}>
        <span>Signer’s name</span>
        <input className="input w-full" value={o.signer ?? ""} maxLength={120} onChange={(e) => setO({ ...o, signer: e.target.value })} />
        <span className="text-faint">Signs letters that start from a ready-made design</span>
      </label>
      <label className={line}>
        <span>Job title</span>
        <input
          className="input w-full"
          value={o.signerTitle ?? ""}
          maxLength={120}
          onChange={(e) => setO({ ...o, signerTitle: e.target.value })}
        />
      </label>
      <label className={line}>
        <span>Sender email</span>
        <input
          className="input w-full"
          type="email"
          value={o.email ?? ""}
          maxLength={120}
          onChange={(e) => setO({ ...o, email: e.target.value })}
        />
        <span className="text-faint">The From address of emails that start from a ready-made design</span>
      </label>
      <label className={line}>
        <span>Country</span>
        <select className="select w-full" value={o.country ?? ""} onChange={(e) => setO({ ...o, country: e.target.value })}>
          <option value="">Same as the formats below</option>
          {countries.map((c) => (
            <option key={c.code} value={c.code}>
              {c.name}
            </option>
          ))}
        </select>
        <span className="text-faint">
          Ready-made designs use {countries.find((c) => c.code === (o.country || o.locale.slice(3)))?.sheet === "a4" ? "A4" : "US Letter"}{" "}
          paper
        </span>
      </label>
      <label className={line}>
        <span>Units</span>
        <select className="select w-full" value={o.units} onChange={(e) => setO({ ...o, units: e.target.value as typeof o.units })}>
          <option value="ByCountry">Default for the country</option>
          <option value="Inches">Inches, paper by basis weight</option>
          <option value="Millimeters">Millimeters, paper by g/m²</option>
        </select>
        <span className="text-faint">For rulers, margins, boxes, envelopes, and printer offsets</span>
      </label>
      <label className={line}>
        <span>Time zone</span>
        <select className="select w-full" value={o.timeZone ?? ""} onChange={(e) => setO({ ...o, timeZone: e.target.value })}>
          <option value="">{o.timeZone ? "The server’s own" : `The server’s own (${zoneName(settings.timeZone)})`}</option>
          {zones.map((z) => (
            <option key={z} value={z}>
              {zoneName(z)}
            </option>
          ))}
        </select>
        <span className="text-faint">Sets what “today” is, and the times shown</span>
      </label>
      <label className={line}>
        <span>Number and date format</span>
        <select className="select w-full" value={o.locale} onChange={(e) => setO({ ...o, locale: e.target.value })}>
          {settings.locales.map((l) => (
            <option key={l} value={l}>
              {localeNames[l] ?? l}
            </option>
          ))}
        </select>
        <span className="text-faint">
          Sets how {"{Amount due | money}"} and {"{Renewal date | date long}"} print
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
        <span className="text-faint">Three-letter code (ISO 4217), such as USD</span>
      </label>
      <label className={line}>
        <span>Country on addresses</span>
        <select
          className="select w-full"
          value={o.countryLine}
          onChange={(e) => setO({ ...o, countryLine: e.target.value as typeof o.countryLine })}
        >
          <option value="Abroad">International only</option>
          <option value="Always">Always</option>
          <option value="Never">Never</option>
        </select>
        <span className="text-faint">In capitals on the last line, in the organization’s language</span>
      </label>
      <div className={line}>
        <span>Salutation rules</span>
        <Link className="btn btn-quiet justify-self-start" to="/settings/salutations">
          Edit rules by language
        </Link>
        <span className="text-faint">Which salutation each recipient gets</span>
      </div>
      <div className={line}>
        <span>Prices and weights</span>
        <Link className="btn btn-quiet justify-self-start" to="/settings/prices">
          Edit prices and weights
        </Link>
        <span className="text-faint">Used to estimate the cost and weight of a run</span>
      </div>
      <div className={line}>
        <span>Fonts</span>
        <Link className="btn btn-quiet justify-self-start" to="/settings/typefaces">
          Your fonts and replacements
        </Link>
        <span className="text-faint">Fonts that letters can use, and replacements for fonts named in imported documents</span>
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
      await queryClient.invalidateQueries({ queryKey: keys.settings() });
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
        Keep for{" "}
        <input
          className="input w-20 tabular-nums"
          aria-label="Days to keep files"
          inputMode="numeric"
          value={value}
          onChange={(e) => setValue(e.target.value)}
          onBlur={() => void keep()}
        />{" "}
        days
      </span>
      <span className="text-faint">After that, you can re-create identical files.</span>
    </label>
  );
}

function DeskForm() {
  const [name, setName] = useState(person.get());
  const [theme, setTheme] = useState(localStorage.getItem("bandeja.theme") ?? "");
  return (
    <section className="flex flex-col gap-3">
      <h2>This browser</h2>
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
        <span className="text-faint">Shown next to your actions</span>
      </label>
      <label className={line}>
        <span>Theme</span>
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
          <option value="">Match system</option>
          <option value="bandeja">Light</option>
          <option value="bandeja-night">Dark</option>
        </select>
      </label>
      <p className="text-faint">
        Saved in this browser only. Press ? on any screen for keyboard shortcuts, or Ctrl K to search pages and actions.
      </p>
    </section>
  );
}
