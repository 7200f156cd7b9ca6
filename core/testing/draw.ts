/** Random choices by a seed, and random cards. */
import { RUN_SEED } from './seed.ts';

export const CURRENCIES = ['EUR', 'USD', 'GBP', 'PLN', 'JPY', 'KWD'] as const;

export const LEVEL: Record<string, number> = { EUR: 1, USD: 1.1, GBP: 0.86, PLN: 4.3, JPY: 160, KWD: 0.34 };

export const twelve = (d: Draw, from: number, to: number): number[] =>
  Array.from({ length: 12 }, () => d.typed(from, to));

/** A small source of randomness (mulberry32), by a seed of its own and that of the run. */
export class Draw {
  private state: number;
  constructor(seed: number) {
    this.state = (seed + Math.imul(RUN_SEED, 0x9e3779b1)) >>> 0;
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
    // Nobody types -0, and a file does not keep it.
    return Number((from + this.next() * (to - from)).toFixed(decimals)) + 0;
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

export const vatOf = (d: Draw) => ({
  vat: d.pick(['none', 'none', 'included', 'added'] as const),
  vatRate: d.pick([0, 0.05, 0.19, 0.2, 0.23]),
  recoverable: d.pick([null, null, null, true, false]),
});

export const money = (d: Draw, from: number, to: number, currency: string): number => {
  const level = LEVEL[currency] ?? 1;
  return d.typed(from * level, to * level, currency === 'JPY' ? 0 : 2);
};

export const purchased = (d: Draw, from: number, to: number) => {
  const currency = d.pick(CURRENCIES);
  return { amount: money(d, from, to, currency), currency, ...vatOf(d) };
};

export function weightSteps(d: Draw, level: number) {
  let kg = 0;
  let fee = 0;
  const open = d.chance(0.95);
  return {
    steps: d.list(1, 5, () => {
      kg += d.typed(0.1, 2, 1);
      fee += d.typed(0.3, 2) * level;
      return { upToKg: Number(kg.toFixed(1)), fee: Number(fee.toFixed(2)) };
    }),
    stepKg: open ? d.pick([0.25, 0.5, 1]) : null,
    stepFee: open ? d.typed(0.1, 0.9) * level : 0,
  };
}

export function card(d: Draw, currency: string, country: string) {
  const level = LEVEL[currency] ?? 1;
  const fees = [
    'referral',
    'itemFee',
    'payment',
    'surcharges',
    'subscription',
    'fulfilment',
    'storage',
  ] as const;
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
        ...d.list(0, 2, () => {
          price += d.typed(5, 25) * level;
          return { upToPrice: Number(price.toFixed(2)), table: weightSteps(d, level) };
        }),
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
        ...d.list(0, 3, () => {
          upTo += d.typed(4, 30) * level;
          return { upTo: Number(upTo.toFixed(2)), pct: d.typed(0.02, 0.25, 3) };
        }),
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
        ...new Set(
          d.list(1, 3, () => d.pick(['referral', 'itemFee', 'payment', 'fulfilment', 'storage'] as const)),
        ),
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

export function taxCard(d: Draw, currency: string, country: string) {
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
