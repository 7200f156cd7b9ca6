import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brief } from '../testing/brief.ts';
import { CORPUS, FAULTY } from '../testing/scheduleCorpus.ts';
import type { CorpusTable } from '../testing/scheduleCorpus.ts';
import { MARKED, UNSEEN } from '../testing/scheduleCorpusMore.ts';
import { givenOfText } from './given.ts';
import { understand, understandFreight } from './understand.ts';
import { cases } from '../testing/seed.ts';

const read = ({ text, currency }: CorpusTable) =>
  understand(givenOfText(text.replaceAll('→', '\t')), currency);
const said = (t: CorpusTable) => {
  const u = read(t);
  return {
    reads: brief(u.parts).sort(),
    doubtful: u.counts.doubtful,
    notUnderstood: u.counts.notUnderstood,
    faults: u.faults.map((f) => f.code),
  };
};
const expected = (t: CorpusTable) => ({
  reads: [...t.reads].sort(),
  doubtful: t.doubtful ?? 0,
  notUnderstood: t.notUnderstood ?? 0,
  faults: t.faults ?? [],
});

describe('fee tables as people have them', () => {
  it('are sixty and more, in seven languages', () => {
    expect(CORPUS.length).toBeGreaterThanOrEqual(60);
  });
  it.each([...CORPUS, ...UNSEEN].map((t) => [t.name, t] as const))('%s', (_, t) => {
    expect(said(t)).toEqual(expected(t));
  });
});

describe('tables with something wrong', () => {
  it.each([...FAULTY, ...MARKED].map((t) => [t.name, t] as const))('%s', (_, t) => {
    expect(said(t)).toEqual(expected(t));
  });
});

describe('whatever is pasted', () => {
  const word = fc.constantFrom(
    ...[
      'Tier',
      'Weight',
      'Fee',
      'up to',
      '0.5 kg',
      '12 oz',
      '1,5',
      '1.500',
      '$2.10',
      '3,49 €',
      '15 %',
      '15 % + 1',
      'n/a',
    ],
    ...[
      'each further 0.5 kg',
      '10 x 8 x 3 in',
      'January',
      'Q3',
      '-',
      '=A1',
      '１２',
      '٣',
      '"',
      'Small',
      'min 0.30',
      '9'.repeat(400),
    ],
  );
  const table = fc
    .array(fc.array(fc.oneof(word, fc.string({ maxLength: 12 })), { maxLength: 7 }), { maxLength: 9 })
    .chain((rows) =>
      fc.constantFrom('\t', ';', ',', ' | ', '   ').map((mark) => rows.map((r) => r.join(mark)).join('\n')),
    );
  const numbers = (x: unknown): number[] =>
    typeof x === 'number'
      ? [x]
      : x !== null && typeof x === 'object'
        ? Object.values(x).flatMap(numbers)
        : [];
  it('is read without a fall, into figures that are finite and not below nothing', () => {
    fc.assert(
      fc.property(table, (text) => {
        const u = understand(givenOfText(text), 'EUR');
        const { line: _l, ...parts } = { line: 0, ...u.parts };
        expect(numbers(parts).every((x) => Number.isFinite(x) && x >= 0)).toBe(true);
        for (const t of u.tables)
          for (const r of t.rows) for (const c of r.cells) expect(c.text === '').toBe(c.state === 'blank');
      }),
      { numRuns: cases(400) },
    );
  });
  it('says nothing that was not given: every figure of a step stands in the text', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 90 }), fc.integer({ min: 100, max: 9999 })), {
          minLength: 1,
          maxLength: 8,
        }),
        (rows) => {
          const text = [
            'Weight\tFee',
            ...rows.map(([kg, c]) => `up to ${kg} kg\t${(c / 100).toFixed(2)}`),
          ].join('\n');
          const { steps } = understand(givenOfText(text), 'EUR').parts;
          expect(steps.map((s) => [s.upToKg, s.fee])).toEqual(rows.map(([kg, c]) => [kg, c / 100]));
        },
      ),
    );
  });
  it.each([
    ...[
      '.',
      '. ',
      ' ',
      'a',
      'a ',
      '9',
      '9 ',
      '1,',
      '1.',
      '5% ',
      '$5 ',
      'up to ',
      'a: ',
      '(1) ',
      '*',
      '²',
      '"',
    ],
    ...[
      '1 x ',
      '+ 1 ',
      'per kg ',
      'first 5 kg each 3 lb over ',
      '保管料1kgまで ',
      '1 lb 2 oz ',
      'half-pound ',
    ],
  ])('is read however often %j is repeated', (piece) => {
    const long = piece.repeat(Math.ceil(20_000 / piece.length));
    for (const text of [
      `Weight\tFee\n${long}\t${long}\n${long}!\t3.00`,
      `${long}\n${long}!\n${long}`,
      `Tier  Weight  Fee\nA  ${long}  3.00\nB  ${long}!  4.00`,
    ])
      for (const read of [understand, understandFreight])
        expect(read(givenOfText(text), 'EUR').counts.doubtful).toBeGreaterThanOrEqual(0);
  });
  it('with more lines or columns than any table has says what is left out', () => {
    const wide = Array.from({ length: 3 }, () => Array.from({ length: 10_000 }, () => '1').join('\t')).join(
      '\n',
    );
    expect(understand(givenOfText(wide), 'EUR').faults).toMatchObject([
      { code: 'scheduleWide', detail: { left: 9800 } },
    ]);
    const long = ['Weight\tFee', ...Array.from({ length: 6000 }, (_, i) => `up to ${i + 1} kg\t1.00`)].join(
      '\n',
    );
    expect(understand(givenOfText(long), 'EUR').faults).toMatchObject([
      { code: 'scheduleLong', detail: { left: 1001 } },
    ]);
  });
});
