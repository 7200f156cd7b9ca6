/** Ranges that are offered for a lane: what its market says goes before how its figures are known. */
import { watch } from '../../../core/evidence/observed.ts';
import { marketRanges } from '../../../core/risk/fromMarket.ts';
import { offeredRanges } from '../../../core/risk/offered.ts';
import type { OfferedRange } from '../../../core/risk/offered.ts';
import type { RiskInput, SureTerms } from '../../../core/risk/schema.ts';
import { marketFor, marketOf } from '../market/useMarket.ts';
import type { LaneView } from '../weigh/useFigures.ts';
import type { AheadPart } from './fundParts.tsx';

const NO_WATCH = watch.parse({});
type Frame = Pick<AheadPart, 'settings' | 'cards' | 'markets' | 'learned' | 'today'>;
export type Offered = Partial<Record<RiskInput, OfferedRange>>;

export function offeredFor({ markets, learned, ...frame }: Frame, view: LaneView): Offered {
  const kept = markets.find((m) => m.market === marketOf(view));
  const seen =
    kept === undefined
      ? {}
      : marketRanges(marketFor(view, kept, kept.watch ?? NO_WATCH, frame).composed.document, view.doc);
  return offeredRanges(view.doc, frame.settings.widths, seen, learned);
}

/** What is kept of a lane with all that is offered for it. */
export const withOffered = (sure: SureTerms, offered: Offered): SureTerms => ({
  ...sure,
  ranges: { ...sure.ranges, ...Object.fromEntries(Object.entries(offered).map(([k, o]) => [k, o.range])) },
});
