import { createReadStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Papa from 'papaparse';
/** Measures of lists in columns: evaluation of all rows, beside the one-by-one evaluation of the same rows. */
import { assumptions, laneOfRow } from '../core/columns/assumptions.ts';
import type { ListRates, RowInputs } from '../core/columns/assumptions.ts';
import { makeColumns, makeResults, makeSolved } from '../core/columns/columns.ts';
import { ListEvaluator } from '../core/columns/evaluate.ts';
import { makePrepared } from '../core/columns/prepare.ts';
import { solveColumns } from '../core/columns/solve.ts';
import { selectRows, sortRows, summarise } from '../core/columns/select.ts';
import { judgeRows } from '../core/columns/verdicts.ts';
import { highestPurchaseCost, priceFor } from '../core/lane/solve.ts';
import { reckon } from '../core/lane/reckon.ts';
import type { MarketplaceCard, TaxCard } from '../core/cards/rates.ts';
import { Reckoning } from '../core/lane/reckoning.ts';
import type { ExchangeTable } from '../core/money/money.ts';
import { Draw } from '../core/testing/draw.ts';
import { listMap } from '../core/lists/map.ts';
import { RowReader } from '../core/lists/rows.ts';
import { demoRow, TIDY_HEADER, TIDY_MAP, tidyLine } from '../demo/lists.ts';
import { readList } from '../server/files/lists.ts';
import { starterCards } from '../demo/starterCards.ts';
import type { Measure } from './core.ts';
import { median } from './sheet.ts';

const ROWS = 1_000_000;

export async function measureColumns(): Promise<Measure[]> {
  const cards = Object.fromEntries(starterCards().map((c) => [c.key, c.data]));
  const market = cards['Alderway/DE'] as MarketplaceCard;
  const rates: ListRates = {
    marketplace: market,
    tax: cards.DE as TaxCard,
    exchange: cards.exchange as ExchangeTable,
    country: 'DE',
    currency: 'EUR',
  };
  const set = assumptions.parse({
    homeCurrency: 'EUR',
    date: '2026-11-24',
    standing: { kind: 'registered' },
    purchase: { currency: 'EUR', vat: 'added', vatRate: 0.19 },
    orderQuantity: 24,
    inbound: { perUnit: 0.2, perKg: 0.15 },
    prep: 0.25,
    returns: { rate: 0.04, resaleShare: 0.5, handling: { amount: 0.8, currency: 'EUR' } },
    advertPerSale: 0.4,
    unitsShare: 0.3,
    category: market.categories[0]?.key ?? null,
  });
  const d = new Draw(5);
  const evaluator = new ListEvaluator(set, rates);
  const columns = makeColumns(ROWS);
  const sample: RowInputs[] = [];
  for (let i = 0; i < ROWS; i++) {
    const cost = d.typed(1, 40);
    const row: RowInputs = {
      cost,
      price: Number((cost * (1.2 + 2 * d.next())).toFixed(2)),
      units: d.int(1, 400),
      unitsInSoldPack: 1,
      unitsInBoughtPack: 1,
      sides: [d.typed(5, 45, 1), d.typed(5, 30, 1), d.typed(2, 20, 1)],
      kg: d.typed(0.05, 6, 3),
      category: market.categories[i % market.categories.length]?.key ?? null,
      taxClass: 'standard',
      vatRate: null,
      minimumOrder: null,
      carton: null,
      breaks: [],
    };
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
  const few = { ...columns, length: 100_000 };
  const prepared = makePrepared(few.length, evaluator.width);
  evaluator.prepare(few, prepared);
  const solved = makeSolved(few.length);
  const solvedFrom = performance.now();
  solveColumns(evaluator, few, prepared, solved);
  const solving = performance.now() - solvedFrom;
  const docs = sample.map((row) => laneOfRow(set, rates, row));
  const r = new Reckoning();
  const single: number[] = [];
  for (let k = 0; k < 40; k++) {
    const started = performance.now();
    for (const doc of docs) reckon(doc, r);
    single.push(performance.now() - started);
  }
  // A changed assumption: evaluated, held against hurdles, limited, put in order, summed up, the first window
  // taken.
  const verdicts = new Uint8Array(ROWS);
  const limits = [
    { values: out.unitProfit, min: 1, max: null, keepUnknown: false },
    { values: out.roi, min: 0.2, max: null, keepUnknown: false },
    { values: columns.price, min: 5, max: 90, keepUnknown: true },
  ];
  const select = (down: boolean): Uint32Array => {
    const { rows } = selectRows(ROWS, limits);
    const sorted = sortRows(rows, [
      { values: out.profitPerMonth, down },
      { values: columns.price, down: false },
    ]);
    summarise(sorted, out.unitProfit);
    return sorted.subarray(0, 60);
  };
  const held = {
    ...set,
    hurdles: [
      { figure: 'unitProfit' as const, bound: 'atLeast' as const, level: 2, near: 0.15 },
      { figure: 'roi' as const, bound: 'atLeast' as const, level: 0.25, near: 0.15 },
    ],
  };
  const changed: number[] = [];
  const selecting: number[] = [];
  const everything: number[] = [];
  const allRows = Uint32Array.from({ length: ROWS }, (_, i) => i);
  for (let k = 0; k < 7; k++) {
    let started = performance.now();
    const again = new ListEvaluator({ ...held, inbound: { perUnit: 0.2 + k / 10, perKg: 0.15 } }, rates);
    again.prepare(columns);
    again.run(columns, out);
    judgeRows(held, rates, columns, out, verdicts);
    select(true);
    changed.push(performance.now() - started);
    started = performance.now();
    select(k % 2 === 0);
    selecting.push(performance.now() - started);
    started = performance.now();
    sortRows(allRows, [{ values: out.unitProfit, down: true }]);
    everything.push(performance.now() - started);
  }
  const aloneFrom = performance.now();
  for (const doc of docs.slice(0, 500)) {
    priceFor(doc);
    highestPurchaseCost(doc);
  }
  const solvedAlone = rate(performance.now() - aloneFrom, 500);
  const bulk = rate(median(evaluating.slice(2)), ROWS);
  const alone = rate(median(single.slice(10)), docs.length);
  return [
    {
      name: 'A million rows evaluated over columns on one core',
      value: bulk,
      unit: 'rows/s',
      aim: 'at least 3,000,000, and 3 times one by one',
      yardstick: `the same one by one (lane documents at hand): ${Math.round(alone).toLocaleString('en')} a second`,
      ratio: bulk / alone,
    },
    {
      name: 'Size tiers and fulfilment fees of a million rows, once for a list',
      value: median(preparing.slice(2)),
      unit: 'ms',
      aim: '',
      yardstick: 'worked out anew where marketplace or way of fulfilment change',
      ratio: null,
    },
    {
      name:
        'A changed assumption on a million rows: evaluated, held against hurdles, limited, put in ' +
        'order, summed up, one core',
      value: median(changed.slice(1)),
      unit: 'ms',
      aim: 'at most 1,000',
      yardstick: `${[...verdicts].filter((v) => v === 0).length.toLocaleString('en')} rows pass`,
      ratio: null,
    },
    {
      name: 'A changed limit and order on a million rows: three limits, two keys, summary',
      value: median(selecting.slice(1)),
      unit: 'ms',
      aim: 'at most 500',
      yardstick: `a million rows by one key: ${median(everything.slice(1)).toFixed(0)} ms`,
      ratio: null,
    },
    {
      name: 'Break-even price and most to pay of 100,000 rows over columns, one core',
      value: rate(solving, few.length),
      unit: 'rows/s',
      aim: '',
      yardstick: `the same of 500 rows one by one: ${Math.round(solvedAlone).toLocaleString('en')} a second`,
      ratio: rate(solving, few.length) / solvedAlone,
    },
    await measureReading(),
  ];
}

/** Reading and checking a list, beside papaparse alone on the same file. */
async function measureReading(): Promise<Measure> {
  const folder = mkdtempSync(join(tmpdir(), 'bm-bench-'));
  try {
    const file = join(folder, 'list.csv');
    const n = 250_000;
    writeFileSync(
      file,
      `${TIDY_HEADER.join(',')}\n${Array.from({ length: n }, (_, i) => tidyLine(demoRow(i))).join('\n')}\n`,
    );
    const map = listMap.parse(TIDY_MAP);
    const alone: number[] = [];
    const read: number[] = [];
    for (let k = 0; k < 6; k++) {
      let started = performance.now();
      await new Promise<void>((done) =>
        Papa.parse(createReadStream(file, { encoding: 'utf8', highWaterMark: 65_536 }) as never, {
          chunk: () => undefined,
          complete: () => done(),
        }),
      );
      alone.push(performance.now() - started);
      started = performance.now();
      let reader: RowReader | null = null;
      const columns = makeColumns(4096);
      await readList(
        file,
        Object.values(map.columns),
        ({ header }) => {
          reader = new RowReader(map, header);
        },
        (batch, lines) => {
          for (let i = 0; i < batch.length; i++)
            (reader as unknown as RowReader).read(
              batch[i] as readonly string[],
              lines[i] as number,
              columns,
              i % 4096,
              () => 0,
            );
        },
      );
      read.push(performance.now() - started);
    }
    const [a, b] = [median(read.slice(1)), median(alone.slice(1))];
    return {
      name: '250,000 rows of a list read and checked (figures, barcodes, duplicates, packs)',
      value: a,
      unit: 'ms',
      aim: '',
      yardstick: `papaparse alone on the same file: ${b.toFixed(0)} ms`,
      ratio: a / b,
    };
  } finally {
    rmSync(folder, { recursive: true });
  }
}
