import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { text } from 'node:stream/consumers';
import ExcelJS from 'exceljs';
import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { ANSWERS } from '../between/feed.ts';
import { riskOf } from '../core/risk/risk.ts';
import { rangesDocument } from '../core/risk/schema.ts';
import { plainLane } from '../core/testing/documents.ts';
import { randomLane } from '../core/testing/lanes.ts';
import { laneResult } from '../core/lane/result.ts';
import { evaluate } from '../core/lane/evaluate.ts';
import { runCommand } from './command.ts';

const root = resolve(import.meta.dirname, '..');
const folder = mkdtempSync(join(tmpdir(), 'bold-margin-cli-'));
afterAll(() => rmSync(folder, { recursive: true }));

type Run = { code: number; out: string; err: string };
/** Runs a command here; `input` stands in a file that is named last. */
async function bm(args: string[], input?: string): Promise<Run> {
  const run = { code: 0, out: '', err: '' };
  const keep = (stream: 'out' | 'err') => (text: unknown) => {
    run[stream] += String(text);
    return true;
  };
  const spies = [
    vi.spyOn(process.stdout, 'write').mockImplementation(keep('out')),
    vi.spyOn(process.stderr, 'write').mockImplementation(keep('err')),
  ];
  const given = join(folder, 'given.txt');
  if (input !== undefined) writeFileSync(given, input);
  try {
    run.code = await runCommand(input === undefined ? args : [...args, given]);
  } finally {
    for (const spy of spies) spy.mockRestore();
  }
  return run;
}
const startProcess = (...args: string[]) =>
  spawn(process.execPath, ['--import', 'tsx', join(root, 'cli/bm.ts'), ...args], { cwd: root });

/** Numbers of a page are compared to nine digits; what a page leaves out is not compared. */
function matches(got: unknown, want: unknown, path = ''): string[] {
  if (typeof want === 'number' && typeof got === 'number')
    return Math.abs(got - want) <= 1e-9 * Math.max(1, Math.abs(want))
      ? []
      : [`${path}: ${got}, the page says ${want}`];
  if (Array.isArray(want))
    return Array.isArray(got) && got.length === want.length
      ? want.flatMap((x, i) => matches(got[i], x, `${path}.${i}`))
      : [`${path}: another length`];
  if (want !== null && typeof want === 'object')
    return got !== null && typeof got === 'object'
      ? Object.entries(want).flatMap(([k, v]) =>
          matches((got as Record<string, unknown>)[k], v, `${path}.${k}`),
        )
      : [`${path}: missing`];
  return got === want ? [] : [`${path}: ${JSON.stringify(got)}, the page says ${JSON.stringify(want)}`];
}

describe('every example of docs/formats.md', () => {
  const blocks = [
    ...readFileSync(join(root, 'docs/formats.md'), 'utf8').matchAll(/^```(\w+) ?([^\n]*)\n([\s\S]*?)^```$/gm),
  ].map((m) => ({ language: m[1], about: m[2] as string, text: m[3] as string }));
  beforeAll(() => {
    const files = blocks.filter((b) => b.about.startsWith('file='));
    const lane = files.find((b) => b.about === 'file=lane.json')?.text ?? '';
    for (const b of files)
      writeFileSync(join(folder, b.about.slice(5)), b.text.replace('"the lane document above"', lane));
  });
  it('stands there: twelve commands with their output, and one that fails', () => {
    expect(blocks.filter((b) => b.about === 'output')).toHaveLength(12);
    expect(blocks.filter((b) => b.language === 'sh')).toHaveLength(13);
  });
  it.each(blocks.flatMap((b, i) => (b.language === 'sh' ? [[b.text.trim(), i] as const] : [])))(
    '%s',
    async (command, i) => {
      const args = command
        .replace(/^npm run --silent bm -- /, '')
        .split(' ')
        .map((a) => (/\.(json|txt|csv)$/.test(a) ? join(folder, a) : a));
      const run = await bm(args);
      expect(run.code).toBe(Number(/^exit=(\d)$/.exec(blocks[i]?.about ?? '')?.[1] ?? 0));
      const next = blocks[i + 1];
      if (next?.about === 'output') expect(matches(JSON.parse(run.out), JSON.parse(next.text))).toEqual([]);
      else for (const line of next?.text.trim().split('\n') ?? []) expect(run.err).toContain(line.trim());
      expect(next?.about === 'output' || next?.about === 'errors').toBe(true);
    },
  );
});

