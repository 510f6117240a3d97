/** The name of the browser's tab: what is open, where it belongs, and the program; the most particular part first. */
export function PageTitle({ parts }: { parts: (string | undefined | null)[] }) {
  return <title>{[...parts.filter(Boolean), "Bandeja"].join(" · ")}</title>;
}
