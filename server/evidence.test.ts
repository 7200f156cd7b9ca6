import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { watch } from '../core/evidence/observed.ts';
import { packDays, unpackDays } from '../core/evidence/series.ts';
import { dayRow } from '../core/evidence/schema.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { observation } from './db/schema.ts';
import { textSheets, sheetOfText } from './files/evidenceFiles.ts';
import { makeWorkspace, someCandidate } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { marketsIn } from './use/keptMarkets.ts';
import { createCandidates, loadMarketSheet } from './use/candidates.ts';
import {
  decide,
  earlierObservations,
  keepEvidenceMap,
  keepObservations,
  loadEvidenceMaps,
  observe,
  takeBack,
} from './use/evidence.ts';
import type { NewObservation } from './use/evidence.ts';

let mine: TestWorkspace;
let theirs: TestWorkspace;
let candidate: string;
const MARKET = 'Alderway/DE';
beforeAll(async () => {
  [mine, theirs] = [await makeWorkspace(), await makeWorkspace()];
  [candidate = ''] = await createCandidates(mine.id, [someCandidate(mine)], mine.personId);
});
afterAll(closeDatabase);

const seen = (kind: NewObservation['kind'], value: unknown, asOf = '2026-11-20'): NewObservation => ({
  kind,
  value,
  asOf,
  source: 'typed',
  stated: true,
});
const kept = async () =>
  (await inWorkspace(mine.id, (tx) => marketsIn(tx, mine.id, candidate))).markets.find(
    (m) => m.market === MARKET,
  );
const days = (from: string, ...prices: number[]) =>
  packDays(
    prices.map((price, i) =>
      dayRow.parse({ price, day: new Date(Date.parse(from) + i * 86_400_000).toISOString().slice(0, 10) }),
    ),
    'EUR',
  );