describe('bm match', () => {
  const put = (name: string, text: string): string => {
    writeFileSync(join(folder, name), text);
    return join(folder, name);
  };
  it('takes a list of noise of one’s own', async () => {
    const goods = put('noisy.csv', 'Title,Brand\nSuperdeal slate bird bath,Ortolan\n');
    const listings = put('market.csv', 'Code,Title,Brand\nL1,Slate bird bath,Ortolan\n');
    const plain = await bm(['match', goods, '--listings', listings]);
    const own = await bm([
      'match',
      goods,
      '--listings',
      listings,
      '--noise',
      put('noise.txt', 'superdeal\n'),
    ]);
    expect(JSON.parse(plain.out).rows[0].alike).toBeLessThan(1);
    expect(JSON.parse(own.out).rows[0]).toMatchObject({ confidence: 'certain', reason: 'title', alike: 1 });
  });
  it.each([
    [[], /needs --listings/],
    [['--listings', 'none.csv'], /no such file/i],
  ])('%j: says what is missing', async (more, why) => {
    const run = await bm(['match', put('g.csv', 'Title\nMat\n'), ...more]);
    expect(run.code).toBe(2);
    expect(run.err).toMatch(why);
  });
  it('a file without titles is refused', async () => {
    const run = await bm(['match', put('t.csv', 'Price\n3\n'), '--listings', put('l.csv', 'Title\nMat\n')]);
    expect([run.code, run.out]).toEqual([2, '']);
    expect(run.err).toContain('no column of titles');
  });
});

