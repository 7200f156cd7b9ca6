import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { offerList, randomEvidence, rivalRows, unitsKnown } from '../testing/evidence.ts';
import { plainLane } from '../testing/documents.ts';
import { randomLane } from '../testing/lanes.ts';
import { evaluate } from '../lane/evaluate.ts';
import { demand, quote, retailPurchase } from '../lane/schema.ts';
import { atCost } from './keeps.ts';
import { storedLane } from '../workspace/records.ts';
import type { Basis } from './history.ts';
import { improvedLane } from './improve.ts';
import { keeper } from './keep.ts';
import { newerEvidence } from './newer.ts';
import { laneChanges, USES } from './use.ts';
import type { Use } from './use.ts';
import { bidRange, bidsOf } from './bids.ts';
import { gatesSaid, together } from './gates.ts';
import type { EvidenceFigures } from './gates.ts';
import { outOfStockMonths } from './history.ts';
import { EVIDENCE_FIGURES } from './hurdles.ts';
import { approvalCost, marketSaid, nowOf, opportunitySection } from './market.ts';
import { offersSaid } from './offers.ts';
import { between, opportunityOf } from './opportunity.ts';
import { peakOf } from './peak.ts';
import { bandStep, priceBands } from './priceBands.ts';
import { countedPrices, countedRows, placeAmong, rivalsSaid } from './rivals.ts';
import { evidenceDocument, offer, rival, term, unitsKnown as unitsSchema } from './schema.ts';
import type { EvidenceDocument, Offer, Rival, Term, UnitsKnown } from './schema.ts';
import { evidenceSettings } from './settings.ts';
import { seasonOf } from './season.ts';
import { termsHolding, termsSaid, volumeOf, withAndWithout } from './terms.ts';
import { myUnits, shareOf, unitsAtRank, unitsOf, wilson } from './units.ts';

const S = evidenceSettings.parse({});
const NOW = '2026-11-29';
const documentOf = (more: object): EvidenceDocument =>
  evidenceDocument.parse({ format: 'bold-margin/evidence', version: 1, now: NOW, ...more });
const rowOf = (more: Partial<Rival>): Rival => rival.parse(more);
const offerOf = (price: number, delivery: number | null, more: Partial<Offer> = {}): Offer =>
  offer.parse({ price, delivery, ...more });
const unitsFrom = (more: Partial<UnitsKnown>): UnitsKnown => unitsSchema.parse(more);
const termOf = (text: string, volume: number | null, more: Partial<Term> = {}): Term =>
  term.parse({ term: text, volumes: volume === null ? [] : [{ month: '2026-10', value: volume }], ...more });

/** Every number in a value, with the way to it; a null is none. */
function numbersIn(value: unknown, path = ''): [string, number][] {
  if (typeof value === 'number') return [[path, value]];
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([k, v]) => numbersIn(v, `${path}.${k}`));
}

