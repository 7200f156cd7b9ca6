/**
 * What would have to be otherwise for failing proofs to be met: the row of the card that decided, and the
 * value it would have to have; with what else that changes. Nothing is mended by itself.
 */
import type { MarketplaceCard, Referral, SizeTier, TaxCard } from '../cards/rates.ts';
import type { Trier } from '../compare/tryItem.ts';
import { feeBase } from '../lane/steps/referral.ts';
import { within } from '../rules/numbers.ts';
import { countedKg, parcelOf, priceBandOf, sizeTierOf, volumetricKg } from '../rules/parcel.ts';
import type { Parcel } from '../rules/parcel.ts';
import { holdAll, isSame, Tried } from './check.ts';
import type { Proof } from './schema.ts';

type Path =
  | { readonly of: 'step'; readonly tier: string; readonly band: number; readonly upToKg: number }
  | { readonly of: 'divisor'; readonly tier: string }
  | { readonly of: 'percent'; readonly category: string; readonly tier: number }
  /** Whether a percentage holds for the whole price or for the part up to its limit. */
  | { readonly of: 'mode'; readonly category: string; readonly mode: Referral['mode'] }
  | { readonly of: 'itemFee'; readonly category: string }
  | { readonly of: 'addition'; readonly tier: string };
/** A value of the card that would meet proofs: from what it is to what it would be. */
export type Mend = {
  readonly at: Path;
  readonly from: number | null;
  /** 0 where it is no number that would be otherwise. */
  readonly to: number;
  /** Places of the proofs that ask for it. */
  readonly asks: readonly number[];
  /** How many proofs would be met after it, of those that fail now, and how many that are met now would fail. */
  readonly mends: number;
  readonly breaks: number;
};

const parcelOfProof = (p: Proof): Parcel | null =>
  p.sides === null || p.kg === null ? null : parcelOf(...p.sides, p.kg, { L: 0, W: 0, H: 0, kg: 0 });

type Wanted = { readonly at: Path; readonly from: number | null; readonly to: number; readonly ask: number };

/**
 * The row a parcel's fee comes from: its tier, its price band, its step; `step` null past the last, where each
 * further counts.
 */
export type RowOfFee = {
  readonly tier: SizeTier;
  readonly band: number;
  readonly kg: number;
  /** Whether volume counted for more than the scale. */
  readonly byVolume: boolean;
  readonly step: { readonly upToKg: number; readonly fee: number } | null;
};
export function rowOfFee(card: MarketplaceCard, p: Proof): RowOfFee | null {
  const parcel = parcelOfProof(p);
  if (parcel === null || card.warehouse === null) return null;
  const tier = card.warehouse.tiers[sizeTierOf(card.warehouse.tiers, parcel)];
  if (tier === undefined) return null;
  const band = tier.bands.length === 1 ? 0 : p.price === null ? -1 : priceBandOf(tier.bands, p.price);
  const table = tier.bands[band]?.table;
  if (table === undefined) return null;
  const counted = countedKg(tier, parcel);
  const kg = counted + tier.packagingKg;
  const step = table.steps.find((s) => within(kg, s.upToKg)) ?? null;
  return step === null && table.stepKg === null
    ? null
    : { tier, band, kg, byVolume: counted > parcel.kg, step };
}

/** The weights that a table charges a fee for: over `from`, up to `upTo`; null where it never does. */
function weightsOf(
  table: SizeTier['bands'][number]['table'],
  fee: number,
  currency: string,
): { from: number; upTo: number } | null {
  const k = table.steps.findIndex((s) => isSame(s.fee, fee, currency));
  if (k >= 0) return { from: table.steps[k - 1]?.upToKg ?? 0, upTo: table.steps[k]?.upToKg ?? 0 };
  const last = table.steps[table.steps.length - 1];
  if (last === undefined || table.stepKg === null || table.stepFee <= 0) return null;
  const n = Math.round((fee - last.fee) / table.stepFee);
  if (n < 1 || !isSame(last.fee + n * table.stepFee, fee, currency)) return null;
  return { from: last.upToKg + (n - 1) * table.stepKg, upTo: last.upToKg + n * table.stepKg };
}

/** What each failing proof alone asks for. */
function wantedBy(card: MarketplaceCard, tried: Tried, p: Proof, ask: number): Wanted[] {
  const wanted: Wanted[] = [];
  for (const { fee, charged, says, meets } of tried.hold(p).fees) {
    if (meets || says === null) continue;
    const over = charged - says;
    const category = p.category === '' ? (card.categories[0]?.key ?? '') : p.category;
    if (fee === 'fulfilment') {
      const row = rowOfFee(card, p);
      if (row !== null && row.step !== null)
        wanted.push({
          at: { of: 'step', tier: row.tier.name, band: row.band, upToKg: row.step.upToKg },
          from: row.step.fee,
          to: cents(row.step.fee + over),
          ask,
        });
    } else if (fee === 'itemFee')
      wanted.push({ at: { of: 'itemFee', category }, from: says, to: charged, ask });
    else if (fee === 'referral') {
      const want = percentWanted(card, tried, p, category, charged);
      if (want !== null) wanted.push({ ...want, ask });
      const mode = otherMode(card, category);
      if (mode !== null) wanted.push({ at: { of: 'mode', category, mode }, from: null, to: 0, ask });
    }
  }
  return wanted;
}
const cents = (x: number): number => Math.round(x * 1e6) / 1e6;

