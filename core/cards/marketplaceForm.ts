/** A marketplace's card as sheets of cells. */
import { FEE_BASES, FEE_KEYS } from './rates.ts';
import type { CellValue, Column } from './cells.ts';
import type { CardOf } from './schema.ts';
import { CARD_SHEET } from './reader.ts';
import type { Sheet } from './reader.ts';
import { readCategories, readLongStay, readMonths, readSizeTiers } from './marketplaceSheets.ts';
import { head } from './formParts.ts';
import type { CardForm } from './formParts.ts';
import { col, must, HEAD, TREATMENTS, or0 } from './formParts.ts';
import { fault } from '../fault.ts';

const marketplaceFields: readonly Column[] = [
  ...HEAD,
  col('marketplace', 'text', must),
  col('country', 'country', must),
  col('currency', 'currency', must),
  col('itemFee', 'number'),
  col('paymentBase', 'choice', { choices: FEE_BASES }),
  col('paymentPct', 'share'),
  col('paymentFixed', 'number'),
  col('subscriptionMonthly', 'number'),
  col('feeVat', 'choice', { choices: TREATMENTS, ...must }),
  col('feeVatRate', 'share'),
  col('feeVatBears', 'choices', { choices: FEE_KEYS }),
  col('advertVat', 'choice', { choices: TREATMENTS, ...must }),
  col('advertVatRate', 'share'),
  col('refundAdminPct', 'share'),
  col('refundAdminMax', 'number'),
  col('backReferral', 'share'),
  col('backItemFee', 'share'),
  col('backPayment', 'share'),
  col('backSurcharges', 'share'),
  col('addOnDangerous', 'number'),
  col('addOnOversize', 'number'),
  col('payoutEveryDays', 'days'),
  col('payoutDelayDays', 'days'),
  col('listingAddress', 'text'),
];

const marketplaceSheets: readonly Sheet[] = [
  {
    key: 'categories',
    identity: 1,
    columns: [
      col('key', 'text', must),
      col('name', 'text'),
      col('base', 'choice', { choices: FEE_BASES, ...must }),
      col('mode', 'choice', { choices: ['whole', 'sliced'], ...must }),
      col('min', 'number'),
      col('max', 'number'),
      col('itemFee', 'number'),
    ],
  },
  {
    key: 'referralTiers',
    identity: 2,
    columns: [col('category', 'text', must), col('upTo', 'number'), col('pct', 'share', must)],
  },
  {
    key: 'surcharges',
    identity: 1,
    columns: [
      col('name', 'text', must),
      col('pct', 'share', must),
      col('of', 'choices', { choices: ['referral', 'itemFee', 'payment', 'fulfilment', 'storage'], ...must }),
    ],
  },
  {
    key: 'sizeTiers',
    identity: 1,
    columns: [
      col('name', 'text', must),
      col('maxL', 'number'),
      col('maxW', 'number'),
      col('maxH', 'number'),
      col('maxKg', 'number'),
      col('maxLengthGirth', 'number'),
      col('divisor', 'number', { aboveZero: true }),
      col('packagingKg', 'number'),
    ],
  },
  {
    key: 'weightSteps',
    identity: 4,
    columns: [
      col('tier', 'text', must),
      col('priceUpTo', 'number'),
      col('upToKg', 'number'),
      col('eachFurtherKg', 'number'),
      col('fee', 'number', must),
    ],
  },
  {
    key: 'months',
    identity: 1,
    columns: [col('month', 'month', must), col('storagePerM3', 'number'), col('peakSurcharge', 'number')],
  },
  {
    key: 'longStay',
    identity: 1,
    columns: [col('fromMonths', 'number', must), col('toMonths', 'number'), col('rate', 'number', must)],
  },
];

