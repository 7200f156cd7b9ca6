import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { laneOfRow } from '../core/columns/assumptions.ts';
import { INPUT_COLUMNS, makeColumns } from '../core/columns/columns.ts';
import { ListEvaluator } from '../core/columns/evaluate.ts';
import { ASIDE_COLUMNS } from '../core/lists/roles.ts';
import { foldText, rankTexts } from '../core/columns/rank.ts';
import { judgeHurdles } from '../core/lane/hurdles.ts';
import { BIT } from '../core/lane/blanks.ts';
import { FIGURE_BLANKS } from '../core/lane/figures.ts';
import { evaluate } from '../core/lane/evaluate.ts';
import { highestPurchaseCost, priceFor } from '../core/lane/solve.ts';
import { listMap } from '../core/lists/map.ts';
import { listQuery } from '../core/lists/query.ts';
import type { ListFilter } from '../core/lists/query.ts';
import { RowReader } from '../core/lists/rows.ts';
import { screenSettings } from '../core/lists/settings.ts';
import { demoRow, demoScreen, TIDY_HEADER, TIDY_MAP } from '../demo/lists.ts';
import { FILLED } from '../core/lists/reference.ts';
import { examplePart } from '../server/testing/examplePart.ts';
import {
  FILLED_FROM,
  foldOf,
  NOTE,
  PART_NUMBERS,
  textOf,
  textsOf,
  TextWriter,
  WordWriter,
  writePart,
  writeRanks,
} from '../between/parts.ts';
import type { PartNumber } from '../between/parts.ts';
import { ask } from '../between/ask.ts';
import type { Answer, Ask, JudgedRow, ListRow } from '../between/ask.ts';
import runRange from './evaluateThread.ts';
import { OpenList } from './openList.ts';
import { cases } from '../core/testing/seed.ts';

const ROWS = 1500;
const PARTS = [500, 700, 300];
/** A row whose barcode has two listings. */
const LISTED_LINE = 7;
let folder: string;
let list: OpenList;

/** Writes the demo's tidy rows as parts, as the worker does. */
async function store(): Promise<void> {
  const reader = new RowReader(listMap.parse(TIDY_MAP), TIDY_HEADER);
  let n = 0;
  const folds: string[] = [];
  for (const [k, size] of PARTS.entries()) {
    const numbers = Object.fromEntries(PART_NUMBERS.map((c) => [c, new Float64Array(size)])) as Record<
      PartNumber,
      Float64Array
    >;
    const [title, brand, category] = [new TextWriter(), new WordWriter(), new WordWriter()];
    const columns = {
      ...makeColumns(size),
      ...Object.fromEntries(INPUT_COLUMNS.map((c) => [c, numbers[c]])),
    };
    for (let i = 0; i < size; i++, n++) {
      const r = demoRow(n);
      const cells = [
        r.barcode,
        r.title,
        r.brand,
        r.group,
        String(r.cost),
        String(r.vat),
        String(r.length),
        String(r.width),
        String(r.height),
        String(r.kg),
        r.shelf === null ? '' : String(r.shelf),
        r.units === null ? '' : String(r.units),
        String(r.minimum),
        String(r.stock),
      ];
      const row = reader.read(
        cells,
        n + 2,
        columns,
        i,
        () => -1,
        Object.fromEntries(ASIDE_COLUMNS.map((c) => [c, numbers[c]])) as never,
      );
      numbers.line[i] = n + 2;
      numbers.key[i] = Number(row.key);
      numbers.pack[i] = row.pack;
      numbers.before[i] = Number.NaN;
      numbers.digits[i] = row.code.length;
      // One product has two listings in the market figures, of which the first counts.
      const listed = n + 2 === LISTED_LINE;
      numbers.listings[i] = listed ? 2 : 1;
      numbers.listing[i] = 4;
      if (listed) numbers.notes[i] = NOTE.completed | ((FILLED.price | FILLED.weight) * FILLED_FROM);
      // What some rows say of other prices and packs.
      numbers.price30[i] = n % 3 === 0 ? 9.5 + (n % 40) : Number.NaN;
      numbers.listingPack[i] = n % 7 === 0 ? 2 : 0;
      title.add(r.title);
      brand.add(r.brand);
      category.add(r.group);
    }
    const part = {
      rows: size,
      numbers,
      texts: { title: title.column() },
      words: { brand: brand.words(), category: category.words() },
    };
    const fold = foldOf(part);
    for (let i = 0; i < size; i++) folds.push(textOf(fold, i));
    await writePart(join(folder, `part-${k}`), { ...part, texts: { ...part.texts, fold } });
  }
  const barcode = Number(demoRow(LISTED_LINE - 2).barcode);
  await writePart(
    join(folder, 'listings'),
    examplePart([
      { key: 1, line: 2, price: 1 },
      { key: barcode, line: 4, price: 20, kg: 0.5, title: 'Pot, small' },
      { key: barcode, line: 9, price: 44.5, kg: 0.2, units: 700, title: 'Pot, large' },
      { key: barcode + 10, line: 5, price: 3 },
    ]),
  );
  const all = textsOf(folds);
  await writeRanks(join(folder, 'ranks'), rankTexts(all));
}

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'bold-margin-screening-'));
  await store();
  list = new OpenList(folder, { run: async (range) => runRange(range) }, 2);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const settings = screenSettings.parse(demoScreen());
