import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inWords } from '../../words/index.ts';
import { FILE_COLUMNS, FILE_KINDS, guessEvidenceMap, monthOfHeading } from './fileMap.ts';
import type { EvidenceMap, FileKind } from './fileMap.ts';
import { dayIn, readEvidence } from './fileRows.ts';
import {
  composeEvidence,
  gistOf,
  mergedObservation,
  NO_WATCH,
  OBSERVED,
  OBSERVED_KINDS,
  watch,
} from './observed.ts';
import type { Observation, ObservedKind, ObservedValue, Watch } from './observed.ts';
import { dayRow } from './schema.ts';
import type { DayRow } from './schema.ts';
import { packDays, unpackDays } from './series.ts';
import { evidenceSettings } from './settings.ts';

const TODAY = '2026-11-29';
const read = (kind: FileKind, lines: string[], own: Partial<EvidenceMap> = {}) => {
  const [header = [], ...rows] = lines.map((l) => l.split(';'));
  const map = { ...guessEvidenceMap(kind, header, rows), ...own };
  return { map, ...readEvidence(kind, header, rows, map, 2, 'EUR', TODAY) };
};
const said = (r: {
  faults: readonly { row: number; column: string; code: string; detail: object }[];
}): string[] => r.faults.map((f) => `${f.row} ${f.column}: ${inWords(f as never)}`);
const rowsOf = (value: unknown): DayRow[] => unpackDays(value as ObservedValue<'history'>);

describe('a series of days as it is stored', () => {
  it('comes back as it was, with days nobody offered and days not observed told apart', () => {
    const days = [
      dayRow.parse({ day: '2026-01-01', price: 10.5, rank: 400, offers: 3, ownShop: true }),
      dayRow.parse({ day: '2026-01-02', price: null, offers: 0 }),
      dayRow.parse({ day: '2026-01-05', price: 9.99, promotion: true, ownShop: false }),
    ];
    const packed = packDays(days, 'EUR');
    expect(packed).toMatchObject({
      from: '2026-01-01',
      prices: '10.5 - . . 9.99',
      ownShop: '1...0',
      promotion: '00..1',
    });
    if (packed !== null) expect(unpackDays(packed)).toEqual(days);
    expect(packDays([], 'EUR')).toBe(null);
  });
  it('takes at most 40 kB for two years of a listing', () => {
    const days = Array.from({ length: 730 }, (_, i) =>
      dayRow.parse({
        day: new Date(Date.UTC(2025, 0, 1 + i)).toISOString().slice(0, 10),
        price: 1234.56 + i / 100,
        rank: 123_456 + i,
        offers: 12,
        ownShop: i % 2 === 0,
        promotion: i % 9 === 0,
      }),
    );
    expect(JSON.stringify(packDays(days, 'EUR')).length).toBeLessThan(20_000);
  });
  it('any days come back (random)', () => {
    const day = fc.record({
      n: fc.integer({ min: 0, max: 400 }),
      price: fc.option(fc.integer({ min: 0, max: 99_999 }).map((x) => x / 100)),
      rank: fc.option(fc.integer({ min: 1, max: 1e6 })),
      offers: fc.option(fc.integer({ min: 0, max: 99 })),
      ownShop: fc.option(fc.boolean()),
      promotion: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.uniqueArray(day, { selector: (d) => d.n, maxLength: 60 }), (raw) => {
        const days = raw
          .map(({ n, ...d }) =>
            dayRow.parse({ ...d, day: new Date(Date.UTC(2025, 5, n)).toISOString().slice(0, 10) }),
          )
          .sort((a, b) => (a.day < b.day ? -1 : 1));
        const packed = packDays(days, 'EUR');
        if (days.length === 0) expect(packed).toBe(null);
        else expect(unpackDays(OBSERVED.history.parse(packed))).toEqual(days);
      }),
    );
  });
});