describe('bm card', () => {
  const put = (name: string, text: string): string => {
    writeFileSync(join(folder, name), text);
    return join(folder, name);
  };
  it('reads a table from standard input; what is doubtful or not understood is exit 1', async () => {
    const run = await bm(['card', 'read'], 'Weight\tFee\nup to 500 g\t3\nup to 1.500 g\tx5x');
    expect(run.code).toBe(1);
    expect(JSON.parse(run.out)).toMatchObject({ currency: 'EUR', counts: { doubtful: 1, notUnderstood: 1 } });
  });
  it('reads a workbook, sheet after sheet', async () => {
    const book = new ExcelJS.Workbook();
    book.addWorksheet('Fees').addRows([
      ['Tier', 'Weight', 'Fee'],
      ['Small', 'up to 1 kg', 2.5],
    ]);
    book.addWorksheet('Commissions').addRows([
      ['Category', 'Commission'],
      ['Garden', '15 %'],
    ]);
    const file = join(folder, 'fees.xlsx');
    await book.xlsx.writeFile(file);
    const run = await bm(['card', 'read', file]);
    expect([run.code, run.err]).toEqual([0, '']);
    const { parts } = JSON.parse(run.out);
    expect(parts.steps).toMatchObject([{ tier: 'Small', upToKg: 1, fee: 2.5 }]);
    expect(parts.categories).toMatchObject([{ name: 'Garden' }]);
    writeFileSync(file, 'no workbook');
    const broken = await bm(['card', 'read', file]);
    expect([broken.code, broken.out]).toEqual([2, '']);
    expect(broken.err).not.toMatch(/ at |Error:/);
  });
  it('reads postage and freight, and says what they would change of such a card', async () => {
    const sample = (name: string) =>
      JSON.parse(readFileSync(join(root, `core/testing/samples/rate-card-1-${name}.json`), 'utf8')).document;
    const [postage, freight] = [join(folder, 'postage.json'), join(folder, 'freight.json')];
    writeFileSync(postage, JSON.stringify(sample('postage')));
    writeFileSync(freight, JSON.stringify(sample('freight')));
    const zone = sample('postage').data.zones[0].name;
    const post = await bm(['card', 'read', '--like', postage], `Weight\t${zone}\nup to 1 kg\t9.99`);
    expect(post.err).toBe('');
    const read = JSON.parse(post.out);
    expect(read.cells.zones[0][0]).toBe(zone);
    expect(read.cells.weightSteps).toEqual([[zone, '1', '', '9.99']]);
    expect(read.changes.length).toBeGreaterThan(0);
    const sea = await bm(['card', 'read', '--kind', 'freight'], 'Sea freight: 95.00 per cbm');
    expect(JSON.parse(sea.out).freight.legs).toEqual([]);
    const two = 'Sea freight: 95.00 per cbm\nImport customs: 60.00 per shipment';
    const list = await bm(['card', 'read', '--like', freight], two);
    expect(list.code).toBe(0);
    expect(JSON.parse(list.out).cells.legs.map((l: string[]) => l[1])).toEqual([
      'Sea freight',
      'Import customs',
    ]);
    const other = await bm(['card', 'read', '--kind', 'postage', '--like', freight], two);
    expect([other.code, other.err]).toEqual([2, expect.stringContaining('"postage" is none of freight')]);
    const none = await bm(['card', 'read', '--kind', 'tax'], two);
    expect([none.code, none.err]).toEqual([
      2,
      expect.stringContaining('none of marketplace, postage, freight'),
    ]);
  });
  it('says what a table would change of a card', async () => {
    const card = join(folder, 'market.json');
    const run = await bm([
      'card',
      'read',
      put('next.csv', 'Category,Referral fee\nGarden,16%'),
      '--like',
      card,
    ]);
    expect(run.code).toBe(0);
    expect(JSON.parse(run.out)).toMatchObject({
      currency: 'EUR',
      changes: [{ sheet: 'referralTiers', cells: [{ column: 'pct', from: 0.15, to: 0.16 }] }],
    });
  });
  it.each([
    [['card'], 'bm card needs read or check'],
    [['card', 'check', 'market.json'], 'bm card needs read or check'],
    [['card', 'read', 'nowhere.txt'], 'There is no such file'],
    [['card', 'read', 'fees.txt', '--currency', 'euro'], 'is not a currency'],
    [['card', 'read', 'fees.txt', '--like', 'fees.txt'], 'not JSON'],
    [['card', 'check', 'card.json', 'proofs.csv'], 'Only the card of a marketplace'],
    [['card', 'check', 'market.json', 'fees.txt'], 'does not name the columns'],
  ])('%j: %s', async (args, said) => {
    const run = await bm(args.map((a) => (/\.(json|txt|csv)$/.test(a) ? join(folder, a) : a)));
    expect([run.code, run.out]).toEqual([2, '']);
    expect(run.err).toContain(said);
  });
  it('a proof that cannot be read names row and column', async () => {
    const proofs = put('bad.csv', 'weight,fulfilment\n0.9 kg,3.20\nheavy,3.20');
    const run = await bm(['card', 'check', join(folder, 'market.json'), proofs]);
    expect([run.code, run.err]).toEqual([2, expect.stringContaining('row 3, weight')]);
  });
});

describe('bm schema feed', () => {
  it('prints the contract as docs/feed.openapi.json has it, every question with its answer', async () => {
    const run = await bm(['schema', 'feed']);
    expect(run.code).toBe(0);
    const kept = readFileSync(join(root, 'docs/feed.openapi.json'), 'utf8');
    expect(JSON.parse(kept)).toEqual(JSON.parse(run.out));
    const paths = Object.keys(JSON.parse(run.out).paths);
    expect(paths).toEqual(Object.keys(ANSWERS).map((q) => `/${q}`));
  });
});

