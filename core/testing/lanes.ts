/** Random lanes for tests: every way of working, every branch of the rules, whole ones and ones with gaps. Seeded. */
import { laneDocument } from '../lane/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';

/** A small seeded source of randomness (mulberry32). */
export class Draw {
  private state: number;
  constructor(seed: number) {
    this.state = seed >>> 0;
  }
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }
  chance(p: number): boolean {
    return this.next() < p;
  }
  int(from: number, to: number): number {
    return from + Math.floor(this.next() * (to - from + 1));
  }
  /** A number as people type it, with so many decimals. */
  typed(from: number, to: number, decimals = 2): number {
    return Number((from + this.next() * (to - from)).toFixed(decimals));
  }
  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.next() * list.length)] as T;
  }
  maybe<T>(p: number, make: () => T): T | null {
    return this.chance(p) ? make() : null;
  }
  list<T>(from: number, to: number, make: (i: number) => T): T[] {
    return Array.from({ length: this.int(from, to) }, (_, i) => make(i));
  }
}

const CURRENCIES = ['EUR', 'USD', 'GBP', 'PLN', 'JPY', 'KWD'] as const;
const LEVEL: Record<string, number> = { EUR: 1, USD: 1.1, GBP: 0.86, PLN: 4.3, JPY: 160, KWD: 0.34 };

const vatOf = (d: Draw) => ({
  vat: d.pick(['none', 'none', 'included', 'added'] as const),
  vatRate: d.pick([0, 0.05, 0.19, 0.2, 0.23]),
  recoverable: d.pick([null, null, null, true, false]),
});
const money = (d: Draw, from: number, to: number, currency: string): number => {
  const level = LEVEL[currency] ?? 1;
  return d.typed(from * level, to * level, currency === 'JPY' ? 0 : 2);
};
const purchased = (d: Draw, from: number, to: number) => {
  const currency = d.pick(CURRENCIES);
  return { amount: money(d, from, to, currency), currency, ...vatOf(d) };
};
const twelve = (d: Draw, from: number, to: number): number[] => Array.from({ length: 12 }, () => d.typed(from, to));

function weightSteps(d: Draw, level: number) {
  let kg = 0;
  let fee = 0;
  const open = d.chance(0.95);
  return {
    steps: d.list(1, 5, () => ({
      upToKg: Number((kg += d.typed(0.1, 2, 1)).toFixed(1)),
      fee: Number((fee += d.typed(0.3, 2) * level).toFixed(2)),
    })),
    stepKg: open ? d.pick([0.25, 0.5, 1]) : null,
    stepFee: open ? d.typed(0.1, 0.9) * level : 0,
  };
}

