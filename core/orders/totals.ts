/**
 * What an order comes to. Each amount of a line is rounded to the minor unit of the order's currency, as it stands on
 * the order; sums are sums of what stands there, so that lines add up to the total.
 */
import { dayText } from '../cash/calendar.ts';
import { minorDigits, powerOfTen } from '../money/money.ts';
import { roundMinor } from '../rules/numbers.ts';
import { withoutVat } from '../rules/revenue.ts';
import { misfitOf, nextBreak, priceAt, togetherWith, unitsOf } from './fit.ts';
import type { Misfit, NextBreak } from './fit.ts';
import type { Order, OrderLine, OrderTerms } from './schema.ts';

/** An amount with the VAT on it; all in the order's currency, rounded. */
export type Taxed = { readonly net: number; readonly vat: number; readonly gross: number };
export type LineSaid = {
  readonly id: string;
  readonly units: number | null;
  /** As quoted or confirmed, per bought unit; null: not known, or no break reaches the quantity. */
  readonly unitPrice: number | null;
  readonly amount: Taxed | null;
  readonly misfit: Misfit | null;
  readonly nextBreak: NextBreak | null;
  /** Its quote ran out before the day asked for. */
  readonly expired: boolean;
};
export type Due = {
  readonly kind: 'deposit' | 'balance';
  readonly amount: number;
  /** Null: nothing says when. */
  readonly day: string | null;
};
/** What of an order's total is not known. */
export type OrderLack = 'units' | 'price' | 'delivery' | 'charges';
export type OrderSaid = {
  readonly lines: readonly LineSaid[];
  /** Known lines alone, net of VAT. */
  readonly goods: number;
  readonly delivery: Taxed | null;
  readonly charges: number;
  readonly vat: number;
  /** What the supplier is paid, VAT included; where something lacks, it comes to at least this. */
  readonly total: number;
  readonly lacks: readonly OrderLack[];
  /** What goods still lack to the least value the supplier takes an order for; 0: nothing. */
  readonly shortOfMinimum: number;
  readonly due: readonly Due[];
};

const rounded = (x: number, currency: string): number => roundMinor(x, powerOfTen(minorDigits(currency)));

/**
 * An amount as quoted, with VAT in it, on top of it, or none.
 *
 * @example taxed(121, { vat: 'included', vatRate: 0.21 }, 'EUR') // { net: 100, vat: 21, gross: 121 }
 */
export function taxed(quoted: number, how: Pick<OrderLine, 'vat' | 'vatRate'>, currency: string): Taxed {
  const amount = rounded(quoted, currency);
  if (how.vat === 'included') {
    const net = rounded(withoutVat(amount, how.vatRate), currency);
    return { net, vat: rounded(amount - net, currency), gross: amount };
  }
  const vat = how.vat === 'added' ? rounded(amount * how.vatRate, currency) : 0;
  return { net: amount, vat, gross: rounded(amount + vat, currency) };
}

function lineSaid(line: OrderLine, terms: OrderTerms, onDay: string): LineSaid {
  const units = line.confirmed?.units ?? line.units;
  const group = togetherWith(line, terms.lines);
  const together = unitsOf(group);
  const unitPrice =
    line.confirmed?.unitPrice ?? (together === null || units === null ? null : priceAt(line, together));
  const open = line.confirmed === null && units !== null;
  return {
    id: line.id,
    units,
    unitPrice,
    amount: units === null || unitPrice === null ? null : taxed(units * unitPrice, line, terms.currency),
    misfit: open ? misfitOf(units, line, (together ?? units) - units) : null,
    nextBreak: open && together !== null ? nextBreak(line, together) : null,
    expired: line.confirmed === null && line.validUntil !== null && line.validUntil < onDay,
  };
}

/** What an order comes to on a day, and when it is due. */
export function orderSaid(terms: OrderTerms, onDay: string): OrderSaid {
  const { currency } = terms;
  const sum = (of: readonly number[]): number =>
    rounded(
      of.reduce((a, b) => a + b, 0),
      currency,
    );
  const lines = terms.lines.map((l) => lineSaid(l, terms, onDay));
  const amounts = lines.flatMap((l) => l.amount ?? []);
  const delivery = terms.delivery === null ? null : taxed(terms.delivery, terms.deliveryVat, currency);
  const goods = sum(amounts.map((a) => a.net));
  const charges = sum(terms.charges.map((c) => c.amount ?? 0));
  const vat = sum([...amounts.map((a) => a.vat), delivery?.vat ?? 0]);
  const total = sum([...amounts.map((a) => a.gross), delivery?.gross ?? 0, charges]);
  const lacks: OrderLack[] = [
    ...(lines.some((l) => l.units === null) ? (['units'] as const) : []),
    ...(lines.some((l) => l.units !== null && l.unitPrice === null) ? (['price'] as const) : []),
    ...(delivery === null ? (['delivery'] as const) : []),
    ...(terms.charges.some((c) => c.amount === null) ? (['charges'] as const) : []),
  ];
  return {
    lines,
    goods,
    delivery,
    charges,
    vat,
    total,
    lacks,
    shortOfMinimum: Math.max(0, rounded(terms.minimumValue - goods, currency)),
    due: dueOf(terms, total),
  };
}

/**
 * Deposit and balance with their days: those that were agreed, else the deposit with the order, and the balance when
 * the goods are ready and the credit has run out. What is nothing is not due.
 */
function dueOf(terms: OrderTerms, total: number): Due[] {
  const deposit = rounded(total * (terms.depositShare ?? 1), terms.currency);
  const balance = rounded(total - deposit, terms.currency);
  const { placedOn, leadDays, creditDays } = terms;
  const ready =
    placedOn === null || leadDays === null ? null : dayText(placedOn, Math.round(leadDays + creditDays));
  const due: Due[] = [
    { kind: 'deposit', amount: deposit, day: terms.depositDay ?? placedOn },
    { kind: 'balance', amount: balance, day: terms.balanceDay ?? ready },
  ];
  return due.filter((d) => d.amount > 0);
}

/** What has been paid of an order, in its currency. */
export const paidOf = (order: Pick<Order, 'progress' | 'terms'>): number =>
  rounded(
    order.progress.payments.reduce((s, p) => s + p.amount, 0),
    order.terms.currency,
  );

/** What of a total is still to pay, in the order's currency; never below 0. */
export const openOf = (order: Pick<Order, 'progress' | 'terms'>, said: OrderSaid): number =>
  Math.max(0, rounded(said.total - paidOf(order), order.terms.currency));

/** The next amount that is due and not paid yet, and its day; null: all is paid. */
export function nextDue(order: Pick<Order, 'progress' | 'terms'>, said: OrderSaid): Due | null {
  let paid = paidOf(order);
  for (const d of said.due) {
    if (paid < d.amount - 1e-9) return { ...d, amount: rounded(d.amount - paid, order.terms.currency) };
    paid -= d.amount;
  }
  return null;
}
