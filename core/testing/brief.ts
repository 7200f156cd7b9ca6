/** What was understood of a schedule, a line for each part: how the corpus says what a person reads in it. */
import type { Percent } from '../schedules/forms.ts';
import type { Parts } from '../schedules/understood.ts';

const round = (x: number, places: number): number => Number(x.toFixed(places));
const kg = (x: number | null): string => (x === null ? '' : ` ≤${round(x, 3)}`);

function percent({ tiers, mode, min, max }: Percent): string {
  const rates = tiers
    .map((t) => `${round(100 * t.pct, 4)}%${t.upTo === null ? '' : `≤${t.upTo}`}`)
    .join(' / ');
  return `${rates}${tiers.length > 1 ? ` ${mode}` : ''}${min === null ? '' : ` min ${min}`}${max === null ? '' : ` max ${max}`}`;
}

const months = (m: readonly number[]): string =>
  m.length === 1 ? String(m[0]) : `${m[0]}-${m[m.length - 1]}`;

/**
 * - `Slim ≤0.142: 2.07`: a fee up to a weight; `each 0.5: 0.25`: for each further; `price≤10`: in a price band
 * - `tier Slim 40×28×2.5 girth 165 ≤0.4 div 5000`
 * - `Garden 15%≤100 / 8% sliced min 0.3 max 25 item 1.8`
 * - `storage 1-9: 26` a m3; `age 6-12: 50` a m3, months
 */
export function brief(p: Parts): string[] {
  return [
    ...p.steps.map(
      (s) =>
        `${s.tier || '–'}${s.each === null ? kg(s.upToKg) : ` each ${round(s.each, 3)}`}${s.priceUpTo === null ? '' : ` price≤${s.priceUpTo}`}: ${s.fee}`,
    ),
    ...p.tiers.map(
      (t) =>
        `tier ${t.name || '–'}${t.sides === null ? '' : ` ${t.sides.map((x) => round(x, 2)).join('×')}`}${t.girth === null ? '' : ` girth ${round(t.girth, 2)}`}${kg(t.maxKg)}${t.divisor === null ? '' : ` div ${round(t.divisor, 2)}`}`,
    ),
    ...p.categories.map(
      (c) => `${c.name} ${percent(c.percent)}${c.itemFee === null ? '' : ` item ${c.itemFee}`}`,
    ),
    ...p.storage.map((s) => `storage ${months(s.months)}: ${round(s.perM3, 2)}`),
    ...p.longStay.map(
      (b) =>
        `age ${round(b.fromMonths, 2)}-${b.toMonths === null ? '' : round(b.toMonths, 2)}: ${round(b.rate, 2)}`,
    ),
  ];
}
