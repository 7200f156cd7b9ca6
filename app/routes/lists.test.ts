/** The routes of lists as a browser uses them, on a real database and a real screening process. */
import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { checkDigit } from '../../core/goods/gtin.ts';
import { startScreening } from '../../scripts/lib/system.mjs';
import type { Answer } from '../../between/ask.ts';
import { screeningToken } from '../../server/screening/client.ts';
import { listTests } from '../../server/testing/lists.ts';
import { saidBy, signedIn } from '../../server/testing/people.ts';
import type { Said } from '../../server/testing/people.ts';
import { makeWorkspace } from '../../server/testing/workspaces.ts';
import { loadSheet } from '../../server/use/candidates.ts';
import { loadList } from '../../server/use/lists.ts';
import type { OpenRow } from '../features/lists/useOpened.ts';
import { action as act } from './listAct.ts';
import { action as ask } from './listAsk.ts';
import { action as fileTried, loader as file } from './listFile.ts';
import { action as row } from './listRow.ts';
import { action as upload } from './listUpload.ts';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { inWorkspace } from '../../server/db/client.ts';
import { candidate, task } from '../../server/db/schema.ts';
import { startList } from '../../server/use/lists.ts';

let screening: Awaited<ReturnType<typeof startScreening>>;
// First of all: where it answers is read once.
beforeAll(async () => {
  screening = await startScreening(process.env as never, { quiet: true });
  process.env.BM_SCREENING_URL = screening.url;
});
afterAll(() => screening.stop());
const made = listTests();
let editor: string;
let viewer: string;
let stranger: string;
let list: string;

const code = (n: number): string => {
  const body = `952${String(n).padStart(9, '0')}`;
  return body + checkDigit(body);
};
/**
 * Rows that all cost 3.00 and sell at rising prices; each third names its colour; the first comes in cartons,
 * cheaper from 40 on.
 */
const rows = Array.from({ length: 30 }, (_, i) => ({
  Barcode: code(i),
  Title: `Pot ${i}`,
  'Net price': '3.00',
  'Shelf price': (9 + i).toFixed(2),
  'Monthly units': '50',
  'Length cm': '12',
  'Width cm': '10',
  'Height cm': '8',
  'Weight kg': '0.4',
  Category: 'garden',
  Colour: i % 3 === 0 ? '=green' : '',
  Carton: i === 0 ? '12' : '',
  'From quantity': i === 0 ? '40' : '',
  'Price from quantity': i === 0 ? '2.50' : '',
}));

beforeAll(async () => {
  [editor, viewer, stranger] = (
    await Promise.all([signedIn(made.w.id, 'editor'), signedIn(made.w.id, 'viewer'), signedIn(null)])
  ).map((p) => p.cookie) as [string, string, string];
  list = await made.tools.bring(Papa.unparse(rows), 'pots.csv', { extras: ['Colour'] });
  await made.tools.read(list);
});

type Route = (args: never) => unknown;
/** Sends a request to a route as a signed-in person does. */
function send(
  route: Route,
  cookie: string,
  body: BodyInit | object | null,
  over: { list?: string; line?: number; search?: string; workspace?: string; type?: string } = {},
): Promise<Said> {
  const json =
    body !== null && typeof body === 'object' && !(body instanceof FormData) && !(body instanceof Uint8Array);
  const request = new Request(
    `http://127.0.0.1:4300/w/${over.workspace ?? made.w.slug}/lists/x${over.search ?? ''}`,
    {
      ...(body === null ? {} : { method: 'POST', body: json ? JSON.stringify(body) : (body as BodyInit) }),
      headers: { cookie, ...(json ? { 'content-type': 'application/json' } : {}) },
    },
  );
  return saidBy(() =>
    route({
      request,
      params: {
        workspace: over.workspace ?? made.w.slug,
        list: over.list ?? list,
        line: String(over.line ?? 2),
      },
    } as never),
  );
}
const asked = async (over: object = {}): Promise<Answer> =>
  (await send(ask, editor, { query: {}, count: 100, ...over })).body as Answer;
