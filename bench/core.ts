/** Measures of the core: lanes a second beside a bare loop over the same lines, and what a break-even price costs. */
import { reckon } from '../core/lane/reckon.ts';
import { evaluate } from '../core/lane/evaluate.ts';
import { Reckoning } from '../core/lane/reckoning.ts';
import { priceFor } from '../core/lane/solve.ts';
import { LINES } from '../core/lane/costLines.ts';
import type { MarketplaceCard } from '../core/cards/rates.ts';
import { holdAll } from '../core/proofs/check.ts';
import { proof } from '../core/proofs/schema.ts';
import { givenOfText } from '../core/schedules/given.ts';
import { understand } from '../core/schedules/understand.ts';
import { starterCards } from '../demo/starterCards.ts';
import { demoLanes } from './lanes.ts';

export type Measure = {
  name: string;
  value: number;
  unit: string;
  aim: string;
  yardstick: string;
  ratio: number | null;
};

/** A table of 2,000 cells understood, and 5,000 proofs held against a card: the best of several, ms. */
function measureReading(): { table: number; proofs: number } {
  const rows = Array.from({ length: 400 }, (_, i) =>
    [
      `${i % 20 === 0 ? `Size ${i / 20}` : ''}`,
      `up to ${((i % 20) + 1) / 2} kg`,
      ...[2, 3, 4].map((x) => (x + i / 100).toFixed(2)),
    ].join('\t'),
  );
  const text = ['Size tier\tWeight\tZone A\tZone B\tZone C', ...rows].join('\n');
  const card = starterCards().find((c) => c.key === 'Alderway/DE')?.data as MarketplaceCard;
  const proofs = Array.from({ length: 5000 }, (_, i) =>
    proof.parse({
      sides: [10 + (i % 30), 10, 5],
      kg: 0.1 + (i % 50) / 20,
      price: 10 + (i % 40),
      charged: { referral: 2, fulfilment: 3 },
    }),
  );
  const best = (work: () => unknown): number =>
    Math.min(
      ...Array.from({ length: 6 }, () => {
        const started = performance.now();
        work();
        return performance.now() - started;
      }),
    );
  const by = { homeCurrency: 'EUR', standings: {}, today: '2026-11-24' };
  return {
    table: best(() => understand(givenOfText(text), 'EUR')),
    proofs: best(() => holdAll(card, null, by, proofs)),
  };
}

/** Best of several runs of at least 300 ms each: calls a second. */
function perSecond(work: () => number): { rate: number; sum: number } {
  let best = 0;
  let sum = 0;
  for (let run = 0; run < 6; run++) {
    const started = performance.now();
    let calls = 0;
    while (performance.now() - started < 300) {
      for (let i = 0; i < 200; i++) sum += work();
      calls += 200;
    }
    best = Math.max(best, (calls * 1000) / (performance.now() - started));
  }
  return { rate: best, sum };
}

export function measureCore(): Measure[] {
  const lanes = demoLanes().filter((d) => evaluate(d).figures.unitProfit !== null);
  const r = new Reckoning();
  let at = 0;
  const full = perSecond(() => {
    at = (at + 1) % lanes.length;
    return reckon(lanes[at] as (typeof lanes)[number], r).unitProfit;
  });
  let at2 = 0;
  const results = perSecond(() => {
    at2 = (at2 + 1) % lanes.length;
    return evaluate(lanes[at2] as (typeof lanes)[number]).figures.unitProfit ?? 0;
  });
  // The yardstick: the same number of cost lines, each a product of three numbers held in arrays, added up.
  const n = LINES.length;
  const [a, b, c] = [0, 1, 2].map((k) =>
    Float64Array.from({ length: n * lanes.length }, (_, i) => 1 + ((i * 7 + k * 3) % 11) / 10),
  ) as [Float64Array, Float64Array, Float64Array];
  let at3 = 0;
  const bare = perSecond(() => {
    at3 = (at3 + 1) % lanes.length;
    let sum = 0;
    for (let i = at3 * n; i < at3 * n + n; i++) sum += (a[i] as number) * (b[i] as number) * (c[i] as number);
    return sum;
  });
  let most = 0;
  let evaluations = 0;
  for (const d of lanes) {
    const limits = new Set<number>();
    for (const x of d.rates.marketplace?.categories ?? [])
      if (x.key === d.product.category)
        for (const t of x.referral.tiers) if (t.upTo !== null) limits.add(t.upTo);
    for (const t of d.rates.marketplace?.warehouse?.tiers ?? [])
      for (const band of t.bands) if (band.upToPrice !== null) limits.add(band.upToPrice);
    const found = priceFor(d).evaluations;
    evaluations += found;
    most = Math.max(most, found - 4 * limits.size);
  }
  const reading = measureReading();
  return [
    {
      name: 'A fee table of 2,000 cells understood',
      value: reading.table,
      unit: 'ms',
      aim: 'at most 200',
      yardstick: '',
      ratio: null,
    },
    {
      name: '5,000 proofs held against a card',
      value: reading.proofs,
      unit: 'ms',
      aim: 'at most 100',
      yardstick: '',
      ratio: null,
    },
    {
      name: 'Full lanes evaluated, one by one, without workings',
      value: full.rate,
      unit: 'a second',
      aim: '500,000',
      yardstick: `bare loop over ${n} products of three: ${Math.round(bare.rate).toLocaleString('en')} a second`,
      ratio: full.rate / bare.rate,
    },
    {
      name: 'The same, made into results with reasons',
      value: results.rate,
      unit: 'a second',
      aim: '',
      yardstick: 'the figure above',
      ratio: results.rate / full.rate,
    },
    {
      name: 'Break-even price, evaluations beside 4 for each limit, worst of the demo',
      value: most,
      unit: 'evaluations',
      aim: 'at most 40',
      yardstick: `mean over ${lanes.length} lanes: ${(evaluations / lanes.length).toFixed(1)} in all`,
      ratio: null,
    },
  ];
}
