/** What the columns of a table say, by their headings first and by their contents where these do not tell. */
import { headings, headLines, weightsAcross } from './headings.ts';
import { percentIn } from './percents.ts';
import { settled, shareOf } from './settle.ts';
import type { Block, Line } from './given.ts';
import { moneyIn, namedWeightIn, namedSidesIn, rangeIn, sidesIn, weightsIn } from './forms.ts';
import type { Around } from './forms.ts';
import { limitsIn } from './limits.ts';
import { unknownWords } from './knownWords.ts';
import { lengthUnitIn, weightUnitIn } from './units.ts';
import {
  COLUMN_WORDS,
  isElsewhere,
  monthsOf,
  SUM_OF_SIDES,
  TOTAL,
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
  ['length', 'length'],
  ['width', 'width'],
  ['height', 'height'],
  ['sides', 'sides'],
  ['month', 'period'],
  ['fee', 'fee'],
  ['weight', 'weight'],
  ['price', 'price'],
  ['zone', 'tier'],
  ['tier', 'tier'],
];

/** Sides by their letters. */
const SIDES = { L: 'length', W: 'width', B: 'width', H: 'height', D: 'height', T: 'height' } as const;

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
  // Sizes may be named by numbers.
  if (word === 'tier' && at === 0 && !is(weighs)) return 'tier';
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
