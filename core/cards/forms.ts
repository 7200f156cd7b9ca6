/**
 * Each kind of card as sheets of cells, and back. What is written reads back as the same card, to the last digit.
 * Reading
 * checks what belongs to rows (tiers in order, no gap, no overlap, keys that stand once); what belongs to single
 * values stands
 * in the schemas.
 */
import { FEE_BASES, FEE_KEYS } from '../lane/rates.ts';
import { FREIGHT_BASES, STAGES } from '../lane/schema.ts';
import type { CellValue, Column, ColumnKind } from './cells.ts';
import type { BenchmarkCard, CardData, CardKind, CardOf, FreightCard, PostageCard } from './schema.ts';
import { CARD_SHEET, grouped } from './reader.ts';
import type { Reader, Row, Sheet } from './reader.ts';

export type Written = { fields: Record<string, CellValue>; sheets: Record<string, CellValue[][]> };
export type CardForm = {
  readonly fields: readonly Column[];
  readonly sheets: readonly Sheet[];
  write(data: CardData): Written;
  /** The card as the reader's cells give it, to be validated; marks where each part came from. */
  read(r: Reader): unknown;
  /**
   * A part of the card whose rows may be thousands and are checked wholly by their cells, so that the schema need not
   * again.
   */
  readonly many?: string;
};

const col = (key: string, kind: ColumnKind, more: Partial<Column> = {}): Column => ({ key, kind, ...more });
const must = { required: true } as const;
const HEAD: readonly Column[] = [col('name', 'text', must), col('inForceFrom', 'day', must), col('note', 'text')];
const VAT_ON: readonly Column[] = [
  col('vat', 'choice', { choices: ['none', 'included', 'added'], ...must }),
  col('vatRate', 'rate'),
  col('recoverable', 'yesNo'),
];
const TREATMENTS = ['charged', 'reverseCharge', 'none'];
const head = (r: Reader) => ({
  name: r.field('name'),
  inForceFrom: r.field('inForceFrom'),
  note: r.field('note') ?? '',
});
const num = (x: unknown): number | null => (typeof x === 'number' ? x : null);
const or0 = (x: unknown): number => (typeof x === 'number' ? x : 0);

/** Checks that limits rise from row to row and that only the last is open; says which row overlaps or leaves a gap. */
function rising(r: Reader, sheet: string, rows: readonly Row[], column: string, what: string): void {
  rows.forEach((row, i) => {
    const here = num(row[column]);
    const before = i === 0 ? null : num((rows[i - 1] as Row)[column]);
    if (i > 0 && before === null)
      r.fail(
        sheet,
        row.line,
        column,
        `This ${what} stands after the open one of row ${(rows[i - 1] as Row).line}, so it would never apply`,
        'Put the open row (no limit) last.',
      );
    else if (here !== null && before !== null && here === before)
      r.fail(
        sheet,
        row.line,
        column,
        `This ${what} ends at ${here} as row ${(rows[i - 1] as Row).line} does: the two overlap`,
        'Keep one of the two, or change a limit.',
      );
    else if (here !== null && before !== null && here < before)
      r.fail(
        sheet,
        row.line,
        column,
        `This ${what} ends at ${here}, under the ${before} of row ${(rows[i - 1] as Row).line}: they are out of order`,
        'Sort the rows by rising limit.',
      );
  });
  const last = rows[rows.length - 1];
  if (last !== undefined && num(last[column]) !== null)
    r.fail(
      sheet,
      last.line,
      column,
      `Nothing applies above ${last[column]}: the last ${what} leaves a gap`,
      'Leave the limit of the last row blank.',
    );
}

// ---- marketplace ---------------------------------------------------------------------------------------------------

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

