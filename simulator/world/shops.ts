/**
 * Shops of the invented world, whose catalogues are bought from: most of their goods are listings of a market, as a
 * shop writes them: titles with noise, barcodes that are missing or wrong, packs, promotions, a stock that changes.
 */
import { between, dayNumber, dayText, draw } from './draw.ts';
import { goodsAt, gtinOf, titleOf } from './goods.ts';
import type { Goods } from './goods.ts';
import { marketNamed } from './markets.ts';
import type { Market } from './markets.ts';
import { pictureOf } from './picture.ts';
import { PLANTED } from './stories.ts';
import { LANGUAGES, THINGS } from './words.ts';
import type { World } from './feed.ts';

type WorldShop = {
  readonly key: string;
  readonly name: string;
  /** Market whose goods it sells too. */
  readonly market: string;
  readonly tax: 'included' | 'excluded';
  readonly vatRate: number | null;
  readonly mail: string | null;
  /** Goods it has ever had. */
  readonly goods: number;
  /** Share of the market's price that it asks, from and to. */
  readonly level: readonly [number, number];
};
export const SHOPS: readonly WorldShop[] = [
  {
    key: 'haldern',
    name: 'Haldern Gartenlager',
    market: 'Alderway/DE',
    tax: 'included',
    vatRate: 0.19,
    mail: 'bestellung@haldern.example',
    goods: 6400,
    level: [0.28, 1.05],
  },
  {
    key: 'marrick',
    name: 'Marrick Trade Counter',
    market: 'Alderway/GB',
    tax: 'excluded',
    vatRate: 0.2,
    mail: 'orders@marrick.example',
    goods: 14_000,
    level: [0.32, 0.95],
  },
  {
    key: 'zielonka',
    name: 'Hurtownia Zielonka',
    market: 'Alderway/PL',
    tax: 'excluded',
    vatRate: null,
    mail: null,
    goods: 2600,
    level: [0.25, 0.8],
  },
  {
    key: 'ottery',
    name: 'Ottery Outlet',
    market: 'Alderway/US',
    tax: 'excluded',
    vatRate: null,
    mail: 'sales@ottery.example',
    goods: 40_000,
    level: [0.35, 1.1],
  },
];

const cents = (x: number): number => Math.max(0.05, Number(x.toFixed(2)));
const shopNumber = (s: WorldShop): number => 7_000 + SHOPS.indexOf(s);
const marketOf = (s: WorldShop): Market => marketNamed(s.market) as Market;

/** Listing of the market that goods of a shop are: those with a story among the first, each once. */
const listingOf = (s: WorldShop, j: number): number => {
  const m = marketOf(s);
  return j < PLANTED ? j : PLANTED + ((j * 7) % (m.listings - PLANTED));
};

/** Numbers of a shop's goods by category: worked out once for a world, since every page asks for it. */
const byCategory = new Map<string, number[][]>();
function membersOf(w: World, s: WorldShop): number[][] {
  const key = `${w.seed} ${s.key}`;
  const known = byCategory.get(key);
  if (known !== undefined) return known;
  const found: number[][] = THINGS.map(() => []);
  for (let j = 0; j < s.goods; j++) found[goodsAt(w.seed, marketOf(s), listingOf(s, j)).thingNumber]?.push(j);
  byCategory.set(key, found);
  return found;
}

/** Whether a shop has goods on a day: some come and go, each ten days another few. */
const hasToday = (w: World, s: WorldShop, j: number): boolean =>
  draw(w.seed + shopNumber(s), j, 60_000 + Math.floor(dayNumber(w.today) / 10)) > 0.04;

const categoryKey = (thing: number): string => `c${thing + 1}`;
const categoryName = (s: WorldShop, thing: number): string => {
  const word = THINGS[thing]?.word[LANGUAGES.indexOf(marketOf(s).language)] ?? '';
  return word.charAt(0).toUpperCase() + word.slice(1);
};

export const shops = (w: World) => ({
  asOf: w.today,
  coverage: 1,
  shops: SHOPS.map((s) => ({
    key: s.key,
    name: s.name,
    country: marketOf(s).country,
    currency: marketOf(s).currency,
    tax: s.tax,
    mail: s.mail,
    categories: membersOf(w, s).flatMap((members, thing) =>
      members.length === 0
        ? []
        : [
            {
              key: categoryKey(thing),
              name: categoryName(s, thing),
              goods: members.filter((j) => hasToday(w, s, j)).length,
            },
          ],
    ),
  })),
});

const NOISE = ['NEW', 'TOP', 'SALE', '***', 'NEU!', '2nd choice?', 'A-grade', 'Art.'] as const;
/** A title as the shop writes it: noise before it, its own number behind it, capitals, the brand left out. */
function shopTitle(w: World, s: WorldShop, j: number, g: Goods, pieces: number): string {
  const d = (k: number): number => draw(w.seed + shopNumber(s), j, 100 + k);
  let title = titleOf(g, marketOf(s));
  if (d(1) < 0.15 && g.brand !== '') title = title.replace(g.brand, '').trim();
  if (d(2) < 0.1) title = title.toUpperCase();
  if (pieces > 1) title += ` x${pieces}`;
  if (d(3) < 0.3) title = `${NOISE[Math.floor(d(4) * NOISE.length)]} ${title}`;
  return d(5) < 0.2 ? `${title} (${(j * 37) % 9973})` : title;
}

