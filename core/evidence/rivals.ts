/**
 * Rivals: the first page of a search, the goods of a category, or rows of a file (evidence, section 5). Everything
 * follows each row that is struck out or taken back. Money in one currency and tax basis, which the document names.
 */
import { mean, median, percentileOfSorted, rising } from './statistics.ts';
import type { Rival } from './schema.ts';
import type { EvidenceSettings } from './settings.ts';

/** A column of rivals over the rows that have the figure. */
export type ColumnStatistics = {
  readonly rows: number;
  readonly mean: number | null;
  readonly low: number | null;
  readonly quarter: number | null;
  readonly median: number | null;
  readonly threeQuarters: number | null;
  readonly high: number | null;
};
export const RIVAL_FIGURES = ['price', 'units', 'revenue', 'reviews', 'rating', 'daysListed'] as const;
export type RivalFigure = (typeof RIVAL_FIGURES)[number];
export type Brand = {
  readonly brand: string;
  readonly listings: number;
  /** Of the counted rows, those without a brand too. */
  readonly listingShare: number;
  /** Of the revenue that is known; null where none is. */
  readonly revenueShare: number | null;
};
export type RivalsSaid = {
  /** By row of the page: whether it is counted, and if not, why. */
  readonly counted: readonly (true | 'struck' | 'paid' | 'twice')[];
  readonly rows: number;
  readonly columns: Readonly<Record<RivalFigure, ColumnStatistics>>;
  readonly fewReviews: readonly number[];
  readonly brands: readonly Brand[];
  readonly owner: Brand | null;
  readonly newcomers: {
    readonly rows: number;
    readonly share: number | null;
    readonly medianRevenue: number | null;
  };
  /** Share of the rows with units that sell enough; null where no units are known. */
  readonly selling: number | null;
  /** By row of the page. */
  readonly revenuePerReview: readonly (number | null)[];
  readonly sellThrough: readonly (number | null)[];
  /** Row whose figures one may borrow; null under three rows with revenue. */
  readonly reference: number | null;
};

/** Units a month times price; null where either is not known. */
export const revenueOf = (r: Rival): number | null =>
  r.price === null || r.units === null ? null : r.price * r.units;

/** Which rows count: none that is struck out, and each listing once, its free place first. */
export function countedRows(rows: readonly Rival[]): (true | 'struck' | 'paid' | 'twice')[] {
  const state = rows.map((r) =>
    r.struck === true
      ? ('struck' as const)
      : r.struck === null && r.paid
        ? ('paid' as const)
        : (true as const),
  );
  const best = new Map<string, number>();
  rows.forEach((r, i) => {
    if (state[i] !== true || r.listing === '') return;
    const before = best.get(r.listing);
    if (before === undefined || ((rows[before] as Rival).paid && !r.paid)) best.set(r.listing, i);
  });
  return state.map((s, i) => {
    const listing = (rows[i] as Rival).listing;
    return s === true && listing !== '' && best.get(listing) !== i ? 'twice' : s;
  });
}

function statisticsOf(values: readonly number[]): ColumnStatistics {
  const own = rising(values);
  return {
    rows: own.length,
    mean: mean(values),
    low: percentileOfSorted(own, 0),
    quarter: percentileOfSorted(own, 0.25),
    median: percentileOfSorted(own, 0.5),
    threeQuarters: percentileOfSorted(own, 0.75),
    high: percentileOfSorted(own, 1),
  };
}

/** A row's figure; a rating only where somebody rated. */
function figureOf(r: Rival, figure: RivalFigure): number | null {
  if (figure === 'revenue') return revenueOf(r);
  if (figure === 'rating') return r.reviews !== null && r.reviews > 0 ? r.rating : null;
  return r[figure];
}

function brandsOf(counted: readonly Rival[]): Brand[] {
  const known = new Map<string, { brand: string; listings: number; revenue: number }>();
  let total = 0;
  for (const r of counted) {
    const revenue = revenueOf(r) ?? 0;
    total += revenue;
    const name = r.brand.trim();
    if (name === '') continue;
    const key = name.toLowerCase();
    const own = known.get(key) ?? { brand: name, listings: 0, revenue: 0 };
    own.listings++;
    own.revenue += revenue;
    known.set(key, own);
  }
  return [...known.values()]
    .map((b) => ({
      brand: b.brand,
      listings: b.listings,
      listingShare: b.listings / counted.length,
      revenueShare: total > 0 ? b.revenue / total : null,
    }))
    .sort((a, b) => (b.revenueShare ?? 0) - (a.revenueShare ?? 0) || b.listings - a.listings);
}

