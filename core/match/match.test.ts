import { describe, expect, it } from 'vitest';
import { Draw } from '../testing/draw.ts';
import { someListings, somePairs } from '../testing/matchPairs.ts';
import { CONFIDENCES, MatchIndex, REASONS } from './match.ts';
import type { Goods, Listing } from './match.ts';
import { contradict, NOISE, tokensOf } from './tokens.ts';

const noise = new Set(NOISE);
const goods = (title: string, over: Partial<Goods> = {}): Goods => ({
  key: '',
  model: '',
  brand: '',
  title,
  pack: '',
  ...over,
});
let n = 0;
const listing = (title: string, over: Partial<Listing> = {}): Listing => ({
  ...goods(title),
  code: `L${++n}`,
  units: null,
  ...over,
});
const KEY = '09521000000001';

describe('words that tell goods apart', () => {
  it('folded, without noise, measures in one unit', () => {
    const t = tokensOf('NEW! Größer Krug, für den Garten 2 Liter', noise);
    expect(t.words).toEqual(['grosser', 'krug', 'den', 'garten']);
    expect(t.measures.get('volume')).toEqual(['2000']);
    expect(tokensOf('Mat 60cm', noise).measures).toEqual(tokensOf('Mat 0,6 m', noise).measures);
  });
  it('a title of nothing but noise stays', () =>
    expect(tokensOf('Top Set Sale', noise).words).toEqual(['top', 'set', 'sale']));
  it('models are letters with digits, hyphens or not', () => {
    expect(tokensOf('Reel KX-104b', noise).models).toEqual(['kx104b']);
    expect(tokensOf('Reel KX104B 2024', noise).models).toEqual(['kx104b']);
  });
  it('two measures of one dimension contradict; of two they do not', () => {
    const of = (title: string) => tokensOf(title, noise).measures;
    expect(contradict(of('Can 2 l'), of('Can 5 l'))).toBe(true);
    expect(contradict(of('Can 2 l'), of('Can 2000 ml green'))).toBe(false);
    expect(contradict(of('Can 2 l'), of('Can 30 cm'))).toBe(false);
    expect(contradict(of('Shirt M'), of('Shirt XL'))).toBe(true);
  });
});

