/** A check at the shelf as a lane, and what comes of it: buy, leave, and the most to pay. */
import type { MarketplaceCard } from '../cards/rates.ts';
import type { CardData } from '../cards/schema.ts';
import type { Blank } from '../lane/blanks.ts';
import { evaluate } from '../lane/evaluate.ts';
import { judgeHurdles, mostToClear } from '../lane/hurdles.ts';
import type { HurdleResult } from '../lane/hurdles.ts';
import type { Hurdle } from '../lane/hurdleSchema.ts';
import type { LaneResult } from '../lane/result.ts';
import { NEW_PRODUCT, newRetail } from '../lane/defaults.ts';
import type { LaneDocument, Provenance, RetailPurchase } from '../lane/schema.ts';
import { highestPurchaseCost } from '../lane/solve.ts';
import { afterDiscounts } from '../lane/steps/retail.ts';
import { exchangeFactor } from '../money/money.ts';
import type { ExchangeTable } from '../money/money.ts';
import { isUnknown } from '../rules/numbers.ts';
import { newLane } from '../workspace/newLane.ts';
import { composeLane } from '../workspace/compose.ts';
import type { Settings } from '../workspace/settings.ts';
import type { ShelfCheck, ShelfListing, TillTerms } from './schema.ts';
import type { PriceBasis } from './bases.ts';

export type CheckFrame = {
  readonly settings: Pick<Settings, 'homeCurrency' | 'standings' | 'defaults' | 'hurdles'>;
  /** Card versions by id. */
  readonly cards: Readonly<Record<string, CardData>>;
  /** Day of the check, year-month-day. */
  readonly today: string;
};
/** What decides about a check. */
export type Checked = Omit<ShelfCheck, 'id' | 'session' | 'at' | 'state' | 'reason' | 'changedAt'>;

/**
 * The price that a check reckons with, with delivery, in the market's currency; null: not known on this basis.
 *
 * @example sellsAt({ basis: 'mean90', typedPrice: null, listing }) // listing.prices.mean90
 */
export const sellsAt = (c: Pick<Checked, 'basis' | 'typedPrice' | 'listing'>): number | null =>
  c.basis === 'typed' ? c.typedPrice : (c.listing?.prices[c.basis] ?? null);

/** By the basis that is wanted: the others, the nearest in time first. */
const NEAREST = {
  now: ['now', 'mean30', 'mean90'],
  mean30: ['mean30', 'mean90', 'now'],
  mean90: ['mean90', 'mean30', 'now'],
} as const;

/** The basis asked for where the listing has such a price, else the one nearest to it in time that it has. */
export const basisFor = (listing: ShelfListing | null, wanted: PriceBasis): PriceBasis =>
  listing === null || wanted === 'typed'
    ? wanted
    : (NEAREST[wanted].find((b) => listing.prices[b] !== null) ?? wanted);

/** What the goods are bought on: the shelf, through the till. */
const purchaseOf = (till: TillTerms, shelf: number | null): RetailPurchase => ({
  ...newRetail(till.currency),
  shelfPrice: shelf,
  discounts: [
    ...(till.off > 0 ? [{ kind: 'percent' as const, share: till.off }] : []),
    ...(till.coupon > 0 ? [{ kind: 'coupon' as const, amount: till.coupon, covers: 1 }] : []),
  ],
  vat: till.vatRate > 0 ? 'included' : 'none',
  vatRate: till.vatRate,
  salesTax: till.salesTax,
  cashback: till.cashback > 0 ? { share: till.cashback, taxCounts: false, giftCardsCount: true } : null,
});

/**
 * The check as a lane of the workspace's defaults: bought retail, sold at the listing's price, ordered as many as one
 * would take. What is known of the listing is marked as evidence of its day, what is typed as typed. Null without
 * the market's card.
 */
export function laneOfCheck(c: Checked, { settings, cards, today }: CheckFrame): LaneDocument | null {
  const card = cards[c.cards.marketplace] as MarketplaceCard | undefined;
  if (card === undefined) return null;
  const { listing } = c;
  const lane = newLane({
    way: 'retail',
    settings,
    country: card.country,
    currency: card.currency,
    marketplace: card,
    exchange: (cards[c.cards.exchange ?? ''] as ExchangeTable | undefined) ?? null,
    cards: c.cards,
    origin: null,
    price: sellsAt(c),
    quoteId: 'shelf',
    today,
  });
  const soldPack = listing?.pack ?? 1;
  const mine = listing?.mine ?? null;
  const named = c.typed.category ?? listing?.category;
  const category = card.categories.find((k) => k.key === named)?.key ?? null;
  return composeLane({
    candidate: {
      way: 'retail',
      product: {
        ...NEW_PRODUCT,
        sides: c.typed.sides ?? listing?.sides ?? null,
        kg: c.typed.kg ?? listing?.kg ?? null,
        category,
      },
    },
    lane: {
      ...lane,
      components: [
        {
          quoteId: 'shelf',
          name: '',
          unitsInSoldPack: soldPack,
          unitsInBoughtPack: c.boughtPack,
          candidateId: null,
        },
      ],
      // Bought units make so many sold ones.
      orderQuantity: (c.take * c.boughtPack) / soldPack,
      demand: mine === null ? lane.demand : { kind: 'typed', units: mine },
      provenance: provenanceOf(c, lane.provenance),
    },
    quotes: { shelf: purchaseOf(c.till, c.shelf) },
    cards,
    homeCurrency: settings.homeCurrency,
    standings: settings.standings,
    today,
  });
}

