/** What the demo sells, and what came otherwise than planned: one story a lane, by the names of its candidates. */
import type { Twist } from './settlements.ts';

/** Days before the day of the demo. */
type Ago = number;
export type DemoSelling = {
  readonly candidate: string;
  readonly market: string;
  readonly code: string;
  readonly since: Ago;
  readonly story: readonly (Omit<Twist, 'from' | 'lost'> & {
    readonly from?: Ago;
    /** In the month so many days ago. */
    readonly lost?: { readonly ago: Ago; readonly units: number; readonly each: number };
  })[];
  /** Goods that came in so many days ago, at another price, with what the way in was billed. */
  readonly came?: {
    readonly ago: Ago;
    readonly units: number;
    readonly unitPrice: number;
    readonly freight: number;
  };
};

/** Reports reach up to so many days ago. */
export const SETTLED_TO: Ago = 9;

export const demoSelling: readonly DemoSelling[] = [
  {
    // Paid as planned until autumn; then the handling fee rose above the card, and adverts grew dearer: it loses.
    candidate: 'Moss pole, bendable, 60 cm',
    market: 'Alderway/DE',
    code: 'MOSS-60',
    since: 215,
    story: [
      { pace: 0.95, lost: { ago: 150, units: 6, each: 3.2 } },
      { from: 85, handling: 0.95, adverts: 3 },
    ],
    came: { ago: 222, units: 1500, unitPrice: 1.62, freight: 1390 },
  },
  {
    // A rival sells the same: the price was cut to keep up.
    candidate: 'Moss pole, bendable, 60 cm',
    market: 'Alderway/ES',
    code: 'MOSS-60',
    since: 180,
    story: [{ pace: 0.9 }, { from: 80, price: 16.9, pace: 1.05 }],
  },
  {
    // Twice as many come back as at first, and some handling fees are taken twice.
    candidate: 'Seed-starting kit, 24 cells with lid',
    market: 'Alderway/DE',
    code: 'SEED-24',
    since: 160,
    story: [{ pace: 2.4 }, { from: 95, returns: 4, twice: 0.04 }],
  },
  {
    // Sells better than planned, at the price that was planned.
    candidate: 'Rain barrel tap kit',
    market: 'Nordkai/DE',
    code: 'TAP-1',
    since: 240,
    story: [{ pace: 1.35 }],
  },
];

/** A report that nobody has fetched: of this place, from so many days ago to so many. */
export const demoMissing = { market: 'Alderway/ES', from: 75, to: 55 } as const;