export const marketplaceForm: CardForm = {
  first: {
    categories: [['all', 'Everything', 'gross', 'whole', '', '', '']],
    referralTiers: [['all', '', '']],
  },
  fields: marketplaceFields,
  sheets: marketplaceSheets,
  write(data) {
    const c = data as CardOf<'marketplace'>;
    const back = c.refund.back;
    const steps: CellValue[][] = [];
    for (const t of c.warehouse?.tiers ?? [])
      for (const b of t.bands) {
        for (const s of b.table.steps) steps.push([t.name, b.upToPrice, s.upToKg, null, s.fee]);
        if (b.table.stepKg !== null) steps.push([t.name, b.upToPrice, null, b.table.stepKg, b.table.stepFee]);
      }
    const months = c.storage !== null || c.warehouse?.peak != null;
    return {
      fields: {
        name: c.name,
        inForceFrom: c.inForceFrom,
        note: c.note,
        marketplace: c.marketplace,
        country: c.country,
        currency: c.currency,
        itemFee: c.itemFee,
        paymentBase: c.payment?.base ?? null,
        paymentPct: c.payment?.pct ?? null,
        paymentFixed: c.payment?.fixed ?? null,
        subscriptionMonthly: c.subscriptionMonthly,
        feeVat: c.feeVat.treatment,
        feeVatRate: c.feeVat.rate,
        feeVatBears: c.feeVat.bears,
        advertVat: c.advertVat.treatment,
        advertVatRate: c.advertVat.rate,
        refundAdminPct: c.refund.adminPct,
        refundAdminMax: c.refund.adminMax,
        backReferral: back.referral,
        backItemFee: back.itemFee,
        backPayment: back.payment,
        backSurcharges: back.surcharges,
        addOnDangerous: c.warehouse?.addOns.dangerous ?? null,
        addOnOversize: c.warehouse?.addOns.oversize ?? null,
        payoutEveryDays: c.payoutEveryDays,
        payoutDelayDays: c.payoutDelayDays,
        listingAddress: c.listingAddress,
      },
      sheets: {
        categories: c.categories.map((x) => [
          x.key,
          x.name,
          x.referral.base,
          x.referral.mode,
          x.referral.min,
          x.referral.max,
          x.itemFee,
        ]),
        referralTiers: c.categories.flatMap((x) => x.referral.tiers.map((t) => [x.key, t.upTo, t.pct])),
        surcharges: c.surcharges.map((s) => [s.name, s.pct, s.of]),
        sizeTiers: (c.warehouse?.tiers ?? []).map((t) => [
          t.name,
          t.maxL,
          t.maxW,
          t.maxH,
          t.maxKg,
          t.maxLengthGirth,
          t.divisor,
          t.packagingKg,
        ]),
        weightSteps: steps,
        months: months
          ? Array.from({ length: 12 }, (_, m) => [
              m + 1,
              c.storage?.perM3Month[m] ?? null,
              c.warehouse?.peak?.[m] ?? null,
            ])
          : [],
        longStay: (c.storage?.longStay ?? []).map((b) => [b.fromMonths, b.toMonths, b.rate]),
      },
    };
  },
  read(r) {
    const categories = readCategories(r);
    const surcharges = r.rows('surcharges');
    for (const [i, s] of surcharges.entries()) r.mark(`surcharges.${i}`, 'surcharges', s.line);

    const tiers = readSizeTiers(r);
    const { storageMonths, peak } = readMonths(r, tiers.length > 0);
    const longStay = readLongStay(r, storageMonths !== null);

    const paymentBase = r.field<string | null>('paymentBase');
    if (paymentBase === null && (or0(r.field('paymentPct')) > 0 || or0(r.field('paymentFixed')) > 0))
      r.fail(CARD_SHEET, null, 'paymentBase', fault('paymentBase', { choices: FEE_BASES.join(', ') }));
    return {
      ...head(r),
      marketplace: r.field('marketplace'),
      country: r.field('country'),
      currency: r.field('currency'),
      listingAddress: r.field('listingAddress') ?? '',
      categories,
      itemFee: or0(r.field('itemFee')),
      payment:
        paymentBase === null
          ? null
          : { base: paymentBase, pct: or0(r.field('paymentPct')), fixed: or0(r.field('paymentFixed')) },
      surcharges: surcharges.map((s) => ({ name: s.name, pct: s.pct, of: s.of })),
      subscriptionMonthly: or0(r.field('subscriptionMonthly')),
      feeVat: {
        treatment: r.field('feeVat'),
        rate: or0(r.field('feeVatRate')),
        bears: r.field('feeVatBears') ?? [],
      },
      advertVat: { treatment: r.field('advertVat'), rate: or0(r.field('advertVatRate')) },
      refund: {
        adminPct: or0(r.field('refundAdminPct')),
        adminMax: r.field('refundAdminMax'),
        back: {
          referral: or0(r.field('backReferral')),
          itemFee: or0(r.field('backItemFee')),
          payment: or0(r.field('backPayment')),
          surcharges: or0(r.field('backSurcharges')),
        },
      },
      warehouse:
        tiers.length === 0
          ? null
          : {
              tiers,
              addOns: { dangerous: or0(r.field('addOnDangerous')), oversize: or0(r.field('addOnOversize')) },
              peak,
            },
      storage: storageMonths === null ? null : { perM3Month: storageMonths, longStay },
      payoutEveryDays: r.field('payoutEveryDays'),
      payoutDelayDays: r.field('payoutDelayDays'),
    };
  },
};