function provenanceOf(c: Checked, defaults: Provenance): Provenance {
  const { orderQuantity: _typed, ...own } = defaults;
  const { listing } = c;
  if (listing === null) return own;
  const seen = { source: 'evidence', date: listing.asOf, note: listing.code } as const;
  return {
    ...own,
    ...(c.basis === 'typed' ? {} : { price: seen }),
    ...(listing.mine === null ? {} : { demand: seen }),
  };
}

/**
 * `barred`: one may not sell it there; `buy`: every hurdle is cleared; `near`: those that fail do so by little;
 * `leave`: one fails; `loses`: a unit loses; `open`: what is known does not decide.
 */
export const VERDICTS = ['barred', 'buy', 'near', 'leave', 'loses', 'open'] as const;
export type ShelfVerdict = (typeof VERDICTS)[number];

export type CheckSaid = {
  readonly verdict: ShelfVerdict;
  readonly result: LaneResult;
  readonly hurdles: readonly HurdleResult[];
  /** The hurdle that decides against it, the worst missed first. */
  readonly missed: HurdleResult | null;
  /** A bought unit at the shelf, and at the till after its discounts; shop's currency. */
  readonly most: MostToPay;
  /** After the discounts at the price on the shelf. */
  readonly pays: number | null;
  /** A month's profit on one's own units, sales currency; null: units or profit not known. */
  readonly perMonth: number | null;
};
export type MostToPay = {
  /** The most at which every hurdle on price and cost is still cleared; null: none is, or it is not known. */
  readonly shelf: number | null;
  readonly till: number | null;
  /** The most at which a unit does not lose. */
  readonly evenShelf: number | null;
  readonly evenTill: number | null;
  /** Costs that were left out: the real ones are lower. */
  readonly lacks: readonly string[];
};

/**
 * What comes of a check, held against the hurdles of buying retail. `permission`: whether the listing may be sold on;
 * where that is closed, no figure opens it.
 */
export function checkSaid(
  doc: LaneDocument,
  hurdles: readonly Hurdle[],
  permission: ShelfListing['permission'] = null,
): CheckSaid {
  const result = evaluate(doc);
  const held = judgeHurdles(doc, hurdles);
  const profit = result.figures.unitProfit;
  const source = Array.isArray(doc.goods) ? doc.goods[0]?.source : undefined;
  const retail = source?.kind === 'retail' ? source : null;
  const missed = worstOf(held);
  return {
    verdict: permission === 'closed' ? 'barred' : verdictOf(profit, result, held, missed),
    result,
    hurdles: held,
    missed,
    most: mostOf(doc, hurdles, (p) => (p === null || retail === null ? null : afterDiscounts(retail, p))),
    pays: retail?.shelfPrice == null ? null : afterDiscounts(retail, retail.shelfPrice),
    perMonth: doc.provenance.demand?.source === 'default' ? null : result.figures.profitPerMonth,
  };
}

/** Of hurdles that are missed, the one missed by most of its level; those that fail before those that are near. */
function worstOf(held: readonly HurdleResult[]): HurdleResult | null {
  const by = (h: HurdleResult): number => (h.short ?? 0) / Math.max(1e-9, Math.abs(h.level ?? 1));
  const of = (v: 'fail' | 'near') => held.filter((h) => h.verdict === v).sort((a, b) => by(b) - by(a))[0];
  return of('fail') ?? of('near') ?? null;
}

function verdictOf(
  profit: number | null,
  result: LaneResult,
  held: readonly HurdleResult[],
  missed: HurdleResult | null,
): ShelfVerdict {
  // What is missing only takes from it, but for returns: a loss without them is none for certain.
  if (profit !== null && profit < 0 && result.bounds.unitProfit !== 'notKnown') return 'loses';
  if (missed?.verdict === 'fail') return 'leave';
  if (profit === null || result.bounds.unitProfit !== undefined) return 'open';
  if (held.some((h) => h.verdict === 'unknown')) return 'open';
  return missed === null ? 'buy' : 'near';
}

function mostOf(
  doc: LaneDocument,
  hurdles: readonly Hurdle[],
  atTill: (shelf: number | null) => number | null,
): MostToPay {
  const even = highestPurchaseCost(doc);
  const shelf = mostToClear(doc, hurdles);
  return {
    shelf,
    till: atTill(shelf),
    evenShelf: even.unitPrice,
    evenTill: atTill(even.unitPrice),
    lacks: even.incomplete,
  };
}
/** What is kept of a check beside what was typed: amounts in the market's currency, `perMonthHome` in the home's. */
export type CheckGist = {
  readonly verdict: ShelfVerdict;
  readonly currency: string;
  readonly price: number | null;
  readonly unitProfit: number | null;
  readonly roi: number | null;
  /** The most to pay at the shelf, shop's currency. */
  readonly mostShelf: number | null;
  readonly perMonthHome: number | null;
  /** Costs that the profit leaves out: it is a bound. */
  readonly lacks: readonly Blank[];
  /** Figure of the hurdle that decides against it. */
  readonly missed: Hurdle['figure'] | null;
};

export function gistOf(doc: LaneDocument, said: CheckSaid): CheckGist {
  const toHome = exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);
  const { figures, incomplete } = said.result;
  return {
    verdict: said.verdict,
    currency: doc.currency,
    price: doc.price,
    unitProfit: figures.unitProfit,
    roi: figures.roi,
    mostShelf: said.most.shelf,
    perMonthHome: said.perMonth === null || isUnknown(toHome) ? null : said.perMonth * toHome,
    lacks: incomplete.unitProfit ?? [],
    missed: said.missed?.hurdle.figure ?? null,
  };
}