const question = (over: Partial<Ask>): Ask =>
  ask.parse({
    workspaceId: 'w',
    listId: 'l',
    runId: 'r',
    parts: PARTS.map((rows, k) => ({ name: `part-${k}`, rows })),
    ranked: true,
    expected: ROWS,
    settings,
    basis: 'now',
    categories: {},
    marksEdition: '0',
    marks: [],
    query: listQuery.parse({}),
    show: 'kept',
    from: 0,
    count: 5000,
    remedies: false,
    figures: [],
    facets: false,
    ...over,
  });
const answer = async (over: Partial<Ask>): Promise<Answer> => {
  const a = await list.answer(question(over));
  if ('needsMarks' in a) throw new Error('marks were given');
  return a;
};

describe('a list in memory', () => {
  it(
    'grows part by part, asked in between under whatever assumptions, and comes to the same as one ' +
      'that is read at once',
    async () => {
      const dearer = {
        ...settings,
        assumptions: { ...settings.assumptions, inbound: { perUnit: 0.4, perKg: 0.1 } },
      };
      const variants: Partial<Ask>[] = [
        {},
        { settings: dearer },
        { basis: '30' },
        { settings: { ...settings, packs: 'bought' } },
        { marksEdition: '1', marks: [[Number('9521000000018'), 2, 3, 1, null]] },
        { marksEdition: '2', marks: [[Number(demoRow(LISTED_LINE - 2).barcode), 1, null, null, 9]] },
      ];
      await fc.assert(
        fc.asyncProperty(
          fc.array(
            fc.record({
              parts: fc.integer({ min: 1, max: 3 }),
              variant: fc.nat(variants.length - 1),
              asker: fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f'),
            }),
            { minLength: 1, maxLength: 8 },
          ),
          fc.nat(3000),
          async (steps, expected) => {
            const growing = new OpenList(folder, { run: async (range) => runRange(range) }, 2);
            let parts = 0;
            for (const step of steps) {
              parts = Math.max(parts, step.parts);
              const asked = question({
                ...variants[step.variant],
                asker: step.asker,
                parts: question({}).parts.slice(0, parts),
                ranked: parts === 3,
                expected,
              });
              const here = await growing.answer(asked);
              const atOnce = await new OpenList(folder, { run: async (range) => runRange(range) }, 2).answer(
                asked,
              );
              expect({ ...here, took: null }).toEqual({ ...atOnce, took: null });
            }
          },
        ),
        { numRuns: cases(25) },
      );
    },
  );

  it('people who try different assumptions keep each their results, however often they take turns', async () => {
    const own = new OpenList(folder, { run: async (range) => runRange(range) }, 2);
    const asks = (asker: string, perUnit: number) =>
      question({
        asker,
        count: 0,
        settings: { ...settings, assumptions: { ...settings.assumptions, inbound: { perUnit, perKg: 0 } } },
      });
    const run = vi.spyOn(ListEvaluator.prototype, 'run');
    try {
      const evaluations = async (asked: Ask): Promise<number> => {
        const before = run.mock.calls.length;
        await own.answer(asked);
        return run.mock.calls.length - before;
      };
      const [a, b] = [asks('a', 0.1), asks('b', 0.2)];
      const first = await evaluations(a);
      expect(first).toBeGreaterThan(0);
      expect(await evaluations(b)).toBe(first);
      for (let turn = 0; turn < 3; turn++)
        expect([await evaluations(a), await evaluations(b)]).toEqual([0, 0]);
      // The saved ones of somebody else are at hand for whoever looks at them.
      expect(await evaluations({ ...a, asker: 'c' })).toBe(0);
      // Each new try of one takes the place of that one's last, not of the other's.
      for (const perUnit of [0.3, 0.4, 0.5, 0.6, 0.7])
        expect(await evaluations(asks('b', perUnit))).toBe(first);
      expect(await evaluations(a)).toBe(0);
      // Of more people than there is room for, the one who was away the longest waits once.
      for (const asker of ['d', 'e', 'f', 'g']) await own.answer(asks(asker, asker.charCodeAt(0) / 100));
      expect(await evaluations(a)).toBe(first);
    } finally {
      run.mockRestore();
    }
  });

  it('rows in view are told ahead what they come to under other assumptions, as the whole list then says', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(fc.integer({ min: 2, max: ROWS + 1 }), { minLength: 1, maxLength: 40 }),
        fc.integer({ min: 0, max: 300 }),
        fc.constantFrom('asTyped' as const, 'included' as const),
        async (lines, cents, vat) => {
          const own = new OpenList(folder, { run: async (range) => runRange(range) }, 2);
          await own.answer(question({}));
          const { assumptions } = settings;
          const other = {
            ...settings,
            assumptions: {
              ...assumptions,
              inbound: { perUnit: cents / 100, perKg: 0.2 },
              purchase: { ...assumptions.purchase, vat, vatRate: vat === 'included' ? 0.19 : 0 },
            },
          };
          const ahead = await own.ahead(question({ settings: other }), lines);
          const whole = await own.answer(question({ settings: other }));
          if ('needsMarks' in whole) throw new Error('marks were given');
          expect(ahead).toHaveLength(lines.length);
          for (const [k, line] of lines.entries()) {
            const row = whole.window.find((r) => r.line === line) as ListRow;
            const { figures, ...told } = (ahead as JudgedRow[])[k] as JudgedRow;
            expect(row).toMatchObject(told);
            expect(row.figures).toMatchObject(figures);
          }
        },
      ),
      { numRuns: cases(20) },
    );
  });

  it('counts and sums are answered without any row in the window', async () => {
    const whole = await answer({});
    const none = await answer({ count: 0, figures: ['cost'], facets: true });
    expect(none.window).toEqual([]);
    expect(none.verdicts).toEqual(whole.verdicts);
    expect(none.stats[0]?.known).toBe(ROWS);
  });

  it('nothing is told ahead where more than assumptions has changed, or a line is not there', async () => {
    const own = new OpenList(folder, { run: async (range) => runRange(range) }, 2);
    expect(await own.ahead(question({}), [2])).toBeNull();
    await own.answer(question({}));
    expect(await own.ahead(question({}), [2])).toHaveLength(1);
    expect(await own.ahead(question({}), [2, 1])).toBeNull();
    expect(await own.ahead(question({}), [ROWS + 2])).toBeNull();
    expect(await own.ahead(question({ settings: { ...settings, packs: 'bought' } }), [2])).toBeNull();
    expect(await own.ahead(question({ basis: '30' }), [2])).toBeNull();
    expect(await own.ahead(question({ marksEdition: 'another' }), [2])).toBeNull();
  });

  it('a question whose asker has left is not worked out, and holds up no other', async () => {
    const own = new OpenList(folder, { run: async (range) => runRange(range) }, 2);
    const left = new AbortController();
    const asked = own.answer(question({ figures: ['cost', 'roi', 'margin'] }), left.signal);
    const next = own.answer(question({ count: 1 }));
    left.abort();
    await expect(asked).rejects.toThrow(/abort/i);
    expect(await next).toMatchObject({ rows: ROWS });
    await expect(own.ahead(question({}), [2], left.signal)).rejects.toThrow(/abort/i);
  });

  it('holds every row once, and each comes to what its own lane comes to', async () => {
    const { window, rows } = await answer({});
    expect(rows).toBe(ROWS);
    expect(window.map((r) => r.line)).toEqual(Array.from({ length: ROWS }, (_, i) => i + 2));
    const rates = { ...settings.rates, country: settings.country, currency: settings.currency };
    for (const row of window.filter((_, i) => i % 50 === 0)) {
      const found = await list.laneAt(question({}), row.line);
      if (found === null) throw new Error('no such row');
      const doc = laneOfRow(settings.assumptions, rates, found.inputs);
      const single = evaluate(doc).figures.unitProfit;
      if (single === null) expect(row.figures.unitProfit).toBeNull();
      else
        expect(Math.abs((row.figures.unitProfit as number) - single)).toBeLessThanOrEqual(
          1e-9 * Math.max(1, Math.abs(single)),
        );
      expect(row.figures.breakEvenPrice).toBe(priceFor(doc).price);
      const most = highestPurchaseCost(doc).unitPrice;
      if (most === null) expect(row.figures.mostToPay).toBeNull();
      else expect(row.figures.mostToPay).toBeCloseTo(most, 9);
      const verdicts = judgeHurdles(doc, settings.assumptions.hurdles).map((h) => h.verdict);
      expect(row.verdict).toBe(
        verdicts.includes('fail')
          ? 'fail'
          : verdicts.includes('unknown') || single === null
            ? 'unknown'
            : verdicts.includes('near')
              ? 'near'
              : 'pass',
      );
    }
  });

  it(
    'chooses and orders as a plain filter and sort do, and says of each row that went which limit ' +
      'took it',
    async () => {
      const all = (await answer({})).window;
      const filter: fc.Arbitrary<ListFilter> = fc.oneof(
        fc.record({
          kind: fc.constant('range' as const),
          figure: fc.constantFrom(
            'unitProfit' as const,
            'roi' as const,
            'cost' as const,
            'units' as const,
            'breakEvenPrice' as const,
            'mostToPay' as const,
          ),
          min: fc.option(fc.integer({ min: -2, max: 20 })),
          max: fc.option(fc.integer({ min: 0, max: 60 })),
          keepUnknown: fc.boolean(),
        }),
        fc.record({
          kind: fc.constant('words' as const),
          mode: fc.constantFrom('in' as const, 'out' as const),
          words: fc.array(fc.constantFrom('pot', 'LARCH', 'tiefgrun', 'zzz', 'set of 6'), { maxLength: 3 }),
        }),
        fc.record({
          kind: fc.constant('oneOf' as const),
          of: fc.constant('brand' as const),
          values: fc.subarray(['Larkmoor', 'Pentlow', 'Nobody']),
          not: fc.boolean(),
        }),
        fc.record({
          kind: fc.constant('verdict' as const),
          only: fc.subarray<'pass' | 'near' | 'fail' | 'unknown'>(['pass', 'near', 'fail', 'unknown'], {
            minLength: 1,
          }),
        }),
        fc.record({
          kind: fc.constant('flag' as const),
          flag: fc.constantFrom('multipack' as const, 'noMarket' as const),
          is: fc.boolean(),
        }),
      );
      const stays = (r: ListRow, f: ListFilter): boolean => {
        switch (f.kind) {
          case 'range': {
            const x = r.figures[f.figure] ?? null;
            return x === null
              ? f.keepUnknown
              : (f.min === null || x >= f.min) && (f.max === null || x <= f.max);
          }
          case 'words':
            return (
              f.words.length === 0 ||
              f.words.some((v) =>
                foldText(`${r.title}\n${r.brand}\n${r.category}\n${r.code}`).includes(foldText(v)),
              ) ===
                (f.mode === 'in')
            );
          case 'oneOf':
            return f.values.length === 0 || f.values.includes(r.brand) !== f.not;
          case 'verdict':
            return f.only.includes(r.verdict);
          case 'flag':
            return (
              (f.flag === 'multipack'
                ? (r.figures.pack ?? 0) > 1 || r.listingPack > 1
                : r.figures.price === null || r.figures.units === null) === f.is
            );
        }
      };
      await fc.assert(
        fc.asyncProperty(
          fc.array(filter, { maxLength: 4 }),
          fc.constantFrom('', 'plant', 'pot glazed', '952'),
          fc.boolean(),
          fc.constantFrom('unitProfit' as const, 'breakEvenPrice' as const, 'mostToPay' as const),
          async (filters, text, down, by) => {
            const tokens = foldText(text).split(' ').filter(Boolean);
            const said = (r: ListRow): boolean =>
              tokens.every((t) => foldText(`${r.title}\n${r.brand}\n${r.category}\n${r.code}`).includes(t));
            const query = {
              text,
              filters,
              sort: [
                { by, down },
                { by: 'title' as const, down: false },
              ],
            };
            const got = await answer({ query });
            const want = all.filter((r) => said(r) && filters.every((f) => stays(r, f)));
            expect(got.kept).toBe(want.length);
            const profit = (r: ListRow): number => r.figures[by] ?? Number.NaN;
            expect(got.window.map((r) => r.line).toSorted((a, b) => a - b)).toEqual(want.map((r) => r.line));
            // What is whole comes before what is a bound, and that before what is not known.
            const lacking = (r: ListRow): number =>
              r.blanks & FIGURE_BLANKS.unitProfit & ~(by === 'mostToPay' ? BIT.goods : BIT.price);
            const place = (r: ListRow): number =>
              Number.isNaN(profit(r)) ? 2 : lacking(r) === 0 || by === 'unitProfit' ? 0 : 1;
            for (let i = 1; i < got.window.length; i++) {
              const [x, y] = [got.window[i - 1] as ListRow, got.window[i] as ListRow];
              expect(place(x)).toBeLessThanOrEqual(place(y));
              if (place(x) < place(y) || place(y) === 2) continue;
              expect(down ? profit(x) >= profit(y) : profit(x) <= profit(y)).toBe(true);
            }
            const shift = text === '' ? 0 : 1;
            for (const [k, f] of filters.entries())
              expect(got.funnel[k + shift]?.alone).toBe(all.filter((r) => !stays(r, f)).length);
            const removed = await answer({ query, show: 'removed' });
            expect(removed.window.length).toBe(ROWS - want.length);
            for (const r of removed.window.slice(0, 40))
              expect(r.removedBy.filter((k) => k >= 0)).toEqual(
                filters.flatMap((f, k) => (stays(r, f) ? [] : [k])),
              );
          },
        ),
        { numRuns: cases(60) },
      );
    },
  );

  it('titles order by the alphabet; brands too', async () => {
    const titles = (
      await answer({ query: listQuery.parse({ sort: [{ by: 'title', down: false }] }) })
    ).window.map((r) => foldText(r.title));
    expect(titles).toEqual(titles.toSorted((a, b) => Buffer.compare(Buffer.from(a), Buffer.from(b))));
    const brands = (
      await answer({ query: listQuery.parse({ sort: [{ by: 'brand', down: true }] }) })
    ).window.map((r) => foldText(r.brand));
    expect(brands).toEqual(brands.toSorted().reverse());
  });

  it('a changed assumption reaches every row, and a changed price basis or pack too', async () => {
    const before = (await answer({})).window;
    const dearer = (
      await answer({
        settings: {
          ...settings,
          assumptions: { ...settings.assumptions, inbound: { perUnit: 1.2, perKg: 0.15 } },
        },
      })
    ).window;
    for (const [i, r] of dearer.entries())
      if (r.figures.unitProfit != null)
        expect(r.figures.unitProfit).toBeCloseTo((before[i]?.figures.unitProfit as number) - 1, 0);
    const packs = (await answer({ settings: { ...settings, packs: 'bought' } })).window;
    // A pack is sold as it comes, and costs what it costs, unless the listing's own pack is known: then so
    // many times as much.
    const named = before.filter((r) => r.figures.pack === 3 && r.figures.paid !== null);
    const [alone, asTwo] = [named.find((r) => r.listingPack === 0), named.find((r) => r.listingPack === 2)];
    const landed = (line: number | undefined) => packs.find((r) => r.line === line)?.figures.landedCost;
    expect(landed(alone?.line)).toBe(alone?.figures.landedCost);
    expect(landed(asTwo?.line)).toBeLessThan((asTwo?.figures.landedCost as number) * 0.8);
  });

  it('near misses say at which purchase price they would pay', async () => {
    const { window } = await answer({
      query: listQuery.parse({ filters: [{ kind: 'verdict', only: ['near'] }] }),
      remedies: true,
    });
    expect(window.length).toBeGreaterThan(0);
    for (const r of window.slice(0, 20)) {
      const [remedy] = r.remedies;
      expect(remedy?.unitPrice).toBeLessThan(r.figures.cost as number);
    }
  });

  it('marks are asked for once, and then stand on the rows and in the limits', async () => {
    const key = (await answer({})).window[4]?.key as number;
    expect(await list.answer(question({ marksEdition: '1', marks: null }))).toEqual({ needsMarks: true });
    const query = listQuery.parse({ filters: [{ kind: 'flag', flag: 'kept', is: true }] });
    const got = await answer({ marksEdition: '1', marks: [[key, 2, null, null, null]], query });
    expect(got.window.map((r) => [r.key, r.mark])).toEqual([[key, 'kept']]);
    expect((await answer({ marksEdition: '1', marks: null, query })).kept).toBe(1);
    // A pack confirmed for one product counts for it alone.
    const confirmed = await answer({ marksEdition: '2', marks: [[key, 0, 1, 4, null]] });
    expect(confirmed.window[4]?.figures.landedCost).toBeLessThan(got.window[0]?.figures.landedCost as number);
  });

  it(
    'of several listings another may be chosen by hand: what the row had from the market figures is ' +
      "that listing's, the rest stays",
    async () => {
      const at = LISTED_LINE - 2;
      const before = (await answer({ marksEdition: '5', marks: [] })).window;
      const row = before[at] as ListRow;
      const opened = async (over: Partial<Ask>) => list.laneAt(question(over), LISTED_LINE);
      const byRule = await opened({ marksEdition: '5', marks: [] });
      expect(byRule?.listings.map((l) => [l.line, l.title, l.price, l.units, l.counts])).toEqual([
        [4, 'Pot, small', 20, null, true],
        [9, 'Pot, large', 44.5, 700, false],
      ]);
      const chosen = (await answer({ marksEdition: '6', marks: [[row.key, 0, null, null, 9]] })).window;
      expect([chosen[at]?.figures.price, chosen[at]?.figures.kg, chosen[at]?.figures.units]).toEqual([
        44.5,
        0.2,
        row.figures.units,
      ]);
      const byHand = await opened({ marksEdition: '6', marks: null });
      expect(byHand?.inputs).toMatchObject({
        price: 44.5,
        kg: 0.2,
        cost: byRule?.inputs.cost,
        sides: byRule?.inputs.sides,
      });
      expect(byHand?.listings.map((l) => l.counts)).toEqual([false, true]);
      const doc = laneOfRow(
        settings.assumptions,
        { ...settings.rates, country: settings.country, currency: settings.currency },
        byHand?.inputs as never,
      );
      expect(chosen[at]?.figures.unitProfit).toBeCloseTo(evaluate(doc).figures.unitProfit as number, 9);
      // Every other row is as it was, and so is this one when the choice is taken back.
      expect(chosen.filter((_, i) => i !== at)).toEqual(before.filter((_, i) => i !== at));
      expect((await answer({ marksEdition: '7', marks: [[row.key, 0, null, null, null]] })).window).toEqual(
        before,
      );
      expect(
        (await opened({ marksEdition: '8', marks: [[before[3]?.key as number, 0, null, null, 9]] }))
          ?.listings,
      ).toHaveLength(2);
    },
  );

  it('sums, distributions and counts are those of the rows', async () => {
    const { window, stats, facets, verdicts } = await answer({ figures: ['unitProfit'], facets: true });
    const known = window.flatMap((r) => r.figures.unitProfit ?? []);
    expect(stats[0]?.known).toBe(known.length);
    expect(stats[0]?.sum).toBeCloseTo(
      known.reduce((a, b) => a + b, 0),
      6,
    );
    const s = stats[0];
    expect(
      (s?.counts ?? []).reduce((a, b) => a + b, 0) + (s?.below ?? 0) + (s?.above ?? 0) + (s?.unknown ?? 0),
    ).toBe(ROWS);
    expect(facets?.brand.reduce((a, [, n]) => a + n, 0)).toBe(ROWS);
    expect(Object.values(verdicts).reduce((a, b) => a + b, 0)).toBe(ROWS);
  });
});
