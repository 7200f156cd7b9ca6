/** Which column of a supplier's file says what. */
import { z } from 'zod';
import { isGtin, readGtin } from '../goods/gtin.ts';
import { shortText } from '../money/schema.ts';
import { amountOf, decimalOf, UNREADABLE } from './amounts.ts';
import { eachOnce, headingFits, namedBy, plain } from './headings.ts';
import type { Fit } from './headings.ts';
import { ARTICLE_NUMBERS, REQUIRED_ROLES, ROLES, roleRule } from './roles.ts';
import type { Role } from './roles.ts';
import { fault } from '../fault.ts';
import type { Fault } from '../fault.ts';

/**
 * A mapping: of each role the heading of its column; of the file how its numbers are written. Kept for each
 * supplier.
 */
export const listMap = z.strictObject({
  format: z.literal('bold-margin/list-map').default('bold-margin/list-map'),
  version: z.literal(1).default(1),
  columns: z.partialRecord(z.enum(ROLES), shortText),
  /** Columns kept as they are, by heading. */
  extras: z.array(shortText).max(50).default([]),
  decimal: z.enum(['point', 'comma']).default('point'),
  lengthUnit: z.enum(['mm', 'cm', 'm', 'in']).default('cm'),
  weightUnit: z.enum(['g', 'kg', 'lb', 'oz']).default('kg'),
});
export type ListMap = z.output<typeof listMap>;
/**
 * Share of the filled cells of a column that pass a test; all of them where none is filled, since nothing
 * speaks against it.
 */
function shareOf(
  rows: readonly (readonly string[])[],
  column: number,
  test: (text: string) => boolean,
): number {
  let filled = 0;
  let passed = 0;
  for (const r of rows) {
    const text = (r[column] ?? '').trim();
    if (text === '') continue;
    filled++;
    if (test(text)) passed++;
  }
  return filled === 0 ? 1 : passed / filled;
}

/**
 * Guesses a mapping from headings and the first rows: each column gets at most one role, each role the column
 * that fits it best.
 */
export function guessMap(header: readonly string[], rows: readonly (readonly string[])[]): ListMap {
  const decimal = decimalOf(rows);
  const comma = decimal === 'comma';
  const amounts = header.map((_, i) => shareOf(rows, i, (t) => amountOf(t, comma) > UNREADABLE));
  const filled = header.map((_, i) => rows.some((r) => (r[i] ?? '').trim() !== ''));
  const codes = header.map((_, i) => (filled[i] ? shareOf(rows, i, (t) => readGtin(t).ok || isGtin(t)) : 0));
  const scored: Fit<Role>[] = [];
  for (const role of ROLES)
    header.forEach((h, at) => {
      let score = headingFits(h, roleRule(role).headings) * 10;
      if (role === 'identifier') score += (codes[at] as number) > 0.5 ? 15 : 0;
      // A heading that promises figures over a column of words, or of barcodes, promises in vain.
      if (score > 0 && roleRule(role).digits)
        score = (amounts[at] as number) > 0.5 && (codes[at] as number) < 0.5 ? score + 2 : 0;
      scored.push({ key: role, at, score });
    });
  const places = eachOnce(scored);
  const columns = namedBy(header, places);
  const taken = new Set<number>(Object.values(places));
  const weightHeading = columns.weight ?? '';
  const unit = /\bg\b|gram/i.test(weightHeading)
    ? 'g'
    : /\blbs?\b/i.test(weightHeading)
      ? 'lb'
      : /\boz\b/i.test(weightHeading)
        ? 'oz'
        : 'kg';
  const side = columns.length ?? columns.size ?? '';
  const numbers = new Set(ARTICLE_NUMBERS.map(plain));
  return listMap.parse({
    columns,
    extras: header.filter((h, i) => !taken.has(i) && numbers.has(plain(h).replace(/[-\s]+/g, ' '))),
    decimal,
    weightUnit: unit,
    lengthUnit: /\bmm\b/i.test(side) ? 'mm' : /\b(in|inch|inches)\b/i.test(side) ? 'in' : 'cm',
  });
}

/**
 * What keeps a mapping from being used on a file with these headings; `required` are the roles it cannot do
 * without.
 */
export function mapIssues(
  map: ListMap,
  header: readonly string[],
  required: readonly Role[] = REQUIRED_ROLES,
): Fault[] {
  const issues: Fault[] = [];
  for (const role of required)
    if (map.columns[role] === undefined) issues.push(fault('noColumnFor', { role }));
  for (const [role, heading] of Object.entries(map.columns))
    if (!header.includes(heading))
      issues.push(fault('noSuchColumn', { column: heading, role, columns: header.filter(Boolean) }));
  const doubled = Object.values(map.columns).filter((h, i, all) => all.indexOf(h) !== i);
  for (const h of new Set(doubled)) issues.push(fault('columnChosenTwice', { column: h }));
  return issues;
}

/** Rows among which the header may stand. */
export const HEADER_WITHIN = 30;

/**
 * Place of the header among the first rows: the row that holds all headings of a mapping; without one the row
 * with the most different words, the first of several.
 */
export function headerAmong(rows: readonly (readonly string[])[], map: ListMap | null = null): number {
  const wanted = Object.values(map?.columns ?? {});
  const named =
    wanted.length === 0
      ? -1
      : rows.slice(0, HEADER_WITHIN).findIndex((r) => wanted.every((h) => r.some((c) => c.trim() === h)));
  if (named >= 0) return named;
  const words = rows
    .slice(0, HEADER_WITHIN)
    .map((r) => new Set(r.map((c) => c.trim()).filter((c) => c !== '' && !/^[\d.,\s€$£%+-]+$/.test(c))).size);
  return Math.max(0, words.indexOf(Math.max(...words)));
}
