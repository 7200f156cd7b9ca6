/** Freight and postage cards as sheets of cells. */
import { FREIGHT_BASES, STAGES } from './carriage.ts';
import type { CellValue } from './cells.ts';
import type { FreightCard, PostageCard } from './schema.ts';
import { grouped } from './reader.ts';
import type { Row } from './reader.ts';
import { VAT_ON, head } from './formParts.ts';
import type { CardForm } from './formParts.ts';
import { col, must, HEAD, or0 } from './formParts.ts';
import { readWeightSteps } from './weightSteps.ts';
import { fault } from '../fault.ts';

// ---- freight, postage, exchange, benchmark
// ---------------------------------------------------------------------------

export const freightForm: CardForm = {
  first: { legs: [['1', 'Main leg', 'main', 'perCbm', '', '', 'none', '', '', '', '', '', '', '', '', '']] },
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
        r.fail('weightBands', (rows[0] as Row).line, 'leg', fault('noLeg', { leg }));
      rows.forEach((b, i) => {
        const before = rows[i - 1];
        if (before !== undefined && (b.upToKg as number) <= (before.upToKg as number))
          r.fail(
            'weightBands',
            b.line,
            'upToKg',
            (b.upToKg as number) === before.upToKg
              ? fault('sameWeight', { what: 'band', kg: b.upToKg, row: before.line })
              : fault('weightOrder', { what: 'band', kg: b.upToKg, before: before.upToKg, row: before.line }),
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
          if (l.rate === null && bands.length === 0) r.fail('legs', l.line, 'rate', fault('legNoRate'));
          if (l.rate !== null && bands.length > 0) r.fail('legs', l.line, 'rate', fault('legTwoRates'));
          if (bands.length > 0 && l.basis !== 'perKg')
            r.fail('legs', l.line, 'basis', fault('bandsNeedPerKg'));
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

export const postageForm: CardForm = {
  first: { zones: [['all', '100%', '']], weightSteps: [['all', '', '', '']] },
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
          ...(z.postage.stepKg === null
            ? []
            : [[z.name, null, z.postage.stepKg, z.postage.stepFee] as CellValue[]]),
        ]),
      },
    };
  },
  read(r) {
    const zones = r.rows('zones');
    r.unique('zones', zones, ['zone']);
    const stepsOf = grouped(r.rows('weightSteps'), (s) => String(s.zone));
    for (const [zone, rows] of stepsOf)
      if (!r.names('zones', 'zone', zone))
        r.fail('weightSteps', (rows[0] as Row).line, 'zone', fault('noZone', { zone }));
    const sum = zones.reduce((s, z) => s + or0(z.share), 0);
    if (zones.length > 0 && Math.abs(sum - 1) > 1e-6)
      r.fail(
        'zones',
        (zones[zones.length - 1] as Row).line,
        'share',
        fault('zoneShares', { percent: Number((sum * 100).toFixed(4)) }),
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
        if (rows.length === 0) r.fail('zones', z.line, 'zone', fault('zoneNoPostage', { zone: z.zone }));
        return {
          name: z.zone,
          share: z.share,
          postage: { currency: z.currency, ...readWeightSteps(r, rows, `zones.${i}.postage`, 'postage') },
        };
      }),
    };
  },
};
