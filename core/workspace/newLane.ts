import {
  NEW_KEYWORD,
  NEW_RETURNS,
  newDispatch,
  newLeg,
  newRoute,
  newTerms,
  purchased,
} from '../lane/defaults.ts';
import { isKnown } from '../rules/numbers.ts';
import type { MarketplaceCard } from '../cards/rates.ts';
import type { Provenance } from '../lane/schema.ts';
import type { Way } from '../lane/choices.ts';
import { exchangeFactor } from '../money/money.ts';
import type { ExchangeTable } from '../money/money.ts';
import { crossesCustoms } from '../tax/countries.ts';
import { cardFields } from './compose.ts';
import type { StoredLane } from './records.ts';
import type { LaneCards } from './compose.ts';
import type { Settings } from './settings.ts';

export type NewLane = {
  readonly way: Way;
  readonly settings: Pick<Settings, 'defaults' | 'homeCurrency'>;
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

/** What the terms of a lane hang on, decided once. */
type Setup = {
  readonly n: NewLane;
  readonly d: Settings['defaults'];
  readonly home: string;
  readonly method: StoredLane['method'];
  /** The supplier sends it straight to the buyer. */
  readonly ships: boolean;
  /** Only fees are asked about: nothing comes in. */
  readonly check: boolean;
  /** Notes that the input of this name is a default of the workspace. */
  readonly byDefault: <T>(path: string, value: T) => T;
};

/**
 * A lane as the workspace's defaults make it. Every default taken is marked so in the provenance; a default
 * that is blank leaves its line blank. Money defaults are in the home currency; cost per click is restated in
 * the sales currency.
 */
export function newLane(n: NewLane): StoredLane {
  const { defaults: d, homeCurrency: home } = n.settings;
  const provenance: Provenance = {};
  const byDefault = <T>(path: string, value: T): T => {
    provenance[path] = { source: 'default', date: n.today, note: '' };
    return value;
  };
  const ships = n.way === 'supplierShips';
  const check = n.way === 'feeCheck';
  const method = methodOf(n);
  const cards: LaneCards = {
    ...n.cards,
    freight: ships || check ? null : n.cards.freight,
    postage: method === 'ownDispatch' ? n.cards.postage : null,
  };
  const setup: Setup = { n, d, home, method, ships, check, byDefault };
  return {
    ...newTerms(n.country, n.currency),
    marketplace: n.marketplace?.marketplace ?? '',
    imported:
      n.origin === null ? byDefault('imported', n.way === 'ownBrand') : crossesCustoms(n.origin, n.country),
    price: n.price,
    components:
      n.quoteId === null
        ? []
        : [{ quoteId: n.quoteId, name: '', unitsInSoldPack: 1, unitsInBoughtPack: 1, candidateId: null }],
    noGoods: false,
    rivalPrices: [],
    orderQuantity: orderOf(setup),
    route: cards.freight != null ? null : routeOf(setup),
    prep: prepOf(setup),
    method,
    dispatch: cards.postage != null ? null : dispatchOf(setup),
    supplierDelivery: deliveryOf(setup),
    storage: storageOf(setup),
    returns: returnsOf(setup),
    adverts: advertsOf(setup),
    demand:
      d.monthlyUnits === null
        ? null
        : byDefault('demand', { kind: 'typed', units: check ? 1 : d.monthlyUnits }),
    conversionSpread: d.conversionSpread,
    category: null,
    ...cardFields(cards),
    benchmark: { rate: d.benchmarkRate, date: n.today },
    provenance,
  };
}

function methodOf(n: NewLane): StoredLane['method'] {
  if (n.way === 'supplierShips') return 'supplierShips';
  return (
    n.method ?? (n.marketplace !== null && n.marketplace.warehouse === null ? 'ownDispatch' : 'warehouse')
  );
}

/** Most units that one buys in shops at a time, until one says otherwise. */
const RETAIL_ORDER = 10;
function orderOf({ n, d, ships, check, byDefault }: Setup): StoredLane['orderQuantity'] {
  if (ships) return null;
  if (check) return 1;
  const most = n.way === 'retail' ? Math.min(d.orderQuantity ?? RETAIL_ORDER, RETAIL_ORDER) : d.orderQuantity;
  return byDefault('orderQuantity', most);
}

/** Main leg by volume for an own brand, the way to a warehouse by the unit; blank where the defaults name neither. */
function routeOf({ n, d, home, method, ships, check, byDefault }: Setup): StoredLane['route'] {
  if (ships || check) return 'none';
  const ownBrand = n.way === 'ownBrand';
  const main =
    ownBrand &&
    d.mainFreightPerCbm !== null &&
    newLeg({
      name: 'Sea or land, main leg',
      stage: 'main',
      basis: 'perCbm',
      rate: d.mainFreightPerCbm,
      currency: home,
    });
  const inbound =
    method === 'warehouse' &&
    d.inboundPerUnit !== null &&
    newLeg({
      name: 'To the warehouse',
      stage: 'inbound',
      basis: 'perUnit',
      rate: d.inboundPerUnit,
      currency: home,
    });
  const legs = [main, inbound].filter((leg) => leg !== false);
  if (legs.length === 0) return method === 'ownDispatch' ? byDefault('route', 'none' as const) : null;
  return byDefault('route', {
    ...newRoute(legs),
    packingAllowance: 0.12,
    insuranceRate: ownBrand ? d.insuranceRate : 0,
    transitDays: ownBrand ? d.transitDays : 2,
    inboundDays: 5,
  });
}

function prepOf({ d, home, ships, check, byDefault }: Setup): StoredLane['prep'] {
  if (ships || check) return 'none';
  if (d.prep === null) return null;
  const { amount: _blank, ...bought } = purchased(null, home);
  return byDefault('prep', { ...bought, standard: d.prep, oversize: d.prep * 3 });
}

function dispatchOf({ d, home, method, byDefault }: Setup): StoredLane['dispatch'] {
  if (method !== 'ownDispatch' || d.postagePerParcel === null) return null;
  return byDefault('dispatch', { ...newDispatch(30, d.postagePerParcel, home), packagingKg: 0.15 });
}

/** A supplier sends for what a parcel of one's own would cost. */
function deliveryOf({ d, home, ships, byDefault }: Setup): StoredLane['supplierDelivery'] {
  if (!ships || d.postagePerParcel === null) return null;
  return byDefault('supplierDelivery', purchased(d.postagePerParcel, home));
}

function storageOf({ n, method, ships, check }: Setup): StoredLane['storage'] {
  if (method === 'warehouse' && n.marketplace?.storage) return 'card';
  return ships || check || method === 'ownDispatch' ? 'none' : null;
}

function returnsOf({ d, home, ships, check, byDefault }: Setup): StoredLane['returns'] {
  if (check) return 'none';
  if (d.returnRate === null) return null;
  return byDefault('returns', {
    ...NEW_RETURNS,
    rate: d.returnRate,
    resaleShare: ships ? 0 : d.resaleShare,
    handling: purchased(d.returnHandling, home),
  });
}

/** Only an own brand advertises unasked; the clicks are blank without a rate to the sales currency. */
function advertsOf({ n, d, home, byDefault }: Setup): StoredLane['adverts'] {
  if (n.way !== 'ownBrand') return byDefault('adverts', 'none' as const);
  const toSales = exchangeFactor(n.exchange, home, n.currency);
  if (d.clickLow === null || d.clickHigh === null || d.conversionRate === null || !isKnown(toSales))
    return null;
  const cents = (x: number): number => Math.round(x * 10_000) / 10_000;
  const [low, high] = [cents(d.clickLow * toSales), cents(d.clickHigh * toSales)];
  const keyword = { ...NEW_KEYWORD, low, high, conversionRate: d.conversionRate };
  return byDefault('adverts', { keywords: [keyword], adShare: d.adShare });
}
