/** What the columns of a table say, by their headings first and by their contents where these do not tell. */
import type { Block, Line } from './given.ts';
import { moneyIn, namedWeightIn, namedSidesIn, percentIn, rangeIn, sidesIn, weightsIn } from './forms.ts';
import type { Around } from './forms.ts';
import { limitsIn } from './limits.ts';
import { unknownWords } from './knownWords.ts';
import { lengthUnitIn, weightUnitIn } from './units.ts';
import {
  AT_MOST,
  COLUMN_WORDS,
  isElsewhere,
  FREE,
  monthsOf,
  NO_FIGURE,
  OVER,
  SUM_OF_SIDES,
  TOTAL,
  UP_TO,
  VAT_ALONE,
  WITH_VAT,
  WITHOUT_VAT,
} from './vocabulary.ts';
import type { ColumnWord } from './vocabulary.ts';

export const ROLES = [
  'tier',
  'sides',
  'limits',
  'length',
  'width',
  'height',
  'girth',
  'maxWeight',
  'divisor',
  'packaging',
  'weight',
  'namedWeight',
  'price',
  'fee',
  'category',
  'percent',
  'minimum',
  'maximum',
  'itemFee',
  'period',
  'age',
  'aside',
  'elsewhere',
  'unread',
] as const;
export type Role = (typeof ROLES)[number];
export type Column = {
  readonly role: Role;
  readonly heading: string;
  /** What a fee is for, where its heading names it: a size tier, a zone, a weight, months, a price band. */
  readonly of: string;
  /** Its heading, where fees of other days stand beside it. */
  readonly day?: string;
};
export type Headed = {
  readonly heads: readonly Line[];
  readonly body: readonly Line[];
  readonly columns: readonly Column[];
};

/** "Storage a 1 m³" is a heading, whatever number stands in it. */
const isFeeHeading = (text: string): boolean =>
  /^[^\d\p{Sc}]/u.test(text) && (COLUMN_WORDS.storage.test(text) || COLUMN_WORDS.fee.exec(text)?.index === 0);
const hasFigure = (text: string): boolean =>
  (/\d/.test(text) && !isFeeHeading(text)) || NO_FIGURE.test(text) || FREE.test(text);

/** How many lines at the top are headings: those before the first whose fees or weights are figures. */
function headLines(rows: readonly Line[]): number {
  const share = ({ cells }: Line): number => {
    const own = cells.slice(1).filter((c) => c !== '');
    return own.length === 0 ? 0 : own.filter(hasFigure).length / own.length;
  };
  const isRange = ({ cells }: Line): boolean => cells[0] === '' || !hasFigure(cells[0] ?? '');
  if (weightsAcross(rows)) return 1;
  let heads = 0;
  while (heads < Math.min(3, rows.length - 1) && isHeadLine(rows[heads + 1] as Line)) heads++;
  if (heads > 0) return heads + 1;
  while (
    heads < Math.min(3, rows.length - 1) &&
    share(rows[heads] as Line) < 0.5 &&
    !(heads > 0 && isAlone(rows[heads] as Line))
  )
    heads++;
  // Weights or months may stand as headings: a line of figures over lines of figures whose first cell is none.
  if (heads === 0 && isRange(rows[0] as Line) && looksLikeHead(rows)) heads = 1;
  else if (heads > 0 && heads < 3 && (rows[heads]?.cells[0] ?? '') === '' && looksLikeHead(rows.slice(heads)))
    heads++;
  return heads;
}
/** A name between rows: it stands over those that follow. */
const isAlone = ({ cells }: Line): boolean => cells[0] !== '' && cells.slice(1).every((c) => c === '');
/** A line that begins with the name of a column and has no amounts. */
const isHeadLine = ({ cells }: Line): boolean =>
  isHeadWord(cells[0] ?? '') && !cells.some((c) => /\d[.,]\d{2}(?!\d)|\p{Sc}/u.test(c));
/** A name of a column and no more. */
const isHeadWord = (text: string): boolean =>
  !/\d/.test(text) &&
  [COLUMN_WORDS.weight, COLUMN_WORDS.tier, COLUMN_WORDS.category].some(
    (w) => w.exec(text.replace(/\s*\(.*\)$/, ''))?.[0] === text.replace(/\s*\(.*\)$/, ''),
  ) &&
  weightUnitIn(text) === null;