describe('bm evidence', () => {
  const put = (name: string, value: unknown): string => {
    writeFileSync(join(folder, name), typeof value === 'string' ? value : JSON.stringify(value));
    return join(folder, name);
  };
  const head = { format: 'bold-margin/evidence', version: 1 };
  const volumes = Array.from({ length: 24 }, (_, i) => ({
    month: `${2024 + Math.floor(i / 12)}-${String((i % 12) + 1).padStart(2, '0')}`,
    value: (i % 12 === 11 ? 200 : 100) * 2 ** (i / 12),
  }));
  const prices = { currency: 'EUR', days: [{ day: '2026-11-29', price: 30 }] };
  it('says season and direction of each term, and of all together, as of the month after the last', async () => {
    const terms = ['bee house', 'bee hotel'].map((term) => ({ term, volumes }));
    const run = await bm(['evidence', 'season', put('terms.json', { ...head, terms })]);
    expect([run.code, run.err]).toEqual([0, '']);
    const said = JSON.parse(run.out);
    expect(said.now).toBe('2026-01-01');
    expect(said.together).toMatchObject({
      season: { known: true, peaks: [12], years: 2 },
      direction: { direction: 'growing', pairs: 12 },
    });
    expect(said.terms[1]).toMatchObject({ term: 'bee hotel', season: { peaks: [12] } });
  });
  it('prints rivals, terms, units, offers and the opportunity as the core has them', async () => {
    const path = put('m.json', {
      ...head,
      now: '2026-11-29',
      terms: [{ term: 'bee house larch', ticked: true, volumes: [{ month: '2026-10', value: 700 }] }],
      rivals: { currency: 'EUR', rows: [{ title: 'Bee wall', price: 20, units: 30, reviews: 10 }] },
      offers: { currency: 'EUR', list: [{ price: 19.8, delivery: 0 }] },
      units: { statedListing: 240, hasVariations: true, ratingsVariation: 45, ratingsListing: 150 },
      mine: { price: 20 },
      permission: { state: 'closed' },
    });
    const printed = async (section: string) => JSON.parse((await bm(['evidence', section, path])).out);
    expect(await printed('rivals')).toMatchObject({ rows: 1, place: { place: 1, ceiling: 20 } });
    expect(await printed('terms')).toMatchObject({ terms: [{ volume: 700 }], bids: { why: 'noBids' } });
    expect(await printed('units')).toMatchObject({
      format: 'bold-margin/evidence-units',
      units: { expected: 72, rung: 'statedListing' },
      mine: { rivals: 1, expected: 36 },
    });
    expect(await printed('offers')).toMatchObject({ state: 'noDefault', cases: [{ price: 19.8 }, {}] });
    expect(await printed('opportunity')).toMatchObject({
      figures: { searches: 700, units: 72 },
      opportunity: { vetoes: ['closed'], mean: null },
      gates: { permitted: { verdict: 'failed' } },
    });
  });
  it('says what a lane would have kept at the prices of the market', async () => {
    const lane = { ...randomLane(7), currency: 'EUR', homeCurrency: 'EUR' };
    const run = await bm(['evidence', 'history', put('p.json', { ...head, prices }), put('l.json', lane)]);
    expect([run.code, run.err]).toEqual([0, '']);
    expect(JSON.parse(run.out)).toMatchObject({
      bases: { now: { price: 30 } },
      margin: { days: [{ day: '2026-11-29' }] },
    });
  });
  it.each([
    [['evidence'], 'bm evidence needs one of season, history, rivals, terms, units, offers, opportunity'],
    [['evidence', 'reviews', 'p.json'], 'bm evidence needs one of season'],
    [['evidence', 'rivals', 'p.json'], 'has no rivals'],
    [['evidence', 'units', 'p.json'], 'says nothing of units'],
    [['evidence', 'offers', 'p.json'], 'has no offers'],
    [['evidence', 'season', 'nowhere.json'], 'There is no such file'],
    [['evidence', 'season', 'fees.txt'], 'not JSON'],
    [['evidence', 'history', 'terms.json'], 'has no prices'],
    [['evidence', 'history', 'p.json', 'terms.json'], 'format'],
    [['evidence', 'season', 'bad.json'], 'terms.0.volumes.0.month: This is no month'],
  ])('%j: %s', async (args, said) => {
    put('bad.json', { ...head, terms: [{ term: 'a', volumes: [{ month: '2026-13', value: 1 }] }] });
    const run = await bm(args.map((a) => (/\.(json|txt)$/.test(a) ? join(folder, a) : a)));
    expect([run.code, run.out]).toEqual([2, '']);
    expect(run.err).toContain(said);
  });
});