describe('days and months as files write them', () => {
  it.each([
    ['2026-10', '2026-10'],
    ['10/2026', '2026-10'],
    ['10.2026', '2026-10'],
    ['Oct 2026', '2026-10'],
    ['Okt. 26', '2026-10'],
    ['März 2026', '2026-03'],
    ['août 2026', '2026-08'],
    ['2026', null],
    ['13/2026', null],
    ['Volume', null],
  ])('%s is the month %s', (heading, month) => expect(monthOfHeading(heading)).toBe(month));
  it.each([
    ['2026-11-03', 'dayFirst', '2026-11-03'],
    ['03.11.2026', 'dayFirst', '2026-11-03'],
    ['11/3/2026', 'monthFirst', '2026-11-03'],
    ['3/11/26', 'dayFirst', '2026-11-03'],
    ['2026-11-03T00:00:00', 'dayFirst', '2026-11-03'],
    ['30.02.2026', 'dayFirst', null],
    ['yesterday', 'dayFirst', null],
  ] as const)('%s, %s: %s', (text, days, day) => expect(dayIn(text, days)).toBe(day));
  it('the order of day and month is seen from a cell that cannot be otherwise', () => {
    const map = (cells: string[]) =>
      guessEvidenceMap(
        'history',
        ['Date', 'Price'],
        cells.map((c) => [c, '1']),
      ).days;
    expect([map(['1/2/2026', '3/28/2026']), map(['28/3/2026']), map(['1/2/2026'])]).toEqual([
      'monthFirst',
      'dayFirst',
      'dayFirst',
    ]);
  });
});

describe('a file of terms', () => {
  it('has a month to a column; a blank is not known and 0 is a value', () => {
    const r = read('terms', [
      'Suchbegriff;Aug 2026;2026-09;10/2026;Sales',
      'Bienenhaus;120;;0;7',
      'بيت النحل;1;2;3;',
    ]);
    expect(r.stops).toEqual([]);
    expect(r.value).toMatchObject({
      terms: [
        {
          term: 'Bienenhaus',
          sales: 7,
          volumes: [
            { month: '2026-08', value: 120 },
            { month: '2026-10', value: 0 },
          ],
        },
        { term: 'بيت النحل', volumes: [{}, {}, { value: 3 }] },
      ],
    });
    expect([r.good, r.asOf]).toEqual([2, '2026-10-28']);
  });
  it('or a row for each month', () => {
    const r = read('terms', ['Keyword;Month;Volume', 'bees;2026-08;5', 'bees;2026-09;6', 'wasps;2026-09;7']);
    expect(r.value).toMatchObject({
      terms: [{ term: 'bees', volumes: [{ value: 5 }, { value: 6 }] }, { term: 'wasps' }],
    });
  });
  it('volumes as words, months to come, and blanks are said by row; the others are read', () => {
    const r = read('terms', ['Term;2026-09;2027-01', 'bees;many;', 'wasps;3;4', ';1;', 'ants;5;']);
    expect(said(r)).toEqual([
      '2 2026-09: "many" is no number. Write it in digits, or leave the cell blank where it is not known.',
      '3 2027-01: 2027-01 has not been yet. Check how days and months are written in the file.',
      '4 term: The cell is blank. Fill it in, or leave the row out.',
    ]);
    expect(r.value).toMatchObject({ terms: [{ term: 'ants' }] });
  });
  it('20,000 terms are read', () => {
    const lines = ['Term;2026-09', ...Array.from({ length: 20_000 }, (_, i) => `term ${i};${i}`)];
    const r = read('terms', lines);
    expect([r.good, r.faults.length]).toEqual([20_000, 0]);
    const [header = [], ...rows] = Array.from({ length: 60_002 }, (_, i) => [
      i === 0 ? 'Term' : `t${i}`,
      i === 0 ? '2026-09' : '1',
    ]);
    const many = readEvidence(
      'terms',
      header,
      rows,
      guessEvidenceMap('terms', header, rows.slice(0, 9)),
      2,
      'EUR',
      TODAY,
    );
    expect(many.stops.map((f) => inWords(f))).toEqual([
      '60001 rows are more than the 60000 that are read. Cut the file into several.',
    ]);
  });
});

