/** What a table of a schedule is about: its columns, what its headings say, and which kind of table that makes it. */
import { fault } from '../fault.ts';
import type { Fault } from '../fault.ts';
import { columnsOf } from './columns.ts';
import type { Column, Role } from './columns.ts';
import { rangeIn, weightsIn } from './forms.ts';
import type { Around, Weights } from './forms.ts';
import type { Block, Line } from './given.ts';
import { lengthUnitIn, weightUnitIn } from './units.ts';
import {
  CHARGES,
  COLUMN_WORDS,
  EACH,
  isElsewhere,
  monthsOf,
  OVER,
  UP_TO,
  WITHOUT_VAT,
  PLANS,
  MONTH_NAMES,
  means,
} from './vocabulary.ts';
import type { ChargePart, TableKind } from './understood.ts';

const POUND = 0.45359237;
const INCH = 2.54;

/** What a fee is for, by the heading over it. */
export type Across =
  | { readonly by: 'months'; readonly months: readonly number[]; readonly name: string }
  | { readonly by: 'weight'; readonly weights: Weights }
  | { readonly by: 'price'; readonly upTo: number | null }
  | { readonly by: 'name'; readonly name: string }
  /** Amounts and words of which it is not known what they say. */
  | { readonly by: 'unknown' }
  | null;

/** Words of a heading that do not tell one fee from another. */
const SAYS_NOTHING = new RegExp(
  [
    '(?<!\\p{L})(?:[A-Z]{3}|per|pro|par|por|za|a|the|in|für|pour|each|item|unit|piece',
    'parcel|fulfil+ment|monthly|base|basic|grund|fixed|flat|shipping|dispatch)(?!\\p{L})',
  ].join('|'),
  'giu',
);

