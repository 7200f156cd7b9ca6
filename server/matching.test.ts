/** Rows without a proven barcode, matched, decided and read again: through the whole of a list. */
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { checkDigit } from '../core/goods/gtin.ts';
import { inWorkspace } from './db/client.ts';
import { goodsMark, task } from './db/schema.ts';
import { matchListed } from './jobs/matchList.ts';
import { Refusal } from './refusal.ts';
import { listTests } from './testing/lists.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import { desc, eq } from 'drizzle-orm';
import {
  decideMatch,
  loadMatches,
  matchedGoods,
  saveNoise,
  startMatching,
  takeCertain,
  undecideMatch,
} from './use/matching.ts';
import { cancelTask } from './use/tasks.ts';
import { settingsOf } from './use/workspaces.ts';

const made = listTests();
const code = (n: number): string => {
  const body = `952${String(n).padStart(9, '0')}`;
  return body + checkDigit(body);
};
const keyOf = (n: number): string => code(n).padStart(14, '0');
const LISTINGS: [string, string, string, string][] = [
  [code(1), 'Larkmoor', 'Larkmoor copper watering can 5 l', '29.90'],
  [code(2), 'Larkmoor', 'Larkmoor copper watering can 8 l', '39.90'],
  [code(3), 'Tallow', 'Tallow beeswax candle honey 6 pack', '14.50'],
  [code(4), 'Quoin', 'Quoin slate bird bath round', '54.00'],
];
const FIGURES = Papa.unparse([['EAN', 'Brand', 'Title', 'Selling price'], ...LISTINGS]);
const HEAD = ['Barcode', 'Brand', 'Title', 'Net price'];
const file = (rows: readonly (readonly string[])[]): string => Papa.unparse([HEAD, ...rows]);
const ROWS = [
  [code(900), 'Other', 'Wholly other goods', '3.00'],
  ['', 'Larkmoor', 'Copper watering can 5 l NEW', '9.80'],
  ['n/a', 'Tallow', 'Beeswax candle', '4.10'],
  ['', 'Nobody', 'Umbrella stand chrome', '7.00'],
  ['', 'Quoin', 'Slate bird bath round', 'call us'],
];
/** Work on the newest matching as the worker would. */
async function work(): Promise<void> {
  const [newest] = await inWorkspace(made.w.id, (tx) =>
    tx
      .select({ id: task.id })
      .from(task)
      .where(eq(task.kind, 'matchList'))
      .orderBy(desc(task.createdAt))
      .limit(1),
  );
  await matchListed({ workspaceId: made.w.id, taskId: newest?.id ?? '' });
}
async function matched(rows = ROWS): Promise<string> {
  const id = await made.tools.bring(file(rows), 'list.csv', { figures: FIGURES });
  await made.tools.read(id);
  await startMatching(made.w.id, id, made.w.personId);
  await work();
  return id;
}
const codeOf = (working: Promise<unknown>): Promise<string | undefined> =>
  working.then(
    () => undefined,
    (e: unknown) => (e instanceof Refusal ? (e.fault?.code ?? e.reason) : String(e)),
  );

