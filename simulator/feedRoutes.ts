/** The stand-in as a market feed: which question stands at which path (the contract: docs/feed.openapi.json). */
import { z } from 'zod';
import * as feed from './world/feed.ts';
import type { World } from './world/feed.ts';
import { catalogue, shopPicture, shops } from './world/shops.ts';
import type { ShopFault } from './world/shops.ts';
import { listingPicture } from './world/picture.ts';
import { marketNamed } from './world/markets.ts';
import type { Market } from './world/markets.ts';

export type Answer = { readonly status: number; readonly body: unknown };
const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/);
const limit = z.coerce.number().int().min(1).max(200).default(50);
const code = { code: z.string().max(64) };

const range = Object.fromEntries(
  feed.RANGE_FIGURES.flatMap((f) => [
    [`${f}From`, z.coerce.number().optional()],
    [`${f}To`, z.coerce.number().optional()],
  ]),
) as Record<string, z.ZodOptional<z.ZodCoercedNumber>>;
const searched = z.object({
  words: z.string().max(200).default(''),
  category: z.string().max(60).optional(),
  seller: z.string().max(100).optional(),
  brand: z.string().max(100).optional(),
  sort: z.enum(['relevance', 'units', 'price', 'reviews', 'newest']).default('relevance'),
  cursor: z.coerce.number().int().min(0).default(0),
  limit,
  ...range,
});

function search(w: World, m: Market, q: z.output<typeof searched>): unknown {
  const more = q as Record<string, unknown>;
  const number = (key: string): number | null =>
    typeof more[key] === 'number' ? (more[key] as number) : null;
  const ranges = Object.fromEntries(
    feed.RANGE_FIGURES.flatMap((f) => {
      const own = { from: number(`${f}From`), to: number(`${f}To`) };
      return own.from === null && own.to === null ? [] : [[f, own]];
    }),
  );
  const { words, sort, cursor, limit: most } = q;
  return feed.search(w, m, {
    words,
    sort,
    cursor,
    limit: most,
    ranges,
    category: q.category ?? null,
    seller: q.seller ?? null,
    brand: q.brand ?? null,
  });
}

type Question = (w: World, m: Market, query: Record<string, string>) => unknown;
/** A question whose parameters are read first; what does not fit is told as such. */
const asking =
  <S extends z.ZodType>(schema: S, answer: (w: World, m: Market, q: z.output<S>) => unknown): Question =>
  (w, m, query) =>
    answer(w, m, schema.parse(query));

const QUESTIONS: Readonly<Record<string, Question>> = {
  categories: asking(z.object({}), (w, m) => feed.categories(w, m)),
  search: asking(searched, search),
  listing: asking(z.object(code), (w, m, q) => feed.listing(w, m, q.code)),
  history: asking(z.object({ ...code, from: day.optional() }), (w, m, q) =>
    feed.history(w, m, q.code, q.from ?? null),
  ),
  offers: asking(z.object(code), (w, m, q) => feed.offers(w, m, q.code)),
  picture: asking(z.object(code), (w, m, q) => listingPicture(w, m, q.code)),
  permission: asking(z.object(code), (w, m, q) => feed.permission(w, m, q.code)),
  complaints: asking(z.object(code), (w, m, q) => feed.complaints(w, m, q.code)),
  'listing-terms': asking(z.object(code), (w, m, q) => feed.listingTerms(w, m, q.code)),
  terms: asking(z.object({ words: z.string().min(1).max(200) }), (w, m, q) => feed.terms(w, m, q.words)),
  bids: asking(z.object({ terms: z.string().min(1).max(8000) }), (w, m, q) =>
    feed.bids(w, m, q.terms.split('|').slice(0, 100)),
  ),
  barcode: asking(z.object({ gtin: z.string().regex(/^\d{8,14}$/) }), (w, m, q) =>
    feed.byBarcode(w, m, q.gtin),
  ),
  barcodes: asking(z.object({ gtins: z.string().min(1).max(2000) }), (w, m, q) =>
    feed.byBarcodes(w, m, q.gtins.split('|').slice(0, 100)),
  ),
  picks: asking(z.object({ what: z.enum(['new', 'rising', 'best', 'random']), limit }), (w, m, q) =>
    feed.picks(w, m, q.what, q.limit),
  ),
};

const pageAsked = z.object({
  shop: z.string().max(100),
  category: z.string().max(100),
  cursor: z.coerce.number().int().min(0).default(0),
  limit,
});

const problem = (status: number, title: string, detail: string): Answer => ({
  status,
  body: { type: 'about:blank', title, status, detail },
});

/** A page of a shop's catalogue. */
function shopPage(world: World, query: Record<string, string>, fault: ShopFault | null): Answer {
  const asked = pageAsked.safeParse(query);
  if (!asked.success) return problem(422, 'The question is not understood', z.prettifyError(asked.error));
  const { shop, category, cursor, limit: most } = asked.data;
  const body = catalogue(world, shop, category, cursor, most, fault);
  return body === null ? problem(404, 'No such shop or category', shop) : { status: 200, body };
}

const pictured = z.object({ ...code, shop: z.string().max(100) });
/** The picture of goods of a shop. */
function pictureInShop(world: World, query: Record<string, string>): Answer {
  const asked = pictured.safeParse(query);
  if (!asked.success) return problem(422, 'The question is not understood', z.prettifyError(asked.error));
  const body = shopPicture(world, asked.data.shop, asked.data.code);
  return body === null ? problem(404, 'No such picture', asked.data.code) : { status: 200, body };
}

/**
 * The answer to a question of the feed; null where the path is none of it. `broken`: it breaks the contract; `fault`:
 * what is wrong with a shop's catalogue.
 */
export function feedAnswer(
  url: URL,
  world: World,
  broken: boolean,
  fault: ShopFault | null = null,
): Answer | null {
  const name = /^\/feed\/([a-z-]+)$/.exec(url.pathname)?.[1];
  if (name === undefined) return null;
  const query = Object.fromEntries(url.searchParams);
  if (name === 'markets') return { status: 200, body: feed.markets(world) };
  if (name === 'shops') return { status: 200, body: shops(world) };
  if (name === 'catalogue') return shopPage(world, query, fault);
  if (name === 'picture' && query.shop !== undefined) return pictureInShop(world, query);
  const ask = Object.hasOwn(QUESTIONS, name) ? QUESTIONS[name] : undefined;
  if (ask === undefined) return problem(404, 'No such question', url.pathname);
  const market = marketNamed(query.market ?? '');
  if (market === undefined) return problem(404, 'No such market', query.market ?? '');
  try {
    const body = ask(world, market, query);
    if (body === null) return problem(404, 'No such listing', query.code ?? '');
    return { status: 200, body: broken ? spoiled(body as Record<string, unknown>) : body };
  } catch (e) {
    if (e instanceof z.ZodError) return problem(422, 'The question is not understood', z.prettifyError(e));
    throw e;
  }
}

/** An answer that breaks the contract: no day, words for numbers, a price below nothing. */
function spoiled(body: Record<string, unknown>): unknown {
  const { asOf: _, ...rest } = body;
  return {
    ...rest,
    price: -5,
    days: [{ day: '2030-13-01', price: 'cheap' }],
    listings: [{ price: -1 }],
    terms: 7,
    offers: 'many',
  };
}
