import { describe, expect, it } from 'vitest';
import { reckonExactly } from '../testing/exact.ts';
import { randomLane } from '../testing/lanes.ts';
import { FIGURES } from './figures.ts';
import { LINES } from './costLines.ts';
import { PROBLEMS } from './problems.ts';
import { evaluate } from './evaluate.ts';
import { cases } from '../testing/seed.ts';

const LANES = cases(10_000);
const TIMES = cases(10);

/** Branches of the rules that the draw must reach, each at least `TIMES` times. */
const BRANCHES = [
  'digits 0',
  'digits 2',
  'digits 3',
  'inclusive',
  'exclusive',
  'standing registered',
  'standing notRegistered',
  'standing flatRate',
  'standing marketplaceRemits',
  'standing missing',
  'base item',
  'base gross',
  'base net',
  'base buyerPays',
  'VAT none',
  'VAT included',
  'VAT added',
  'demand typed',
  'demand marketShare',
  'demand offerSplit',
  'in the running',
  'out of the running',
  'source quote',
  'source retail',
  'bundle',
  'discount percent',
  'discount coupon',
  'discount percent reordered',
  'discount coupon reordered',
  'gift card',
  'cashback',
  ...['EXW', 'FCA', 'FAS', 'FOB', 'CFR', 'CPT', 'CIF', 'CIP', 'DAP', 'DPU', 'DDP'].map(
    (x) => `Incoterms ${x}`,
  ),
  'no route',
  'cartons',
  'loose',
  'leg of the seller',
  ...['perUnit', 'perKg', 'perCbm', 'perCarton', 'perShipment', 'perContainer'].map((x) => `leg ${x}`),
  'weight band',
  'past the last weight band',
  'insurance',
  'imported',
  'CIF basis',
  'FOB basis',
  'additional duty',
  'under the duty-free limit',
  'import charge',
  'import VAT on cif',
  'import VAT on customsValue',
  'import VAT recovered',
  'postponed',
  'oversize prep',
  'fulfilment typed',
  'warehouse fee',
  'price band',
  'volumetric',
  'past the last step',
  'steps end',
  'own dispatch',
  'supplier ships',
  'season',
  'storage by card',
  "storage of one's own",
  'long stay',
  'referral typed',
  'referral whole',
  'referral sliced',
  'referral minimum',
  'referral maximum',
  'surcharge',
  'subscription',
  'VAT on fees charged',
  'VAT on fees reverseCharge',
  'VAT on fees none',
  'returns',
  'refund fee',
  'refund fee at its maximum',
  'returns that pay',
  'conversion',
  'conversion of nothing',
  'keywords by clicks',
  'keywords equally',
  'no units by adverts',
  'paid before paying',
  ...PROBLEMS.map((p) => `problem ${p}`),
];

describe('the core against an independent reckoning in exact decimals', () => {
  it('agrees within 1e-6 on every line, figure, blank and problem of random lanes', () => {
    const hits = new Map<string, number>();
    const wrong: string[] = [];
    let known = 0;
    // On until each branch has been met, whatever the draw.
    const isUnmet = (): boolean => BRANCHES.some((b) => (hits.get(b) ?? 0) < TIMES);
    for (let seed = 0; seed < LANES || (isUnmet() && seed < 20_000); seed++) {
      const doc = randomLane(seed);
      const got = evaluate(doc);
      const want = reckonExactly(doc, hits);
      const compare = (
        name: string,
        a: number | null,
        x: { isFinite(): boolean; toNumber(): number },
      ): void => {
        const b = x.isFinite() ? x.toNumber() : null;
        if (
          (a === null) !== (b === null) ||
          (a !== null && b !== null && Math.abs(a - b) > 1e-6 * Math.max(1, Math.abs(b)))
        )
          wrong.push(`seed ${seed} ${name}: core ${a}, exact ${b}`);
      };
      for (const line of LINES) compare(line, got.lines[line], want.lines[line]);
      for (const figure of FIGURES) compare(figure, got.figures[figure], want.figures[figure]);
      const sorted = (list: Iterable<string>): string => [...new Set(list)].sort().join();
      if (sorted(got.blanks) !== sorted(want.blanks))
        wrong.push(`seed ${seed} blanks: core ${sorted(got.blanks)}, exact ${sorted(want.blanks)}`);
      if (sorted(got.problems.map((p) => p.code)) !== sorted(want.problems))
        wrong.push(
          `seed ${seed} problems: core ${sorted(got.problems.map((p) => p.code))}, exact ${sorted(want.problems)}`,
        );
      if (got.figures.unitProfit !== null) known++;
    }
    expect(wrong.slice(0, 10)).toEqual([]);
    expect(known).toBeGreaterThan(LANES / 3);
    expect(BRANCHES.filter((b) => (hits.get(b) ?? 0) < TIMES)).toEqual([]);
    process.stderr.write(
      `Branches reached by ${LANES} random lanes: ${BRANCHES.map((b) => `${b} ${hits.get(b)}`).join('; ')}\n`,
    );
  });
});
