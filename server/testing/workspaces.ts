/** Workspaces and people for tests on the real database. */
import type { Settings } from '../../core/workspace/settings.ts';
import { member, organization, user } from '../db/authSchema.ts';
import { authDb, inWorkspace } from '../db/client.ts';
import { today } from '../env.ts';
import type { NewCandidate } from '../../core/workspace/newCandidate.ts';
import { cardsInForce, furnishWorkspace, newId } from '../use/workspaces.ts';
import type { CardRow } from '../use/workspaces.ts';
import type { Patch } from '../../core/workspace/patch.ts';
import type { Sheet } from '../use/candidates.ts';

export type TestWorkspace = { id: string; slug: string; personId: string; cards: CardRow[] };

/** A new workspace with one owner and the starter cards. */
export async function makeWorkspace(over: Partial<Settings> = {}): Promise<TestWorkspace> {
  const [id, personId] = [newId(), newId()];
  const slug = `test-${id.slice(0, 8)}`;
  await authDb()
    .insert(user)
    .values({
      id: personId,
      name: 'Test',
      email: `${personId}@test.example`,
      emailVerified: false,
      createdAt: new Date(),
      updatedAt: new Date(),
    });
  await authDb().insert(organization).values({ id, name: 'Test', slug });
  await authDb().insert(member).values({ id: newId(), organizationId: id, userId: personId, role: 'owner' });
  await furnishWorkspace(id, { standings: { DE: { kind: 'registered' } }, ...over });
  const cards = await inWorkspace(id, (tx) => cardsInForce(tx, id, today()));
  return { id, slug, personId, cards };
}

/** A candidate as the form sends it: sold on the first warehouse marketplace of Germany. */
export function someCandidate(w: TestWorkspace, over: Partial<NewCandidate> = {}): NewCandidate {
  const card = w.cards.find((c) => c.key === 'Alderway/DE');
  return {
    name: 'Bird bath',
    way: 'ownBrand',
    price: 29.9,
    cost: 6.4,
    costCurrency: 'EUR',
    sides: [30, 20, 10],
    kg: 0.9,
    marketplaceCardId: card?.id ?? null,
    country: 'DE',
    origin: null,
    category: null,
    hsCode: null,
    gtin: null,
    ...over,
  };
}

/** Changes the price of a sheet's first lane. */
export const pricePatch = (s: Sheet, from: number | null, to: unknown): Patch => ({
  entity: 'lane',
  id: s.lanes[0]?.id ?? '',
  path: ['price'],
  from,
  to,
});
