/**
 * The parts of a schedule as the sheets of a card: a draft that is edited, held against its proofs and put in
 * force as any other. What the schedule does not say stays as the card before has it; a card made from nothing
 * says so in its note.
 */
import type { Cell } from '../cards/cells.ts';
import { percentText } from '../cards/cells.ts';
import type { MarketplaceCard } from '../cards/rates.ts';
import type { PostageCard } from '../cards/schema.ts';
import { draftOf } from '../cards/tables.ts';
import type { Tables } from '../cards/reader.ts';
import type { CategoryPart, FreightParts, Parts, StepPart, TierPart } from './understood.ts';

/** What a card is about. */
export type About = {
  readonly name: string;
  readonly marketplace: string;
  readonly country: string;
  readonly currency: string;
  readonly inForceFrom: string;
};

/** A number as a cell, without the noise of converted units: ten digits are more than any fee table has. */
const text = (x: number | null): string => (x === null ? '' : String(Number(x.toPrecision(10))));

/** A card of a marketplace that says nothing yet: every percentage and fee it needs is left open. */
export const emptyCard = (about: About): Tables => ({
  card: [
    ['name', about.name],
    ['inForceFrom', about.inForceFrom],
    ['marketplace', about.marketplace],
    ['country', about.country],
    ['currency', about.currency],
    ['feeVat', 'none'],
    ['advertVat', 'none'],
    ['backReferral', '100%'],
  ],
  categories: [],
  referralTiers: [],
  surcharges: [],
  sizeTiers: [],
  weightSteps: [],
  months: [],
  longStay: [],
});

const keyOf = (name: string): string =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/\p{M}/gu, '')
    .replace(/[^\p{L}\d]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60) || 'all';

/** Categories with their referral fee; two of one key are told apart by number. */
function categoriesOf(parts: readonly CategoryPart[]): Tables {
  const seen = new Map<string, number>();
  const keyed = parts.map((c) => {
    const key = keyOf(c.name);
    const n = (seen.get(key) ?? 0) + 1;
    seen.set(key, n);
    return { ...c, key: n === 1 ? key : `${key}-${n}` };
  });
  return {
    categories: keyed.map((c): Cell[] => [
      c.key,
      c.name || 'Everything',
      'gross',
      c.percent.mode,
      text(c.percent.min),
      text(c.percent.max),
      text(c.itemFee),
    ]),
    referralTiers: keyed.flatMap((c) =>
      c.percent.tiers.map((t): Cell[] => [c.key, text(t.upTo), percentText(t.pct)]),
    ),
  };
}

/** The last weight of a tier's steps that is not followed by a fee for each further step. */
function endsAt(name: string, steps: readonly StepPart[]): number | null {
  const own = steps.filter((s) => s.tier === name);
  if (own.length === 0 || own.some((s) => s.each !== null || s.upToKg === null)) return null;
  return Math.max(...own.map((s) => s.upToKg as number));
}

/** Size tiers and their fees. A tier without a limit of weight ends where its fees end. */
function tiersOf({ tiers, steps }: Parts): Tables {
  const names = [...new Set([...steps.map((s) => s.tier), ...tiers.map((t) => t.name)])];
  const of = (name: string): TierPart | undefined => tiers.find((t) => t.name === name);
  const called = (name: string): string => name || 'any size';
  return {
    sizeTiers: names.map((name): Cell[] => {
      const t = of(name);
      const [l, w, h] = t?.sides ?? [];
      const maxKg = t?.maxKg ?? endsAt(name, steps);
      return [
        called(name),
        text(l ?? null),
        text(w ?? null),
        text(h ?? null),
        text(maxKg),
        text(t?.girth ?? null),
        text(t?.divisor ?? null),
        text(t?.packagingKg ?? null),
      ];
    }),
    weightSteps: steps.map((s): Cell[] => [
      called(s.tier),
      text(s.priceUpTo),
      text(s.upToKg ?? (s.each === null ? (of(s.tier)?.maxKg ?? null) : null)),
      text(s.each),
      text(s.fee),
    ]),
  };
}

function storageOf({ storage }: Parts, base: Tables): Tables {
  const peak = new Map((base.months ?? []).map((r) => [String(r[0]), r[2] ?? '']));
  return {
    months: Array.from({ length: 12 }, (_, i): Cell[] => {
      const m = i + 1;
      const rate = storage.find((s) => s.months.includes(m))?.perM3 ?? null;
      return [String(m), text(rate), peak.get(String(m)) ?? ''];
    }),
  };
}

