/**
 * Doors that must hold: tries at passwords, work that was lost or that takes its worker down, ids and names
 * of others.
 */
import { eq } from 'drizzle-orm';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { counted } from './auth/tries.ts';
import { forwardToAuth } from './auth/forward.ts';
import { SOCKET_ADDRESS_HEADER } from './auth/address.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { supplierList, task } from './db/schema.ts';
import { savedAs, sheetName } from './files/names.ts';
import { writeCsv, writeXlsx } from './files/sheets.ts';
import { readTables } from './files/workbook.ts';
import { closeQueue } from './jobs/boss.ts';
import { closeLeases } from './jobs/leases.ts';
import { upkeep } from './jobs/upkeep.ts';
import { ListTools, spawnWorker, tidy } from './testing/lists.ts';
import { refusalOf } from './testing/people.ts';
import { makeWorkspace, someCandidate } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { createCandidates, loadSheet } from './use/candidates.ts';
import { addLane, putLanes } from './use/candidateLanes.ts';
import { savePatches } from './use/savePatches.ts';
import { setListDeleted } from './use/deleteLists.ts';
import { loadList } from './use/lists.ts';
import { saveListSettings } from './use/listSetup.ts';
import { newId } from './use/workspaces.ts';

let mine: TestWorkspace;
let theirs: TestWorkspace;
const jobs = new pg.Client(process.env.BM_OWNER_URL);
beforeAll(async () => {
  [mine, theirs] = [await makeWorkspace(), await makeWorkspace()];
  await jobs.connect();
});
afterAll(() => Promise.all([jobs.end(), closeDatabase(), closeQueue(), closeLeases()]));

describe('tries at passwords', () => {
  const headers = (address: string) => new Headers({ [SOCKET_ADDRESS_HEADER]: address });
  const wrong = async (email: string, address: string, path = '/sign-in/email') =>
    (await counted(path, headers(address), { email }, async () => new Response(null, { status: 401 })))
      .status;
  const right = async (email: string, address: string) =>
    (
      await counted(
        '/sign-in/email',
        headers(address),
        { email },
        async () => new Response(null, { status: 200 }),
      )
    ).status;
  const name = (): string => `${newId()}@test.example`;

  it('are limited by person and address; others at the address, and the person elsewhere, go on', async () => {
    const [a, b, here, there] = [name(), name(), newId(), newId()];
    const said = [];
    for (let i = 0; i < 14; i++) said.push(await wrong(a, here));
    expect(said).toEqual([...Array(10).fill(401), ...Array(4).fill(429)]);
    expect([await right(a, here), await right(b, here), await right(a, there)]).toEqual([429, 200, 200]);
    // One person's e-mail in capitals is the same person.
    expect(await wrong(a.toUpperCase(), here)).toBe(429);
  });
  it('count together when many come at once, and a right one is counted against nobody', async () => {
    const [a, here] = [name(), newId()];
    const all = await Promise.all(Array.from({ length: 30 }, () => wrong(a, here)));
    expect(all.filter((s) => s === 401)).toHaveLength(10);
    const [b, elsewhere] = [name(), newId()];
    for (let i = 0; i < 40; i++) expect(await right(b, elsewhere)).toBe(200);
  });
  it.each(['/change-password', '/reset-password', '/verify-password'])('%s counts too', async (path) => {
    const here = newId();
    const said = [];
    for (let i = 0; i < 12; i++) said.push(await wrong('', here, path));
    expect(said.slice(-2)).toEqual([429, 429]);
  });
  it('many names from one address end too', async () => {
    const here = newId();
    let last = 0;
    for (let i = 0; i < 201 && last !== 429; i++) last = await wrong(name(), here);
    expect(last).toBe(429);
  });
  it('by our own form as well', async () => {
    const request = new Request('http://127.0.0.1:4300/sign-in', { headers: headers(newId()) });
    const email = name();
    const codes = [];
    for (let i = 0; i < 11; i++)
      codes.push(
        (await forwardToAuth(request, '/sign-in/email', { email, password: 'not the right one' })).code,
      );
    expect([codes[0], codes[10]]).toEqual(['INVALID_EMAIL_OR_PASSWORD', 'TOO_MANY']);
  });
});

