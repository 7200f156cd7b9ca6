/**
 * What a market feed says of the world, question by question: pure functions of the seed and the day, each a few lines,
 * so that they stand in one file.
 */
import { daysOf, priceToday } from './days.ts';
import { between, dayNumber, dayText, draw } from './draw.ts';
import { codeOf, curveOf, goodsAt, gtinOf, monthly, numberOf, sellerOf, titleOf } from './goods.ts';
import type { Goods } from './goods.ts';
import { MARKETS, marketNumber } from './markets.ts';
import type { Market } from './markets.ts';
import { PLANTED, STORIES } from './stories.ts';
import { FORMS, LANGUAGES, MATERIALS, THEMES, THINGS } from './words.ts';

export type World = { readonly seed: number; readonly today: string };
const cents = (x: number): number => Number(x.toFixed(2));
/** What every answer carries. */
const head = (w: World, coverage = 1) => ({ asOf: w.today, coverage });

export const markets = (w: World) => ({
  ...head(w),
  markets: MARKETS.map((m) => ({
    market: m.market,
    marketplace: m.marketplace,
    country: m.country,
    currency: m.currency,
    languages: [m.language],
    listings: m.listings,
    historyDays: m.history,
  })),
});
export const categories = (w: World, m: Market) => ({
  ...head(w),
  categories: [...new Set(THINGS.map((t) => t.category))].map((key) => ({
    key,
    returnRate: returnRateOf(w, key),
    curve: curveOf(m),
  })),
});
const returnRateOf = (w: World, category: string): number =>
  cents(between(draw(w.seed, category.length * 31, category.charCodeAt(0)), 0.01, 0.09));

/** A row of a search, a shop or a list. */
export function row(w: World, m: Market, g: Goods, paid = false) {
  return {
    listing: codeOf(g.i),
    title: titleOf(g, m),
    brand: g.brand,
    seller: sellerOf(w.seed, g.i, 0),
    category: g.thing.category,
    price: priceToday(w.seed, m, g, w.today) ?? g.price,
    units: Math.round(g.units),
    rank: g.rank,
    reviews: g.reviews,
    rating: g.reviews === 0 ? null : g.rating,
    daysListed: g.daysListed,
    offers: 1 + Math.floor(draw(w.seed, g.i, 300) * 6),
    kg: cents(g.thing.kg * between(draw(w.seed, g.i, 21), 0.7, 1.4)),
    gtin: gtinOf(g.i),
    paid,
  };
}

const sidesOf = (g: Goods): number[] => {
  const side = 10 * Math.cbrt(g.thing.kg * 4);
  return [1.4, 1, 0.6].map((x) => cents(side * x));
};

export function listing(w: World, m: Market, code: string) {
  const i = numberOf(code, m);
  if (i === null) return null;
  const g = goodsAt(w.seed, m, i);
  const d = (k: number): number => draw(w.seed, i, 400 + k);
  const shares = Array.from({ length: g.variations }, (_, k) =>
    g.story?.has === 'variation' ? ([0.72, 0.15, 0.08, 0.05][k] ?? 0.05) : 0.2 + d(k),
  );
  const all = shares.reduce((a, b) => a + b, 0) || 1;
  const month = Number(w.today.slice(5, 7));
  const stated = d(20) < 0.6 || g.story !== null;
  const units = Math.round(g.units * monthly(g.thing, g.thingNumber, month, 0, w.seed));
  return {
    ...head(w),
    ...row(w, m, g),
    currency: m.currency,
    sides: sidesOf(g),
    units: stated
      ? { units, stated: true, low: null, high: null }
      : { units, stated: false, low: Math.round(units * 0.6), high: Math.round(units * 1.5) },
    unitsByMonth: monthsBack(
      w,
      g.thing.shape === 'flat' ? 24 : Math.min(26, Math.floor(m.history / 30)),
      (y, mo, years) => ({
        month: `${y}-${String(mo).padStart(2, '0')}`,
        value: Math.round(g.units * monthly(g.thing, g.thingNumber, mo, years, w.seed)),
      }),
    ),
    curve: curveOf(m),
    returnRate: returnRateOf(w, g.thing.category),
    variations: shares.map((s, k) => ({
      code: `${codeOf(i)}-${k + 1}`,
      name: FORMS[k]?.[LANGUAGES.indexOf(m.language)] ?? String(k + 1),
      price: cents(
        g.price *
          (g.story?.has === 'variation' ? ([1, 0.62, 0.6, 0.58][k] ?? 1) : between(d(30 + k), 0.85, 1.2)),
      ),
      ratings: Math.round((g.reviews * s) / all),
    })),
  };
}

