/**
 * The demo: Fernhollow Goods, a made-up small company in Leipzig that sells things for garden wildlife and
 * window-sill growing.
 * Suppliers, goods and figures are invented. Barcodes, where they come, are from GS1's demonstration prefix 952.
 */
import type { Way } from '../core/lane/schema.ts';
import type { z } from 'zod';
import type { candidateData, quoteSource } from '../core/workspace/records.ts';
import type { Settings } from '../core/workspace/settings.ts';

export const DEMO = {
  slug: 'fernhollow-goods',
  name: 'Fernhollow Goods',
  person: 'Nora Okafor',
  email: 'nora@fernhollow.example',
} as const;

export const demoSettings: Partial<Settings> = {
  homeCurrency: 'EUR',
  homeCountry: 'DE',
  standings: {
    DE: { kind: 'registered' },
    FR: { kind: 'registered' },
    ES: { kind: 'registered' },
    IT: { kind: 'registered' },
    PL: { kind: 'registered' },
    GB: { kind: 'registered' },
    US: { kind: 'notRegistered' },
    JP: { kind: 'marketplaceRemits', recoverable: false },
    AE: { kind: 'notRegistered' },
  },
  launch: {
    cash: 9000,
    reserve: 1500,
    contingency: 0.08,
    oneOffs: [
      { name: 'Samples', amount: 90 },
      { name: 'Photographs', amount: 260 },
      { name: 'Registrations', amount: 120 },
    ],
    advertising: { kind: 'daily', perDay: 12, days: 30 },
    discounts: { units: 20, discount: 4 },
    monthlyProfitGoal: 1200,
    dailyProfitGoal: null,
    monthlyFixedCosts: 140,
    priceMultiples: { low: 3, high: 5 },
    goodsShareOfLanded: 0.6,
    quantities: [],
  },
};

export const demoSuppliers = [
  {
    key: 'linden',
    name: 'Lindenwerk Holzwaren',
    country: 'PL',
    currency: 'EUR',
    contact: 'export desk',
    notes: 'Larch and spruce; delivers on pallets',
  },
  {
    key: 'haiyu',
    name: 'Haiyu Garden Crafts',
    country: 'CN',
    currency: 'USD',
    contact: 'Ms Bao',
    notes: 'Answers within a day; samples at cost',
  },
  {
    key: 'sowell',
    name: 'Sowell Textile Works',
    country: 'IN',
    currency: 'USD',
    contact: 'sales office',
    notes: 'Jute, coir, cotton',
  },
  {
    key: 'ember',
    name: 'Ember & Slate',
    country: 'GB',
    currency: 'GBP',
    contact: 'trade counter',
    notes: 'Slate roofs, heavy goods',
  },
  {
    key: 'grove',
    name: 'Grosshandel Grüner Winkel',
    country: 'DE',
    currency: 'EUR',
    contact: 'order line',
    notes: 'Wholesale, thousands of items',
  },
  {
    key: 'shelf',
    name: 'Gartenmarkt am Ring',
    country: 'DE',
    currency: 'EUR',
    contact: '',
    notes: 'Shop with a clearance corner',
  },
  {
    key: 'osttor',
    name: 'Osttor Restposten',
    country: 'DE',
    currency: 'EUR',
    contact: '',
    notes: 'Remainders, online',
  },
  {
    key: 'quickpost',
    name: 'Quickpost Versandlager',
    country: 'DE',
    currency: 'EUR',
    contact: 'partner desk',
    notes: 'Ships single parcels for others',
  },
  {
    key: 'anatol',
    name: 'Anatol Brass Foundry',
    country: 'TR',
    currency: 'EUR',
    contact: 'workshop',
    notes: 'Small batches',
  },
] as const;

type SourceInput = z.input<typeof quoteSource>;
export type DemoLane = { market: string; price: number | null; set?: Record<string, unknown> };
export type DemoCandidate = Omit<z.input<typeof candidateData>, 'way'> & {
  way: Way;
  supplier: (typeof demoSuppliers)[number]['key'];
  quote: SourceInput;
  others?: { supplier: (typeof demoSuppliers)[number]['key']; quote: SourceInput }[];
  lanes: DemoLane[];
  dropped?: string;
};

