import { eq, sql } from 'drizzle-orm';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { evaluate } from '../core/lane/evaluate.ts';
import { laneDocument } from '../core/lane/schema.ts';
import type { Patch } from '../core/workspace/patch.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { candidate, lane } from './db/schema.ts';
import { makeWorkspace, pricePatch, someCandidate } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { createCandidates, documentsOf, duplicateCandidate, loadSheet, setFate } from './use/candidates.ts';
import { loadWeighed } from './use/weigh.ts';
import { addLane, putLanes, removeLane } from './use/candidateLanes.ts';
import { openAsCandidate, openLaneDocument, readLaneDocument } from './use/laneDocuments.ts';
import type { Fault } from '../core/fault.ts';
import { inWords } from '../words/index.ts';
import type { Refusal } from './refusal.ts';
import { laneHistoryOf, savePatches } from './use/savePatches.ts';
import type { Sheet } from './use/candidates.ts';
import { exportWorkspace, isWorkspaceDeleted, saveSettings, setWorkspaceDeleted } from './use/workspaces.ts';

let w: TestWorkspace;
beforeAll(async () => {
  w = await makeWorkspace();
});
afterAll(closeDatabase);

async function fresh(over = {}): Promise<{ id: string; sheet: Sheet }> {
  const [id] = await createCandidates(w.id, [someCandidate(w, over)], w.personId);
  const sheet = await loadSheet(w.id, id as string);
  if (id === undefined || sheet === null) throw new Error('not created');
  return { id, sheet };
}
const again = async (id: string): Promise<Sheet> => (await loadSheet(w.id, id)) as Sheet;
const docs = (s: Sheet) => documentsOf(s, s.candidate.data, s.quotes);

describe('a new candidate', () => {
  it('three fields and a size give a whole first answer, its defaults marked as defaults', async () => {
    const { sheet } = await fresh();
    const [doc] = docs(sheet);
    const r = evaluate(laneDocument.parse(doc));
    expect(r.problems).toEqual([]);
    expect(r.figures.unitProfit).not.toBeNull();
    expect(doc?.provenance.orderQuantity?.source).toBe('default');
    expect(doc?.provenance.price).toBeUndefined();
  });
  it('an unknown duty stays blank instead of being guessed', async () => {
    const { sheet } = await fresh({ hsCode: null, origin: 'CN' });
    expect(evaluate(docs(sheet)[0] as never).blanks).toContain('duty');
  });
  it('twenty in one transaction; one bad one and none is there', async () => {
    const before = (await loadWeighed(w.id))?.candidates.length ?? -1;
    const ids = await createCandidates(
      w.id,
      Array.from({ length: 20 }, (_, i) => someCandidate(w, { name: `Row ${i}` })),
      w.personId,
    );
    expect(new Set(ids).size).toBe(20);
    await expect(
      createCandidates(w.id, [someCandidate(w), someCandidate(w, { name: ' ' })], w.personId),
    ).rejects.toThrow();
    expect((await loadWeighed(w.id))?.candidates.length).toBe(before + 20);
  });
});

