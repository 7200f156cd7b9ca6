import { and, eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Cell } from '../core/cards/cells.ts';
import type { Tables } from '../core/cards/reader.ts';
import type { CardData, CardOf } from '../core/cards/schema.ts';
import { draftOf, readTables } from '../core/cards/tables.ts';
import { composeLane } from '../core/workspace/compose.ts';
import { evaluate } from '../core/lane/evaluate.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { lane, laneHistory } from './db/schema.ts';
import { env } from './env.ts';
import { cellsFrom, outSheets } from './files/cardFiles.ts';
import { readExchangeCsv, readReferenceXml } from './files/exchangeFiles.ts';
import { readCsv, safeText, writeCsv, writeXlsx } from './files/sheets.ts';
import { readTables as readXlsx } from './files/workbook.ts';
import { closeQueue } from './jobs/boss.ts';
import { workOnLanes } from './jobs/weighLanes.ts';
import { makeWorkspace, someCandidate } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { createCandidates, loadSheet } from './use/candidates.ts';
import { saveFundPlan, savePatches } from './use/savePatches.ts';
import { listCards, loadCards, previewOf, putInForce, readCardDocument, withdraw } from './use/cards.ts';
import { touchedBy } from './use/touched.ts';
import { draftFrom, throwDraft, loadDraft, saveDraft } from './use/cardDrafts.ts';
import { loadComparison, packLanes, removeLanes } from './use/lanes.ts';
import { generateLanes, loadProposals } from './use/proposals.ts';
import { exportWorkspace, saveSettings, settingsOf } from './use/workspaces.ts';
import { cancelTask, latestNotices, loadTask, startTask, tasksNow, weighAllAgain } from './use/tasks.ts';
import { unpack } from '../core/compare/pack.ts';
import type { StoredLane } from '../core/workspace/records.ts';
import { fault } from '../core/fault.ts';

let w: TestWorkspace;
beforeAll(async () => {
  w = await makeWorkspace();
});
afterAll(async () => {
  await closeQueue();
  await closeDatabase();
});

const card = (key: string) => w.cards.find((c) => c.key === key) as TestWorkspace['cards'][number];
const errorsOf = (kind: Parameters<typeof readTables>[0], tables: Tables) => {
  const read = readTables(kind, tables);
  return read.ok ? [] : read.errors;
};

