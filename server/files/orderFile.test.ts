import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { describe, expect, it } from 'vitest';
import { orderTerms } from '../../core/orders/schema.ts';
import type { OrderTerms } from '../../core/orders/schema.ts';
import { orderSaid } from '../../core/orders/totals.ts';
import { familiesFor } from './fonts.ts';
import { orderPdf, orderSheet } from './orderFile.tsx';
import type { OrderFileWords, OrderPaper } from './orderFile.tsx';

const NAMES = [
  'title to from day wantedBy incoterm item code barcode units carton unitPrice net vat gross goods delivery total',
  'deposit balance due notKnown known page',
].join(' ');
const words = Object.fromEntries(NAMES.split(' ').map((k) => [k, `<${k}>`])) as OrderFileWords;
const paper = (over: object = {}, lines: object[] = [{}]): OrderPaper => {
  const terms: OrderTerms = orderTerms.parse({
    supplier: 'Brackwater',
    currency: 'EUR',
    delivery: 12,
    placedOn: '2026-11-24',
    lines: lines.map((l, i) => ({
      id: `l${i}`,
      name: 'Lantern',
      units: 100,
      priceBreaks: [{ minQty: 0, unitPrice: 4.5 }],
      ...l,
    })),
    ...over,
  });
  return {
    order: { number: 12, terms },
    said: orderSaid(terms, '2026-11-24'),
    from: 'Fernhollow\nHauptstraße 1',
    words,
    locale: 'en-GB',
  };
};
/** The text of each page, as a reader copies it. */
async function textOf(p: OrderPaper): Promise<string[]> {
  const pdf = await getDocument({ data: new Uint8Array(await orderPdf(p)), verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let i = 1; i <= pdf.numPages; i++) {
    const { items } = await (await pdf.getPage(i)).getTextContent();
    pages.push(items.map((x) => ('str' in x ? x.str : '')).join(''));
  }
  return pages;
}

describe('an order on paper', () => {
  it('says who, what, how many, at which price, and what it comes to', async () => {
    const [text = ''] = await textOf(paper({ depositShare: 0.5, leadDays: 10, note: 'Plain cartons.' }));
    for (const said of [
      '<title> PO-0012',
      'Brackwater',
      'Hauptstraße 1',
      'Lantern',
      '100',
      '4.5',
      '450.00',
      '462.00 EUR',
      '231.00',
      '2026-12-04',
      'Plain cartons.',
    ])
      expect(text).toContain(said);
  });
  it('what is not agreed is said, and no sum pretends to be whole', async () => {
    const [text = ''] = await textOf(
      paper({ delivery: null }, [{ priceBreaks: [{ minQty: 0, unitPrice: null }] }]),
    );
    expect(text).toContain('<notKnown>');
    expect(text).toContain('<total>, <known>');
    expect(text).not.toContain('<deposit>');
  });
  it('names in any script stay whole: Hebrew, Arabic, Chinese, Cyrillic, Polish', async () => {
    const names = ['שלום חברה', 'مصنع قفل', '义乌市玩具厂', 'Завод', 'Łódź'];
    const pages = await textOf(
      paper(
        {},
        names.map((name) => ({ name })),
      ),
    );
    const letters = new Set(pages.join(''));
    for (const c of names.join('').replaceAll(' ', '')) expect(letters, c).toContain(c);
  });
  it('five hundred lines go over pages, each with its number', async () => {
    const pages = await textOf(
      paper(
        {},
        Array.from({ length: 120 }, (_, i) => ({ name: `Goods ${i}` })),
      ),
    );
    expect(pages.length).toBeGreaterThan(2);
    expect(pages.at(-1)).toContain(`${pages.length} / ${pages.length}`);
    expect(pages.join('')).toContain('Goods 119');
  });
  it('only the parts of fonts that a text needs are loaded', () => {
    expect(familiesFor('Lantern 4.50')).toEqual(['noto-sans-latin']);
    expect(familiesFor('שלום')).toContain('noto-sans-hebrew-hebrew');
    expect(familiesFor('\u{10ffff}')).toEqual(['noto-sans-latin']);
  });
});

describe('an order as a table', () => {
  it('has every line, what comes on top, and the total; unknown is blank', () => {
    const p = paper({ delivery: null, charges: [{ name: 'Inspection', amount: 20 }] }, [
      { gtin: '9520000010010' },
    ]);
    const sheet = orderSheet(p);
    expect(sheet.rows).toEqual([
      ['Lantern', '', '9520000010010', 100, null, 4.5, 450, 0, 450],
      ['<delivery>', null, null, null, null, null, null, null, null],
      ['Inspection', null, null, null, null, null, 20, null, 20],
      ['<total>', null, null, null, null, null, null, 0, 470],
    ]);
    expect(sheet.columns).toHaveLength(9);
  });
});
