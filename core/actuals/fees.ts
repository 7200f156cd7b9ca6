/** What each order should have been charged by the card, beside what was charged: what there is to claim. */
import type { Line } from '../lane/costLines.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { minorDigits, powerOfTen } from '../money/money.ts';
import { priceOfGross } from '../rules/revenue.ts';
import { unitAt } from './actual.ts';
import { settledRule, STEPS } from './schema.ts';
import type { SettledKind } from './schema.ts';

/** Fees that a card states for each order. */
export const FEE_KINDS = [
  'referral',
  'itemFee',
  'payment',
  'surcharge',
  'fulfilment',
] as const satisfies SettledKind[];
export type FeeKind = (typeof FEE_KINDS)[number];

/** The lines of one kind that an order of one code has; amounts and taxes in steps, as they reach the account. */
export type OrderLines = {
  readonly order: string;
  readonly code: string;
  readonly kind: SettledKind;
  /** First day of them. */
  readonly day: string;
  readonly amount: number;
  /** Of the amount, what came in: a refund turns the VAT, the delivery, the discount of its sale round. */
  readonly above: number;
  /** null: no line says any. */
  readonly tax: number | null;
  readonly units: number;
  readonly lines: number;
};

/**
 * A fee that is more than the card's. Amounts in the sales currency, without the VAT that fees bear where the lines
 * say it; where they do not and the card charges some, both are with it, so that no VAT is claimed.
 */
export type Overcharge = {
  readonly order: string;
  readonly code: string;
  readonly kind: FeeKind;
  readonly day: string;
  readonly units: number;
  readonly due: number;
  readonly charged: number;
  /** `twice`: as much as twice the fee, in several lines; `aboveCard`: otherwise more than the card's. */
  readonly why: 'twice' | 'aboveCard';
};

/** Minor units that rounding may make of each line: more is an overcharge. */
const ROUNDING = 1;
/** A fee taken twice comes to this share of twice the card's at least. */
const NEARLY = 0.95;

/**
 * What one unit owes the marketplace by a lane's card; NaN where the card does not say.
 *
 * @param doc the lane with the card that was in force on the day of the sale
 * @param gross what the buyer paid for a unit, sales currency, VAT as the lane has it
 */
export function feeDue(doc: LaneDocument, kind: FeeKind, gross: number): number {
  const line = settledRule(kind).line as Line;
  const price = Math.max(0, priceOfGross(gross, doc.shippingCharged, doc.averageDiscount));
  return unitAt(doc, price).lines[line];
}

/** What VAT makes of a fee that may hold some: the card charges it, and the lines do not say how much. */
function withVat(doc: LaneDocument, kind: FeeKind, tax: number | null): number {
  const feeVat = doc.rates.marketplace?.feeVat;
  const key = kind === 'surcharge' ? 'surcharges' : kind;
  const bears = feeVat?.treatment === 'charged' && feeVat.bears.includes(key);
  return tax === null && bears ? 1 + feeVat.rate : 1;
}

/** What the buyer paid for a unit, by the lines of the sale alone: what was given back since is no part of it. */
function grossOf(lines: readonly OrderLines[], units: number, exclusive: boolean): number {
  const paid = lines.reduce((sum, l) => {
    if (l.kind === 'sale' || l.kind === 'delivery') return sum + l.above - (exclusive ? (l.tax ?? 0) : 0);
    if (l.kind === 'discount') return sum + l.amount - l.above;
    return l.kind === 'vat' && !exclusive ? sum + l.above : sum;
  }, 0);
  return paid / STEPS / units;
}

const isFee = (kind: SettledKind): kind is FeeKind => (FEE_KINDS as readonly SettledKind[]).includes(kind);

/**
 * The overcharges of one order of one code. Only orders whose sale is known are judged: what a fee without its sale
 * should have been, nobody knows; a fee one pays oneself (own dispatch) is not the marketplace's. A fee that came back
 * with a refund is no overcharge.
 *
 * @param lines all lines of the order, a kind each
 * @param docOn the lane with the card that was in force on a day
 */
