/**
 * What was observed of a market, dated and kept, and what one has decided about it: together they make the document
 * of evidence that everything is worked out from.
 */
import { z } from 'zod';
import { daysBetween } from '../money/days.ts';
import { nonNegative, orBlank, share, shortText } from '../money/schema.ts';
import type { EvidenceHurdle } from './hurdles.ts';
import { byDay } from './history.ts';
import { anew } from './keep.ts';
import type { Keep } from './keep.ts';
import {
  about,
  bid,
  careItem,
  complaint,
  evidenceDocument,
  marketVariation,
  MATCHES,
  offer,
  permission,
  rivals,
  term,
  unitsKnown,
  volumes,
} from './schema.ts';
import type { DayRow, EvidenceDocument, Permission, Rival, Term, UnitsKnown } from './schema.ts';
import { daySeries, unpackDays } from './series.ts';
import type { EvidenceSettings } from './settings.ts';
import { median } from './statistics.ts';
import { withDelivery } from './units.ts';

/** What a term says by itself, without what one decided about it. */
const observedTerm = term.pick({
  term: true,
  language: true,
  volumes: true,
  sales: true,
  freePlace: true,
  paidPlace: true,
});
const observedRival = rivals.shape.rows.element.omit({ struck: true });

/** Of each kind what is kept of one observation. */
export const OBSERVED = {
  terms: z.strictObject({ terms: z.array(observedTerm).max(20_000) }),
  bids: z.strictObject({
    bids: z.array(bid.extend({ term: shortText.min(1), language: shortText.default('') })).max(60_000),
  }),
  rivals: rivals.extend({ rows: z.array(observedRival).max(2000) }),
  history: daySeries,
  offers: z.strictObject({ currency: z.string(), list: z.array(offer).max(1000) }),
  units: z.strictObject({
    units: unitsKnown,
    unitsByMonth: volumes.default([]),
    variations: z.array(marketVariation).max(2000).default([]),
    about: about.nullable().default(null),
  }),
  permission,
  complaints: z.strictObject({ complaints: z.array(complaint).max(200), returnRate: orBlank(share) }),
} as const;
export type ObservedKind = keyof typeof OBSERVED;
export const OBSERVED_KINDS = Object.keys(OBSERVED) as ObservedKind[];
export type ObservedValue<K extends ObservedKind> = z.output<(typeof OBSERVED)[K]>;

/** Where an observation comes from, and whether it was stated or estimated. */
export const observationHead = z.strictObject({
  /** Day it speaks of. */
  asOf: z.string(),
  /** `typed`, `feed`, or `file` with its name behind a colon. */
  source: z.string().max(300),
  stated: z.boolean(),
});
export type ObservationHead = z.output<typeof observationHead>;
export type Observation = ObservationHead & {
  readonly id: string;
  readonly kind: ObservedKind;
  readonly value: unknown;
};

/** The same as it stands among what was known. */
export type EarlierObservation = ObservationHead & {
  readonly id: string;
  readonly takenBack: boolean;
  /** ISO time at which it was kept, and by whom. */
  readonly at: string;
  readonly by: string | null;
  readonly gist: Gist;
};
/** An observation in a figure or two, to be told apart from the others of its kind. */
export type Gist = {
  /** Terms, bids, rivals, days, offers or complaints in it. */
  readonly count: number | null;
  /** Price of the middle rival, the last day or the lowest offer; currency of the market. */
  readonly price: number | null;
  readonly units: number | null;
  readonly state: Permission['state'] | null;
};

/** Decisions by name, no more than a market can have terms. */
const byName = <T extends z.ZodType>(longest: number, of: T) =>
  z
    .record(z.string().max(longest), of)
    .refine((r) => Object.keys(r).length <= MOST_DECISIONS, 'evidenceTooManyDecisions');
const MOST_DECISIONS = 20_000;