function card(d: Draw, currency: string, country: string) {
  const level = LEVEL[currency] ?? 1;
  const fees = ['referral', 'itemFee', 'payment', 'surcharges', 'subscription', 'fulfilment', 'storage'] as const;
  const tier = () => {
    let price = 0;
    return {
      name: 'tier',
      maxL: d.maybe(0.9, () => d.int(15, 120)),
      maxW: d.maybe(0.7, () => d.int(12, 80)),
      maxH: d.maybe(0.6, () => d.int(6, 60)),
      maxKg: d.maybe(0.8, () => d.typed(0.3, 20, 1)),
      maxLengthGirth: d.maybe(0.3, () => d.int(60, 300)),
      divisor: d.maybe(0.5, () => d.pick([4000, 5000, 6000])),
      packagingKg: d.pick([0, 0.02, 0.1]),
      bands: [
        ...d.list(0, 2, () => ({
          upToPrice: Number((price += d.typed(5, 25) * level).toFixed(2)),
          table: weightSteps(d, level),
        })),
        { upToPrice: null, table: weightSteps(d, level) },
      ],
    };
  };
  const referral = () => {
    let upTo = 0;
    return {
      base: d.pick(['item', 'gross', 'net', 'buyerPays'] as const),
      mode: d.pick(['whole', 'sliced'] as const),
      tiers: [
        ...d.list(0, 3, () => ({
          upTo: Number((upTo += d.typed(4, 30) * level).toFixed(2)),
          pct: d.typed(0.02, 0.25, 3),
        })),
        { upTo: null, pct: d.typed(0.02, 0.25, 3) },
      ],
      min: d.maybe(0.3, () => d.typed(0.1, 1.5) * level),
      max: d.maybe(0.2, () => d.typed(1, 8) * level),
    };
  };
  return {
    name: 'Card',
    inForceFrom: '2026-10-01',
    marketplace: 'Testmarket',
    country,
    currency,
    categories: [
      { key: 'a', name: 'A', referral: referral(), itemFee: d.maybe(0.3, () => d.typed(0, 1, 3) * level) },
      { key: 'b', name: 'B', referral: referral(), itemFee: null },
    ],
    itemFee: d.pick([0, 0.25 * level, 0.335 * level]),
    payment: d.maybe(0.5, () => ({
      base: d.pick(['item', 'gross', 'net', 'buyerPays'] as const),
      pct: d.typed(0.005, 0.04, 4),
      fixed: d.typed(0, 0.4) * level,
    })),
    surcharges: d.list(0, 2, () => ({
      name: 's',
      pct: d.typed(0.01, 0.08, 3),
      of: [
        ...new Set(d.list(1, 3, () => d.pick(['referral', 'itemFee', 'payment', 'fulfilment', 'storage'] as const))),
      ],
    })),
    subscriptionMonthly: d.pick([0, 0, 39 * level]),
    feeVat: {
      treatment: d.pick(['charged', 'reverseCharge', 'none'] as const),
      rate: d.pick([0, 0.19, 0.21]),
      bears: fees.filter(() => d.chance(0.8)),
    },
    advertVat: { treatment: d.pick(['charged', 'reverseCharge', 'none'] as const), rate: d.pick([0, 0.19]) },
    refund: {
      adminPct: d.pick([0, 0.2]),
      adminMax: d.maybe(0.5, () => d.typed(0.1, 3) * level),
      back: {
        referral: d.pick([1, 1, 0.5, 0]),
        itemFee: d.pick([0, 1]),
        payment: d.pick([0, 0.5]),
        surcharges: d.pick([0, 1]),
      },
    },
    warehouse: d.maybe(0.97, () => ({
      tiers: [
        ...d.list(1, 4, tier),
        ...(d.chance(0.85)
          ? [
              {
                name: 'any',
                maxL: null,
                maxW: null,
                maxH: null,
                maxKg: null,
                maxLengthGirth: null,
                divisor: null,
                packagingKg: 0.1,
                bands: [{ upToPrice: null, table: weightSteps(d, level) }],
              },
            ]
          : []),
      ],
      addOns: { dangerous: d.typed(0, 1) * level, oversize: d.typed(0, 4) * level },
      peak: d.maybe(0.4, () => twelve(d, 0, 0.6)),
    })),
    storage: d.maybe(0.97, () => ({
      perM3Month: twelve(d, 5 * level, 40 * level),
      longStay: d.chance(0.5)
        ? [
            { fromMonths: 2, toMonths: 4, rate: 20 * level },
            { fromMonths: 4, toMonths: null, rate: 60 * level },
          ]
        : [],
    })),
    payoutEveryDays: d.pick([null, 7, 14]),
    payoutDelayDays: d.pick([null, 2, 5]),
  };
}

