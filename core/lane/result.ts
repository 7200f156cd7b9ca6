/** What evaluating a lane yields, as a document. */
import { z } from 'zod';
import { BLANKS } from './blanks.ts';
import { BOUNDS } from './bounds.ts';
import { FAMILIES, LINES } from './costLines.ts';
import { FIGURES } from './figures.ts';
import { NOTICES, PROBLEMS } from './problems.ts';

const known = z.number().nullable();
const record = <K extends string>(keys: readonly K[]) =>
  z.object(Object.fromEntries(keys.map((k) => [k, known])) as Record<K, typeof known>);
const detail = z.record(z.string(), z.union([z.string(), z.number()]));

/**
 * What evaluating a lane yields. Amounts per unit sold in `currency`, ratios as fractions. `null` is unknown,
 * and `reasons` says why; `incomplete` names the blanks that a figure had to leave out, `bounds` what the
 * figure is a bound of while it lacks them.
 */
export const laneResult = z.object({
  format: z.literal('bold-margin/result'),
  version: z.literal(1),
  currency: z.string(),
  date: z.string(),
  lines: record(LINES),
  families: record(FAMILIES),
  figures: record(FIGURES),
  blanks: z.array(z.enum(BLANKS)).readonly(),
  incomplete: z.partialRecord(z.enum(FIGURES), z.array(z.enum(BLANKS)).readonly()),
  bounds: z
    .partialRecord(z.enum(FIGURES), z.enum(BOUNDS))
    .default({})
    .meta({ description: 'Of each figure that is known but lacks cost lines: what it is a bound of' }),
  reasons: z.partialRecord(z.enum(FIGURES), z.string()),
  problems: z.array(z.object({ code: z.enum(PROBLEMS), line: z.string(), path: z.string(), detail })),
  notices: z.array(z.object({ code: z.enum(NOTICES), path: z.string(), detail })),
});
export type LaneResult = z.output<typeof laneResult>;
/** What is kept of a result once another has taken its place. */
export type EarlierResult = Pick<LaneResult, 'currency' | 'lines'> & {
  figures: Pick<LaneResult['figures'], 'unitProfit' | 'gross'>;
};