describe('long work', () => {
  const stateOf = async (id: string) =>
    (
      await inWorkspace(mine.id, (tx) =>
        tx.select({ state: task.state, error: task.error }).from(task).where(eq(task.id, id)),
      )
    )[0];
  const until = async (id: string, ends: (s: string | undefined) => boolean): Promise<void> => {
    for (let i = 0; i < 400 && !ends((await stateOf(id))?.state); i++)
      await new Promise((next) => setTimeout(next, 100));
  };
  it('that was stored and never came to the queue is found and done; what takes its worker down three ' +
    'times fails with the reason', async () => {
    const [stray, killer, kept] = [newId(), newId(), newId()];
    const old = new Date(Date.now() - 60_000);
    await inWorkspace(mine.id, (tx) =>
      tx
        .insert(task)
        .values(
          [stray, killer, kept].map((id) => ({
            workspaceId: mine.id,
            id,
            kind: 'weighAgain' as const,
            createdAt: old,
            updatedAt: old,
          })),
        ),
    );
    // Both have lost two workers; of one that was before it got further.
    const lease =
      'insert into jobs.lease (task_id, workspace_id, queue, worker, beat_at, kills, progress) ' +
      "values ($1, $2, $3, $4, now() - interval '1 minute', 2, $5)";
    await jobs.query(lease, [killer, mine.id, 'lanes', 'gone', 0]);
    await jobs.query(lease, [kept, mine.id, 'lanes', 'gone', 77]);
    const worker = spawnWorker();
    try {
      for (const id of [stray, killer, kept]) await until(id, (s) => s === 'done' || s === 'failed');
      expect(await stateOf(stray)).toEqual({ state: 'done', error: null });
      expect(await stateOf(kept)).toEqual({ state: 'done', error: null });
      expect(await stateOf(killer)).toEqual({
        state: 'failed',
        error: { code: 'workKilled', detail: { times: 3, queue: 'lanes' } },
      });
      expect(
        (await jobs.query('select 1 from jobs.lease where task_id = any($1)', [[stray, killer, kept]]))
          .rowCount,
      ).toBe(0);
    } finally {
      worker.kill('SIGTERM');
    }
  }, 60_000);
});

describe('ids of another workspace', () => {
  it('inside documents are refused, and nothing is saved', async () => {
    const [own, other] = [
      await createCandidates(mine.id, [someCandidate(mine)], mine.personId),
      await createCandidates(theirs.id, [someCandidate(theirs)], theirs.personId),
    ];
    const [id, foreignId] = [own[0] as string, other[0] as string];
    const [sheet, foreign] = [await loadSheet(mine.id, id), await loadSheet(theirs.id, foreignId)];
    const lane = sheet?.lanes[0];
    const card = foreign?.lanes[0]?.data.marketplaceCardId as string;
    const quoteId = foreign?.quotes[0]?.id as string;
    const save = (path: (string | number)[], from: unknown, to: unknown) =>
      savePatches(
        mine.id,
        id,
        [{ entity: 'lane', id: lane?.id as string, path: path as never, from, to }],
        mine.personId,
      );
    expect(await save(['marketplaceCardId'], lane?.data.marketplaceCardId, card)).toMatchObject({
      ok: false,
      invalid: [{ fault: { code: 'foreign' } }],
    });
    expect(
      await save(['components', 0, 'quoteId'], lane?.data.components[0]?.quoteId, quoteId),
    ).toMatchObject({ ok: false, invalid: [{ fault: { code: 'foreignQuote' } }] });
    expect(
      await save(['components', 0, 'quoteId'], lane?.data.components[0]?.quoteId, 'constructor'),
    ).toMatchObject({ ok: false });
    expect(await save(['components', 0, 'candidateId'], null, foreignId)).toMatchObject({
      ok: false,
      invalid: [{ fault: { code: 'foreign' } }],
    });
    expect((await loadSheet(mine.id, id))?.lanes[0]?.data).toEqual(lane?.data);
    const put = (data: object) =>
      refusalOf(() =>
        putLanes(
          mine.id,
          id,
          [{ id: newId(), position: 5, data: { ...lane?.data, ...data } as never, scenarioOf: null }],
          mine.personId,
        ),
      );
    expect(await put({ taxCardId: foreign?.lanes[0]?.data.taxCardId })).toBe('invalid');
    expect(await put({ components: foreign?.lanes[0]?.data.components })).toBe('invalid');
    expect(
      await refusalOf(() =>
        putLanes(
          mine.id,
          id,
          [
            {
              id: newId(),
              position: 5,
              data: lane?.data as never,
              scenarioOf: foreign?.lanes[0]?.id as string,
            },
          ],
          mine.personId,
        ),
      ),
    ).toBe('invalid');
    expect(
      await refusalOf(() =>
        createCandidates(mine.id, [{ ...someCandidate(mine), marketplaceCardId: card }], mine.personId),
      ),
    ).toBe('invalid');
    expect(
      await refusalOf(() =>
        addLane(mine.id, id, { marketplaceCardId: card, country: 'DE', price: null }, mine.personId),
      ),
    ).toBe('invalid');
    expect((await loadSheet(mine.id, id))?.lanes).toHaveLength(1);
  });
  it('in the settings of a list too', async () => {
    const tools = new ListTools(mine);
    const list = await tools.bring(tidy(5), 'mine.csv');
    const foreign = (
      await loadSheet(
        theirs.id,
        (
          await createCandidates(theirs.id, [someCandidate(theirs)], theirs.personId)
        )[0] as string,
      )
    )?.lanes[0]?.data.marketplaceCardId;
    const settings = (await loadList(mine.id, list))?.list.settings;
    expect(
      await refusalOf(() =>
        saveListSettings(mine.id, list, { ...settings, marketplaceCardId: foreign } as never),
      ),
    ).toBe('invalid');
    expect((await loadList(mine.id, list))?.list.settings).toEqual(settings);
  });
});