/** The single fields that charges set: a payment fee, a fee an item, a subscription. */
function chargesOf({ charges }: Parts, before: Tables): Tables {
  const fields = new Map<string, string>();
  for (const { of, pct, amount } of charges)
    if (of === 'payment') {
      fields.set('paymentBase', 'gross');
      fields.set('paymentPct', pct === null ? '' : percentText(pct));
      fields.set('paymentFixed', text(amount));
    } else fields.set(of === 'itemFee' ? 'itemFee' : 'subscriptionMonthly', text(amount));
  const own = before.card ?? [];
  const there = new Set(own.map((r) => String(r[0])));
  return {
    card: [
      ...own.map((r): Cell[] => [r[0] ?? '', fields.get(String(r[0])) ?? r[1] ?? '']),
      ...[...fields].filter(([k]) => !there.has(k)).map(([k, v]): Cell[] => [k, v]),
    ],
  };
}

/**
 * The draft that a schedule makes of a card, or of nothing. Only sheets of which the schedule says something
 * change.
 */
export function marketplaceDraft(parts: Parts, about: About, base: MarketplaceCard | null = null): Tables {
  const before =
    base === null
      ? emptyCard(about)
      : draftOf('marketplace', { ...base, inForceFrom: about.inForceFrom || base.inForceFrom });
  const fees =
    parts.steps.length > 0
      ? tiersOf(parts)
      : parts.tiers.length > 0
        ? { sizeTiers: tiersOf(parts).sizeTiers ?? [] }
        : {};
  return {
    ...before,
    ...(parts.charges.length > 0 ? chargesOf(parts, before) : {}),
    ...(parts.categories.length > 0 ? categoriesOf(parts.categories) : {}),
    ...fees,
    ...(parts.storage.length > 0 ? storageOf(parts, before) : {}),
    ...(parts.longStay.length > 0
      ? { longStay: parts.longStay.map((b): Cell[] => [text(b.fromMonths), text(b.toMonths), text(b.rate)]) }
      : {}),
  };
}

/** The same with one referral fee for everything, where the cells have none and one is said (a fraction). */
export const withOneReferral = (cells: Tables, pct: number | null): Tables =>
  pct === null || (cells.categories?.length ?? 0) > 0
    ? cells
    : {
        ...cells,
        categories: [['all', 'Everything', 'gross', 'whole', '', '', '']],
        referralTiers: [['all', '', percentText(pct)]],
      };

/**
 * The draft of a postage card: a zone for each that the table names. Shares of the orders are left open where
 * there are several zones, since no table says where buyers live; those of the card before stay.
 */
export function postageDraft(
  parts: Parts,
  about: Omit<About, 'marketplace'>,
  base: PostageCard | null = null,
): Tables {
  const zones = [...new Set(parts.steps.map((s) => s.tier))];
  const called = (zone: string): string => zone || 'all';
  const shareOf = (zone: string): string => {
    const before = base?.zones.find((z) => z.name === zone)?.share;
    return zones.length === 1 ? '100%' : before === undefined ? '' : percentText(before);
  };
  return {
    card: [
      ['name', about.name],
      ['inForceFrom', about.inForceFrom],
      ['country', about.country],
      ['vat', 'none'],
    ],
    zones: zones.map((z): Cell[] => [called(z), shareOf(called(z)), about.currency]),
    weightSteps: parts.steps.map((s): Cell[] => [called(s.tier), text(s.upToKg), text(s.each), text(s.fee)]),
  };
}

/** Between which countries a way runs, and how. */
export type Way = { readonly from: string; readonly to: string; readonly mode: string };

/** The draft of a freight card: a leg for each charge. */
export function freightDraft(
  freight: FreightParts,
  about: Omit<About, 'marketplace' | 'country'>,
  way: Way,
): Tables {
  const { legs } = freight;
  return {
    card: [
      ['name', about.name],
      ['inForceFrom', about.inForceFrom],
      ['from', way.from],
      ['to', way.to],
      ['mode', way.mode],
      ['insuranceRate', freight.insuranceRate === null ? '' : percentText(freight.insuranceRate)],
      ['transitDays', text(freight.transitDays)],
    ],
    legs: legs.map((l, i): Cell[] => [
      String(i + 1),
      l.name.slice(0, 200),
      l.stage,
      l.basis,
      text(l.rate),
      l.currency,
      'none',
      '',
      '',
      text(l.minCharge),
      l.fuel === null ? '' : percentText(l.fuel),
      '',
      '',
      '',
      '',
      '',
    ]),
    weightBands: legs.flatMap((l, i) =>
      l.bands.map((b): Cell[] => [String(i + 1), text(b.upToKg), text(b.rate)]),
    ),
  };
}