describe('bm cash', () => {
  const put = (name: string, value: unknown): string => {
    writeFileSync(join(folder, name), typeof value === 'string' ? value : JSON.stringify(value));
    return join(folder, name);
  };
  const lane = plainLane({ demand: { kind: 'typed', units: 60 }, payoutEveryDays: 14, payoutDelayDays: 3 });
  it('gives days and months of the expected case as rows that add up to its end', async () => {
    const plan = put('plan.json', { start: '2026-12-15', horizon: 60, launch: { cash: 500 } });
    const path = put('lane.json', lane);
    const rowsOf = async (csv: string) => {
      const run = await bm(['cash', path, '--plan', plan, '--csv', csv]);
      expect([run.code, run.err]).toEqual([0, '']);
      return Papa.parse<Record<string, string>>(run.out.trim(), { header: true }).data;
    };
    const said = JSON.parse((await bm(['cash', path, '--plan', plan])).out);
    const [days, months] = [await rowsOf('days'), await rowsOf('months')];
    expect([days.length, days[0]?.day, days.at(-1)?.day]).toEqual([61, '2026-12-15', '2027-02-13']);
    expect(months.map((m) => m.month)).toEqual(['2026-12', '2027-01', '2027-02']);
    const { end } = said.cases.expected;
    expect(Number(days.at(-1)?.cumulated)).toBeCloseTo(end, 6);
    expect(Number(months.at(-1)?.end)).toBeCloseTo(500 + end, 6);
    const flows = ['payouts', 'goods', 'way', 'ready', 'adverts', 'vat', 'fixed', 'other'];
    for (const rows of [days, months])
      expect(rows.reduce((sum, r) => sum + flows.reduce((x, f) => x + Number(r[f]), 0), 0)).toBeCloseTo(
        end,
        6,
      );
  });
  it('a lane that lacks something names it, and has no figures', async () => {
    const run = await bm(['cash', put('open.json', { ...lane, demand: null, returns: null })]);
    expect(run.code).toBe(0);
    expect(JSON.parse(run.out)).toMatchObject({ cases: null, lacks: ['returns', 'demand'], problems: [] });
  });
  it.each([
    [['cash', 'lane.json', '--csv', 'weeks'], 'is none of days, months'],
    [['cash', 'fees.txt'], 'not JSON'],
    [['cash', 'lane.json', '--plan', 'nowhere.json'], 'There is no such file'],
    [['cash', 'lane.json', '--plan', 'wrong.json'], 'horizon'],
    [['cash', 'wrong.json'], 'format'],
  ])('%j: %s', async (args, said) => {
    put('wrong.json', { horizon: 0 });
    put('lane.json', lane);
    const run = await bm(args.map((a) => (/\.(json|txt)$/.test(a) ? join(folder, a) : a)));
    expect([run.code, run.out]).toEqual([2, '']);
    expect(run.err).toContain(said);
  });
});

