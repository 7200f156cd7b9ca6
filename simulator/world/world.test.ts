/** The invented world hangs together: the same question gets the same answer, and two answers about one thing agree. */
import { describe, expect, it } from 'vitest';
import { byBarcode, history, listing, markets, offers, picks, row, search } from './feed.ts';
import type { Asked, RangeFigure, World } from './feed.ts';
import { codeOf, goodsAt, gtinOf, numberOf, rankAt, unitsAt } from './goods.ts';
import { MARKETS } from './markets.ts';
import type { Market } from './markets.ts';
import { LANGUAGES, THINGS } from './words.ts';
import type { Thing } from './words.ts';
import { PLANTED, STORIES } from './stories.ts';

const W: World = { seed: 7, today: '2026-11-29' };
/** A young market: the fewest listings to look through. */
const YOUNG = MARKETS.find((m) => m.listings < 10_000) as Market;
const LARGE = MARKETS[0] as Market;
/** What one thing is called there. */
const WORD = (THINGS[0] as Thing).word[LANGUAGES.indexOf(YOUNG.language)] as string;
const ANY: Asked = {
  words: '',
  category: null,
  ranges: {},
  sort: 'units',
  cursor: 0,
  limit: 50,
  seller: null,
  brand: null,
};
const asked = (more: Partial<Asked>) => search(W, YOUNG, { ...ANY, ...more });
/** Some listings of the story and many of the rest. */
const SOME = [...Array(PLANTED).keys(), ...Array.from({ length: 60 }, (_, k) => PLANTED + 1 + k * 137)];

describe('the same question', () => {
  it('gets the same answer, whatever was asked between', () => {
    const ask = () => ({
      listing: listing(W, YOUNG, codeOf(500)),
      history: history(W, YOUNG, codeOf(500), null),
      offers: offers(W, YOUNG, codeOf(500)),
      found: asked({ words: WORD }),
      random: picks(W, YOUNG, 'random', 5),
    });
    const first = ask();
    listing(W, LARGE, codeOf(77));
    expect(ask()).toEqual(first);
  });
  it('another seed is another world, another day another price and the same goods', () => {
    const codes = (w: World) => search(w, YOUNG, ANY).listings.map((l) => l.listing);
    expect(codes({ ...W, seed: 8 })).not.toEqual(codes(W));
    const later = row({ ...W, today: '2027-01-29' }, YOUNG, goodsAt(W.seed, YOUNG, 300));
    expect(later).toMatchObject({
      title: row(W, YOUNG, goodsAt(W.seed, YOUNG, 300)).title,
      listing: codeOf(300),
    });
  });
  it('a code that is none, and one past the market, leads nowhere', () => {
    for (const code of ['', 'LT12', 'XX000001', 'LT999999', 'LT00000x']) {
      expect(numberOf(code, YOUNG), code).toBeNull();
      expect(listing(W, YOUNG, code), code).toBeNull();
      expect(history(W, YOUNG, code, null), code).toBeNull();
      expect(offers(W, YOUNG, code), code).toBeNull();
    }
    expect(numberOf(codeOf(YOUNG.listings - 1), YOUNG)).toBe(YOUNG.listings - 1);
    expect(numberOf(codeOf(YOUNG.listings), YOUNG)).toBeNull();
  });
});

describe('answers about one listing', () => {
  it('its page, its row, its history and its offers say the same price today', () => {
    let offered = 0;
    for (const i of SOME) {
      const code = codeOf(i);
      const page = listing(W, YOUNG, code);
      const days = history(W, YOUNG, code, null)?.days ?? [];
      const last = days.at(-1);
      expect(last?.day, code).toBe(W.today);
      if (last?.price === null || last === undefined) continue;
      offered++;
      expect(page?.price, code).toBe(last.price);
      const list = offers(W, YOUNG, code)?.offers ?? [];
      expect(list.length, code).toBe(last.offers);
      const first = list[0] as (typeof list)[number];
      expect(first.price + 0.5 * (first.delivery ?? 0), code).toBeCloseTo(last.price, 1);
      expect(list.filter((o) => o.ownShop).length, code).toBeLessThanOrEqual(last.ownShop ? 1 : 0);
    }
    expect(offered).toBeGreaterThan(40);
  });
  it('days follow each other without a gap, and where nobody offers there is no price', () => {
    let empty = 0;
    for (const i of SOME) {
      const days = history(W, YOUNG, codeOf(i), null)?.days ?? [];
      expect(days.length).toBeGreaterThan(0);
      expect(days.length).toBeLessThanOrEqual(YOUNG.history);
      days.forEach((d, k) => {
        const before = days[k - 1];
        if (before !== undefined) expect(Date.parse(d.day) - Date.parse(before.day)).toBe(86_400_000);
        expect(d.price === null).toBe(d.offers === 0);
        if (d.price === null) empty++;
        else expect(d.price).toBeGreaterThan(0);
      });
    }
    expect(empty).toBeGreaterThan(0);
  });
  it('the history from a day on is the end of the whole', () => {
    const whole = history(W, YOUNG, codeOf(42), null)?.days ?? [];
    const tail = history(W, YOUNG, codeOf(42), '2026-11-01')?.days ?? [];
    expect(tail.length).toBe(29);
    expect(tail).toEqual(whole.slice(-29));
  });
  it('rank and units are two ways to say the same', () => {
    for (const rank of [1, 10, 250, 4000]) {
      const back = rankAt(unitsAt(rank, LARGE), LARGE);
      expect(Math.abs(back - rank) / rank).toBeLessThan(0.02);
    }
    expect(unitsAt(10, LARGE)).toBeGreaterThan(unitsAt(100, LARGE));
  });
  it('a barcode finds the listing that has it; one nobody has finds none', () => {
    for (const i of [0, PLANTED + 3, 4321]) {
      const found = byBarcode(W, YOUNG, gtinOf(i)).listings.map((l) => l.listing);
      expect(found, gtinOf(i)).toContain(codeOf(i));
    }
    expect(byBarcode(W, YOUNG, '4006381333931').listings).toEqual([]);
    expect(new Set(STORIES.map((s) => s.gtin)).size).toBe(PLANTED);
  });
  it('the barcodes are of the demonstration prefix and their check digits fit', () => {
    for (const i of SOME) {
      const gtin = gtinOf(i);
      expect(gtin).toMatch(/^952\d{10}$/);
      const sum = [...gtin].reduce((s, d, k) => s + Number(d) * (k % 2 === 0 ? 1 : 3), 0);
      expect(sum % 10, gtin).toBe(0);
    }
  });
});

