import { isKnown } from '../rules/numbers.ts';
import type { MarketplaceCard } from '../cards/rates.ts';
import type { Provenance, Way } from '../lane/schema.ts';
import { exchangeFactor } from '../money/money.ts';
import type { ExchangeTable } from '../money/money.ts';
import { crossesCustoms } from '../tax/countries.ts';
import { cardFields, storedLane } from './records.ts';
import type { LaneCards, StoredLane } from './records.ts';
import type { Settings } from './settings.ts';

export type NewLane = {
  readonly way: Way;
  readonly settings: Settings;
  readonly country: string;
  readonly currency: string;
  readonly marketplace: MarketplaceCard | null;
  readonly exchange: ExchangeTable | null;
  /**
   * Versions it is computed with: route, postage and the bank's rate are the workspace's defaults where none is
   * named.
   */
  readonly cards: LaneCards;
  readonly origin: string | null;
  readonly price: number | null;
  readonly quoteId: string | null;
  /** How it is fulfilled; blank: by the marketplace's warehouse where it has one. */
  readonly method?: StoredLane['method'];
  /** Day of today, kept beside every default taken. */
  readonly today: string;
};

/**
 * A lane as the workspace's defaults make it. Every default taken is marked so in the provenance; a default
 * that is blank leaves its line blank. Money defaults are in the home currency; cost per click is restated in
 * the sales currency.
 */
export function newLane(n: NewLane): StoredLane {
  const d = n.settings.defaults;
  const home = n.settings.homeCurrency;
  const card = n.marketplace;
  const provenance: Provenance = {};
  const byDefault = <T>(path: string, value: T): T => {
    provenance[path] = { source: 'default', date: n.today, note: '' };
    return value;
  };
  const ships = n.way === 'supplierShips';
  const check = n.way === 'feeCheck';
  const method = ships
    ? 'supplierShips'
    : (n.method ?? (card !== null && card.warehouse === null ? 'ownDispatch' : 'warehouse'));
  const cards: LaneCards = {
    ...n.cards,
    freight: ships || check ? null : n.cards.freight,
    postage: method === 'ownDispatch' ? n.cards.postage : null,
  };
  const toSales =
    n.exchange === null
      ? home === n.currency
        ? 1
        : Number.NaN
      : exchangeFactor(n.exchange, home, n.currency);
  const cents = (x: number): number => Math.round(x * 10_000) / 10_000;

  const legs = [];
  if (n.way === 'ownBrand' && d.mainFreightPerCbm !== null)
    legs.push({
      name: 'Sea or land, main leg',
      stage: 'main' as const,
      basis: 'perCbm' as const,
      rate: d.mainFreightPerCbm,
      currency: home,
    });
  if (!ships && !check && method === 'warehouse' && d.inboundPerUnit !== null)
    legs.push({
      name: 'To the warehouse',
      stage: 'inbound' as const,
      basis: 'perUnit' as const,
      rate: d.inboundPerUnit,
      currency: home,
    });
  const importedBrand = n.way === 'ownBrand' || n.way === 'wholesale';

  const ads = importedBrand && n.way === 'ownBrand';
  const clicks = d.clickLow !== null && d.clickHigh !== null && d.conversionRate !== null && isKnown(toSales);

  return storedLane.parse({
    country: n.country,
    currency: n.currency,
    marketplace: card?.marketplace ?? '',
    imported:
      n.origin === null ? byDefault('imported', n.way === 'ownBrand') : crossesCustoms(n.origin, n.country),
    price: n.price,
    components: n.quoteId === null ? [] : [{ quoteId: n.quoteId }],
    orderQuantity: ships
      ? null
      : check
        ? 1
        : byDefault(
            'orderQuantity',
            n.way === 'retail' ? Math.min(d.orderQuantity ?? 10, 10) : d.orderQuantity,
          ),
    route:
      ships || check
        ? 'none'
        : cards.freight != null
          ? null
          : legs.length === 0
            ? method === 'ownDispatch'
              ? byDefault('route', 'none')
              : null
            : byDefault('route', {
                name: '',
                legs,
                packingAllowance: 0.12,
                insuranceRate: n.way === 'ownBrand' ? d.insuranceRate : 0,
                transitDays: n.way === 'ownBrand' ? d.transitDays : 2,
                inboundDays: 5,
              }),
    prep:
      ships || check
        ? 'none'
        : d.prep === null
          ? null
          : byDefault('prep', { standard: d.prep, oversize: d.prep * 3, currency: home }),
    method,
    dispatch:
      method === 'ownDispatch' && cards.postage == null && d.postagePerParcel !== null
        ? byDefault('dispatch', {
            zones: [
              {
                name: '',
                share: 1,
                postage: { currency: home, steps: [{ upToKg: 30, fee: d.postagePerParcel }] },
              },
            ],
            packagingKg: 0.15,
          })
        : null,
    supplierDelivery: ships
      ? byDefault('supplierDelivery', { amount: d.postagePerParcel ?? 0, currency: home })
      : null,
    storage:
      method === 'warehouse' && card?.storage
        ? 'card'
        : ships || check || method === 'ownDispatch'
          ? 'none'
          : null,
    returns: check
      ? 'none'
      : d.returnRate === null
        ? null
        : byDefault('returns', {
            rate: d.returnRate,
            resaleShare: ships ? 0 : d.resaleShare,
            handling: { amount: d.returnHandling, currency: home },
          }),
    adverts: !ads
      ? byDefault('adverts', 'none')
      : clicks
        ? byDefault('adverts', {
            keywords: [
              {
                text: '',
                low: cents((d.clickLow ?? 0) * toSales),
                high: cents((d.clickHigh ?? 0) * toSales),
                conversionRate: d.conversionRate ?? 0,
              },
            ],
            adShare: d.adShare,
          })
        : null,
    demand:
      d.monthlyUnits === null
        ? null
        : byDefault('demand', { kind: 'typed', units: check ? 1 : d.monthlyUnits }),
    conversionSpread: d.conversionSpread,
    category: null,
    ...cardFields(cards),
    benchmark: { rate: d.benchmarkRate, date: n.today },
    provenance,
  });
}
