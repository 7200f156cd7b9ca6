/** What was understood of a schedule, a line for each part: how the corpus says what a person reads in it. */
import type { Percent } from '../schedules/forms.ts';
import type { Parts, StepPart, TierPart } from '../schedules/understood.ts';

const round = (x: number, places: number): number => Number(x.toFixed(places));
const kg = (x: number | null): string => (x === null ? '' : ` ≤${round(x, 3)}`);

const said = (word: string, x: number | null): string => (x === null ? '' : `${word} ${x}`);

function percent({ tiers, mode, min, max }: Percent): string {
  const rates = tiers
    .map((t) => `${round(100 * t.pct, 4)}%${t.upTo === null ? '' : `≤${t.upTo}`}`)
    .join(' / ');
  return [rates, tiers.length > 1 ? mode : '', said('min', min), said('max', max)].filter(Boolean).join(' ');
}

const months = (m: readonly number[]): string =>
  m.length === 1 ? String(m[0]) : `${m[0]}-${m[m.length - 1]}`;

const step = (s: StepPart): string => {
  const weight = s.each === null ? kg(s.upToKg) : ` each ${round(s.each, 3)}`;
  const price = s.priceUpTo === null ? '' : ` price≤${s.priceUpTo}`;
  return `${s.tier || '–'}${weight}${price}: ${s.fee}`;
};

const tier = (t: TierPart): string => {
  const sides = t.sides === null ? '' : ` ${t.sides.map((x) => round(x, 2)).join('×')}`;
  const girth = t.girth === null ? '' : ` girth ${round(t.girth, 2)}`;
  const divisor = t.divisor === null ? '' : ` div ${round(t.divisor, 2)}`;
  return `tier ${t.name || '–'}${sides}${girth}${kg(t.maxKg)}${divisor}`;
};

/**
 * - `Slim ≤0.142: 2.07`: a fee up to a weight; `each 0.5: 0.25`: for each further; `price≤10`: in a price band
 * - `tier Slim 40×28×2.5 girth 165 ≤0.4 div 5000`
 * - `Garden 15%≤100 / 8% sliced min 0.3 max 25 item 1.8`
 * - `storage 1-9: 26` a m3; `age 6-12: 50` a m3, months
 */
export function brief(p: Parts): string[] {
  return [
    ...p.steps.map(step),
    ...p.tiers.map(tier),
    ...p.categories.map(
      (c) => `${c.name} ${percent(c.percent)}${c.itemFee === null ? '' : ` item ${c.itemFee}`}`,
    ),
    ...p.charges.map(
      (c) =>
        `${c.of}${c.pct === null ? '' : ` ${round(100 * c.pct, 4)}%`}${c.amount === null ? '' : ` ${c.amount}`}`,
    ),
    ...p.storage.map((s) => `storage ${months(s.months)}: ${round(s.perM3, 2)}`),
    ...p.longStay.map(
      (b) =>
        `age ${round(b.fromMonths, 2)}-${b.toMonths === null ? '' : round(b.toMonths, 2)}: ${round(b.rate, 2)}`,
    ),
  ];
}
