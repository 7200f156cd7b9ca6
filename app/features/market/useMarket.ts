/** What a market's page works on: the document of the chosen market, what it says, and what one decides about it. */
import { useCallback, useMemo, useState } from 'react';
import { useRevalidator } from 'react-router';
import { laneChanges } from '../../../core/evidence/use.ts';
import type { Use } from '../../../core/evidence/use.ts';
import type { Basis } from '../../../core/evidence/history.ts';
import { keeper } from '../../../core/evidence/keep.ts';
import type { Keep } from '../../../core/evidence/keep.ts';
import { marketSaid } from '../../../core/evidence/market.ts';
import { composeEvidence, NO_WATCH } from '../../../core/evidence/observed.ts';
import type { Composed, ObservedKind, Watch } from '../../../core/evidence/observed.ts';
import type { EvidenceSettings } from '../../../core/evidence/settings.ts';
import { exchangeFactor } from '../../../core/money/money.ts';
import { tell } from '../../ui/client.ts';
import { useInOrder } from '../../ui/useInOrder.ts';
import { useNotDone } from '../../ui/useNotDone.ts';
import { useStore } from '../weigh/store.ts';
import type { Frame, LaneView } from '../weigh/useFigures.ts';
import type { KeptMarket } from '../../../core/evidence/observed.ts';

export type Said = ReturnType<typeof marketSaid>;
export type Market = {
  readonly key: string;
  readonly view: LaneView;
  readonly composed: Composed;
  readonly said: Said;
  /** The workspace's launch plan. */
  readonly plan: Frame['settings']['launch'];
};

/** The market a lane sells in, as rate cards name it. */
export const marketOf = (view: Pick<LaneView, 'doc'>): string =>
  `${view.doc.marketplace}/${view.doc.country}`;

/** Levels in the home currency as they are in the lane's; where that is not known, none is met. */
function inCurrency(s: EvidenceSettings, view: LaneView): EvidenceSettings {
  const { doc } = view;
  const factor = exchangeFactor(doc.rates.exchange, doc.homeCurrency, doc.currency);
  const { revenueFrom, revenueTo, cap } = s.fewReviews;
  const known = Number.isFinite(factor);
  return {
    ...s,
    fewReviews: {
      cap,
      revenueFrom: known ? Math.min(1e12, revenueFrom * factor) : 1e12,
      revenueTo: revenueTo === null ? null : known ? Math.min(1e12, revenueTo * factor) : 0,
    },
  };
}

const NOTHING: KeptMarket['observations'] = [];

/** The market of a lane, of what is kept and what was decided. */
export function marketFor(
  view: LaneView,
  kept: KeptMarket | undefined,
  watch: Watch,
  frame: Frame,
  keep?: Keep,
): Market {
  const { doc } = view;
  const levels = (): EvidenceSettings => inCurrency(frame.settings.evidence, view);
  const composed = composeEvidence(
    {
      market: { marketplace: doc.marketplace, country: doc.country },
      today: frame.today,
      observations: kept?.observations ?? NOTHING,
      watch,
      settings: keep === undefined ? levels() : keep('levels', [frame.settings.evidence, view], levels),
      hurdles: frame.settings.evidenceHurdles,
    },
    keep,
  );
  return {
    key: marketOf(view),
    view,
    composed,
    said: marketSaid(composed.document, doc, keep),
    plan: frame.settings.launch,
  };
}

export type Change = Partial<Omit<Watch, 'struck'>> & { struck?: Record<string, boolean | null> };
/** Decisions that are not read back yet, over what is kept: what a change does not name stays the very same. */
function withChange(watch: Watch, { struck, ...change }: Change): Watch {
  const over = <K extends 'terms' | 'variations' | 'improvements'>(key: K): Watch[K] =>
    change[key] === undefined ? watch[key] : { ...watch[key], ...change[key] };
  const all = { ...watch.struck, ...struck };
  return {
    ...watch,
    ...change,
    terms: over('terms'),
    struck:
      struck === undefined
        ? watch.struck
        : Object.fromEntries(Object.entries(all).flatMap(([k, v]) => (v === null ? [] : [[k, v]]))),
    variations: over('variations'),
    improvements: over('improvements'),
  };
}

export function useMarket(view: LaneView, markets: readonly KeptMarket[], frame: Frame, url: string) {
  const key = marketOf(view);
  const kept = markets.find((m) => m.market === key);
  const [decided, setDecided] = useState<Readonly<Record<string, Change[]>>>({});
  const [failed, setFailed] = useState<string | null>(null);
  const { revalidate } = useRevalidator();
  const notDone = useNotDone();
  const watch = useMemo(
    () => (decided[key] ?? []).reduce(withChange, kept?.watch ?? NO_WATCH),
    [decided, key, kept],
  );
  const [keep] = useState(keeper);
  const market = useMemo(() => marketFor(view, kept, watch, frame, keep), [view, kept, watch, frame, keep]);
  const inOrder = useInOrder();
  const decide = useCallback(
    async (change: Change): Promise<boolean> => {
      // It stands at once; where the server does not take it, it is taken off again and said.
      setDecided((d) => ({ ...d, [key]: [...(d[key] ?? []), change] }));
      // It arrives though the page is left at once.
      const told = await inOrder(() =>
        tell(`${url}/act`, { intent: 'decide', market: key, change }, { leaving: true }),
      );
      setFailed(told.ok ? null : notDone(told));
      if (!told.ok) setDecided((d) => ({ ...d, [key]: (d[key] ?? []).filter((c) => c !== change) }));
      return told.ok;
    },
    [key, url, notDone, inOrder],
  );
  const onChanged = useCallback(() => void revalidate(), [revalidate]);
  return { market, watch, decide, failed, revalidate: onChanged };
}

/** What evidence may do to the lane, and doing it: by a press, never by itself. */
export function useIntoLane({ view, composed, said }: Market) {
  const store = useStore();
  return (use: Use, from: ObservedKind, basis?: Basis): (() => void) | null => {
    const changes = laneChanges(use, composed.document, view.doc, said, basis);
    const origin = composed.origins[from];
    if (changes === null || !store.canEdit) return null;
    return () => {
      store.edit(
        changes.map((c) => ({ entity: 'lane' as const, id: view.id, path: [...c.path], to: c.to })),
        { source: 'evidence', date: origin?.asOf ?? null, note: basis ?? origin?.source ?? '' },
      );
      void store.flush();
    };
  };
}
