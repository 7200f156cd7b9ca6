/** Rate cards as a lane reads them: the fees of one marketplace in one country, the taxes of one country, postage. */
import { z } from 'zod';
import {
  country,
  currency,
  day,
  nonNegative,
  orBlank,
  positive,
  rate,
  share,
  shortText,
  twelve,
} from '../money/schema.ts';

export const FEE_BASES = ['item', 'gross', 'net', 'buyerPays'] as const;
export type FeeBase = (typeof FEE_BASES)[number];
export const FEE_KEYS = [
  'referral',
  'itemFee',
  'payment',
  'surcharges',
  'subscription',
  'fulfilment',
  'storage',
] as const;
export type FeeKey = (typeof FEE_KEYS)[number];

const vatTreatment = z.strictObject({
  treatment: z.enum(['charged', 'reverseCharge', 'none']),
  rate: share.default(0),
});
/** Whether a text is an address on the web with one place for a listing's code. */
const isAddressPattern = (text: string): boolean =>
  /^https?:\/\/[^\s{}]+\{code\}[^\s{}]*$/.test(text) && URL.canParse(text.replace('{code}', 'x'));

const cardSource = { name: shortText, inForceFrom: day, note: shortText.default('') };

const rising =
  <T>(pick: (row: T) => number | null) =>
  (rows: T[]) =>
    rows.every((row, i) => {
      const here = pick(row);
      const before = i === 0 ? null : pick(rows[i - 1] as T);
      if (i < rows.length - 1 && here === null) return false;
      return i === 0 || (before !== null && (here === null || here > before));
    });

export const referral = z.strictObject({
  base: z.enum(FEE_BASES),
  mode: z.enum(['whole', 'sliced']),
  tiers: z
    .array(z.strictObject({ upTo: orBlank(positive), pct: share }))
    .min(1)
    .max(20)
    .refine(
      rising((t: { upTo: number | null }) => t.upTo),
      'tiersRise',
    )
    .refine((t) => t[t.length - 1]?.upTo === null, 'lastTierOpen'),
  min: orBlank(nonNegative),
  max: orBlank(nonNegative),
});
export type Referral = z.output<typeof referral>;

/** Weight steps: the first `upToKg` that holds the weight; past the last, so much for each further step. */
export const weightSteps = z.strictObject({
  steps: z
    .array(z.strictObject({ upToKg: positive, fee: nonNegative }))
    .min(1)
    .max(200)
    .refine(
      rising((s: { upToKg: number }) => s.upToKg),
      'stepsRise',
    ),
  stepKg: orBlank(positive),
  stepFee: nonNegative.default(0),
});

export const postageTable = weightSteps.extend({ currency });
/** The same on a lane, where a step may be opened before its postage is known. */
export const openPostageTable = postageTable.extend({
  steps: z
    .array(z.strictObject({ upToKg: positive, fee: orBlank(nonNegative) }))
    .min(1)
    .max(200)
    .refine(
      rising((s: { upToKg: number }) => s.upToKg),
      'stepsRise',
    ),
});

export const sizeTier = z.strictObject({
  name: shortText,
  maxL: orBlank(positive),
  maxW: orBlank(positive),
  maxH: orBlank(positive),
  maxKg: orBlank(positive),
  maxLengthGirth: orBlank(positive),
  divisor: orBlank(positive).meta({
    description: 'cm3 per kg: weight counts as at least the volume over it',
  }),
  packagingKg: nonNegative.default(0),
  bands: z
    .array(z.strictObject({ upToPrice: orBlank(positive), table: weightSteps }))
    .min(1)
    .max(20)
    .refine(
      rising((b: { upToPrice: number | null }) => b.upToPrice),
      'bandsRise',
    )
    .refine((b) => b[b.length - 1]?.upToPrice === null, 'lastBandOpen'),
});
export type SizeTier = z.output<typeof sizeTier>;

