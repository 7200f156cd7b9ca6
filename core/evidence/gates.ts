/** Gates that evidence opens or shuts: demanded, enterable, permitted (evidence, section 8). */
import { verdictOf } from '../lane/hurdles.ts';
import type { Verdict } from '../lane/hurdles.ts';
import type { EvidenceFigure, EvidenceHurdle } from './hurdles.ts';
import type { CareItem, Permission } from './schema.ts';

export const EVIDENCE_GATES = ['demanded', 'enterable', 'permitted'] as const;
export type EvidenceGate = (typeof EVIDENCE_GATES)[number];
/** Which gate a hurdle belongs to: those on demand, and those on rivals. */
export const GATE_OF: Readonly<Record<EvidenceFigure, 'demanded' | 'enterable'>> = {
  searches: 'demanded',
  units: 'demanded',
  rank: 'demanded',
  direction: 'demanded',
  reviews: 'enterable',
  rating: 'enterable',
  offers: 'enterable',
  ownShopShare: 'enterable',
  price: 'enterable',
  brandShare: 'enterable',
};
export type GateVerdict = 'failed' | 'unknown' | 'near' | 'passed' | 'notLooked';
export type EvidenceFigures = Readonly<Record<EvidenceFigure, number | null>>;
export type JudgedHurdle = {
  readonly hurdle: EvidenceHurdle;
  readonly value: number | null;
  readonly verdict: Verdict;
};
export type GateSaid = { readonly verdict: GateVerdict; readonly hurdles: readonly JudgedHurdle[] };

/** Failed, else unknown, near, passed, in this order; nothing that was looked at: not looked at. */
export function together(verdicts: readonly Verdict[]): GateVerdict {
  if (verdicts.length === 0) return 'notLooked';
  if (verdicts.includes('fail')) return 'failed';
  if (verdicts.includes('unknown')) return 'unknown';
  return verdicts.includes('near') ? 'near' : 'passed';
}

/** Holds what is known against hurdles; unknown passes none and fails none. */
export function judged(figures: EvidenceFigures, hurdles: readonly EvidenceHurdle[]): JudgedHurdle[] {
  return hurdles.map((hurdle) => {
    const value = figures[hurdle.figure];
    return {
      hurdle,
      value,
      verdict: value === null ? ('unknown' as const) : verdictOf(hurdle, value, hurdle.level, null),
    };
  });
}

/**
 * Whether one may sell it: closed, a rights alert or trouble found bars it; an approval, or care that is open,
 * is open.
 */
function mayBeSold(permission: Permission | null, care: readonly CareItem[]): Verdict[] {
  const own: Verdict[] =
    permission === null
      ? care.length === 0
        ? []
        : ['unknown']
      : [
          permission.state === 'open' || (permission.state === 'approval' && permission.answered !== null)
            ? 'pass'
            : permission.state === 'approval'
              ? 'near'
              : 'fail',
        ];
  return [
    ...own,
    ...care.flatMap((c): Verdict[] =>
      c.state === 'notNeeded'
        ? []
        : [c.state === 'fine' ? 'pass' : c.state === 'trouble' ? 'fail' : 'unknown'],
    ),
  ];
}

/** The three gates as evidence has them; a state that was set by hand stands over them, where it is shown. */
export function gatesSaid(
  figures: EvidenceFigures,
  hurdles: readonly EvidenceHurdle[],
  permission: Permission | null,
  care: readonly CareItem[],
): Record<EvidenceGate, GateSaid> {
  const all = judged(figures, hurdles);
  const of = (gate: 'demanded' | 'enterable'): GateSaid => {
    const own = all.filter((h) => GATE_OF[h.hurdle.figure] === gate);
    return { verdict: together(own.map((h) => h.verdict)), hurdles: own };
  };
  return {
    demanded: of('demanded'),
    enterable: of('enterable'),
    permitted: { verdict: together(mayBeSold(permission, care)), hurdles: [] },
  };
}