describe('cards as files', () => {
  it.each(['Alderway/DE', 'DE', 'exchange'])('%s goes to a workbook and back, exactly', async (key) => {
    const c = card(key);
    const file = await readXlsx(await writeXlsx(outSheets(c.kind, c.data)));
    if (!file.ok) throw new Error(file.fault.code);
    const cells = cellsFrom(c.kind, file.sheets, c.data);
    if (!cells.ok) throw new Error(JSON.stringify(cells.errors));
    expect(readTables(c.kind, cells.cells)).toEqual({ ok: true, data: c.data });
  });
  it('each table goes to CSV and back, the others stay as they are', () => {
    const c = card('Alderway/DE');
    for (const s of outSheets(c.kind, c.data)) {
      const file = readCsv(writeCsv(s));
      if (!file.ok) throw new Error(file.fault.code);
      const cells = cellsFrom(c.kind, file.sheets, c.data);
      if (!cells.ok) throw new Error(JSON.stringify(cells.errors));
      expect(readTables(c.kind, cells.cells)).toEqual({ ok: true, data: c.data });
    }
  });
  it('nothing that a spreadsheet would run leaves as a formula, and it comes back as it was', async () => {
    expect(['=1+1', '+49 30', '-x', '@a', 'plain', '-12.5'].map(safeText)).toEqual([
      "'=1+1",
      "'+49 30",
      "'-x",
      "'@a",
      'plain',
      '-12.5',
    ]);
    const sheet = {
      name: 't',
      columns: [{ title: 'name' }, { title: 'x' }],
      rows: [['=HYPERLINK("a")', -1.5]] as Cell[][],
    };
    const csv = readCsv(writeCsv(sheet));
    expect(csv.ok && csv.sheets[0]?.rows).toEqual([['=HYPERLINK("a")', '-1.5']]);
    const xlsx = await readXlsx(await writeXlsx([sheet]));
    expect(xlsx.ok && xlsx.sheets[0]?.rows).toEqual([['=HYPERLINK("a")', -1.5]]);
  });
  it('half a file is refused with its place', async () => {
    const c = card('Alderway/DE');
    const whole = await writeXlsx(outSheets(c.kind, c.data));
    expect(await readXlsx(whole.subarray(0, whole.length / 2))).toMatchObject({
      ok: false,
      fault: { code: 'notWorkbook' },
    });
    expect(readCsv('key,name\n"a,b\n')).toMatchObject({ ok: false, fault: { code: 'quoteOpenInRow' } });
    const tiers = outSheets(c.kind, c.data, 'weightSteps');
    const text = writeCsv(tiers[0] as (typeof tiers)[number]);
    const cut = readCsv(text.slice(0, text.lastIndexOf(',', text.length - 20)));
    expect(cut.ok && cellsFrom(c.kind, cut.sheets, c.data)).toMatchObject({
      ok: false,
      errors: [{ sheet: 'weightSteps', code: 'lastRowShort', detail: { columns: 5 } }],
    });
    const sheets = outSheets(c.kind, c.data).filter((s) => s.name !== 'weightSteps');
    const partial = await readXlsx(await writeXlsx(sheets));
    expect(partial.ok && cellsFrom(c.kind, partial.sheets, c.data)).toMatchObject({
      ok: false,
      errors: [{ sheet: 'weightSteps', code: 'sheetMissingRows' }],
    });
    expect(
      readCardDocument('{"format":"bold-margin/rate-card","version":1,"kind":"tax","data":{'),
    ).toMatchObject({ ok: false, errors: [{ code: 'cardBroken' }] });
  });
  it('a card from a newer schema, of no kind, with a gap', () => {
    const doc = (over: object) =>
      JSON.stringify({
        format: 'bold-margin/rate-card',
        version: 1,
        kind: 'tax',
        data: card('DE').data,
        ...over,
      });
    expect(readCardDocument(doc({}))).toMatchObject({ ok: true, data: card('DE').data });
    expect(readCardDocument(doc({ version: 2 }))).toMatchObject({
      errors: [{ column: 'version', code: 'cardNewer', detail: { version: '2', reads: 1 } }],
    });
    expect(readCardDocument(doc({ kind: 'weather' }))).toMatchObject({ errors: [{ column: 'kind' }] });
    const m = structuredClone(card('Alderway/DE').data) as CardOf<'marketplace'>;
    (m.storage as NonNullable<typeof m.storage>).longStay[1] = { fromMonths: 14, toMonths: null, rate: 3 };
    expect(
      readCardDocument(
        JSON.stringify({ format: 'bold-margin/rate-card', version: 1, kind: 'marketplace', data: m }),
      ),
    ).toMatchObject({ ok: false, errors: [{ sheet: 'longStay', row: 3, column: 'fromMonths' }] });
  });
  it('headers that are missing, unknown or doubled are said', () => {
    const c = card('exchange');
    const of = (text: string) => {
      const file = readCsv(text);
      return file.ok ? cellsFrom(c.kind, file.sheets, c.data) : null;
    };
    expect(of('currency,rate,rate\nUSD,1.1,1.2\n')).toMatchObject({
      errors: [{ sheet: 'rates', row: 1, column: 'rate', code: 'columnTwice', detail: { column: 'rate' } }],
    });
    expect(of('currency,rate,bank\nUSD,1.1,x\n')).toMatchObject({
      errors: [{ column: 'bank', code: 'noColumn' }],
    });
    expect(of('colour\nblue\n')).toMatchObject({
      errors: [{ code: 'noTableWith', detail: { columns: 'colour' } }],
    });
  });
  it('exchange rates by CSV and by the layout of reference rates, a table a day', () => {
    expect(
      readExchangeCsv(
        'date;currency;rate\n2026-11-23;USD;1,0834\n2026-11-24;USD;1,0840\n2026-11-24;PLN;4,27\n',
        'EUR',
        'mine',
      ),
    ).toEqual({
      ok: true,
      tables: [
        { date: '2026-11-23', base: 'EUR', source: 'mine', rates: { USD: 1.0834 } },
        { date: '2026-11-24', base: 'EUR', source: 'mine', rates: { USD: 1.084, PLN: 4.27 } },
      ],
    });
    expect(
      readExchangeCsv(
        'date,currency,rate\n2026-11-24,USD,0\n2026-11-24,QQQ,2\n24.11.2026,PLN,4\n',
        'EUR',
        '',
      ),
    ).toMatchObject({
      errors: [
        { row: 2, column: 'rate', code: 'rateZero' },
        { row: 3, column: 'currency' },
        { row: 4, column: 'date' },
      ],
    });
    const xml =
      '<?xml version="1.0"?><g:Envelope xmlns:g="urn:g" xmlns="urn:x"><g:subject>Reference ' +
      'rates</g:subject><Cube><Cube time="2026-11-24"><Cube currency="USD" rate="1.0834"/><Cube ' +
      'currency="JPY" rate="162.5"/></Cube></Cube></g:Envelope>';
    expect(readReferenceXml(xml, 'daily')).toEqual({
      ok: true,
      tables: [{ date: '2026-11-24', base: 'EUR', source: 'daily', rates: { USD: 1.0834, JPY: 162.5 } }],
    });
    expect(readReferenceXml(xml.slice(0, 150), 'daily')).toMatchObject({
      errors: [{ code: 'notReferenceRates' }],
    });
  });
});