describe('which listing it is', () => {
  it('by barcode, the fastest of several', () => {
    const index = new MatchIndex([
      listing('Cork door mat', { key: KEY, units: 5 }),
      listing('Cork door mat, large', { key: KEY, units: 50 }),
    ]);
    const m = index.match(goods('door mat of cork', { key: KEY }));
    expect([m.confidence, m.reason, m.listing, m.others]).toEqual(['certain', 'barcode', 1, [0]]);
  });
  it('a barcode of other goods is left to the eye', () => {
    const index = new MatchIndex([listing('Copper rain gauge', { key: KEY, brand: 'Tarnside' })]);
    const m = index.match(goods('Felt slippers grey', { key: KEY, brand: 'Ortolan' }));
    expect([m.confidence, m.reason, m.listing]).toEqual(['byEye', 'barcodeOtherGoods', 0]);
  });
  it('by model and brand; a model alone is only likely', () => {
    const all = [
      listing('Hose reel RT-300 wall mounted', { brand: 'Hazelby' }),
      ...Array.from({ length: 30 }, (_, i) => listing(`Lantern ${i}`)),
    ];
    const index = new MatchIndex(all);
    expect(index.match(goods('Hose reel', { brand: 'Hazelby', model: 'RT300' }))).toMatchObject({
      confidence: 'certain',
      reason: 'model',
      listing: 0,
    });
    expect(index.match(goods('Hose reel RT300'))).toMatchObject({
      confidence: 'likely',
      reason: 'modelAlone',
    });
  });
  it('by brand and title, whatever order and chatter', () => {
    const index = new MatchIndex([
      listing('Slate bird bath round 30 cm', { brand: 'Ortolan' }),
      listing('Slate bird bath square 30 cm', { brand: 'Ortolan' }),
      listing('Zinc watering can 5 l', { brand: 'Ortolan' }),
    ]);
    const m = index.match(goods('BEST Ortolan round bird bath, slate 0.3m'));
    expect(m).toMatchObject({ listing: 0, confidence: 'likely' });
    expect(index.match(goods('round bird bath slate 300 mm', { brand: 'Ortolan' }))).toMatchObject({
      confidence: 'certain',
      reason: 'title',
      listing: 0,
    });
  });
  it('what fits two alike, or another measure, is for the eye; what fits nothing is none', () => {
    const index = new MatchIndex([
      listing('Willow basket blue', { brand: 'Ortolan' }),
      listing('Willow basket teal', { brand: 'Ortolan' }),
      listing('Zinc can 5 l', { brand: 'Hazelby' }),
    ]);
    expect(index.match(goods('Willow basket', { brand: 'Ortolan' }))).toMatchObject({
      confidence: 'byEye',
      reason: 'severalAlike',
    });
    expect(index.match(goods('Zinc can 2 l', { brand: 'Hazelby' }))).toMatchObject({
      reason: 'otherMeasure',
    });
    expect(index.match(goods('Carbon bicycle'))).toMatchObject({ confidence: 'none', listing: -1 });
  });
  it('packs on both sides give the factor; one field beats the title', () => {
    const index = new MatchIndex([listing('Felt pads, pack of 12', { key: KEY })]);
    expect(index.match(goods('Felt pads, 4 pcs', { key: KEY })).packs).toEqual({ sold: 12, bought: 4 });
    expect(index.match(goods('Felt pads, 4 pcs', { key: KEY, pack: '6' })).packs).toEqual({
      sold: 12,
      bought: 6,
    });
  });
  it('what was decided by hand comes first, what was refused never again', () => {
    const [a, b] = [listing('Cork mat', { key: KEY }), listing('Cork mat')];
    const index = new MatchIndex([a, b]);
    const hand = { code: b.code, refused: [], packs: { sold: 3, bought: 1 } };
    expect(index.match(goods('Cork mat', { key: KEY }), hand)).toMatchObject({
      confidence: 'certain',
      reason: 'byHand',
      listing: 1,
      packs: { sold: 3, bought: 1 },
    });
    const no = { code: null, refused: [a.code, b.code], packs: null };
    expect(index.match(goods('Cork mat', { key: KEY }), no)).toMatchObject({
      confidence: 'none',
      reason: 'refused',
    });
    // A listing that is gone was decided in vain.
    expect(index.match(goods('Cork mat', { key: KEY }), { ...hand, code: 'gone' })).toMatchObject({
      reason: 'barcode',
    });
  });
  it('of no listings none, of no title none', () => {
    expect(new MatchIndex([]).match(goods('Cork mat'))).toMatchObject({ confidence: 'none', alike: 0 });
    const index = new MatchIndex([listing('Cork mat')]);
    for (const title of ['', '   ', '!!!', 'x'.repeat(5000)])
      expect(index.match(goods(title))).toMatchObject({ confidence: 'none' });
  });
});

it('of what it calls certain at least 95 in 100 are right, on 5,000 invented pairs of any seed', () => {
  const d = new Draw(Number(process.env.BM_SEED ?? 1));
  const { listings, things } = someListings(d, 8000);
  const pairs = somePairs(d, 5000, things);
  const index = new MatchIndex(listings);
  const count = Object.fromEntries(CONFIDENCES.map((c) => [c, { all: 0, right: 0 }]));
  const reasons = new Set<string>();
  for (const { goods: g, right } of pairs) {
    const m = index.match(g);
    reasons.add(m.reason);
    const own = count[m.confidence] as { all: number; right: number };
    own.all++;
    // Two listings of the very same title are one as far as anybody can tell.
    const same = m.listing >= 0 && right >= 0 && listings[m.listing]?.title === listings[right]?.title;
    if (m.listing === right || same) own.right++;
    expect(m.alike).toBeGreaterThanOrEqual(0);
    expect(m.others.length).toBeLessThanOrEqual(5);
  }
  const certain = count.certain as { all: number; right: number };
  expect(certain.right / certain.all).toBeGreaterThanOrEqual(0.95);
  // It does not hide behind the eye.
  expect(certain.all).toBeGreaterThan(1500);
  expect(Object.values(count).reduce((s, c) => s + c.all, 0)).toBe(5000);
  for (const r of REASONS) if (r !== 'byHand' && r !== 'refused') expect(reasons.has(r), r).toBe(true);
});
