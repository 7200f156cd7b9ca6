import { COUNTRIES, CURRENCIES } from '../../core/money/iso.ts';
import type { Option } from './SearchChoice.tsx';
import { useWords } from './useWords.ts';

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

const languages = new Map<string, Intl.DisplayNames>();
/** Name of a language in a language. */
export function languageName(code: string, language: string): string {
  let n = languages.get(language);
  if (n === undefined) {
    n = new Intl.DisplayNames([language], { type: 'language' });
    languages.set(language, n);
  }
  return n.of(code) ?? code;
}

const currencies = new Map<string, Intl.DisplayNames>();
/** Name of a currency in a language. */
export function currencyName(code: string, language: string): string {
  let n = currencies.get(language);
  if (n === undefined) {
    n = new Intl.DisplayNames([language], { type: 'currency' });
    currencies.set(language, n);
  }
  return n.of(code) ?? code;
}

const named = (codes: readonly string[], nameOf: (code: string) => string, language: string): Option[] =>
  codes
    .map((code) => ({ value: code, label: `${nameOf(code)} · ${code}` }))
    .sort((a, b) => a.label.localeCompare(b.label, language));

const lists = new Map<string, Option[]>();
function listOf(key: string, make: () => Option[]): Option[] {
  const known = lists.get(key) ?? make();
  lists.set(key, known);
  return known;
}

/** Every country, by its name in the reader's language. */
export function useCountries(): Option[] {
  const { i18n } = useWords();
  const { language } = i18n;
  return listOf(`countries ${language}`, () => named(COUNTRIES, (c) => countryName(c, language), language));
}

/** Every currency, by its name in the reader's language. */
export function useCurrencies(): Option[] {
  const { i18n } = useWords();
  const { language } = i18n;
  return listOf(`currencies ${language}`, () =>
    named(CURRENCIES, (c) => currencyName(c, language), language),
  );
}

/** The likely language of a country, in the reader's words; null where the tables have none. */
export function languageOf(country: string, reader: string): string | null {
  if (!/^[A-Z]{2}$/.test(country)) return null;
  const { language, region } = new Intl.Locale(`und-${country}`).maximize();
  return language === 'und' || region !== country
    ? null
    : (new Intl.DisplayNames(reader, { type: 'language', fallback: 'none' }).of(language) ?? null);
}