const settings = async () => {
  const found = (await loadList(made.w.id, list))?.list.settings;
  if (found == null) throw new Error('no settings');
  return found;
};
/** What a euro more to bring it in takes: of a hundred sold four come back, of which half are sold again. */
const TAKES = 1 - 0.04 * 0.5;
const dearer = async () => {
  const own = await settings();
  return {
    ...own,
    assumptions: { ...own.assumptions, inbound: { perUnit: own.assumptions.inbound.perUnit + 1, perKg: 0 } },
  };
};
const csvOf = async (said: Said): Promise<Record<string, string>[]> =>
  Papa.parse<Record<string, string>>((await (said.body as Response).text()).replace('\ufeff', '').trim(), {
    header: true,
  }).data;

describe('a list in which no row is good', () => {
  it('opens, says so, and leaves as a file in every format', async () => {
    const bad = await made.tools.bring(
      Papa.unparse(
        rows.map((r) => ({
          ...r,
          Barcode: r.Barcode.slice(0, -1) + ((Number(r.Barcode.slice(-1)) + 1) % 10),
        })),
      ),
      'bad.csv',
    );
    await made.tools.read(bad);
    const page = await loadList(made.w.id, bad);
    expect(page?.shown?.data).toMatchObject({ valid: 0, invalid: 30 });
    const said = await send(ask, editor, { query: {}, count: 100 }, { list: bad });
    expect([said.status, said.body]).toMatchObject([200, { rows: 0, kept: 0, window: [] }]);
    expect((await send(row, editor, { settings: null }, { list: bad })).status).toBe(404);
    expect((await send(row, editor, { settings: null }, { line: 'abc' as never })).status).toBe(404);
    for (const as of ['csv', 'xlsx', 'parquet']) {
      const out = await send(file, editor, null, { list: bad, search: `?as=${as}` });
      expect([as, out.status, (await (out.body as Response).arrayBuffer()).byteLength > 50]).toEqual([
        as,
        200,
        true,
      ]);
    }
    expect(await csvOf(await send(file, editor, null, { list: bad, search: '?what=refused' }))).toHaveLength(
      30,
    );
  });
});

describe('a window of a list', () => {
  it('comes with counts, in the order asked for, and with columns kept as they are where these are shown', async () => {
    const all = await asked({ query: { sort: [{ by: 'price', down: true }] }, more: true });
    expect([all.rows, all.kept, all.window.length]).toEqual([30, 30, 30]);
    expect(all.window.map((r) => r.figures.price)).toEqual(Array.from({ length: 30 }, (_, i) => 38 - i));
    expect(all.window.find((r) => r.title === 'Pot 3')?.more).toEqual({ Colour: '=green' });
    expect((await asked()).window[0]?.more).toBeUndefined();
    expect(Object.values(all.verdicts).reduce((s, n) => s + n, 0)).toBe(30);
  });
  it('answers to assumptions that are only tried, and leaves those that are saved', async () => {
    const profit = (a: Answer): number => a.window[5]?.figures.unitProfit as number;
    const [now, tried] = [profit(await asked()), profit(await asked({ settings: await dearer() }))];
    expect(now - tried).toBeCloseTo(TAKES, 6);
    expect(profit(await asked())).toBe(now);
  });
  it.each([
    ['no query at all', { count: 5 }],
    ['a figure there is not', { query: { filters: [{ kind: 'range', figure: 'luck' }] } }],
    ['more rows than a window has', { query: {}, count: 100_000 }],
    ['text instead of a question', 'what pays?'],
  ])('%s is refused with a word of what is wrong', async (_, body) => {
    const said = await send(ask, editor, body);
    expect(said.status).toBe(422);
    expect((said.body as { error: string }).error.length).toBeGreaterThan(10);
  });
});

