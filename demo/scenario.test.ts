import { describe, expect, it } from 'vitest';
import type { MarketplaceCard, TaxCard } from '../core/cards/rates.ts';
import { marketplaceCard, taxCard } from '../core/cards/rates.ts';
import { WAYS } from '../core/lane/choices.ts';
import { newLane } from '../core/workspace/newLane.ts';
import { candidateData, quoteSource, storedLane } from '../core/workspace/records.ts';
import { composeLane } from '../core/workspace/compose.ts';
import { settings as settingsSchema } from '../core/workspace/settings.ts';
import { bestLane, planOf, summarise } from '../core/workspace/summary.ts';
import { demoCandidates, demoSettings, demoSuppliers } from './scenario.ts';
import { starterCards } from './starterCards.ts';

const cards = starterCards();
const markets = cards.filter((c) => c.kind === 'marketplace').map((c) => c.data as MarketplaceCard);
const settings = settingsSchema.parse(demoSettings);
const byId = Object.fromEntries(cards.map((c) => [c.key, c.data]));

const judged = demoCandidates.map(({ supplier: _s, quote, others: _o, lanes, dropped: _d, ...data }) => {
  const candidate = candidateData.parse(data);
  const summaries = lanes.map((l) => {
    const card = byId[l.market] as MarketplaceCard;
    const stored = newLane({
      way: candidate.way,
      settings,
      country: card.country,
      currency: card.currency,
      marketplace: card,
      exchange: byId.exchange as never,
      cards: { marketplace: l.market, tax: card.country, exchange: 'exchange' },
      origin: candidate.product.origin,
      price: l.price,
      quoteId: 'q',
      today: '2026-11-24',
    });
    const lane = storedLane.parse({ ...stored, ...l.set });
    const doc = composeLane({
      candidate,
      lane,
      quotes: { q: quoteSource.parse(quote) },
      cards: byId,
      homeCurrency: 'EUR',
      standings: settings.standings,
      today: '2026-11-24',
    });
    return summarise(doc, settings.hurdles[candidate.way] ?? [], planOf(candidate, settings.launch));
  });
  return { name: candidate.name, way: candidate.way, best: summaries[bestLane(summaries)], summaries };
});

describe('starter cards', () => {
  it('are valid, and the same at every draw', () => {
    for (const c of cards)
      (c.kind === 'marketplace' ? marketplaceCard : c.kind === 'tax' ? taxCard : { parse: () => 0 }).parse(
        c.data,
      );
    expect(starterCards()).toEqual(cards);
  });
  it('are of four marketplaces of different character', () => {
    const of = (test: (c: MarketplaceCard) => boolean): string[] => [
      ...new Set(markets.filter(test).map((c) => c.marketplace)),
    ];
    expect(of(() => true).length).toBeGreaterThanOrEqual(4);
    expect(of((c) => (c.warehouse?.tiers.length ?? 0) > 2)).not.toEqual([]);
    expect(
      of((c) =>
        c.categories.some(
          (x) => x.referral.mode === 'sliced' && x.referral.tiers.length > 1 && x.referral.min !== null,
        ),
      ),
    ).not.toEqual([]);
    expect(
      of(
        (c) =>
          c.warehouse === null &&
          c.categories.every((x) => x.referral.tiers.length === 1) &&
          (c.itemFee > 0 || (c.payment?.fixed ?? 0) > 0),
      ),
    ).not.toEqual([]);
    expect(of((c) => c.warehouse === null).length).toBeGreaterThanOrEqual(2);
  });
  it('cover nine countries with their own currencies; each VAT rate has its day', () => {
    const taxes = cards.filter((c) => c.kind === 'tax').map((c) => c.data as TaxCard);
    expect(taxes.map((x) => `${x.country} ${x.currency}`).sort()).toEqual([
      'AE AED',
      'DE EUR',
      'ES EUR',
      'FR EUR',
      'GB GBP',
      'IT EUR',
      'JP JPY',
      'PL PLN',
      'US USD',
    ]);
    expect(new Set(markets.map((c) => c.country)).size).toBe(9);
    const standard = Object.fromEntries(taxes.map((x) => [x.country, x.vatRates.standard]));
    expect(standard).toEqual({
      DE: 0.19,
      FR: 0.2,
      ES: 0.21,
      IT: 0.22,
      PL: 0.23,
      GB: 0.2,
      JP: 0.1,
      AE: 0.05,
      US: undefined,
    });
    for (const x of taxes) expect(x.inForceFrom).toMatch(/^20\d\d-\d\d-\d\d$/);
  });
});

describe('the demo', () => {
  it('has at least fourteen candidates, all five ways of working, a supplier each', () => {
    expect(demoCandidates.length).toBeGreaterThanOrEqual(14);
    expect([...new Set(judged.map((c) => c.way))].sort()).toEqual([...WAYS].sort());
    expect(
      [
        ...new Set(demoCandidates.flatMap((c) => [c.supplier, ...(c.others ?? []).map((o) => o.supplier)])),
      ].sort(),
    ).toEqual(demoSuppliers.map((s) => s.key).sort());
  });
  it('has winners, near misses, clear losses, incomplete ones, and one that fits no size tier', () => {
    const names = (test: (c: (typeof judged)[number]) => boolean): number => judged.filter(test).length;
    expect(names((c) => c.best?.hurdles.every((h) => h.verdict === 'pass') ?? false)).toBeGreaterThanOrEqual(
      3,
    );
    expect(names((c) => c.best?.hurdles.some((h) => h.verdict === 'near') ?? false)).toBeGreaterThanOrEqual(
      1,
    );
    expect(names((c) => (c.best?.result.figures.unitProfit ?? 0) < -1)).toBeGreaterThanOrEqual(1);
    expect(names((c) => (c.best?.result.incomplete.unitProfit?.length ?? 0) > 0)).toBeGreaterThanOrEqual(1);
    expect(
      names((c) => c.summaries.some((s) => s.result.problems.some((p) => p.code === 'noSizeTier'))),
    ).toBe(1);
  });
});