export const marketplaceCard = z.strictObject({
  ...cardSource,
  marketplace: shortText,
  country,
  currency,
  /** Address of a listing's page, with {code} where its code stands; blank: not known. */
  listingAddress: z
    .string()
    .max(300)
    .refine((a) => a === '' || isAddressPattern(a), 'addressPattern')
    .default(''),
  categories: z
    .array(z.strictObject({ key: shortText, name: shortText, referral, itemFee: orBlank(nonNegative) }))
    .max(500)
    .refine((c) => new Set(c.map((x) => x.key)).size === c.length, 'categoryKeys'),
  itemFee: nonNegative.default(0),
  payment: orBlank(z.strictObject({ base: z.enum(FEE_BASES), pct: share, fixed: nonNegative.default(0) })),
  surcharges: z
    .array(
      z.strictObject({
        name: shortText,
        pct: share,
        of: z.array(z.enum(['referral', 'itemFee', 'payment', 'fulfilment', 'storage'])).min(1),
      }),
    )
    .max(20)
    .default([]),
  subscriptionMonthly: nonNegative.default(0),
  feeVat: vatTreatment
    .extend({ bears: z.array(z.enum(FEE_KEYS)).default([...FEE_KEYS]) })
    .default({ treatment: 'none', rate: 0, bears: [...FEE_KEYS] }),
  advertVat: vatTreatment.default({ treatment: 'none', rate: 0 }),
  refund: z
    .strictObject({
      adminPct: share.default(0),
      adminMax: orBlank(nonNegative),
      back: z
        .strictObject({
          referral: share.default(1),
          itemFee: share.default(0),
          payment: share.default(0),
          surcharges: share.default(0),
        })
        .default({ referral: 1, itemFee: 0, payment: 0, surcharges: 0 }),
    })
    .default({ adminPct: 0, adminMax: null, back: { referral: 1, itemFee: 0, payment: 0, surcharges: 0 } }),
  warehouse: orBlank(
    z.strictObject({
      tiers: z.array(sizeTier).min(1).max(100),
      addOns: z
        .strictObject({ dangerous: nonNegative.default(0), oversize: nonNegative.default(0) })
        .default({ dangerous: 0, oversize: 0 }),
      peak: orBlank(twelve).meta({ description: 'Peak surcharge per unit by calendar month' }),
    }),
  ),
  storage: orBlank(
    z.strictObject({
      perM3Month: twelve.meta({ description: 'By calendar month' }),
      longStay: z
        .array(z.strictObject({ fromMonths: nonNegative, toMonths: orBlank(positive), rate: nonNegative }))
        .max(20)
        .default([]),
    }),
  ),
  payoutEveryDays: orBlank(nonNegative),
  payoutDelayDays: orBlank(nonNegative),
});
export type MarketplaceCard = z.output<typeof marketplaceCard>;

export const taxCard = z.strictObject({
  ...cardSource,
  country,
  currency,
  regime: z.enum(['inclusive', 'exclusive']),
  vatRates: z.record(shortText, share).meta({ description: 'By tax class, `standard` among them' }),
  importVatRates: orBlank(z.record(shortText, share)).meta({
    description: 'By tax class where they differ from vatRates',
  }),
  checkoutTax: rate
    .default(0)
    .meta({
      description: 'Added at checkout in an exclusive regime; only bases of what the buyer pays read it',
    }),
  customsBasis: z.enum(['CIF', 'FOB']),
  importVatBase: z.enum(['cif', 'customsValue']),
  dutyFreeLimit: orBlank(nonNegative),
  duties: z
    .array(
      z.strictObject({
        heading: z.string().regex(/^\d{0,10}$/, 'headingDigits'),
        origins: orBlank(z.array(country).min(1)),
        pct: rate.default(0),
        perUnit: nonNegative.default(0),
        perKg: nonNegative.default(0),
        additional: z
          .boolean()
          .default(false)
          .meta({ description: 'Comes on top of the base duty instead of replacing it' }),
      }),
    )
    .max(5000)
    .default([]),
  importCharges: z
    .array(
      z.strictObject({
        name: shortText,
        pct: rate.default(0),
        min: orBlank(nonNegative),
        max: orBlank(nonNegative),
        flat: nonNegative.default(0),
      }),
    )
    .max(20)
    .default([]),
});
export type TaxCard = z.output<typeof taxCard>;