const marketplaceForm: CardForm = {
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
      if (tiers.length === 0)
        r.fail(
          'categories',
          c.line,
          'key',
          `The category "${c.key}" has no referral tier`,
          'Add a row for it to the sheet referralTiers.',
        );
      r.mark(`categories.${i}`, 'categories', c.line);
      r.mark(`categories.${i}.referral.tiers`, 'referralTiers', tiers[0]?.line ?? 1);
      for (const [j, t] of tiers.entries()) r.mark(`categories.${i}.referral.tiers.${j}`, 'referralTiers', t.line);
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
                  : `This step ends at ${s.upToKg} kg, under the ${before.upToKg} kg of row ${before.line}: they are out of order`,
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
      const values = Array.from({ length: 12 }, (_, m) => num(months.find((x) => x.month === m + 1)?.[column]));
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
          `The band starts at ${b.fromMonths} months, before row ${before.line} ends at ${before.toMonths}: they overlap`,
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
      feeVat: { treatment: r.field('feeVat'), rate: or0(r.field('feeVatRate')), bears: r.field('feeVatBears') ?? [] },
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
              longStay: longStay.map((b) => ({ fromMonths: b.fromMonths, toMonths: b.toMonths, rate: b.rate })),
            },
      payoutEveryDays: r.field('payoutEveryDays'),
      payoutDelayDays: r.field('payoutDelayDays'),
    };
  },
};

// ---- tax -----------------------------------------------------------------------------------------------------------

const taxForm: CardForm = {
  many: 'duties',
  fields: [
    ...HEAD,
    col('country', 'country', must),
    col('currency', 'currency', must),
    col('regime', 'choice', { choices: ['inclusive', 'exclusive'], ...must }),
    col('checkoutTax', 'rate'),
    col('customsBasis', 'choice', { choices: ['CIF', 'FOB'], ...must }),
    col('importVatBase', 'choice', { choices: ['cif', 'customsValue'], ...must }),
    col('importVatRates', 'choice', { choices: ['asVat', 'own'], ...must }),
    col('dutyFreeLimit', 'number'),
  ],
  sheets: [
    {
      key: 'vatRates',
      identity: 1,
      columns: [col('taxClass', 'text', must), col('vatRate', 'share'), col('importVatRate', 'share')],
    },
    {
      key: 'duties',
      identity: 3,
      columns: [
        col('heading', 'digits'),
        col('origins', 'countries'),
        col('additional', 'yesNo'),
        col('pct', 'rate'),
        col('perUnit', 'number'),
        col('perKg', 'number'),
      ],
    },
    {
      key: 'importCharges',
      identity: 1,
      columns: [
        col('name', 'text', must),
        col('pct', 'rate'),
        col('min', 'number'),
        col('max', 'number'),
        col('flat', 'number'),
      ],
    },
  ],
  write(data) {
    const c = data as CardOf<'tax'>;
    const classes = [...new Set([...Object.keys(c.vatRates), ...Object.keys(c.importVatRates ?? {})])];
    return {
      fields: {
        name: c.name,
        inForceFrom: c.inForceFrom,
        note: c.note,
        country: c.country,
        currency: c.currency,
        regime: c.regime,
        checkoutTax: c.checkoutTax,
        customsBasis: c.customsBasis,
        importVatBase: c.importVatBase,
        importVatRates: c.importVatRates === null ? 'asVat' : 'own',
        dutyFreeLimit: c.dutyFreeLimit,
      },
      sheets: {
        vatRates: classes.map((k) => [k, c.vatRates[k] ?? null, c.importVatRates?.[k] ?? null]),
        duties: c.duties.map((d) => [d.heading, d.origins, d.additional, d.pct, d.perUnit, d.perKg]),
        importCharges: c.importCharges.map((x) => [x.name, x.pct, x.min, x.max, x.flat]),
      },
    };
  },
  read(r) {
    const classes = r.rows('vatRates');
    r.unique('vatRates', classes, ['taxClass']);
    classes.forEach((c, i) => {
      r.mark(`vatRates.${c.taxClass}`, 'vatRates', c.line, 'vatRate');
      if (c.vatRate === null && c.importVatRate === null)
        r.fail(
          'vatRates',
          c.line,
          'vatRate',
          `The class "${c.taxClass}" has no rate`,
          'Write a percentage such as 19%, or take the row out.',
        );
      r.mark(`importVatRates.${i}`, 'vatRates', c.line, 'importVatRate');
    });
    const own = r.field('importVatRates') === 'own';
    const stray = classes.find((c) => c.importVatRate !== null);
    if (!own && stray !== undefined)
      r.fail(
        'vatRates',
        stray.line,
        'importVatRate',
        'There is a rate for import VAT, but the card says that it goes by the VAT rates',
        'Write "own" in the field importVatRates, or clear the column.',
      );
    const duties = r.rows('duties');
    r.unique(
      'duties',
      duties.filter((d) => d.additional !== true),
      ['heading', 'origins'],
    );
    r.markRows('duties', duties);
    const charges = r.rows('importCharges');
    charges.forEach((x, i) => {
      r.mark(`importCharges.${i}`, 'importCharges', x.line);
      if (num(x.min) !== null && num(x.max) !== null && (x.min as number) > (x.max as number))
        r.fail(
          'importCharges',
          x.line,
          'max',
          `The maximum ${x.max} is under the minimum ${x.min}`,
          'Exchange the two, or leave one blank.',
        );
    });
    const table = (column: string) =>
      Object.fromEntries(classes.filter((c) => c[column] !== null).map((c) => [c.taxClass, c[column]]));
    return {
      ...head(r),
      country: r.field('country'),
      currency: r.field('currency'),
      regime: r.field('regime'),
      checkoutTax: or0(r.field('checkoutTax')),
      customsBasis: r.field('customsBasis'),
      importVatBase: r.field('importVatBase'),
      dutyFreeLimit: r.field('dutyFreeLimit'),
      vatRates: table('vatRate'),
      importVatRates: own ? table('importVatRate') : null,
      duties: duties.map((d) => ({
        heading: d.heading ?? '',
        origins: Array.isArray(d.origins) && d.origins.length > 0 ? d.origins : null,
        pct: or0(d.pct),
        perUnit: or0(d.perUnit),
        perKg: or0(d.perKg),
        additional: d.additional === true,
      })),
      importCharges: charges.map((x) => ({ name: x.name, pct: or0(x.pct), min: x.min, max: x.max, flat: or0(x.flat) })),
    };
  },
};

