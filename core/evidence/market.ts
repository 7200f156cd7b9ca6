/**
 * What a document of evidence says, section by section: the one way from the document to every figure, for screens
 * and for the command line. A lane beside it gives one's own price and what a unit keeps.
 */
import { evaluate } from '../lane/evaluate.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { bidsOf } from './bids.ts';
import type { Bids } from './bids.ts';
import { gatesSaid } from './gates.ts';
import type { EvidenceFigures, EvidenceGate, GateSaid } from './gates.ts';
import { byDay, outOfStockMonths, ownShopOf } from './history.ts';
import { anew } from './keep.ts';
import type { Keep } from './keep.ts';
import {
  breakEvenOf,
  historySection,
  lackingOf,
  myPriceOf,
  offersSection,
  variationsSection,
} from './keeps.ts';
import type { HistorySaid, OffersSection, VariationSaid } from './keeps.ts';
import { opportunityOf } from './opportunity.ts';
import type { Opportunity, Veto } from './opportunity.ts';
import { peakOf } from './peak.ts';
import type { Peak } from './peak.ts';
import { priceBands } from './priceBands.ts';
import type { PriceBand } from './priceBands.ts';
import { countedPrices, placeAmong, rivalsSaid } from './rivals.ts';
import type { PlaceAmongPrices, RivalsSaid } from './rivals.ts';
import type { DayRow, EvidenceDocument } from './schema.ts';
import { directionOf, monthAfter, seasonOf, together } from './season.ts';
import type { Direction, MonthValue, Season } from './season.ts';
import { termsSaid } from './terms.ts';
import type { TermSaid } from './terms.ts';
import { myUnits, shareOf, unitsOf } from './units.ts';
import type { MyUnits, Share, Units } from './units.ts';

export type SeasonAndDirection = { readonly season: Season; readonly direction: Direction };
export type SeasonSaid = {
  readonly now: string;
  readonly terms: readonly ({ readonly term: string } & SeasonAndDirection)[];
  /** Of the ticked terms; of all where none is ticked. */
  readonly together: SeasonAndDirection;
  /** Of the listing's own units, without the months in which it was mostly out of stock. */
  readonly listing: SeasonAndDirection & { readonly leftOut: readonly string[] };
  readonly peak: Peak | null;
};

/** As of which day a document speaks: the one it names, else the last priced day, else the month after the last. */
export function nowOf(doc: EvidenceDocument): string {
  const days = doc.prices?.days.map((d) => d.day) ?? [];
  if (doc.now !== null) return doc.now;
  if (days.length > 0) return days.reduce((a, b) => (a > b ? a : b));
  const months = [...doc.terms.flatMap((t) => t.volumes), ...doc.unitsByMonth];
  return monthAfter(months);
}

const said = (series: readonly MonthValue[], now: string): SeasonAndDirection => ({
  season: seasonOf(series, now),
  direction: directionOf(series, now),
});

export function seasonSection(doc: EvidenceDocument): SeasonSaid {
  const months = [...doc.terms.flatMap((t) => t.volumes), ...doc.unitsByMonth];
  const now = doc.now ?? (months.length > 0 ? monthAfter(months) : nowOf(doc));
  const ticked = doc.terms.filter((t) => t.ticked);
  const own = ticked.length > 0 ? ticked : doc.terms;
  const all = said(
    together(
      own.map((t) => ({ series: t.volumes, weight: t.weight })),
      now,
    ),
    now,
  );
  const leftOut = outOfStockMonths(doc.prices?.days ?? []);
  const units = doc.unitsByMonth.filter((m) => !leftOut.includes(m.month));
  const listing = said(units, now);
  return {
    now,
    terms: doc.terms.map((t) => ({ term: t.term, ...said(t.volumes, now) })),
    together: all,
    listing: { ...listing, leftOut },
    peak:
      doc.window === null
        ? null
        : peakOf(doc.window, all.season.known ? all.season : listing.season, doc.unitsByMonth),
  };
}

/** Share of the ninety days up to a day on which the own shop offered; null: not known. */
const ownShopShare = (days: readonly DayRow[], now: string): number | null =>
  ownShopOf(
    byDay(days).filter((d) => d.day <= now),
    now,
    90,
  ).share;

