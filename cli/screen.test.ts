import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import Papa from 'papaparse';
import { afterAll, describe, expect, it } from 'vitest';
import { laneOfRow } from '../core/columns/assumptions.ts';
import { evaluate } from '../core/lane/evaluate.ts';
import { screenSettings } from '../core/lists/settings.ts';
import {
  demoRow,
  demoScreen,
  messyFile,
  TIDY_HEADER,
  TIDY_MAP,
  tidyLine,
  windows1252,
} from '../demo/lists.ts';
import { screen } from './screen.ts';
import type { ScreenOptions } from './screen.ts';
import { cases } from '../core/testing/seed.ts';

const folder = mkdtempSync(join(tmpdir(), 'bm-screen-'));
afterAll(() => rmSync(folder, { recursive: true }));
const put = (name: string, body: string | Uint8Array): string => {
  writeFileSync(join(folder, name), body);
  return join(folder, name);
};
const settings = demoScreen();
const ROWS = cases(6000);
const MESSY_MAP = {
  decimal: 'comma',
  weightUnit: 'g',
  columns: {
    identifier: 'EAN',
    title: 'Artikelbezeichnung',
    cost: 'EK netto',
    vatRate: 'MwSt',
    size: 'Maße (L x B x H)',
    weight: 'Gewicht (g)',
    price: 'UVP',
    units: 'Absatz/Monat',
    packSize: 'VE',
    category: 'Warengruppe',
  },
};
const tidy = put(
  'tidy.csv',
  `${TIDY_HEADER.join(',')}\n${Array.from({ length: ROWS }, (_, i) => tidyLine(demoRow(i))).join('\n')}\n`,
);
const messy = put('messy.csv', windows1252(messyFile(3000)));

async function run(file: string, map: object, over: Partial<ScreenOptions> = {}, set: object = settings) {
  let out = '';
  let said = '';
  const sink = new Writable({
    write: (chunk, _, next) => {
      out += String(chunk);
      next();
    },
  });
  const code = await screen(
    file,
    {
      map: put('map.json', JSON.stringify(map)),
      settings: put('settings.json', JSON.stringify(set)),
      as: 'jsonl',
      only: [],
      invalid: undefined,
      ...over,
    },
    sink,
    (text) => {
      said += text;
    },
  );
  return {
    code,
    out,
    said,
    rows:
      over.as === 'csv'
        ? []
        : out
            .trim()
            .split('\n')
            .filter(Boolean)
            .map((l) => JSON.parse(l) as Record<string, string | number | null>),
  };
}

