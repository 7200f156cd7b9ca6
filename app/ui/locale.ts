import { createContext, use, useMemo } from 'react';
import { minorDigits } from '../../core/money/money.ts';

/** The reader's number locale, decided on the server from the browser's languages so that both render the same. */
export const LocaleContext = createContext('en-GB');

/** First language of an Accept-Language header that this machine can format numbers for. */
export function localeOf(header: string | null): string {
  for (const part of (header ?? '').split(',')) {
    const tag = part.split(';')[0]?.trim() ?? '';
    if (tag === '' || tag === '*') continue;
    try {
      if (Intl.NumberFormat.supportedLocalesOf([tag]).length > 0)
        return Intl.getCanonicalLocales(tag)[0] ?? 'en-GB';
    } catch {
      // not a language tag
    }
  }
  return 'en-GB';
}

const cache = new Map<string, Intl.NumberFormat>();
function formatter(locale: string, key: string, options: Intl.NumberFormatOptions): Intl.NumberFormat {
  const id = `${locale}|${key}`;
  let f = cache.get(id);
  if (f === undefined) {
    // What rounds to nothing has no sign.
    f = new Intl.NumberFormat(locale, { signDisplay: 'negative', ...options });
    cache.set(id, f);
  }
  return f;
}

const dayCache = new Map<string, Intl.DateTimeFormat>();
const PARTS = {
  day: { day: 'numeric', month: 'short', year: 'numeric' },
  dayShort: { day: 'numeric', month: 'short' },
  month: { month: 'short' },
} as const satisfies Record<string, Intl.DateTimeFormatOptions>;
function dayFormatter(locale: string, parts: keyof typeof PARTS): Intl.DateTimeFormat {
  const id = `${locale}|${parts}`;
  let f = dayCache.get(id);
  if (f === undefined) {
    f = new Intl.DateTimeFormat(locale, { ...PARTS[parts], timeZone: 'UTC' });
    dayCache.set(id, f);
  }
  return f;
}

const DASH = '–';
const real = (s: string) => s.replace('-', '−');

export type Format = {
  readonly locale: string;
  /** With the currency's sign: €12.90; a dash for unknown. */
  money(x: number | null, currency: string): string;
  /** The figure alone, with the currency's decimals. */
  plain(x: number | null, currency: string): string;
  /** Whole units of the currency with its sign, for the marks of an axis: €1,200. */
  mark(x: number, currency: string): string;
  percent(x: number | null, digits?: number): string;
  number(x: number | null, digits?: number): string;
  /** As a field shows it, to be typed over: no grouping, at least and at most so many decimals. */
  inField(x: number, least: number, most: number): string;
  day(iso: string): string;
  /** Day and month alone. */
  dayShort(iso: string): string;
  /** Short name of a calendar month, 1 to 12. */
  monthName(month: number): string;
};

export function formatFor(locale: string): Format {
  return {
    locale,
    money: (x, currency) =>
      x === null
        ? DASH
        : real(
            formatter(locale, `m${currency}`, {
              style: 'currency',
              currency,
              currencyDisplay: 'narrowSymbol',
            }).format(x),
          ),
    plain: (x, currency) => {
      if (x === null) return DASH;
      const digits = minorDigits(currency);
      return real(
        formatter(locale, `n${digits}`, {
          minimumFractionDigits: digits,
          maximumFractionDigits: digits,
        }).format(x),
      );
    },
    mark: (x, currency) =>
      real(
        formatter(locale, `k${currency}`, {
          style: 'currency',
          currency,
          currencyDisplay: 'narrowSymbol',
          maximumFractionDigits: 0,
        }).format(x),
      ),
    percent: (x, digits = 1) =>
      x === null
        ? DASH
        : real(
            formatter(locale, `p${digits}`, {
              style: 'percent',
              minimumFractionDigits: digits,
              maximumFractionDigits: digits,
            }).format(x),
          ),
    number: (x, digits = 2) =>
      x === null ? DASH : real(formatter(locale, `d${digits}`, { maximumFractionDigits: digits }).format(x)),
    inField: (x, least, most) =>
      formatter(locale, `f${least}-${most}`, {
        minimumFractionDigits: least,
        maximumFractionDigits: most,
        useGrouping: false,
        signDisplay: 'auto',
      }).format(x),
    dayShort: (iso) => dayFormatter(locale, 'dayShort').format(new Date(`${iso}T00:00:00Z`)),
    monthName: (month) => dayFormatter(locale, 'month').format(new Date(Date.UTC(2026, month - 1, 1))),
    day: (iso) => dayFormatter(locale, 'day').format(new Date(`${iso}T00:00:00Z`)),
  };
}

export function useFormat(): Format {
  const locale = use(LocaleContext);
  return useMemo(() => formatFor(locale), [locale]);
}

/** Most-to-pay figures are rounded down, never up. */
export function floorTo(x: number, digits: number): number {
  const p = 10 ** digits;
  return Math.floor(x * p + 1e-9) / p;
}
