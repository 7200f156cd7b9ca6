/**
 * What the stand-in answers: invented, drawn from a seed, the same for the same question. It recalls no
 * service and no day.
 */
import { uniformInt } from 'pure-rand/distribution/uniformInt';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Units of each currency per euro around which the rates move; round figures. */
const AROUND: Readonly<Record<string, number>> = {
  USD: 1.1,
  GBP: 0.86,
  PLN: 4.3,
  JPY: 162,
  AED: 4.04,
  CNY: 7.9,
  INR: 96,
  TRY: 46,
  CHF: 0.95,
  SEK: 11.2,
  CZK: 25,
};
export const MODES = ['sea', 'air', 'road', 'rail', 'parcel'] as const;
export type Mode = (typeof MODES)[number];

function hash(text: string): number {
  let h = 2166136261;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 16777619);
  return h | 0;
}
/** A draw from 0 to 1 for a question. */
function draw(seed: number, question: string): number {
  return uniformInt(xoroshiro128plus(hash(`${seed}|${question}`)), 0, 1_000_000) / 1_000_000;
}

/** Rates of a day: up to 3 % off their round figure, moving slowly from day to day. */
export function ratesOn(
  seed: number,
  date: string,
  base: string,
): { date: string; base: string; rates: Record<string, number> } | null {
  const perEuro: Record<string, number> = { EUR: 1 };
  const day = Math.floor(Date.parse(`${date}T00:00:00Z`) / 86_400_000);
  for (const [currency, around] of Object.entries(AROUND)) {
    // Halfway between the draws of two weeks, by the day of the week.
    const week = Math.floor(day / 7);
    const part = (day % 7) / 7;
    const off =
      (draw(seed, `${currency}${week}`) * (1 - part) + draw(seed, `${currency}${week + 1}`) * part - 0.5) *
      0.06;
    perEuro[currency] = around * (1 + off);
  }
  const unit = perEuro[base];
  if (unit === undefined) return null;
  return {
    date,
    base,
    rates: Object.fromEntries(
      Object.entries(perEuro)
        .filter(([c]) => c !== base)
        .map(([c, r]) => [c, Number((r / unit).toPrecision(6))]),
    ),
  };
}

export type FreightQuote = {
  mode: Mode;
  basis: 'perCbm' | 'perKg';
  rate: number;
  currency: 'EUR';
  minimum: number;
  fuelSurcharge: number;
  transitDays: number;
  validUntil: string;
};
const SCALE: Readonly<
  Record<
    Mode,
    { low: number; high: number; basis: 'perCbm' | 'perKg'; days: [number, number]; minimum: number }
  >
> = {
  sea: { low: 100, high: 210, basis: 'perCbm', days: [28, 46], minimum: 1 },
  air: { low: 3, high: 7, basis: 'perKg', days: [5, 12], minimum: 45 },
  road: { low: 50, high: 130, basis: 'perCbm', days: [2, 9], minimum: 0.5 },
  rail: { low: 80, high: 160, basis: 'perCbm', days: [18, 26], minimum: 1 },
  parcel: { low: 4, high: 9, basis: 'perKg', days: [2, 6], minimum: 1 },
};

/** A freight quote between two countries, good for thirty days. */
export function freightQuote(seed: number, from: string, to: string, mode: Mode, date: string): FreightQuote {
  const s = SCALE[mode];
  const d = (what: string): number => draw(seed, `${from}${to}${mode}${date.slice(0, 7)}${what}`);
  return {
    mode,
    basis: s.basis,
    currency: 'EUR',
    minimum: s.minimum,
    rate: Number((s.low + (s.high - s.low) * d('rate')).toFixed(s.basis === 'perKg' ? 2 : 0)),
    fuelSurcharge: mode === 'air' || mode === 'parcel' ? Number((0.08 + 0.14 * d('fuel')).toFixed(2)) : 0,
    transitDays: Math.round(s.days[0] + (s.days[1] - s.days[0]) * d('days')),
    validUntil: new Date(Date.parse(`${date}T00:00:00Z`) + 30 * 86_400_000).toISOString().slice(0, 10),
  };
}
