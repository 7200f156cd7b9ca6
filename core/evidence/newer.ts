/** Newer evidence than a lane was fed with, and what it would change (evidence, section 1). Nothing moves by itself. */
import { evaluate } from '../lane/evaluate.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { withValueAt } from '../workspace/patch.ts';
import type { Basis } from './history.ts';
import { BASES } from './history.ts';
import type { Sections } from './market.ts';
import type { ObservedKind, Origin } from './observed.ts';
import type { EvidenceDocument } from './schema.ts';
import { laneChanges } from './use.ts';
import type { LaneChange, Use } from './use.ts';

export type Newer = {
  readonly use: Use;
  readonly kind: ObservedKind;
  readonly basis: Basis;
  /** Day of the evidence that the lane holds, and of the newer. */
  readonly held: string;
  readonly asOf: string;
  readonly changes: readonly LaneChange[];
  /** Profit of a unit, sales currency, as the lane stands and with the newer evidence. */
  readonly before: number | null;
  readonly after: number | null;
};
/** Which use feeds a field of the lane, and from which kind of evidence. */
const FED: readonly { path: string; use: Use; kind: ObservedKind }[] = [
  { path: 'price', use: 'price', kind: 'history' },
  { path: 'demand', use: 'units', kind: 'units' },
  { path: 'season', use: 'season', kind: 'terms' },
  { path: 'adverts', use: 'adverts', kind: 'bids' },
  { path: 'returns', use: 'returns', kind: 'complaints' },
];
const isBasis = (x: string): x is Basis => (BASES as readonly string[]).includes(x);

/** The fields that were fed from evidence and would be otherwise by what is known now. */
export function newerEvidence(
  doc: EvidenceDocument,
  lane: LaneDocument,
  s: Sections,
  origins: Partial<Record<ObservedKind, Origin>>,
): Newer[] {
  const before = evaluate(lane).figures.unitProfit;
  return FED.flatMap(({ path, use, kind }): Newer[] => {
    const held = lane.provenance[path];
    const origin = origins[kind];
    if (held?.source !== 'evidence' || held.date === null || origin === undefined || origin.asOf <= held.date)
      return [];
    const basis = isBasis(held.note) ? held.note : 'now';
    const split = path === 'demand' && lane.demand?.kind === 'offerSplit';
    const changes = laneChanges(split ? 'offers' : use, doc, lane, s, basis);
    if (changes === null || changes.every((c) => sameValue(valueIn(lane, c.path), c.to))) return [];
    let next = lane;
    for (const c of changes) next = withValueAt(next, [...c.path], c.to);
    const after = evaluate(next).figures.unitProfit;
    return [
      {
        use: split ? 'offers' : use,
        kind,
        basis,
        held: held.date,
        asOf: origin.asOf,
        changes,
        before,
        after,
      },
    ];
  });
}
const valueIn = (lane: LaneDocument, path: LaneChange['path']): unknown =>
  (lane as unknown as Record<string, unknown>)[String(path[0])];
const sameValue = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