describe('a file of days', () => {
  it('keeps days without a price, refuses the future, and says a day that stands twice', () => {
    const r = read('history', [
      'Date;Price;Rank;Own shop',
      '2026-11-01;10,50;400;ja',
      '2026-11-02;;;',
      '2026-11-01;11,50;;',
      '2027-05-01;9;;',
      '2026-11-03;9;0;',
    ]);
    expect(rowsOf(r.value)).toMatchObject([
      { day: '2026-11-01', price: 11.5 },
      { day: '2026-11-02', price: null },
    ]);
    expect(said(r)).toEqual([
      '2 day: 2026-11-01 stands again in row 4. The later row counts; leave one of them out.',
      '5 day: 2027-05-01 has not been yet. Check how days and months are written in the file.',
      '6 rank: "0" cannot be. Check the figure; leave the cell blank where it is not known.',
    ]);
    expect(r.asOf).toBe('2026-11-02');
  });
  it('a clock a day ahead is forgiven; 1890 is a slip', () => {
    const r = read('history', ['Day;Price', '2026-11-30;9', '1890-01-01;9']);
    expect(rowsOf(r.value)).toHaveLength(1);
    expect(r.faults).toMatchObject([{ row: 3, column: 'day' }]);
  });
  it('rows in another currency are left out by row, and two of them are said', () => {
    const r = read('history', ['Day;Price;Currency', '2026-11-01;9;EUR', '2026-11-02;9;USD']);
    expect(rowsOf(r.value)).toHaveLength(1);
    expect(said(r)).toEqual([
      '2 currency: The file is in EUR, USD. Bring one currency to a file.',
      '3 currency: The row is in USD, the market in EUR. Convert the prices to EUR, or leave these rows out.',
    ]);
    expect(read('history', ['Day;Price;Currency', '2026-11-02;9;USD']).value).toBe(null);
  });
  it('negative and absurd prices are said', () => {
    const r = read('history', ['Day;Price', '2026-11-01;-4', '2026-11-02;2e12', '2026-11-03;cheap']);
    expect(r.faults.map((f) => f.code)).toEqual(['evidenceNegative', 'evidenceTooLarge', 'evidenceNumber']);
    expect(r.value).toBe(null);
  });
});

describe('files of rivals, offers, bids and permission', () => {
  it('rivals need a title or a code; stars above five are none', () => {
    const r = read('rivals', [
      'Titel;Preis;Stück;Bewertungen;Sterne;Anzeige',
      'Bee wall;20;30;10;4,5;x',
      ';9;;;;',
      'Log;9;;;7;',
    ]);
    expect(r.value).toMatchObject({
      currency: 'EUR',
      rows: [{ title: 'Bee wall', price: 20, units: 30, reviews: 10, rating: 4.5, paid: true }],
    });
    expect(r.faults.map((f) => [f.row, f.column])).toEqual([
      [3, 'title'],
      [4, 'rating'],
    ]);
  });
  it('more rivals than a page may have are said', () => {
    const r = read('rivals', ['Title;Price', ...Array.from({ length: 2001 }, (_, i) => `Rival ${i};5`)]);
    expect([r.good, r.faults.length, r.faults[0]?.code]).toEqual([2000, 1, 'evidenceTooManyRivals']);
  });
  it('offers: delivery left blank is not known; whose they are is told by words', () => {
    const r = read('offers', [
      'Seller;Price;Delivery;Warehouse;Whose;Default',
      'A;20;;yes;;yes',
      'B;18;2.10;no;own shop;',
      'C;19;0;perhaps;ours;',
    ]);
    expect(r.value).toMatchObject({
      list: [
        { delivery: null, warehouse: true, isDefault: true },
        { delivery: 2.1, of: 'ownShop' },
      ],
    });
    expect(said(r)).toEqual(['4 warehouse: "perhaps" is neither yes nor no. Write yes or no.']);
  });
  it('bids need one end at least', () => {
    const r = read('bids', ['Term;Match;Low;High', 'bees;exact;0.4;', 'ants;broad;;', 'wasps;narrow;1;2']);
    expect(r.value).toMatchObject({ bids: [{ term: 'bees', low: 0.4, high: null }] });
    expect(r.faults.map((f) => f.code)).toEqual(['evidenceBlank', 'evidenceChoice']);
  });
  it('permission is one row', () => {
    const r = read('permission', [
      'Listing;State;Needs;Units;Price;Asked',
      'L1;approval;first purchase;30;12,50;2026-11-01',
      'L2;open;;;;',
    ]);
    expect(r.value).toMatchObject({
      state: 'approval',
      by: 'purchase',
      units: 30,
      price: 12.5,
      asked: '2026-11-01',
    });
    expect(r.faults).toMatchObject([{ row: 3, code: 'evidenceOnePermission' }]);
    expect(read('permission', ['State', 'maybe']).value).toBe(null);
  });
  it('columns that are missing, or that the file does not have, stop it', () => {
    const stops = (kind: FileKind, header: string, own: Partial<EvidenceMap> = {}) =>
      read(kind, [header, 'x'], own).stops.map((f) => inWords(f));
    expect(stops('rivals', 'Colour')).toEqual([
      'No column is chosen for title. Choose the column that says it.',
    ]);
    expect(stops('history', 'Day')).toEqual([
      'No column is chosen for price. Choose the column that says it.',
    ]);
    expect(stops('terms', 'Term')).toEqual([
      'No column is chosen for volume. Choose the column that says it.',
    ]);
    expect(stops('history', 'Day;Price', { columns: { day: 'Day', price: 'Cost' } })[0]).toContain('Cost');
  });
  it('nothing throws, and every good row is one the edge takes (random cells)', () => {
    const cell = fc.oneof(
      fc.string(),
      fc.constantFrom(
        '',
        '1',
        '-1',
        '2026-11-01',
        '31.12.2026',
        'EUR',
        'yes',
        '1e13',
        '0',
        'Oct 2026',
        '__proto__',
      ),
    );
    const heads = [
      'Term',
      'Day',
      'Price',
      'Title',
      'Seller',
      'State',
      '2026-09',
      'Low',
      'Currency',
      'Rank',
      'Units',
    ];
    fc.assert(
      fc.property(
        fc.constantFrom(...FILE_KINDS),
        fc.array(fc.array(cell, { minLength: heads.length, maxLength: heads.length }), { maxLength: 12 }),
        (kind, rows) => {
          const r = readEvidence(kind, heads, rows, guessEvidenceMap(kind, heads, rows), 2, 'EUR', TODAY);
          if (r.value !== null) expect(OBSERVED[kind].safeParse(r.value).success).toBe(true);
        },
      ),
      { numRuns: 600 },
    );
  });
});