describe('observations', () => {
  it('are kept, dated, and never overwritten: the newest stands, the older ones are its history', async () => {
    await observe(
      mine.id,
      { candidateId: candidate, market: MARKET },
      [seen('offers', { currency: 'EUR', list: [{ price: 10 }] }, '2026-11-01')],
      mine.personId,
    );
    await observe(
      mine.id,
      { candidateId: candidate, market: MARKET },
      [seen('offers', { currency: 'EUR', list: [{ price: 12 }] }, '2026-11-09')],
      mine.personId,
    );
    // One that comes late but speaks of an earlier day does not stand.
    await observe(
      mine.id,
      { candidateId: candidate, market: MARKET },
      [seen('offers', { currency: 'EUR', list: [{ price: 11 }] }, '2026-11-05')],
      mine.personId,
    );
    expect((await kept())?.observations).toMatchObject([
      { kind: 'offers', asOf: '2026-11-09', value: { list: [{ price: 12 }] } },
    ]);
    const earlier = await earlierObservations(mine.id, candidate, MARKET, 'offers');
    expect(earlier.map((e) => e.asOf)).toEqual(['2026-11-09', '2026-11-05', '2026-11-01']);
  });
  it('the application cannot change or delete what was seen, only take it back', async () => {
    const act = (what: ReturnType<typeof sql>) => inWorkspace(mine.id, (tx) => tx.execute(what));
    await expect(act(sql`update ${observation} set value = '{}'`)).rejects.toThrow();
    await expect(act(sql`delete from ${observation}`)).rejects.toThrow();
    const [newest] = await earlierObservations(mine.id, candidate, MARKET, 'offers');
    await takeBack(mine.id, newest?.id ?? '', true);
    expect((await kept())?.observations).toMatchObject([{ asOf: '2026-11-05' }]);
    expect((await earlierObservations(mine.id, candidate, MARKET, 'offers'))[0]).toMatchObject({
      takenBack: true,
    });
    await takeBack(mine.id, newest?.id ?? '', false);
    expect((await kept())?.observations).toMatchObject([{ asOf: '2026-11-09' }]);
  });
  it('every stretch of days is read in the one statement, and terms add up', async () => {
    await observe(
      mine.id,
      { candidateId: candidate, market: MARKET },
      [
        seen('history', days('2026-11-01', 1, 2), '2026-11-02'),
        seen('history', days('2026-11-03', 3), '2026-11-03'),
      ],
      null,
    );
    const term = (name: string) => ({ terms: [{ term: name, volumes: [] }] });
    await observe(
      mine.id,
      { candidateId: candidate, market: MARKET },
      [seen('terms', term('a')), seen('terms', term('b'))],
      null,
    );
    const all = (await kept())?.observations ?? [];
    expect(all.filter((o) => o.kind === 'history').map((o) => unpackDays(o.value as never).length)).toEqual([
      1, 2,
    ]);
    expect(all.find((o) => o.kind === 'terms')?.value).toMatchObject({
      terms: [{ term: 'a' }, { term: 'b' }],
    });
  });
  it('belong to a listing, where its code is known: another candidate of it sees them too', async () => {
    const [other = ''] = await createCandidates(mine.id, [someCandidate(mine)], mine.personId);
    for (const id of [candidate, other])
      await decide(mine.id, id, { market: MARKET, change: { listing: 'L9' } }, mine.personId);
    await observe(
      mine.id,
      { candidateId: candidate, market: MARKET },
      [seen('permission', { state: 'closed' }), seen('rivals', { currency: 'EUR', rows: [] })],
      null,
    );
    const { markets } = await inWorkspace(mine.id, (tx) => marketsIn(tx, mine.id, other));
    expect(markets[0]?.observations.map((o) => o.kind)).toEqual(['permission']);
    // What was known of the candidate before its listing was known is still there.
    expect((await kept())?.observations.some((o) => o.kind === 'history')).toBe(true);
  });
  it('of another workspace are neither read, nor added to, nor taken back', async () => {
    expect((await inWorkspace(theirs.id, (tx) => marketsIn(tx, theirs.id, candidate))).markets).toEqual([]);
    await expect(
      observe(
        theirs.id,
        { candidateId: candidate, market: MARKET },
        [seen('permission', { state: 'open' })],
        null,
      ),
    ).rejects.toMatchObject({ reason: 'gone' });
    await expect(
      decide(theirs.id, candidate, { market: MARKET, change: { listing: 'X' } }, 'x'),
    ).rejects.toMatchObject({ reason: 'gone' });
    const [own] = await earlierObservations(mine.id, candidate, MARKET, 'offers');
    await takeBack(theirs.id, own?.id ?? '', true);
    expect((await earlierObservations(mine.id, candidate, MARKET, 'offers'))[0]).toMatchObject({
      takenBack: false,
    });
    expect(await earlierObservations(theirs.id, candidate, MARKET, 'offers')).toEqual([]);
  });
  it('of several markets are kept at once, each under its own', async () => {
    const [other = ''] = await createCandidates(mine.id, [someCandidate(mine)], mine.personId);
    const price = (x: number) => seen('offers', { currency: 'EUR', list: [{ price: x }] });
    const places = [
      { place: { candidateId: other, market: 'Alderway/PL' }, seen: [price(1)] },
      { place: { candidateId: other, market: 'Alderway/ES' }, seen: [] },
      { place: { candidateId: other, market: 'Alderway/IT' }, seen: [price(2), price(3)] },
    ];
    await inWorkspace(mine.id, (tx) => keepObservations(tx, mine.id, places, mine.personId));
    const { markets } = await inWorkspace(mine.id, (tx) => marketsIn(tx, mine.id, other));
    const own = Object.fromEntries(markets.map((m) => [m.market, m.observations]));
    // Of two in one turn the later stands; where nothing was seen nothing is followed.
    expect(Object.keys(own).sort()).toEqual(['Alderway/IT', 'Alderway/PL']);
    expect(own['Alderway/PL']).toMatchObject([{ value: { list: [{ price: 1 }] } }]);
    expect(own['Alderway/IT']).toMatchObject([{ value: { list: [{ price: 3 }] } }]);
    await inWorkspace(mine.id, (tx) => keepObservations(tx, mine.id, [], mine.personId));
  });
  it('half of several is never kept', async () => {
    const before = (await earlierObservations(mine.id, candidate, MARKET, 'permission')).length;
    await expect(
      observe(
        mine.id,
        { candidateId: candidate, market: MARKET },
        [seen('permission', { state: 'open' }), seen('offers', { list: 'many' })],
        null,
      ),
    ).rejects.toThrow();
    expect(await earlierObservations(mine.id, candidate, MARKET, 'permission')).toHaveLength(before);
  });
  it('of one kind there is room for so many by hand, and no more', async () => {
    const [id = ''] = await createCandidates(mine.id, [someCandidate(mine)], mine.personId);
    await inWorkspace(mine.id, (tx) =>
      tx.execute(sql`
        insert into ${observation} (workspace_id, id, subject, market, kind, as_of, source, stated, value)
        select ${mine.id}, 'full' || n, ${`candidate/${id}`}, ${MARKET}, 'permission', '2026-01-01', 'typed', true, '{}'
        from generate_series(1, 3000) n`),
    );
    await expect(
      observe(mine.id, { candidateId: id, market: MARKET }, [seen('permission', { state: 'open' })], null),
    ).rejects.toMatchObject({ reason: 'invalid', fault: { code: 'evidenceFull' } });
    // Another kind has its own room, and what is shown of earlier ones stays short.
    await observe(
      mine.id,
      { candidateId: id, market: MARKET },
      [seen('rivals', { currency: 'EUR', rows: [] })],
      null,
    );
    expect((await earlierObservations(mine.id, id, MARKET, 'permission')).length).toBe(50);
  });
  it('two years of a listing take at most 40 kB in the database', async () => {
    const rows = Array.from({ length: 730 }, (_, i) =>
      dayRow.parse({
        day: new Date(Date.UTC(2024, 10, 1 + i)).toISOString().slice(0, 10),
        price: 20 + ((i * 7919) % 1000) / 100,
        rank: 1 + ((i * 104_729) % 90_000),
        offers: i % 7,
        ownShop: i % 3 === 0,
        promotion: i % 11 === 0,
      }),
    );
    await observe(
      mine.id,
      { candidateId: candidate, market: 'Alderway/FR' },
      [seen('history', packDays(rows, 'EUR'))],
      null,
    );
    const [size] = await inWorkspace(mine.id, (tx) =>
      tx
        .select({ bytes: sql<number>`pg_column_size(${observation}.*)` })
        .from(observation)
        .where(eq(observation.market, 'Alderway/FR')),
    );
    expect(size?.bytes).toBeGreaterThan(500);
    expect(size?.bytes).toBeLessThan(40_000);
  });
});