describe('units', () => {
  const ratings = { hasVariations: true, ratingsVariation: 45, ratingsListing: 150 };
  it('45 of 150 ratings on 240 stated are 72', () => {
    expect(unitsOf(unitsFrom({ ...ratings, statedListing: 240 }), S)).toMatchObject({
      known: true,
      rung: 'statedListing',
      estimated: false,
      expected: 72,
      low: 240 * wilson(45, 150).low,
    });
    expect(wilson(45, 150).low).toBeCloseTo(0.242443, 5);
    expect(wilson(45, 150).high).toBeCloseTo(0.364643, 5);
  });
  it('are as good as their rung: typed, stated, estimated, by rank', () => {
    const all = unitsFrom({
      ...ratings,
      typed: 1,
      statedVariation: 2,
      statedListing: 10,
      estimatedVariation: { units: 4, low: 3, high: 5 },
      estimatedListing: { units: 20, low: null, high: null },
      rank: 100,
      curve: [
        { rank: 10, units: 1000 },
        { rank: 1000, units: 10 },
      ],
    });
    const without = (...keys: (keyof UnitsKnown)[]): UnitsKnown => ({
      ...all,
      ...Object.fromEntries(keys.map((k) => [k, null])),
    });
    expect(unitsOf(all, S)).toMatchObject({ rung: 'typed', expected: 1, low: 1, high: 1 });
    expect(unitsOf(without('typed'), S)).toMatchObject({ rung: 'statedVariation', expected: 2 });
    expect(unitsOf(without('typed', 'statedVariation'), S)).toMatchObject({
      rung: 'statedListing',
      expected: 3,
    });
    const estimated = without('typed', 'statedVariation', 'statedListing');
    expect(unitsOf(estimated, S)).toMatchObject({ rung: 'estimatedVariation', expected: 4, low: 3, high: 5 });
    expect(unitsOf({ ...estimated, estimatedVariation: null }, S)).toMatchObject({
      rung: 'estimatedListing',
      expected: 6,
      low: 12 * wilson(45, 150).low,
      high: 32 * wilson(45, 150).high,
    });
    const ranked = { ...estimated, estimatedVariation: null, estimatedListing: null };
    const byRank = unitsOf(ranked, S);
    expect(byRank).toMatchObject({ rung: 'fromRank', estimated: true });
    if (byRank.known) expect(byRank.expected).toBeCloseTo(30, 9);
    expect(unitsOf({ ...ranked, rank: 5 }, S)).toEqual({ known: false, why: 'noFigure' });
    expect(unitsOf({ ...ranked, ratingsListing: 29 }, S)).toEqual({ known: false, why: 'noShare' });
  });
  it('a share needs thirty ratings, or is typed; without variations it is 1', () => {
    expect(shareOf(unitsFrom({}))).toMatchObject({ expected: 1, low: 1 });
    expect(shareOf(unitsFrom({ ...ratings, ratingsListing: 29 }))).toMatchObject({
      known: false,
      why: 'fewRatings',
    });
    expect(shareOf(unitsFrom({ ...ratings, ratingsVariation: null }))).toMatchObject({ why: 'noRatings' });
    expect(shareOf(unitsFrom({ ...ratings, typedShare: 0.5 }))).toMatchObject({ typed: true, expected: 0.5 });
    // All ratings on one variation: it may still not be the whole.
    const all = shareOf(unitsFrom({ ...ratings, ratingsVariation: 1e6, ratingsListing: 1e6 }));
    expect(all).toMatchObject({ expected: 1, high: 1 });
    const none = shareOf(unitsFrom({ ...ratings, ratingsVariation: 0, ratingsListing: 1e6 }));
    expect(none).toMatchObject({ known: true, expected: 0, low: 0 });
  });
  it('by rank lie between the points of the curve, and nothing outside', () => {
    const curve = [
      { rank: 1000, units: 10 },
      { rank: 10, units: 1000 },
    ];
    expect(unitsAtRank(curve, 100)).toBeCloseTo(100, 9);
    expect([10, 1000].map((r) => unitsAtRank(curve, r))).toEqual([1000, 10]);
    expect([9, 1001].map((r) => unitsAtRank(curve, r))).toEqual([null, null]);
    expect(unitsAtRank([{ rank: 5, units: 7 }], 5)).toBe(7);
  });

  const offers = [offerOf(19.8, 0), offerOf(18, 2.1), offerOf(20.5, 0), offerOf(22, 0)];
  const seventyTwo = unitsOf(unitsFrom({ typed: 72 }), S);
  it('mine: 72 among four offers, the own shop there on a quarter of the days', () => {
    const mine = myUnits(seventyTwo, offers, 20, 0.03, 0.25);
    expect(mine).toMatchObject({
      known: true,
      rivals: 2,
      inTheRunning: true,
      low: 13.5,
      expected: 18,
      high: 27,
    });
  });
  it('mine: the own shop sets no floor once its days are taken off; delivery unknown sets none either', () => {
    const shop = offerOf(10, 0, { of: 'ownShop' });
    expect(myUnits(seventyTwo, [...offers, shop], 20, 0.03, 0.25)).toMatchObject({ expected: 18 });
    expect(myUnits(seventyTwo, [...offers, shop], 20, 0.03, null)).toMatchObject({
      inTheRunning: false,
      expected: 0,
    });
    // At a bare price of 10 it is in the running, but nobody is priced out by it.
    expect(myUnits(seventyTwo, [...offers, offerOf(10, null)], 20, 0.03, 0.25)).toMatchObject({ rivals: 3 });
  });
  it('mine: too dear sells nothing; nobody else leaves all; unknown stays unknown', () => {
    expect(myUnits(seventyTwo, offers, 21, 0.03, 0)).toMatchObject({
      inTheRunning: false,
      expected: 0,
      high: 0,
    });
    expect(myUnits(seventyTwo, [], 21, 0.03, 0)).toMatchObject({ rivals: 0, expected: 72 });
    expect(myUnits(seventyTwo, [offerOf(5, 0, { of: 'ours' })], 21, 0.03, 0)).toMatchObject({ expected: 72 });
    expect(myUnits(seventyTwo, null, 21, 0.03, 0)).toEqual({ known: false, why: 'noOffers' });
    expect(myUnits(seventyTwo, [], null, 0.03, 0)).toEqual({ known: false, why: 'noPrice' });
    expect(myUnits(unitsOf(unitsFrom({}), S), [], 1, 0.03, 0)).toEqual({ known: false, why: 'noUnits' });
  });
  it('the range holds the figure, whatever is known (every rung reached)', () => {
    const rungs = new Set<string>();
    fc.assert(
      fc.property(unitsKnown, offerList, fc.double({ min: 0, max: 100, noNaN: true }), (raw, list, price) => {
        const units = unitsOf(unitsSchema.parse(raw), S);
        rungs.add(units.known ? units.rung : units.why);
        const mine = myUnits(
          units,
          list.map((o) => offer.parse(o)),
          price,
          0.03,
          null,
        );
        for (const x of [units, mine])
          if (x.known) {
            expect(x.low).toBeLessThanOrEqual(x.expected + 1e-6);
            expect(x.high).toBeGreaterThanOrEqual(x.expected - 1e-6);
          }
        expect(mine.known).toBe(units.known);
      }),
      { numRuns: 1500 },
    );
    expect(rungs.size).toBe(8);
  });
});