const clicks = (low: number, high: number, conversionRate: number, adShare: number) => ({
  keywords: [{ text: '', low, high, weight: 0.5, conversionRate, expectedClicks: null }],
  adShare,
});
const sells = (units: number) => ({ kind: 'typed', units });
const gate = (passed: boolean, note: string) => ({ passed, note });

export const demoCandidates: DemoCandidate[] = [
  {
    name: 'Bee house, larch, three chambers',
    way: 'ownBrand',
    stage: 'sampling',
    tags: ['spring', 'wood'],
    supplier: 'haiyu',
    product: { sides: [28, 18, 11], kg: 0.85, category: 'wildlife', hsCode: '442199', origin: 'CN' },
    gates: {
      demanded: gate(true, 'Three listings of this kind sell over 150 a month'),
      enterable: gate(true, 'None of the top ten has more than 400 reviews'),
      permitted: null,
    },
    quote: {
      kind: 'quote',
      date: '2026-11-12',
      validUntil: '2027-01-31',
      currency: 'USD',
      incoterm: 'FOB',
      priceBreaks: [
        { minQty: 200, unitPrice: 6.1 },
        { minQty: 400, unitPrice: 5.6 },
        { minQty: 800, unitPrice: 5.15 },
      ],
      minimumOrder: 200,
      extras: [{ name: 'Printed sleeve', amount: 0.15 }],
      perOrder: [{ name: 'Inspection', amount: 120 }],
      oneOffs: [{ name: 'Cutting die', amount: 160 }],
      carton: { units: 20, volumeM3: 0.13, kg: 18.5 },
      leadDays: 32,
      depositShare: 0.3,
    },
    others: [
      {
        supplier: 'linden',
        quote: {
          kind: 'quote',
          date: '2026-11-15',
          validUntil: '2027-03-31',
          currency: 'EUR',
          incoterm: 'DAP',
          firstPrice: 8.9,
          priceBreaks: [
            { minQty: 60, unitPrice: 8.1 },
            { minQty: 300, unitPrice: 7.6 },
          ],
          minimumOrder: 60,
          carton: { units: 10, volumeM3: 0.066, kg: 9.4 },
          leadDays: 14,
          depositShare: 0,
          creditDays: 14,
        },
      },
    ],
    variations: [
      { name: 'Larch, oiled', price: 34.9, cost: null, delivery: null, kg: null, shareOfSales: 0.6, stock: null },
      { name: 'Larch, raw', price: 31.9, cost: 5.2, delivery: null, kg: null, shareOfSales: 0.3, stock: null },
      { name: 'Pair, one box', price: 59.9, cost: 11.4, delivery: null, kg: 1.7, shareOfSales: 0.1, stock: null },
    ],
    lanes: [
      {
        market: 'Alderway/DE',
        price: 34.9,
        set: { orderQuantity: 400, demand: sells(110), adverts: clicks(0.45, 0.75, 0.11, 0.4) },
      },
      {
        market: 'Alderway/FR',
        price: 34.9,
        set: { orderQuantity: 400, demand: sells(70), adverts: clicks(0.45, 0.8, 0.1, 0.4) },
      },
      {
        market: 'Alderway/ES',
        price: 32.9,
        set: { orderQuantity: 400, demand: sells(45), adverts: clicks(0.3, 0.6, 0.09, 0.4) },
      },
      {
        market: 'Alderway/IT',
        price: 33.9,
        set: { orderQuantity: 400, demand: sells(50), adverts: clicks(0.3, 0.6, 0.09, 0.4) },
      },
      {
        market: 'Alderway/PL',
        price: 129,
        set: { orderQuantity: 400, demand: sells(40), adverts: clicks(1.2, 2.2, 0.1, 0.4) },
      },
      {
        market: 'Alderway/GB',
        price: 29.99,
        set: { orderQuantity: 400, demand: sells(90), adverts: clicks(0.5, 0.9, 0.1, 0.4) },
      },
      {
        market: 'Alderway/US',
        price: 27.99,
        set: { orderQuantity: 400, demand: sells(120), adverts: clicks(0.9, 1.6, 0.09, 0.6) },
      },
      {
        market: 'Copperlane/JP',
        price: 4980,
        set: { orderQuantity: 400, demand: sells(30), adverts: clicks(40, 80, 0.08, 0.4) },
      },
      {
        market: 'Sundra/AE',
        price: 119,
        set: { orderQuantity: 400, demand: sells(15), adverts: clicks(1, 2, 0.08, 0.4) },
      },
    ],
  },
  {
    name: 'Moss pole, bendable, 60 cm',
    way: 'ownBrand',
    stage: 'checking',
    tags: ['indoor'],
    supplier: 'sowell',
    product: { sides: [62, 8, 8], kg: 0.38, category: 'growing', hsCode: '460219', origin: 'IN' },
    gates: { demanded: gate(true, 'Steady all year'), enterable: null, permitted: null },
    quote: {
      kind: 'quote',
      date: '2026-11-03',
      validUntil: '2027-02-28',
      currency: 'USD',
      incoterm: 'FOB',
      priceBreaks: [
        { minQty: 300, unitPrice: 1.9 },
        { minQty: 1000, unitPrice: 1.62 },
      ],
      minimumOrder: 300,
      carton: { units: 30, volumeM3: 0.14, kg: 13 },
      leadDays: 28,
      depositShare: 0.5,
    },
    lanes: [
      {
        market: 'Alderway/ES',
        price: 18.9,
        set: { orderQuantity: 600, demand: sells(160), adverts: clicks(0.25, 0.45, 0.12, 0.35) },
      },
      {
        market: 'Alderway/DE',
        price: 17.9,
        set: { orderQuantity: 600, demand: sells(190), adverts: clicks(0.4, 0.7, 0.12, 0.4) },
      },
      {
        market: 'Nordkai/PL',
        price: 69,
        set: { orderQuantity: 600, demand: sells(60), adverts: clicks(0.8, 1.4, 0.1, 0.3) },
      },
    ],
  },
  {
    name: 'Seed-starting kit, 24 cells with lid',
    way: 'ownBrand',
    stage: 'checking',
    tags: ['spring', 'indoor'],
    supplier: 'haiyu',
    product: { sides: [38, 25, 9], kg: 0.62, category: 'growing', hsCode: '392490', origin: 'CN' },
    gates: {
      demanded: gate(true, 'Peaks from January to April'),
      enterable: gate(false, 'One shop holds six of the first ten places'),
      permitted: null,
    },
    quote: {
      kind: 'quote',
      date: '2026-10-28',
      validUntil: '2026-12-31',
      currency: 'USD',
      incoterm: 'FOB',
      priceBreaks: [{ minQty: 500, unitPrice: 3.3 }],
      minimumOrder: 500,
      carton: { units: 16, volumeM3: 0.12, kg: 11 },
      leadDays: 25,
      depositShare: 0.3,
    },
    lanes: [
      {
        market: 'Sundra/DE',
        price: 22.9,
        set: {
          orderQuantity: 512,
          demand: sells(120),
          season: [2, 2.4, 2.6, 1.6, 0.8, 0.4, 0.2, 0.2, 0.3, 0.4, 0.5, 0.6],
          adverts: clicks(0.5, 0.9, 0.1, 0.5),
        },
      },
      {
        market: 'Alderway/DE',
        price: 22.9,
        set: {
          orderQuantity: 512,
          demand: sells(180),
          season: [2, 2.4, 2.6, 1.6, 0.8, 0.4, 0.2, 0.2, 0.3, 0.4, 0.5, 0.6],
          adverts: clicks(0.55, 0.95, 0.1, 0.5),
        },
      },
      {
        market: 'Alderway/GB',
        price: 19.99,
        set: { orderQuantity: 512, demand: sells(150), adverts: clicks(0.5, 0.9, 0.1, 0.5) },
      },
    ],
  },
  {
    name: 'Hedgehog shelter, slate roof',
    way: 'ownBrand',
    stage: 'checking',
    tags: ['autumn', 'heavy'],
    supplier: 'ember',
    product: { sides: [48, 36, 26], kg: 6.4, category: 'wildlife', hsCode: '442199', origin: 'GB', oversize: true },
    gates: {
      demanded: gate(true, 'September to November'),
      enterable: gate(true, 'Few rivals at this size'),
      permitted: gate(true, 'Nothing to ask for'),
    },
    quote: {
      kind: 'quote',
      date: '2026-09-15',
      validUntil: '2026-10-31',
      currency: 'GBP',
      incoterm: 'FCA',
      priceBreaks: [
        { minQty: 60, unitPrice: 17.5 },
        { minQty: 150, unitPrice: 15.8 },
      ],
      minimumOrder: 60,
      carton: { units: 2, volumeM3: 0.1, kg: 13.4 },
      leadDays: 21,
      depositShare: 0.5,
    },
    lanes: [
      {
        market: 'Alderway/GB',
        price: 64.99,
        set: { orderQuantity: 150, demand: sells(35), adverts: clicks(0.4, 0.7, 0.09, 0.3) },
      },
      {
        market: 'Nordkai/DE',
        price: 74.9,
        set: { orderQuantity: 150, demand: sells(20), adverts: clicks(0.3, 0.6, 0.08, 0.25) },
      },
    ],
  },
  {
    name: 'Window feeder, two suction rails',
    way: 'ownBrand',
    stage: 'idea',
    tags: ['gift'],
    supplier: 'haiyu',
    product: { sides: [31, 16, 14], kg: 0.55, category: 'wildlife', hsCode: '392690', origin: 'CN' },
    quote: {
      kind: 'quote',
      date: '2026-11-18',
      validUntil: '2027-02-15',
      currency: 'USD',
      incoterm: 'FOB',
      priceBreaks: [{ minQty: 300, unitPrice: 4.4 }],
      minimumOrder: 300,
      carton: { units: 24, volumeM3: 0.19, kg: 15 },
      leadDays: 30,
      depositShare: 0.3,
    },
    lanes: [
      {
        market: 'Alderway/DE',
        price: 21.9,
        set: { orderQuantity: 312, demand: sells(90), adverts: clicks(0.7, 1.3, 0.1, 0.55) },
      },
      {
        market: 'Nordkai/FR',
        price: 23.9,
        set: { orderQuantity: 312, demand: sells(40), adverts: clicks(0.4, 0.7, 0.08, 0.4) },
      },
    ],
  },
  {
    name: 'Rain gauge, brass, on a stake',
    way: 'ownBrand',
    stage: 'idea',
    tags: ['gift', 'metal'],
    supplier: 'anatol',
    product: { sides: [44, 9, 9], kg: 0.72, category: 'garden', hsCode: '902680', origin: 'TR' },
    quote: {
      kind: 'quote',
      date: '2026-11-20',
      currency: 'EUR',
      incoterm: 'DAP',
      priceBreaks: [{ minQty: 100, unitPrice: 8.4 }],
      carton: { units: 12, volumeM3: 0.05, kg: 9.5 },
    },
    lanes: [{ market: 'Alderway/IT', price: 34.9, set: { orderQuantity: 120, adverts: null, demand: null } }],
  },
  {
    name: 'Propagation tray, steel, four pieces',
    way: 'ownBrand',
    stage: 'idea',
    tags: ['metal'],
    supplier: 'haiyu',
    product: { sides: [52, 30, 12], kg: 3.1, category: 'growing', hsCode: '732690', origin: 'CN' },
    quote: {
      kind: 'quote',
      date: '2026-11-05',
      currency: 'USD',
      incoterm: 'FOB',
      priceBreaks: [{ minQty: 200, unitPrice: 9.8 }],
      carton: { units: 6, volumeM3: 0.13, kg: 19.5 },
      leadDays: 30,
    },
    lanes: [
      {
        market: 'Alderway/JP',
        price: 4480,
        set: { orderQuantity: 240, demand: sells(25), adverts: clicks(50, 90, 0.07, 0.5) },
      },
      {
        market: 'Alderway/DE',
        price: 29.9,
        set: { orderQuantity: 240, demand: sells(30), adverts: clicks(0.4, 0.8, 0.08, 0.5) },
      },
    ],
  },
  {
    name: 'Willow arch, 240 cm',
    way: 'ownBrand',
    stage: 'idea',
    tags: ['wood', 'long'],
    supplier: 'linden',
    product: { sides: [240, 45, 18], kg: 9.5, category: 'garden', hsCode: '460219', origin: 'PL', oversize: true },
    quote: {
      kind: 'quote',
      date: '2026-11-10',
      currency: 'EUR',
      incoterm: 'DAP',
      priceBreaks: [{ minQty: 50, unitPrice: 21 }],
    },
    lanes: [{ market: 'Alderway/DE', price: 89, set: { orderQuantity: 60, demand: sells(15) } }],
  },
  {
    name: 'Suet balls, tub of 50',
    way: 'wholesale',
    stage: 'ordering',
    tags: ['repeat', 'winter'],
    supplier: 'grove',
    product: { sides: [27, 27, 24], kg: 4.6, category: 'wildlife', hsCode: '230990', origin: 'DE' },
    gates: {
      demanded: gate(true, 'Sold 40 a month last winter'),
      enterable: gate(true, 'Own listing'),
      permitted: gate(true, 'Feed label checked'),
    },
    quote: {
      kind: 'quote',
      date: '2026-11-01',
      validUntil: '2026-12-31',
      currency: 'EUR',
      incoterm: 'DAP',
      vat: 'added',
      vatRate: 0.07,
      priceBreaks: [
        { minQty: 24, unitPrice: 6.2 },
        { minQty: 96, unitPrice: 5.75 },
      ],
      minimumOrder: 24,
      carton: { units: 4, volumeM3: 0.075, kg: 19 },
      leadDays: 3,
      creditDays: 30,
      depositShare: 0,
    },
    lanes: [
      { market: 'Nordkai/DE', price: 19.9, set: { orderQuantity: 96, demand: sells(45) } },
      { market: 'Alderway/DE', price: 21.9, set: { orderQuantity: 96, demand: sells(60) } },
    ],
  },
  {
    name: 'Coir pots, 8 cm, pack of 48',
    way: 'wholesale',
    stage: 'checking',
    tags: ['spring'],
    supplier: 'grove',
    product: { sides: [36, 26, 17], kg: 1.1, category: 'growing', hsCode: '460219', origin: 'DE' },
    quote: {
      kind: 'quote',
      date: '2026-11-01',
      validUntil: '2026-12-31',
      currency: 'EUR',
      incoterm: 'DAP',
      vat: 'added',
      vatRate: 0.19,
      priceBreaks: [{ minQty: 20, unitPrice: 5.1 }],
      carton: { units: 10, volumeM3: 0.17, kg: 11.5 },
      leadDays: 3,
    },
    lanes: [{ market: 'Copperlane/DE', price: 18.9, set: { orderQuantity: 40, demand: sells(30) } }],
  },
  {
    name: 'Nest box camera, clearance',
    way: 'retail',
    stage: 'checking',
    tags: ['clearance'],
    supplier: 'shelf',
    product: { sides: [18, 12, 9], kg: 0.6, category: 'wildlife', hsCode: '852589', origin: 'DE' },
    gates: {
      demanded: gate(true, 'Sells ten a week at full price'),
      enterable: null,
      permitted: gate(true, 'Open listing'),
    },
    quote: {
      kind: 'retail',
      date: '2026-11-21',
      currency: 'EUR',
      shelfPrice: 59.95,
      discounts: [
        { kind: 'percent', share: 0.4 },
        { kind: 'coupon', amount: 10, covers: 2 },
      ],
      vat: 'included',
      vatRate: 0.19,
      giftCard: { discount: 0.04, part: 1 },
      cashback: { share: 0.03 },
      stock: 18,
    },
    others: [
      {
        supplier: 'osttor',
        quote: {
          kind: 'retail',
          date: '2026-11-22',
          validUntil: '2026-12-05',
          currency: 'EUR',
          shelfPrice: 54.9,
          discounts: [
            { kind: 'coupon', amount: 12, covers: 1 },
            { kind: 'percent', share: 0.25 },
          ],
          vat: 'included',
          vatRate: 0.19,
          delivery: { amount: 5.9, currency: 'EUR', vat: 'included', vatRate: 0.19 },
          stock: 7,
          exclusions: 'No coupon on cameras already reduced',
        },
      },
    ],
    lanes: [
      { market: 'Alderway/DE', price: 64.9, set: { orderQuantity: 6, demand: sells(12) } },
      { market: 'Nordkai/DE', price: 59.9, set: { orderQuantity: 6, demand: sells(6) } },
    ],
  },
  {
    name: 'Copper plant labels, tin of 20',
    way: 'retail',
    stage: 'checking',
    tags: ['clearance', 'gift'],
    supplier: 'shelf',
    product: { sides: [16, 11, 4], kg: 0.24, category: 'garden', hsCode: '741980', origin: 'DE' },
    quote: {
      kind: 'retail',
      date: '2026-11-21',
      currency: 'EUR',
      shelfPrice: 14.95,
      discounts: [{ kind: 'percent', share: 0.3 }],
      vat: 'included',
      vatRate: 0.19,
    },
    lanes: [{ market: 'Alderway/DE', price: 17.9, set: { orderQuantity: 10, demand: sells(15) } }],
  },
  {
    name: 'Rain barrel tap kit',
    way: 'supplierShips',
    stage: 'selling',
    tags: ['repeat'],
    supplier: 'quickpost',
    product: { sides: [22, 15, 7], kg: 0.4, category: 'garden', hsCode: '848180', origin: 'DE' },
    gates: {
      demanded: gate(true, 'Eleven sold last month'),
      enterable: gate(true, 'Own listing'),
      permitted: gate(true, 'Nothing to ask for'),
    },
    quote: {
      kind: 'quote',
      date: '2026-10-10',
      currency: 'EUR',
      incoterm: 'EXW',
      vat: 'added',
      vatRate: 0.19,
      priceBreaks: [{ minQty: 0, unitPrice: 9.9 }],
    },
    lanes: [
      {
        market: 'Nordkai/DE',
        price: 27.9,
        set: {
          demand: sells(25),
          supplierDelivery: { amount: 3.9, currency: 'EUR', vat: 'added', vatRate: 0.19, recoverable: null },
        },
      },
      {
        market: 'Copperlane/DE',
        price: 26.9,
        set: {
          demand: sells(12),
          supplierDelivery: { amount: 3.9, currency: 'EUR', vat: 'added', vatRate: 0.19, recoverable: null },
        },
      },
    ],
  },
  {
    name: 'Trellis netting, 2 × 10 m',
    way: 'supplierShips',
    stage: 'idea',
    tags: [],
    supplier: 'quickpost',
    product: { sides: [30, 20, 10], kg: 0.9, category: 'garden', hsCode: '560890', origin: 'DE' },
    quote: {
      kind: 'quote',
      date: '2026-10-10',
      currency: 'EUR',
      incoterm: 'EXW',
      vat: 'added',
      vatRate: 0.19,
      priceBreaks: [{ minQty: 0, unitPrice: 7.6 }],
    },
    lanes: [
      {
        market: 'Nordkai/DE',
        price: 14.9,
        set: {
          demand: sells(18),
          supplierDelivery: { amount: 3.9, currency: 'EUR', vat: 'added', vatRate: 0.19, recoverable: null },
        },
      },
    ],
  },
  {
    name: 'Bat guide, second-hand hardback',
    way: 'feeCheck',
    stage: 'checking',
    tags: ['in the hand'],
    supplier: 'shelf',
    product: { sides: [25, 18, 3], kg: 0.7, category: 'books', taxClass: 'reduced', hsCode: '490199', origin: 'DE' },
    quote: { kind: 'retail', date: '2026-11-22', currency: 'EUR', shelfPrice: 3.5 },
    lanes: [{ market: 'Nordkai/DE', price: 12.9 }],
  },
  {
    name: 'Terracotta olla, 2 litres',
    way: 'ownBrand',
    stage: 'idea',
    tags: ['summer', 'fragile'],
    supplier: 'anatol',
    dropped: 'One in six broke on the way',
    product: { sides: [24, 24, 26], kg: 2.3, category: 'garden', hsCode: '691410', origin: 'TR' },
    quote: {
      kind: 'quote',
      date: '2026-10-02',
      currency: 'EUR',
      incoterm: 'FOB',
      priceBreaks: [{ minQty: 200, unitPrice: 4.9 }],
      carton: { units: 8, volumeM3: 0.14, kg: 19.5 },
      leadDays: 40,
    },
    lanes: [
      {
        market: 'Alderway/DE',
        price: 27.9,
        set: { orderQuantity: 200, demand: sells(40), breakage: 0.16, adverts: clicks(0.4, 0.7, 0.09, 0.5) },
      },
    ],
  },
];
