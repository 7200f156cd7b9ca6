/** A label as it stands within a sentence: its first letter small, unless it begins with an abbreviation such as VAT or ROI. */
export const inSentence = (label: string): string =>
  label.replace(/^\p{Lu}(?=\p{Ll})/u, (c) => c.toLowerCase());
