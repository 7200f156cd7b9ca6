/** Settlement lines read, counted once and added up. */
import { describe, expect, it } from 'vitest';
import { Draw } from '../testing/draw.ts';
import { RUN_SEED } from '../testing/seed.ts';
import { PLACE, readAll, sumsOf } from '../testing/settled.ts';
import type { Said } from '../testing/settled.ts';
import { guessSettlementMap, mapLike } from './map.ts';
import { countedOnce } from './once.ts';
import { SettlementReader, settlementMapIssues } from './read.ts';
import { settlementMap, STEPS } from './schema.ts';
import type { SettledLine } from './schema.ts';
import { addKinds, kindsOfCodes, kindsSettled, sharedOut, shareOut } from './sums.ts';

describe('a settlement line', () => {
  it('is read with its kind, day, order, code, units and tax, in ten-thousandths', () => {
    const { lines, totals } = readAll([
      { no: '7', order: 'O1', what: ' Sale ', amount: '24.05', tax: '3.84', qty: '2' },
      { no: '8', order: 'O1', what: 'referral', amount: '-3.6075' },
    ]);
    expect(lines[0]).toMatchObject({
      kind: 'sale',
      amount: 240_500,
      tax: 38_400,
      units: 2,
      code: 'A',
      day: '2026-10-05',
    });
    expect(lines[1]).toMatchObject({ kind: 'referral', amount: -36_075, tax: null, units: 0 });
    expect(totals).toMatchObject({
      rows: 2,
      lines: 2,
      amount: 204_425,
      first: '2026-10-05',
      last: '2026-10-05',
    });
  });
  it('whose kind nobody has said waits, with what it comes to, and is not counted', () => {
    const { lines, totals } = readAll([{ what: 'Levy', amount: '-5' }, { what: 'LEVY ', amount: '-2' }, {}]);
    expect(lines.map((l) => l.kind)).toEqual([null, null, 'sale']);
    expect([...totals.waiting]).toEqual([['levy', { lines: 2, amount: -70_000 }]]);
    expect(totals.amount).toBe(240_000);
    expect([...(sumsOf(lines).get('A')?.keys() ?? [])]).toEqual(['2026-10']);
  });
  it.each<[string, Said, object]>([
    ['settledBlank', { date: '' }, {}],
    ['settledDay', { date: '31/13/2026' }, {}],
    ['settledDay', { date: '10/31/2026' }, {}],
    ['settledOutside', { date: '1961-01-01' }, {}],
    ['settledFuture', { date: '2027-01-01' }, {}],
    ['settledNothing', { amount: '' }, {}],
    ['settledNumber', { amount: 'twelve' }, {}],
    ['settledNumber', { tax: 'some' }, {}],
    ['settledTooLarge', { amount: '99999999999' }, {}],
    ['settledUnits', { qty: '1.5' }, {}],
    ['settledUnits', { qty: '9999999' }, {}],
    ['settledNegativeUnits', { qty: '-1' }, {}],
    ['settledTax', { amount: '4', tax: '5' }, {}],
    ['settledCurrency', { cur: 'PLN' }, {}],
    ['settledCountry', { land: 'fr' }, {}],
  ])('that cannot count says why: %s %o', (code, said, over) => {
    const { faults, totals } = readAll([said], over);
    expect(faults).toEqual([code]);
    expect([totals.lines, totals.refusedRows]).toEqual([0, 1]);
  });
  it('of a day written the other way round is read as the map says', () => {
    expect(readAll([{ date: '10/05/2026' }]).lines[0]?.day).toBe('2026-05-10');
    expect(readAll([{ date: '10/05/2026' }], { days: 'monthFirst' }).lines[0]?.day).toBe('2026-10-05');
  });
  it('a number that stands twice counts once; without numbers equal lines of one file are several', () => {
    expect(readAll([{ no: '1' }, { no: '1' }]).faults).toEqual([null, 'settledTwice']);
    const { lines } = readAll([{}, {}]);
    expect(new Set(lines.map((l) => l.key)).size).toBe(2);
  });
  it('amounts without a sign get that of their kind; tax beside an amount is added to it', () => {
    const bare = readAll(
      [
        {},
        { what: 'referral', amount: '3' },
        { what: 'refund', amount: '24' },
        { what: 'reimbursement', amount: '9' },
      ],
      { signs: 'bare' },
    );
    expect(bare.lines.map((l) => l.amount / STEPS)).toEqual([24, -3, -24, 9]);
    const beside = readAll(
      [
        { amount: '20', tax: '4' },
        { what: 'referral', amount: '-3', tax: '0.6' },
      ],
      { tax: 'beside' },
    );
    expect(beside.lines.map((l) => [l.amount / STEPS, (l.tax ?? 0) / STEPS])).toEqual([
      [24, 4],
      [-3.6, -0.6],
    ]);
  });
  it('a row with a column for each amount is several lines; the units are those of what was sold', () => {
    const map = settlementMap.parse({
      columns: { day: 'D', code: 'C', units: 'U' },
      amounts: [
        { column: 'Sold', kind: 'sale' },
        { column: 'Fee', kind: 'referral' },
        { column: 'Box', kind: 'fulfilment' },
      ],
    });
    const header = ['D', 'C', 'U', 'Sold', 'Fee', 'Box'];
    expect(settlementMapIssues(map, header)).toEqual([]);
    const reader = new SettlementReader(map, header, PLACE, '2026-11-30');
    const lines = reader.read(['2026-10-05', 'A', '2', '48', '-7.20', ''], 2) as SettledLine[];
    expect(lines.map((l) => [l.kind, l.units])).toEqual([
      ['sale', 2],
      ['referral', 2],
    ]);
    expect(reader.read(['', '', '', '', '', ''], 3)).toEqual([]);
  });
  it('a map that names no day, no kind or a column that is not there says so', () => {
    const map = settlementMap.parse({ columns: {}, amounts: [{ column: 'Betrag' }] });
    expect(settlementMapIssues(map, ['Amount']).map((f) => f.code)).toEqual([
      'settledColumnMissing',
      'settledColumnMissing',
      'settledNoColumn',
    ]);
    expect(settlementMap.safeParse({ columns: {}, amounts: [] }).success).toBe(false);
  });
});

