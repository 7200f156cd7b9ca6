/** Loads the demo workspace once; a second run changes nothing. */
import { createHmac } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { DEMO, demoCandidates, demoSettings, demoSuppliers } from '../demo/scenario.ts';
import type { MarketplaceCard } from '../core/cards/rates.ts';
import type { ExchangeTable } from '../core/money/money.ts';
import { newLane } from '../core/workspace/newLane.ts';
import { candidateData, quoteSource, storedLane } from '../core/workspace/records.ts';
import { settings as settingsSchema } from '../core/workspace/settings.ts';
import { auth } from './auth/auth.ts';
import { authDb, closeDatabase, inWorkspace } from './db/client.ts';
import { member, organization, user } from './db/authSchema.ts';
import { candidate, quote, supplier } from './db/schema.ts';
import { env, today } from './env.ts';
import { closeLoader } from './db/loader.ts';
import { closeQueue } from './jobs/boss.ts';
import { loadDemoLists } from './loadDemoLists.ts';
import { insertLanes } from './use/storeLanes.ts';
import type { LaneToStore } from './use/storeLanes.ts';
import { cardsInForce, furnishWorkspace, newId } from './use/workspaces.ts';

/** The demo account's password, the same at every start of one installation and known to nobody. */
export function demoPassword(): string {
  return createHmac('sha256', env().BM_SECRET).update('demo account').digest('hex');
}

export async function loadDemo(): Promise<boolean> {
  const [there] = await authDb()
    .select({ id: organization.id })
    .from(organization)
    .where(eq(organization.slug, DEMO.slug));
  if (there !== undefined) return false;
  const [known] = await authDb().select({ id: user.id }).from(user).where(eq(user.email, DEMO.email));
  const userId =
    known?.id ??
    (
      await auth().api.signUpEmail({
        body: { name: DEMO.person, email: DEMO.email, password: demoPassword() },
      })
    ).user.id;
  const workspaceId = newId();
  await authDb().transaction(async (tx) => {
    await tx.insert(organization).values({ id: workspaceId, name: DEMO.name, slug: DEMO.slug });
    await tx.insert(member).values({ id: newId(), organizationId: workspaceId, userId, role: 'owner' });
  });
  await furnishWorkspace(workspaceId, demoSettings);
  const settings = settingsSchema.parse(demoSettings);

  await inWorkspace(workspaceId, async (tx) => {
    const supplierIds = new Map<string, string>();
    for (const { key, ...s } of demoSuppliers) {
      const id = newId();
      supplierIds.set(key, id);
      await tx.insert(supplier).values({ workspaceId, id, ...s });
    }
    const cards = await cardsInForce(tx, workspaceId, '9999-12-31');
    const exchange = cards.find((c) => c.kind === 'exchange');
    const byId = Object.fromEntries(cards.map((c) => [c.id, c.data]));
    let minute = 0;
    for (const { supplier: supplierKey, quote: source, others, lanes, dropped, ...data } of demoCandidates) {
      const id = newId();
      const parsed = candidateData.parse(data);
      const at = new Date(Date.now() - (demoCandidates.length - minute++) * 60_000);
      await tx
        .insert(candidate)
        .values({
          workspaceId,
          id,
          data: parsed,
          createdAt: at,
          droppedAt: dropped ? at : null,
          droppedReason: dropped ?? null,
        });
      const quoteId = newId();
      const quoteData = quoteSource.parse({
        ...source,
        supplier: demoSuppliers.find((s) => s.key === supplierKey)?.name ?? '',
      });
      await tx
        .insert(quote)
        .values({
          workspaceId,
          id: quoteId,
          candidateId: id,
          supplierId: supplierIds.get(supplierKey) ?? null,
          data: quoteData,
        });
      for (const o of others ?? [])
        await tx
          .insert(quote)
          .values({
            workspaceId,
            id: newId(),
            candidateId: id,
            supplierId: supplierIds.get(o.supplier) ?? null,
            createdAt: new Date(Date.now() + 1000),
            data: quoteSource.parse({
              ...o.quote,
              supplier: demoSuppliers.find((s) => s.key === o.supplier)?.name ?? '',
            }),
          });
      const rows: LaneToStore[] = [];
      for (const [position, l] of lanes.entries()) {
        const card = cards.find((c) => c.kind === 'marketplace' && c.key === l.market);
        if (card === undefined)
          throw new Error(`The demo names a market that no starter card has: ${l.market}`);
        const market = card.data as MarketplaceCard;
        const stored = newLane({
          way: parsed.way,
          settings,
          country: market.country,
          currency: market.currency,
          marketplace: market,
          exchange: (exchange?.data as ExchangeTable | undefined) ?? null,
          cards: {
            marketplace: card.id,
            tax: cards.find((c) => c.kind === 'tax' && c.key === market.country)?.id,
            exchange: exchange?.id,
          },
          origin: parsed.product.origin,
          price: l.price,
          quoteId,
          today: today(),
        });
        const set = l.set ?? {};
        const provenance = Object.fromEntries(
          Object.entries(stored.provenance).filter(([path]) => !(path in set)),
        );
        const whole = storedLane.parse({ ...stored, ...set, provenance });
        rows.push({ id: newId(), position, data: whole, createdAt: at });
      }
      await insertLanes(
        tx,
        workspaceId,
        settings,
        { id, data: parsed },
        rows,
        { [quoteId]: quoteData },
        byId,
        null,
      );
    }
  });
  await loadDemoLists(workspaceId, userId);
  return true;
}

if (process.argv[1]?.endsWith('loadDemo.ts')) {
  try {
    const loaded = await loadDemo();
    if (loaded) process.stderr.write('Demo data loaded.\n');
  } finally {
    await Promise.all([closeDatabase(), closeLoader(), closeQueue()]);
  }
}
