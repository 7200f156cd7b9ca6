/**
 * The forms in which a fee table writes its figures: weights and ranges of weight, sides, money with so much
 * for each further step, percentages by price. Each reader takes the text of a cell and what the table says
 * around it, and answers with what it reads, whether that is sure, and what else it could be.
 */
import { isCurrency } from '../cards/cells.ts';
import { minorDigits } from '../money/money.ts';
import type { RateSaid, StageSaid } from './freight.ts';
import type { Limits } from './limits.ts';
import { unknownWords } from './knownWords.ts';
import { NUMBER, numberOf, withoutFootnote } from './numbers.ts';
import type { DecimalMark } from './numbers.ts';
import {
  cmIn,
  currencyIn,
  kgIn,
  LENGTH_UNIT,
  MONEY_SIGN,
  VOLUME_UNIT,
  WEIGHT_UNIT,
  weightUnitIn,
} from './units.ts';
import { EACH, FIRST, FREE, HUNDREDTHS, NO_FIGURE, OVER, UP_TO } from './vocabulary.ts';

/** Weights in kg, up to and including; `each`: the fee is for each further so much. */
export type Weights = {
  readonly is: 'weight';
  readonly from: number | null;
  readonly upTo: number | null;
  readonly each: number | null;
};
/** Sides in cm, as given; one alone is the longest. */
export type Sides = { readonly is: 'sides'; readonly cm: readonly number[] };
/** An amount; `each`: so much more for each further step of kg, past `over` kg where that is said. */
export type Money = {
  readonly is: 'money';
  readonly amount: number;
  readonly currency: string | null;
  readonly each: { readonly kg: number; readonly fee: number; readonly over: number | null } | null;
};
/** A referral fee by the price: percentages as fractions, limits as amounts. */
export type Percent = {
  readonly is: 'percent';
  readonly tiers: readonly { readonly upTo: number | null; readonly pct: number }[];
  readonly mode: 'whole' | 'sliced';
  readonly min: number | null;
  readonly max: number | null;
  /** A fixed amount on top: an item fee. */
  readonly plus: number | null;
};
/** A range of amounts or of plain numbers. */
export type Range = { readonly is: 'range'; readonly from: number | null; readonly upTo: number | null };
export type Months = { readonly is: 'months'; readonly months: readonly number[] };
/** Said on purpose to have no figure. */
export type NoFigure = { readonly is: 'none' };
export type Said =
  | RateSaid
  | StageSaid
  | Limits
  | Weights
  | Sides
  | Money
  | Percent
  | Range
  | Months
  | NoFigure;

/** What is read; `or`: what else it could be, where it is doubtful. */
export type Heard<T extends Said = Said> = { readonly said: T; readonly or: readonly T[] };
export const sure = <T extends Said>(said: T): Heard<T> => ({ said, or: [] });

/** What a table says around its cells. */
export type Around = {
  readonly mark: DecimalMark;
  /** The card's currency. */
  readonly currency: string;
  /** Units of bare numbers, as factors into kg and cm; null where nothing names one. */
  readonly kg: number | null;
  readonly cm: number | null;
};

type Found = {
  readonly value: number;
  readonly other: number | null;
  readonly unit: string;
  readonly at: number;
};
const pattern = (unit: string): RegExp => new RegExp(`(${NUMBER})\\s*(${unit})?`, 'giu');
const WEIGHT = pattern(WEIGHT_UNIT);
const LENGTH = pattern(LENGTH_UNIT);
const BARE = pattern('\\u0000');

function numbersIn(text: string, form: RegExp, mark: DecimalMark): Found[] {
  const out: Found[] = [];
  for (const m of text.matchAll(form)) {
    const n = numberOf(m[1] as string, mark);
    if (n !== null) out.push({ ...n, unit: m[2] ?? '', at: m.index });
  }
  return out;
}
/** Two readings of a number make two of what is made of it. */
function eitherWay<T extends Said>(
  found: readonly Found[],
  make: (values: readonly number[]) => T,
): Heard<T> {
  const said = make(found.map((n) => n.value));
  if (found.every((n) => n.other === null)) return sure(said);
  return { said, or: [make(found.map((n) => n.other ?? n.value))] };
}

