/** A country's tax card as sheets of cells. */
import type { CardOf } from './schema.ts';
import { head } from './formParts.ts';
import type { CardForm } from './formParts.ts';
import { col, must, HEAD, num, or0 } from './formParts.ts';
import { fault } from '../fault.ts';

// ---- tax
// -----------------------------------------------------------------------------------------------------------

export const taxForm: CardForm = {
  first: { vatRates: [['standard', '', '']] },
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
        r.fail('vatRates', c.line, 'vatRate', fault('classNoRate', { taxClass: c.taxClass }));
      r.mark(`importVatRates.${i}`, 'vatRates', c.line, 'importVatRate');
    });
    const own = r.field('importVatRates') === 'own';
    const stray = classes.find((c) => c.importVatRate !== null);
    if (!own && stray !== undefined) r.fail('vatRates', stray.line, 'importVatRate', fault('importVatStray'));
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
        r.fail('importCharges', x.line, 'max', fault('maxUnderMin', { max: x.max, min: x.min }));
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
      importCharges: charges.map((x) => ({
        name: x.name,
        pct: or0(x.pct),
        min: x.min,
        max: x.max,
        flat: or0(x.flat),
      })),
    };
  },
};
