import { eq } from 'drizzle-orm';
import { getTableConfig } from 'drizzle-orm/pg-core';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { orderProgress, orderTerms } from '../core/orders/schema.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import {
  cardProof,
  feeClaim,
  launchedLane,
  settledPlace,
  settledLine,
  settledMonth,
  settlement,
  scheduleChoice,
  BUSINESS_TABLES,
  candidate,
  checkSession,
  enquiry,
  outgoingMail,
  purchaseOrder,
  evidenceMap,
  feed,
  goodsMark,
  closerLook,
  watchedSeller,
  goodsMatch,
  lane,
  laneHistory,
  listView,
  notice,
  noticeMail,
  observation,
  outsideAnswer,
  rateDraft,
  shelfCheck,
  supplier,
  supplierList,
  task,
  listingMark,
  watched,
} from './db/schema.ts';
import { NO_WATCH } from '../core/evidence/observed.ts';
import { proof } from '../core/proofs/schema.ts';
import { makeWorkspace, someCandidate } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { DEFAULT_LOOK } from '../core/lists/query.ts';
import { copyRows } from './db/copyRows.ts';
import { examplePart } from './testing/examplePart.ts';
import { attachRun, closeLoader, storePart } from './db/loader.ts';
import { createCandidates } from './use/candidates.ts';
import { newId } from './use/workspaces.ts';

const url = (name: 'BM_OWNER_URL' | 'BM_APP_URL' | 'BM_AUTH_URL' | 'BM_JOBS_URL'): string => {
  const value = process.env[name];
  if (value === undefined) throw new Error(`${name} is not set: run these tests with npm test`);
  return value;
};
const TABLES = Object.values(BUSINESS_TABLES).map((t) => getTableConfig(t).name);

let owner: pg.Client;
let app: pg.Client;
let auth: pg.Client;
let jobs: pg.Client;
let mine: TestWorkspace;
let theirs: TestWorkspace;