describe('an opened row', () => {
  it('is the lane of that row: what it comes to is what the window says', async () => {
    const [first] = (await asked()).window;
    const opened = (await send(row, viewer, { settings: null })).body as OpenRow;
    expect(opened.row.figures).toEqual(first?.figures);
    expect(opened.row).toMatchObject({ line: 2, code: code(0) });
    // Twelve make a carton, and ten are asked for; the break at 40 is not reached.
    expect(opened.doc.orderQuantity).toBe(12);
    expect(opened.more).toEqual({ Colour: '=green' });
    const tried = (await send(row, viewer, { settings: await dearer() })).body as OpenRow;
    expect((opened.row.figures.unitProfit as number) - (tried.row.figures.unitProfit as number)).toBeCloseTo(
      TAKES,
      6,
    );
  });
  it('that the list does not have is not there', async () => {
    expect((await send(row, editor, { settings: null }, { line: 999 })).status).toBe(404);
    expect((await send(row, editor, { settings: 'mine' })).status).toBe(422);
  });
});

describe('what is decided', () => {
  it(
    'a row is kept with the order that was looked at, everything the file said, tags and note; the ' +
      'tally adds it up',
    async () => {
      const first = (await asked()).window[0];
      const noted = (lacks: string[]) => ({
        what: 'mark',
        change: {
          rows: [{ key: first?.key, name: 'Pot 0', profitPerMonth: null, lacks }],
          note: 'ask for a sample',
          tags: ['spring'],
        },
      });
      expect((await send(act, editor, noted(['nonsense']))).status).toBe(422);
      expect((await send(act, editor, noted([]))).status).toBe(200);
      const said = (await send(act, editor, { what: 'keep', lines: [2], quantity: 48 })).body as {
        kept: string[];
        tally: { kept: number; profitPerMonth: number; lacks: string[]; unknownProfit: number };
      };
      expect(said.kept).toHaveLength(1);
      const sheet = await loadSheet(made.w.id, said.kept[0] as string);
      expect(sheet?.candidate.data).toMatchObject({ name: 'Pot 0', tags: ['spring'] });
      expect(sheet?.candidate.data.notes).toMatch(
        /Barcode 9520{9}\d[\s\S]*row 2[\s\S]*Colour: =green[\s\S]*ask for a sample/,
      );
      expect(sheet?.lanes[0]?.data.orderQuantity).toBe(48);
      expect(sheet?.quotes[0]?.data).toMatchObject({
        carton: { units: 12 },
        priceBreaks: [
          { minQty: 0, unitPrice: 3 },
          { minQty: 40, unitPrice: 2.5 },
        ],
      });
      expect(said.tally).toMatchObject({ kept: 1 });
      expect(said.tally.profitPerMonth).toBeGreaterThan(0);
      expect(said.tally).toMatchObject({ lacks: [], unknownProfit: 0 });
      // A bound among them makes the sum one; a profit that is not known is counted, and no 0.
      const ordered = async (lacks: string[], profitPerMonth: number | null, state: string | null) => {
        const rows = [{ key: 9_520_000_000_000, name: 'Jug', profitPerMonth, lacks }];
        return (await send(act, editor, { what: 'mark', change: { rows, state } })).body as typeof said;
      };
      const sum = said.tally.profitPerMonth;
      expect((await ordered(['freight', 'duty'], 10, 'ordered')).tally).toMatchObject({
        lacks: ['duty', 'freight'],
        unknownProfit: 0,
      });
      expect((await ordered([], null, 'ordered')).tally).toMatchObject({
        profitPerMonth: sum,
        lacks: [],
        unknownProfit: 1,
      });
      await ordered([], null, null);
      // Kept once, it leads to the same candidate.
      expect(
        ((await send(act, editor, { what: 'keep', lines: [2] })).body as { kept: string[] }).kept,
      ).toEqual(said.kept);
      expect(
        (await asked({ query: { filters: [{ kind: 'flag', flag: 'kept', is: true }] } })).window.map(
          (r) => r.mark,
        ),
      ).toEqual(['kept']);
    },
  );
  it.each([
    ['an act there is not', { what: 'buy' }],
    ['no row', { what: 'keep', lines: [] }],
    ['half a piece', { what: 'keep', lines: [3], quantity: 0.5 }],
    ['a view without a name', { what: 'saveView', name: ' ', look: {}, assumptions: null }],
  ])('%s changes nothing and is said', async (_, body) => {
    const said = await send(act, editor, body);
    expect(said.status).toBe(422);
    expect((said.body as { error: string }).error).not.toBe('');
  });
  it('whoever only looks decides nothing, and is told why; whoever is no member finds no list', async () => {
    const mark = {
      what: 'mark',
      change: { rows: [{ key: 1, name: 'x', profitPerMonth: null }], state: 'dropped' },
    };
    expect(await send(act, viewer, mark)).toMatchObject({ status: 403, body: { error: 'notAllowed' } });
    for (const [route, body] of [
      [act, mark],
      [ask, { query: {} }],
      [row, { settings: null }],
    ] as const)
      expect((await send(route, stranger, body)).status).toBe(404);
  });
  it('a list of another workspace is not there, whoever asks', async () => {
    const other = await makeWorkspace();
    const { cookie } = await signedIn(other.id, 'owner');
    for (const [route, body] of [
      [act, { what: 'cancel' }],
      [ask, { query: {} }],
      [row, { settings: null }],
    ] as const)
      expect((await send(route, cookie, body, { workspace: other.slug })).status).toBe(404);
    expect((await send(file as Route, cookie, null, { workspace: other.slug })).status).toBe(404);
  });
});