/** Of the (up to) seven rows with most revenue the one in the middle; ties in the order of the page. */
function referenceOf(rows: readonly Rival[], counted: readonly (true | string)[]): number | null {
  const known = rows.flatMap((r, i) => {
    const revenue = counted[i] === true ? revenueOf(r) : null;
    return revenue === null ? [] : [{ i, revenue }];
  });
  if (known.length < 3) return null;
  const first = known.sort((a, b) => b.revenue - a.revenue || a.i - b.i).slice(0, 7);
  return (first[Math.floor(first.length / 2)] as { i: number }).i;
}

/** Everything a page of rivals says. */
export function rivalsSaid(rows: readonly Rival[], s: EvidenceSettings): RivalsSaid {
  const counted = countedRows(rows);
  const own = rows.filter((_, i) => counted[i] === true);
  const column = (figure: RivalFigure): number[] => {
    const known: number[] = [];
    for (const r of own) {
      const x = figureOf(r, figure);
      if (x !== null) known.push(x);
    }
    return known;
  };
  const columns = Object.fromEntries(RIVAL_FIGURES.map((f) => [f, statisticsOf(column(f))])) as Record<
    RivalFigure,
    ColumnStatistics
  >;
  const brands = brandsOf(own);
  const aged = own.filter((r) => r.daysListed !== null);
  const newcomers = aged.filter((r) => (r.daysListed as number) <= s.newcomerDays);
  const sold = column('units');
  const { cap, revenueFrom, revenueTo } = s.fewReviews;
  return {
    counted,
    rows: own.length,
    columns,
    fewReviews: rows.flatMap((r, i) => {
      const revenue = revenueOf(r);
      const earns =
        revenue !== null && revenue >= revenueFrom && (revenueTo === null || revenue <= revenueTo);
      return counted[i] === true && r.reviews !== null && r.reviews <= cap && earns ? [i] : [];
    }),
    brands,
    owner:
      brands.find((b) => (b.revenueShare ?? 0) >= s.brandRevenue) ??
      brands.find((b) => b.listings > s.brandListings) ??
      null,
    newcomers: {
      rows: newcomers.length,
      share: aged.length === 0 ? null : newcomers.length / aged.length,
      medianRevenue: median(newcomers.flatMap((r) => revenueOf(r) ?? [])),
    },
    selling: sold.length === 0 ? null : sold.filter((u) => u >= s.sellsUnits).length / sold.length,
    revenuePerReview: rows.map((r) => {
      const revenue = revenueOf(r);
      return revenue === null || r.reviews === null ? null : revenue / Math.max(r.reviews, 1);
    }),
    sellThrough: rows.map((r) =>
      r.units === null || r.offers === null || r.offers <= 0 ? null : r.units / r.offers,
    ),
    reference: referenceOf(rows, counted),
  };
}

export type PlaceAmongPrices = {
  readonly place: number;
  readonly of: number;
  /** Share of the rivals' prices below one's own. */
  readonly below: number;
  readonly low: number;
  readonly median: number;
  readonly high: number;
  readonly ceiling: number;
  readonly overCeiling: boolean;
};
/** The prices of the rows that count. */
export function countedPrices(rows: readonly Rival[]): number[] {
  const counted = countedRows(rows);
  return rows.flatMap((r, i) => (counted[i] === true && r.price !== null ? [r.price] : []));
}

/** Where a price stands among theirs; null without any of theirs. */
export function placeAmong(
  prices: readonly number[],
  mine: number,
  s: EvidenceSettings,
): PlaceAmongPrices | null {
  if (prices.length === 0) return null;
  const below = prices.filter((p) => p < mine).length;
  const own = rising(prices);
  const ceiling = percentileOfSorted(own, s.ceiling) as number;
  return {
    place: 1 + below,
    of: prices.length + 1,
    below: below / prices.length,
    low: percentileOfSorted(own, 0) as number,
    median: percentileOfSorted(own, 0.5) as number,
    high: percentileOfSorted(own, 1) as number,
    ceiling,
    overCeiling: mine > ceiling + 1e-9,
  };
}