describe('saving', () => {
  it('stores what the core reckons, and what a reload shows', async () => {
    const { id, sheet } = await fresh();
    const saved = await savePatches(w.id, id, [pricePatch(sheet, 29.9, 33.5)], w.personId);
    const now = await again(id);
    expect(now.lanes[0]?.data.price).toBe(33.5);
    expect(saved).toEqual({
      ok: true,
      results: { [now.lanes[0]?.id as string]: evaluate(docs(now)[0] as never) },
    });
    expect(now.lanes[0]?.result).toEqual(JSON.parse(JSON.stringify(evaluate(docs(now)[0] as never))));
  });
  it('takes back an edit with the note of where it came from', async () => {
    const { id, sheet } = await fresh();
    const note = { entity: 'lane' as const, id: sheet.lanes[0]?.id ?? '', path: ['provenance', 'price'] };
    const typed = { source: 'typed', date: '2026-11-24', note: '' };
    expect(
      await savePatches(w.id, id, [pricePatch(sheet, 29.9, 31), { ...note, from: null, to: typed }], 'x'),
    ).toMatchObject({ ok: true });
    expect(
      await savePatches(w.id, id, [{ ...note, from: typed, to: null }, pricePatch(sheet, 31, 29.9)], 'x'),
    ).toMatchObject({ ok: true });
    expect((await again(id)).lanes[0]?.data).toEqual(sheet.lanes[0]?.data);
  });
  it('refuses to write over what somebody else has changed meanwhile, and says what stands there', async () => {
    const { id, sheet } = await fresh();
    await savePatches(w.id, id, [pricePatch(sheet, 29.9, 31)], 'one');
    const quoteId = sheet.quotes[0]?.id as string;
    const both: Patch[] = [
      { entity: 'quote', id: quoteId, path: ['minimumOrder'], from: 0, to: 50 },
      pricePatch(sheet, 29.9, 28),
    ];
    expect(await savePatches(w.id, id, both, 'two')).toMatchObject({
      ok: false,
      conflicts: [{ current: 31, patch: { to: 28 } }],
    });
    const now = await again(id);
    expect([
      now.lanes[0]?.data.price,
      (now.quotes[0] as { data: { minimumOrder?: number } }).data.minimumOrder,
    ]).toEqual([31, 0]);
    // Different fields of one lane do not disturb each other.
    expect(
      await savePatches(
        w.id,
        id,
        [{ entity: 'lane', id: sheet.lanes[0]?.id ?? '', path: ['averageDiscount'], from: 0, to: 0.05 }],
        'two',
      ),
    ).toMatchObject({ ok: true });
  });
  it('two who write at the same moment: one is told', async () => {
    const { id, sheet } = await fresh();
    const saves = await Promise.all(
      [41, 42, 43, 44].map((p) => savePatches(w.id, id, [pricePatch(sheet, 29.9, p)], 'x')),
    );
    expect(saves.filter((s) => s.ok)).toHaveLength(1);
    expect(saves.filter((s) => 'conflicts' in s)).toHaveLength(3);
  });
  it.each([[-5], ['twelve'], [1e13], [Number.NaN]])(
    'a price of %s is refused with its field, and nothing is half written',
    async (bad) => {
      const { id, sheet } = await fresh();
      const saved = await savePatches(
        w.id,
        id,
        [
          { entity: 'lane', id: sheet.lanes[0]?.id ?? '', path: ['shippingCharged'], from: 0, to: 3 },
          pricePatch(sheet, 29.9, bad),
        ],
        'x',
      );
      expect(saved).toMatchObject({ ok: false, invalid: [{ patch: { path: ['price'] } }] });
      const now = await again(id);
      expect([now.lanes[0]?.data.price, now.lanes[0]?.data.shippingCharged]).toEqual([29.9, 0]);
    },
  );
  it('a candidate or lane that is gone or of another workspace is gone for the writer', async () => {
    const { id, sheet } = await fresh();
    const other = await makeWorkspace();
    expect(await savePatches(other.id, id, [pricePatch(sheet, 29.9, 1)], 'x')).toEqual({
      ok: false,
      gone: true,
    });
    await setFate(w.id, [id], { deleted: true });
    expect(await savePatches(w.id, id, [pricePatch(sheet, 29.9, 1)], 'x')).toEqual({ ok: false, gone: true });
  });
  it('a path to where no field may stand is refused', async () => {
    const { id, sheet } = await fresh();
    const evil = {
      entity: 'lane',
      id: sheet.lanes[0]?.id ?? '',
      path: ['__proto__', 'polluted'],
      from: null,
      to: true,
    } as Patch;
    await expect(savePatches(w.id, id, [evil], 'x')).rejects.toThrow(/No such field/);
    expect(({} as Record<string, unknown>).polluted).toBeUndefined();
    expect(await savePatches(w.id, id, [{ ...evil, path: ['unheardOf'] }], 'x')).toMatchObject({
      ok: false,
      invalid: [{}],
    });
  });
});