describe('files', () => {
  it('of a deleted list leave the disk when their time is over, not before', async () => {
    const tools = new ListTools(mine);
    const [old, fresh] = [await tools.bring(tidy(5), 'old.csv'), await tools.bring(tidy(6), 'fresh.csv')];
    await setListDeleted(mine.id, old, true);
    await setListDeleted(mine.id, fresh, true);
    await inWorkspace(mine.id, (tx) =>
      tx
        .update(supplierList)
        .set({ deletedAt: new Date(Date.now() - 31 * 86_400_000) })
        .where(eq(supplierList.id, old)),
    );
    expect(await upkeep()).toBeGreaterThanOrEqual(1);
    const there = await inWorkspace(mine.id, (tx) => tx.select({ id: supplierList.id }).from(supplierList));
    expect([there.some((l) => l.id === old), there.some((l) => l.id === fresh)]).toEqual([false, true]);
  });
  it('are named by one rule, whatever somebody calls them', async () => {
    expect(sheetName("'History'")).toBe('History sheet');
    expect([
      sheetName("Dave's"),
      sheetName('a/b:c*?[d]'),
      sheetName('   '),
      sheetName("''"),
      sheetName('x'.repeat(60)).length,
      sheetName('Sheet', new Set(['sheet'])),
    ]).toEqual(["Dave's", 'a b c d', 'sheet', 'sheet', 31, 'Sheet 2']);
    for (const name of ['a\r\nSet-Cookie: x=1', 'say "hi"', 'half \ud800', 'Füße/Größe', '']) {
      const header = savedAs(name)['content-disposition'];
      expect(new Headers({ 'content-disposition': header }).get('content-disposition')).toBe(header);
      expect(header).not.toMatch(/[\r\n]/);
    }
  });
  it('headings and titles are escaped as cells are', async () => {
    const sheet = {
      name: "=cmd()'",
      columns: [{ title: '=HYPERLINK("x")' }, { title: 'plain' }],
      rows: [['+1 thing', 1]],
    };
    expect(writeCsv(sheet)).toBe('\ufeff"\'=HYPERLINK(""x"")",plain\r\n\'+1 thing,1\r\n');
    const read = await readTables(await writeXlsx([sheet, sheet, { ...sheet, name: 'History' }]));
    expect(read.ok && read.sheets.map((s) => [s.name, s.header[0], s.rows[0]?.[0]])).toEqual([
      ['=cmd()', '=HYPERLINK("x")', '+1 thing'],
      ['=cmd() 2', '=HYPERLINK("x")', '+1 thing'],
      ['History sheet', '=HYPERLINK("x")', '+1 thing'],
    ]);
  });
});
