/** How sure a lane is at a prompt: its unit profit and its launch over ranges of what is not certain. */
import { issuesOf } from '../core/issues.ts';
import { laneDocument } from '../core/lane/schema.ts';
import { riskOf } from '../core/risk/risk.ts';
import { RISK_INPUTS, rangesDocument } from '../core/risk/schema.ts';
import { cannot, readText } from './files.ts';
import { documentIn, NOT_JSON } from './documents.ts';
import type { Report, Write } from './documents.ts';

export type RiskOptions = { readonly ranges: string | undefined; readonly uniforms: string | undefined };

/** Prints what draws of a lane come to. 0: done; 2: something was invalid. */
export function risk(
  path: string | undefined,
  { ranges: rangesPath, uniforms }: RiskOptions,
  write: Write,
  report: Report,
): number {
  if (rangesPath === undefined) throw cannot('whichRanges');
  const given = documentIn(path);
  const ranged = documentIn(rangesPath);
  if (given === undefined || ranged === undefined) {
    report(NOT_JSON);
    return 2;
  }
  const lane = laneDocument.safeParse(given);
  const ranges = rangesDocument.safeParse(ranged);
  for (const read of [lane, ranges]) if (!read.success) report(issuesOf(read.error));
  if (!lane.success || !ranges.success) return 2;
  const numbers = uniforms === undefined ? undefined : uniformsIn(uniforms);
  const { known, ...said } = riskOf(lane.data, ranges.data, numbers);
  const head = { format: 'bold-margin/risk-result', version: 1, currency: lane.data.homeCurrency };
  write(known ? { ...head, ...said } : { ...head, unit: null, launch: null, ...said });
  return 0;
}

/** Uniform numbers of a file: eight a draw, by blanks, commas or lines, each from 0 up to but not 1. */
function uniformsIn(path: string): Float64Array {
  const numbers = readText(path)
    .split(/[\s,;]+/)
    .filter((x) => x !== '')
    .map(Number);
  const bad = numbers.findIndex((x) => !(x >= 0 && x < 1));
  if (bad >= 0) throw cannot('notUniform', { position: bad + 1 });
  if (numbers.length === 0 || numbers.length % RISK_INPUTS.length !== 0)
    throw cannot('uniformsLeftOver', { count: numbers.length, each: RISK_INPUTS.length });
  return Float64Array.from(numbers);
}
