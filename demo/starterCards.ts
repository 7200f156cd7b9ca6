/**
 * The rate cards a new workspace starts with. Marketplaces and their fees are invented: every fee below is
 * drawn by this script from a seeded generator, by the rule beside it, and recalls no schedule. VAT rates are
 * the real standard and reduced rates, each with the day from which it has been in force; duties, charges and
 * exchange rates are examples like the fees.
 */
import type { MarketplaceCard, SizeTier, TaxCard } from '../core/cards/rates.ts';
import { marketplaceCard, taxCard } from '../core/cards/rates.ts';
import { COUNTRY_CURRENCY } from '../core/tax/countries.ts';
import { minorDigits, powerOfTen } from '../core/money/money.ts';
import { roundMinor } from '../core/rules/numbers.ts';
import { drawFreight, drawPostage, drawBenchmarks } from './starterFreight.ts';
import { drawer, money } from './drawing.ts';
import type { Draw } from './drawing.ts';
import type { StarterCard } from './drawing.ts';
import { EXAMPLE_RATES } from './drawing.ts';

/** VAT and GST rates as published, with the day since which the standard rate has applied. */
const VAT: readonly [country: string, since: string, rates: Record<string, number>][] = [
  ['DE', '2021-01-01', { standard: 0.19, reduced: 0.07 }],
  ['FR', '2014-01-01', { standard: 0.2, reduced: 0.1, lower: 0.055 }],
  ['ES', '2012-09-01', { standard: 0.21, reduced: 0.1, lower: 0.04 }],
  ['IT', '2013-10-01', { standard: 0.22, reduced: 0.1, lower: 0.04 }],
  ['PL', '2011-01-01', { standard: 0.23, reduced: 0.08, lower: 0.05 }],
  ['GB', '2011-01-04', { standard: 0.2, reduced: 0.05, zero: 0 }],
  ['JP', '2019-10-01', { standard: 0.1, reduced: 0.08 }],
  ['AE', '2018-01-01', { standard: 0.05, zero: 0 }],
  ['US', '2026-01-01', {}],
];

/**
 * Rule: base duty 0 to 6 % by heading in steps of 0.5 %, the US one 4 to 12 %; clearance 40 to 90 euros a
 * shipment.
 */
function drawTaxCards(): TaxCard[] {
  return VAT.map(([country, since, vatRates], i) => {
    const draw = drawer(9100 + i);
    const currency = COUNTRY_CURRENCY[country] as string;
    const perEuro = currency === 'EUR' ? 1 : (EXAMPLE_RATES.rates[currency] as number);
    const usa = country === 'US';
    const duty = (heading: string) => ({
      heading,
      origins: null,
      pct: usa ? draw(0.04, 0.12, 0.005) : draw(0, 0.06, 0.005),
    });
    return taxCard.parse({
      name: `Taxes of ${country}`,
      inForceFrom: since,
      country,
      currency,
      note: 'VAT rates are real; duties and clearance are examples to replace',
      regime: usa ? 'exclusive' : 'inclusive',
      vatRates,
      importVatRates: usa ? { standard: 0, reduced: 0, lower: 0, zero: 0 } : null,
      checkoutTax: usa ? 0.07 : 0,
      customsBasis: usa ? 'FOB' : 'CIF',
      importVatBase: 'cif',
      dutyFreeLimit: null,
      duties: [duty(''), duty('39'), duty('44'), duty('46'), duty('69'), duty('70'), duty('73'), duty('76')],
      importCharges: [
        {
          name: 'Customs clearance',
          pct: 0,
          min: null,
          max: null,
          flat: roundMinor(draw(40, 90, 5) * perEuro, powerOfTen(minorDigits(currency))),
        },
      ],
    });
  });
}

const CATEGORIES = [
  ['wildlife', 'Garden wildlife'],
  ['growing', 'Window-sill growing'],
  ['garden', 'Garden tools and furniture'],
  ['household', 'Household'],
  ['pets', 'Pets'],
  ['books', 'Books and media'],
] as const;

/**
 * Rule of the size tiers: six tiers; the longest side starts at 28 to 34 cm and grows by a factor of 1.35 to
 * 1.6 a tier, the other sides are 0.7 and 0.35 of it; weight limits start at 0.4 to 0.6 kg and grow by 2 to
 * 2.4. The first fee is 2.20 to 3.00 euros, each tier adds 25 to 45 %, each weight step inside a tier 8 to 14
 * %, past the last so much for each 100 or 500 g. Tiers from the third on count volume, at 5000 cm3 a kg.
 */