describe('rivals', () => {
  const rows = [
    rowOf({ price: 10, units: 300, reviews: 40 }),
    rowOf({ price: 12, units: 100, reviews: 0, rating: 5 }),
    rowOf({ price: 14, units: 200, reviews: 700, rating: 4 }),
    rowOf({ price: 16, reviews: 90 }),
  ];
  it("the page's example", () => {
    const said = rivalsSaid(rows, S);
    const { price, revenue, rating } = said.columns;
    expect([price.quarter, price.median, price.threeQuarters]).toEqual([11.5, 13, 14.5]);
    expect([revenue.rows, revenue.median]).toEqual([3, 2800]);
    // Nobody rated the second: its five stars are none.
    expect([rating.rows, rating.mean]).toEqual([1, 4]);
    expect(said.reference).toBe(2);
    expect(placeAmong(countedPrices(rows), 14, S)).toEqual({
      place: 3,
      of: 5,
      below: 0.5,
      low: 10,
      median: 13,
      high: 16,
      ceiling: 15.4,
      overCeiling: false,
    });
    expect(said.fewReviews).toEqual([0, 1]);
    expect(said.revenuePerReview).toEqual([75, 1200, 4, null]);
  });
  it('a paid place starts struck out, and can be taken back; one listing counts once, its free place first', () => {
    const page = [
      rowOf({ listing: 'A', paid: true, price: 1 }),
      rowOf({ listing: 'A', price: 1 }),
      rowOf({ listing: 'A', price: 1 }),
      rowOf({ listing: 'B', price: 2, struck: true }),
      rowOf({ price: 3 }),
      rowOf({ price: 3 }),
    ];
    expect(countedRows(page)).toEqual(['paid', true, 'twice', 'struck', true, true]);
    const back = page.map((r, i) => (i === 0 ? { ...r, struck: false } : r));
    expect(countedRows(back)).toEqual(['twice', true, 'twice', 'struck', true, true]);
  });
  it('brands are folded, a blank is none and still counts below the line', () => {
    const page = ['Larch', ' LARCH ', 'larch', 'larch', '', 'Tern'].map((brand, i) =>
      rowOf({ brand, price: 10, units: i === 5 ? 1000 : 100 }),
    );
    const { brands, owner } = rivalsSaid(page, S);
    expect(brands.map((b) => [b.brand, b.listings])).toEqual([
      ['Tern', 1],
      ['Larch', 4],
    ]);
    expect(brands[1]?.listingShare).toBeCloseTo(4 / 6, 12);
    expect(brands[0]?.revenueShare).toBeCloseTo(1000 / 1500, 12);
    expect(owner?.brand).toBe('Tern');
    expect(rivalsSaid(page.slice(0, 5), S).owner?.brand).toBe('Larch');
    expect(rivalsSaid(page.slice(4), { ...S, brandRevenue: 0.95 }).owner).toBe(null);
  });
  it('newcomers, who sells, and what an offer sells', () => {
    const page = [
      rowOf({ price: 10, units: 20, daysListed: 180, offers: 4 }),
      rowOf({ price: 10, units: 9, daysListed: 181, offers: 0 }),
      rowOf({ price: 10 }),
    ];
    const said = rivalsSaid(page, S);
    expect(said.newcomers).toEqual({ rows: 1, share: 0.5, medianRevenue: 200 });
    expect([said.selling, said.sellThrough]).toEqual([0.5, [5, null, null]]);
    expect(said.reference).toBe(null);
    expect(placeAmong([], 3, S)).toBe(null);
    expect(placeAmong([1, 2], 3, S)?.overCeiling).toBe(true);
  });
  it('bands of price: at most eight between the ends, in steps one can say', () => {
    expect([
      bandStep(1000, 1500),
      bandStep(990, 990),
      bandStep(1, 8),
      bandStep(1, 9),
      bandStep(0, 1e14),
    ]).toEqual([100, 1, 1, 2, 2e13]);
    const bands = priceBands(rows, 'EUR', 14);
    expect(bands.filter((b) => b.from !== null && b.to !== null).length).toBeLessThanOrEqual(8);
    expect(bands.reduce((sum, b) => sum + b.rows, 0)).toBe(4);
    expect(bands.filter((b) => b.mine)).toMatchObject([{ from: 14, to: 15, rows: 1, revenue: 2800 }]);
    expect(priceBands([], 'EUR', 14)).toEqual([]);
    expect(priceBands(rows, 'JPY', 100).at(-1)).toEqual({
      from: 16,
      to: null,
      rows: 1,
      revenue: null,
      medianReviews: 90,
      mine: true,
    });
  });
  it('striking out and taking back changes nothing; other money changes no share (random pages)', () => {
    fc.assert(
      fc.property(rivalRows, fc.nat(), fc.constantFrom(0.01, 7, 1000), (raw, n, factor) => {
        const page = raw.map((r) => rival.parse(r));
        const before = rivalsSaid(page, S);
        const at = page.length === 0 ? 0 : n % page.length;
        const struck = page.map((r, i) => (i === at ? { ...r, struck: true } : r));
        expect(rivalsSaid(struck, S).rows).toBeLessThanOrEqual(before.rows);
        expect(
          rivalsSaid(
            struck.map((r, i) => (i === at ? (page[i] as Rival) : r)),
            S,
          ),
        ).toEqual(before);
        const dear = page.map((r) => ({ ...r, price: r.price === null ? null : r.price * factor }));
        const other = rivalsSaid(dear, S);
        for (const b of before.brands) {
          const same = other.brands.find((x) => x.brand === b.brand);
          expect(same?.listingShare).toBe(b.listingShare);
          if (b.revenueShare !== null) expect(same?.revenueShare).toBeCloseTo(b.revenueShare, 6);
        }
        const prices = countedPrices(page);
        expect(priceBands(page, 'EUR', null).reduce((sum, b) => sum + b.rows, 0)).toBe(prices.length);
      }),
      { numRuns: 800 },
    );
  });
});

