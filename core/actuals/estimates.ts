/** How good one's estimates were: planned against actual over all launches, by input. */
import type { Learned } from '../risk/offered.ts';
import type { Compared } from './compare.ts';

export const ESTIMATED = ['price', 'units', 'returns', 'adverts', 'fulfilment', 'storage', 'landed'] as const;
export type Estimated = (typeof ESTIMATED)[number];

/** Sold units of a launch below which it says nothing of an estimate. */
const LEAST_UNITS = 15;
/** Launches that must speak before a width is offered. */
export const LEAST_LAUNCHES = 3;
/** Share of launches whose actual figure lies within the width. */
const WITHIN = 0.8;

/** By how much of the planned figure launches were off, above 0: more than planned. */
export type EstimateSaid = {
  readonly input: Estimated;
  readonly launches: number;
  readonly least: number;
  /** The one in the middle. */
  readonly middle: number;
  readonly most: number;
  /** Four in five launches came within this share of the plan; null: too few launches. */
  readonly width: number | null;
};

type Pair = readonly [planned: number | null, actual: number | null];

function pairOf(input: Estimated, c: Compared): Pair {
  const { planned, actual } = c;
  const each = (line: 'returns' | 'adverts' | 'fulfilment' | 'storage'): Pair => {
    const found = c.lines.find((l) => l.line === line);
    // What nobody told us since stands as planned: it would flatter the estimate.
    return found === undefined || found.from === 'asPlanned' ? [null, null] : [found.planned, found.actual];
  };
  switch (input) {
    case 'price':
      return [planned.price, actual.price];
    case 'units':
      return [planned.units, actual.shipped];
    case 'landed':
      return actual.lines.goods.from === 'asPlanned'
        ? [null, null]
        : [planned.landedCost, actual.landedCost === null ? null : actual.landedCost / actual.shipped];
    default:
      return each(input);
  }
}

/** The value below which a share of sorted values lies, between two of them in a straight line. */
function quantile(sorted: readonly number[], share: number): number {
  const at = share * (sorted.length - 1);
  const low = Math.floor(at);
  const high = Math.min(sorted.length - 1, low + 1);
  return (sorted[low] as number) + (at - low) * ((sorted[high] as number) - (sorted[low] as number));
}

/** By how much of the planned figure a launch was off, by input; above 0: more than planned. */
export type Misses = Readonly<Partial<Record<Estimated, number>>>;

/** Of a launch over all its months; none where too little was sold to say something. */
export function missesOf(whole: Compared): Misses {
  if (whole.actual.shipped < LEAST_UNITS) return {};
  const misses: Partial<Record<Estimated, number>> = {};
  for (const input of ESTIMATED) {
    const [planned, actual] = pairOf(input, whole);
    if (planned !== null && actual !== null && planned > 0) misses[input] = actual / planned - 1;
  }
  return misses;
}

/** Which uncertain input each estimate is. */
const INPUT_OF = { price: 'price', units: 'units', returns: 'returnRate' } as const;

/** How wide ranges of the next launch must be, of what launches enough speak of. */
export const learnedWidths = (said: readonly EstimateSaid[]): Learned =>
  Object.fromEntries(
    said.flatMap(({ input, width }) =>
      width !== null && input in INPUT_OF ? [[INPUT_OF[input as keyof typeof INPUT_OF], width]] : [],
    ),
  );

/** By input, those that some launch speaks of. */
export function estimatesOf(launches: readonly Misses[]): EstimateSaid[] {
  return ESTIMATED.flatMap((input): EstimateSaid[] => {
    const misses = launches.flatMap((l) => l[input] ?? []).sort((a, b) => a - b);
    if (misses.length === 0) return [];
    const away = misses.map(Math.abs).sort((a, b) => a - b);
    const width =
      misses.length < LEAST_LAUNCHES ? null : Math.ceil(quantile(away, WITHIN) * 100 - 1e-9) / 100;
    const [least, most] = [misses[0] as number, misses.at(-1) as number];
    return [{ input, launches: misses.length, least, middle: quantile(misses, 0.5), most, width }];
  });
}
