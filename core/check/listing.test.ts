import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { evidenceDocument } from '../evidence/schema.ts';
import type { EvidenceDocument } from '../evidence/schema.ts';
import { historySection } from '../evidence/keeps.ts';
import { unitsSection } from '../evidence/market.ts';
import { dayText } from '../cash/calendar.ts';
import { randomEvidence } from '../testing/evidence.ts';
import { fastestFirst, shelfListingOf } from './listing.ts';
import type { ListingFacts } from './listing.ts';
import { shelfListing } from './schema.ts';

const FACTS: ListingFacts = {
  code: 'L1',
  title: 'Cork mat',
  brand: '',
  rank: 8400,
  offers: 3,
  pack: 2,
  kg: 0.4,
  category: 'any',
  asOf: '2026-11-24',
  source: 'feed',
  price: 50,
  units: 60,
};
/** Forty days at 40, the last of them at 52; one offer of another at 41, a quarter of the days the own shop. */
const EVIDENCE: EvidenceDocument = evidenceDocument.parse({
  format: 'bold-margin/evidence',
  version: 1,
  now: '2026-11-24',
  prices: {
    currency: 'EUR',
    days: Array.from({ length: 40 }, (_, i) => ({
      day: dayText('2026-10-16', i),
      price: i === 39 ? 52 : 40,
      ownShop: i % 4 === 0,
    })),
  },
  units: { statedListing: 60 },
  offers: { currency: 'EUR', list: [{ price: 53, delivery: 0 }] },
  permission: { state: 'approval' },
  about: { sides: [30, 20, 10], kg: 0.5 },
});

describe('a listing at the shelf', () => {
  it('without evidence is what the search says: the price of today, and nothing of one’s own', () => {
    expect(shelfListingOf(FACTS, null)).toEqual(
      shelfListing.parse({
        code: 'L1',
        title: 'Cork mat',
        prices: { now: 50 },
        units: 60,
        rank: 8400,
        offers: 3,
        pack: 2,
        kg: 0.4,
        category: 'any',
        asOf: '2026-11-24',
        source: 'feed',
      }),
    );
  });
  it('with evidence says what its page says', () => {
    const said = shelfListingOf(FACTS, EVIDENCE);
    // Of thirty days 29 at 40 and one at 52.
    expect(said.prices.now).toBe(52);
    expect(said.prices.mean30).toBeCloseTo((29 * 40 + 52) / 30, 9);
    expect(said).toMatchObject({ permission: 'approval', sides: [30, 20, 10], kg: 0.5, units: 60 });
    expect(said.ownShop).toBeCloseTo(0.25, 9);
    // One shares with the other offer, on the days on which the own shop is away.
    expect(said.mine).toBeCloseTo((60 * 0.75) / 2, 9);
  });
  it('one’s own units are those at the price of today, beside the offers of today', () => {
    const cheaper = {
      ...EVIDENCE,
      offers: { currency: 'EUR', list: [{ ...offer, price: 30 }] },
    } as EvidenceDocument;
    // At 52 against 30 one is not in the running, though the mean of the month is lower.
    expect(shelfListingOf(FACTS, cheaper).mine).toBe(0);
  });
  it('texts longer than a check may keep are cut', () => {
    const said = shelfListingOf({ ...FACTS, title: 'x'.repeat(900), category: 'y'.repeat(900) }, null);
    expect([said.title.length, said.category?.length]).toEqual([400, 200]);
  });
  it('on whatever evidence: fits a check, and agrees with the page’s own sections', () => {
    fc.assert(
      fc.property(randomEvidence, (doc) => {
        const said = shelfListingOf(FACTS, doc);
        expect(shelfListing.safeParse(said).success).toBe(true);
        const month = historySection(doc, null)?.bases.mean30;
        expect(said.prices.mean30).toBe(month?.known === true ? month.price : null);
        const sold = unitsSection(doc, null);
        if (sold?.units.known === true) expect(said.units).toBe(sold.units.expected);
      }),
      { numRuns: 300 },
    );
  });
  it('the fastest first, of which nothing is known last, and nothing is changed', () => {
    const all = [{ units: 5 }, { units: null }, { units: 90 }, { units: 0 }];
    expect(fastestFirst(all).map((l) => l.units)).toEqual([90, 5, 0, null]);
    expect(all[0]?.units).toBe(5);
  });
});
const offer = { seller: '', delivery: 0, warehouse: null, of: 'other', isDefault: false } as const;