describe('several files', () => {
  it('that overlap count each line once; a later report corrects an earlier one', () => {
    const one = readAll([{ no: '1' }, { no: '2', amount: '10' }]).lines;
    const two = readAll([
      { no: '2', amount: '12' },
      { no: '3', date: '2026-11-02' },
    ]).lines;
    const once = countedOnce([one, two, two]);
    expect(once.lines.reduce((s, l) => s + l.amount, 0) / STEPS).toBe(24 + 12 + 24);
    expect([once.twice, once.corrected, once.first, once.last]).toEqual([3, 1, '2026-10-05', '2026-11-02']);
  });
  it('without numbers count equal lines as often as the file that has most of them', () => {
    const one = readAll([{}, {}]).lines;
    const two = readAll([{}, {}, {}]).lines;
    expect(countedOnce([one, two]).lines).toHaveLength(3);
  });
});

describe('sums', () => {
  it('are by code, month and kind; a charge that comes back with a refund of its order is known as such', () => {
    const { lines } = readAll([
      { no: '1', order: 'O1' },
      { no: '2', order: 'O1', what: 'referral', amount: '-3.60' },
      { no: '3', order: 'O1', what: 'referral', amount: '3.60' },
      { no: '4', order: 'O1', what: 'refund', amount: '-24' },
      { no: '5', order: 'O2', what: 'referral', amount: '1.00' },
      { no: '6', order: 'O1', what: 'vat', amount: '-4' },
      { no: '7', order: 'O2', date: '2026-11-01', what: 'vat', amount: '4' },
    ]);
    const sums = sumsOf(lines);
    const october = sums.get('A')?.get('2026-10');
    expect(october?.referral).toEqual({ amount: 10_000, back: 36_000, tax: null, units: 0, lines: 3 });
    expect(october?.refund?.units).toBe(1);
    expect(october?.vat?.back).toBe(-40_000);
    expect(sums.get('A')?.get('2026-11')?.vat?.back).toBe(0);
    expect([...kindsSettled(sums, '2026-10')].sort()).toEqual(['referral', 'refund', 'sale', 'vat']);
    expect([...kindsSettled(sums, '2026-11')]).toEqual(['vat']);
    expect(kindsOfCodes(sums, ['A'], '2026-11').vat?.lines).toBe(1);
    expect(kindsOfCodes(sums, ['A'], '2026-10').vat?.lines).toBe(1);
    expect(addKinds([kindsOfCodes(sums, ['A']), {}]).vat?.lines).toBe(2);
  });
  it('what is of no product is shared out by what each sold, to the last step; without sales it is left', () => {
    const { lines } = readAll([
      { no: '1', item: 'A', amount: '30' },
      { no: '2', item: 'B', amount: '60' },
      { no: '3', item: '', what: 'adverts', amount: '-10', tax: '-1' },
      { no: '4', item: '', what: 'transfer', amount: '-70' },
      { no: '5', item: '', what: 'reimbursement', amount: '2' },
      { no: '6', item: '', what: 'subscription', amount: '-39', date: '2026-09-01' },
    ]);
    const { by, left } = sharedOut(sumsOf(lines));
    const of = (code: string) => by.get(code)?.get('2026-10')?.adverts;
    expect([of('A')?.amount, of('B')?.amount]).toEqual([-33_333, -66_667]);
    expect((of('A')?.tax ?? 0) + (of('B')?.tax ?? 0)).toBe(-10_000);
    expect(left.get('2026-09')?.subscription?.amount).toBe(-390_000);
    expect(left.get('2026-10')?.reimbursement?.amount).toBe(20_000);
    expect(left.get('2026-10')?.transfer).toBeUndefined();
  });
  it('parts of any whole add up to it', () => {
    const d = new Draw(RUN_SEED);
    for (let i = 0; i < 500; i++) {
      const weights = Array.from({ length: d.int(1, 9) }, () => (d.chance(0.2) ? 0 : d.int(1, 1000)));
      const total = d.int(-100_000, 100_000);
      const parts = shareOut(total, weights);
      if (weights.every((w) => w === 0)) expect(parts).toBeNull();
      else {
        expect(parts?.reduce((s, p) => s + p, 0)).toBe(total);
        for (const [k, w] of weights.entries()) if (w === 0) expect(parts?.[k]).toBe(0);
      }
    }
  });
});

