/** A listing of the world: what it is, by its number alone. Units follow rank by the curve of its category. */
import { between, draw } from './draw.ts';
import type { Market } from './markets.ts';
import { marketNumber } from './markets.ts';
import { PLANTED, STORIES } from './stories.ts';
import type { Story } from './stories.ts';
import { BRANDS, FORMS, LANGUAGES, MATERIALS, SELLERS, SHAPES, THINGS } from './words.ts';
import type { Thing } from './words.ts';

export type Goods = {
  readonly i: number;
  readonly story: Story | null;
  readonly thing: Thing;
  readonly thingNumber: number;
  readonly material: number;
  readonly form: number;
  readonly brand: string;
  /** Price in the market's currency, units a month in a mean month, rank of that. */
  readonly price: number;
  readonly units: number;
  readonly rank: number;
  readonly reviews: number;
  readonly rating: number;
  readonly daysListed: number;
  readonly variations: number;
};
/** Units at rank 1, and how fast they fall: `A * (rank + 20) ^ -0.7`. */
const A = 9000;
const FALL = 0.7;
const HEAD = 20;
export const unitsAt = (rank: number, m: Market): number => A * m.size * (rank + HEAD) ** -FALL;
export const rankAt = (units: number, m: Market): number =>
  Math.max(1, Math.round(((A * m.size) / Math.max(units, 0.01)) ** (1 / FALL) - HEAD));
/** The curve as it is told: a few points of it. */
export const curveOf = (m: Market): { rank: number; units: number }[] =>
  [1, 10, 100, 1000, 10_000, 100_000].map((rank) => ({ rank, units: Number(unitsAt(rank, m).toFixed(2)) }));

const round = (x: number, digits: number): number => Number(x.toFixed(digits));
/** A price as shops write it: ends in 90 or 99 hundredths, or in 80 where there are none. */
export function shopPrice(euros: number, m: Market): number {
  const raw = euros * m.perEuro;
  if (m.digits === 0) return Math.max(100, Math.round(raw / 100) * 100 - 20);
  return Math.max(0.99, Math.round(raw) - 0.1);
}

/** Months in the shape of a thing, growing or fading by its own rate; mean 1 over a year without growth. */
export function monthly(
  thing: Thing,
  thingNumber: number,
  month: number,
  yearsFromNow: number,
  seed: number,
): number {
  const growth = between(draw(seed, 90_021 + thingNumber, 1), -0.08, 0.16);
  return (SHAPES[thing.shape][month - 1] as number) * (1 + growth) ** yearsFromNow;
}

export function goodsAt(seed: number, m: Market, i: number): Goods {
  const n = marketNumber(m);
  const story = STORIES[i] ?? null;
  const thingNumber =
    story === null
      ? Math.floor(draw(seed, i, 2) * THINGS.length)
      : THINGS.findIndex((t) => t.word[0] === story.thing);
  const thing = THINGS[thingNumber] as Thing;
  const material = story?.material ?? Math.floor(draw(seed, i, 3) * MATERIALS.length);
  // A brand or two own each thing in part; many goods have none.
  const b = draw(seed, i, 4);
  const owner = BRANDS[(thingNumber * 7) % BRANDS.length] as string;
  const brand =
    story?.brand ??
    (b < (thing.word[0] === 'seed kit' ? 0.62 : 0.12)
      ? owner
      : b < 0.6
        ? (BRANDS[Math.floor(draw(seed, i, 5) * BRANDS.length)] as string)
        : '');
  const price =
    story === null
      ? shopPrice(
          thing.price *
            between(draw(seed, i, 6) ** 1.5, 0.55, 1.7) *
            between(draw(seed, i, 7 + n), 0.95, 1.05),
          m,
        )
      : shopPrice(story.price, m);
  const strength = draw(seed, i, 40 + n);
  const rank =
    story === null ? 1 + Math.floor(strength ** 1.3 * m.listings) : rankAt(story.units * m.size, m);
  const units = unitsAt(rank, m);
  const daysListed = Math.floor(draw(seed, i, 8) ** 1.2 * 2400) + 5;
  const perUnit = story?.has === 'fewReviews' ? 0.004 : between(draw(seed, i, 9) ** 2, 0.003, 0.06);
  return {
    i,
    story,
    thing,
    thingNumber,
    material,
    form: Math.floor(draw(seed, i, 10) * FORMS.length),
    brand,
    price,
    units: round(units, 2),
    rank,
    reviews: Math.round(units * (daysListed / 30) * perUnit),
    rating: round(between(draw(seed, i, 11) ** 0.5, 2.9, 4.9), 1),
    daysListed,
    variations:
      story !== null
        ? story.has === 'variation'
          ? 4
          : 0
        : draw(seed, i, 12) < 0.25
          ? 2 + Math.floor(draw(seed, i, 13) * 4)
          : 0,
  };
}

const CODE = /^LT(\d{6})$/;
export const codeOf = (i: number): string => `LT${String(i).padStart(6, '0')}`;
export function numberOf(code: string, m: Market): number | null {
  const found = CODE.exec(code);
  const i = found === null ? -1 : Number(found[1]);
  return i >= 0 && i < m.listings ? i : null;
}
export function titleOf(g: Goods, m: Market): string {
  const at = LANGUAGES.indexOf(m.language);
  const words = [g.brand, g.thing.word[at], MATERIALS[g.material]?.[at], FORMS[g.form]?.[at]].filter(
    (w) => w !== '' && w !== undefined,
  );
  const text = words.join(' ');
  return text.charAt(0).toUpperCase() + text.slice(1);
}
export const sellerOf = (seed: number, i: number, k: number): string =>
  SELLERS[Math.floor(draw(seed, i, 200 + k) * SELLERS.length)] as string;

/** GS1's demonstration prefix 952, with its check digit. */
export function gtinOf(i: number): string {
  if (i < PLANTED) return (STORIES[i] as Story).gtin;
  const body = `9520001${String(i % 100_000).padStart(5, '0')}`;
  const sum = [...body].reduce((s, d, k) => s + Number(d) * (k % 2 === 0 ? 1 : 3), 0);
  return `${body}${(10 - (sum % 10)) % 10}`;
}