describe('terms', () => {
  it('flags what is searched and not bought, what is weak, what is broad', () => {
    const terms = [
      termOf('bee house larch', 1000, { sales: 100 }),
      termOf('bee house oak', 1000, { sales: 110 }),
      termOf('solitary bee block', 1000, { sales: 90 }),
      termOf('bees in winter', 1000, { sales: 19 }),
      termOf('wild bee nest box', 199, { sales: 110 }),
      termOf('bees', null),
      termOf('bee hotel', 5000, { confirmed: true }),
      termOf('house for the bees', 900, { broad: true }),
    ];
    const said = termsSaid(terms, NOW, S);
    expect(said.map((t) => t.flags)).toEqual([
      [],
      [],
      [],
      ['searchedNotBought'],
      ['weak', 'perhapsNotMain'],
      ['broad'],
      [],
      ['broad'],
    ]);
    expect(said.map((t) => t.counts)).toEqual([true, true, true, true, true, false, true, false]);
    expect(said[5]?.volume).toBe(null);
    // Four that can be compared say nothing of each other.
    expect(termsSaid(terms.slice(0, 4), NOW, S)[3]?.flags).toEqual([]);
  });
  it('include every word, exclude any, as whole words in any script', () => {
    const terms = ['bee house', 'beehouse', 'House for BEES', 'بيت النحل', 'bee house oak'].map((t) => ({
      term: t,
    }));
    expect(termsHolding(terms, 'bee house', '')).toEqual([0, 4]);
    expect(termsHolding(terms, 'HOUSE', 'oak')).toEqual([0, 2]);
    expect(termsHolding(terms, 'النحل', '')).toEqual([3]);
    expect(termsHolding(terms, '', '')).toEqual([0, 1, 2, 3, 4]);
  });
  it('with a word and without it stand side by side; volumes are not added', () => {
    const terms = [termOf('bee house', 100), termOf('bee house oak', 40), termOf('oak box', null)];
    expect(withAndWithout(terms, 'oak', NOW)).toEqual({
      with: { terms: 2, strongest: 40 },
      without: { terms: 1, strongest: 100 },
    });
    expect(volumeOf(term.parse({ term: 'a', volumes: [{ month: '2026-11', value: 3 }] }), NOW)).toBe(null);
  });
  it('bids: lowest low and highest high of the sources, one end for both', () => {
    const bids = [
      { source: 'a', match: 'exact' as const, low: 0.4, high: 0.7 },
      { source: 'b', match: 'exact' as const, low: null, high: 0.9 },
      { source: 'b', match: 'broad' as const, low: 0.1, high: null },
    ];
    expect([bidRange(bids, 'exact'), bidRange(bids, 'broad'), bidRange(bids, 'phrase')]).toEqual([
      { low: 0.4, high: 0.9 },
      { low: 0.1, high: 0.1 },
      null,
    ]);
    const ticked = [
      termOf('bee house', 1000, { ticked: true, bids }),
      termOf('tern bee house', 500, { ticked: true, ofRival: true, bids }),
      termOf('bee nest', 500, { ticked: true }),
      termOf('bee', 5000, { bids }),
    ];
    expect(bidsOf(ticked, 'exact', NOW, S)).toMatchObject({
      keywords: [{ text: 'bee house', low: 0.4, high: 0.9, expectedClicks: null }],
      weights: 'equal',
      without: ['bee nest'],
      ofRivals: ['tern bee house'],
    });
    expect(bidsOf(ticked, 'exact', NOW, { ...S, clickShare: 0.1 }, true)).toMatchObject({
      keywords: [{ expectedClicks: 100 }, { expectedClicks: 50 }],
      weights: 'byClicks',
      ofRivals: [],
    });
    expect(bidsOf(ticked, 'phrase', NOW, S)).toEqual({ known: false, why: 'noBids' });
    expect(bidsOf([], 'exact', NOW, S)).toEqual({ known: false, why: 'noneTicked' });
  });
});

describe('offers', () => {
  const list = [
    offerOf(19.8, 0, { warehouse: false }),
    offerOf(18, 2.1, { warehouse: true, isDefault: true }),
    offerOf(20.5, 0),
    offerOf(22, 0),
    offerOf(5, null),
    offerOf(3, 0, { of: 'ours' }),
  ];
  it('if none, one, two, three leave: the next known price each time, ours excluded; one undercuts by a step', () => {
    const said = offersSaid(list, 'EUR', 0.02);
    expect(said.cases.map((c) => c.price)).toEqual([19.8, 20.1, 20.5, 22, 19.4]);
    expect(said).toMatchObject({ state: 'default', offers: 5, deliveryUnknown: 1 });
    expect(said.warehousePremium).toBeCloseTo(20.1 / 19.8 - 1, 12);
  });
  it('no offer, no default offer, no price that is known', () => {
    expect(offersSaid([], 'EUR', 0.02)).toMatchObject({ state: 'none', cases: [], warehousePremium: null });
    expect(offersSaid([offerOf(5, null)], 'EUR', 0.02)).toMatchObject({ state: 'noDefault', cases: [] });
  });
});