/** What one has decided about a market: it is no evidence, and stands beside it. */
export const watch = z.strictObject({
  listing: shortText.default('').meta({ description: 'Code of the listing, where it is known' }),
  variation: shortText.default('').meta({ description: 'Code of its variation' }),
  search: shortText.default('').meta({ description: 'Words by which rivals and terms are found' }),
  /** By term: ticked, weights, notes, marks. */
  terms: byName(
    200,
    z.strictObject({
      ticked: z.boolean().default(false),
      weight: nonNegative.default(1),
      broad: z.boolean().default(false),
      confirmed: z.boolean().default(false),
      ofRival: z.boolean().default(false),
      note: z.string().max(2000).default(''),
    }),
  ).default({}),
  /** By rival (listing, else title): struck out or taken back. */
  struck: byName(420, z.boolean()).default({}),
  match: z.enum(MATCHES).default('exact'),
  band: share.default(0.03),
  typedUnits: orBlank(nonNegative),
  typedShare: orBlank(share),
  care: z.array(careItem).max(200).default([]),
  /** By code of a variation: what it costs at the source, and how many are to be had. */
  variations: byName(
    400,
    z.strictObject({ cost: orBlank(nonNegative), stock: orBlank(nonNegative) }),
  ).default({}),
  /** What would be done about a complaint, by its theme. */
  improvements: byName(
    200,
    z.strictObject({
      improvement: z.string().max(2000).default(''),
      cost: orBlank(nonNegative),
      price: orBlank(nonNegative),
    }),
  ).default({}),
});
export type Watch = z.output<typeof watch>;
/** What is kept of one market of a candidate. */
export type KeptMarket = {
  readonly market: string;
  readonly watch: Watch;
  /** The newest of each kind first, and every stretch of days. */
  readonly observations: readonly Observation[];
};
export const NO_WATCH: Watch = watch.parse({});

export const rivalKey = (r: Pick<Rival, 'listing' | 'title'>): string =>
  r.listing === '' ? `title:${r.title}` : `listing:${r.listing}`;
export const termKey = (t: Pick<Term, 'term' | 'language'>): string =>
  (t.language === '' ? t.term : `${t.language}:${t.term}`).slice(0, 200);

/** What was decided under a name; names are other people's texts, so that nothing but own ones count. */
const decided = <T>(of: Readonly<Record<string, T>>, name: string): T | undefined =>
  Object.hasOwn(of, name) ? of[name] : undefined;

const AGE_OF: Readonly<Record<ObservedKind, keyof EvidenceSettings['ages']>> = {
  terms: 'searches',
  bids: 'searches',
  rivals: 'units',
  history: 'prices',
  offers: 'offers',
  units: 'units',
  permission: 'searches',
  complaints: 'searches',
};
/** Where a part of the document comes from, and whether it is past its age. */
export type Origin = ObservationHead & { readonly age: number; readonly stale: boolean };

export type MarketParts = {
  readonly market: { readonly marketplace: string; readonly country: string };
  readonly today: string;
  /** The newest of each kind first; of `history` every stretch counts, the newer over the older. */
  readonly observations: readonly Observation[];
  readonly watch: Watch;
  readonly settings: EvidenceSettings;
  readonly hurdles: readonly EvidenceHurdle[];
};
export type Composed = {
  readonly document: EvidenceDocument;
  readonly origins: Partial<Record<ObservedKind, Origin>>;
  /** Kinds of which something is kept that can no longer be read. */
  readonly unread: readonly ObservedKind[];
};

