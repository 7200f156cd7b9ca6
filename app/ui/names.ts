const names = new Map<string, Intl.DisplayNames>();
/** Name of a country in a language. */
export function countryName(code: string, language: string): string {
  let n = names.get(language);
  if (n === undefined) {
    n = new Intl.DisplayNames([language], { type: 'region' });
    names.set(language, n);
  }
  return n.of(code) ?? code;
}