/** "Each additional kg": one of the unit it names. */
function eachUnit(t: string): Heard<Weights> | null {
  const unit = EACH.test(t) ? weightUnitIn(t) : null;
  return unit === null ? null : sure({ is: 'weight', from: null, upTo: null, each: unit });
}

/** "Each lb over 5 lb": each of the one, from the other on; null where the text is none of that. */
function eachPast(t: string, around: Around): Heard<Weights> | null {
  const over = EACH.test(t) ? OVER.exec(t) : null;
  if (over === null || !/\d/.test(t.slice(over.index)) || over.index === 0) return null;
  const each = weightsIn(t.slice(0, over.index), around);
  const from = weightsIn(t.slice(over.index), around);
  if (each === null || from === null || each.said.each === null || from.said.from === null) return null;
  const made: Weights = { ...each.said, from: from.said.from };
  return {
    said: made,
    or:
      each.or.length + from.or.length === 0
        ? []
        : [{ ...made, each: each.or[0]?.each ?? made.each, from: from.or[0]?.from ?? made.from }],
  };
}

/**
 * A weight or a range of weights; null where the text is none. A bare number takes the unit of its neighbour,
 * then the table's.
 */
export function weightsIn(text: string, around: Around): Heard<Weights> | null {
  const t = withoutFootnote(text);
  const past = eachPast(t, around);
  if (past !== null) return past;
  const found = numbersIn(t, WEIGHT, around.mark);
  const [first, last] = [found[0], found[found.length - 1]];
  if (first === undefined) return eachUnit(t);
  if (last === undefined || found.length > 2) return null;
  const unitOf = (n: Found): number | null => {
    const own = n.unit === '' ? (found.find((x) => x.unit !== '')?.unit ?? '') : n.unit;
    return own === '' ? around.kg : kgIn(own);
  };
  if (found.some((n) => unitOf(n) === null)) return null;
  const kg = (values: readonly number[], i: number): number =>
    (values[i] as number) * (unitOf(found[i] as Found) as number);
  if (found.length === 2)
    return eitherWay(found, (v) => ({ is: 'weight', from: kg(v, 0), upTo: kg(v, 1), each: null }));
  if (EACH.test(t) && !FIRST.test(t))
    return eitherWay(found, (v) => ({ is: 'weight', from: null, upTo: null, each: kg(v, 0) }));
  const isFrom = /[+]|[>＞](?!=)/.test(t) || (OVER.test(t) && !UP_TO.test(t) && !/[<≤＜]/.test(t));
  return eitherWay(found, (v) =>
    isFrom
      ? { is: 'weight', from: kg(v, 0), upTo: null, each: null }
      : { is: 'weight', from: null, upTo: kg(v, 0), each: null },
  );
}

/** Two or three sides, or one; null where the text has none or a unit that is not of length. */
export function sidesIn(text: string, around: Around, bare = false): Heard<Sides> | null {
  const t = withoutFootnote(text).replace(/(\d)\s*[x×*✕]\s*(?=\d|\.)/giu, '$1 × ');
  const found = numbersIn(t, LENGTH, around.mark);
  if (found.length === 0 || found.length > 3) return null;
  if (!bare && found.length > 1 && !/×|\bby\b|\bauf\b|\bpar\b|\bpor\b|\bna\b|\bx\b/iu.test(t)) return null;
  if (!bare && found.length === 1 && found[0]?.unit === '') return null;
  const unit = found.find((n) => n.unit !== '')?.unit ?? '';
  const factor = unit === '' ? around.cm : cmIn(unit);
  if (factor === null) return null;
  const factors = found.map((n) => (n.unit === '' ? factor : (cmIn(n.unit) ?? factor)));
  return eitherWay(found, (v) => ({ is: 'sides', cm: v.map((x, i) => x * (factors[i] as number)) }));
}

