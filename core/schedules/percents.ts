/** Percentages as fee tables write them: by the price, with a least and a most, with a fixed part on top. */
import { amountsIn, sure } from './forms.ts';
import type { Amount, Around, Heard, Percent } from './forms.ts';
import { NUMBER, numberOf, withoutFootnote } from './numbers.ts';
import {
  AT_LEAST,
  AT_MOST,
  FIRST,
  GREATER_OF,
  LESSER_OF,
  OF_THE_REST,
  OF_THE_WHOLE,
  OVER,
  UP_TO,
} from './vocabulary.ts';

const PERCENT = new RegExp(
  `(${NUMBER})\\s*(?:%|percent|per cent|prozent|pour cent|por ciento|per cento|procent)`,
  'giu',
);

/** A percentage, or several by the price, with the least and most it comes to; null where the text has none. */
export function percentIn(text: string, around: Around): Heard<Percent> | null {
  const t = withoutFootnote(text);
  const shares = [...t.matchAll(PERCENT)].map((m) => ({
    at: m.index,
    end: m.index + m[0].length,
    n: numberOf(m[1] as string, around.mark),
  }));
  if (shares.length === 0 || shares.some((s) => s.n === null)) return null;
  const spans = shares.map((s, i) => ({
    pct: Number(((s.n as { value: number }).value / 100).toPrecision(12)),
    after: t.slice(s.end, shares[i + 1]?.at ?? t.length),
    before: t.slice(shares[i - 1]?.end ?? 0, s.at),
  }));
  const either = shareOrAmount(t, shares.length, around);
  const { min, max, rest } = either ?? bounds(spans[spans.length - 1]?.after ?? '', around);
  const limits = spans.map((s, i) =>
    either !== null ? null : limitOf(i === spans.length - 1 ? rest : s.after, s.before, around),
  );
  // "15 % (10 % over 75)": where the next begins is where this one ends.
  spans.slice(1).forEach((s, i) => {
    limits[i] ??= overOf(s.after, around);
  });
  const tiers = spans.map((s, i) => ({
    upTo: i === spans.length - 1 ? null : (limits[i] ?? null),
    pct: s.pct,
  }));
  if (tiers.slice(0, -1).some((x) => x.upTo === null)) return null;
  const plus = either === null ? fixedPart(t, around) : null;
  // A number that nothing explains is not passed over.
  const explained = [...tiers.map((x) => x.upTo), min, max, plus].filter((x) => x !== null);
  if (!eachExplained(amountsIn(t.replace(PERCENT, ' '), around), explained)) return null;
  const make = (mode: Percent['mode']): Percent => ({ is: 'percent', tiers, mode, min, max, plus });
  if (tiers.length === 1) return limits[0] == null ? sure(make('whole')) : null;
  if (OF_THE_REST.test(t)) return sure(make('sliced'));
  if (OF_THE_WHOLE.test(t)) return sure(make('whole'));
  return { said: make('sliced'), or: [make('whole')] };
}

/** "15 % + 1.01": what is taken on top, whatever the price. */
function fixedPart(t: string, around: Around): number | null {
  const at = /%\s*(?:\+|plus|und|zzgl\.?|et|y|e|i)\s+/iu.exec(t.replace(/\+/g, '+ '));
  if (at === null) return null;
  const [amount] = amountsIn(t.replace(/\+/g, '+ ').slice(at.index + 1), around);
  return amount !== undefined && amount.at <= at[0].length + 4 ? amount.value : null;
}

/** "The greater of 12 % or 0.30": a least of 0.30; "the lesser": a most. Null where neither is said. */
function shareOrAmount(t: string, shares: number, around: Around): ReturnType<typeof bounds> | null {
  const [amount, ...more] = amountsIn(t.replace(PERCENT, ' '), around);
  if (shares !== 1 || amount === undefined || more.length > 0) return null;
  if (GREATER_OF.test(t)) return { min: amount.value, max: null, rest: '' };
  return LESSER_OF.test(t) ? { min: null, max: amount.value, rest: '' } : null;
}

/** "minimum 0.30", "at most 15": the least and the most, and the text without them. */
function bounds(text: string, around: Around): { min: number | null; max: number | null; rest: string } {
  let rest = text;
  const take = (words: RegExp): number | null => {
    const at = words.exec(rest);
    if (at === null) return null;
    const tail = rest.slice(at.index + at[0].length);
    const [amount] = amountsIn(tail, around);
    if (amount === undefined || amount.at > 14) return null;
    rest = rest.slice(0, at.index);
    return amount.value;
  };
  // From the end: what is taken is cut off with all behind it.
  const order: [RegExp, 'min' | 'max'][] = [
    [AT_LEAST, 'min'],
    [AT_MOST, 'max'],
  ];
  const got: { min: number | null; max: number | null } = { min: null, max: null };
  const where = (w: RegExp): number => w.exec(text)?.index ?? -1;
  for (const [words, k] of order.sort((a, b) => where(b[0]) - where(a[0]))) got[k] = take(words);
  return { ...got, rest };
}

/** Whether every amount of a text is one of those that were understood: no more of them, and no other. */
const eachExplained = (amounts: readonly Amount[], explained: readonly number[]): boolean =>
  new Set(amounts.map((a) => a.value)).size <= explained.length &&
  amounts.every((a) => explained.includes(a.value));

/** "Over 75": where a percentage begins. */
function overOf(text: string, around: Around): number | null {
  if (!OVER.test(text) && !/[>＞]/.test(text)) return null;
  const [amount, ...more] = amountsIn(text, around);
  return amount === undefined || more.length > 0 ? null : amount.value;
}

/** The limit a percentage holds to, said behind it or before it. */
export function limitOf(after: string, before: string, around: Around): number | null {
  for (const text of [after, before]) {
    if (!UP_TO.test(text) && !/[<≤]/.test(text) && !FIRST.test(text)) continue;
    const [amount] = amountsIn(text, around);
    if (amount !== undefined) return amount.value;
  }
  return null;
}
