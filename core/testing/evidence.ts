/** Random documents of evidence, whatever the edge lets in: gaps, nothing known, wild figures. */
import fc from 'fast-check';
import { EVIDENCE_FIGURES } from '../evidence/hurdles.ts';
import { evidenceDocument } from '../evidence/schema.ts';
import type { EvidenceDocument } from '../evidence/schema.ts';

const maybe = <T>(a: fc.Arbitrary<T>): fc.Arbitrary<T | null> => fc.option(a, { freq: 4 });
const money = fc.oneof(
  fc.double({ min: 1e-6, max: 1000, noNaN: true }),
  fc.integer({ min: 0, max: 60 }),
  fc.constantFrom(0, 0.01, 1e-9, 1e12),
);
const count = fc.oneof(fc.integer({ min: 0, max: 5000 }), fc.constantFrom(0, 1, 29, 30, 1e12));
const text = fc.constantFrom('', 'bee house', 'Bee house, larch', 'بيت النحل', 'a', '漢字 家', 'HOUSE');
const monthAt = (n: number): string => {
  const t = 2021 * 12 + n;
  return `${Math.floor(t / 12)}-${String((t % 12) + 1).padStart(2, '0')}`;
};
const month = fc.integer({ min: 0, max: 70 }).map(monthAt);
const day = fc
  .integer({ min: 0, max: 400 })
  .map((n) => new Date(Date.UTC(2025, 10, 1 + n)).toISOString().slice(0, 10));
/** Lone months, and years of them in a row, as a season needs. */
const volumes = fc.oneof(
  fc.array(fc.record({ month, value: count }), { maxLength: 60 }),
  fc
    .array(fc.oneof(fc.integer({ min: 1, max: 900 }), count), { minLength: 10, maxLength: 50, size: 'max' })
    .map((values) => values.map((value, i) => ({ month: monthAt(i), value }))),
);

export const rivalRows = fc.array(
  fc.record({
    listing: fc.constantFrom('', 'A1', 'A2', 'A3', 'A4'),
    title: text,
    brand: fc.constantFrom('', ' ', 'Larch', 'LARCH', 'Tern'),
    price: maybe(money),
    units: maybe(count),
    reviews: maybe(count),
    rating: maybe(fc.double({ min: 0, max: 5, noNaN: true })),
    daysListed: maybe(count),
    offers: maybe(count),
    paid: fc.boolean(),
    struck: maybe(fc.boolean()),
  }),
  { maxLength: 30 },
);
const estimate = fc.record({ units: count, low: maybe(count), high: maybe(count) });
export const unitsKnown = fc.record({
  typed: fc.option(count, { freq: 2 }),
  statedVariation: fc.option(count, { freq: 2 }),
  statedListing: fc.option(count, { freq: 2 }),
  estimatedVariation: fc.option(estimate, { freq: 2 }),
  estimatedListing: fc.option(estimate, { freq: 2 }),
  rank: maybe(fc.integer({ min: 1, max: 100_000 })),
  curve: fc.array(
    fc.record({ rank: fc.integer({ min: 1, max: 100_000 }), units: fc.integer({ min: 1, max: 9000 }) }),
    { maxLength: 5 },
  ),
  hasVariations: fc.boolean(),
  ratingsVariation: maybe(count),
  ratingsListing: maybe(count),
  typedShare: fc.option(fc.double({ min: 0, max: 1, noNaN: true }), { freq: 2 }),
});
export const offerList = fc.array(
  fc.record({
    price: money,
    delivery: maybe(money),
    warehouse: maybe(fc.boolean()),
    of: fc.constantFrom('other' as const, 'other' as const, 'ownShop' as const, 'ours' as const),
    isDefault: fc.boolean(),
  }),
  { maxLength: 12 },
);
const terms = fc.array(
  fc.record({
    term: text.map((t) => (t === '' ? 'bee' : t)),
    weight: fc.constantFrom(0, 1, 1, 2.5),
    volumes,
    sales: maybe(count),
    bids: fc.array(
      fc.record({
        match: fc.constantFrom('exact' as const, 'broad' as const),
        low: maybe(money),
        high: maybe(money),
      }),
      { maxLength: 3 },
    ),
    ticked: fc.boolean(),
    broad: fc.boolean(),
    confirmed: fc.boolean(),
    ofRival: fc.boolean(),
  }),
  { maxLength: 8 },
);
const figure = fc.constantFrom(...EVIDENCE_FIGURES);

export const randomEvidence: fc.Arbitrary<EvidenceDocument> = fc
  .record({
    now: maybe(day),
    terms,
    prices: maybe(
      fc.record({
        currency: fc.constant('EUR'),
        days: fc.array(
          fc.record({ day, price: maybe(money), ownShop: maybe(fc.boolean()), promotion: fc.boolean() }),
          { maxLength: 120, size: 'max' },
        ),
      }),
    ),
    units: maybe(unitsKnown),
    unitsByMonth: volumes,
    window: maybe(fc.record({ from: day, to: day, units: maybe(count) })),
    offers: maybe(fc.record({ currency: fc.constant('EUR'), list: offerList })),
    mine: fc.record({ price: maybe(money), band: fc.constantFrom(0, 0.03, 1) }),
    rivals: maybe(fc.record({ currency: fc.constant('EUR'), rows: rivalRows })),
    permission: maybe(
      fc.record({
        state: fc.constantFrom(
          'open' as const,
          'approval' as const,
          'closed' as const,
          'rightsAlert' as const,
        ),
        by: maybe(fc.constantFrom('documents' as const, 'purchase' as const)),
        units: maybe(count),
        price: maybe(money),
        answered: maybe(day),
      }),
    ),
    care: fc.array(
      fc.record({
        what: fc.constantFrom('patents', 'sample seen'),
        state: fc.constantFrom('open' as const, 'fine' as const, 'trouble' as const, 'notNeeded' as const),
      }),
      { maxLength: 3 },
    ),
    hurdles: fc.array(
      fc.record({
        figure,
        bound: fc.constantFrom('atLeast' as const, 'atMost' as const),
        level: fc.constantFrom(0, 0.5, 10, 300),
      }),
      { maxLength: 6 },
    ),
    settings: fc.record({
      clickShare: maybe(fc.constant(0.1)),
      fewReviews: fc.record({ revenueTo: maybe(fc.constant(5000)) }),
      opportunity: fc.record({
        margin: fc.constantFrom({ poor: 0, good: 0 }, { poor: 0.1, good: 0.3, weight: 5 }),
      }),
    }),
  })
  .map((raw) =>
    evidenceDocument.parse({ format: 'bold-margin/evidence', version: 1, ...raw, settings: raw.settings }),
  );