/** Months before this one, the oldest first. */
function monthsBack<T>(w: World, count: number, of: (year: number, month: number, years: number) => T): T[] {
  const now = 12 * Number(w.today.slice(0, 4)) + Number(w.today.slice(5, 7)) - 1;
  return Array.from({ length: count }, (_, k) => {
    const t = now - count + k;
    return of(Math.floor(t / 12), (t % 12) + 1, (t - now) / 12);
  });
}

export function history(w: World, m: Market, code: string, from: string | null) {
  const i = numberOf(code, m);
  if (i === null) return null;
  const days = daysOf(w.seed, m, goodsAt(w.seed, m, i), from, w.today);
  return { ...head(w), listing: code, currency: m.currency, days };
}

export function offers(w: World, m: Market, code: string) {
  const i = numberOf(code, m);
  if (i === null) return null;
  const g = goodsAt(w.seed, m, i);
  const [today] = daysOf(w.seed, m, g, w.today, w.today);
  const price = today?.price ?? null;
  const count = price === null ? 0 : (today?.offers ?? 0);
  const list = Array.from({ length: count }, (_, k) => {
    const own = k === 1 && today?.ownShop === true;
    const warehouse = own || draw(w.seed, i, 320 + k) < 0.6;
    const delivery = warehouse
      ? 0
      : draw(w.seed, i, 340 + k) < 0.15
        ? null
        : cents((2 + Math.floor(draw(w.seed, i, 360 + k) * 4)) * m.perEuro);
    return {
      seller: own ? m.marketplace : sellerOf(w.seed, i, k),
      price: cents(
        (price as number) * (k === 0 ? 1 : between(draw(w.seed, i, 380 + k), 0.96, 1.22)) -
          (delivery ?? 0) * 0.5,
      ),
      delivery,
      warehouse,
      ownShop: own,
      isDefault: k === 0 && draw(w.seed, i, 399) > 0.08,
    };
  });
  return { ...head(w), listing: code, currency: m.currency, offers: list };
}

export function permission(w: World, m: Market, code: string) {
  const i = numberOf(code, m);
  if (i === null) return null;
  const g = goodsAt(w.seed, m, i);
  const has = g.story?.has;
  const u = draw(w.seed, i, 77);
  const state =
    has === 'closed' || has === 'approval' || has === 'rightsAlert'
      ? has
      : g.story !== null
        ? 'open'
        : u < 0.8
          ? 'open'
          : u < 0.92
            ? 'approval'
            : u < 0.98
              ? 'closed'
              : 'rightsAlert';
  const purchase = state === 'approval' && (has === 'approval' || u < 0.88);
  return {
    ...head(w),
    listing: code,
    state,
    by: state === 'approval' ? (purchase ? 'purchase' : 'documents') : null,
    units: purchase ? 30 : null,
    price: purchase ? cents(g.price * 0.45) : null,
  };
}

export function complaints(w: World, m: Market, code: string) {
  const i = numberOf(code, m);
  if (i === null) return null;
  const g = goodsAt(w.seed, m, i);
  const shares = THEMES.map((theme, k) => ({ theme, u: draw(w.seed, i, 500 + k) ** 2 }))
    .sort((a, b) => b.u - a.u)
    .slice(0, 4);
  const all = shares.reduce((s, x) => s + x.u, 0) || 1;
  return {
    ...head(w),
    listing: code,
    complaints: shares.map((s) => ({
      theme: s.theme,
      share: cents(s.u / all),
      count: Math.round((g.reviews * 0.12 * s.u) / all),
    })),
  };
}

// ---- terms