/** "Weight (kg) | 0.5 | 1 | 2": a line of rising numbers behind a heading that names their unit. */
function weightsAcross(rows: readonly Line[]): boolean {
  const [head, ...body] = rows;
  const [first = '', ...others] = head?.cells ?? [];
  const own = others.filter((c) => c !== '');
  const numbers = own.map((c) => Number(c.replace(',', '.')));
  return (
    body.length > 0 &&
    own.length > 1 &&
    COLUMN_WORDS.weight.test(first) &&
    weightUnitIn(first) !== null &&
    numbers.every((x, i) => Number.isFinite(x) && (i === 0 || x > (numbers[i - 1] as number)))
  );
}
/** A first line of ranges or months over lines of money. */
function looksLikeHead(rows: readonly Line[]): boolean {
  const [head, ...body] = rows;
  const own = head?.cells.slice(1).filter((c) => c !== '') ?? [];
  const around: Around = { mark: null, currency: '', kg: 1, cm: 1 };
  return (
    body.length > 0 &&
    own.length > 1 &&
    own.every(
      (c) =>
        !/\d/.test(c) ||
        monthsOf(c) !== null ||
        (/\p{L}|[<>≤+–-]/u.test(c) && (weightsIn(c, around) !== null || rangeIn(c, around) !== null)),
    ) &&
    own.some((c) => /\d/.test(c) || monthsOf(c) !== null)
  );
}

/**
 * The words over each column; a heading over several columns holds for those to its right that have none of
 * their own.
 */
function headings(heads: readonly Line[], width: number): { own: string[]; whole: string[] } {
  const whole = Array.from({ length: width }, () => '');
  heads.forEach((h, level) => {
    let over = '';
    for (let i = 0; i < width; i++) {
      const text = h.cells[i] ?? '';
      if (text !== '') over = text;
      const mine = text !== '' || (level < heads.length - 1 && i > 0) ? (text !== '' ? text : over) : '';
      if (mine !== '') whole[i] = `${whole[i]} ${mine}`.trim();
    }
  });
  const last = heads[heads.length - 1];
  return { own: Array.from({ length: width }, (_, i) => last?.cells[i] || (whole[i] as string)), whole };
}

const ORDER: readonly [ColumnWord, Role][] = [
  ['girth', 'girth'],
  ['divisor', 'divisor'],
  ['packaging', 'packaging'],
  ['minimum', 'minimum'],
  ['maximum', 'maximum'],
  ['itemFee', 'itemFee'],
  ['referral', 'percent'],
  ['category', 'category'],
  ['age', 'age'],
  ['sides', 'sides'],
  ['length', 'length'],
  ['width', 'width'],
  ['height', 'height'],
  ['month', 'period'],
  ['fee', 'fee'],
  ['weight', 'weight'],
  ['price', 'price'],
  ['zone', 'tier'],
  ['tier', 'tier'],
];

/** Sides by their letters. */
const SIDES = { L: 'length', W: 'width', B: 'width', H: 'height', D: 'height', T: 'height' } as const;

/** So many filled cells say what a column is. */
const SAMPLE = 30;

/** The share of a column's cells that read as something, of the first that are filled. */
function shareOf(cells: readonly string[], reads: (c: string) => boolean): number {
  const own: string[] = [];
  for (let i = 0; i < cells.length && own.length < SAMPLE; i++)
    if (cells[i] !== '' && !NO_FIGURE.test(cells[i] as string)) own.push(cells[i] as string);
  return own.length === 0 ? 0 : own.filter(reads).length / own.length;
}

