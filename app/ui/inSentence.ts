/** A label as it stands within a sentence: its first letter small, unless an abbreviation leads (VAT, ROI). */
export const inSentence = (label: string): string =>
  label.replace(/^\p{Lu}(?=\p{Ll})/u, (c) => c.toLowerCase());