// ---- freight, postage, exchange, benchmark
// ---------------------------------------------------------------------------

const freightForm: CardForm = {
  fields: [
    ...HEAD,
    col('from', 'country'),
    col('to', 'country'),
    col('mode', 'choice', { choices: ['sea', 'air', 'road', 'rail', 'parcel'], ...must }),
    col('packingAllowance', 'rate'),
    col('insuranceRate', 'rate'),
    col('transitDays', 'days'),
    col('inboundDays', 'days'),
  ],
  sheets: [
    {
      key: 'legs',
      identity: 1,
      columns: [
        col('leg', 'number', must),
        col('name', 'text'),
        col('stage', 'choice', { choices: STAGES, ...must }),
        col('basis', 'choice', { choices: FREIGHT_BASES, ...must }),
        col('rate', 'number'),
        col('currency', 'currency', must),
        ...VAT_ON,
        col('minCharge', 'number'),
        col('fuelSurcharge', 'rate'),
        col('divisor', 'number', { aboveZero: true }),
        col('minKg', 'number'),
        col('minCbm', 'number'),
        col('usableM3', 'number', { aboveZero: true }),
        col('buyerPays', 'yesNo'),
      ],
    },
    {
      key: 'weightBands',
      identity: 2,
      columns: [col('leg', 'number', must), col('upToKg', 'number', must), col('rate', 'number', must)],
    },
  ],
  write(data) {
    const { route: x, ...c } = data as FreightCard;
    return {
      fields: {
        name: c.name,
        inForceFrom: c.inForceFrom,
        note: c.note,
        from: c.from,
        to: c.to,
        mode: c.mode,
        packingAllowance: x.packingAllowance,
        insuranceRate: x.insuranceRate,
        transitDays: x.transitDays,
        inboundDays: x.inboundDays,
      },
      sheets: {
        legs: x.legs.map((l, i) => [
          i + 1,
          l.name,
          l.stage,
          l.basis,
          l.rate,
          l.currency,
          l.vat,
          l.vatRate,
          l.recoverable,
          l.minCharge,
          l.fuelSurcharge,
          l.divisor,
          l.minKg,
          l.minCbm,
          l.usableM3,
          l.buyerPays,
        ]),
        weightBands: x.legs.flatMap((l, i) => l.bands.map((b) => [i + 1, b.upToKg, b.rate])),
      },
    };
  },
  read(r) {
    const legs = r.rows('legs');
    r.unique('legs', legs, ['leg']);
    const bandsOf = grouped(r.rows('weightBands'), (b) => String(b.leg));
    for (const [leg, rows] of bandsOf) {
      if (!legs.some((l) => String(l.leg) === leg))
        r.fail(
          'weightBands',
          (rows[0] as Row).line,
          'leg',
          `There is no leg ${leg}`,
          'Add it to the sheet legs, or take the row out.',
        );
      rows.forEach((b, i) => {
        const before = rows[i - 1];
        if (before !== undefined && (b.upToKg as number) <= (before.upToKg as number))
          r.fail(
            'weightBands',
            b.line,
            'upToKg',
            (b.upToKg as number) === before.upToKg
              ? `This band ends at ${b.upToKg} kg as row ${before.line} does: the two overlap`
              : `This band ends at ${b.upToKg} kg, under the ${before.upToKg} kg of row ${before.line}: they are out of order`,
            'Sort the bands by rising weight, each once.',
          );
      });
    }
    return {
      ...head(r),
      from: r.field('from'),
      to: r.field('to'),
      mode: r.field('mode'),
      route: {
        packingAllowance: or0(r.field('packingAllowance')),
        insuranceRate: or0(r.field('insuranceRate')),
        transitDays: r.field('transitDays'),
        inboundDays: or0(r.field('inboundDays')),
        legs: legs.map((l, i) => {
          const bands = bandsOf.get(String(l.leg)) ?? [];
          r.mark(`route.legs.${i}`, 'legs', l.line);
          for (const [j, b] of bands.entries()) r.mark(`route.legs.${i}.bands.${j}`, 'weightBands', b.line);
          if (l.rate === null && bands.length === 0)
            r.fail('legs', l.line, 'rate', 'The leg has no rate', 'Write a rate, or weight bands for it.');
          if (l.rate !== null && bands.length > 0)
            r.fail('legs', l.line, 'rate', 'The leg has a rate and weight bands', 'Keep one of the two.');
          if (bands.length > 0 && l.basis !== 'perKg')
            r.fail(
              'legs',
              l.line,
              'basis',
              'Only a leg charged perKg can have weight bands',
              'Write perKg, or take its bands out.',
            );
          return {
            name: l.name ?? '',
            stage: l.stage,
            basis: l.basis,
            rate: l.rate,
            currency: l.currency,
            vat: l.vat,
            vatRate: or0(l.vatRate),
            recoverable: l.recoverable,
            minCharge: or0(l.minCharge),
            fuelSurcharge: or0(l.fuelSurcharge),
            divisor: l.divisor,
            minKg: or0(l.minKg),
            minCbm: or0(l.minCbm),
            usableM3: l.usableM3,
            bands: bands.map((b) => ({ upToKg: b.upToKg, rate: b.rate })),
            buyerPays: l.buyerPays,
          };
        }),
      },
    };
  },
};