/** The document of a market, of the newest observation of each kind and of what was decided. */
export function composeEvidence(p: MarketParts, keep: Keep = anew): Composed {
  const origins: Partial<Record<ObservedKind, Origin>> = {};
  const unread: ObservedKind[] = [];
  const newest = <K extends ObservedKind>(kind: K): ObservedValue<K> | null => {
    const own = p.observations.find((o) => o.kind === kind);
    if (own === undefined) return null;
    const read = keep(`read ${kind}`, [own.value], () => OBSERVED[kind].safeParse(own.value));
    if (!read.success) {
      unread.push(kind);
      return null;
    }
    const age = Math.max(0, daysBetween(own.asOf, p.today));
    const { asOf, source, stated } = own;
    origins[kind] = { asOf, source, stated, age, stale: age > p.settings.ages[AGE_OF[kind]] };
    return read.data as ObservedValue<K>;
  };
  const history = newest('history');
  const page = newest('rivals');
  const sold = newest('units');
  const said = newest('complaints');
  const [terms, bids] = [newest('terms'), newest('bids')];
  const document: EvidenceDocument = {
    ...evidenceDocument.parse({ format: 'bold-margin/evidence', version: 1 }),
    now: p.today,
    market: p.market,
    match: p.watch.match,
    terms: keep('terms of', [terms, bids, p.watch.terms], () =>
      termsWith(terms?.terms ?? [], bids?.bids ?? [], p.watch),
    ),
    prices:
      history === null
        ? null
        : {
            currency: history.currency,
            days: keep('days', [p.observations], () => stretches(p.observations)),
          },
    units: keep('units of', [sold, p.watch.typedUnits, p.watch.typedShare, p.watch.variation], () =>
      sold === null && p.watch.typedUnits === null
        ? null
        : {
            ...(sold === null ? unitsKnown.parse({}) : ofVariation(sold, p.watch.variation)),
            typed: p.watch.typedUnits,
            typedShare: p.watch.typedShare,
          },
    ),
    unitsByMonth: keep('by month', [sold], () => sold?.unitsByMonth ?? []),
    variations: keep('variations of', [sold, p.watch.variations], () =>
      (sold?.variations ?? []).map((v) => ({
        ...v,
        cost: null,
        stock: null,
        ...decided(p.watch.variations, v.code),
      })),
    ),
    about: sold?.about ?? null,
    offers: newest('offers'),
    mine: { price: null, band: p.watch.band },
    rivals: keep('rivals of', [page, p.watch.struck], () =>
      page === null
        ? null
        : {
            ...page,
            rows: page.rows.map((r) => ({ ...r, struck: decided(p.watch.struck, rivalKey(r)) ?? null })),
          },
    ),
    permission: newest('permission'),
    care: p.watch.care,
    complaints: keep('complaints of', [said, p.watch.improvements], () =>
      (said?.complaints ?? []).map((c) => ({ ...c, ...decided(p.watch.improvements, c.theme) })),
    ),
    returnRate: said?.returnRate ?? null,
    hurdles: [...p.hurdles],
    settings: p.settings,
  };
  const now = dayOfDocument(document, p.today);
  const window = keep('window', [now, sold], () => monthUpTo(now, sold));
  return { document: { ...document, now, window }, origins, unread };
}

/** The thirty days up to a day, with what the listing as a whole sells a month: whether that is a peak. */
function monthUpTo(now: string, sold: ObservedValue<'units'> | null): EvidenceDocument['window'] {
  if (sold === null) return null;
  const from = new Date(Date.parse(`${now}T00:00:00Z`) - 29 * 86_400_000).toISOString().slice(0, 10);
  const { statedListing, estimatedListing } = sold.units;
  return { from, to: now, units: statedListing ?? estimatedListing?.units ?? null };
}

/**
 * The day a document speaks of: the last day of its prices, where these are newer than their age allows to call
 * today's; else today, so that a window ends where the observation ends and not in days nobody looked at.
 */
function dayOfDocument(document: EvidenceDocument, today: string): string {
  const days = document.prices?.days ?? [];
  const last = days.reduce((a, d) => (d.day > a && d.day <= today ? d.day : a), '');
  return last === '' ? today : last;
}

/** The units with the ratings of the variation that is followed. */
function ofVariation(sold: ObservedValue<'units'>, code: string): UnitsKnown {
  const own = code === '' ? undefined : sold.variations.find((v) => v.code === code);
  return own === undefined ? sold.units : { ...sold.units, ratingsVariation: own.ratings };
}

/** Every stretch of days, the oldest first, so that a later row of a day stands; in the currency of the newest. */
function stretches(observations: readonly Observation[]): DayRow[] {
  const own = observations.flatMap((o) => {
    const read = o.kind === 'history' ? daySeries.safeParse(o.value) : null;
    return read?.success ? [read.data] : [];
  });
  const currency = own[0]?.currency;
  return byDay(
    own
      .reverse()
      .filter((s) => s.currency === currency)
      .flatMap(unpackDays),
  );
}