function taxCard(d: Draw, currency: string, country: string) {
  const inclusive = d.chance(0.7);
  const duties = d.list(0, 3, () => ({
    heading: d.pick(['', '44', '4421', '3926', '39']),
    origins: d.maybe(0.3, () => [d.pick(['CN', 'VN'])]),
    pct: d.typed(0, 0.12, 3),
    perUnit: d.pick([0, 0, 0.1]),
    perKg: d.pick([0, 0, 0.4]),
    additional: d.chance(0.3),
  }));
  return {
    name: 'Tax',
    inForceFrom: '2026-01-01',
    country,
    currency: d.chance(0.85) ? currency : d.pick(CURRENCIES),
    regime: inclusive ? ('inclusive' as const) : ('exclusive' as const),
    vatRates: { ...(d.chance(0.98) ? { standard: d.pick([0.05, 0.19, 0.2, 0.23]) } : {}), reduced: 0.07 },
    importVatRates: d.maybe(0.15, () => ({ standard: 0.1 })),
    checkoutTax: inclusive ? 0 : d.pick([0, 0.0825]),
    customsBasis: d.pick(['CIF', 'FOB'] as const),
    importVatBase: d.pick(['cif', 'customsValue'] as const),
    dutyFreeLimit: d.maybe(0.4, () => d.pick([150, 800])),
    duties: d.chance(0.95)
      ? [...duties, { heading: '', origins: null, pct: 0.03, perUnit: 0, perKg: 0, additional: false }]
      : duties,
    importCharges: d.list(0, 2, () => ({
      name: 'c',
      pct: d.pick([0, 0.0035]),
      min: d.maybe(0.5, () => d.typed(5, 30)),
      max: d.maybe(0.5, () => d.typed(40, 500)),
      flat: d.pick([0, 45]),
    })),
  };
}

function source(d: Draw) {
  const currency = d.pick(CURRENCIES);
  const supplier = {
    supplier: 'S',
    date: '2026-11-01',
    validUntil: d.pick([null, '2026-12-31', '2026-11-02']),
    currency,
  };
  if (d.chance(0.3))
    return {
      kind: 'retail' as const,
      ...supplier,
      shelfPrice: d.maybe(0.97, () => money(d, 1, 30, currency)),
      ...vatOf(d),
      reordered: d.chance(0.4),
      discounts: d.list(0, 3, () =>
        d.chance(0.5)
          ? { kind: 'percent' as const, share: d.typed(0, 0.5) }
          : { kind: 'coupon' as const, amount: money(d, 0, 6, currency), covers: d.int(1, 3) },
      ),
      salesTax: d.pick([0, 0.08]),
      exempt: d.chance(0.2),
      giftCard: d.maybe(0.4, () => ({ discount: d.typed(0, 0.15), part: d.pick([1, 0.5]) })),
      cashback: d.maybe(0.4, () => ({
        share: d.typed(0, 0.1),
        taxCounts: d.chance(0.5),
        giftCardsCount: d.chance(0.5),
      })),
      delivery: d.maybe(0.4, () => purchased(d, 0, 12)),
      leadDays: d.pick([null, 3]),
      creditDays: d.pick([0, 30]),
    };
  let minQty = d.chance(0.06) ? 60 : 0;
  let price = money(d, 3, 18, currency);
  return {
    kind: 'quote' as const,
    ...supplier,
    incoterm: d.pick(['EXW', 'FCA', 'FAS', 'FOB', 'FOB', 'CFR', 'CPT', 'CIF', 'CIP', 'DAP', 'DPU', 'DDP'] as const),
    priceBreaks: d.list(1, 4, () => {
      const row = { minQty, unitPrice: d.maybe(0.98, () => price) };
      minQty += d.int(50, 300);
      price = Number((price * d.typed(0.85, 1)).toFixed(2));
      return row;
    }),
    minimumOrder: d.chance(0.1) ? d.pick([10, 100]) : 0,
    extras: d.list(0, 2, () => ({ name: 'x', amount: money(d, 0, 0.6, currency) })),
    perOrder: d.list(0, 2, () => ({ name: 'o', amount: money(d, 10, 200, currency) })),
    oneOffs: d.list(0, 2, () => ({ name: 't', amount: money(d, 10, 400, currency) })),
    freightInPrice: d.pick([0, 0, 0.3]),
    ...vatOf(d),
    carton: d.maybe(0.85, () => ({
      units: d.int(4, 48),
      volumeM3: d.maybe(0.85, () => d.typed(0.01, 0.15, 3)),
      kg: d.maybe(0.85, () => d.typed(2, 20, 1)),
    })),
    leadDays: d.pick([null, 20, 35]),
    depositShare: d.pick([null, 0.3, 1]),
    creditDays: d.pick([0, 30]),
  };
}

