/** What a link may begin with: an address of a page or of mail, or a field that holds a whole one. */
export const isLink = (href: string) => /^(https?:\/\/|mailto:|\{)/i.test(href);

/** A link as it is stored: what was typed without https:// or mailto: gets it. */
export function wholeAddress(typed: string) {
  const href = typed.trim();
  if (!href || isLink(href)) return href;
  return /^[^\s@]+@[^\s@]+$/.test(href) ? `mailto:${href}` : `https://${href}`;
}