describe('gates', () => {
  const nothing = Object.fromEntries(EVIDENCE_FIGURES.map((f) => [f, null])) as EvidenceFigures;
  const hurdles = [
    { figure: 'searches', bound: 'atLeast', level: 1000, near: 0.1 },
    { figure: 'direction', bound: 'atLeast', level: 0, near: 0 },
    { figure: 'reviews', bound: 'atMost', level: 300, near: 0.1 },
  ] as const;
  it('failed, else unknown, near, passed; no hurdle: not looked at', () => {
    const verdict = (own: Partial<EvidenceFigures>) => gatesSaid({ ...nothing, ...own }, hurdles, null, []);
    expect(verdict({ searches: 500, direction: null }).demanded.verdict).toBe('failed');
    expect(verdict({ searches: 1000 }).demanded.verdict).toBe('unknown');
    expect(verdict({ searches: 950, direction: 0.1 }).demanded.verdict).toBe('near');
    expect(verdict({ searches: 1000, direction: 0 }).demanded.verdict).toBe('passed');
    expect(verdict({ reviews: 331 }).enterable.verdict).toBe('failed');
    expect(verdict({}).permitted.verdict).toBe('notLooked');
    expect(gatesSaid(nothing, [], null, []).demanded.verdict).toBe('notLooked');
    expect(together(['pass', 'pass'])).toBe('passed');
  });
  it('permission and care together say whether one may sell it', () => {
    const permitted = (p: object | null, care: object[] = []) => {
      const doc = documentOf({ permission: p, care });
      return gatesSaid(nothing, [], doc.permission, doc.care).permitted.verdict;
    };
    expect(permitted({ state: 'open' })).toBe('passed');
    expect(permitted({ state: 'approval' })).toBe('near');
    expect(permitted({ state: 'approval', answered: NOW })).toBe('passed');
    expect(permitted({ state: 'closed' })).toBe('failed');
    expect(permitted({ state: 'open' }, [{ what: 'patents' }])).toBe('unknown');
    expect(permitted({ state: 'open' }, [{ what: 'patents', state: 'notNeeded' }])).toBe('passed');
    expect(permitted(null, [{ what: 'patents', state: 'trouble' }])).toBe('failed');
    expect(permitted(null, [{ what: 'patents', state: 'fine' }])).toBe('unknown');
  });
  it('an approval by purchase costs its units; by documents, or not known, nothing is said', () => {
    const cost = (p: object) => approvalCost(documentOf({ permission: p }));
    expect(cost({ state: 'approval', by: 'purchase', units: 30, price: 12.5 })).toBe(375);
    expect(cost({ state: 'approval', by: 'purchase', units: 30 })).toBe(null);
    expect(cost({ state: 'approval', by: 'documents', units: 30, price: 12.5 })).toBe(null);
    expect(cost({ state: 'open', by: 'purchase', units: 30, price: 12.5 })).toBe(null);
  });
});

describe('an improvement', () => {
  const lane = storedLane.parse({ country: 'DE', currency: 'EUR', price: 20 });
  const mended = (more: object) =>
    improvedLane(lane, {
      theme: 'rusts',
      share: null,
      count: null,
      improvement: '',
      cost: null,
      price: null,
      ...more,
    });
  it('puts its cost on every unit and takes the price it may carry; without either there is nothing to ask', () => {
    expect(mended({})).toBe(null);
    expect(mended({ cost: 0.4, price: 24, improvement: 'brass screws' })).toMatchObject({
      name: 'brass screws',
      price: 24,
      otherPerUnit: [{ name: 'brass screws', line: { amount: 0.4, currency: 'EUR' } }],
    });
    expect(mended({ price: 24 })).toMatchObject({ name: 'rusts', price: 24, otherPerUnit: [] });
    expect(mended({ cost: 0 })).toMatchObject({ price: 20, otherPerUnit: [{ line: { amount: 0 } }] });
  });
});

describe('terms in scripts that run from right to left', () => {
  it('hold their words as whole words, and keep their volumes apart', () => {
    const terms = [termOf('بيت النحل', 90), termOf('بيت', 40), termOf('خلية نحل', 20)];
    expect(termsHolding(terms, 'بيت', '')).toEqual([0, 1]);
    expect(termsHolding(terms, 'بيت', 'النحل')).toEqual([1]);
    expect(withAndWithout(terms, 'بيت', NOW)).toEqual({
      with: { terms: 2, strongest: 90 },
      without: { terms: 1, strongest: 20 },
    });
  });
});

describe('variations', () => {
  const doc = documentOf({
    units: { statedListing: 300 },
    variations: [
      { code: 'S', price: 30, ratings: 90, cost: 5, stock: 400 },
      { code: 'M', price: 30, ratings: 60 },
      { code: 'L', price: null, ratings: 50, cost: 5 },
    ],
  });
  const bought = quote.parse({
    kind: 'quote',
    currency: 'EUR',
    incoterm: 'DDP',
    priceBreaks: [{ minQty: 0, unitPrice: 9 }],
  });
  const lane = plainLane({ goods: [{ name: '', unitsInSoldPack: 1, unitsInBoughtPack: 1, source: bought }] });
  it('each keeps what it does at its own price and cost; without a cost of its own, at the lane’s', () => {
    const said = marketSaid(doc, lane).variations;
    expect(said.map((v) => [v.code, v.units, v.cost, v.stock])).toEqual([
      ['S', 135, 5, 400],
      ['M', 90, null, null],
      ['L', 75, 5, null],
    ]);
    const dearer = evaluate({ ...lane, price: 30 }).figures.unitProfit as number;
    expect(said[1]?.unitProfit).toBeCloseTo(dearer, 9);
    // The lane buys at more than 5, and every unit keeps what is saved.
    const own = atCost(lane, 5) as typeof lane;
    expect(said[0]?.unitProfit).toBeCloseTo(evaluate(own).figures.unitProfit as number, 9);
    expect(said[0]?.unitProfit).toBeCloseTo(dearer + 4, 9);
    expect(said[2]?.unitProfit).toBe(null);
  });
  it('a million ratings on one and none on the rest: all of it, none of it, nothing outside', () => {
    const odd = documentOf({
      units: { statedListing: 300 },
      variations: [
        { code: 'S', ratings: 1e6 },
        { code: 'M', ratings: 0 },
        { code: 'L', ratings: 0 },
      ],
    });
    const said = marketSaid(odd, null).variations;
    expect(said.map((v) => v.units)).toEqual([300, 0, 0]);
    for (const { share } of said)
      if (share.known)
        for (const x of [share.low, share.expected, share.high]) expect(x >= 0 && x <= 1).toBe(true);
    const some = documentOf({ variations: [{ code: 'S', ratings: 1e6 }, { code: 'M' }] });
    expect(marketSaid(some, null).variations[0]?.share).toMatchObject({ known: false, why: 'noRatings' });
  });
  it('a lane that buys nothing has no cost to put another in its place', () => {
    expect(atCost({ ...lane, goods: 'none' }, 5)).toBe(null);
    expect(atCost({ ...lane, goods: null }, 5)).toBe(null);
    expect(atCost({ ...lane, goods: [] } as never, 5)).toBe(null);
    const none = marketSaid(doc, { ...lane, goods: 'none' }).variations;
    expect(none[0]?.unitProfit).toBeCloseTo(none[1]?.unitProfit as number, 9);
    expect(marketSaid(doc, null).variations.map((v) => v.unitProfit)).toEqual([null, null, null]);
  });
  it('of goods from a shop it is the price on the shelf', () => {
    const source = retailPurchase.parse({ kind: 'retail', currency: 'EUR', shelfPrice: 9 });
    const shop = { ...lane, goods: [{ name: '', unitsInSoldPack: 1, unitsInBoughtPack: 1, source }] };
    expect(atCost(shop, 5)?.goods).toMatchObject([{ source: { shelfPrice: 5 } }]);
  });
});