function leg(d: Draw) {
  const basis = d.pick(['perUnit', 'perKg', 'perKg', 'perCbm', 'perCarton', 'perShipment', 'perContainer'] as const);
  const currency = d.pick(CURRENCIES);
  const range = {
    perUnit: [0.05, 1],
    perKg: [0.5, 6],
    perCbm: [60, 250],
    perCarton: [1, 6],
    perShipment: [30, 300],
    perContainer: [800, 3000],
  }[basis] as [number, number];
  let upTo = 0;
  return {
    name: 'leg',
    stage: d.pick(['origin', 'main', 'destination', 'inbound'] as const),
    basis,
    currency,
    rate: d.maybe(0.96, () => money(d, range[0], range[1], currency)),
    ...vatOf(d),
    minCharge: d.pick([0, 0, money(d, 20, 90, currency)]),
    fuelSurcharge: d.pick([0, 0.12]),
    divisor: d.maybe(0.6, () => d.pick([5000, 6000])),
    minKg: d.pick([0, 45]),
    minCbm: d.pick([0, 1]),
    usableM3: d.maybe(0.96, () => d.pick([28, 58])),
    buyerPays: d.pick([null, null, null, null, true, false]),
    bands: d.chance(0.4)
      ? d.list(1, 3, () => ({ upToKg: (upTo += d.pick([45, 100, 2000, 100_000])), rate: money(d, 0.5, 6, currency) }))
      : [],
  };
}