/** The barcode as the shop has it: right, missing, another's, with a wrong check digit, without its zeros or cut. */
function shopBarcode(w: World, s: WorldShop, j: number, i: number): string | null {
  const u = draw(w.seed + shopNumber(s), j, 120);
  const right = gtinOf(i);
  if (u < 0.82) return right;
  if (u < 0.91) return null;
  if (u < 0.94) return gtinOf(listingOf(s, (j * 13 + 5) % s.goods));
  if (u < 0.97) return `${right.slice(0, -1)}${(Number(right.at(-1)) + 3) % 10}`;
  return right.slice(0, 9);
}

const codeOfGoods = (s: WorldShop, j: number): string => `${s.key.slice(0, 2).toUpperCase()}${100_000 + j}`;
/** Pieces in what a shop sells as one. */
function piecesOf(w: World, s: WorldShop, j: number): number {
  const d = (k: number): number => draw(w.seed + shopNumber(s), j, k);
  return d(1) < 0.08 ? 2 + Math.floor(d(2) * 4) : 1;
}

function goodsOf(w: World, s: WorldShop, j: number) {
  const m = marketOf(s);
  const i = listingOf(s, j);
  const g = goodsAt(w.seed, m, i);
  const seed = w.seed + shopNumber(s);
  const d = (k: number): number => draw(seed, j, k);
  const day = dayNumber(w.today);
  const pieces = piecesOf(w, s, j);
  // A price stands for a month, then moves a little.
  const month = Math.floor((day + j) / 30);
  const level = between(d(3), ...s.level) * between(draw(seed, j, 3_000 + month), 0.94, 1.06);
  const tax = s.tax === 'included' ? 1 : 1 / 1.2;
  const price = cents(g.price * level * tax * (pieces > 1 ? pieces * 0.92 : 1));
  const week = Math.floor((day + j) / 7);
  const promoted = draw(seed, j, 5_000 + week) < 0.1;
  const said = d(6);
  return {
    code: codeOfGoods(s, j),
    title: shopTitle(w, s, j, g, pieces),
    brand: d(7) < 0.25 ? '' : g.brand,
    category: categoryName(s, g.thingNumber),
    gtin: shopBarcode(w, s, j, i),
    price: d(8) < 0.01 ? null : price,
    promotion: promoted
      ? { price: cents(price * between(d(9), 0.6, 0.9)), until: dayText((week + 1) * 7 - j - 1) }
      : null,
    stock: said < 0.05 ? null : said < 0.13 ? 0 : Math.floor(draw(seed, j, 6_000 + day) * 240),
    pieces: d(10) < 0.5 ? pieces : null,
    kg: d(11) < 0.4 ? cents(g.thing.kg * pieces) : null,
    vatRate: s.vatRate,
    reviews: d(12) < 0.3 ? null : Math.floor(d(13) ** 3 * 900),
  };
}

/** The picture of a shop's goods; null: it has no such goods, or none of them. */
export function shopPicture(w: World, shop: string, code: string) {
  const s = SHOPS.find((x) => x.key === shop);
  if (s === undefined) return null;
  const j = Number(code.slice(2)) - 100_000;
  if (!(Number.isInteger(j) && j >= 0 && j < s.goods) || code !== codeOfGoods(s, j)) return null;
  const d = (k: number): number => draw(w.seed + shopNumber(s), j, 400 + k);
  // Some goods have none.
  if (d(1) < 0.06) return null;
  const shade = (k: number): number => Math.round(between(draw(w.seed, shopNumber(s), k), 222, 246));
  const look = {
    ground: [shade(1), shade(2), shade(3)] as const,
    pieces: piecesOf(w, s, j),
    size: between(d(2), 0.75, 0.9),
  };
  return {
    asOf: w.today,
    coverage: 1,
    ...pictureOf(goodsAt(w.seed, marketOf(s), listingOf(s, j)), w.seed, look),
  };
}

/** Faults of a catalogue on request: it changes while it is read, ends early, or gives a page again. */
export const SHOP_FAULTS = ['changes', 'ends', 'repeats'] as const;
export type ShopFault = (typeof SHOP_FAULTS)[number];

/** A page of a shop's catalogue; null: there is no such shop or category. */
export function catalogue(
  w: World,
  shop: string,
  category: string,
  cursor: number,
  limit: number,
  fault: ShopFault | null = null,
) {
  const s = SHOPS.find((x) => x.key === shop);
  const members = s === undefined ? undefined : membersOf(w, s)[Number(category.slice(1)) - 1];
  if (s === undefined || members === undefined) return null;
  const here = members.filter((j) => hasToday(w, s, j));
  const page = here.slice(cursor, cursor + limit);
  const isLast = cursor + limit >= here.length || fault === 'ends';
  return {
    asOf: w.today,
    coverage: 1,
    currency: marketOf(s).currency,
    tax: s.tax,
    edition: fault === 'changes' ? `${w.today}-${cursor}` : w.today,
    total: here.length,
    next: isLast ? null : String(fault === 'repeats' ? cursor : cursor + limit),
    goods: page.map((j) => goodsOf(w, s, j)),
  };
}