const postageForm: CardForm = {
  fields: [...HEAD, col('country', 'country'), ...VAT_ON, col('packagingKg', 'number')],
  sheets: [
    {
      key: 'zones',
      identity: 1,
      columns: [col('zone', 'text', must), col('share', 'share', must), col('currency', 'currency', must)],
    },
    {
      key: 'weightSteps',
      identity: 3,
      columns: [
        col('zone', 'text', must),
        col('upToKg', 'number'),
        col('eachFurtherKg', 'number'),
        col('fee', 'number', must),
      ],
    },
  ],
  write(data) {
    const c = data as PostageCard;
    return {
      fields: {
        name: c.name,
        inForceFrom: c.inForceFrom,
        note: c.note,
        country: c.country,
        vat: c.vat,
        vatRate: c.vatRate,
        recoverable: c.recoverable,
        packagingKg: c.packagingKg,
      },
      sheets: {
        zones: c.zones.map((z) => [z.name, z.share, z.postage.currency]),
        weightSteps: c.zones.flatMap((z) => [
          ...z.postage.steps.map((s): CellValue[] => [z.name, s.upToKg, null, s.fee]),
          ...(z.postage.stepKg === null ? [] : [[z.name, null, z.postage.stepKg, z.postage.stepFee] as CellValue[]]),
        ]),
      },
    };
  },
  read(r) {
    const zones = r.rows('zones');
    r.unique('zones', zones, ['zone']);
    const stepsOf = grouped(r.rows('weightSteps'), (s) => String(s.zone));
    const names = new Set(zones.map((z) => String(z.zone)));
    for (const [zone, rows] of stepsOf)
      if (!names.has(zone))
        r.fail(
          'weightSteps',
          (rows[0] as Row).line,
          'zone',
          `There is no zone "${zone}"`,
          'Add it to the sheet zones, or take the row out.',
        );
    const sum = zones.reduce((s, z) => s + or0(z.share), 0);
    if (zones.length > 0 && Math.abs(sum - 1) > 1e-6)
      r.fail(
        'zones',
        (zones[zones.length - 1] as Row).line,
        'share',
        `The shares of the zones add up to ${Number((sum * 100).toFixed(4))} %`,
        'Make them add up to 100 %.',
      );
    return {
      ...head(r),
      country: r.field('country'),
      vat: r.field('vat'),
      vatRate: or0(r.field('vatRate')),
      recoverable: r.field('recoverable'),
      packagingKg: or0(r.field('packagingKg')),
      zones: zones.map((z, i) => {
        r.mark(`zones.${i}`, 'zones', z.line);
        const rows = stepsOf.get(String(z.zone)) ?? [];
        const plain = rows.filter((s) => s.eachFurtherKg === null);
        const further = rows.find((s) => s.eachFurtherKg !== null);
        if (plain.length === 0)
          r.fail(
            'zones',
            z.line,
            'zone',
            `The zone "${z.zone}" has no postage`,
            'Add rows for it to the sheet weightSteps.',
          );
        plain.forEach((s, k) => {
          r.mark(`zones.${i}.postage.steps.${k}`, 'weightSteps', s.line);
          const before = plain[k - 1];
          if (s.upToKg === null)
            r.fail(
              'weightSteps',
              s.line,
              'upToKg',
              'The row has neither a weight nor a further step',
              'Write the weight up to which the postage applies.',
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
              `This step ends at ${s.upToKg} kg, not above the ${before.upToKg} kg of row ${before.line}: they overlap or are out of order`,
              'Sort the steps by rising weight, each once.',
            );
        });
        return {
          name: z.zone,
          share: z.share,
          postage: {
            currency: z.currency,
            steps: plain.map((s) => ({ upToKg: s.upToKg, fee: s.fee })),
            stepKg: further?.eachFurtherKg ?? null,
            stepFee: or0(further?.fee),
          },
        };
      }),
    };
  },
};