beforeAll(async () => {
  owner = new pg.Client(url('BM_OWNER_URL'));
  app = new pg.Client(url('BM_APP_URL'));
  auth = new pg.Client(url('BM_AUTH_URL'));
  jobs = new pg.Client(url('BM_JOBS_URL'));
  await Promise.all([owner.connect(), app.connect(), auth.connect(), jobs.connect()]);
  [mine, theirs] = [await makeWorkspace(), await makeWorkspace()];
  for (const w of [mine, theirs]) {
    await createCandidates(w.id, [someCandidate(w)], w.personId);
    await inWorkspace(w.id, async (tx) => {
      await tx.insert(supplier).values({ workspaceId: w.id, id: newId(), name: 'Someone' });
      await tx
        .insert(rateDraft)
        .values({ workspaceId: w.id, id: newId(), kind: 'tax', name: 'Draft', cells: {} });
      await tx
        .insert(cardProof)
        .values({
          workspaceId: w.id,
          id: newId(),
          cardKey: 'A/DE',
          data: proof.parse({ charged: { referral: 1 } }),
        });
      const [candidateRow] = await tx.select({ id: candidate.id }).from(candidate);
      const about = { workspaceId: w.id, market: 'Alderway/DE' };
      await tx.insert(watched).values({ ...about, candidateId: candidateRow?.id ?? '', data: NO_WATCH });
      await tx
        .insert(observation)
        .values({
          ...about,
          id: newId(),
          subject: 'listing/L',
          kind: 'permission',
          asOf: '2026-11-01',
          source: 'typed',
          stated: true,
          value: {},
        });
      await tx
        .insert(evidenceMap)
        .values({
          workspaceId: w.id,
          kind: 'terms',
          data: { columns: {}, decimal: 'point', days: 'dayFirst' },
        });
      await tx.insert(feed).values({ workspaceId: w.id, address: '' });
      await tx
        .insert(listingMark)
        .values({
          ...about,
          listing: 'L',
          state: 'dropped',
          row: {} as never,
          currency: 'EUR',
          asOf: '2026-11-01',
        });
      const walk = { workspaceId: w.id, by: w.personId, data: {} as never };
      await tx.insert(checkSession).values({ ...walk, id: 's', changedAt: new Date() });
      await tx
        .insert(shelfCheck)
        .values({ ...walk, id: 'c', sessionId: 's', at: new Date(), said: {} as never });
      await tx
        .insert(purchaseOrder)
        .values({
          workspaceId: w.id,
          id: 'o',
          number: 1,
          terms: orderTerms.parse({ currency: 'EUR' }),
          progress: orderProgress.parse({}),
        });
      const letter = { to: 'a@b.example', subject: 's', text: '', replyTo: '', asks: [] };
      await tx.insert(outgoingMail).values({ workspaceId: w.id, id: 'm', about: 'order/o/1', data: letter });
      const [asked] = await tx.select({ id: candidate.id }).from(candidate).limit(1);
      await tx
        .insert(enquiry)
        .values({ workspaceId: w.id, id: 'e', candidateId: asked?.id ?? '', data: {} as never });
      const report = { workspaceId: w.id, seq: 1 };
      await tx.insert(settlement).values({ ...report, id: 'r', name: 'r', file: {} as never });
      await tx
        .insert(settledLine)
        .values({
          ...report,
          settlementId: 'r',
          row: 2,
          key: 'k',
          place: 'A/DE',
          day: '2026-10-01',
          order: '',
          code: 'c',
          said: 'sale',
          amount: 1,
          units: 1,
        });
      await tx
        .insert(settledMonth)
        .values({ workspaceId: w.id, place: 'A/DE', code: 'c', month: '2026-10', sums: {} });
      const [onSale] = await tx.select({ id: lane.id, candidateId: lane.candidateId }).from(lane).limit(1);
      await tx
        .insert(launchedLane)
        .values({
          workspaceId: w.id,
          laneId: onSale?.id ?? '',
          candidateId: onSale?.candidateId ?? '',
          place: 'A/DE',
          codes: ['c'],
          since: '2026-10-01',
          ramp: [1],
          document: {} as never,
        });
      await tx
        .insert(settledPlace)
        .values({ workspaceId: w.id, place: 'A/DE', currency: 'EUR', codes: [], months: [] });
      await tx
        .insert(feeClaim)
        .values({
          workspaceId: w.id,
          place: 'A/DE',
          laneId: onSale?.id ?? '',
          code: 'c',
          kind: 'referral',
          month: '2026-10',
          why: 'twice',
          found: {} as never,
        });
      await tx.insert(scheduleChoice).values({ workspaceId: w.id, cell: 'a|b|5,26', reading: 1 });
      await tx.insert(task).values({ workspaceId: w.id, id: newId(), kind: 'weighAgain' });
      await tx
        .insert(notice)
        .values({ workspaceId: w.id, id: newId(), kind: 'upToDate', data: {}, link: '/weigh' });
      await tx
        .insert(noticeMail)
        .values({ workspaceId: w.id, userId: w.personId, since: {}, locale: 'en-GB' });
      await tx
        .insert(watchedSeller)
        .values({
          workspaceId: w.id,
          market: 'm',
          seller: 's',
          data: { asOf: '2026-11-30', currency: 'EUR', whole: true, goods: [] },
        });
      await tx
        .insert(closerLook)
        .values({
          workspaceId: w.id,
          listId: 'l',
          key: 9520000000019,
          line: 2,
          code: '9520000000019',
          title: 't',
          market: 'm',
        });
      await tx
        .insert(goodsMatch)
        .values({ workspaceId: w.id, said: 'a\nb', key: 9520000000019, how: 'hand' });
      await tx.insert(goodsMark).values({ workspaceId: w.id, key: 9520000000019, state: 'kept' });
      await tx.insert(listView).values({ workspaceId: w.id, id: newId(), name: 'Mine', look: DEFAULT_LOOK });
      await tx
        .insert(supplierList)
        .values({
          workspaceId: w.id,
          id: newId(),
          name: 'List',
          file: { name: 'list.csv', bytes: 1, sha256: '', kind: 'csv' },
        });
      await tx.insert(outsideAnswer).values({ workspaceId: w.id, question: 'rates', answer: {} });
      const [some] = await tx
        .select({ id: lane.id, result: lane.result })
        .from(lane)
        .where(eq(lane.workspaceId, w.id));
      if (some?.result != null)
        await tx
          .insert(laneHistory)
          .values({ workspaceId: w.id, laneId: some.id, cause: 'edit', result: some.result });
    });
    const run = newId();
    await inWorkspace(w.id, (tx) =>
      tx.insert(task).values({ workspaceId: w.id, id: run, kind: 'readList', data: {} }),
    );
    await storePart(
      w.id,
      run,
      copyRows(examplePart([{ key: 9520000000019, title: 'Pot', cost: 1.5 }]), null),
      0,
      {},
      1,
      1,
    );
    await attachRun(w.id, run);
  }
});
afterAll(async () => {
  await Promise.all([owner.end(), app.end(), auth.end(), jobs.end(), closeDatabase(), closeLoader()]);
});

