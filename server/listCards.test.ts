import { describe, expect, it } from 'vitest';
import { cardFrom } from '../core/cards/schema.ts';
import type { CardData, CardKind } from '../core/cards/schema.ts';
import type { ListSettings } from '../core/lists/settings.ts';
import { listTests, tidy } from './testing/lists.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import { putInForce, withdraw } from './use/cards.ts';
import { cardsOfList, listsOnCard } from './use/listCards.ts';
import { loadList } from './use/lists.ts';
import { saveListSettings } from './use/listSetup.ts';

const made = listTests();
const settingsOf = async (id: string): Promise<ListSettings> =>
  (await loadList(made.w.id, id))?.list.settings as ListSettings;
const card = (key: string) => made.w.cards.find((c) => c.key === key) as (typeof made.w.cards)[number];

/** Puts a version of a card in force from a day; returns its id. */
async function version(kind: CardKind, data: CardData, day: string): Promise<string> {
  const put = await putInForce(made.w.id, kind, cardFrom(data, day), null, made.w.personId);
  if (!put.ok) throw new Error(JSON.stringify(put.errors));
  return put.id;
}

describe('the cards a list is weighed with', () => {
  it('are named with their days, and newer ones in force beside them', async () => {
    const { w, tools } = made;
    const id = await tools.bring(tidy(20));
    const own = await settingsOf(id);
    const before = await cardsOfList(w.id, own);
    expect(before.map((c) => [c.field, c.now])).toEqual([
      ['marketplaceCardId', null],
      ['taxCardId', null],
      ['exchangeCardId', null],
    ]);
    const market = before[0]?.id as string;
    const used = w.cards.find((c) => c.id === market) as (typeof w.cards)[number];
    expect(before[0]).toMatchObject({ name: used.name, day: used.inForceFrom });

    const newer = await version('marketplace', used.data, '2026-11-20');
    expect((await cardsOfList(w.id, own))[0]).toMatchObject({
      id: market,
      now: { id: newer, day: '2026-11-20' },
    });
    // One that is not in force yet is not offered, and one that was withdrawn is not any more.
    await version('marketplace', used.data, '2099-01-01');
    expect((await cardsOfList(w.id, own))[0]?.now?.id).toBe(newer);
    await withdraw(w.id, newer, false);
    expect((await cardsOfList(w.id, own))[0]?.now).toBeNull();
    await withdraw(w.id, newer, true);

    // Taken, the list is weighed with it, and nothing is offered.
    await saveListSettings(w.id, id, { ...own, marketplaceCardId: newer });
    const after = await cardsOfList(w.id, await settingsOf(id));
    expect(after[0]).toMatchObject({ id: newer, day: '2026-11-20', now: null });
  });

  it('count for what a change of a card touches, in their own workspace alone', async () => {
    const { w, tools } = made;
    const id = await tools.bring(tidy(12), 'Twelve.csv');
    const own = await settingsOf(id);
    const used = w.cards.find((c) => c.id === own.taxCardId) as (typeof w.cards)[number];
    const names = async (versionId: string | null): Promise<string[]> =>
      (await listsOnCard(w.id, 'tax', used.key, versionId)).map((l) => l.name);
    expect(await names(null)).toContain('Twelve');
    // A list that is weighed with the very version is not touched by it.
    expect(await names(used.id)).not.toContain('Twelve');
    const newer = await version('tax', used.data, '2026-11-21');
    expect(await names(newer)).toContain('Twelve');
    // Cards that no list is weighed with touch none.
    expect(await listsOnCard(w.id, 'freight', card('sea/CN/DE')?.key ?? 'x', null)).toEqual([]);
    const stranger = await makeWorkspace();
    expect(await listsOnCard(stranger.id, 'tax', used.key, null)).toEqual([]);
    expect(await cardsOfList(stranger.id, own)).toEqual([]);
  });
});