/** A fee alone under a heading such as "Fee, EUR" is for nothing but its row. */
const isGeneric = (heading: string): boolean => {
  const rest = heading
    .replace(new RegExp(COLUMN_WORDS.fee.source, 'giu'), ' ')
    .replace(new RegExp(COLUMN_WORDS.storage.source, 'giu'), ' ')
    .replace(new RegExp(COLUMN_WORDS.price.source, 'giu'), ' ')
    .replace(new RegExp(WITHOUT_VAT.source, 'giu'), ' ')
    .replace(SAYS_NOTHING, ' ')
    .replace(/[(),.:/*€$£¥円]|zł/gu, ' ');
  return !/[\p{L}\d]/u.test(rest);
};

/** What has a price. */
const ITEMS = means(
  'items?|products?|goods|priced|costing|artikel|ware[n]?|articles?|produits?|art[ií]culos?|articoli|produkty',
);
/** Whether a range says more than how far it goes: "3+ units" is no price. */
const hasOtherWords = (text: string): boolean =>
  /\p{L}/u.test(
    [UP_TO, OVER]
      .reduce((t, words) => t.replace(new RegExp(words.source, 'giu'), ' '), text)
      .replace(new RegExp(COLUMN_WORDS.price.source, 'giu'), ' ')
      .replace(ITEMS, ' ')
      .replace(/[A-Z]{3}|zł|to|and/gu, ' '),
  );

/** What a heading says besides months: a size, as "Jan–Sep Standard" does. */
function nameBeside(of: string): string {
  const rest = of
    .replace(new RegExp(MONTH_NAMES.source, 'giu'), ' ')
    .replace(/[\s.,–-]+/gu, ' ')
    .trim();
  return isGeneric(rest) || UP_TO.test(rest) ? '' : rest;
}

const isAmount = (of: string): boolean => /\d/.test(of) && /[€$£¥円]|zł/u.test(of);

export function acrossOf(column: Column, fees: number, around: Around): Across {
  const { of, heading } = column;
  const months = monthsOf(of) ?? monthsOf(heading);
  if (months !== null) return { by: 'months', months, name: nameBeside(of) };
  const bare = { ...around, kg: weightUnitIn(heading) };
  const weights =
    (/\d/.test(of) || EACH.test(of)) && (/\p{L}/u.test(of) || bare.kg !== null)
      ? weightsIn(of, { ...around, kg: bare.kg })
      : null;
  if (weights !== null && (weightUnitIn(of) !== null || bare.kg !== null))
    return { by: 'weight', weights: weights.said };
  if (weights === null && isAmount(of) && hasOtherWords(of)) return { by: 'unknown' };
  const range = /\d/.test(of) ? rangeIn(of, around) : null;
  const isRange = /[€$£¥<>≤–-]|\d\s*\+/u.test(of) && !hasOtherWords(of);
  // "Price per 100 units" is no price band.
  if (/(?<!\p{L})(?:per|je|pro|par|por|za)\s+(?!1(?!\d))\d/iu.test(of)) return { by: 'unknown' };
  if (range !== null && (COLUMN_WORDS.price.test(heading) || isRange))
    return { by: 'price', upTo: range.said.upTo };
  return isGeneric(of) || fees === 1
    ? null
    : { by: 'name', name: of.replace(/\s*[([]?\b[A-Z]{3}\b[)\]]?\s*$/, '') || of };
}

const SIZE_WORDS = /size|tier|größe|groesse|klasse|taille|tamaño|formato|dimensione|rozmiar|サイズ|区分/iu;
/** Words that join others in the name of a charge. */
const JOINS = /(?<!\p{L})(?:d|de|des|di|of|per|für|por|za|by|processing|card)(?!\p{L})/giu;
/** Which charge a name means; null where it means none, or says more: "Payment fee", not "Payment terminals". */
export function chargeOf(name: string): ChargePart['of'] | null {
  const of = (Object.keys(CHARGES) as (keyof typeof CHARGES)[]).find((k) => CHARGES[k].test(name));
  const found = of === undefined ? null : CHARGES[of].exec(name);
  if (of === undefined || found === null) return null;
  return isGeneric(name.replace(found[0], ' ').replace(JOINS, ' ').replace(/['’]/g, ' ')) ? of : null;
}

/** Whether a name alone means what is taken of a sale. */
export const isCommission = (name: string): boolean => COLUMN_WORDS.referral.exec(name)?.[0] === name.trim();

export class TableShape {
  readonly columns: readonly Column[];
  readonly heads: readonly Line[];
  readonly across: readonly Across[];
  readonly fees: readonly number[];
  readonly kind: TableKind;
  /** Why a table of kind `unread` is not read. */
  readonly why: Fault;
  /** Whether its sizes are in inches: a divisor then is one of cubic inches a pound. */
  readonly imperial: boolean;

  constructor(
    readonly block: Block,
    readonly around: Around,
  ) {
    const headed = columnsOf(block, around);
    this.columns = headed.columns;
    this.heads = headed.heads;
    const fees = this.at('fee').length;
    this.across = this.columns.map((c) => (c.role === 'fee' ? acrossOf(c, fees, around) : null));
    this.columns = this.columns.map((c, i) =>
      this.across[i]?.by === 'unknown' ? { ...c, role: 'unread' } : c,
    );
    this.fees = this.at('fee');
    const why = this.notHeld();
    this.kind = why === null ? this.kindOf() : 'unread';
    this.why = why ?? fault('scheduleTable');
    const words = block.rows.flatMap((r) => r.cells).join(' ');
    this.imperial =
      weightUnitIn(words) === POUND ||
      lengthUnitIn(words) === INCH ||
      /\b(?:lbs?|oz|inch(?:es)?)\b/i.test(words);
  }

  at(role: Role): number[] {
    return this.columns.flatMap((c, i) => (c.role === role ? [i] : []));
  }

  has(...roles: Role[]): boolean {
    return roles.some((r) => this.columns.some((c) => c.role === r));
  }

  /** Why the table as a whole is of something that a card does not hold; null where it may be held. */
  private notHeld(): Fault | null {
    const { title } = this.block;
    if (isElsewhere(title)) return fault('scheduleElsewhere', { what: title });
    const bySeason = this.across.some((a) => a?.by === 'months');
    if (bySeason && this.has('weight', 'namedWeight', 'sides', 'limits')) return fault('schedulePeak');
    const what = this.columns[0]?.heading ?? '';
    const isChosen = PLANS.test(what) || CHARGES.payment.test(what);
    return isChosen && this.has('percent', 'fee') && !this.has('weight', 'namedWeight', 'sides')
      ? fault('scheduleChosen', { what })
      : null;
  }

  private kindOf(): TableKind {
    const words = `${this.block.title} ${this.columns.map((c) => c.heading).join(' ')}`;
    if (this.isCharges()) return 'charges';
    if (this.has('percent')) return 'referral';
    const months = this.across.some((a) => a?.by === 'months') || this.has('period', 'age');
    if (this.fees.length > 0 && (months || COLUMN_WORDS.storage.test(words))) return 'storage';
    if (
      this.fees.length > 0 &&
      (this.has('weight', 'namedWeight', 'sides', 'maxWeight', 'limits') ||
        this.across.some((a) => a?.by === 'weight'))
    )
      return 'fees';
    if (this.has('sides', 'length', 'girth', 'maxWeight', 'limits')) return 'tiers';
    if (this.fees.length === 0 || !this.has('tier')) return 'unread';
    if (this.isCharges()) return 'charges';
    // A fee beside a name alone is that of a size tier only where the heading says so.
    const [tier] = this.at('tier');
    return SIZE_WORDS.test(this.columns[tier ?? 0]?.heading ?? '') ? 'fees' : 'unread';
  }

  /** Whether the rows are charges by their names: subscription, payment, a fee an item. */
  private isCharges(): boolean {
    const body = this.block.rows.filter((r) => !this.heads.includes(r));
    const named = body.filter((r) => chargeOf(r.cells[0] ?? '') !== null || isCommission(r.cells[0] ?? ''));
    return body.length > 0 && named.length >= body.length / 2 && (this.block.rows[0]?.cells.length ?? 0) <= 3;
  }
}