export type UnitsSaid = {
  readonly share: Share;
  readonly units: Units;
  readonly mine: MyUnits;
  /** Share of days on which the own shop offered, taken off one's own units; null: not known. */
  readonly ownShopShare: number | null;
};
/** Null: nothing is known of the units. */
export function unitsSection(doc: EvidenceDocument, lane: LaneDocument | null): UnitsSaid | null {
  if (doc.units === null) return null;
  const units = unitsOf(doc.units, doc.settings);
  const there = doc.prices === null ? null : ownShopShare(doc.prices.days, nowOf(doc));
  return {
    share: shareOf(doc.units),
    units,
    mine: myUnits(units, doc.offers?.list ?? null, myPriceOf(doc, lane), doc.mine.band, there),
    ownShopShare: there,
  };
}

export type RivalsSection = RivalsSaid & {
  readonly currency: string;
  readonly place: PlaceAmongPrices | null;
  readonly bands: readonly PriceBand[];
};
export function rivalsSection(doc: EvidenceDocument, lane: LaneDocument | null): RivalsSection | null {
  if (doc.rivals === null) return null;
  const { rows, currency } = doc.rivals;
  const mine = lane === null || lane.currency === currency ? myPriceOf(doc, lane) : null;
  return {
    currency,
    ...rivalsSaid(rows, doc.settings),
    place: mine === null ? null : placeAmong(countedPrices(rows), mine, doc.settings),
    bands: priceBands(rows, currency, mine),
  };
}

export type TermsSection = {
  readonly terms: readonly ({ readonly term: string } & TermSaid)[];
  readonly bids: Bids;
  /** The most a click may cost on the lane, sales currency; null without a lane. */
  readonly mostAClick: number | null;
};
export function termsSection(doc: EvidenceDocument, lane: LaneDocument | null): TermsSection {
  const now = nowOf(doc);
  const own = termsSaid(doc.terms, now, doc.settings);
  return {
    terms: doc.terms.map((t, i) => ({ term: t.term, ...(own[i] as TermSaid) })),
    bids: bidsOf(doc.terms, doc.match, now, doc.settings),
    mostAClick: lane === null ? null : evaluate(lane).figures.highestCpc,
  };
}

/**
 * What the launch budget takes for a first purchase that permission asks for, currency of the market; null: none
 * is asked, or how much is not known.
 */
export function approvalCost(doc: Pick<EvidenceDocument, 'permission'>): number | null {
  const p = doc.permission;
  return p?.state !== 'approval' || p.by !== 'purchase' || p.units === null || p.price === null
    ? null
    : p.units * p.price;
}

export type OpportunitySection = {
  /** Break-even price of the lane, with delivery; null without one. */
  readonly breakEven: number | null;
  readonly figures: EvidenceFigures;
  readonly gates: Record<EvidenceGate, GateSaid>;
  readonly opportunity: Opportunity;
  readonly approvalCost: number | null;
};
export type Sections = {
  readonly season: SeasonSaid;
  readonly history: HistorySaid | null;
  readonly units: UnitsSaid | null;
  readonly variations: readonly VariationSaid[];
  readonly rivals: RivalsSection | null;
  readonly terms: TermsSection;
  readonly offers: OffersSection | null;
};

/** The figures that hurdles are set on. */
export function figuresOf(doc: EvidenceDocument, s: Sections): EvidenceFigures {
  const counting = s.terms.terms.flatMap((t, i) =>
    doc.terms[i]?.ticked === true && t.counts ? (t.volume ?? []) : [],
  );
  const { direction } = s.season.together;
  const top = s.rivals?.brands[0];
  const price = s.history?.bases;
  return {
    searches: counting.length === 0 ? null : Math.max(...counting),
    units: s.units?.units.known === true ? s.units.units.expected : null,
    rank: doc.units?.rank ?? null,
    direction: direction.known ? direction.change : null,
    reviews: s.rivals?.columns.reviews.median ?? null,
    rating: s.rivals?.columns.rating.median ?? null,
    offers: s.offers?.offers ?? null,
    ownShopShare: s.history?.ownShop['90'].share ?? null,
    price: price?.now.known
      ? price.now.price
      : price?.trend.known
        ? price.trend.price
        : (s.rivals?.columns.price.median ?? null),
    brandShare: top?.revenueShare ?? null,
  };
}