describe('units and complaints', () => {
  it('a row is a month or a variation; the last whole month is what the listing sells', () => {
    const r = read('units', [
      'Month;Units;Variation;Name;Price;Ratings',
      '2026-09;240;;;;',
      '10/2026;265;;;;',
      ';;OAK-S;Oak small;24,90;180',
      ';;OAK-L;Oak large;34,90;95',
    ]);
    expect(r.faults).toEqual([]);
    expect(r.value).toMatchObject({
      units: { statedListing: 265, hasVariations: true, ratingsListing: 275, typed: null },
      unitsByMonth: [
        { month: '2026-09', value: 240 },
        { month: '2026-10', value: 265 },
      ],
      variations: [
        { code: 'OAK-S', price: 24.9, ratings: 180 },
        { code: 'OAK-L', name: 'Oak large' },
      ],
    });
  });
  it('an older month is no figure of today, and ratings that are not all known give no whole', () => {
    const r = read('units', ['Month;Units;Name;Ratings', '2025-02;9;;', ';;A;5', ';;B;']);
    expect(r.value).toMatchObject({ units: { statedListing: null, ratingsListing: null } });
    expect(read('units', ['Month;Units', '2026-10;7']).value).toMatchObject({
      units: { statedListing: 7, hasVariations: false, ratingsListing: null },
      variations: [],
    });
  });
  it('rows that are both, neither, half or in the future say so; the good ones stay', () => {
    const r = read('units', [
      'Month;Units;Variation;Ratings',
      '2026-10;5;A;3',
      '2026-10;;A;3',
      ';5;A;3',
      '2026-09;;;',
      ';;;9',
      '2027-01;4;;',
      '2026-08;6;;',
    ]);
    expect(r.faults.map((f) => [f.row, f.column, f.code])).toEqual([
      [2, 'month', 'evidenceMonthOrVariation'],
      [3, 'month', 'evidenceMonthOrVariation'],
      [4, 'units', 'evidenceMonthOrVariation'],
      [5, 'units', 'evidenceBlank'],
      [6, 'month', 'evidenceBlank'],
      [7, 'month', 'evidenceFuture'],
    ]);
    expect(r.value).toMatchObject({ unitsByMonth: [{ month: '2026-08', value: 6 }] });
    expect(read('units', ['Ratings', '9']).stops).toMatchObject([
      { code: 'evidenceColumnMissing', detail: { column: 'units' } },
    ]);
    expect(read('units', ['Month;Units', '2026-99;4']).value).toBe(null);
  });
  it('complaints by theme, the share as a fraction or in per cent', () => {
    const r = read('complaints', [
      'Theme;Share;How many',
      'lid warps;38%;57',
      'smells;0,09;',
      'loud;120%;1',
      ';1;2',
    ]);
    expect(r.value).toMatchObject({
      complaints: [
        { theme: 'lid warps', share: 0.38, count: 57 },
        { theme: 'smells', share: 0.09, count: null },
      ],
    });
    expect(r.faults.map((f) => [f.row, f.column])).toEqual([
      [4, 'share'],
      [5, 'theme'],
    ]);
    expect(read('complaints', ['Theme', '']).value).toBe(null);
  });
});

