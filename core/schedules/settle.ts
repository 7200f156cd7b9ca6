/** What the columns of a table say in the light of each other. */
import type { Column, Role } from './columns.ts';
import { moneyIn, weightsIn } from './forms.ts';
import type { Around } from './forms.ts';
import type { Line } from './given.ts';
import { weightUnitIn } from './units.ts';
import {
  AT_MOST,
  COLUMN_WORDS,
  monthsOf,
  NO_FIGURE,
  OVER,
  UP_TO,
  WITH_VAT,
  WITHOUT_VAT,
} from './vocabulary.ts';

/** So many filled cells say what a column is. */
const SAMPLE = 30;

/** The share of a column's cells that read as something, of the first that are filled. */
export function shareOf(cells: readonly string[], reads: (c: string) => boolean): number {
  const own: string[] = [];
  for (let i = 0; i < cells.length && own.length < SAMPLE; i++)
    if (cells[i] !== '' && !NO_FIGURE.test(cells[i] as string)) own.push(cells[i] as string);
  return own.length === 0 ? 0 : own.filter(reads).length / own.length;
}

/** What one column says can turn on the others: fees side by side are for what their headings name. */
export function settled(columns: readonly Column[], body: readonly Line[], around: Around): Column[] {
  const has = (role: Role): boolean => columns.some((c) => c.role === role);
  const money = (i: number): boolean =>
    shareOf(
      body.map((r) => r.cells[i] ?? ''),
      (c) => moneyIn(c, around) !== null,
    ) >= 0.6;
  const out = columns.map((c, i): Column => {
    // Headings that are weights, months or bands over money name what the money is for.
    if (
      i > 0 &&
      money(i) &&
      c.of !== '' &&
      c.role !== 'fee' &&
      (isAcross(c.of, around) || c.role === 'unread' || c.role === 'tier')
    )
      return { ...c, role: 'fee' };
    return c;
  });
  const withPrices = pricesAsFees(out, money);
  const weights = withPrices.flatMap((c, i) => (c.role === 'weight' ? [i] : []));
  const allByWeight = withPrices.every(
    (c) => c.role !== 'fee' || (/\d/.test(c.of) && weightUnitIn(c.of) !== null),
  );
  if (
    weights.length === 1 &&
    allByWeight &&
    withPrices.some((c) => c.role === 'fee') &&
    AT_MOST.test(withPrices[weights[0] as number]?.heading ?? '')
  )
    return withPrices.map((c) => (c.role === 'weight' ? { ...c, role: 'maxWeight' } : c));
  // Two columns of weight: the first is a limit of the tier where sides stand beside it, else from and up to.
  if (weights.length === 1 && (has('sides') || has('length')) && !withPrices.some((c) => c.role === 'fee'))
    return withPrices.map((c) => (c.role === 'weight' ? { ...c, role: 'maxWeight' } : c));
  const ofOneDay = newestOnly(pricesFromTo(withPrices));
  return ofOneDay
    .map((c, i) => onlyOnce(c, i, ofOneDay))
    .map((c, i, all): Column => (isSecond(c, i, all) ? { ...c, role: 'unread' } : c))
    .map((c, i, all) => (isStray(c, i, all, body) ? { ...c, role: 'unread' } : c));
}
/** Where no column is a fee, "Price" beside a weight or a size is what is charged. */
function pricesAsFees(columns: readonly Column[], money: (i: number) => boolean): readonly Column[] {
  const has = (...roles: Role[]): boolean => columns.some((c) => roles.includes(c.role));
  if (has('fee', 'percent') || !has('weight', 'namedWeight', 'sides', 'tier', 'limits', 'period', 'age'))
    return columns;
  return columns.map((c, i) => (c.role === 'price' && money(i) ? { ...c, role: 'fee' } : c));
}

/**
 * Of a fee with and without VAT the one without counts; of percentages side by side only those whose headings
 * say up to which price.
 */