describe('rows without a proven barcode', () => {
  it('are matched with their reason; what has other faults, or a barcode, stays out', async () => {
    const id = await matched();
    const page = await loadMatches(made.w.id, id, 'open');
    expect(page.work).toBeNull();
    const by = new Map(page.rows.map((r) => [r.title, r]));
    expect(by.get('Copper watering can 5 l NEW')).toMatchObject({
      line: 3,
      cost: '9.80',
      confidence: 'certain',
      listing: { key: keyOf(1), price: 29.9 },
    });
    expect(by.get('Beeswax candle')).toMatchObject({ barcode: 'n/a', listing: { key: keyOf(3) } });
    expect(by.get('Beeswax candle')?.confidence).not.toBe('certain');
    expect([...by.keys()]).not.toContain('Slate bird bath round');
    const none = await loadMatches(made.w.id, id, 'none');
    expect(none.rows.map((r) => r.title)).toEqual(['Umbrella stand chrome']);
    expect(page.counts).toMatchObject({ certain: 1, none: 1, decided: 0 });
  });
  it('decided once, they are rows of the list when it is read again, and of the next edition', async () => {
    const id = await matched();
    const page = await loadMatches(made.w.id, id, 'open');
    const candle = page.rows.find((r) => r.title === 'Beeswax candle');
    await decideMatch(
      made.w.id,
      { said: candle?.said ?? '', key: keyOf(3), packs: { sold: 6, bought: 1 } },
      made.w.personId,
    );
    expect(await takeCertain(made.w.id, id, made.w.personId)).toBe(1);
    expect(await takeCertain(made.w.id, id, made.w.personId)).toBe(0);
    const again = await made.tools.read(id);
    expect(again.shown?.data).toMatchObject({ valid: 3, invalid: 2 });
    const rows = await made.tools.rowsOf(again.shown?.id ?? '');
    expect(rows.map((r) => [r.line, r.code])).toEqual([
      [2, code(900)],
      [3, code(1)],
      [4, code(3)],
    ]);
    const [mark] = await inWorkspace(made.w.id, (tx) =>
      tx
        .select()
        .from(goodsMark)
        .where(eq(goodsMark.key, Number(code(3)))),
    );
    expect(mark).toMatchObject({ soldPack: 6, boughtPack: 1 });
    // Another list, the same goods at another price, in other letters.
    const next = await made.tools.bring(file([['', 'TALLOW', 'beeswax  Candle', '3.90']]), 'next.csv');
    expect((await made.tools.read(next)).shown?.data).toMatchObject({ valid: 1, invalid: 0 });
    const decided = await loadMatches(made.w.id, id, 'decided');
    expect(decided.decisions).toEqual(
      expect.arrayContaining([{ said: candle?.said, key: keyOf(3), by: 'hand' }]),
    );
    await undecideMatch(made.w.id, candle?.said ?? '');
    expect((await made.tools.read(next)).shown?.data).toMatchObject({ valid: 0, invalid: 1 });
  });
  it('refused, they stay out, and are not asked about again', async () => {
    const id = await matched([['', 'Quoin', 'Slate bird bath round', '20']]);
    const [row] = (await loadMatches(made.w.id, id, 'open')).rows;
    await decideMatch(made.w.id, { said: row?.said ?? '', key: null, packs: null }, made.w.personId);
    expect((await loadMatches(made.w.id, id, 'open')).rows).toEqual([]);
    expect((await made.tools.read(id)).shown?.data).toMatchObject({ valid: 0, invalid: 1 });
  });
  it('ten thousand rows of one title are one question', async () => {
    const rows = Array.from({ length: 10_000 }, () => ['', 'Quoin', 'Quoin bird bath', '20']);
    const id = await matched(rows);
    const page = await loadMatches(made.w.id, id, 'open');
    expect(page.rows).toHaveLength(1);
  });
  it('words that say nothing are edited; none brings back the first ones; they may empty a title', async () => {
    const before = (await settingsOf(made.w.id))?.noiseWords ?? [];
    await saveNoise(made.w.id, ['Quoin', 'slate', 'bird', 'bath', 'round', 'tallow', 'beeswax', 'candle']);
    const id = await matched([['', 'Quoin', 'Slate bird bath', '20']]);
    expect((await settingsOf(made.w.id))?.noiseWords).toContain('quoin');
    // A title that they would empty is compared as it stands.
    expect((await loadMatches(made.w.id, id, 'certain')).rows).toMatchObject([
      { listing: { key: keyOf(4) } },
    ]);
    await saveNoise(made.w.id, []);
    expect((await settingsOf(made.w.id))?.noiseWords).toEqual(before);
  });
  it('without market figures, or unread, nothing is begun; work that is stopped leaves nothing', async () => {
    const bare = await made.tools.bring(file(ROWS));
    expect(await codeOf(startMatching(made.w.id, bare, 'me'))).toBe('matchNoListings');
    const unread = await made.tools.bring(file(ROWS), 'list.csv', { figures: FIGURES });
    expect(await codeOf(startMatching(made.w.id, unread, 'me'))).toBe('matchNothing');
    await made.tools.read(unread);
    await startMatching(made.w.id, unread, 'me');
    const [newest] = await inWorkspace(made.w.id, (tx) =>
      tx
        .select({ id: task.id })
        .from(task)
        .where(eq(task.kind, 'matchList'))
        .orderBy(desc(task.createdAt))
        .limit(1),
    );
    await cancelTask(made.w.id, newest?.id ?? '');
    await work();
    expect((await loadMatches(made.w.id, unread, 'open')).rows).toEqual([]);
  });
  it('what one workspace decided is nothing to another', async () => {
    const other = await makeWorkspace();
    const id = await matched();
    expect((await matchedGoods(other.id)).size).toBe(0);
    expect(await codeOf(loadMatches(other.id, id, 'open'))).toBe('gone');
    expect(await codeOf(startMatching(other.id, id, 'me'))).toBe('gone');
  });
});