describe('a list as a file', () => {
  it('has what is shown, with columns kept as they are, and nothing that a spreadsheet would run', async () => {
    const said = await send(file as Route, viewer, null, { search: '?limit=price:30:&sort=-price&as=csv' });
    const out = await csvOf(said);
    expect(out.map((r) => r.Title)).toEqual(Array.from({ length: 9 }, (_, i) => `Pot ${29 - i}`));
    expect(out.find((r) => r.Title === 'Pot 27')?.Colour).toBe("'=green");
    expect(said.headers.get('content-disposition')).toMatch(/^attachment; filename="pots\.csv"/);
    expect(await csvOf(await send(file as Route, viewer, null, { search: '?what=all&as=csv' }))).toHaveLength(
      30,
    );
  });
  it('says under assumptions that are tried what the screen says', async () => {
    const form = new FormData();
    form.set('settings', JSON.stringify(await dearer()));
    const tried = await csvOf(await send(fileTried as Route, viewer, form, { search: '?what=all&as=csv' }));
    const saved = await csvOf(await send(file as Route, viewer, null, { search: '?what=all&as=csv' }));
    const column = Object.keys(saved[0] ?? {}).find((c) => c.startsWith('Keeps a unit')) as string;
    expect(saved).toHaveLength(30);
    for (const [i, r] of saved.entries())
      expect(
        Math.abs(Number(r[column]) - Number(tried[i]?.[column]) - TAKES),
        'to the cent it is rounded to',
      ).toBeLessThan(0.0101);
    // Headings and verdicts in the words of the screen, money in the coins of its currency.
    expect(column).toBe('Keeps a unit, EUR');
    for (const r of saved) {
      expect(r[column]).toMatch(/^(-?\d+(\.\d\d?)?)?$/);
      expect(['pays', 'near', 'does not', 'unknown']).toContain(r.Hurdles);
    }
    form.set('settings', '{');
    expect((await send(fileTried as Route, viewer, form, { search: '?as=csv' })).status).toBe(422);
  });
});

describe('a file that comes in', () => {
  it('by whoever may edit; what is no list is refused with what to do', async () => {
    expect(
      (
        await send(upload as Route, viewer, new Uint8Array(Buffer.from('Barcode,Net price\n')), {
          search: '?name=x.csv',
        })
      ).status,
    ).toBe(403);
    const taken = await send(
      upload as Route,
      editor,
      new Uint8Array(Buffer.from(`Barcode,Net price\n${code(1)},2\n`)),
      { search: '?name=..%2F..%2Fx.csv' },
    );
    expect(taken.status).toBe(200);
    expect((await loadList(made.w.id, (taken.body as { id: string }).id))?.list.name).not.toMatch(/[\\/]/);
    expect(
      await send(upload as Route, editor, new Uint8Array([0x50, 0x4b, 3, 4]), { search: '?name=x.xlsx' }),
    ).toMatchObject({ status: 422, body: { error: expect.stringMatching(/Save it again as XLSX/) } });
    expect(
      (
        await send(upload as Route, editor, new Uint8Array(Buffer.from('a')), {
          search: '?for=no-such-list&name=x.csv',
        })
      ).status,
    ).toBe(404);
  });
});