describe('how a report is read', () => {
  it('is guessed from its headings, each once; what kinds of lines are is not', () => {
    const header = ['Datum', 'Auftrag', 'Artikel', 'Art', 'Menge', 'MwSt', 'Betrag', 'Notiz', 'Währung'];
    const map = guessSettlementMap(header, [
      ['1.10.2026', 'A', 'B', 'Verkauf', '1', '1,60', '10,00', '', 'EUR'],
    ]);
    expect(map).toMatchObject({
      columns: {
        day: 'Datum',
        order: 'Auftrag',
        code: 'Artikel',
        kind: 'Art',
        units: 'Menge',
        tax: 'MwSt',
        currency: 'Währung',
      },
      amounts: [{ column: 'Betrag', kind: null }],
      decimal: 'comma',
      kinds: {},
    });
    const twice = [
      ['2026-10-01', 'R1', 'SN-1', '19.90'],
      ['2026-10-02', 'R2', 'SN-1', '19.90'],
    ];
    // What stands in two rows numbers no lines, however it is called.
    expect(guessSettlementMap(['When', 'Ref', 'No', 'Sum'], twice).columns.line).toBeUndefined();
    expect(guessSettlementMap(['When', 'No', 'Stock no', 'Sum'], twice).columns).toMatchObject({
      line: 'No',
      code: 'Stock no',
    });
    expect(
      guessSettlementMap(['When', 'No', 'x', 'Sum'], [['2026-10-01', ' ']]).columns.line,
    ).toBeUndefined();
    expect(guessSettlementMap(['', 'x'], []).amounts).toEqual([{ column: 'x', kind: null }]);
  });
  it('is as the last of its place, where its columns are there; else only what kinds are', () => {
    const earlier = settlementMap.parse({
      columns: { day: 'D' },
      amounts: [{ column: 'S', kind: 'sale' }],
      decimal: 'comma',
      signs: 'bare',
      kinds: { fee: 'referral' },
    });
    const guessed = guessSettlementMap(['Date', 'Amount'], []);
    expect(mapLike(guessed, null, ['Date', 'Amount'])).toBe(guessed);
    expect(mapLike(guessed, earlier, ['D', 'S', 'T'])).toEqual({ ...earlier, decimal: 'point' });
    expect(mapLike(guessed, earlier, ['Date', 'Amount'])).toEqual({ ...guessed, kinds: earlier.kinds });
  });
  it('days may be one ahead, since clocks differ, and no more', () => {
    expect(readAll([{ date: '2026-12-01' }, { date: '2026-12-02' }]).faults).toEqual([null, 'settledFuture']);
  });
});
