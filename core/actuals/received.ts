/** What goods really cost to land, by the orders they came with: first in, first out. */
import { dayText } from '../cash/calendar.ts';
import { daysOf } from '../cash/terms.ts';
import type { Line } from '../lane/costLines.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { exchangeFactor } from '../money/money.ts';
import { partsBy } from '../orders/bills.ts';
import type { Measures } from '../orders/bills.ts';
import type { Order, OrderLine } from '../orders/schema.ts';
import { arrivedOf, isPromised } from '../orders/states.ts';
import { orderSaid } from '../orders/totals.ts';
import type { OrderSaid } from '../orders/totals.ts';

/** Goods of one receipt. Units as they are sold; what each line came to a unit, sales currency, where it is known. */
export type Layer = {
  readonly day: string;
  readonly order: number;
  readonly units: number;
  readonly lines: Readonly<Partial<Record<Line, number>>>;
};

/** What the account was charged for one of the order's currency, in the sales currency; NaN: not known. */
function factorOf(order: Order, doc: LaneDocument): number {
  const { currency } = order.terms;
  const { exchange } = doc.rates;
  if (currency === doc.currency) return 1;
  const paid = order.progress.payments.reduce((s, p) => s + p.amount, 0);
  const home = order.progress.payments.reduce((s, p) => s + p.home, 0);
  return paid > 0
    ? (home / paid) * exchangeFactor(exchange, doc.homeCurrency, doc.currency)
    : exchangeFactor(exchange, currency, doc.currency);
}

/**
 * What a whole line of an order came to, by line of the build-up, sales currency. The way in is known only where
 * there is a bill, a delivery or a charge for it; what is shared by something unknown is not known.
 */
function billedOf(
  order: Order,
  said: OrderSaid,
  line: OrderLine,
  doc: LaneDocument,
  measures: ReadonlyMap<string, Measures>,
): Partial<Record<Line, number>> {
  const factor = factorOf(order, doc);
  const fromHome = exchangeFactor(doc.rates.exchange, doc.homeCurrency, doc.currency);
  const billed: Partial<Record<Line, number>> = {};
  const add = (to: Line, amount: number): void => {
    billed[to] = (billed[to] ?? 0) + amount;
  };
  const own = said.lines.find((l) => l.id === line.id);
  add('goods', (own?.amount?.net ?? Number.NaN) * factor);
  const byValue = partsBy('value', said, measures)?.get(line.id) ?? Number.NaN;
  if (said.delivery !== null && said.delivery.net > 0) add('freight', said.delivery.net * factor * byValue);
  if (said.charges > 0) add('buyingCosts', said.charges * factor * byValue);
  for (const bill of order.progress.bills) {
    const part = partsBy(bill.by, said, measures)?.get(line.id) ?? Number.NaN;
    add(bill.kind, bill.amount * fromHome * part);
  }
  return billed;
}

/** Goods of a lane that have come in with one order; damaged ones make the good ones of their receipt dearer. */
function layersIn(order: Order, laneId: string, doc: LaneDocument, measures: ReadonlyMap<string, Measures>) {
  const said = orderSaid(order.terms, order.terms.placedOn ?? '');
  const [goods] = Array.isArray(doc.goods) ? doc.goods : [];
  const packs = goods === undefined ? 1 : goods.unitsInBoughtPack / goods.unitsInSoldPack;
  return order.terms.lines
    .filter((l) => l.laneId === laneId)
    .flatMap((line) => {
      const units = said.lines.find((l) => l.id === line.id)?.units ?? 0;
      const billed = billedOf(order, said, line, doc, measures);
      return order.progress.receipts.flatMap((r): Layer[] => {
        const came = r.lines.find((l) => l.line === line.id);
        if (came === undefined || came.units <= 0 || units <= 0) return [];
        const each = (came.units + came.damaged) / units / (came.units * packs);
        const lines = Object.fromEntries(
          Object.entries(billed)
            .filter(([, amount]) => Number.isFinite(amount))
            .map(([l, amount]) => [l, amount * each]),
        );
        return [{ day: r.day, order: order.number, units: came.units * packs, lines }];
      });
    });
}

/**
 * Goods of a lane as they came in, the earliest first. Only lanes of one kind of goods: parts of a bundle come with
 * orders of their own, and none of them is a unit.
 *
 * @param measures weight and volume of a bought unit, by the order's lines
 */
export function layersOf(
  orders: readonly Order[],
  laneId: string,
  doc: LaneDocument,
  measures: ReadonlyMap<string, Measures>,
): Layer[] {
  if (!Array.isArray(doc.goods) || doc.goods.length !== 1) return [];
  return orders
    .filter((o) => o.state !== 'cancelled' && o.state !== 'draft')
    .flatMap((o) => layersIn(o, laneId, doc, measures))
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.order - b.order));
}

/** Sold units of a lane that were ordered and have not come in, with the day they should be on the shelf. */
export type Coming = { readonly day: string | null; readonly units: number };

/** What is on its way to a lane's shelf; `day` null: nothing says when. */
export function onTheWay(orders: readonly Order[], laneId: string, doc: LaneDocument): Coming[] {
  const [goods] = Array.isArray(doc.goods) ? doc.goods : [];
  if (goods === undefined) return [];
  const { lead, transit, inbound } = daysOf(doc).days;
  return orders
    .filter((o) => isPromised(o.state) && o.state !== 'received')
    .flatMap(({ terms, progress }): Coming[] => {
      const open = terms.lines
        .filter((l) => l.laneId === laneId)
        .reduce((sum, l) => sum + Math.max(0, arrivedOf(l, progress).open ?? 0), 0);
      const days = (terms.leadDays ?? lead) + transit + inbound;
      const known = terms.placedOn !== null && Number.isFinite(days);
      const day = known ? dayText(terms.placedOn as string, Math.ceil(days)) : null;
      return open === 0 ? [] : [{ day, units: (open * goods.unitsInBoughtPack) / goods.unitsInSoldPack }];
    });
}

/** Of the units that left: what share of them a cost is known of, and what it was a unit of those. */
export type ReceivedLine = { readonly share: number; readonly each: number };
export type ReceivedCost = Readonly<Partial<Record<Line, ReceivedLine>>>;

/** Units of one receipt that have not left. */
export type Remaining = Pick<Layer, 'units' | 'lines'>;

/** Takes units out of layers, the earliest first. What is more than came in has no cost that is known. */
export class FirstOut {
  private readonly left: { units: number; lines: Layer['lines'] }[];

  constructor(layers: readonly Layer[]) {
    this.left = layers.map(({ units, lines }) => ({ units, lines }));
  }

  /** @param units sold units that left; 0 or less: none did */
  take(units: number): ReceivedCost {
    const sums: Partial<Record<Line, { units: number; amount: number }>> = {};
    let wanted = Math.max(0, units);
    for (const layer of this.left) {
      const some = Math.min(wanted, layer.units);
      if (some <= 0) continue;
      layer.units -= some;
      wanted -= some;
      for (const [line, each] of Object.entries(layer.lines) as [Line, number][]) {
        const sum = sums[line] ?? { units: 0, amount: 0 };
        sums[line] = { units: sum.units + some, amount: sum.amount + some * each };
      }
    }
    return Object.fromEntries(
      Object.entries(sums).map(([line, s]) => {
        const share = s.units >= units - 1e-9 ? 1 : s.units / units;
        return [line, { share, each: s.amount / s.units }];
      }),
    );
  }

  /** What is left of the layers, the earliest first. */
  rest(): readonly Remaining[] {
    return this.left.filter((l) => l.units > 0);
  }
}