describe('decisions about a market', () => {
  it('about different terms and rivals do not touch each other, whoever makes them', async () => {
    const tick = { ticked: true, weight: 1, broad: false, confirmed: false, ofRival: false, note: '' };
    await Promise.all([
      decide(mine.id, candidate, { market: MARKET, change: { terms: { a: tick } } }, 'x'),
      decide(
        mine.id,
        candidate,
        { market: MARKET, change: { terms: { b: tick }, struck: { 'title:R': true, 'title:S': true } } },
        'y',
      ),
    ]);
    await decide(mine.id, candidate, { market: MARKET, change: { struck: { 'title:R': null } } }, 'x');
    const w = (await kept())?.watch;
    expect([Object.keys(w?.terms ?? {}).sort(), w?.struck, w?.listing]).toEqual([
      ['a', 'b'],
      { 'title:S': true },
      'L9',
    ]);
  });
  it('only what is named changes; what does not fit is refused whole', async () => {
    await decide(mine.id, candidate, { market: MARKET, change: { typedUnits: 30 } }, 'x');
    await decide(mine.id, candidate, { market: MARKET, change: { band: 0.1 } }, 'x');
    expect((await kept())?.watch).toMatchObject({ typedUnits: 30, band: 0.1, listing: 'L9' });
    await expect(decide(mine.id, candidate, { market: MARKET, change: { band: 7 } }, 'x')).rejects.toThrow();
    await expect(
      decide(mine.id, candidate, { market: MARKET, change: { nothing: 1 } }, 'x'),
    ).rejects.toThrow();
    expect((await kept())?.watch).toMatchObject({ band: 0.1 });
  });
  it('stand on the page of the market with the sheet', async () => {
    const found = await loadMarketSheet(mine.id, candidate);
    expect(found?.sheet.candidate.id).toBe(candidate);
    expect(found?.markets.find((m) => m.market === MARKET)?.watch).toEqual(
      watch.parse((await kept())?.watch),
    );
    expect(found?.hasFeed).toBe(false);
    expect(await loadMarketSheet(theirs.id, candidate)).toBe(null);
  });
  it('columns of a file are remembered by kind', async () => {
    const map = { columns: { term: 'Begriff' }, decimal: 'comma', days: 'dayFirst' } as const;
    await keepEvidenceMap(mine.id, 'terms', map);
    expect(await loadEvidenceMaps(mine.id)).toEqual({ terms: map });
    expect(await loadEvidenceMaps(theirs.id)).toEqual({});
  });
});

describe('files of evidence as they come', () => {
  it('are text of any encoding and delimiter, or a workbook', async () => {
    expect(sheetOfText('Tag\tPreis\n2026-11-01\t9').rows).toEqual([
      ['Tag', 'Preis'],
      ['2026-11-01', '9'],
    ]);
    const latin = Buffer.from([0x46, 0xfc, 0x72, 0x3b, 0x31, 0x0a, 0x61, 0x3b, 0x32]);
    expect((await textSheets(latin))[0]?.rows[0]).toEqual(['Für', '1']);
    await expect(textSheets(Buffer.alloc(0))).rejects.toMatchObject({ reason: 'invalid' });
    await expect(textSheets(Buffer.from([1, 2, 3, 0, 255, 4, 5, 6]))).rejects.toMatchObject({
      reason: 'invalid',
    });
    await expect(textSheets(Buffer.from('PK\u0003\u0004 nothing'))).rejects.toMatchObject({
      reason: 'invalid',
    });
  });
});