describe('what evidence may write into a lane', () => {
  const doc = documentOf({
    prices: {
      currency: 'EUR',
      days: Array.from({ length: 40 }, (_, i) => ({
        day: new Date(Date.UTC(2026, 9, 21 + i)).toISOString().slice(0, 10),
        price: 30 + (i % 2),
      })),
    },
    units: { typed: 90 },
    offers: {
      currency: 'EUR',
      list: [
        { price: 29, delivery: 1 },
        { price: 28, delivery: null },
        { price: 40, delivery: 0, of: 'ownShop' },
      ],
    },
    terms: [
      {
        term: 'bee house',
        ticked: true,
        volumes: Array.from({ length: 12 }, (_, i) => ({
          month: `2025-${String(i + 1).padStart(2, '0')}`,
          value: i < 6 ? 50 : 100,
        })),
        bids: [{ low: 0.4, high: 0.8 }],
      },
    ],
    returnRate: 0.07,
  });
  const lane = plainLane({
    price: 31,
    currency: 'EUR',
    homeCurrency: 'EUR',
    shippingCharged: 1,
    averageDiscount: 0.1,
  });
  const of = (use: Use, basis?: Basis) => laneChanges(use, doc, lane, marketSaid(doc, lane), basis);
  it('a price becomes a shelf price by the lane’s own delivery and discount', () => {
    expect(of('price')).toEqual([{ path: ['price'], to: 33.33 }]);
    expect(of('price', 'mean30')).toEqual([{ path: ['price'], to: 32.78 }]);
    expect(of('price', 'trend')).toBe(null);
  });
  it('units, season, bids, returns, the split of offers and rivals’ prices', () => {
    expect(of('units')).toEqual([{ path: ['demand'], to: { kind: 'typed', units: 45 } }]);
    expect(of('season')?.[0]).toMatchObject({
      path: ['season'],
      to: expect.arrayContaining([0.6667, 1.3333]),
    });
    expect(of('adverts')?.[0]?.to).toMatchObject({
      keywords: [{ text: 'bee house', low: 0.4, high: 0.8 }],
      adShare: 1,
    });
    expect(of('returns')?.[0]?.to).toMatchObject({ rate: 0.07, resaleShare: 0 });
    // The own shop's days are not known, so it counts; an unknown delivery prices nobody out.
    const split = of('offers')?.[0]?.to as { kind: string; listingUnits: number; rivals: number[] };
    expect(split).toMatchObject({ kind: 'offerSplit', listingUnits: 90, retailArmShare: 0 });
    expect(split.rivals.map((p) => Number(p.toFixed(9)))).toEqual([30, 28.9, 40]);
    expect(of('rivalPrices')).toEqual([{ path: ['rivalPrices'], to: [30] }]);
  });
  it('the lane that takes the split of offers expects what the market’s page says is mine, on random offers', () => {
    const seen = { shared: 0, pricedOut: 0, deliveryUnknown: 0, ownShop: 0 };
    const draws = fc.record({
      offers: offerList,
      about: fc.integer({ min: 20, max: 34 }),
      band: fc.constantFrom(0, 0.03, 0.5),
    });
    fc.assert(
      fc.property(draws, fc.option(fc.boolean()), ({ offers, about, band }, ownShop) => {
        const list = offers.map((o) => ({
          ...o,
          price: about + (o.price % 5),
          delivery: o.delivery === null ? null : o.delivery % 3,
        }));
        const days = doc.prices?.days.map((d) => ({ ...d, ownShop })) ?? [];
        const own = evidenceDocument.parse({
          ...doc,
          prices: { currency: 'EUR', days },
          mine: { band },
          offers: { currency: 'EUR', list },
        });
        const said = marketSaid(own, lane);
        const [change] = laneChanges('offers', own, lane, said) ?? [];
        const mine = said.units?.mine;
        if (change === undefined || mine?.known !== true) throw new Error('offers and units are known');
        const fed = evaluate({ ...lane, demand: demand.parse(change.to) }).figures;
        expect(fed.expectedMonthlyUnits).toBeCloseTo(mine.expected, 9);
        if (mine.rivals > 0 && mine.inTheRunning) seen.shared++;
        if (!mine.inTheRunning) seen.pricedOut++;
        if (list.some((o) => o.delivery === null)) seen.deliveryUnknown++;
        if (ownShop === true && list.some((o) => o.of === 'ownShop')) seen.ownShop++;
      }),
      { numRuns: 400 },
    );
    for (const n of Object.values(seen)) expect(n).toBeGreaterThan(10);
  });
  it('nothing where evidence does not say enough, or speaks another currency', () => {
    const none = documentOf({});
    for (const use of USES) expect(laneChanges(use, none, lane, marketSaid(none, lane))).toBe(null);
    const yen = plainLane({ ...lane, currency: 'JPY' });
    for (const use of ['price', 'offers', 'rivalPrices'] as const)
      expect(laneChanges(use, doc, yen, marketSaid(doc, yen))).toBe(null);
  });
  it('newer evidence than the lane holds is told with what it would change; older or the same is not', () => {
    const origins = { history: { asOf: NOW, source: 'feed', stated: true, age: 0, stale: false } };
    const held = (date: string, price: number) => {
      const own = {
        ...lane,
        price,
        provenance: { price: { source: 'evidence' as const, date, note: 'now' } },
      };
      return newerEvidence(doc, own, marketSaid(doc, own), origins);
    };
    const [newer] = held('2026-10-01', 20);
    expect(newer).toMatchObject({ use: 'price', basis: 'now', held: '2026-10-01', asOf: NOW });
    expect((newer?.after ?? 0) - (newer?.before ?? 0)).toBeGreaterThan(5);
    expect(held('2026-10-01', 33.33)).toEqual([]);
    expect(held(NOW, 20)).toEqual([]);
    expect(newerEvidence(doc, lane, marketSaid(doc, lane), origins)).toEqual([]);
  });
});