describe('the examples one can fill in', () => {
  it.each(FILE_KINDS)('%s is read whole, every column known', (kind) => {
    const text = readFileSync(join(import.meta.dirname, `../../public/examples/${kind}.csv`), 'utf8');
    const r = read(kind, text.trim().replaceAll(',', ';').split('\n'), { decimal: 'point' });
    expect([r.stops, r.faults]).toEqual([[], []]);
    expect(Object.keys(r.map.columns).sort()).toEqual(
      FILE_COLUMNS[kind]
        .map((c) => c.key)
        .filter((k) => EXAMPLE_LACKS[kind]?.includes(k) !== true)
        .sort(),
    );
    expect(r.good).toBe(text.trim().split('\n').length - 1);
  });
  /** A month to a column needs neither of these; places stand in files of what a listing is found by. */
  const EXAMPLE_LACKS: Partial<Record<FileKind, readonly string[]>> = {
    terms: ['month', 'volume', 'freePlace', 'paidPlace'],
  };
});

describe('the document of a market', () => {
  const observation = (
    kind: ObservedKind,
    value: unknown,
    asOf = '2026-11-20',
    id: string = kind,
  ): Observation => ({ id, kind, value, asOf, source: 'typed', stated: true });
  const compose = (observations: Observation[], own: Partial<Watch> = {}) =>
    composeEvidence({
      market: { marketplace: 'Alderway', country: 'DE' },
      today: TODAY,
      observations,
      watch: watch.parse({ ...NO_WATCH, ...own }),
      settings: evidenceSettings.parse({}),
      hurdles: [],
    });
  const history = (from: string, ...prices: number[]) =>
    packDays(
      prices.map((price, i) =>
        dayRow.parse({ price, day: new Date(Date.parse(from) + i * 86_400_000).toISOString().slice(0, 10) }),
      ),
      'EUR',
    );
  it('takes the newest of each kind, and all stretches of days, the newer over the older', () => {
    const { document, origins } = compose([
      observation('history', history('2026-11-03', 30, 40), '2026-11-04', 'b'),
      observation('history', history('2026-11-01', 10, 20, 25), '2026-11-03', 'a'),
    ]);
    expect(document.prices?.days.map((d) => [d.day.slice(8), d.price])).toEqual([
      ['01', 10],
      ['02', 20],
      ['03', 30],
      ['04', 40],
    ]);
    expect(document.now).toBe('2026-11-04');
    expect(origins.history).toMatchObject({ age: 25, stale: true });
  });
  it('what was decided stands beside what was seen: ticks, strikes, the variation', () => {
    const { document } = compose(
      [
        observation('terms', { terms: [OBSERVED.terms.shape.terms.element.parse({ term: 'bees' })] }),
        observation('bids', {
          bids: [
            { term: 'bees', low: 1 },
            { term: 'wasps', low: 2 },
          ],
        }),
        observation('rivals', {
          currency: 'EUR',
          rows: [{ listing: 'L1', title: 'A', paid: true }, { title: 'B' }],
        }),
        observation('units', {
          units: { ratingsListing: 100, hasVariations: true, statedListing: 50 },
          variations: [{ code: 'v1', ratings: 40 }],
        }),
      ],
      {
        terms: {
          bees: { ticked: true, weight: 2, broad: false, confirmed: true, ofRival: false, note: 'ours' },
        },
        struck: { 'listing:L1': false, 'title:B': true },
        variation: 'v1',
        typedUnits: 9,
      },
    );
    expect(document.terms).toMatchObject([
      { term: 'bees', ticked: true, weight: 2, bids: [{ low: 1 }] },
      { term: 'wasps', ticked: false, bids: [{ low: 2 }] },
    ]);
    expect(document.rivals?.rows.map((r) => r.struck)).toEqual([false, true]);
    expect(document.units).toMatchObject({ ratingsVariation: 40, typed: 9 });
    expect(document.window).toEqual({ from: '2026-10-31', to: TODAY, units: 50 });
  });
  it('names of other people do not reach into objects', () => {
    const { document } = compose([
      observation('terms', { terms: [OBSERVED.terms.shape.terms.element.parse({ term: '__proto__' })] }),
      observation('complaints', { complaints: [{ theme: 'constructor' }] }),
    ]);
    expect(document.terms[0]).toMatchObject({ term: '__proto__', ticked: false });
    expect(document.complaints[0]).toMatchObject({ theme: 'constructor', improvement: '' });
  });
  it('each kind has a gist that tells it from earlier ones', () => {
    const none = { count: null, price: null, units: null, state: null };
    const gists: [ObservedKind, unknown, object][] = [
      ['terms', { terms: [{ term: 'a' }] }, { count: 1 }],
      [
        'bids',
        {
          bids: [
            { term: 'a', low: 1 },
            { term: 'a', low: 2, source: 'x' },
          ],
        },
        { count: 2 },
      ],
      ['rivals', { currency: 'EUR', rows: [{ price: 10 }, { price: 20 }, {}] }, { count: 3, price: 15 }],
      ['history', history('2026-11-01', 10, 12), { count: 2, price: 12 }],
      [
        'offers',
        { currency: 'EUR', list: [{ price: 9, delivery: 1 }, { price: 5 }] },
        { count: 2, price: 10 },
      ],
      ['units', { units: { estimatedListing: { units: 40 } } }, { units: 40 }],
      ['permission', { state: 'closed' }, { state: 'closed' }],
      ['complaints', { complaints: [{ theme: 'rusts' }] }, { count: 1 }],
      ['offers', { list: 'many' }, {}],
    ];
    for (const [kind, value, own] of gists)
      expect([kind, gistOf(kind, value)]).toEqual([kind, { ...none, ...own }]);
    expect(new Set(gists.map(([kind]) => kind)).size).toBe(OBSERVED_KINDS.length);
  });
  it('what can no longer be read is named and does not count', () => {
    const { document, unread } = compose([observation('offers', { list: 'many' })]);
    expect([document.offers, unread]).toEqual([null, ['offers']]);
    expect(compose([]).document).toMatchObject({ prices: null, rivals: null, units: null, now: TODAY });
  });
  it('a newer file of terms or bids adds to what was known; other kinds replace it', () => {
    const element = OBSERVED.terms.shape.terms.element;
    const before = {
      terms: [
        element.parse({
          term: 'a',
          sales: 3,
          volumes: [
            { month: '2026-01', value: 1 },
            { month: '2026-02', value: 2 },
          ],
        }),
        element.parse({ term: 'b' }),
      ],
    };
    const merged = mergedObservation('terms', before, {
      terms: [
        element.parse({
          term: 'a',
          volumes: [
            { month: '2026-02', value: 5 },
            { month: '2026-03', value: 6 },
          ],
        }),
      ],
    });
    expect(merged.terms).toMatchObject([
      { term: 'a', sales: 3, volumes: [{ value: 1 }, { value: 5 }, { value: 6 }] },
      { term: 'b' },
    ]);
    const bids = OBSERVED.bids.parse({
      bids: [
        { term: 'a', source: 'x', low: 1 },
        { term: 'a', source: 'y', low: 1 },
      ],
    });
    expect(
      mergedObservation('bids', bids, OBSERVED.bids.parse({ bids: [{ term: 'a', source: 'x', low: 2 }] }))
        .bids,
    ).toMatchObject([
      { source: 'x', low: 2 },
      { source: 'y', low: 1 },
    ]);
    expect(mergedObservation('terms', null, before)).toBe(before);
    const offers = OBSERVED.offers.parse({ currency: 'EUR', list: [] });
    expect(
      mergedObservation('offers', OBSERVED.offers.parse({ currency: 'EUR', list: [{ price: 1 }] }), offers),
    ).toBe(offers);
  });
});
