/** A purchase order: what is bought from one supplier in one currency, its terms, and how it went. */
import { z } from 'zod';
import { isGtin } from '../goods/gtin.ts';
import { mailAddress } from '../mail/schema.ts';
import { currency, day, nonNegative, orBlank, pieces, positive, rate, share } from '../money/schema.ts';
import { partOf } from '../workspace/part.ts';
import { bill } from './bills.ts';

export const ORDER_STATES = [
  'draft',
  'sent',
  'confirmed',
  'onItsWay',
  'received',
  'closed',
  'cancelled',
] as const;
export type OrderState = (typeof ORDER_STATES)[number];

const id = z.string().min(1).max(64);
const vat = { vat: z.enum(['none', 'included', 'added']).default('none'), vatRate: rate.default(0) };

export const orderLine = z.strictObject({
  id,
  name: z.string().trim().min(1, 'orderLineNoName').max(500),
  /** The supplier's own number for the goods. */
  code: z.string().trim().max(100).default(''),
  gtin: z.string().refine(isGtin, 'wrongCheckDigit').nullable().default(null),
  candidateId: orBlank(id),
  laneId: orBlank(id),
  quoteId: orBlank(id),
  /** Bought units: what the supplier counts. */
  units: orBlank(positive),
  priceBreaks: z
    .array(z.strictObject({ minQty: nonNegative, unitPrice: orBlank(nonNegative) }))
    .min(1)
    .max(50)
    .refine((b) => b.every((x, i) => i === 0 || x.minQty > (b[i - 1]?.minQty ?? 0)), 'breaksRise'),
  minimumOrder: nonNegative.default(0),
  /** Units in a carton; blank: sold singly. */
  carton: orBlank(pieces),
  ...vat,
  /** Last day on which the quote holds. */
  validUntil: orBlank(day),
  /** What the supplier confirmed: beats what was ordered, and the price breaks. */
  confirmed: orBlank(z.strictObject({ units: nonNegative, unitPrice: nonNegative })),
});
export type OrderLine = z.output<typeof orderLine>;

/** What is agreed with the supplier. Editable while the order is a draft. */
export const orderTerms = z.strictObject({
  supplier: z.string().trim().max(200).default(''),
  supplierId: orBlank(id),
  mail: z.union([z.literal(''), mailAddress]).default(''),
  currency,
  lines: z.array(orderLine).max(500, 'orderManyLines').default([]),
  /** Delivery for the whole order; blank: not known. */
  delivery: orBlank(nonNegative),
  deliveryVat: z.strictObject(vat).prefault({}),
  charges: z
    .array(z.strictObject({ name: z.string().trim().max(200), amount: orBlank(nonNegative) }))
    .max(20)
    .default([]),
  /** The least a supplier takes an order for, net of VAT, in the order's currency. */
  minimumValue: nonNegative.default(0),
  /** Paid with the order; blank counts as 1, all of it. */
  depositShare: orBlank(share),
  depositDay: orBlank(day),
  balanceDay: orBlank(day),
  leadDays: orBlank(nonNegative.max(3650)),
  creditDays: nonNegative.max(3650).default(0),
  /** The day it is (to be) placed on. */
  placedOn: orBlank(day),
  wantedBy: orBlank(day),
  incoterm: z.string().max(20).default(''),
  /** What the supplier reads below the lines. */
  note: z.string().max(5000).default(''),
});
export type OrderTerms = z.output<typeof orderTerms>;
/**
 * Some fields of an order, as a change sends them; lines by their ids, so that two who change different ones keep
 * both.
 */
export const orderChange = z.strictObject({
  terms: partOf(orderTerms.omit({ lines: true })).default({}),
  /** Lines that were changed or added; null: taken out. */
  lines: z.record(id, orderLine.nullable()).default({}),
  /** Ids of all lines in their order. */
  sequence: z.array(id).max(500, 'orderManyLines').optional(),
});
export type OrderChange = z.output<typeof orderChange>;

/** Goods that came in: good units, and damaged ones, by line. */
export const receipt = z.strictObject({
  id,
  day,
  lines: z.array(z.strictObject({ line: id, units: nonNegative, damaged: nonNegative.default(0) })).max(500),
  note: z.string().trim().max(1000).default(''),
});
export type Receipt = z.output<typeof receipt>;

/** A payment that was made: in the order's currency, and what it took from the account in the home currency. */
export const payment = z.strictObject({ id, day, amount: positive, home: nonNegative });
export type Payment = z.output<typeof payment>;

export const orderStep = z.strictObject({
  state: z.enum(ORDER_STATES),
  at: z.string(),
  by: z.string(),
  note: z.string().max(1000).default(''),
});
export type OrderStep = z.output<typeof orderStep>;

/** How an order went so far. */
export const orderProgress = z.strictObject({
  receipts: z.array(receipt).max(200).default([]),
  payments: z.array(payment).max(50).default([]),
  /** What the way in cost, as it was billed. */
  bills: z.array(bill).max(100).default([]),
  steps: z.array(orderStep).max(200).default([]),
});
export type OrderProgress = z.output<typeof orderProgress>;

export type Order = {
  readonly id: string;
  /** Counts up within a workspace. */
  readonly number: number;
  readonly state: OrderState;
  readonly terms: OrderTerms;
  readonly progress: OrderProgress;
};
