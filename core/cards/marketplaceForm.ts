/** A marketplace's card as sheets of cells. */
import { FEE_BASES, FEE_KEYS } from '../lane/rates.ts';
import type { CellValue, Column } from './cells.ts';
import type { CardOf } from './schema.ts';
import { CARD_SHEET, grouped } from './reader.ts';
import type { Row, Sheet } from './reader.ts';
import { head, rising } from './formParts.ts';
import type { CardForm } from './formParts.ts';
import { col, must, HEAD, TREATMENTS, num, or0 } from './formParts.ts';

// ---- marketplace
// ---------------------------------------------------------------------------------------------------

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
    const categories = r.rows('categories');
    r.unique('categories', categories, ['key']);
    const tiersOf = grouped(r.rows('referralTiers'), (x) => String(x.category));
    const keys = new Set(categories.map((c) => String(c.key)));
    for (const [category, rows] of tiersOf) {
      if (!keys.has(category))
        r.fail(
          'referralTiers',
          (rows[0] as Row).line,
          'category',
          `There is no category "${category}"`,
          'Add it to the sheet categories, or take the row out.',
        );
      rising(r, 'referralTiers', rows, 'upTo', 'tier');
    }
    const out = categories.map((c, i) => {
      const tiers = tiersOf.get(String(c.key)) ?? [];
      // A tier that is there and wrong is said where it stands, not here once more.
      if (tiers.length === 0 && !r.names('referralTiers', 'category', String(c.key)))
        r.fail(
          'categories',
          c.line,
          'key',
          `The category "${c.key}" has no referral tier`,
          'Add a row for it to the sheet referralTiers.',
        );
      r.mark(`categories.${i}`, 'categories', c.line);
      r.mark(`categories.${i}.referral.tiers`, 'referralTiers', tiers[0]?.line ?? 1);
      for (const [j, t] of tiers.entries())
        r.mark(`categories.${i}.referral.tiers.${j}`, 'referralTiers', t.line);
      if (num(c.min) !== null && num(c.max) !== null && (c.min as number) > (c.max as number))
        r.fail(
          'categories',
          c.line,
          'max',
          `The maximum ${c.max} is under the minimum ${c.min}`,
          'Exchange the two, or leave one blank.',
        );
      return {
        key: c.key,
        name: c.name || c.key,
        referral: {
          base: c.base,
          mode: c.mode,
          tiers: tiers.map((t) => ({ upTo: t.upTo, pct: t.pct })),
          min: c.min,
          max: c.max,
        },
        itemFee: c.itemFee,
      };
    });

    const surcharges = r.rows('surcharges');
    for (const [i, s] of surcharges.entries()) r.mark(`surcharges.${i}`, 'surcharges', s.line);

    const sizeTiers = r.rows('sizeTiers');
    r.unique('sizeTiers', sizeTiers, ['name']);
    const stepsOf = grouped(r.rows('weightSteps'), (x) => String(x.tier));
    const names = new Set(sizeTiers.map((t) => String(t.name)));
    for (const [tier, rows] of stepsOf)
      if (!names.has(tier))
        r.fail(
          'weightSteps',
          (rows[0] as Row).line,
          'tier',
          `There is no size tier "${tier}"`,
          'Add it to the sheet sizeTiers, or take the row out.',
        );
    const tiers = sizeTiers.map((t, i) => {
      r.mark(`warehouse.tiers.${i}`, 'sizeTiers', t.line);
      const steps = stepsOf.get(String(t.name)) ?? [];
      if (steps.length === 0)
        r.fail(
          'sizeTiers',
          t.line,
          'name',
          `The size tier "${t.name}" has no fee`,
          'Add rows for it to the sheet weightSteps.',
        );
      const bands = [...grouped(steps, (s) => String(s.priceUpTo ?? ''))];
      rising(
        r,
        'weightSteps',
        bands.map(([, rows]) => rows[0] as Row),
        'priceUpTo',
        'price band',
      );
      return {
        name: t.name,
        maxL: t.maxL,
        maxW: t.maxW,
        maxH: t.maxH,
        maxKg: t.maxKg,
        maxLengthGirth: t.maxLengthGirth,
        divisor: t.divisor,
        packagingKg: or0(t.packagingKg),
        bands: bands.map(([, rows], j) => {
          const further = rows.filter((s) => s.eachFurtherKg !== null);
          const plain = rows.filter((s) => s.eachFurtherKg === null);
          plain.forEach((s, k) => {
            r.mark(`warehouse.tiers.${i}.bands.${j}.table.steps.${k}`, 'weightSteps', s.line);
            const before = plain[k - 1];
            if (s.upToKg === null)
              r.fail(
                'weightSteps',
                s.line,
                'upToKg',
                'The row has neither a weight nor a further step',
                'Write the weight up to which the fee applies.',
              );
            else if (
              before !== undefined &&
              num(before.upToKg) !== null &&
              (s.upToKg as number) <= (before.upToKg as number)
            )
              r.fail(
                'weightSteps',
                s.line,
                'upToKg',
                (s.upToKg as number) === before.upToKg
                  ? `This step ends at ${s.upToKg} kg as row ${before.line} does: the two overlap`
                  : `This step ends at ${s.upToKg} kg, under the ${before.upToKg} kg of row ${before.line}: ` +
                      'they are out of order',
                'Sort the steps by rising weight, each once.',
              );
          });
          further.forEach((s, k) => {
            if (s.upToKg !== null)
              r.fail(
                'weightSteps',
                s.line,
                'eachFurtherKg',
                'A row is either a step up to a weight or a further step',
                'Leave one of the two blank.',
              );
            if (k > 0)
              r.fail(
                'weightSteps',
                s.line,
                'eachFurtherKg',
                `Row ${(further[0] as Row).line} says already what each further step costs`,
                'Keep one of the two rows.',
              );
          });
          if (plain.length === 0)
            r.fail(
              'weightSteps',
              (rows[0] as Row).line,
              'upToKg',
              'There is a further step but no first one',
              'Add a row with a weight and its fee.',
            );
          r.mark(`warehouse.tiers.${i}.bands.${j}`, 'weightSteps', (rows[0] as Row).line);
          return {
            upToPrice: (rows[0] as Row).priceUpTo,
            table: {
              steps: plain.map((s) => ({ upToKg: s.upToKg, fee: s.fee })),
              stepKg: further[0]?.eachFurtherKg ?? null,
              stepFee: or0(further[0]?.fee),
            },
          };
        }),
      };
    });

    const months = r.rows('months');
    r.unique('months', months, ['month']);
    const byMonth = (column: string): (number | null)[] | null => {
      const given = months.filter((m) => m[column] !== null);
      if (given.length === 0) return null;
      const values = Array.from({ length: 12 }, (_, m) =>
        num(months.find((x) => x.month === m + 1)?.[column]),
      );
      const gap = values.indexOf(null);
      if (gap >= 0)
        r.fail(
          'months',
          months.find((x) => x.month === gap + 1)?.line ?? null,
          column,
          `Month ${gap + 1} is missing`,
          'Give all twelve months, or none.',
        );
      return values;
    };
    const storageMonths = byMonth('storagePerM3');
    const peak = byMonth('peakSurcharge');
    if (peak !== null && sizeTiers.length === 0)
      r.fail(
        'months',
        months[0]?.line ?? null,
        'peakSurcharge',
        'There is a peak surcharge but no size tier',
        'Add size tiers, or clear the column.',
      );
    const longStay = r.rows('longStay');
    longStay.forEach((b, i) => {
      r.mark(`storage.longStay.${i}`, 'longStay', b.line);
      const before = longStay[i - 1];
      if (b.toMonths !== null && (b.toMonths as number) <= (b.fromMonths as number))
        r.fail(
          'longStay',
          b.line,
          'toMonths',
          `The band ends at ${b.toMonths} months, not after its start at ${b.fromMonths}`,
          'Write a later end, or leave it blank.',
        );
      if (before === undefined) return;
      if (before.toMonths === null)
        r.fail(
          'longStay',
          b.line,
          'fromMonths',
          `The band of row ${before.line} has no end, so this one overlaps it`,
          'Give that band an end, or take this row out.',
        );
      else if ((b.fromMonths as number) < (before.toMonths as number))
        r.fail(
          'longStay',
          b.line,
          'fromMonths',
          `The band starts at ${b.fromMonths} months, before row ${before.line} ends at ` +
            `${before.toMonths}: they overlap`,
          `Start it at ${before.toMonths}.`,
        );
      else if ((b.fromMonths as number) > (before.toMonths as number))
        r.fail(
          'longStay',
          b.line,
          'fromMonths',
          `From ${before.toMonths} to ${b.fromMonths} months nothing applies: there is a gap after row ${before.line}`,
          `Start it at ${before.toMonths}, or add a row with rate 0.`,
        );
    });
    if (longStay.length > 0 && storageMonths === null)
      r.fail(
        'longStay',
        (longStay[0] as Row).line,
        'rate',
        'There are long-stay rates but no storage by month',
        'Fill the column storagePerM3 of the sheet months.',
      );

    const paymentBase = r.field<string | null>('paymentBase');
    if (paymentBase === null && (or0(r.field('paymentPct')) > 0 || or0(r.field('paymentFixed')) > 0))
      r.fail(
        CARD_SHEET,
        null,
        'paymentBase',
        'There is a payment fee, but not what it is a share of',
        `Use one of: ${FEE_BASES.join(', ')}.`,
      );
    return {
      ...head(r),
      marketplace: r.field('marketplace'),
      country: r.field('country'),
      currency: r.field('currency'),
      categories: out,
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
      storage:
        storageMonths === null
          ? null
          : {
              perM3Month: storageMonths,
              longStay: longStay.map((b) => ({
                fromMonths: b.fromMonths,
                toMonths: b.toMonths,
                rate: b.rate,
              })),
            },
      payoutEveryDays: r.field('payoutEveryDays'),
      payoutDelayDays: r.field('payoutDelayDays'),
    };
  },
};
