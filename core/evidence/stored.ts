/**
 * What is stored of a market beside what was decided about it, so that lists of candidates and of lanes need not read
 * its evidence.
 */
import type { LaneDocument } from '../lane/schema.ts';
import { EVIDENCE_GATES, gatesSaid } from './gates.ts';
import type { EvidenceGate, GateVerdict } from './gates.ts';
import type { EvidenceFigure } from './hurdles.ts';
import { historySection, offersSection } from './keeps.ts';
import { figuresOf, marketSaid, rivalsSection, seasonSection, termsSection, unitsSection } from './market.ts';
import { newerEvidence } from './newer.ts';
import type { Newer } from './newer.ts';
import type { Composed, ObservedKind } from './observed.ts';
import { countedPrices } from './rivals.ts';
import type { Permission } from './schema.ts';

export type StoredGate = {
  readonly verdict: GateVerdict;
  /** The figure that decided: the first that failed, is near, or is not known. */
  readonly figure: EvidenceFigure | null;
  readonly value: number | null;
};
/** What tells markets apart in a list of lanes. */
export type MarketFacts = {
  /** Volume of the most searched term that counts. */
  readonly searches: number | null;
  /** Calendar months that stand out; none: it sells all year. Null: not known. */
  readonly peaks: readonly number[] | null;
  readonly rivals: number | null;
  /** Prices of the rivals that count, rising, as many as a page has; null: none are known. */
  readonly prices: { readonly currency: string; readonly list: readonly number[] } | null;
  readonly permission: Permission['state'] | null;
};
export type MarketStored = {
  readonly gates: Readonly<Record<EvidenceGate, StoredGate>>;
  /** Kinds of evidence that are past their age. */
  readonly old: readonly ObservedKind[];
  readonly facts: MarketFacts;
};
/** Newer evidence than a lane holds, in what a list says of it. */
export type NewerLine = Pick<Newer, 'use' | 'asOf' | 'before' | 'after'>;
const MOST_PRICES = 100;
const DECIDES: Readonly<Partial<Record<GateVerdict, string>>> = {
  failed: 'fail',
  near: 'near',
  unknown: 'unknown',
};

/** Gates, ages and facts of a composed market; no lane is needed for any. */
export function marketStored({ document, origins }: Composed): MarketStored {
  const season = seasonSection(document);
  const rivals = rivalsSection(document, null);
  const figures = figuresOf(document, {
    season,
    history: historySection(document, null),
    units: unitsSection(document, null),
    variations: [],
    rivals,
    terms: termsSection(document, null),
    offers: offersSection(document, null),
  });
  const gates = gatesSaid(figures, document.hurdles, document.permission, document.care);
  const stored = (gate: EvidenceGate): StoredGate => {
    const { verdict, hurdles } = gates[gate];
    const decided = hurdles.find((h) => h.verdict === DECIDES[verdict]);
    return { verdict, figure: decided?.hurdle.figure ?? null, value: decided?.value ?? null };
  };
  return {
    gates: Object.fromEntries(EVIDENCE_GATES.map((g) => [g, stored(g)])) as MarketStored['gates'],
    old: (Object.keys(origins) as ObservedKind[]).filter((k) => origins[k]?.stale === true),
    facts: {
      searches: figures.searches,
      peaks: season.together.season.known ? season.together.season.peaks : null,
      rivals: rivals?.rows ?? null,
      prices: pricesOf(document),
      permission: document.permission?.state ?? null,
    },
  };
}

function pricesOf({ rivals }: Composed['document']): MarketFacts['prices'] {
  const list = rivals === null ? [] : countedPrices(rivals.rows).slice(0, MOST_PRICES);
  return rivals === null || list.length === 0
    ? null
    : { currency: rivals.currency, list: list.sort((a, b) => a - b) };
}

/** What newer evidence would change of a lane. */
export const newerStored = ({ document, origins }: Composed, lane: LaneDocument): NewerLine[] =>
  newerEvidence(document, lane, marketSaid(document, lane), origins).map(({ use, asOf, before, after }) => ({
    use,
    asOf,
    before,
    after,
  }));
