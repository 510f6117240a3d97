import { useQuery } from "@tanstack/react-query";
import { settingsQuery } from "../api/queries";

/** The formats that the numbers of a column can have, and what 1250 prints with each; the empty one prints numbers as they are stored. */
export function formatChoices(locale: string, currency: string, current: string | null): [string, string][] {
  const label = (format: string) => {
    const [word = "", decimals] = format.split(" ");
    const digits = Number(decimals ?? (word === "money" ? 2 : 0));
    const sign =
      word === "money"
        ? ({ style: "currency", currency, currencyDisplay: "narrowSymbol" } as const)
        : ({ style: word === "percent" ? "percent" : "decimal" } as const);
    const written = new Intl.NumberFormat(locale, { ...sign, minimumFractionDigits: digits, maximumFractionDigits: digits });
    return written.format(word === "percent" ? 0.12 : 1250);
  };
  const known = ["money", "money 0", "number", "number 2", "percent"];
  const all = current && !known.includes(current) ? [...known, current] : known;
  return [["", "1250"], ...all.map((f): [string, string] => [f, label(f)])];
}

interface Props {
  column: string;
  value: string | null;
  className: string;
  onChange: (format: string | null) => void;
}

/** How a column's numbers print where a field names no format. */
export function UsualFormat({ column, value, className, onChange }: Props) {
  const organization = useQuery(settingsQuery()).data?.organization;
  if (!organization) return null;
  return (
    <select
      aria-label={`How ${column} prints`}
      title="How a field prints these numbers unless it has a format of its own. A number with more decimals prints them all."
      className={className}
      value={value ?? ""}
      onChange={(e) => onChange(e.target.value || null)}
    >
      {formatChoices(organization.locale, organization.currency, value).map(([format, label]) => (
        <option key={format} value={format}>
          prints {label}
        </option>
      ))}
    </select>
  );
}
