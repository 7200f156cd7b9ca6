/**
 * Each kind of card as sheets of cells, and back. What is written reads back as the same card, to the last
 * digit. Reading checks what belongs to rows (tiers in order, no gap, no overlap, keys that stand once); what
 * belongs to single values stands in the schemas.
 */
import type { BenchmarkCard, CardKind, CardOf } from './schema.ts';
import { head } from './formParts.ts';
import type { CardForm } from './formParts.ts';
import { marketplaceForm } from './marketplaceForm.ts';
import { taxForm } from './taxForm.ts';
import { freightForm, postageForm } from './freightForm.ts';
import { col, must, HEAD } from './formParts.ts';
import { fault } from '../fault.ts';

const exchangeForm: CardForm = {
  first: { rates: [['', '']] },
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
        r.fail('rates', x.line, 'rate', fault('baseRate', { currency: x.currency }));
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