describe('the screening process', () => {
  const post = (body: unknown, token = screeningToken()): Promise<Response> =>
    fetch(screening.url, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}` },
      body: typeof body === 'string' ? body : JSON.stringify(body),
    });
  it('answers the web process alone, and says without a stack what it does not understand', async () => {
    expect((await post({}, 'x'.repeat(64))).status).toBe(401);
    expect((await fetch(screening.url)).status).toBe(401);
    expect((await post({})).status).toBe(422);
    const broken = await post('{');
    expect([broken.status, await broken.json()]).toEqual([500, { error: 'this could not be answered' }]);
  });
  it('opens no file but those of a run', async () => {
    const page = await loadList(made.w.id, list);
    const question = {
      workspaceId: '..',
      listId: '..',
      runId: 'etc',
      parts: [{ name: 'passwd', rows: 1 }],
      ranked: false,
      expected: 0,
      basis: 'now',
      categories: {},
      marksEdition: '0',
      marks: [],
      query: {},
      show: 'kept',
      from: 0,
      count: 0,
      remedies: false,
      figures: [],
      facets: false,
    };
    const said = await post({ ask: question, settings: JSON.stringify(page?.screen) });
    expect([said.status, await said.json()]).toEqual([422, { error: 'a name may not be so' }]);
    expect((await post({ ask: { ...question, workspaceId: 'w', listId: 'l' }, settings: '{}' })).status).toBe(
      422,
    );
  });
  it('killed, is there again by itself and has the rows again', async () => {
    const before = await asked();
    process.kill(screening.pid() as number, 'SIGKILL');
    let again = await send(ask, editor, { query: {}, count: 100 });
    for (let i = 0; i < 100 && again.status === 503; i++) {
      expect(again.body).toEqual({ away: true });
      await new Promise((done) => setTimeout(done, 100));
      again = await send(ask, editor, { query: {}, count: 100 });
    }
    expect((again.body as Answer).window).toEqual(before.window);
  });
});

describe('several hands at one list', () => {
  it('of whom each keeps the same row come to one candidate', async () => {
    const own = await made.tools.bring(
      Papa.unparse([{ ...rows[0], Barcode: code(900), Title: 'Twice' }]),
      'twice.csv',
    );
    await made.tools.read(own);
    const hands = await Promise.all(
      [1, 2, 3].map(() => send(act, editor, { what: 'keep', lines: [2] }, { list: own })),
    );
    const ids = new Set(hands.flatMap((h) => (h.body as { kept: string[] }).kept));
    expect(ids.size).toBe(1);
    const named = await inWorkspace(made.w.id, (tx) =>
      tx
        .select({ id: candidate.id })
        .from(candidate)
        .where(and(eq(candidate.workspaceId, made.w.id), sql`${candidate.data} ->> 'name' = 'Twice'`)),
    );
    expect(named.map((c) => c.id)).toEqual([...ids]);
  });
  it('that read it at the same moment leave one reading under way or done, the others cancelled', async () => {
    const own = await made.tools.bring(Papa.unparse(rows.slice(0, 3)), 'thrice.csv');
    const started = await Promise.all(
      [1, 2, 3].map(() => startList(made.w.id, own, 'readList', made.w.personId)),
    );
    const states = await inWorkspace(made.w.id, (tx) =>
      tx.select({ state: task.state }).from(task).where(inArray(task.id, started)),
    );
    expect(states.filter((s) => s.state !== 'cancelled')).toHaveLength(1);
  });
});