/** The random lane of a seed, validated. `gaps` 0 makes lanes in which nothing is left blank on purpose. */
export function randomLane(seed: number, gaps = 1): LaneDocument {
  const d = new Draw(seed);
  const blank = (p: number) => d.chance(p * gaps);
  const currency = d.pick(CURRENCIES);
  const level = LEVEL[currency] ?? 1;
  const country = d.pick(['DE', 'GB', 'US', 'JP']);
  const method = d.pick(['warehouse', 'warehouse', 'warehouse', 'ownDispatch', 'supplierShips'] as const);
  const m = (from: number, to: number) => d.typed(from * level, to * level, currency === 'JPY' ? 0 : 2);
  const input = {
    format: 'bold-margin/lane',
    version: 1,
    date: '2026-11-24',
    homeCurrency: d.chance(0.6) ? currency : d.pick(CURRENCIES),
    way: d.pick(['ownBrand', 'retail', 'wholesale', 'supplierShips', 'feeCheck'] as const),
    name: 'L',
    marketplace: 'Testmarket',
    country,
    currency,
    imported: d.chance(0.6),
    price: blank(0.03) ? null : m(3, 90),
    averageDiscount: d.pick([0, 0, 0, 0.05, 0.125]),
    shippingCharged: d.pick([0, 0, m(1, 5)]),
    standing: blank(0.02)
      ? null
      : d.pick([
          { kind: 'registered' },
          { kind: 'registered' },
          { kind: 'notRegistered' },
          { kind: 'flatRate', rate: 0.075 },
          { kind: 'marketplaceRemits', recoverable: d.chance(0.5) },
        ] as const),
    orderQuantity: blank(0.05) ? null : d.pick([d.int(1, 60), d.int(60, 2000)]),
    buyingSpread: d.pick([0, 0.02]),
    goods: blank(0.03)
      ? null
      : blank(0.03)
        ? ('none' as const)
        : d.list(1, d.chance(0.25) ? 3 : 1, () => ({
            name: 'c',
            unitsInSoldPack: d.pick([1, 1, 1, 4]),
            unitsInBoughtPack: d.pick([1, 1, 1, 6]),
            source: source(d),
          })),
    route: blank(0.04)
      ? null
      : d.chance(0.1)
        ? ('none' as const)
        : {
            legs: d.list(0, 4, () => leg(d)),
            packingAllowance: d.pick([0, 0.12]),
            insuranceRate: d.pick([0, 0.004]),
            transitDays: d.pick([null, 5, 35]),
            inboundDays: d.pick([0, 6]),
          },
    importVatPostponed: d.chance(0.2),
    prep: blank(0.04)
      ? null
      : d.chance(0.15)
        ? ('none' as const)
        : (() => {
            const c = d.pick(CURRENCIES);
            return {
              standard: money(d, 0, 1, c),
              oversize: d.maybe(0.6, () => money(d, 1, 3, c)),
              currency: c,
              ...vatOf(d),
            };
          })(),
    method,
    dispatch: blank(0.04)
      ? null
      : d.chance(0.05)
        ? ('none' as const)
        : {
            zones: d.chance(0.5)
              ? [
                  { share: 0.7, postage: { ...weightSteps(d, 2), currency: d.pick(CURRENCIES) } },
                  { share: 0.3, postage: { ...weightSteps(d, 3), currency: 'EUR' } },
                ]
              : [{ share: 1, postage: { ...weightSteps(d, 2), currency: 'EUR' } }],
            ...vatOf(d),
            packagingKg: d.pick([0, 0.2]),
            packaging: d.maybe(0.6, () => purchased(d, 0, 1)),
            pickAndPack: d.maybe(0.6, () => purchased(d, 0, 2)),
          },
    supplierDelivery: blank(0.04) ? null : d.chance(0.1) ? ('none' as const) : purchased(d, 1, 9),
    storage: blank(0.04)
      ? null
      : d.chance(0.15)
        ? ('none' as const)
        : d.chance(0.7)
          ? ('card' as const)
          : { own: purchased(d, 3, 25) },
    monthsHeld: d.maybe(0.15, () => d.typed(0.2, 8, 1)),
    saleMonth: d.maybe(0.25, () => d.int(1, 12)),
    referralApplies: d.chance(0.95),
    accountUnitsPerMonth: d.maybe(0.3, () => d.pick([50, 400, 0])),
    returns: blank(0.04)
      ? null
      : d.chance(0.1)
        ? ('none' as const)
        : {
            rate: d.pick([0, 0.03, 0.12]),
            resaleShare: d.pick([0, 0.5, 1]),
            handling: d.maybe(0.7, () => purchased(d, 0, 2)),
            disposal: d.maybe(0.5, () => purchased(d, -1, 2)),
          },
    breakage: d.pick([0, 0, 0.02]),
    otherPerUnit: d.list(0, 2, () => ({ name: 'o', line: purchased(d, 0, 0.5) })),
    freeExtraProfit: d.pick([0, 0, 0, m(0, 2)]),
    conversionSpread: d.pick([0, 0.015]),
    adverts: blank(0.04)
      ? null
      : d.chance(0.15)
        ? ('none' as const)
        : {
            keywords: d.list(1, 3, () => ({
              text: 'k',
              low: m(0.1, 0.5),
              high: m(0.5, 1.2),
              weight: d.pick([0.5, 0.5, 0.8]),
              conversionRate: d.chance(0.03) ? 0 : d.typed(0.03, 0.3),
              expectedClicks: d.maybe(0.6, () => d.int(0, 500)),
            })),
            adShare: d.pick([1, 0.4, 0]),
          },
    demand: blank(0.04)
      ? null
      : d.pick([
          { kind: 'typed' as const, units: d.chance(0.05) ? 0 : d.int(1, 600) },
          { kind: 'marketShare' as const, marketUnits: d.int(10, 4000), share: d.typed(0.01, 0.4) },
          {
            kind: 'offerSplit' as const,
            listingUnits: d.int(20, 900),
            variationShare: d.pick([1, 0.4]),
            retailArmShare: d.pick([0, 0.3]),
            band: d.pick([0, 0.05, 0.5]),
            rivals: d.list(0, 4, () => m(5, 90)),
          },
        ]),
    season: d.maybe(0.3, () => twelve(d, 0.2, 3)),
    monthlyFixedCosts: d.pick([0, 90]),
    payoutEveryDays: d.pick([null, null, 14]),
    payoutDelayDays: d.pick([null, null, 3]),
    typed: {
      vatRate: d.maybe(0.07, () => 0.21),
      importVatRate: d.maybe(0.07, () => d.pick([0.22, 0])),
      dutyPct: d.maybe(0.1, () => 0.045),
      referralPct: d.maybe(0.08, () => 0.11),
      itemFee: d.maybe(0.06, () => m(0, 1)),
      paymentPct: d.maybe(0.06, () => 0.019),
      paymentFixed: d.maybe(0.06, () => m(0, 1)),
      subscriptionMonthly: d.maybe(0.06, () => m(10, 60)),
      fulfilmentFee: d.maybe(0.1, () => m(1, 7)),
      storagePerM3Month: d.maybe(0.08, () => m(5, 50)),
    },
    product: {
      sides: blank(0.04)
        ? null
        : ([d.typed(3, 60, 1), d.typed(3, 40, 1), d.typed(1, 30, 1)] as [number, number, number]),
      kg: blank(0.04) ? null : d.typed(0.05, 9, 2),
      category: blank(0.03) ? null : d.chance(0.03) ? 'unknown' : d.pick(['a', 'b']),
      taxClass: blank(0.03) ? 'unlisted' : d.chance(0.85) ? 'standard' : 'reduced',
      hsCode: blank(0.04) ? null : d.pick(['44219999', '3926', '442100']),
      origin: blank(0.04) ? null : d.pick(['CN', 'VN', 'PL']),
      dangerous: d.chance(0.1),
      oversize: d.chance(0.15),
    },
    rates: {
      exchange: blank(0.02)
        ? null
        : {
            date: '2026-11-20',
            base: 'EUR',
            rates: Object.fromEntries(
              CURRENCIES.filter((c) => c !== 'EUR' && !blank(0.02)).map((c) => [
                c,
                Number(((LEVEL[c] ?? 1) * d.typed(0.95, 1.05, 4)).toFixed(5)),
              ]),
            ),
          },
      tax: blank(0.02) ? null : taxCard(d, currency, country),
      marketplace: blank(0.03) ? null : card(d, blank(0.02) ? d.pick(CURRENCIES) : currency, country),
      benchmark: d.maybe(0.8, () => ({ rate: 0.025, date: '2026-11-01' })),
    },
  };
  return laneDocument.parse(blank(0.15) ? withOneOpen(d, input) : input);
}