describe('a search', () => {
  const figures: readonly RangeFigure[] = ['price', 'units', 'rank', 'reviews', 'rating', 'daysListed', 'kg'];
  it.each(figures)('limits by %s as its rows show it', (f) => {
    const all = asked({ limit: 200, sort: 'newest' }).listings.flatMap((l) => l[f] ?? []);
    const sorted = [...all].sort((a, b) => a - b);
    const [from, to] = [0.25, 0.75].map((x) => sorted[Math.floor(sorted.length * x)]) as [number, number];
    const found = asked({ limit: 200, ranges: { [f]: { from, to } } });
    expect(found.total).toBeGreaterThan(0);
    for (const l of found.listings) {
      expect(l[f]).toBeGreaterThanOrEqual(from);
      expect(l[f]).toBeLessThanOrEqual(to);
    }
  });
  it.each([
    ['price', (l: { price: number }) => l.price],
    ['reviews', (l: { reviews: number }) => l.reviews],
    ['newest', (l: { daysListed: number }) => l.daysListed],
  ] as const)('orders by %s as its rows show it', (sort, key) => {
    const keys = asked({ sort, limit: 100 }).listings.map(key);
    expect(keys).toEqual([...keys].sort((a, b) => a - b));
  });
  it('the cheapest are the cheapest of all that are found', () => {
    const all = asked({ sort: 'newest', limit: 9000, words: WORD }).listings.map((l) => l.price);
    const first = asked({ sort: 'price', limit: 10, words: WORD }).listings.map((l) => l.price);
    expect(first).toEqual(all.sort((a, b) => a - b).slice(0, 10));
  });
  it('pages follow each other and add up to the total, none twice', () => {
    const seen: string[] = [];
    let cursor: number | null = 0;
    let total = 0;
    while (cursor !== null) {
      const page = asked({ words: WORD, cursor, limit: 40 });
      seen.push(...page.listings.filter((l) => !l.paid).map((l) => l.listing));
      total = page.total;
      cursor = page.next === null ? null : Number(page.next);
    }
    expect(seen.length).toBe(total);
    expect(new Set(seen).size).toBe(total);
  });
  it('by relevance some places are bought, and words narrow what is found', () => {
    const found = asked({ words: WORD, sort: 'relevance' });
    expect(found.listings.some((l) => l.paid)).toBe(true);
    expect(found.total).toBeLessThan(asked({}).total);
    expect(asked({ words: 'qqqqq' })).toMatchObject({ total: 0, listings: [], next: null });
  });
  it('of a brand, a seller or a category only theirs are found', () => {
    const one = asked({ limit: 30 }).listings.find((l) => l.brand !== '');
    if (one === undefined) throw new Error('no listing with a brand');
    for (const l of asked({ brand: one.brand, limit: 100 }).listings) expect(l.brand).toBe(one.brand);
    const sold = asked({ seller: one.seller, limit: 100 }).listings;
    expect(sold.map((l) => l.listing)).toContain(one.listing);
    for (const l of sold) expect(l.seller).toBe(one.seller);
    for (const l of asked({ category: one.category, limit: 100 }).listings)
      expect(l.category).toBe(one.category);
  });
  it('lists of the new and the best are in their order', () => {
    const newest = picks(W, YOUNG, 'new', 20).listings.map((l) => l.daysListed);
    expect(newest).toEqual([...newest].sort((a, b) => a - b));
    const best = picks(W, YOUNG, 'best', 20).listings.map((l) => l.units);
    expect(best).toEqual([...best].sort((a, b) => b - a));
    expect(picks(W, YOUNG, 'rising', 20).listings).toHaveLength(20);
  });
});

it('every market has a name of its own, a currency and a length of history', () => {
  const said = markets(W).markets;
  expect(new Set(said.map((m) => m.market)).size).toBe(MARKETS.length);
  for (const m of said) {
    expect(m.currency, m.market).toMatch(/^[A-Z]{3}$/);
    expect(m.historyDays, m.market).toBeGreaterThan(100);
  }
});