export function overchargesOf(
  lines: readonly OrderLines[],
  docOn: (day: string) => LaneDocument,
): Overcharge[] {
  const sale = lines.find((l) => l.kind === 'sale');
  if (sale === undefined || sale.units <= 0 || sale.order === '') return [];
  const doc = docOn(sale.day);
  const gross = grossOf(lines, sale.units, doc.rates.tax?.regime === 'exclusive');
  const minor = 1 / powerOfTen(minorDigits(doc.currency));
  return lines.flatMap(({ kind, order, code, day, amount, tax, lines: n }): Overcharge[] => {
    if (!isFee(kind) || (kind === 'fulfilment' && doc.method !== 'warehouse')) return [];
    const owed = feeDue(doc, kind, gross) * withVat(doc, kind, tax) * sale.units;
    const charged = -(amount - (tax ?? 0)) / STEPS;
    if (!(charged - owed > ROUNDING * minor * n + 1e-9)) return [];
    const why = n > 1 && owed > 0 && charged >= NEARLY * 2 * owed ? 'twice' : 'aboveCard';
    return [{ order, code, kind, day, units: sale.units, due: owed, charged, why }];
  });
}

/** Overcharges that are claimed together: of one code, kind and month, for one reason. */
export type Claim = {
  readonly code: string;
  readonly kind: FeeKind;
  readonly month: string;
  readonly why: Overcharge['why'];
  readonly count: number;
  /** Of the orders of that code and month that bear such a fee. */
  readonly of: number;
  readonly due: number;
  readonly charged: number;
  /** The dearest of them, most first. */
  readonly orders: readonly Pick<Overcharge, 'order' | 'day' | 'units' | 'due' | 'charged'>[];
};

/** How far a claim is. `dropped`: one has let it be. */
export const CLAIM_STATES = ['open', 'claimed', 'granted', 'refused', 'dropped'] as const;
export type ClaimState = (typeof CLAIM_STATES)[number];

/** Orders that a claim names one by one. */
const MOST_NAMED = 200;

/** Gathers the claims of many orders, so that none of them is kept but those that are named. */
export class Claims {
  private readonly found = new Map<string, Omit<Claim, 'of' | 'orders'> & { orders: Overcharge[] }>();
  private readonly charged = new Map<string, number>();

  /** @param lines all lines of one order of one code, a kind each */
  add(lines: readonly OrderLines[], over: readonly Overcharge[]): void {
    for (const l of lines)
      if (isFee(l.kind)) {
        const key = `${l.code}\n${l.kind}\n${l.day.slice(0, 7)}`;
        this.charged.set(key, (this.charged.get(key) ?? 0) + 1);
      }
    for (const o of over) {
      const month = o.day.slice(0, 7);
      const key = `${o.code}\n${o.kind}\n${month}\n${o.why}`;
      const c = this.found.get(key) ?? {
        ...{ code: o.code, kind: o.kind, month, why: o.why, count: 0, due: 0, charged: 0 },
        orders: [],
      };
      const orders = [...c.orders, o];
      if (orders.length >= 2 * MOST_NAMED) orders.sort(byOver).length = MOST_NAMED;
      this.found.set(key, {
        ...c,
        count: c.count + 1,
        due: c.due + o.due,
        charged: c.charged + o.charged,
        orders,
      });
    }
  }

  all(): Claim[] {
    return [...this.found.values()].map((c) => ({
      ...c,
      of: this.charged.get(`${c.code}\n${c.kind}\n${c.month}`) ?? c.count,
      orders: c.orders
        .sort(byOver)
        .slice(0, MOST_NAMED)
        .map(({ order, day, units, due, charged }) => ({ order, day, units, due, charged })),
    }));
  }
}
const byOver = (a: Overcharge, b: Overcharge): number => b.charged - b.due - (a.charged - a.due);