function termsWith(
  own: readonly z.output<typeof observedTerm>[],
  bids: ObservedValue<'bids'>['bids'],
  w: Watch,
): Term[] {
  const bidsOfTerm = new Map<string, z.output<typeof bid>[]>();
  const terms = new Map(own.map((t) => [termKey(t), t]));
  for (const { term: text, language, ...b } of bids) {
    const key = termKey({ term: text, language });
    if (!terms.has(key)) terms.set(key, observedTerm.parse({ term: text, language }));
    const known = bidsOfTerm.get(key);
    if (known === undefined) bidsOfTerm.set(key, [b]);
    else if (known.length < MOST_BIDS) known.push(b);
  }
  return [...terms].map(([key, t]) => ({
    ...t,
    ...(decided(w.terms, key) ?? UNDECIDED),
    bids: bidsOfTerm.get(key) ?? [],
  }));
}
const MOST_BIDS = 20;
const UNDECIDED = {
  ticked: false,
  weight: 1,
  broad: false,
  confirmed: false,
  ofRival: false,
  note: '',
} satisfies Watch['terms'][string];

/**
 * What is known after a file or an answer that says something new: terms and bids are added to, the rest is
 * replaced.
 */
export function mergedObservation<K extends ObservedKind>(
  kind: K,
  before: ObservedValue<K> | null,
  next: ObservedValue<K>,
): ObservedValue<K> {
  if (before === null) return next;
  if (kind === 'terms')
    return mergedTerms(before as ObservedValue<'terms'>, next as ObservedValue<'terms'>) as ObservedValue<K>;
  if (kind === 'bids')
    return mergedBids(before as ObservedValue<'bids'>, next as ObservedValue<'bids'>) as ObservedValue<K>;
  return next;
}

/** Month by month the newer figure stands; what the newer one does not say stays as it was. */
function mergedTerms(before: ObservedValue<'terms'>, next: ObservedValue<'terms'>): ObservedValue<'terms'> {
  const terms = new Map(before.terms.map((t) => [termKey(t), t]));
  for (const t of next.terms) {
    const old = terms.get(termKey(t));
    const months = new Map([...(old?.volumes ?? []), ...t.volumes].map((v) => [v.month, v]));
    terms.set(termKey(t), {
      ...t,
      sales: t.sales ?? old?.sales ?? null,
      freePlace: t.freePlace ?? old?.freePlace ?? null,
      paidPlace: t.paidPlace ?? old?.paidPlace ?? null,
      volumes: [...months.values()].sort((a, b) => (a.month < b.month ? -1 : 1)),
    });
  }
  return { terms: [...terms.values()].slice(-20_000) };
}
function mergedBids(before: ObservedValue<'bids'>, next: ObservedValue<'bids'>): ObservedValue<'bids'> {
  const bids = new Map(
    [...before.bids, ...next.bids].map((b) => [`${termKey(b)}\n${b.source}\n${b.match}`, b]),
  );
  return { bids: [...bids.values()].slice(-60_000) };
}

const NO_GIST: Gist = { count: null, price: null, units: null, state: null };
/** The gist of what is kept; all unknown where it can no longer be read. */
export function gistOf(kind: ObservedKind, value: unknown): Gist {
  const read = OBSERVED[kind].safeParse(value);
  if (!read.success) return NO_GIST;
  const own = read.data;
  if ('terms' in own) return { ...NO_GIST, count: own.terms.length };
  if ('bids' in own) return { ...NO_GIST, count: own.bids.length };
  if ('rows' in own)
    return { ...NO_GIST, count: own.rows.length, price: median(own.rows.flatMap((r) => r.price ?? [])) };
  if ('prices' in own) {
    const days = unpackDays(own);
    return { ...NO_GIST, count: days.length, price: days.findLast((d) => d.price !== null)?.price ?? null };
  }
  if ('list' in own) {
    const known = own.list.flatMap((o) => withDelivery(o) ?? []);
    return { ...NO_GIST, count: own.list.length, price: known.length === 0 ? null : Math.min(...known) };
  }
  if ('units' in own && typeof own.units === 'object' && own.units !== null) {
    const { statedVariation, statedListing, estimatedVariation, estimatedListing } = own.units;
    const units =
      statedVariation ?? statedListing ?? estimatedVariation?.units ?? estimatedListing?.units ?? null;
    return { ...NO_GIST, units };
  }
  if ('state' in own) return { ...NO_GIST, state: own.state };
  return { ...NO_GIST, count: 'complaints' in own ? own.complaints.length : null };
}