type TermOf = {
  readonly term: string;
  readonly thing: number;
  readonly material: number;
  readonly form: number;
  readonly part: number;
};
/** Terms of a market's language that name a thing: alone, with each material, with each form. */
export function termsOf(m: Market, thing: number): TermOf[] {
  const at = LANGUAGES.indexOf(m.language);
  const name = (THINGS[thing]?.word[at] ?? '').toLowerCase();
  const joined = (more: string): string => `${name} ${more}`.toLowerCase();
  return [
    { term: name, thing, material: -1, form: -1, part: 1 },
    ...MATERIALS.map((x, k) => ({
      term: joined(x[at] ?? ''),
      thing,
      material: k,
      form: -1,
      part: 0.02 + 0.28 * draw(7, thing, k),
    })),
    ...FORMS.map((x, k) => ({
      term: joined(x[at] ?? ''),
      thing,
      material: -1,
      form: k,
      part: 0.02 + 0.22 * draw(8, thing, k),
    })),
  ];
}
function termSaid(w: World, m: Market, t: TermOf) {
  const thing = THINGS[t.thing] as (typeof THINGS)[number];
  const size = thing.searches * m.size * t.part;
  const months = Math.min(26, Math.max(9, Math.floor(m.history / 30)));
  const volumes = monthsBack(w, months, (y, mo, years) => ({
    month: `${y}-${String(mo).padStart(2, '0')}`,
    value: Math.round(
      size *
        monthly(thing, t.thing, mo, years, w.seed) *
        between(draw(w.seed, t.thing * 100 + t.material * 10 + t.form, y * 12 + mo), 0.95, 1.05),
    ),
  }));
  const last = volumes.at(-1)?.value ?? 0;
  const bought =
    t.part === 1 ? 0.01 : between(draw(w.seed, t.thing, 700 + t.material * 10 + t.form), 0.02, 0.07);
  return { term: t.term, language: m.language, volumes, sales: Math.round(last * bought) };
}
const folded = (s: string): string => s.normalize('NFC').toLowerCase().trim();
const wordsIn = (s: string): string[] => folded(s).match(/[\p{L}\p{M}\p{N}]+/gu) ?? [];

/**
 * Things that a text may mean: each of its words begins or is in the thing's name, in the market's language or
 * English.
 */
function thingsMeant(m: Market, text: string): number[] {
  const wanted = wordsIn(text);
  const at = LANGUAGES.indexOf(m.language);
  return THINGS.flatMap((t, k) => {
    const names = `${t.word[at]} ${t.word[0]}`.toLowerCase();
    return wanted.some((x) => names.includes(x)) ? [k] : [];
  });
}
export function terms(w: World, m: Market, words: string) {
  const found = thingsMeant(m, words)
    .flatMap((k) => termsOf(m, k))
    .slice(0, 200);
  return { ...head(w), terms: found.map((t) => termSaid(w, m, t)) };
}
/** Terms a listing is found by, with its free and paid place. */
export function listingTerms(w: World, m: Market, code: string) {
  const i = numberOf(code, m);
  if (i === null) return null;
  const g = goodsAt(w.seed, m, i);
  const own = termsOf(m, g.thingNumber).filter(
    (t) =>
      (t.material < 0 || t.material === g.material) &&
      (t.form < 0 || t.form === g.form || draw(w.seed, i, t.form) < 0.3),
  );
  return {
    ...head(w),
    listing: code,
    terms: own.map((t, k) => ({
      ...termSaid(w, m, t),
      freePlace: 1 + Math.floor(draw(w.seed, i, 800 + k) ** 2 * 60),
      paidPlace: draw(w.seed, i, 820 + k) < 0.3 ? 1 + Math.floor(draw(w.seed, i, 840 + k) * 8) : null,
    })),
  };
}
export function bids(w: World, m: Market, asked: readonly string[]) {
  const at = marketNumber(m);
  return {
    ...head(w),
    currency: m.currency,
    bids: asked.flatMap((term) =>
      (['exact', 'phrase', 'broad'] as const).flatMap((match, k) =>
        ['first', 'second'].map((source, s) => {
          const u = draw(
            w.seed,
            [...term].reduce((h, c) => (h * 31 + c.charCodeAt(0)) | 0, at),
            k * 2 + s,
          );
          const low = between(u, 0.22, 0.7) * (1 - 0.15 * k) * m.perEuro * (0.8 + 0.2 * m.size);
          return {
            term,
            language: m.language,
            source,
            match,
            low: cents(low),
            high: cents(low * between(draw(w.seed, k, s + term.length), 1.4, 2.1)),
          };
        }),
      ),
    ),
  };
}

