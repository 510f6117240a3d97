/** Relative luminance of a color #RRGGBB (WCAG 2.2). */
const luminance = (color: string) => {
  const part = (at: number) => {
    const c = parseInt(color.slice(at, at + 2), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * part(1) + 0.7152 * part(3) + 0.0722 * part(5);
};

/** Of white and near black the one that is read better on a color. */
export const inkOn = (color: string) =>
  1.05 / (luminance(color) + 0.05) >= (luminance(color) + 0.05) / (luminance("#1d1c18") + 0.05) ? "#ffffff" : "#1d1c18";