describe('opportunity', () => {
  it('a part lies between poor and good, and stops there; equal levels are a step', () => {
    expect([10, 30, 50].map((x) => between(x, 20, 40))).toEqual([0, 0.5, 1]);
    expect([0.6, 0.3, 0.1].map((x) => Number(between(x, 0.5, 0.1).toFixed(9)))).toEqual([0, 0.5, 1]);
    expect([4, 5].map((x) => between(x, 5, 5))).toEqual([0, 1]);
  });
  it('unknown parts stay out and are named; no mean under half of the weight; a veto replaces it', () => {
    const few = opportunityOf('ownBrand', { demand: 300, room: 0.15, margin: 0.25 }, [], S);
    expect(few.mean).toBe(null);
    expect(few.unknown).toEqual(['steadiness', 'freedom', 'priceRoom', 'permission']);
    const more = opportunityOf('ownBrand', { demand: 300, room: 0.15, margin: 0.25, permission: 0 }, [], S);
    expect(more.mean).toBeCloseTo((1 + 0.5 + 1 + 0) / 4, 12);
    const vetoed = opportunityOf('resale', { myUnits: 40, offers: 3, margin: 0.3 }, ['closed'], S);
    expect([vetoed.mean, vetoed.vetoes, vetoed.parts.length]).toEqual([null, ['closed'], 6]);
  });
  it('weights count, and parts without weight say nothing of the mean', () => {
    const own = evidenceSettings.parse({
      opportunity: { margin: { poor: 0, good: 1, weight: 9 }, demand: { poor: 0, good: 1, weight: 0 } },
    });
    expect(opportunityOf('ownBrand', { demand: 1, margin: 0.5 }, [], own).mean).toBeCloseTo(0.5, 12);
    expect(opportunityOf('ownBrand', { demand: 1 }, [], own).mean).toBe(null);
  });
  it('a lane that loses, a closed listing and a rights alert are vetoes', () => {
    const veto = (state: string, lane: Parameters<typeof marketSaid>[1]) =>
      marketSaid(documentOf({ permission: { state } }), lane).opportunity.vetoes;
    const dear = plainLane({
      price: 1,
      otherPerUnit: [{ name: 'labels', line: { amount: 5, currency: plainLane().currency, vat: 'none' } }],
    });
    expect(evaluate(dear).figures.unitProfit).toBeLessThan(0);
    expect(veto('closed', null)).toEqual(['closed']);
    expect(veto('rightsAlert', dear)).toEqual(['rightsAlert', 'loses']);
    expect(veto('open', plainLane())).toEqual([]);
  });
});

describe('a peak', () => {
  const series = Array.from({ length: 36 }, (_, i) => ({
    month: `${2023 + Math.floor(i / 12)}-${String((i % 12) + 1).padStart(2, '0')}`,
    value: i % 12 === 11 ? 200 : 100,
  }));
  const season = seasonOf(series, '2026-01-01');
  it('warns by the season of its days, by units far above the year before, or by both', () => {
    const december = { from: '2025-12-01', to: '2025-12-31', units: 200 };
    const both = peakOf(december, season, series);
    expect(both).toMatchObject({ usual: 100, warning: 'both' });
    expect(both.meanMonth).toBeCloseTo(1300 / 12, 9);
    expect(peakOf({ ...december, units: 120 }, season, series).warning).toBe('season');
    expect(peakOf({ from: '2025-06-01', to: '2025-06-30', units: 160 }, season, series).warning).toBe(
      'units',
    );
    expect(peakOf({ from: '2025-06-01', to: '2025-06-30', units: 100 }, season, series).warning).toBe(null);
  });
  it('knows nothing without a season, six months before, or a window', () => {
    const few = peakOf(
      { from: '2023-05-01', to: '2023-05-30', units: 500 },
      { known: false, why: 'few', months: 0 },
      series,
    );
    expect(few).toEqual({ index: null, usual: null, warning: null, meanMonth: null });
    expect(peakOf({ from: '2025-06-30', to: '2025-06-01', units: 5 }, season, series).index).toBe(null);
  });
});

