/** Any item through a marketplace's card alone: what its fees come to, in the card's currency. */
import type { MarketplaceCard, TaxCard } from '../cards/rates.ts';
import type { LaneResult } from '../lane/result.ts';
import { laneDocument } from '../lane/schema.ts';
import type { LaneDocument, Standing } from '../lane/schema.ts';
import { exchangeFactor, minorDigits, powerOfTen } from '../money/money.ts';
import type { ExchangeTable } from '../money/money.ts';
import { roundMinor } from '../rules/numbers.ts';

/** An item tried on a card: sides in cm, weight in kg, a price as buyers pay it, in the currency of the card. */
export type Item = {
  readonly sides: [number, number, number] | null;
  readonly kg: number | null;
  readonly category: string;
  readonly price: number | null;
};
export type TriedCard = { readonly card: MarketplaceCard; readonly tax: TaxCard | null };
/** Who tries it: a standing that is not told counts as registered. */
export type Trier = {
  readonly homeCurrency: string;
  readonly standings: Readonly<Record<string, Standing>>;
  readonly today: string;
};

/** Lines of fees that a card alone decides, in the order they are shown. */
export const FEES_TRIED = [
  'referral',
  'itemFee',
  'payment',
  'surcharges',
  'feeVat',
  'fulfilment',
  'storage',
] as const;
export type FeeTried = (typeof FEES_TRIED)[number];

/** A lane on which nothing but the card's fees falls: one unit, held a month, no subscription. */
export function triedOn({ card, tax }: TriedCard, item: Item, by: Trier): LaneDocument {
  return laneDocument.parse({
    format: 'bold-margin/lane',
    version: 1,
    date: by.today,
    homeCurrency: by.homeCurrency,
    country: card.country,
    currency: card.currency,
    marketplace: card.marketplace,
    price: item.price,
    standing: by.standings[card.country] ?? { kind: 'registered' },
    product: { sides: item.sides, kg: item.kg, category: item.category },
    goods: 'none',
    route: 'none',
    prep: 'none',
    returns: 'none',
    adverts: 'none',
    orderQuantity: 1,
    monthsHeld: 1,
    method: card.warehouse === null ? 'ownDispatch' : 'warehouse',
    dispatch: 'none',
    storage: card.storage === null ? 'none' : 'card',
    typed: { subscriptionMonthly: 0 },
    rates: { tax, marketplace: card },
  });
}

/** Whether a card says anything of a fee: without a warehouse it knows no fulfilment, without storage no storage. */
export const coversFee = (card: MarketplaceCard, fee: FeeTried): boolean =>
  fee === 'fulfilment' ? card.warehouse !== null : fee === 'storage' ? card.storage !== null : true;

/** Everything the card takes; null as long as a fee of it is not known. */
export const allFees = (r: LaneResult): number | null =>
  FEES_TRIED.reduce<number | null>((sum, fee) => {
    const x = r.lines[fee];
    return sum === null || x === null ? null : sum + x;
  }, 0);

/** All fees as a share of what the buyer pays; null where either is not known or nothing is paid. */
export function feeShare(r: LaneResult): number | null {
  const [fees, { gross }] = [allFees(r), r.figures];
  return fees === null || gross === null || gross <= 0 ? null : fees / gross;
}

/**
 * The same item on another card: its price restated to the smallest unit of that card's currency (null without a
 * rate), in its own category where the card has it, otherwise in the card's first.
 */
export function itemOn(
  item: Item,
  from: MarketplaceCard,
  to: MarketplaceCard,
  exchange: ExchangeTable | null,
): Item {
  const factor = exchangeFactor(exchange, from.currency, to.currency);
  return {
    ...item,
    category: to.categories.some((c) => c.key === item.category)
      ? item.category
      : (to.categories[0]?.key ?? ''),
    price:
      item.price === null || Number.isNaN(factor)
        ? null
        : roundMinor(item.price * factor, powerOfTen(minorDigits(to.currency))),
  };
}
