/** Random lanes for tests: every way of working, every branch of the rules, whole ones and ones with gaps. Seeded. */
import { laneDocument } from '../lane/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { Draw, vatOf, money, purchased, weightSteps, card, taxCard } from './draw.ts';
import { CURRENCIES, LEVEL, twelve } from './draw.ts';

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
    incoterm: d.pick([
      'EXW',
      'FCA',
      'FAS',
      'FOB',
      'FOB',
      'CFR',
      'CPT',
      'CIF',
      'CIP',
      'DAP',
      'DPU',
      'DDP',
    ] as const),
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
  const basis = d.pick([
    'perUnit',
    'perKg',
    'perKg',
    'perCbm',
    'perCarton',
    'perShipment',
    'perContainer',
  ] as const);
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
      ? d.list(1, 3, () => {
          upTo += d.pick([45, 100, 2000, 100_000]);
          return { upToKg: upTo, rate: money(d, 0.5, 6, currency) };
        })
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
  /^goods\.\d+\.source\.(extras|perOrder|oneOffs)\.\d+\.amount$/,
  /^goods\.\d+\.source\.(discounts\.\d+\.(share|amount)|giftCard\.discount|cashback\.share|delivery\.amount)$/,
  /^adverts\.keywords\.\d+\.(low|high|conversionRate)$/,
  /^demand\.(units|marketUnits|share|listingUnits|rivals\.\d+)$/,
  /^returns\.(rate|(handling|disposal)\.amount)$/,
  /^dispatch\.((packaging|pickAndPack)\.amount|zones\.\d+\.postage\.steps\.\d+\.fee)$/,
  /^storage\.own\.amount$/,
  /^supplierDelivery\.amount$/,
  /^prep\.standard$/,
  /^otherPerUnit\.\d+\.line\.amount$/,
];
const isOpenable = (path: readonly (string | number)[]): boolean =>
  OPENABLE.some((o) => o.test(path.join('.')));