function drawTiers(draw: Draw, currency: string): SizeTier[] {
  const names = ['Letter', 'Slim box', 'Shoe box', 'Crate', 'Trunk', 'Long goods'];
  let side = draw(28, 34, 1);
  let limit = draw(0.4, 0.6, 0.1);
  let fee = draw(2.2, 3, 0.1);
  return names.map((name, i) => {
    const last = i === names.length - 1;
    const steps = [0.4, 0.7, 1].map((part, j) => ({
      upToKg: Number((limit * part).toFixed(2)),
      fee: money(fee * (1 + j * draw(0.08, 0.14, 0.01)), currency),
    }));
    const more = money(draw(0.1, 0.3, 0.05), currency);
    const tier: SizeTier = {
      name,
      maxL: Math.round(last ? side * 1.3 : side),
      maxW: Math.round(side * 0.7),
      maxH: Math.round(side * (i === 0 ? 0.1 : 0.35)),
      maxKg: Number(limit.toFixed(2)),
      maxLengthGirth: last ? Math.round(side * 3) : null,
      divisor: i >= 2 ? 5000 : null,
      packagingKg: i === 0 ? 0.02 : 0.1,
      bands:
        i < 2
          ? [
              {
                upToPrice: money(10, currency),
                table: {
                  steps: steps.map((s) => ({
                    ...s,
                    fee: roundMinor(s.fee * 0.85, powerOfTen(minorDigits(currency))),
                  })),
                  stepKg: 0.1,
                  stepFee: more,
                },
              },
              { upToPrice: null, table: { steps, stepKg: 0.1, stepFee: more } },
            ]
          : [{ upToPrice: null, table: { steps, stepKg: 0.5, stepFee: more } }],
    };
    side *= draw(1.35, 1.6, 0.05);
    limit *= draw(2, 2.4, 0.1);
    fee *= 1 + draw(0.25, 0.45, 0.05);
    return tier;
  });
}

/**
 * Rule: storage 14 to 24 euros a m3 and month, a half more from October to December; long stay from the
 * seventh month 40 to 70.
 */
function drawStorage(draw: Draw, currency: string): MarketplaceCard['storage'] {
  const base = draw(14, 24, 1);
  return {
    perM3Month: Array.from({ length: 12 }, (_, m) => money(m >= 9 ? base * 1.5 : base, currency)),
    longStay: [
      { fromMonths: 6, toMonths: 12, rate: money(draw(40, 70, 5), currency) },
      { fromMonths: 12, toMonths: null, rate: money(draw(90, 140, 10), currency) },
    ],
  };
}

type Kind = 'alderway' | 'nordkai' | 'sundra' | 'copperlane';
const PRESENCE: Readonly<Record<Kind, readonly string[]>> = {
  alderway: ['DE', 'FR', 'ES', 'IT', 'PL', 'GB', 'US', 'JP'],
  nordkai: ['DE', 'FR', 'PL', 'GB'],
  sundra: ['DE', 'ES', 'IT', 'GB', 'AE'],
  copperlane: ['DE', 'US', 'JP', 'AE'],
};
const NAME: Readonly<Record<Kind, string>> = {
  alderway: 'Alderway',
  nordkai: 'Nordkai',
  sundra: 'Sundra',
  copperlane: 'Copperlane',
};

/**
 * Rules: Alderway, with warehouses: 11 to 15 % of gross by category (whole tiers, lower up to 10 euros),
 * minimum 0.30, peak in November and December. Nordkai, plain: 8 to 11 % and a fixed fee of 0.20 to 0.40.
 * Sundra: sliced tiers, 13 to 16 % up to 40 to 60 euros, then 7 to 9 %, minimum 0.50 to 0.80, small warehouse
 * surcharge. Copperlane, the seller dispatches: 6 to 9 % of net, payment 1.5 to 3 % and a fixed 0.25, monthly
 * subscription 15 to 39.
 */
