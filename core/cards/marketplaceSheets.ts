/** The sheets of a marketplace's card read back, each row that is wrong said where it stands. */
import { grouped, type Reader, type Row } from './reader.ts';
import { num, or0, rising } from './formParts.ts';
import { readWeightSteps } from './weightSteps.ts';
import { fault } from '../fault.ts';

/** Categories with their referral tiers. */
export function readCategories(r: Reader) {
  const categories = r.rows('categories');
  r.unique('categories', categories, ['key']);
  const tiersOf = grouped(r.rows('referralTiers'), (x) => String(x.category));
  const keys = new Set(categories.map((c) => String(c.key)));
  for (const [category, rows] of tiersOf) {
    if (!keys.has(category))
      r.fail('referralTiers', (rows[0] as Row).line, 'category', fault('noCategory', { category }));
    rising(r, 'referralTiers', rows, 'upTo', 'tier');
  }
  return categories.map((c, i) => {
    const tiers = tiersOf.get(String(c.key)) ?? [];
    // A tier that is there and wrong is said where it stands, not here once more.
    if (tiers.length === 0 && !r.names('referralTiers', 'category', String(c.key)))
      r.fail('categories', c.line, 'key', fault('categoryNoTier', { category: c.key }));
    r.mark(`categories.${i}`, 'categories', c.line);
    r.mark(`categories.${i}.referral.tiers`, 'referralTiers', tiers[0]?.line ?? 1);
    for (const [j, t] of tiers.entries())
      r.mark(`categories.${i}.referral.tiers.${j}`, 'referralTiers', t.line);
    if (num(c.min) !== null && num(c.max) !== null && (c.min as number) > (c.max as number))
      r.fail('categories', c.line, 'max', fault('maxUnderMin', { max: c.max, min: c.min }));
    return {
      key: c.key,
      name: c.name || c.key,
      referral: {
        base: c.base,
        mode: c.mode,
        tiers: tiers.map((t) => ({ upTo: t.upTo, pct: t.pct })),
        min: c.min,
        max: c.max,
      },
      itemFee: c.itemFee,
    };
  });
}

/** Size tiers of the warehouse with their fees by weight, in bands of price. */
export function readSizeTiers(r: Reader) {
  const sizeTiers = r.rows('sizeTiers');
  r.unique('sizeTiers', sizeTiers, ['name']);
  const stepsOf = grouped(r.rows('weightSteps'), (x) => String(x.tier));
  const names = new Set(sizeTiers.map((t) => String(t.name)));
  for (const [tier, rows] of stepsOf)
    if (!names.has(tier)) r.fail('weightSteps', (rows[0] as Row).line, 'tier', fault('noTier', { tier }));
  return sizeTiers.map((t, i) => {
    r.mark(`warehouse.tiers.${i}`, 'sizeTiers', t.line);
    const steps = stepsOf.get(String(t.name)) ?? [];
    if (steps.length === 0) r.fail('sizeTiers', t.line, 'name', fault('tierNoFee', { tier: t.name }));
    const bands = [...grouped(steps, (s) => String(s.priceUpTo ?? ''))];
    rising(
      r,
      'weightSteps',
      bands.map(([, rows]) => rows[0] as Row),
      'priceUpTo',
      'price band',
    );
    return {
      name: t.name,
      maxL: t.maxL,
      maxW: t.maxW,
      maxH: t.maxH,
      maxKg: t.maxKg,
      maxLengthGirth: t.maxLengthGirth,
      divisor: t.divisor,
      packagingKg: or0(t.packagingKg),
      bands: bands.map(([, rows], j) => readBand(r, rows, `warehouse.tiers.${i}.bands.${j}`)),
    };
  });
}

/** The fees of a tier within one band of price. */
function readBand(r: Reader, rows: readonly Row[], path: string) {
  r.mark(path, 'weightSteps', (rows[0] as Row).line);
  return { upToPrice: (rows[0] as Row).priceUpTo, table: readWeightSteps(r, rows, `${path}.table`, 'fee') };
}

/** Storage and peak surcharge by month: all twelve, or none. */
export function readMonths(r: Reader, hasTiers: boolean) {
  const months = r.rows('months');
  r.unique('months', months, ['month']);
  const byMonth = (column: string): (number | null)[] | null => {
    const given = months.filter((m) => m[column] !== null);
    if (given.length === 0) return null;
    const values = Array.from({ length: 12 }, (_, m) => num(months.find((x) => x.month === m + 1)?.[column]));
    const gap = values.indexOf(null);
    if (gap >= 0)
      r.fail(
        'months',
        months.find((x) => x.month === gap + 1)?.line ?? null,
        column,
        fault('monthMissing', { month: gap + 1 }),
      );
    return values;
  };
  const storageMonths = byMonth('storagePerM3');
  const peak = byMonth('peakSurcharge');
  if (peak !== null && !hasTiers)
    r.fail('months', months[0]?.line ?? null, 'peakSurcharge', fault('peakNoTier'));
  return { storageMonths, peak };
}

/** Rates of long stays: bands that follow on each other. */
export function readLongStay(r: Reader, hasStorage: boolean) {
  const longStay = r.rows('longStay');
  for (const [i, b] of longStay.entries()) {
    r.mark(`storage.longStay.${i}`, 'longStay', b.line);
    checkStay(r, b, longStay[i - 1]);
  }
  if (longStay.length > 0 && !hasStorage)
    r.fail('longStay', (longStay[0] as Row).line, 'rate', fault('longStayNoStorage'));
  return longStay.map((b) => ({ fromMonths: b.fromMonths, toMonths: b.toMonths, rate: b.rate }));
}

function checkStay(r: Reader, b: Row, before: Row | undefined): void {
  if (b.toMonths !== null && (b.toMonths as number) <= (b.fromMonths as number))
    r.fail('longStay', b.line, 'toMonths', fault('stayEnd', { end: b.toMonths, start: b.fromMonths }));
  if (before === undefined) return;
  if (before.toMonths === null)
    r.fail('longStay', b.line, 'fromMonths', fault('stayOpen', { row: before.line }));
  else if ((b.fromMonths as number) < (before.toMonths as number))
    r.fail(
      'longStay',
      b.line,
      'fromMonths',
      fault('stayOverlap', { end: before.toMonths, start: b.fromMonths, row: before.line }),
    );
  else if ((b.fromMonths as number) > (before.toMonths as number))
    r.fail(
      'longStay',
      b.line,
      'fromMonths',
      fault('stayGap', { from: before.toMonths, to: b.fromMonths, row: before.line }),
    );
}