/** Runs statements as the application does, in one transaction of one workspace; the transaction is taken back. */
async function asWorkspace<T>(workspace: string | null, work: (c: pg.Client) => Promise<T>): Promise<T> {
  await app.query('begin');
  try {
    if (workspace !== null) await app.query("select set_config('bm.workspace', $1, true)", [workspace]);
    return await work(app);
  } finally {
    await app.query('rollback');
  }
}

describe('the second wall', () => {
  it(
    'the application, the sign-in and the queue connect as roles that own nothing and cannot pass ' +
      'row-level security',
    async () => {
      for (const [c, role] of [
        [app, 'bm_app'],
        [auth, 'bm_auth'],
        [jobs, 'bm_jobs'],
      ] as const) {
        const { rows } = await c.query(
          'select current_user as name, r.rolsuper, r.rolbypassrls, r.rolcreatedb, r.rolcreaterole ' +
            'from pg_roles r where r.rolname = current_user',
        );
        expect(rows).toEqual([
          { name: role, rolsuper: false, rolbypassrls: false, rolcreatedb: false, rolcreaterole: false },
        ]);
        const { rows: owned } = await owner.query(
          'select c.relname from pg_class c join pg_roles r on r.oid = c.relowner where r.rolname = $1',
          [role],
        );
        expect(owned).toEqual([]);
        const { rows: member } = await owner.query(
          'select 1 from pg_auth_members m join pg_roles r on r.oid = m.member where r.rolname = $1',
          [role],
        );
        expect(member).toEqual([]);
      }
    },
  );
  it(
    'every business table has workspace_id first in its key and forced row-level security; those of ' +
      'sign-in and queue are the only others',
    async () => {
      const { rows } = await owner.query(
        'select n.nspname, c.relname, c.relrowsecurity, c.relforcerowsecurity, (select count(*)::int ' +
          'from pg_policy p where p.polrelid = c.oid) as policies from pg_class c join pg_namespace n ' +
          "on n.oid = c.relnamespace where c.relkind in ('r', 'p') and n.nspname not in ('pg_catalog', " +
          "'information_schema') order by 1, 2",
      );
      const business = rows.filter((r) => r.nspname === 'bm');
      expect(business.map((r) => r.relname).sort()).toEqual([...TABLES].sort());
      // Of tasks the queue sees by a policy of its own which are not finished.
      for (const r of business)
        expect(r).toMatchObject({
          relrowsecurity: true,
          relforcerowsecurity: true,
          policies: r.relname === 'task' ? 2 : 1,
        });
      expect(
        rows
          .filter((r) => r.nspname !== 'bm' && r.nspname !== 'lists' && !/^j[0-9a-f]{40,}$/.test(r.relname))
          .map((r) => `${r.nspname}.${r.relname}`),
      ).toEqual([
        'auth.account',
        'auth.attempt',
        'auth.invitation',
        'auth.member',
        'auth.organization',
        'auth.session',
        'auth.user',
        'auth.verification',
        'drizzle.__drizzle_migrations',
        'jobs.archive',
        'jobs.job',
        'jobs.lease',
        'jobs.queue',
        'jobs.schedule',
        'jobs.subscription',
        'jobs.version',
      ]);
      const { rows: keys } = await owner.query(
        'select c.relname, a.attname from pg_index i join pg_class c on c.oid = i.indrelid join ' +
          'pg_namespace n on n.oid = c.relnamespace join pg_attribute a on a.attrelid = c.oid and ' +
          "a.attnum = i.indkey[0] where n.nspname = 'bm'",
      );
      for (const k of keys) expect(k).toMatchObject({ attname: 'workspace_id' });
    },
  );
  it('the roles see nothing of each other', async () => {
    await expect(app.query('select * from auth.session')).rejects.toThrow(/permission denied/);
    await expect(app.query('select * from auth."user"')).rejects.toThrow(/permission denied/);
    await expect(app.query('select * from jobs.job')).rejects.toThrow(/permission denied/);
    for (const c of [auth, jobs])
      await expect(c.query('select * from bm.candidate')).rejects.toThrow(/permission denied/);
    await expect(jobs.query('select * from auth.session')).rejects.toThrow(/permission denied/);
    for (const column of ['data', 'error', 'created_by'])
      await expect(jobs.query(`select ${column} from bm.task`)).rejects.toThrow(/permission denied/);
    expect(
      (await jobs.query('select distinct state from bm.task')).rows.every(
        (r) => r.state === 'waiting' || r.state === 'running',
      ),
    ).toBe(true);
    await expect(jobs.query("update bm.task set state = 'done'")).rejects.toThrow(/permission denied/);
    // Rows of lists are reached through bm.list_row and its policy alone, not by the table of a run.
    const { rows } = await owner.query("select tablename from pg_tables where schemaname = 'lists' limit 1");
    await expect(app.query(`select * from lists.${rows[0]?.tablename}`)).rejects.toThrow(/permission denied/);
  });
});