// ---- search

export type Asked = {
  readonly words: string;
  readonly category: string | null;
  readonly ranges: Readonly<Partial<Record<RangeFigure, { from: number | null; to: number | null }>>>;
  readonly sort: 'relevance' | 'units' | 'price' | 'reviews' | 'newest';
  readonly cursor: number;
  readonly limit: number;
  /** Only goods of one seller or brand. */
  readonly seller: string | null;
  readonly brand: string | null;
};
export const RANGE_FIGURES = ['price', 'units', 'rank', 'reviews', 'rating', 'daysListed', 'kg'] as const;
export type RangeFigure = (typeof RANGE_FIGURES)[number];

/** Whether goods are meant by all words: of the thing, the material, the form or the brand. */
function meaning(m: Market, text: string): ((g: Goods) => boolean) | null {
  const wanted = wordsIn(text);
  if (wanted.length === 0) return null;
  const at = LANGUAGES.indexOf(m.language);
  const holds = (names: string, x: string): boolean => folded(names).includes(x);
  const things = THINGS.map((t) => wanted.map((x) => holds(`${t.word[at]} ${t.word[0]}`, x)));
  const materials = MATERIALS.map((t) => wanted.map((x) => holds(`${t[at]} ${t[0]}`, x)));
  const forms = FORMS.map((t) => wanted.map((x) => holds(`${t[at]} ${t[0]}`, x)));
  return (g) =>
    wanted.every(
      (x, k) =>
        things[g.thingNumber]?.[k] ||
        materials[g.material]?.[k] ||
        forms[g.form]?.[k] ||
        folded(g.brand) === x,
    );
}
/** A figure as its row shows it. */
function figureOf(w: World, m: Market, g: Goods, f: RangeFigure): number {
  switch (f) {
    case 'kg':
      return cents(g.thing.kg * between(draw(w.seed, g.i, 21), 0.7, 1.4));
    case 'price':
      return priceToday(w.seed, m, g, w.today) ?? g.price;
    case 'units':
      return Math.round(g.units);
    // Nobody has rated it: within no limit.
    case 'rating':
      return g.reviews === 0 ? Number.NaN : g.rating;
    default:
      return g[f];
  }
}

const within = (x: number, r: { from: number | null; to: number | null }): boolean =>
  (r.from === null || x >= r.from) && (r.to === null || x <= r.to);

/** A day's price lies between these shares of the usual one, so that most rows need not be worked out. */
const [LEAST, MOST] = [0.5, 1.5];
const mayBeWithin = (usual: number, r: { from: number | null; to: number | null }): boolean =>
  (r.from === null || usual * MOST >= r.from) && (r.to === null || usual * LEAST <= r.to);

/** Those that can be among the first so many by today's price. */
function cheapest(found: readonly Goods[], n: number): readonly Goods[] {
  const usual = Float64Array.from(found, (g) => g.price).sort();
  const last = usual[Math.min(n, usual.length) - 1] ?? 0;
  return found.filter((g) => g.price * LEAST <= last * MOST);
}

/** The first so many by a key, ties as they stand: only these are put in order. */
function firstOf(found: readonly Goods[], key: (g: Goods) => number, n: number): Goods[] {
  const keys = Float64Array.from(found, key);
  const last = keys.slice().sort()[Math.min(n, keys.length) - 1] ?? 0;
  return found
    .flatMap((g, i) => ((keys[i] as number) <= last ? [{ g, key: keys[i] as number }] : []))
    .sort((x, y) => x.key - y.key || x.g.i - y.g.i)
    .slice(0, n)
    .map(({ g }) => g);
}