/** Whether it is worth it, in parts; the sections that it rests on are given, so that nothing is reckoned twice. */
export function opportunitySection(
  doc: EvidenceDocument,
  lane: LaneDocument | null,
  s: Sections,
): OpportunitySection {
  const figures = figuresOf(doc, s);
  const result = lane === null ? null : evaluate(lane);
  const margin = result?.figures.margin ?? null;
  const kind = lane === null || lane.way === 'ownBrand' ? 'ownBrand' : 'resale';
  const { rivals, history, season } = s;
  const index = season.together.season;
  const ceiling = rivals?.place?.ceiling ?? null;
  const breakEven = history?.breakEven ?? breakEvenOf(lane);
  const p = doc.permission;
  const vetoes: Veto[] = [
    ...(p?.state === 'closed' ? (['closed'] as const) : []),
    ...(p?.state === 'rightsAlert' ? (['rightsAlert'] as const) : []),
    ...((result?.figures.unitProfit ?? 0) < -1e-9 && result?.bounds.unitProfit !== 'notKnown'
      ? (['loses'] as const)
      : []),
  ];
  const counted = rivals?.rows ?? 0;
  const opportunity = opportunityOf(
    kind,
    {
      demand: rivals?.columns.units.median ?? null,
      steadiness: index.known ? Math.min(...index.index) : null,
      room:
        rivals === null || counted === 0 || rivals.columns.reviews.rows === 0
          ? null
          : rivals.fewReviews.length / counted,
      freedom: figures.brandShare === null ? null : 1 - figures.brandShare,
      // A break-even price or a margin that lacks costs is a bound, and no figure to judge by.
      priceRoom:
        ceiling === null || breakEven === null || breakEven <= 0 || lackingOf(lane).bound !== null
          ? null
          : ceiling / breakEven - 1,
      margin: result?.bounds.margin === undefined ? margin : null,
      permission: p === null ? null : p.state === 'open' ? 1 : p.state === 'approval' ? 0.5 : 0,
      myUnits: s.units?.mine.known === true ? s.units.mine.expected : null,
      priceSteadiness:
        history?.band == null || history.trend === null || history.trend <= 0
          ? null
          : (history.band.high - history.band.low) / history.trend,
      ownShopAway: figures.ownShopShare === null ? null : 1 - figures.ownShopShare,
      offers: figures.offers,
    },
    vetoes,
    doc.settings,
  );
  return {
    breakEven,
    figures,
    gates: gatesSaid(figures, doc.hurdles, p, doc.care),
    opportunity,
    approvalCost: approvalCost(doc),
  };
}

/** Every section of a document at once; with a memory, only what hangs on something that is new is worked out. */
export function marketSaid(
  doc: EvidenceDocument,
  lane: LaneDocument | null,
  keep: Keep = anew,
): Sections & OpportunitySection {
  const days = doc.prices?.days;
  const { now, settings, terms } = doc;
  const sections: Sections = {
    season: keep('season', [terms, doc.unitsByMonth, days, doc.window, now], () => seasonSection(doc)),
    history: keep('history', [days, now, lane], () => historySection(doc, lane)),
    units: keep('units', [doc.units, doc.offers, days, now, lane, doc.mine.band, settings], () =>
      unitsSection(doc, lane),
    ),
    variations: keep('variations', [doc.variations, doc.units, lane, settings], () =>
      variationsSection(doc, lane),
    ),
    rivals: keep('rivals', [doc.rivals, lane, settings], () => rivalsSection(doc, lane)),
    terms: keep('terms', [terms, doc.match, now, lane, settings], () => termsSection(doc, lane)),
    offers: keep('offers', [doc.offers, lane, settings], () => offersSection(doc, lane)),
  };
  return { ...sections, ...opportunitySection(doc, lane, sections) };
}