function drawMarketplace(kind: Kind, country: string, seed: number): MarketplaceCard {
  const draw = drawer(seed);
  const currency = COUNTRY_CURRENCY[country] as string;
  const m = (euros: number) => money(euros, currency);
  const eu = !['GB', 'US', 'JP', 'AE'].includes(country);
  const vat = VAT.find(([c]) => c === country)?.[2].standard ?? 0;
  const common = {
    name: `${NAME[kind]} ${country}`,
    inForceFrom: '2026-10-01',
    note: 'Invented marketplace, drawn fees: an example to replace',
    marketplace: NAME[kind],
    country,
    currency,
    listingAddress: `https://${kind}.example/listing/{code}`,
    feeVat:
      vat === 0
        ? { treatment: 'none' as const, rate: 0 }
        : { treatment: eu ? ('reverseCharge' as const) : ('charged' as const), rate: vat },
    advertVat:
      vat === 0
        ? { treatment: 'none' as const, rate: 0 }
        : { treatment: eu ? ('reverseCharge' as const) : ('charged' as const), rate: vat },
    payoutEveryDays: draw(7, 14, 7),
    payoutDelayDays: draw(2, 5, 1),
  };
  const categories = (rule: (i: number) => object) =>
    CATEGORIES.map(([key, name], i) => ({ key, name, referral: rule(i) }));
  switch (kind) {
    case 'alderway': {
      return marketplaceCard.parse({
        ...common,
        categories: categories(() => {
          const pct = draw(0.11, 0.15, 0.01);
          return {
            base: 'gross',
            mode: 'whole',
            tiers: [
              { upTo: m(10), pct: Number((pct - 0.04).toFixed(4)) },
              { upTo: null, pct },
            ],
            min: m(0.3),
            max: null,
          };
        }),
        refund: { adminPct: 0.2, adminMax: m(draw(3, 5, 0.5)) },
        warehouse: {
          tiers: drawTiers(draw, currency),
          addOns: { dangerous: m(0.6), oversize: m(2.5) },
          peak: Array.from({ length: 12 }, (_, i) => (i >= 10 ? m(0.25) : 0)),
        },
        storage: drawStorage(draw, currency),
      });
    }
    case 'nordkai':
      return marketplaceCard.parse({
        ...common,
        itemFee: m(draw(0.2, 0.4, 0.05)),
        categories: categories(() => ({
          base: 'gross',
          mode: 'whole',
          tiers: [{ upTo: null, pct: draw(0.08, 0.11, 0.005) }],
        })),
      });
    case 'sundra':
      return marketplaceCard.parse({
        ...common,
        categories: categories(() => ({
          base: 'item',
          mode: 'sliced',
          tiers: [
            { upTo: m(draw(40, 60, 10)), pct: draw(0.13, 0.16, 0.01) },
            { upTo: null, pct: draw(0.07, 0.09, 0.01) },
          ],
          min: m(draw(0.5, 0.8, 0.1)),
          max: null,
        })),
        surcharges: [
          { name: 'Digital services levy', pct: draw(0.01, 0.03, 0.01), of: ['referral', 'fulfilment'] },
        ],
        warehouse: { tiers: drawTiers(draw, currency), addOns: { dangerous: m(0.9), oversize: m(3) } },
        storage: drawStorage(draw, currency),
      });
    case 'copperlane':
      return marketplaceCard.parse({
        ...common,
        subscriptionMonthly: m(draw(15, 39, 1)),
        payment: { base: 'buyerPays', pct: draw(0.015, 0.03, 0.005), fixed: m(0.25) },
        categories: categories(() => ({
          base: 'net',
          mode: 'whole',
          tiers: [{ upTo: null, pct: draw(0.06, 0.09, 0.005) }],
        })),
      });
  }
}

/** All starter cards; the same at every call. */
export function starterCards(): StarterCard[] {
  const cards: StarterCard[] = [
    {
      kind: 'exchange',
      key: 'exchange',
      name: 'Example exchange rates',
      inForceFrom: EXAMPLE_RATES.date,
      data: EXAMPLE_RATES,
    },
  ];
  for (const t of drawTaxCards())
    cards.push({ kind: 'tax', key: t.country, name: t.name, inForceFrom: t.inForceFrom, data: t });
  let seed = 100;
  for (const kind of Object.keys(PRESENCE) as Kind[])
    for (const country of PRESENCE[kind]) {
      const card = drawMarketplace(kind, country, seed++);
      cards.push({
        kind: 'marketplace',
        key: `${card.marketplace}/${country}`,
        name: card.name,
        inForceFrom: card.inForceFrom,
        data: card,
      });
    }
  return [...cards, ...drawFreight(), ...drawPostage(), ...drawBenchmarks()];
}