export function search(w: World, m: Market, a: Asked) {
  const means = meaning(m, a.words);
  const ranges = Object.entries(a.ranges) as [RangeFigure, { from: number | null; to: number | null }][];
  const found: Goods[] = [];
  for (let i = 0; i < m.listings; i++) {
    const g = goodsAt(w.seed, m, i);
    if (a.category !== null && g.thing.category !== a.category) continue;
    if (a.brand !== null && folded(g.brand) !== folded(a.brand)) continue;
    if (a.seller !== null && sellerOf(w.seed, i, 0) !== a.seller) continue;
    if (means !== null && !means(g)) continue;
    if (
      !ranges.every(([f, r]) => (f !== 'price' || mayBeWithin(g.price, r)) && within(figureOf(w, m, g, f), r))
    )
      continue;
    found.push(g);
  }
  const by: Record<Asked['sort'], (g: Goods) => number> = {
    relevance: (g) => g.rank * (0.6 + 0.8 * draw(w.seed, g.i, 31)),
    units: (g) => -g.units,
    price: (g) => figureOf(w, m, g, 'price'),
    reviews: (g) => g.reviews,
    newest: (g) => g.daysListed,
  };
  const among = a.sort === 'price' ? cheapest(found, a.cursor + a.limit) : found;
  const page = firstOf(among, by[a.sort], a.cursor + a.limit).slice(a.cursor);
  // Some places are bought; they stand among the free ones, and their listing often stands there again.
  const rows = page.flatMap((g, k) =>
    a.sort === 'relevance' && a.words !== '' && k % 5 === 3
      ? [row(w, m, g, true), ...(k % 2 === 0 ? [row(w, m, g)] : [])]
      : [row(w, m, g)],
  );
  const next = a.cursor + a.limit < found.length ? String(a.cursor + a.limit) : null;
  return {
    ...head(w),
    currency: m.currency,
    tax: 'included' as const,
    total: found.length,
    next,
    listings: rows,
  };
}

export function byBarcode(w: World, m: Market, gtin: string) {
  const planted = STORIES.findIndex((s) => s.gtin === gtin);
  const own: number[] = planted >= 0 ? [planted] : [];
  const tail = /^9520001(\d{5})\d$/.exec(gtin);
  if (tail !== null)
    for (let i = Number(tail[1]); i < m.listings; i += 100_000)
      if (i >= PLANTED && gtinOf(i) === gtin) own.push(i);
  // A barcode of somebody's list, which the world has never seen: it has it under one to three listings, or in
  // no market.
  if (own.length === 0 && /^952\d{10}$/.test(gtin)) {
    const n = Number(gtin.slice(3, 12)) % 1_000_003;
    const count = Math.floor(draw(w.seed, n, 91) * 4);
    for (let k = 0; k < count; k++)
      own.push(PLANTED + Math.floor(draw(w.seed, n, 92 + k) * (m.listings - PLANTED)));
  }
  return {
    ...head(w),
    currency: m.currency,
    tax: 'included' as const,
    listings: own.map((i) => ({
      ...row(w, m, goodsAt(w.seed, m, i)),
      gtin,
      pack: 1 + (draw(w.seed, i, 95) < 0.15 ? 1 : 0),
    })),
  };
}

/** The same for many barcodes at once, with the sides of what is found. */
export function byBarcodes(w: World, m: Market, gtins: readonly string[]) {
  const found = gtins.flatMap((gtin) => byBarcode(w, m, gtin).listings);
  return {
    ...head(w),
    currency: m.currency,
    tax: 'included' as const,
    listings: found.map((l) => ({
      ...l,
      sides: sidesOf(goodsAt(w.seed, m, numberOf(l.listing, m) as number)),
    })),
  };
}

/** Lists: what is new, rising, best selling, or any. */
export function picks(w: World, m: Market, what: 'new' | 'rising' | 'best' | 'random', limit: number) {
  const day = dayNumber(w.today);
  if (what === 'random')
    return {
      ...head(w),
      currency: m.currency,
      tax: 'included' as const,
      listings: Array.from({ length: limit }, (_, k) =>
        row(w, m, goodsAt(w.seed, m, Math.floor(draw(w.seed + day, k, marketNumber(m)) * m.listings))),
      ),
    };
  const found: { g: Goods; key: number }[] = [];
  for (let i = 0; i < m.listings; i++) {
    const g = goodsAt(w.seed, m, i);
    const key =
      what === 'best'
        ? -g.units
        : what === 'new'
          ? g.daysListed
          : -monthly(g.thing, g.thingNumber, Number(dayText(day + 30).slice(5, 7)), 0.1, w.seed) *
            Math.log(2 + g.units);
    found.push({ g, key });
  }
  found.sort((a, b) => a.key - b.key || a.g.i - b.g.i);
  return {
    ...head(w),
    currency: m.currency,
    tax: 'included' as const,
    listings: found.slice(0, limit).map((x) => row(w, m, x.g)),
  };
}