describe('bm purse and bm risk', () => {
  const put = (name: string, value: unknown): string => {
    writeFileSync(join(folder, name), typeof value === 'string' ? value : JSON.stringify(value));
    return join(folder, name);
  };
  const lane = plainLane({ demand: { kind: 'typed', units: 60 }, payoutEveryDays: 14, payoutDelayDays: 3 });
  const purse = { format: 'bold-margin/purse', version: 1, start: '2026-12-01', cash: 100, lanes: [] };

  it('a purse without lanes launches nothing, and one that lacks something says it', async () => {
    const empty = JSON.parse((await bm(['purse', put('empty.json', purse)])).out);
    expect(empty).toMatchObject({ currency: null, plan: { feasible: true, launches: [], value: 0 } });
    const lanes = [{ key: 'a', candidate: 'a', lane: { ...lane, returns: null } }];
    const open = JSON.parse((await bm(['purse', put('open.json', { ...purse, lanes })])).out);
    expect(open.aside).toMatchObject([{ key: 'a', why: 'incomplete', lacks: ['returns'] }]);
  });
  it('draws by given numbers what the core draws by them', async () => {
    const own = Array.from({ length: 24 }, (_, i) => i / 24);
    const ranges = { price: { low: 20, likely: 30, high: 35 } };
    const asked = put('r.json', { ranges });
    const uniforms = put('u.txt', own.join('\n'));
    const run = await bm(['risk', put('lane.json', lane), '--ranges', asked, '--uniforms', uniforms]);
    expect([run.code, run.err]).toEqual([0, '']);
    const said = riskOf(lane, rangesDocument.parse({ ranges }), Float64Array.from(own));
    if (!said.known) throw new Error('the lane of this test is complete');
    expect(JSON.parse(run.out)).toMatchObject({ draws: 3, unit: said.unit, launch: said.launch });
  });
  it('a lane that lacks something has no figures', async () => {
    const run = await bm([
      'risk',
      put('open.json', { ...lane, returns: null }),
      '--ranges',
      put('r.json', {}),
    ]);
    expect(JSON.parse(run.out)).toMatchObject({ unit: null, launch: null, lacks: ['returns'] });
  });
  it.each([
    [['purse', 'fees.txt'], 'not JSON'],
    [['purse', 'reserve.json'], 'reserve is over the cash'],
    [['risk', 'lane.json'], 'needs --ranges'],
    [['risk', 'lane.json', '--ranges', 'fees.txt'], 'not JSON'],
    [['risk', 'lane.json', '--ranges', 'order.json'], 'ranges.price: The range is out of order'],
    [
      ['risk', 'lane.json', '--ranges', 'r.json', '--uniforms', 'seven.txt'],
      'has 7 uniform numbers; a draw takes 8',
    ],
    [['risk', 'lane.json', '--ranges', 'r.json', '--uniforms', 'one.txt'], 'Number 2 of the uniform numbers'],
    [['risk', 'lane.json', '--ranges', 'r.json', '--uniforms', 'nowhere.txt'], 'There is no such file'],
  ])('%j: %s', async (args, said) => {
    put('reserve.json', { ...purse, reserve: 500 });
    put('order.json', { ranges: { price: { low: 3, likely: 2, high: 1 } } });
    put('seven.txt', '0.1 0.2 0.3 0.4 0.5 0.6 0.7');
    put('one.txt', '0.1 1 0.3 0.4 0.5 0.6 0.7 0.8');
    put('lane.json', lane);
    put('r.json', {});
    const run = await bm(args.map((a) => (/\.(json|txt)$/.test(a) ? join(folder, a) : a)));
    expect([run.code, run.out]).toEqual([2, '']);
    expect(run.err).toContain(said);
  });
});

describe('bm', () => {
  it('reads standard input, and gives what the core gives', async () => {
    const doc = randomLane(7);
    const run = await bm(['evaluate'], JSON.stringify(doc));
    const result = evaluate(doc);
    expect(laneResult.parse(JSON.parse(run.out))).toEqual(
      laneResult.parse(JSON.parse(JSON.stringify(result))),
    );
  });
  it('adds workings when asked', async () => {
    const run = await bm(['evaluate', '--workings'], JSON.stringify(randomLane(11, 0)));
    const { workings } = JSON.parse(run.out) as {
      workings: Record<string, { formula: string; terms: { origin: { source: string } }[] }[]>;
    };
    expect(workings.unitProfit?.[0]?.formula).toBe('contribution - adverts');
    expect(workings.margin?.[0]?.formula).toBe('unitProfit / netRevenue');
  });
  it(
    'a document a line: an invalid line keeps its place, exit 2, and says line, path, problem and ' +
      'remedy',
    async () => {
      const good = JSON.stringify(randomLane(3));
      const run = await bm(
        ['evaluate', '--jsonl'],
        `${good}\n{"format":"bold-margin/lane"}\nnot json\n${good}\n`,
      );
      const lines = run.out
        .trim()
        .split('\n')
        .map((l) => JSON.parse(l) as Record<string, unknown>);
      expect(lines).toHaveLength(4);
      expect(lines[0]).toEqual(lines[3]);
      expect(lines[1]).toMatchObject({
        line: 2,
        problems: expect.arrayContaining([
          expect.objectContaining({ path: 'country', remedy: expect.stringMatching(/./) }),
        ]),
      });
      expect(lines[2]).toMatchObject({ line: 3, problems: [{ problem: 'This is not JSON' }] });
      expect(run.code).toBe(2);
      expect(run.err).toMatch(/^line 2: version: /m);
    },
  );
  it('as a process streams: the first answer is there before the last document is', async () => {
    const child = startProcess('evaluate', '--jsonl');
    const first = new Promise<string>((done) => child.stdout.once('data', (d) => done(String(d))));
    child.stdin.write(`${JSON.stringify(randomLane(5))}\n`);
    expect(JSON.parse(await first)).toMatchObject({ format: 'bold-margin/result' });
    child.stdin.end();
    expect(await new Promise((done) => child.once('close', done))).toBe(0);
  });
  it('as a process reads a document from standard input, and ends with the code of the command', async () => {
    const child = startProcess('evaluate');
    child.stdin.end('{}');
    const said = text(child.stderr);
    expect(await new Promise((done) => child.once('close', done))).toBe(2);
    expect(await said).toMatch(/^version: /m);
  });
  it('prints the JSON Schema of each document', async () => {
    for (const name of ['lane', 'result', 'launch'])
      expect(JSON.parse((await bm(['schema', name])).out)).toMatchObject({
        $schema: expect.stringContaining('json-schema.org'),
        type: 'object',
      });
  });
  it.each([
    [[]],
    [['fly']],
    [['schema', 'unheard']],
    [['solve', '--target', 'margin=lots']],
    [['evaluate', '--unheard']],
  ])('says how to use it: bm %s', async (args) => {
    const run = await bm(args);
    expect(run.code).toBe(2);
    expect(run.err).toContain('Use:');
    expect(run.err).not.toMatch(/\n\s+at /);
  });
});