/** One of the places in a lane that may be opened before anything is entered, left open. */
function withOneOpen<T extends object>(d: Draw, input: T): T {
  const places: (string | number)[][] = [];
  const look = (value: unknown, path: (string | number)[]): void => {
    if (typeof value !== 'object' || value === null) return;
    for (const [key, inner] of Object.entries(value)) {
      const here = [...path, Array.isArray(value) ? Number(key) : key];
      if (typeof inner === 'number' && isOpenable(here)) places.push(here);
      look(inner, here);
    }
  };
  look(input, []);
  const at = places.length === 0 ? null : d.pick(places);
  if (at === null) return input;
  const copy = structuredClone(input);
  let inner = copy as Record<string | number, unknown>;
  for (const key of at.slice(0, -1)) inner = inner[key] as Record<string | number, unknown>;
  inner[at.at(-1) as string | number] = null;
  return copy;
}

const OPENABLE = [
  /^goods\.\d+\.source\.((extras|perOrder|oneOffs)\.\d+\.amount|discounts\.\d+\.(share|amount)|giftCard\.discount|cashback\.share|delivery\.amount)$/,
  /^adverts\.keywords\.\d+\.(low|high|conversionRate)$/,
  /^demand\.(units|marketUnits|share|listingUnits|rivals\.\d+)$/,
  /^returns\.(rate|(handling|disposal)\.amount)$/,
  /^dispatch\.((packaging|pickAndPack)\.amount|zones\.\d+\.postage\.steps\.\d+\.fee)$/,
  /^storage\.own\.amount$/,
  /^supplierDelivery\.amount$/,
  /^prep\.standard$/,
  /^otherPerUnit\.\d+\.line\.amount$/,
];
const isOpenable = (path: readonly (string | number)[]): boolean => OPENABLE.some((o) => o.test(path.join('.')));
