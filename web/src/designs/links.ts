/** A link as it is stored: what was typed without https:// or mailto: gets it. */
export function wholeAddress(typed: string) {
  const href = typed.trim();
  if (!href || /^(https?:\/\/|mailto:)/i.test(href)) return href;
  return /^[^\s@]+@[^\s@]+$/.test(href) ? `mailto:${href}` : `https://${href}`;
}