function roleOf(heading: string, cells: readonly string[], at: number, around: Around): Role {
  const is = (reads: (c: string) => boolean): boolean => shareOf(cells, reads) >= 0.6;
  const own = { ...around, kg: weightUnitIn(heading) ?? around.kg, cm: lengthUnitIn(heading) ?? around.cm };
  const percent =
    is((c) => c.includes('%') || percentIn(c, own) !== null) ||
    (heading.includes('%') && is((c) => rangeIn(c, own) !== null));
  const letter = /^(?:[Mm]ax(?:imum)?\.?\s*)?([LWBHDT])(?:\s*max\.?)?(?:\s*[,([].*)?$/u.exec(heading)?.[1];
  const said =
    letter === undefined
      ? (ORDER.find(([w]) => COLUMN_WORDS[w].test(heading))?.[1] ?? null)
      : SIDES[letter as keyof typeof SIDES];
  if (VAT_ALONE.test(heading) && !WITH_VAT.test(heading) && !WITHOUT_VAT.test(heading)) return 'aside';
  if (isElsewhere(heading) || SUM_OF_SIDES.test(heading)) return 'elsewhere';
  // "Maximum weight" is a weight.
  const word = meantBy(said, heading, is, own);
  // Under a heading of weights a bare number may be one; "Zone 1" is a name.
  const weighs = (c: string): boolean =>
    weightsIn(c, {
      ...own,
      kg: COLUMN_WORDS.weight.test(heading) && unknownWords(c) === '' ? own.kg : null,
    }) !== null;
  const texts = is((c) => !/^[^\p{L}]*\d/u.test(c) && !weighs(c));

  if (percent && word !== 'minimum' && word !== 'maximum') return 'percent';
  if (at === 0 && is((c) => monthsOf(c) !== null)) return 'period';
  if (at === 0 && is((c) => namedSidesIn(c, own) !== null)) return 'tier';
  if (at === 0 && COLUMN_WORDS.price.test(heading) && is((c) => rangeIn(c, own) !== null)) return 'price';
  const names = new Set(cells.map((c) => namedWeightIn(c, own)?.name ?? ''));
  if (names.size > 2 - (names.has('') ? 0 : 1) && is((c) => namedWeightIn(c, own) !== null))
    return 'namedWeight';
  // What is written with units says what it is, whatever stands over it.
  if (is((c) => sidesIn(c, { ...own, cm: own.cm }) !== null && (sidesIn(c, own)?.said.cm.length ?? 0) > 1))
    return 'sides';
  if (at > 0 && is((c) => limitsIn(c, own) !== null)) return 'limits';
  if (texts && at === 0) return word === 'category' || word === 'period' || word === 'age' ? word : 'tier';
  if (word !== null && !(word === 'tier' && !texts)) return word;
  if (is((c) => monthsOf(c) !== null)) return 'period';
  if (is((c) => /\p{L}/u.test(c) && weightsIn(c, { ...own, kg: null }) !== null)) return 'weight';
  if (is((c) => moneyIn(c, own) !== null)) return 'fee';
  return 'unread';
}

/** What two words of a heading mean together. */
function meantBy(
  said: Role | null,
  heading: string,
  is: (reads: (c: string) => boolean) => boolean,
  around: Around,
): Role | null {
  const isWeight = COLUMN_WORDS.weight.test(heading);
  // "Maximum weight" is a weight; weights under "volumetric" are limits of it, not divisors.
  if ((said === 'maximum' || said === 'minimum') && isWeight) return 'weight';
  if (said === 'divisor' && is((c) => weightsIn(c, { ...around, kg: null }) !== null)) return 'elsewhere';
  // "2 days" over amounts is a service.
  const isMoney = (c: string): boolean => /[.,]\d{2}(?!\d)|[€$£¥円]/u.test(c) && moneyIn(c, around) !== null;
  if ((said === 'age' || said === 'period') && is(isMoney)) return null;
  return said === 'category' && COLUMN_WORDS.tier.test(heading) ? 'tier' : said;
}

/** The columns of a table and where its body begins. */
export function columnsOf(block: Block, around: Around): Headed {
  const { rows } = block;
  const n = headLines(rows);
  const heads = rows.slice(0, n);
  const body = rows.slice(n).filter((r) => !TOTAL.test(r.cells[0] ?? ''));
  const width = rows[0]?.cells.length ?? 0;
  const { own, whole } = headings(heads, width);
  const [unit] = weightsAcross(rows)
    ? [/[([]?\s*([\p{L}]+)\s*[)\]]?\s*$/u.exec(whole[0] as string)?.[1] ?? '']
    : [null];
  if (unit !== null)
    for (let i = 1; i < width; i++) {
      own[i] = `up to ${own[i]} ${unit}`;
      whole[i] = own[i] as string;
    }
  const names = own.filter((x) => x !== '');
  const repeats = heads.length > 1 && new Set(names).size < names.length;
  const columns = Array.from({ length: width }, (_, i): Column => {
    const cells = body.map((r) => r.cells[i] ?? '');
    const role = roleOf(whole[i] as string, cells, i, around);
    // Names that repeat under merged headings are told apart by those.
    return { role, heading: whole[i] as string, of: (repeats ? whole[i] : own[i]) as string };
  });
  return { heads, body, columns: settled(columns, body, around) };
}

/** What one column says can turn on the others: fees side by side are for what their headings name. */
function settled(columns: readonly Column[], body: readonly Line[], around: Around): Column[] {
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
  const ofOneDay = newestOnly(withPrices);
  return ofOneDay
    .map((c, i) => onlyOnce(c, i, ofOneDay))
    .map((c, i, all): Column => (isSecond(c, i, all) ? { ...c, role: 'unread' } : c))
    .map((c, i, all) => (isStray(c, i, all, body) ? { ...c, role: 'unread' } : c));
}
/** Where no column is a fee, "Price" beside a weight or a size is what is charged. */
function pricesAsFees(columns: readonly Column[], money: (i: number) => boolean): readonly Column[] {
  const has = (...roles: Role[]): boolean => columns.some((c) => roles.includes(c.role));
  if (has('fee', 'percent') || !has('weight', 'namedWeight', 'sides', 'tier', 'limits')) return columns;
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
  (/\p{L}/u.test(text) && weightsIn(text, { ...around, kg: null }) !== null) ||
  /^\s*(?:[<>≤]|.*\d\s*[–-]\s*\d)/u.test(text);