/** The manner in which a referral fee is not taken; null where it has one percentage. */
function otherMode(card: MarketplaceCard, category: string): Referral['mode'] | null {
  const referral = card.categories.find((c) => c.key === category)?.referral;
  if (referral === undefined || referral.tiers.length < 2) return null;
  return referral.mode === 'whole' ? 'sliced' : 'whole';
}

/** The percentage of the tier that decided, to the tenth of a per cent where that meets the proof. */
function percentWanted(
  card: MarketplaceCard,
  tried: Tried,
  p: Proof,
  category: string,
  charged: number,
): Omit<Wanted, 'ask'> | null {
  const found = card.categories.find((c) => c.key === category);
  if (found === undefined || p.price === null || p.price <= 0) return null;
  const { tiers, mode } = found.referral;
  const base = feeBase(tried.reckoned(p), found.referral.base);
  const tier = tiers.findIndex((t) => t.upTo === null || within(base, t.upTo));
  // Slice by slice the tiers before take their part, and this one what is left of the price.
  const begins = (i: number): number => (mode === 'sliced' && i > 0 ? (tiers[i - 1]?.upTo ?? 0) : 0);
  const before =
    mode === 'sliced'
      ? tiers.slice(0, Math.max(0, tier)).reduce((sum, t, i) => sum + t.pct * ((t.upTo ?? 0) - begins(i)), 0)
      : 0;
  const part = base - begins(tier);
  if (tier < 0 || part <= 0 || charged < before) return null;
  const exact = (charged - before) / part;
  const round = [1000, 10_000, 100_000].map((n) => Math.round(exact * n) / n);
  const to = round.find((x) => isSame(x * part + before, charged, card.currency)) ?? exact;
  return to > 1 ? null : { at: { of: 'percent', category, tier }, from: tiers[tier]?.pct ?? null, to };
}

/** The card with one value changed. */
export function mended(card: MarketplaceCard, { at, to }: Pick<Mend, 'at' | 'to'>): MarketplaceCard {
  const tiers = (change: (t: SizeTier) => SizeTier): MarketplaceCard =>
    card.warehouse === null
      ? card
      : { ...card, warehouse: { ...card.warehouse, tiers: card.warehouse.tiers.map(change) } };
  const categories = (
    change: (c: MarketplaceCard['categories'][number]) => MarketplaceCard['categories'][number],
  ): MarketplaceCard => ({ ...card, categories: card.categories.map(change) });
  switch (at.of) {
    case 'step':
      return tiers((t) =>
        t.name === at.tier
          ? {
              ...t,
              bands: t.bands.map((b, i) =>
                i === at.band
                  ? {
                      ...b,
                      table: {
                        ...b.table,
                        steps: b.table.steps.map((s) => (s.upToKg === at.upToKg ? { ...s, fee: to } : s)),
                      },
                    }
                  : b,
              ),
            }
          : t,
      );
    case 'divisor':
      return tiers((t) => (t.name === at.tier ? { ...t, divisor: to } : t));
    case 'addition':
      return tiers((t) =>
        t.name === at.tier
          ? {
              ...t,
              bands: t.bands.map((b) => ({
                ...b,
                table: { ...b.table, steps: b.table.steps.map((s) => ({ ...s, fee: cents(s.fee + to) })) },
              })),
            }
          : t,
      );
    case 'percent':
      return categories((c) =>
        c.key === at.category
          ? {
              ...c,
              referral: {
                ...c.referral,
                tiers: c.referral.tiers.map((t, i) => (i === at.tier ? { ...t, pct: to } : t)),
              },
            }
          : c,
      );
    case 'mode':
      return categories((c) =>
        c.key === at.category ? { ...c, referral: { ...c.referral, mode: at.mode } } : c,
      );
    case 'itemFee':
      return categories((c) => (c.key === at.category ? { ...c, itemFee: to } : c));
  }
}

type Divisors = { readonly low: number; readonly high: number };