describe('a list at the prompt', () => {
  it('says of every row of the tidy list what the lane of that row says', async () => {
    const { code, said, rows } = await run(tidy, TIDY_MAP);
    expect([code, rows.length]).toEqual([0, ROWS]);
    expect(said).toMatch(new RegExp(`^${ROWS} rows: ${ROWS} valid, 0 invalid; 0 barcodes repaired; `));
    const s = screenSettings.parse(settings);
    const rates = { ...s.rates, country: 'DE', currency: 'EUR' };
    const keys = new Set(s.rates.marketplace?.categories.map((c) => c.key));
    let answers = 0;
    for (const [i, row] of rows.entries()) {
      const r = demoRow(i);
      const lane = laneOfRow(s.assumptions, rates, {
        cost: r.cost,
        price: r.shelf,
        units: r.units,
        unitsInSoldPack: 1,
        unitsInBoughtPack: 1,
        sides: [r.length, r.width, r.height],
        kg: r.kg,
        category: keys.has(r.group) ? r.group : null,
        taxClass: 'standard',
        vatRate: r.vat,
        minimumOrder: r.minimum,
        carton: null,
        breaks: [],
      });
      const one = evaluate(lane);
      expect(row).toMatchObject({ row: i + 2, barcode: r.barcode, title: r.title });
      for (const f of ['unitProfit', 'margin', 'roi', 'landedCost', 'profitPerMonth'] as const) {
        const want = one.figures[f];
        if (want === null) expect(row[f], `row ${i} ${f}`).toBeNull();
        else if (Math.abs((row[f] as number) - want) > 5.1e-7 * Math.max(1, Math.abs(want)))
          expect(row[f], `row ${i} ${f}`).toBe(want);
      }
      if (one.figures.unitProfit !== null) answers++;
    }
    expect(answers).toBeGreaterThan((ROWS * 2) / 3);
  });

  it(
    'of the messy list: counts add up, barcodes are repaired where proven, and what is refused comes ' +
      'mendable',
    async () => {
      const invalid = join(folder, 'invalid.csv');
      const { code, said, rows } = await run(messy, MESSY_MAP, { invalid });
      const [, all, valid, bad, repaired] =
        /^(\d+) rows: (\d+) valid, (\d+) invalid .*; (\d+) barcodes repaired/.exec(said)?.map(Number) ?? [];
      expect([code, all, rows.length]).toEqual([0, 3000, valid]);
      expect((valid as number) + (bad as number)).toBe(3000);
      expect(bad).toBeGreaterThan(150);
      expect(repaired).toBeGreaterThan(10);
      expect(rows.filter((r) => r.pack === 12).length).toBeGreaterThan(50);
      const refused = Papa.parse<Record<string, string>>(readFileSync(invalid, 'utf8'), {
        header: true,
        skipEmptyLines: true,
      }).data;
      expect(refused.length).toBe(bad);
      for (const r of refused)
        expect((r.problem as string).length * (r.remedy as string).length).toBeGreaterThan(100);
      // Mended, the refused rows are read alone, by the same mapping.
      const mended = refused.map((r, i) => ({ ...r, EAN: demoRow(500_000 + i).barcode, 'EK netto': '3,50' }));
      const again = await run(put('mended.csv', Papa.unparse(mended)), MESSY_MAP);
      expect(again.said).toMatch(new RegExp(`^${bad} rows: ${bad} valid, 0 invalid`));
    },
  );

  it('packs cost what they cost, unless the pack of the listing is known: then their share', async () => {
    const list = put(
      'packs.csv',
      [
        'Barcode,Title,Net price,Listing pack',
        ...['', '1', '6'].map((pack, i) => `${demoRow(i + 1).barcode},"Saucers, pack of 12",24,${pack}`),
        '',
      ].join('\n'),
    );
    const packs = {
      columns: { identifier: 'Barcode', title: 'Title', cost: 'Net price', listingPackSize: 'Listing pack' },
    };
    const { rows } = await run(list, packs, {}, { ...settings, packs: 'bought' });
    const [alone, one, six] = rows.map((r) => r.landedCost as number) as [number, number, number];
    expect(alone).toBe((await run(list, packs)).rows[0]?.landedCost);
    expect((alone - one) / (alone - six)).toBeCloseTo(11 / 6, 4);
    // The same where market figures say what the listing holds.
    const market = put('sets.csv', `GTIN,Name,Price\n${demoRow(1).barcode},"Saucer, 1 piece",9.90\n`);
    const joined = await run(
      list,
      packs,
      {
        reference: market,
        referenceMap: put(
          'sets-map.json',
          JSON.stringify({ columns: { identifier: 'GTIN', title: 'Name', price: 'Price' } }),
        ),
      },
      { ...settings, packs: 'bought' },
    );
    expect(joined.rows[0]?.landedCost).toBeCloseTo(one, 4);
  });

  it(
    'market figures that a list lacks come from a reference; the last edition says what is new, ' +
      'gone, dearer, cheaper',
    async () => {
      const line = (n: number, price: number): string =>
        `${demoRow(n).barcode},"A pot",${price.toFixed(2)}\n`;
      const list = put('bare.csv', `Barcode,Title,Net price\n${line(1, 4)}${line(2, 5)}${line(3, 6)}`);
      const previous = put('last.csv', `Barcode,Title,Net price\n${line(1, 3.5)}${line(2, 5)}${line(9, 5)}`);
      const market = put(
        'market.csv',
        [
          'GTIN;Preis;Absatz;Maße;Gewicht',
          `${demoRow(1).barcode};19,90;40;20 x 10 x 5;0,4`,
          `${demoRow(1).barcode};24,90;90;20 x 10 x 5;0,4`,
          `${demoRow(2).barcode};9,90;1;20 x 10 x 5;0,4`,
          '',
        ].join('\n'),
      );
      const over = {
        reference: market,
        referenceMap: put(
          'market-map.json',
          JSON.stringify({
            decimal: 'comma',
            columns: { identifier: 'GTIN', price: 'Preis', units: 'Absatz', size: 'Maße', weight: 'Gewicht' },
          }),
        ),
        previous,
      };
      const { code, said, rows } = await run(
        list,
        { columns: { identifier: 'Barcode', title: 'Title', cost: 'Net price' } },
        over,
      );
      expect(code).toBe(0);
      expect(rows.map((r) => [r.shelfPrice, r.listings, r.change, r.priceBefore, r.verdict])).toEqual([
        [24.9, 2, 'dearer', 3.5, 'pass'],
        [9.9, 1, 'same', 5, 'fail'],
        [null, 0, 'new', null, 'unknown'],
      ]);
      expect(said).toContain('2 completed from 3 listings; 1 dearer, 1 same, 1 new, 1 gone');
      const cheapest = await run(
        list,
        { columns: { identifier: 'Barcode', title: 'Title', cost: 'Net price' } },
        { ...over, choose: 'cheapest' },
      );
      expect(cheapest.rows[0]?.shelfPrice).toBe(19.9);
      expect(
        await run(list, { columns: { identifier: 'Barcode', cost: 'Net price' } }, { reference: market }),
      ).toMatchObject({ code: 2, said: expect.stringContaining('Give --reference-map FILE.json.') });
      expect(
        await run(
          list,
          { columns: { identifier: 'Barcode', cost: 'Net price' } },
          { ...over, previous: join(folder, 'gone.csv') },
        ),
      ).toMatchObject({ code: 2, said: expect.stringContaining('gone.csv') });
    },
  );

  it('only what is asked for, as CSV that no spreadsheet runs', async () => {
    const list = put(
      'formula.csv',
      `Barcode,Title,Net price,Shelf price\n${demoRow(1).barcode},"=HYPERLINK(""x"")",2,19.90\n`,
    );
    const { out } = await run(
      list,
      { columns: { identifier: 'Barcode', title: 'Title', cost: 'Net price', price: 'Shelf price' } },
      { as: 'csv' },
    );
    expect(out).toContain(`,"'=HYPERLINK(""x"")",`);
    const { rows } = await run(tidy, TIDY_MAP, { only: ['pass', 'near'] });
    expect(new Set(rows.map((r) => r.verdict))).toEqual(new Set(['pass', 'near']));
  });

  it('bad mappings, settings and files say what to do, and nothing is written', async () => {
    expect(await run(tidy, { columns: { identifier: 'Barcode' } })).toMatchObject({
      code: 2,
      out: '',
      said: expect.stringContaining('No column is the purchase price. Choose the column that holds it.'),
    });
    expect(await run(tidy, { columns: { identifier: 'EAN', cost: 'Net price' } })).toMatchObject({
      code: 2,
      said: expect.stringContaining('No row among the first 30 has the columns "EAN"'),
    });
    expect(await run(tidy, TIDY_MAP, {}, { ...settings, version: 2 })).toMatchObject({
      code: 2,
      said: expect.stringContaining(
        'settings: version: The version is missing, or that of another version of the program',
      ),
    });
    expect(await run(tidy, TIDY_MAP, { settings: undefined })).toMatchObject({
      code: 2,
      said: expect.stringContaining('Give --settings FILE.json.'),
    });
    expect(await run(join(folder, 'none.csv'), TIDY_MAP)).toMatchObject({
      code: 2,
      said: expect.stringContaining('There is no such file'),
    });
  });
});
