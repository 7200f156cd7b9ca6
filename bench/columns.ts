/** Measures of lists in columns: evaluation of all rows, beside the one-by-one evaluation of the same rows. */
import { assumptions, laneOfRow } from '../core/columns/assumptions.ts';
import type { ListRates, RowInputs } from '../core/columns/assumptions.ts';
import { makeColumns, makeResults } from '../core/columns/columns.ts';
import { ListEvaluator } from '../core/columns/evaluate.ts';
import { reckon } from '../core/lane/evaluate.ts';
import type { MarketplaceCard, TaxCard } from '../core/lane/rates.ts';
import { Reckoning } from '../core/lane/reckoning.ts';
import type { ExchangeTable } from '../core/money/money.ts';
import { Draw } from '../core/testing/lanes.ts';
import { starterCards } from '../demo/starterCards.ts';
import type { Measure } from './core.ts';
import { median } from './sheet.ts';

const ROWS = 1_000_000;

export function measureColumns(): Measure[] {
  const cards = Object.fromEntries(starterCards().map((c) => [c.key, c.data]));
  const market = cards['Alderway/DE'] as MarketplaceCard;
  const rates: ListRates = { marketplace: market, tax: cards.DE as TaxCard, exchange: cards.exchange as ExchangeTable, country: 'DE', currency: 'EUR' };
  const set = assumptions.parse({
    homeCurrency: 'EUR', date: '2026-11-24', standing: { kind: 'registered' }, purchase: { currency: 'EUR', vat: 'added', vatRate: 0.19 }, orderQuantity: 24, inbound: { perUnit: 0.2, perKg: 0.15 }, prep: 0.25,
    returns: { rate: 0.04, resaleShare: 0.5, handling: { amount: 0.8, currency: 'EUR' } }, advertPerSale: 0.4, unitsShare: 0.3, category: market.categories[0]?.key ?? null,
  });
  const d = new Draw(5);
  const evaluator = new ListEvaluator(set, rates);
  const columns = makeColumns(ROWS);
  const sample: RowInputs[] = [];
  for (let i = 0; i < ROWS; i++) {
    const cost = d.typed(1, 40);
    const row: RowInputs = { cost, price: Number((cost * (1.2 + 2 * d.next())).toFixed(2)), units: d.int(1, 400), unitsInSoldPack: 1, unitsInBoughtPack: 1, sides: [d.typed(5, 45, 1), d.typed(5, 30, 1), d.typed(2, 20, 1)], kg: d.typed(0.05, 6, 3), category: market.categories[i % market.categories.length]?.key ?? null, taxClass: 'standard', vatRate: null, minimumOrder: null };
    columns.cost[i] = row.cost as number;
    columns.price[i] = row.price as number;
    columns.units[i] = row.units as number;
    [columns.a[i], columns.b[i], columns.c[i]] = row.sides as [number, number, number];
    columns.kg[i] = row.kg as number;
    columns.category[i] = i % market.categories.length;
    if (i < 2000) sample.push(row);
  }
  const out = makeResults(ROWS);
  const preparing: number[] = [];
  const evaluating: number[] = [];
  const rate = (ms: number, n: number): number => (1000 * n) / ms;
  for (let k = 0; k < 7; k++) {
    let started = performance.now();
    evaluator.prepare(columns);
    preparing.push(performance.now() - started);
    started = performance.now();
    evaluator.run(columns, out);
    evaluating.push(performance.now() - started);
  }
  const docs = sample.map((row) => laneOfRow(set, rates, row));
  const r = new Reckoning();
  const single: number[] = [];
  for (let k = 0; k < 40; k++) {
    const started = performance.now();
    for (const doc of docs) reckon(doc, r);
    single.push(performance.now() - started);
  }
  const bulk = rate(median(evaluating.slice(2)), ROWS);
  const alone = rate(median(single.slice(10)), docs.length);
  return [
    { name: 'A million rows evaluated over columns on one core', value: bulk, unit: 'rows/s', aim: 'at least 3,000,000, and 3 times one by one', yardstick: `the same rows one by one (lane documents at hand): ${Math.round(alone).toLocaleString('en')} a second`, ratio: bulk / alone },
    { name: 'Size tiers and fulfilment fees of a million rows, once for a list', value: median(preparing.slice(2)), unit: 'ms', aim: '', yardstick: 'worked out anew where marketplace or way of fulfilment change', ratio: null },
  ];
}