/** The card with every referral fee two points higher, from tomorrow's month on. */
function dearer(data: CardData, from: string): CardOf<'marketplace'> {
  const m = structuredClone(data) as CardOf<'marketplace'>;
  return {
    ...m,
    inForceFrom: from,
    categories: m.categories.map((c) => ({
      ...c,
      referral: { ...c.referral, tiers: c.referral.tiers.map((t) => ({ ...t, pct: t.pct + 0.06 })) },
    })),
  };
}

describe('from draft to force', () => {
  it('a draft keeps wrong cells, is saved once at a time, and can be thrown away and brought back', async () => {
    const id = (await draftFrom(w.id, card('Alderway/FR').id, false, w.personId)) as string;
    const loaded = await loadDraft(w.id, id);
    expect(loaded?.base?.id).toBe(card('Alderway/FR').id);
    const cells = structuredClone(loaded?.draft.cells) as Record<string, Cell[][]>;
    (cells.referralTiers?.[0] as Cell[])[2] = 'a lot';
    expect(await saveDraft(w.id, id, 1, cells, w.personId)).toEqual({ ok: true, edition: 2 });
    expect(await saveDraft(w.id, id, 1, cells, w.personId)).toEqual({ ok: false, elsewhere: true });
    expect(errorsOf('marketplace', (await loadDraft(w.id, id))?.draft.cells ?? {})).toMatchObject([
      { sheet: 'referralTiers', row: 2, column: 'pct' },
    ]);
    expect(await throwDraft(w.id, id, false)).toBe(true);
    expect([await loadDraft(w.id, id), await saveDraft(w.id, id, 2, cells, w.personId)]).toEqual([
      null,
      { ok: false, gone: true },
    ]);
    expect(await throwDraft(w.id, id, true)).toBe(true);
    expect((await loadDraft(w.id, id))?.draft.cells).toEqual(cells);
  });
  it('another workspace sees neither cards nor drafts', async () => {
    const other = await makeWorkspace();
    const id = (await draftFrom(w.id, card('DE').id, false, w.personId)) as string;
    expect([
      await loadDraft(other.id, id),
      await loadCards(other.id, [card('DE').id]),
      await draftFrom(other.id, card('DE').id, true, other.personId),
      await throwDraft(other.id, id, false),
      await withdraw(other.id, card('DE').id, false),
    ]).toEqual([null, [], null, false, false]);
  });
  it('two versions on one day are refused, also when they come at once; a withdrawn one frees its day', async () => {
    const data = { ...(card('ES').data as CardOf<'tax'>), inForceFrom: '2026-11-01' };
    const [a, b] = await Promise.all([
      putInForce(w.id, 'tax', data, null, w.personId),
      putInForce(w.id, 'tax', data, null, w.personId),
    ]);
    expect([a.ok, b.ok].sort()).toEqual([false, true]);
    const [no] = [a, b].filter((x) => !x.ok);
    expect(no).toMatchObject({
      errors: [
        { sheet: 'card', column: 'inForceFrom', ...fault('dayTaken', { card: 'ES', day: '2026-11-01' }) },
      ],
    });
    const id = [a, b].flatMap((x) => (x.ok ? [x.id] : []))[0] as string;
    expect(await withdraw(w.id, id, false)).toBe(true);
    const second = await putInForce(w.id, 'tax', data, null, w.personId);
    expect(second.ok).toBe(true);
    expect(await withdraw(w.id, id, true)).toBe(false);
    const { versions } = await listCards(w.id);
    expect(
      versions.filter((v) => v.kind === 'tax' && v.key === 'ES').map((v) => [v.inForceFrom, v.withdrawn]),
    ).toEqual([
      ['2026-11-01', false],
      ['2026-11-01', true],
      ['2012-09-01', false],
    ]);
  });
  it('an import previews additions, changes and removals, and stores nothing', async () => {
    const c = card('Sundra/DE');
    const next = dearer(c.data, '2026-12-01');
    const preview = previewOf(
      'marketplace',
      draftOf('marketplace', { ...next, surcharges: [], itemFee: 0.1 }),
      c.data,
      false,
    );
    expect(preview.errors).toEqual([]);
    expect(preview.counts.removed).toBe(1);
    expect(preview.changes.filter((x) => x.sheet === 'referralTiers').length).toBeGreaterThan(5);
    expect((await loadCards(w.id, [c.id]))[0]?.data).toEqual(c.data);
    const wrong = previewOf(
      'marketplace',
      { ...draftOf('marketplace', next), surcharges: [['Levy', '120', 'referral']] },
      c.data,
      false,
    );
    expect(wrong).toMatchObject({ changes: [], errors: [{ sheet: 'surcharges', row: 2, column: 'pct' }] });
  });
  it(
    'a change touches its lanes, says why, falls under a hurdle with a notice, and lanes keep what ' +
      'they were until brought up to date',
    async () => {
      const [id] = (await createCandidates(
        w.id,
        [someCandidate(w, { price: 34.9, cost: 5.2, origin: 'DE' })],
        w.personId,
      )) as [string];
      await inWorkspace(w.id, (tx) =>
        tx
          .update(lane)
          .set({ unitProfit: 1 })
          .where(and(eq(lane.workspaceId, w.id), eq(lane.candidateId, 'none'))),
      );
      const before = await loadSheet(w.id, id);
      const was = before?.lanes[0]?.result?.figures.unitProfit as number;
      const next = dearer(card('Alderway/DE').data, env().BM_TODAY ?? new Date().toISOString().slice(0, 10));
      const touched = await touchedBy(w.id, 'marketplace', 'Alderway/DE', next, null);
      expect(touched).toHaveLength(1);
      expect(touched[0]).toMatchObject({
        candidateId: id,
        candidate: 'Bird bath',
        country: 'DE',
        why: [{ line: 'referral' }, ...(touched[0]?.why.slice(1) ?? [])],
      });
      expect(touched[0]?.change as number).toBeLessThan(-1);
      expect(touched[0]?.why.reduce((s, d) => s + d.effect, 0)).toBeCloseTo(touched[0]?.change as number, 9);
      const put = await putInForce(w.id, 'marketplace', next, card('Alderway/DE').id, w.personId);
      if (!put.ok) throw new Error('not in force');
      expect((await loadSheet(w.id, id))?.lanes[0]?.result?.figures.unitProfit).toBe(was);

      const taskId = await startTask(
        w.id,
        'bringUpToDate',
        { kind: 'marketplace', key: 'Alderway/DE' },
        1,
        w.personId,
      );
      expect((await tasksNow(w.id)).map((t) => [t.id, t.state])).toContainEqual([taskId, 'waiting']);
      expect(await workOnLanes({ workspaceId: w.id, taskId })).toBe(false);
      expect(await loadTask(w.id, taskId)).toMatchObject({ state: 'done', done: 1, data: { changed: 1 } });
      const now = await loadSheet(w.id, id);
      expect(now?.lanes[0]?.data.marketplaceCardId).toBe(put.id);
      expect(now?.lanes[0]?.result?.figures.unitProfit).toBeCloseTo(was + (touched[0]?.change as number), 9);
      const [kept] = await inWorkspace(w.id, (tx) =>
        tx
          .select()
          .from(laneHistory)
          .where(and(eq(laneHistory.workspaceId, w.id), eq(laneHistory.laneId, now?.lanes[0]?.id ?? ''))),
      );
      expect([kept?.cause, kept?.result.figures.unitProfit]).toEqual(['rates', was]);
      const notices = await latestNotices(w.id);
      expect(notices.map((n) => n.kind)).toContain('upToDate');
      if ((touched[0]?.dropped.length ?? 0) > 0)
        expect(notices.find((n) => n.kind === 'underHurdle')).toMatchObject({
          data: { candidate: 'Bird bath', figure: touched[0]?.dropped[0] },
          link: `/weigh/${id}?lane=${now?.lanes[0]?.id}`,
        });
      // the new version is read wherever the lane is, and an edit keeps it
      expect((await loadComparison(w.id, id))?.lanes[0]?.data.marketplaceCardId).toBe(put.id);
      expect(
        await savePatches(
          w.id,
          id,
          [{ entity: 'lane', id: now?.lanes[0]?.id ?? '', path: ['breakage'], from: 0, to: 0.01 }],
          w.personId,
        ),
      ).toMatchObject({ ok: true });
      expect((await loadSheet(w.id, id))?.lanes[0]?.data).toMatchObject({
        breakage: 0.01,
        marketplaceCardId: put.id,
      });
      const exported = (await exportWorkspace(w.id, 'Test')) as {
        lanes: { candidateId: string; data: StoredLane }[];
      };
      expect(exported.lanes.find((l) => l.candidateId === id)?.data).toMatchObject({
        breakage: 0.01,
        marketplaceCardId: put.id,
      });
      // done twice, nothing more happens
      const again = await startTask(
        w.id,
        'bringUpToDate',
        { kind: 'marketplace', key: 'Alderway/DE' },
        1,
        w.personId,
      );
      await workOnLanes({ workspaceId: w.id, taskId: again });
      expect(await loadTask(w.id, again)).toMatchObject({ state: 'done', data: { changed: 0 } });
    },
  );
  it('a cancelled task stores nothing more; one that only looks stores nothing', async () => {
    const [id] = (await createCandidates(w.id, [someCandidate(w, { name: 'Looked at' })], w.personId)) as [
      string,
    ];
    const old = (await loadSheet(w.id, id))?.lanes[0]?.data.marketplaceCardId;
    const put = await putInForce(
      w.id,
      'marketplace',
      dearer(card('Alderway/DE').data, '2026-11-02'),
      null,
      w.personId,
    );
    expect(put.ok).toBe(true);
    const which = { kind: 'marketplace', key: 'Alderway/DE' } as const;
    const cancelled = await startTask(w.id, 'bringUpToDate', which, 1, w.personId);
    await cancelTask(w.id, cancelled);
    expect(await workOnLanes({ workspaceId: w.id, taskId: cancelled })).toBe(false);
    const look = await startTask(w.id, 'bringUpToDate', { ...which, lookOnly: true }, 1, w.personId);
    await workOnLanes({ workspaceId: w.id, taskId: look });
    expect((await loadSheet(w.id, id))?.lanes[0]?.data.marketplaceCardId).toBe(old);
    expect(await loadTask(w.id, cancelled)).toMatchObject({ state: 'cancelled', done: 0 });
  });
});