/** "Mini (35 x 25 x 2.5 cm)": a name with its size; null where the text is none of that. */
export function namedSidesIn(
  text: string,
  around: Around,
): { readonly name: string; readonly cm: readonly number[] } | null {
  const parts = /^(\p{L}[^\d(]*?)\s*[(:,–-]?\s*(\d.*?)\)?$/u.exec(withoutFootnote(text));
  const sides = parts === null ? null : sidesIn(parts[2] as string, around);
  if (parts === null || sides === null || sides.said.cm.length < 2 || sides.or.length > 0) return null;
  return { name: parts[1] as string, cm: sides.said.cm };
}

/** "Small parcel up to 1 kg": a name with its weight; null where the text is none of that. */
export function namedWeightIn(
  text: string,
  around: Around,
): { readonly name: string; readonly weights: Weights } | null {
  const t = withoutFootnote(text);
  const begins = [UP_TO, OVER, EACH].flatMap((w) => w.exec(t)?.index ?? []);
  const at = Math.min(...begins, t.search(/[\d≤<>(]/u));
  const name = at <= 0 ? '' : t.slice(0, at).replace(/[\s,:(–-]+$/u, '');
  if (unknownWords(name) === '') return null;
  const weights = weightsIn(t.slice(at), { ...around, kg: null });
  return weights === null || weights.or.length > 0 ? null : { name, weights: weights.said };
}

const AMOUNT = new RegExp(
  `(?:(${MONEY_SIGN}|(?<![A-Za-z])[A-Z]{3}(?![A-Za-z]))\\s*)?([-−]?)` +
    `(${NUMBER})\\s*(${MONEY_SIGN}|[A-Z]{3}(?![A-Za-z]))?`,
  'gu',
);

export type Amount = Found & { readonly signed: boolean; readonly negative: boolean };
/** The amounts of a text, with the currency each names. */
export function amountsIn(t: string, around: Around): Amount[] {
  const out: Amount[] = [];
  for (const m of t.matchAll(AMOUNT)) {
    const n = numberOf(m[3] as string, around.mark);
    if (n === null) continue;
    // A currency without a minor unit has no decimals to be mistaken.
    if (minorDigits(around.currency) === 0) Object.assign(n, { other: null });
    const signs = [m[1], m[4]].filter((s) => s !== undefined && (s.length !== 3 || isCurrency(s)));
    out.push({ ...n, unit: signs[0] ?? '', at: m.index, signed: signs.length > 0, negative: m[2] !== '' });
  }
  return out;
}

/** "a m³ and month": what storage is for, which the table is asked for its volume. */
const PER_VOLUME = new RegExp(`(?:per|pro|je|par|por|al|za|a|/)\\s*${VOLUME_UNIT}.*$`, 'iu');
/**
 * An amount, with what each further step costs where the text says so; null where it is none. "Free" is 0; what says
 * on purpose that there is no figure is `none`.
 */
export function moneyIn(text: string, around: Around): Heard<Money | NoFigure> | null {
  const t = withoutFootnote(text).replace(PER_VOLUME, ' ').trim();
  if (HUNDREDTHS.test(t)) return inHundredths(moneyIn(t.replace(HUNDREDTHS, ' '), around));
  if (NO_FIGURE.test(t)) return sure({ is: 'none' });
  if (FREE.test(t)) return sure({ is: 'money', amount: 0, currency: null, each: null });
  if (t.includes('%')) return null;
  const currency = currencyIn(t, around.currency, isCurrency);
  const weights = numbersIn(t, WEIGHT, around.mark).filter((n) => n.unit !== '');
  const amounts = amountsIn(t, around).filter((a) => !weights.some((w) => w.at <= a.at && a.at < w.at + 1));
  const [first, second] = amounts;
  if (first === undefined || amounts.length > 2 || amounts.some((a) => a.negative)) return null;
  const words = t.replace(AMOUNT, ' ');
  if (second === undefined && weights.length === 0)
    return words.match(/\p{L}+/gu)?.some((w) => !isCurrency(w.toUpperCase())) && !EACH.test(words)
      ? null
      : eitherWay([first], (v) => ({ is: 'money', amount: v[0] as number, currency, each: null }));
  return furtherStep(t, amounts, weights, currency, around);
}

/** The same in units of the currency, where it was read in its hundredths. */
export function inHundredths(heard: Heard<Money | NoFigure> | null): Heard<Money | NoFigure> | null {
  const whole = <T extends Money | NoFigure>(said: T): T =>
    said.is === 'none'
      ? said
      : {
          ...said,
          amount: said.amount / 100,
          each: said.each === null ? null : { ...said.each, fee: said.each.fee / 100 },
        };
  return heard === null ? null : { said: whole(heard.said), or: heard.or.map(whole) };
}

/** "5.26 and 0.31 for each 12 oz over 4 lb": a fee and what each further step costs. */
function furtherStep(
  t: string,
  amounts: readonly Amount[],
  weights: readonly Found[],
  currency: string | null,
  around: Around,
): Heard<Money> | null {
  const [first, second] = amounts;
  if (first === undefined || second === undefined) return null;
  const [begins, ...others] = weights.filter((w) => w.at < second.at);
  const behind = weights.filter((w) => w.at > second.at);
  const words = t.slice(second.at).replace(/^[^\p{L}/]*/u, ' ');
  const isEach = EACH.test(t) || new RegExp(`(?:/|\\ban?)\\s*${WEIGHT_UNIT}`, 'iu').test(words);
  if (!isEach || others.length > 0 || behind.length > 2) return null;
  // "a lb over 6 lb", "per kg": one unit where no number stands.
  const isOver = behind.length === 1 && OVER.test(t.slice(second.at, behind[0]?.at));
  const step = isOver ? undefined : behind[0];
  const past = isOver ? behind[0] : (behind[1] ?? begins);
  const kg = step === undefined ? (loneUnitIn(words) ?? around.kg) : kgOf(step);
  if (kg === null || !Number.isFinite(kg)) return null;
  const beyond = past === undefined ? firstUnitIn(t) : kgOf(past);
  return eitherWay([first, second], (v) => ({
    is: 'money',
    amount: v[0] as number,
    currency,
    each: { kg, fee: v[1] as number, over: beyond },
  }));
}

const kgOf = (w: Found): number => w.value * (kgIn(w.unit) ?? Number.NaN);
/** The unit of weight that stands without a number, in kg. */
function loneUnitIn(words: string): number | null {
  const found = new RegExp(`(?:^|\\s|/)(?:an?\\s+)?(${WEIGHT_UNIT})`, 'iu').exec(words);
  return found === null ? null : kgIn(found[1] as string);
}
/** "First lb": up to one of that unit. */
function firstUnitIn(t: string): number | null {
  const found = new RegExp(`${FIRST.source}\\s+(${WEIGHT_UNIT})`, 'iu').exec(t);
  return found === null ? null : kgIn(found[found.length - 1] as string);
}

/** A range of amounts or numbers: "up to 10", "10 to 50", "over 50". */
export function rangeIn(text: string, around: Around): Heard<Range> | null {
  const t = withoutFootnote(text);
  const found = numbersIn(t, BARE, around.mark);
  if (found.length === 0 || found.length > 2 || t.includes('%')) return null;
  if (found.length === 2)
    return eitherWay(found, (v) => ({ is: 'range', from: v[0] as number, upTo: v[1] as number }));
  const isFrom = /[+]|[>＞]/.test(t) || (OVER.test(t) && !UP_TO.test(t) && !/[<≤＜]/.test(t));
  return eitherWay(found, (v) =>
    isFrom
      ? { is: 'range', from: v[0] as number, upTo: null }
      : { is: 'range', from: null, upTo: v[0] as number },
  );
}