/** Tables to which the application may only add rows. */
const NEVER_CHANGED = new Set(['observation']);

describe.each(TABLES)('bm.%s', (table) => {
  it('shows no row where no workspace is set, and only its own where one is', async () => {
    expect(await asWorkspace(null, async (c) => (await c.query(`select * from bm.${table}`)).rowCount)).toBe(
      0,
    );
    const seen = await asWorkspace(
      mine.id,
      async (c) => (await c.query(`select distinct workspace_id from bm.${table}`)).rows,
    );
    expect(seen).toEqual([{ workspace_id: mine.id }]);
  });
  it('another workspace reads, changes, removes and adds nothing', async () => {
    await asWorkspace(mine.id, async (c) => {
      expect((await c.query(`select 1 from bm.${table} where workspace_id = $1`, [theirs.id])).rowCount).toBe(
        0,
      );
    });
    for (const change of [
      `update bm.${table} set workspace_id = workspace_id where workspace_id = $1`,
      `delete from bm.${table} where workspace_id = $1`,
    ]) {
      const changed = asWorkspace(mine.id, async (c) => (await c.query(change, [theirs.id])).rowCount);
      // What was observed nobody changes, not even one's own.
      if (NEVER_CHANGED.has(table)) await expect(changed).rejects.toThrow(/permission denied/);
      else expect(await changed).toBe(0);
    }
    const copy = async (c: pg.Client) => {
      const { rows } = await c.query(
        "select column_name from information_schema.columns where table_schema = 'bm' and " +
          'table_name = $1 order by ordinal_position',
        [table],
      );
      const columns = rows.map((r) => r.column_name as string);
      const values = columns.map((k) => (k === 'workspace_id' ? '$1' : k === 'id' ? "'copied'" : `"${k}"`));
      await c.query(
        `insert into bm.${table} (${columns.map((k) => `"${k}"`).join(', ')}) select ${values.join(', ')}
            from bm.${table} limit 1`,
        [theirs.id],
      );
    };
    await expect(asWorkspace(mine.id, copy)).rejects.toThrow(/row-level security/);
    await expect(
      asWorkspace(mine.id, (c) => c.query(`update bm.${table} set workspace_id = $1`, [theirs.id])),
    ).rejects.toThrow(NEVER_CHANGED.has(table) ? /permission denied/ : /row-level security/);
  });
});