const exchangeForm: CardForm = {
  fields: [col('date', 'day', must), col('base', 'currency', must), col('source', 'text')],
  sheets: [
    {
      key: 'rates',
      identity: 1,
      columns: [col('currency', 'currency', must), col('rate', 'number', { ...must, aboveZero: true })],
    },
  ],
  write(data) {
    const c = data as CardOf<'exchange'>;
    return {
      fields: { date: c.date, base: c.base, source: c.source },
      sheets: { rates: Object.entries(c.rates).map(([k, v]) => [k, v]) },
    };
  },
  read(r) {
    const rows = r.rows('rates');
    r.unique('rates', rows, ['currency']);
    for (const x of rows) {
      r.mark(`rates.${x.currency}`, 'rates', x.line, 'rate');
      if (x.currency === r.field('base') && x.rate !== 1)
        r.fail('rates', x.line, 'rate', `One ${x.currency} is the base, so its rate is 1`, 'Take the row out.');
    }
    return {
      date: r.field('date'),
      base: r.field('base'),
      source: r.field('source') ?? '',
      rates: Object.fromEntries(rows.map((x) => [x.currency, x.rate])),
    };
  },
};

const benchmarkForm: CardForm = {
  fields: [...HEAD, col('currency', 'currency', must), col('rate', 'share', must)],
  sheets: [],
  write(data) {
    const c = data as BenchmarkCard;
    return {
      fields: { name: c.name, inForceFrom: c.inForceFrom, note: c.note, currency: c.currency, rate: c.rate },
      sheets: {},
    };
  },
  read: (r) => ({ ...head(r), currency: r.field('currency'), rate: r.field('rate') }),
};

export const CARD_FORMS: Readonly<Record<CardKind, CardForm>> = {
  marketplace: marketplaceForm,
  tax: taxForm,
  freight: freightForm,
  postage: postageForm,
  exchange: exchangeForm,
  benchmark: benchmarkForm,
};