describe('lanes and fates', () => {
  it('adds a lane in another country, removes it and puts it back as it was', async () => {
    const { id } = await fresh();
    const card = w.cards.find((c) => c.key === 'Alderway/PL');
    const laneId = await addLane(
      w.id,
      id,
      { marketplaceCardId: card?.id ?? null, country: 'PL', price: null },
      w.personId,
    );
    const before = (await again(id)).lanes.find((l) => l.id === laneId);
    expect(before?.data).toMatchObject({ country: 'PL', currency: 'PLN', price: null });
    const gone = await removeLane(w.id, laneId);
    expect((await again(id)).lanes).toHaveLength(1);
    await putLanes(w.id, id, [gone as never], w.personId);
    expect((await again(id)).lanes.find((l) => l.id === laneId)?.data).toEqual(before?.data);
  });
  it('a lane document opens with the very rates it carries, so with the very figures', async () => {
    const { id, sheet } = await fresh();
    const doc = laneDocument.parse(JSON.parse(JSON.stringify(docs(sheet)[0])));
    const market = doc.rates.marketplace as NonNullable<typeof doc.rates.marketplace>;
    const changed = {
      ...doc,
      rates: { ...doc.rates, marketplace: { ...market, itemFee: 0.77, note: 'of last year' } },
    };
    const laneId = await openLaneDocument(w.id, id, changed, w.personId);
    const now = await again(id);
    const at = now.lanes.findIndex((l) => l.id === laneId);
    expect(evaluate(docs(now)[at] as never).figures).toEqual(evaluate(changed).figures);
    expect(now.cardHeads.filter((c) => c.kind === 'marketplace')).toHaveLength(
      w.cards.filter((c) => c.kind === 'marketplace').length,
    );
    // What the document says of another product is no lane of this one, but a candidate of its own.
    const heavier = { ...changed, name: 'Heavier', product: { ...changed.product, kg: 7 } };
    expect(await openLaneDocument(w.id, id, heavier, w.personId)).toBeNull();
    const other = await again(await openAsCandidate(w.id, heavier, w.personId));
    expect([other.candidate.data.name, evaluate(docs(other)[0] as never).figures]).toEqual([
      'Heavier',
      evaluate(heavier).figures,
    ]);
    // The same document again brings no second copy of its card.
    await openLaneDocument(w.id, id, changed, w.personId);
    const uses = (await again(id)).lanes.map((l) => l.data.marketplaceCardId);
    expect(new Set(uses).size).toBe(2);
  });
  it.each([
    ['not json', /not JSON/],
    ['{"format":"something/else"}', /^This file is not a lane document\. At format: /],
    [JSON.stringify({ format: 'bold-margin/lane', version: 2 }), /version/],
  ])('says what is wrong with a damaged or foreign document: %s', (text, message) => {
    let said = '';
    try {
      readLaneDocument(text);
    } catch (e) {
      said = inWords((e as Refusal).fault as Fault);
    }
    expect(said).toMatch(message);
  });
  it('duplicates with quotes and lanes of its own', async () => {
    const { id, sheet } = await fresh();
    const copy = await again((await duplicateCandidate(w.id, id, (n) => `${n} again`)) as string);
    expect(copy.candidate.data.name).toBe('Bird bath again');
    expect(copy.lanes[0]?.id).not.toBe(sheet.lanes[0]?.id);
    expect(copy.lanes[0]?.data.components[0]?.quoteId).toBe(copy.quotes[0]?.id);
    expect(evaluate(docs(copy)[0] as never)).toEqual(evaluate(docs(sheet)[0] as never));
  });
  it('archives, drops with a reason, deletes, and takes each back', async () => {
    const { id } = await fresh();
    await setFate(w.id, [id], { archived: true });
    await setFate(w.id, [id], { dropped: 'too heavy' });
    expect((await again(id)).candidate).toMatchObject({
      droppedReason: 'too heavy',
      archivedAt: expect.any(Date),
    });
    await setFate(w.id, [id], { deleted: true });
    expect(await loadSheet(w.id, id)).toBeNull();
    await setFate(w.id, [id], { deleted: false, archived: false, dropped: null });
    expect((await again(id)).candidate).toMatchObject({ droppedReason: null, archivedAt: null });
  });
});

/** What is asked of the business tables meanwhile. */
async function statementsOf<T>(work: () => Promise<T>): Promise<{ got: T; business: string[] }> {
  const query = vi.spyOn(pg.Client.prototype, 'query');
  try {
    const got = await work();
    const business = query.mock.calls
      .map(([q]) => (typeof q === 'string' ? q : (q as { text: string }).text))
      .filter((q) => /"bm"\.|\bbm\.\w/.test(q) && !/set_config/.test(q));
    return { got, business };
  } finally {
    query.mockRestore();
  }
}

