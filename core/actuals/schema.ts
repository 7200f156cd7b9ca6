/**
 * What a marketplace settled: the kinds of its lines, what each is in the economics of a unit, and how a file of
 * them is read.
 */
import { z } from 'zod';
import type { Line } from '../lane/costLines.ts';
import { country, currency, day, shortText } from '../money/schema.ts';

type Kind = {
  /**
   * `sale`: what buyers pay; `vat`: VAT that stands apart; `back`: what buyers get back; `cost`: a charge of one cost
   * line; `in`: money that makes good a loss; `aside`: moves between accounts, no part of any profit; `told`: told by
   * a report of one's own, of adverts or of a carrier: no money of the marketplace's account moves by it.
   */
  readonly is: 'sale' | 'vat' | 'back' | 'cost' | 'in' | 'aside' | 'told';
  /** The cost line that a charge belongs to. */
  readonly line?: Line;
  /** Its units count: sold, come back, lost, clicked. */
  readonly units?: true;
};
/** Kinds of lines of a settlement. */
export const SETTLED = {
  sale: { is: 'sale', units: true },
  /** Paid by the buyer for delivery. */
  delivery: { is: 'sale' },
  /** Taken off what the buyer pays. */
  discount: { is: 'sale' },
  /** VAT beside an amount without it: above 0 of a sale, below 0 of a refund. */
  vat: { is: 'vat' },
  /** VAT that the marketplace keeps and pays on itself. */
  vatWithheld: { is: 'vat' },
  referral: { is: 'cost', line: 'referral' },
  itemFee: { is: 'cost', line: 'itemFee' },
  payment: { is: 'cost', line: 'payment' },
  surcharge: { is: 'cost', line: 'surcharges' },
  subscription: { is: 'cost', line: 'subscription' },
  fulfilment: { is: 'cost', line: 'fulfilment' },
  storage: { is: 'cost', line: 'storage' },
  refund: { is: 'back', units: true },
  refundFee: { is: 'cost', line: 'returns' },
  adverts: { is: 'cost', line: 'adverts' },
  reimbursement: { is: 'in', units: true },
  other: { is: 'cost', line: 'other' },
  /** Paid out to the bank, or held back and released. */
  transfer: { is: 'aside' },
  /** Clicks on adverts, and what they cost. */
  clicks: { is: 'told', line: 'adverts', units: true },
  /** Units that were sold by adverts, and for how much. */
  advertSale: { is: 'told', units: true },
  /** What a carrier was paid for dispatch of one's own. */
  ownDispatch: { is: 'told', line: 'fulfilment' },
} as const satisfies Record<string, Kind>;
export type SettledKind = keyof typeof SETTLED;
export const SETTLED_KINDS = Object.keys(SETTLED) as SettledKind[];
export const settledRule = (kind: SettledKind): Kind => SETTLED[kind];
/** Where each kind stands in a row of sums. */
export const KIND_AT = Object.fromEntries(SETTLED_KINDS.map((k, i) => [k, i])) as Readonly<
  Record<SettledKind, number>
>;

/** Columns a file of settlement lines may have, beside its amounts. */
export const SETTLED_COLUMNS = [
  'line',
  'day',
  'order',
  'code',
  'kind',
  'units',
  'clicks',
  'tax',
  'currency',
  'country',
] as const;
export type SettledColumn = (typeof SETTLED_COLUMNS)[number];

/** A kind of line as a file says it, so that capitals and spaces do not make two of one. */
export const foldKind = (text: string): string => text.trim().replace(/\s+/g, ' ').toLowerCase();

/**
 * How files of a marketplace and country are read; remembered once somebody has said it. An amount is of the kind
 * that its column is given, else of the kind that the row says.
 */
export const settlementMap = z.strictObject({
  format: z.literal('bold-margin/settlement-map').default('bold-margin/settlement-map'),
  version: z.literal(1).default(1),
  columns: z.partialRecord(z.enum(SETTLED_COLUMNS), shortText),
  onDay: day
    .nullable()
    .default(null)
    .meta({ description: 'The day of all rows, where no column says one: a report by search terms, a bill' }),
  amounts: z
    .array(z.strictObject({ column: shortText, kind: z.enum(SETTLED_KINDS).nullable().default(null) }))
    .min(1, 'settledNoAmount')
    .max(40),
  decimal: z.enum(['point', 'comma']).default('point'),
  days: z.enum(['dayFirst', 'monthFirst']).default('dayFirst'),
  signs: z
    .enum(['account', 'bare'])
    .default('account')
    .meta({ description: 'account: what is taken is below 0; bare: every amount is written without a sign' }),
  tax: z
    .enum(['included', 'beside'])
    .default('included')
    .meta({ description: 'Whether amounts hold the tax that stands in the tax column' }),
  kinds: z
    .record(z.string().max(200), z.enum(SETTLED_KINDS))
    .default({})
    .refine((kinds) => Object.keys(kinds).length <= 500, 'settledManyKinds')
    .meta({ description: 'What each kind of line is, by its text in small letters' }),
});
export type SettlementMap = z.output<typeof settlementMap>;

/** Whose settlement it is: each marketplace settles each country in one currency. */
export const settledPlace = z.strictObject({ marketplace: shortText, country, currency });
export type SettledPlace = z.output<typeof settledPlace>;

/** Amounts are kept in steps of a ten-thousandth, so that sums of a million of them are exact. */
export const STEPS = 10_000;
/** The most one line may say, either way. */
export const MOST_AMOUNT = 1e9;

/**
 * A line as it was settled. `amount` as it reaches the account, in steps: above 0 it comes in, below 0 it is taken;
 * with the tax it bears. `tax`: of that, in steps; null: not said. `kind` null: nobody has said what it is.
 */
export type SettledLine = {
  readonly row: number;
  readonly key: string;
  readonly day: string;
  readonly order: string;
  readonly code: string;
  readonly kind: SettledKind | null;
  readonly said: string;
  readonly amount: number;
  readonly tax: number | null;
  readonly units: number;
};