function onlyOnce(c: Column, i: number, all: readonly Column[]): Column {
  if (
    c.role === 'fee' &&
    WITH_VAT.test(c.heading) &&
    all.some((x) => x.role === 'fee' && WITHOUT_VAT.test(x.heading))
  )
    return { ...c, role: 'aside' };
  const percents = all.flatMap((x, k) => (x.role === 'percent' ? [k] : []));
  const [first] = percents;
  // A percentage beside weights and their fees is on top of them.
  if (c.role === 'percent' && all.some((x) => x.role === 'weight') && all.some((x) => x.role === 'fee'))
    return { ...c, role: 'elsewhere' };
  if (c.role === 'percent' && i !== first && !percents.every((k) => /\d/.test(all[k]?.heading ?? '')))
    return { ...c, role: 'unread' };
  return c;
}

/** "From | To | Commission": limits of the price, of which the upper one counts. */
function pricesFromTo(columns: readonly Column[]): readonly Column[] {
  const from = columns.findIndex((c) => FROM_ALONE.test(c.heading));
  const isPair = from >= 0 && TO_ALONE.test(columns[from + 1]?.heading ?? '');
  if (!isPair || !columns.some((c) => c.role === 'percent')) return columns;
  return columns.map((c, i) =>
    i === from ? { ...c, role: 'aside' } : i === from + 1 ? { ...c, role: 'price' } : c,
  );
}
const FROM_ALONE = /^(?:from|von|ab|de|desde|da|od)(?:\s*[([].*)?$/iu;
const TO_ALONE = /^(?:to|up to|bis|à|jusqu['’]à|a|hasta|fino a|do)(?:\s*[([].*)?$/iu;

const isDated = (c: Column): boolean => c.role === 'fee' && /(?:19|20)\d{2}/.test(c.of);
/** Fees of several days side by side: those of the last column count, the others stand aside. */
function newestOnly(columns: readonly Column[]): readonly Column[] {
  const dated = columns.filter(isDated);
  const last = dated[dated.length - 1];
  if (dated.length < 2) return columns;
  return columns.map((c) =>
    !isDated(c) ? c : c === last ? { ...c, of: '', day: c.heading } : { ...c, role: 'aside' },
  );
}

/** What a row says once: a second column of the same is of something else. */
const SAID_ONCE: ReadonlySet<Role> = new Set([
  'sides',
  'length',
  'width',
  'height',
  'girth',
  'maxWeight',
  'divisor',
  'packaging',
  'price',
  'minimum',
  'maximum',
  'itemFee',
  'period',
  'age',
]);

/**
 * Whether a column repeats what another says; of two weights the second is where the first ends, if one of the
 * two says so.
 */
function isSecond(c: Column, i: number, all: readonly Column[]): boolean {
  const before = all.slice(0, i).filter((x) => x.role === c.role);
  const [first] = before;
  if (first === undefined) return false;
  if (c.role === 'percent') return false;
  if (c.role !== 'weight') return SAID_ONCE.has(c.role);
  return before.length > 1 || !(OVER.test(first.heading) || UP_TO.test(c.heading) || isBlankOrTo(c.heading));
}
const isBlankOrTo = (heading: string): boolean =>
  heading === '' || /^(?:to|bis|à|a|do|まで)\b/iu.test(heading);

/** Bare numbers under a heading that says nothing of a fee, in a table where other columns do. */
function isStray(c: Column, i: number, all: readonly Column[], body: readonly Line[]): boolean {
  const saysFee = (x: Column): boolean =>
    COLUMN_WORDS.fee.test(x.heading) || /[€$£¥]|zł|\b[A-Z]{3}\b/u.test(x.heading);
  const isAcrossWeights = /\d/.test(c.of) || weightUnitIn(c.of) !== null || monthsOf(c.of) !== null;
  if (c.role !== 'fee' || saysFee(c) || isAcrossWeights || !all.some((x) => x.role === 'fee' && saysFee(x)))
    return false;
  return !body.some((r) => /[€$£¥円]|zł|[A-Z]{3}/u.test(r.cells[i] ?? ''));
}

/** Whether a heading names weights, months or a price band. */
export const isAcross = (text: string, around: Around): boolean =>
  monthsOf(text) !== null ||
  (/\d/.test(text) && (COLUMN_WORDS.price.test(text) || /[€$£¥]|zł/u.test(text))) ||
  (/\p{L}/u.test(text) && weightsIn(text, { ...around, kg: weightUnitIn(text) }) !== null) ||
  /^\s*(?:[<>≤]|.*\d\s*[–-]\s*\d)/u.test(text);
