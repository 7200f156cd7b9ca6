/** Random rows of lists, and the assumptions they are screened under. */
import { assumptions } from '../columns/assumptions.ts';
import type { Assumptions, ListRates, RowInputs } from '../columns/assumptions.ts';
import { makeColumns } from '../columns/columns.ts';
import type { ListColumns } from '../columns/columns.ts';
import type { ListEvaluator } from '../columns/evaluate.ts';
import { Draw } from './draw.ts';
import { randomLane } from './lanes.ts';

const TAX_CLASSES = ['standard', 'reduced', 'nowhere'];
/** Rates and assumptions drawn from a seed, with the lane the rates were drawn for. */
export function randomScreening(seed: number): { d: Draw; rates: ListRates; set: Assumptions } {
  const d = new Draw(seed * 7919);
  const doc = randomLane(seed);
  const rates: ListRates = {
    marketplace: doc.rates.marketplace,
    tax: doc.rates.tax,
    exchange: doc.rates.exchange,
    country: doc.country,
    currency: doc.currency,
  };
  return { d, rates, set: randomAssumptions(d, rates) };
}
const money = (d: Draw, from: number, to: number) => d.typed(from, to);

export function randomAssumptions(d: Draw, rates: ListRates): Assumptions {
  const line = () => ({
    amount: money(d, 0, 3),
    currency: d.pick(['EUR', rates.currency]),
    vat: d.pick(['none', 'included', 'added'] as const),
    vatRate: d.pick([0, 0.19]),
    recoverable: d.pick([null, true, false]),
  });
  return assumptions.parse({
    homeCurrency: 'EUR',
    date: '2026-11-24',
    standing: d.maybe(0.95, () =>
      d.pick([
        { kind: 'registered' as const },
        { kind: 'notRegistered' as const },
        { kind: 'flatRate' as const, rate: 0.05 },
        { kind: 'marketplaceRemits' as const, recoverable: d.chance(0.5) },
      ]),
    ),
    method: d.pick(['warehouse', 'warehouse', 'ownDispatch'] as const),
    purchase: {
      currency: d.pick(['EUR', 'USD', rates.currency]),
      vat: d.pick(['asTyped', 'included', 'added'] as const),
      vatRate: d.pick([0, 0.19, 0.2]),
      recoverable: d.pick([null, null, true, false]),
      discount: d.chance(0.3) ? d.typed(0.05, 0.5) : 0,
      salesTax: d.chance(0.2) ? 0.08 : 0,
      cashback: d.chance(0.2) ? 0.03 : 0,
    },
    orderQuantity: d.int(1, 60),
    inbound: { perUnit: d.chance(0.5) ? money(d, 0.1, 1) : 0, perKg: d.chance(0.5) ? money(d, 0.1, 1) : 0 },
    prep: d.maybe(0.9, () => money(d, 0, 1)),
    dispatch: d.maybe(0.9, () => ({
      zones: [
        {
          name: 'near',
          share: 0.75,
          postage: {
            currency: d.pick(['EUR', rates.currency]),
            steps: [
              { upToKg: 1, fee: 3.5 },
              { upToKg: 5, fee: 5 },
            ],
            stepKg: d.pick([null, 1]),
            stepFee: 0.7,
          },
        },
        { name: 'far', share: 0.25, postage: { currency: 'EUR', steps: [{ upToKg: 30, fee: 9 }] } },
      ],
      packagingKg: 0.1,
      packaging: d.maybe(0.5, line),
      pickAndPack: d.maybe(0.5, line),
      vat: d.pick(['none', 'added'] as const),
      vatRate: 0.19,
    })),
    returns: d.chance(0.2)
      ? d.pick(['none' as const, null])
      : {
          rate: d.typed(0, 0.2),
          resaleShare: d.pick([0, 0.5]),
          handling: d.maybe(0.5, line),
          disposal: d.maybe(0.5, line),
        },
    breakage: d.pick([0, 0.02]),
    advertPerSale: d.maybe(0.9, () => d.pick([0, 1.25])),
    monthsHeld: d.maybe(0.4, () => d.typed(0, 9)),
    saleMonth: d.maybe(0.4, () => d.int(1, 12)),
    unitsShare: d.pick([1, 0.3]),
    conversionSpread: d.pick([0, 0.02]),
    otherPerUnit: d.pick([0, 0.2]),
    category: d.maybe(0.5, () => rates.marketplace?.categories[0]?.key ?? 'nothing'),
  });
}

export function randomRow(d: Draw, rates: ListRates): RowInputs {
  const keys = rates.marketplace?.categories.map((c) => c.key) ?? [];
  return {
    cost: d.maybe(0.95, () => money(d, 0, 60)),
    price: d.maybe(0.9, () => money(d, 0, 120)),
    units: d.maybe(0.8, () => d.pick([0, 1, 12, 300])),
    unitsInSoldPack: d.pick([1, 1, 1, 3, 4]),
    unitsInBoughtPack: d.pick([1, 1, 1, 6]),
    sides: d.maybe(0.85, () => [d.typed(1, 70, 1), d.typed(1, 50, 1), d.typed(1, 40, 1)] as const),
    kg: d.maybe(0.9, () => d.typed(0.05, 25, 3)),
    category: d.maybe(0.7, () => d.pick([...keys, 'unknown to the card'])),
    taxClass: d.pick(TAX_CLASSES),
    vatRate: d.maybe(0.3, () => d.pick([0, 0.07, 0.19])),
    minimumOrder: d.maybe(0.3, () => d.int(1, 200)),
    carton: d.maybe(0.3, () => d.pick([1, 2, 6, 10, 24])),
    breaks: d.chance(0.4)
      ? d.list(0, 2, () => ({ from: d.pick([5, 10, 12, 48, 100]), cost: money(d, 0, 55) }))
      : [],
  };
}

/** Puts rows into columns, as a list does when it is brought in. */
export function columnsOf(rows: readonly RowInputs[], e: ListEvaluator): ListColumns {
  const c = makeColumns(rows.length, TAX_CLASSES);
  rows.forEach((r, i) => {
    const put = (
      name:
        | 'cost'
        | 'price'
        | 'units'
        | 'kg'
        | 'vatRate'
        | 'minimumOrder'
        | 'carton'
        | 'breakFrom'
        | 'breakCost'
        | 'breakFrom2'
        | 'breakCost2',
      x: number | null,
    ): void => {
      if (x !== null) c[name][i] = x;
    };
    put('cost', r.cost);
    put('price', r.price);
    put('units', r.units);
    put('kg', r.kg);
    put('vatRate', r.vatRate);
    put('minimumOrder', r.minimumOrder);
    put('carton', r.carton);
    for (const [k, b] of r.breaks.entries()) {
      put(k === 0 ? 'breakFrom' : 'breakFrom2', b.from);
      put(k === 0 ? 'breakCost' : 'breakCost2', b.cost);
    }
    c.soldPack[i] = r.unitsInSoldPack;
    c.boughtPack[i] = r.unitsInBoughtPack;
    if (r.sides !== null) [c.a[i], c.b[i], c.c[i]] = r.sides;
    c.category[i] = e.categoryAt(r.category);
    c.taxClass[i] = TAX_CLASSES.indexOf(r.taxClass);
  });
  return c;
}