describe('what cannot be done is said in a sentence, with exit code 2 and no stack trace', () => {
  const lane = JSON.stringify(randomLane(7));
  beforeAll(() => {
    writeFileSync(join(folder, 'marked.json'), `\ufeff${lane}`);
    writeFileSync(join(folder, 'marked.jsonl'), `\ufeff${lane}\n${lane}\n`);
    writeFileSync(join(folder, 'plain.csv'), 'Barcode,Price\n9520000000011,3\n');
    writeFileSync(
      join(folder, 'map.json'),
      JSON.stringify({ columns: { identifier: 'Barcode', cost: 'Price' } }),
    );
  });
  const here = (name: string): string => join(folder, name);
  it.each([
    ['a missing file', () => ['evaluate', here('nowhere.json')], /nowhere\.json: There is no such file/],
    [
      'a missing file, line by line',
      () => ['evaluate', here('nowhere.jsonl'), '--jsonl'],
      /nowhere\.jsonl: There is no such file/,
    ],
    ['a folder', () => ['solve', folder], /This is a folder/],
    ['a folder, line by line', () => ['launch', folder, '--jsonl'], /This is a folder/],
    ['an unknown option', () => ['evaluate', '--everything'], /Unknown option/],
    ['an unknown command', () => ['guess'], /no command "guess"/],
    [
      'a list that is not there',
      () => ['screen', here('no.csv'), '--map', here('map.json'), '--settings', here('map.json')],
      /settings: /,
    ],
    [
      'settings that are a folder',
      () => ['screen', here('plain.csv'), '--map', here('map.json'), '--settings', folder],
      /This is a folder/,
    ],
    ['a path under a file', () => ['evaluate', here('map.json/x.json')], /not a folder/],
    ['no such target', () => ['solve', here('marked.json'), '--target', 'joy=1'], /not a target/],
  ])('%s', async (_name, args, said) => {
    const run = await bm(args());
    expect([run.code, said.test(run.err), /\n\s+at /.test(run.err)]).toEqual([2, true, false]);
  });
  it('a document without a version', async () => {
    const run = await bm(['evaluate'], JSON.stringify({ ...JSON.parse(lane), version: undefined }));
    expect([run.code, run.err]).toEqual([2, expect.stringContaining('version: The version is missing')]);
  });
  it('a byte-order mark is no part of a document', async () => {
    expect((await bm(['evaluate', here('marked.json')])).code).toBe(0);
    expect((await bm(['evaluate', here('marked.jsonl'), '--jsonl'])).out.trim().split('\n')).toHaveLength(2);
  });
});