describe('a market as a whole', () => {
  it('months mostly out of stock are left out of the season of the listing itself', () => {
    const days = Array.from({ length: 30 }, (_, i) => ({
      day: `2026-09-${String(i + 1).padStart(2, '0')}`,
      price: i < 16 ? null : 10,
    }));
    expect(outOfStockMonths(days)).toEqual(['2026-09']);
    const unitsByMonth = Array.from({ length: 12 }, (_, i) => ({
      month: `2026-${String(i + 1).padStart(2, '0')}`,
      value: 10,
    })).slice(0, 10);
    const said = marketSaid(documentOf({ prices: { currency: 'EUR', days }, unitsByMonth }), null);
    expect(said.season.listing.leftOut).toEqual(['2026-09']);
    expect(said.season.listing.season).toMatchObject({ known: false, months: 9 });
  });
  it('speaks as of its day: the one it names, else the last day, else the month after the last', () => {
    const prices = {
      currency: 'EUR',
      days: [
        { day: '2026-10-03', price: 1 },
        { day: '2026-10-01', price: 1 },
      ],
    };
    const terms = [{ term: 'a', volumes: [{ month: '2026-08', value: 1 }] }];
    expect(nowOf(documentOf({}))).toBe(NOW);
    expect(nowOf(documentOf({ now: null, prices, terms }))).toBe('2026-10-03');
    expect(nowOf(documentOf({ now: null, terms }))).toBe('2026-09-01');
  });
  it('refuses prices, offers and rivals in two currencies', () => {
    const two = { prices: { currency: 'EUR', days: [] }, offers: { currency: 'USD', list: [] } };
    const parsed = evidenceDocument.safeParse({ format: 'bold-margin/evidence', version: 1, ...two });
    expect(parsed.error?.issues).toMatchObject([{ path: ['offers', 'currency'], message: 'twoCurrencies' }]);
  });
  it('figures that hurdles are set on come from the sections', () => {
    const doc = documentOf({
      terms: [
        { term: 'bee house larch', ticked: true, volumes: [{ month: '2026-10', value: 700 }] },
        { term: 'bees', ticked: true, volumes: [{ month: '2026-10', value: 9000 }] },
      ],
      rivals: {
        currency: 'EUR',
        rows: [
          { price: 10, units: 30, reviews: 4, brand: 'Tern' },
          { price: 20, units: 30, reviews: 8 },
        ],
      },
      offers: { currency: 'EUR', list: [{ price: 12, delivery: 0 }] },
      units: { typed: 31, rank: 400 },
    });
    const { figures } = marketSaid(doc, null);
    expect(figures).toMatchObject({
      searches: 700,
      units: 31,
      rank: 400,
      reviews: 6,
      offers: 1,
      price: 15,
      direction: null,
    });
    expect(figures.brandShare).toBeCloseTo(1 / 3, 12);
  });
  it('with a memory says the same as without, whatever came before (random documents and lanes)', () => {
    const keep = keeper();
    fc.assert(
      fc.property(randomEvidence, fc.option(fc.nat({ max: 5 }), { freq: 3 }), (doc, seed) => {
        const lane = seed === null ? null : { ...randomLane(seed), currency: 'EUR' };
        expect(marketSaid(doc, lane, keep)).toEqual(marketSaid(doc, lane));
        // Only a part of it is new: what hangs on the others is given again, the very same.
        const changed = { ...doc, rivals: doc.rivals === null ? null : { ...doc.rivals } };
        const [before, after] = [marketSaid(doc, lane, keep), marketSaid(changed, lane, keep)];
        expect(after).toEqual(before);
        expect([after.history, after.season, after.terms]).toEqual([
          before.history,
          before.season,
          before.terms,
        ]);
        expect(after.history).toBe(before.history);
        expect(after.season).toBe(before.season);
      }),
      { numRuns: 150 },
    );
  });
  it('nothing throws, yields NaN or counts a gap, whatever the edge lets in (random documents and lanes)', () => {
    let margins = 0;
    let vetoes = 0;
    fc.assert(
      fc.property(randomEvidence, fc.option(fc.nat(), { freq: 3 }), (doc, seed) => {
        // Half of the lanes are known to keep something, so that margins are reached whatever is drawn.
        const own = seed === null ? null : seed % 2 === 0 ? plainLane() : randomLane(seed);
        const lane = own === null ? null : { ...own, currency: 'EUR' };
        const said = marketSaid(doc, lane);
        for (const [path, x] of numbersIn(said)) expect([path, Number.isFinite(x)]).toEqual([path, true]);
        if (said.history?.margin?.median != null) margins++;
        if (said.opportunity.vetoes.length > 0) {
          vetoes++;
          expect(said.opportunity.mean).toBe(null);
        }
        for (const s of [said.season.together.season, said.season.listing.season])
          if (s.known) expect(s.index.reduce((a, b) => a + b, 0) / 12).toBeCloseTo(1, 9);
        const { figures: _, ...again } = opportunitySection(doc, lane, said);
        expect(again.opportunity).toEqual(said.opportunity);
        expect(evidenceDocument.parse(JSON.parse(JSON.stringify(doc)))).toEqual(doc);
      }),
      { numRuns: 500 },
    );
    expect(margins).toBeGreaterThan(40);
    expect(vetoes).toBeGreaterThan(20);
  });
});