/** The divisors under which a proof's parcel would be charged what it was; null where volume cannot decide it. */
function divisorsFor(card: MarketplaceCard, p: Proof): (Divisors & { readonly tier: SizeTier }) | null {
  const parcel = parcelOfProof(p);
  const row = rowOfFee(card, p);
  const charged = p.charged.fulfilment;
  if (parcel === null || row === null || charged === null || row.tier.divisor === null) return null;
  const table = row.tier.bands[row.band]?.table;
  const weights = table === undefined ? null : weightsOf(table, charged, card.currency);
  if (weights === null) return null;
  const volume = volumetricKg(parcel, 1);
  const [most, least] = [weights.upTo - row.tier.packagingKg, weights.from - row.tier.packagingKg];
  if (most <= 0 || parcel.kg > most) return null;
  // Where the scale alone reaches the step, volume must only not pass it.
  const high = parcel.kg > least || least <= 0 ? Number.POSITIVE_INFINITY : volume / least;
  return { low: volume / most, high, tier: row.tier };
}

/**
 * The roundest divisor of a tier under which all its proofs would be met; where none meets all, one for each
 * that fails.
 */
function divisorWanted(
  card: MarketplaceCard,
  proofs: readonly Proof[],
  failing: readonly number[],
): Wanted[] {
  const by = new Map<string, { all: Divisors; asks: { ask: number; own: Divisors }[]; tier: SizeTier }>();
  proofs.forEach((p, ask) => {
    const own = divisorsFor(card, p);
    if (own === null) return;
    const tier = by.get(own.tier.name) ?? {
      all: { low: 0, high: Number.POSITIVE_INFINITY },
      asks: [],
      tier: own.tier,
    };
    tier.all = { low: Math.max(tier.all.low, own.low), high: Math.min(tier.all.high, own.high) };
    if (failing.includes(ask)) tier.asks.push({ ask, own });
    by.set(own.tier.name, tier);
  });
  return [...by].flatMap(([name, { all, asks, tier }]) =>
    asks.flatMap(({ ask, own }) => {
      const range = all.low < all.high ? all : own;
      return range.low < range.high
        ? [
            {
              at: { of: 'divisor' as const, tier: name },
              from: tier.divisor,
              to: roundest(range.low, range.high),
              ask,
            },
          ]
        : [];
    }),
  );
}
/** The number with the fewest digits from `low` on and below `high`. */
function roundest(low: number, high: number): number {
  for (let step = 10 ** Math.ceil(Math.log10(Math.max(1, low))); step > 1e-6; step /= 10) {
    const x = Math.ceil(low / step - 1e-12) * step;
    if (x < high) return Number(x.toPrecision(12));
  }
  return low;
}

/** So much more on every fee of a tier, where several of its proofs are apart by the same. */
function additionWanted(wanted: readonly Wanted[]): Wanted[] {
  const by = new Map<string, Wanted[]>();
  for (const w of wanted)
    if (w.at.of === 'step' && w.from !== null) {
      const key = `${w.at.tier}|${cents(w.to - w.from)}`;
      by.set(key, [...(by.get(key) ?? []), w]);
    }
  return [...by.values()].flatMap((same) => {
    const rows = new Set(same.map((w) => (w.at.of === 'step' ? `${w.at.band}|${w.at.upToKg}` : '')));
    if (rows.size < 2) return [];
    return same.map((w) => ({
      ...w,
      at: { of: 'addition' as const, tier: w.at.of === 'step' ? w.at.tier : '' },
      from: 0,
      to: cents(w.to - (w.from ?? 0)),
    }));
  });
}

/** What would meet failing proofs, what meets most without breaking others first. At most `most` are worked out. */
export function mendsFor(
  card: MarketplaceCard,
  tax: TaxCard | null,
  by: Trier,
  proofs: readonly Proof[],
  most = 20,
): Mend[] {
  const tried = new Tried(card, tax, by);
  const now = holdAll(card, tax, by, proofs);
  const failing = now.held.flatMap((h, i) => (h.state === 'fails' ? [i] : []));
  const alone = failing.flatMap((i) => wantedBy(card, tried, proofs[i] as Proof, i));
  const all = [...divisorWanted(card, proofs, failing), ...additionWanted(alone), ...alone];
  const groups = new Map<string, Wanted[]>();
  for (const w of all) {
    const key = JSON.stringify([w.at, w.to]);
    groups.set(key, [...(groups.get(key) ?? []), w]);
  }
  return [...groups.values()]
    .sort((a, b) => b.length - a.length)
    .slice(0, most)
    .map((same): Mend => {
      const [{ at, from, to }] = same as [Wanted];
      const then = holdAll(mended(card, { at, to }), tax, by, proofs).held;
      return {
        at,
        from,
        to,
        asks: same.map((w) => w.ask),
        mends: failing.filter((i) => then[i]?.state === 'met').length,
        breaks: now.held.filter((h, i) => h.state === 'met' && then[i]?.state === 'fails').length,
      };
    })
    .sort((a, b) => b.mends - b.breaks - (a.mends - a.breaks) || a.breaks - b.breaks);
}