describe('lanes by the many', () => {
  const wanted = (over: object = {}) => ({
    marketplaces: ['Alderway/DE', 'Alderway/FR', 'Alderway/PL', 'Nordkai/FR', 'Copperlane/US'],
    methods: ['warehouse' as const, 'ownDispatch' as const],
    quotes: [] as string[],
    routes: [] as string[],
    without: [] as number[],
    like: null,
    habit: '99' as const,
    ...over,
  });
  it('every sensible combination is proposed, what is missing is said, and they are made in one action', async () => {
    const [id] = (await createCandidates(w.id, [someCandidate(w, { name: 'Many' })], w.personId)) as [string];
    const sheet = await loadSheet(w.id, id);
    const quotes = [sheet?.quotes[0]?.id ?? ''];
    const page = await loadProposals(w.id, id, wanted({ quotes }));
    expect(page?.proposals).toHaveLength(10);
    expect(page?.proposals[0]).toMatchObject({
      country: 'DE',
      marketplace: 'Alderway',
      method: 'warehouse',
      exists: true,
      possible: true,
    });
    expect(
      page?.proposals.filter((p) => !p.possible).map((p) => [p.marketplace, p.method, p.missing[0]]),
    ).toEqual([
      ['Copperlane', 'warehouse', 'warehouse'],
      ['Nordkai', 'warehouse', 'warehouse'],
    ]);
    expect(page?.proposals.find((p) => p.country === 'PL')?.missing).toContain('standing');
    const like = sheet?.lanes[0]?.id ?? null;
    const made = await generateLanes(w.id, id, wanted({ quotes, like, without: [1] }), w.personId);
    if (made === null || !('ids' in made)) throw new Error('not made');
    expect(made.ids).toHaveLength(6);
    const compared = await loadComparison(w.id, id);
    const lanes = unpack<StoredLane>(packLanes(compared?.lanes ?? []).lanes);
    expect(lanes).toEqual(compared?.lanes.map((l) => l.data));
    const poland = lanes.find((l) => l.country === 'PL' && l.method === 'warehouse') as StoredLane;
    expect(poland).toMatchObject({ currency: 'PLN', price: 132.99, orderQuantity: lanes[0]?.orderQuantity });
    expect(poland.provenance.price).toMatchObject({ source: 'borrowed', note: 'Alderway DE' });
    // what is stored is what the lane evaluates to
    const rows = await inWorkspace(w.id, (tx) =>
      tx
        .select()
        .from(lane)
        .where(and(eq(lane.workspaceId, w.id), eq(lane.candidateId, id))),
    );
    for (const r of rows) {
      const doc = composeLane({
        candidate: compared?.candidate.data as never,
        lane: r.data,
        quotes: Object.fromEntries((compared?.quotes ?? []).map((q) => [q.id, q.data])),
        cards: compared?.cards ?? {},
        homeCurrency: 'EUR',
        standings: compared?.settings.standings ?? {},
        today: compared?.today ?? '',
      });
      expect(r.result).toEqual(JSON.parse(JSON.stringify(evaluate(doc))));
    }
    // generated again, nothing is doubled; taken away and the rest stays
    expect(await generateLanes(w.id, id, wanted({ quotes, like, without: [1] }), w.personId)).toEqual({
      ids: [],
    });
    expect(await removeLanes(w.id, id, made.ids.slice(0, 2))).toHaveLength(2);
    expect((await loadComparison(w.id, id))?.lanes).toHaveLength(5);
  });
  it('stored measures follow the settings: another home currency, another launch plan', async () => {
    const own = await makeWorkspace();
    const [id] = (await createCandidates(own.id, [someCandidate(own, { origin: 'DE' })], own.personId)) as [
      string,
    ];
    const measures = async () =>
      (
        await inWorkspace(own.id, (tx) =>
          tx
            .select({ unitProfit: lane.unitProfit, launchCash: lane.launchCash })
            .from(lane)
            .where(and(eq(lane.workspaceId, own.id), eq(lane.candidateId, id))),
        )
      )[0] as { unitProfit: number; launchCash: number };
    const euros = await measures();
    await saveSettings(own.id, (s) => ({ ...s, homeCurrency: 'USD' }));
    const taskId = await weighAllAgain(own.id, own.personId);
    await workOnLanes({ workspaceId: own.id, taskId });
    expect(await loadTask(own.id, taskId)).toMatchObject({ state: 'done', total: 1, done: 1 });
    const dollars = await measures();
    expect(dollars.unitProfit).toBeCloseTo(euros.unitProfit * 1.1, 9);
    const settings = await settingsOf(own.id);
    expect(
      await saveFundPlan(
        own.id,
        id,
        {
          ...(settings as NonNullable<typeof settings>).launch,
          oneOffs: [{ name: 'Photographs', amount: 500 }],
        },
        own.personId,
      ),
    ).toBe(true);
    expect((await measures()).launchCash).toBeCloseTo(dollars.launchCash + 500, 6);
  });
  it('another workspace can neither see, make nor take away lanes', async () => {
    const [id] = (await createCandidates(w.id, [someCandidate(w)], w.personId)) as [string];
    const other = await makeWorkspace();
    const lanes = (await loadComparison(w.id, id))?.lanes.map((l) => l.id) ?? [];
    expect([
      await loadComparison(other.id, id),
      await loadProposals(other.id, id, wanted()),
      await generateLanes(other.id, id, wanted(), other.personId),
      await removeLanes(other.id, id, lanes),
    ]).toEqual([null, null, null, []]);
    expect((await loadComparison(w.id, id))?.lanes).toHaveLength(1);
  });
});
