/** A listing day by day: its price with what happens to it, and the rank that goes with what it sells. */
import { between, dayNumber, dayText, draw } from './draw.ts';
import { monthly, rankAt } from './goods.ts';
import type { Goods } from './goods.ts';
import type { Market } from './markets.ts';

export type WorldDay = {
  day: string;
  price: number | null;
  rank: number | null;
  offers: number;
  ownShop: boolean;
  promotion: boolean;
};

/** What happens to a listing again and again: how long each round is, and where in it. */
type Rhythm = {
  readonly shop: number;
  readonly shopDays: number;
  readonly deal: number;
  readonly gap: number;
  readonly gapDays: number;
  readonly phase: number;
};
function rhythmOf(seed: number, g: Goods): Rhythm {
  const d = (k: number): number => draw(seed, g.i, 60 + k);
  const shops = g.story?.has === 'ownShop' ? 0.4 : d(0) < 0.3 ? between(d(1), 0.1, 0.6) : 0;
  const shop = Math.round(between(d(2), 40, 90));
  return {
    shop,
    shopDays: Math.round(shop * shops),
    deal: Math.round(between(d(3), 60, 120)),
    gap: Math.round(between(d(4), 170, 400)),
    gapDays: d(5) < 0.4 ? Math.round(between(d(6), 6, 22)) : 0,
    phase: Math.floor(d(7) * 400),
  };
}
const SPIKE_DAYS = 9;

/** What a day is like for the price: whether anybody offers, and by what it is moved. */
function moodOf(seed: number, m: Market, g: Goods, r: Rhythm, n: number, now: number) {
  const at = n + r.phase;
  const gone = at % r.gap < r.gapDays && !(g.story !== null && now - n < 30);
  const ownShop = !gone && at % r.shop < r.shopDays;
  const promotion = !gone && at % r.deal < 4;
  const spike =
    g.story?.has === 'spike'
      ? now - n < SPIKE_DAYS
      : g.story === null && (at + 37) % 293 < 12 && draw(seed, g.i, 80) < 0.15;
  const wave = 1 + 0.035 * Math.sin((at / 53) * Math.PI) + 0.012 * (draw(seed, g.i, 1000 + n) - 0.5);
  const trend = g.story?.has === 'cheaper' ? 1 - 0.28 * Math.max(0, 1 - (now - n) / 120) : 1;
  const price = g.price * wave * trend * (ownShop ? 0.93 : 1) * (promotion ? 0.83 : 1) * (spike ? 1.38 : 1);
  const shown = m.digits === 0 ? Math.round(price / 10) * 10 : Math.round(price * 100) / 100;
  return { price: gone ? null : shown, gone, ownShop, promotion, spike };
}

/** One day; `now` is the day the world has come to. */
export function worldDay(seed: number, m: Market, g: Goods, r: Rhythm, n: number, now: number): WorldDay {
  const { price, gone, ownShop, promotion, spike } = moodOf(seed, m, g, r, n, now);
  const month = Number(dayText(n).slice(5, 7));
  const sold =
    g.units *
    monthly(g.thing, g.thingNumber, month, (n - now) / 365, seed) *
    (promotion ? 1.6 : 1) *
    (spike ? 0.6 : 1) *
    between(draw(seed, g.i, 5000 + n), 0.85, 1.15);
  return {
    day: dayText(n),
    price,
    rank: rankAt(gone ? sold / 12 : sold, m),
    offers: gone ? 0 : 1 + Math.floor(draw(seed, g.i, 9000 + Math.floor(n / 11)) * 5) + (ownShop ? 1 : 0),
    ownShop,
    promotion,
  };
}

/** Days from a day on, up to now: no more than the market has, nor than the listing has been there. */
export function daysOf(seed: number, m: Market, g: Goods, from: string | null, today: string): WorldDay[] {
  const now = dayNumber(today);
  const thin = g.story?.has === 'thin' ? 24 : m.history;
  const first = Math.max(
    now - Math.min(thin, g.story === null ? g.daysListed : thin) + 1,
    from === null ? 0 : dayNumber(from),
  );
  const rhythm = rhythmOf(seed, g);
  const days: WorldDay[] = [];
  for (let n = first; n <= now; n++) days.push(worldDay(seed, m, g, rhythm, n, now));
  return days;
}

/** What the listing costs today; null where nobody offers it. */
export function priceToday(seed: number, m: Market, g: Goods, today: string): number | null {
  const now = dayNumber(today);
  return moodOf(seed, m, g, rhythmOf(seed, g), now, now).price;
}