describe('saving many lanes', () => {
  const priced = (sheet: Sheet, step: number): Patch[] =>
    sheet.lanes.map((l) => ({
      entity: 'lane',
      id: l.id,
      path: ['price'],
      from: l.data.price,
      to: (l.data.price ?? 0) + step,
    }));
  it('takes no more statements than saving one, and stores each with its result', async () => {
    const { id } = await fresh();
    const one = await statementsOf(async () => savePatches(w.id, id, priced(await again(id), 1), w.personId));
    for (let i = 0; i < 9; i++)
      await addLane(w.id, id, { marketplaceCardId: null, country: 'DE', price: 20 + i }, w.personId);
    const before = await again(id);
    const ten = await statementsOf(() => savePatches(w.id, id, priced(before, 2), w.personId));
    expect(ten.got).toMatchObject({ ok: true });
    expect(ten.business.length).toBeGreaterThan(2);
    expect(ten.business.length).toBeLessThanOrEqual(one.business.length);
    const after = await again(id);
    const documents = docs(after);
    for (const [i, l] of after.lanes.entries()) {
      expect(l.data.price).toBe((before.lanes[i]?.data.price as number) + 2);
      expect(l.result).toEqual(JSON.parse(JSON.stringify(evaluate(documents[i] as never))));
    }
  });
  it('keeps what a result was once for the edits of one person, however often they type', async () => {
    const { id, sheet } = await fresh();
    const laneId = sheet.lanes[0]?.id as string;
    const was = sheet.lanes[0]?.result?.figures.unitProfit;
    for (const step of [1, 1, 1]) await savePatches(w.id, id, priced(await again(id), step), w.personId);
    const history = await laneHistoryOf(w.id, id, laneId);
    expect(history.map((h) => [h.cause, h.result.figures.unitProfit])).toEqual([['edit', was]]);
    // Nothing that moves no profit is kept.
    const other = await fresh();
    const [l] = (await again(other.id)).lanes;
    await savePatches(
      w.id,
      other.id,
      [
        {
          entity: 'lane',
          id: l?.id as string,
          path: ['payoutDelayDays'],
          from: l?.data.payoutDelayDays,
          to: 9,
        },
      ],
      w.personId,
    );
    expect(await laneHistoryOf(w.id, other.id, l?.id as string)).toEqual([]);
  });
});

describe("the sheet's loader", () => {
  it('takes at most five business statements, however many lanes', async () => {
    const { id } = await fresh();
    const cards = w.cards.filter((c) => c.kind === 'marketplace');
    for (let i = 0; i < 12; i++)
      await addLane(
        w.id,
        id,
        { marketplaceCardId: cards[i % cards.length]?.id ?? null, country: 'DE', price: 20 },
        w.personId,
      );
    const { got: sheet, business } = await statementsOf(() => again(id));
    expect(sheet.lanes).toHaveLength(13);
    expect(business.length).toBeGreaterThan(2);
    expect(business.length).toBeLessThanOrEqual(5);
  });
});

describe('settings and the whole workspace', () => {
  it('saves a setting, refuses a wrong one', async () => {
    expect(
      (await saveSettings(w.id, (s) => ({ ...s, launch: { ...s.launch, cash: 5500 } }))).launch.cash,
    ).toBe(5500);
    await expect(saveSettings(w.id, (s) => ({ ...s, homeCurrency: 'euro' }))).rejects.toThrow();
  });
  it('exports everything it holds and nothing of anybody else', async () => {
    const { id } = await fresh({ name: 'To be exported' });
    const out = (await exportWorkspace(w.id, 'Test')) as {
      candidates: { id: string; data: { name: string } }[];
      rateCards: unknown[];
      lanes: unknown[];
    };
    expect(out.candidates.find((c) => c.id === id)?.data.name).toBe('To be exported');
    expect(out.rateCards.length).toBeGreaterThanOrEqual(w.cards.length);
    const rows = await inWorkspace(w.id, (tx) =>
      tx.select({ n: sql<number>`count(*)::int` }).from(lane).where(eq(lane.workspaceId, w.id)),
    );
    expect(out.lanes).toHaveLength(rows[0]?.n ?? -1);
    expect(JSON.stringify(out)).not.toContain('workspaceId');
    for (const l of out.lanes) expect(l).not.toHaveProperty('shown');
  });
  it('deletes with everything still there, and brings it back', async () => {
    const x = await makeWorkspace();
    await createCandidates(x.id, [someCandidate(x)], x.personId);
    await setWorkspaceDeleted(x.id, true);
    expect([await isWorkspaceDeleted(x.id), await loadWeighed(x.id)]).toEqual([true, null]);
    await setWorkspaceDeleted(x.id, false);
    expect(await inWorkspace(x.id, (tx) => tx.select({ id: candidate.id }).from(candidate))).toHaveLength(1);
  });
});
