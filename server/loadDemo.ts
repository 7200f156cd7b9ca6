/** Loads the demo workspace once; a second run changes nothing. */
import { createHmac } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { demoFollowed } from '../demo/evidence.ts';
import { DEMO, demoCandidates, demoSettings, demoSuppliers } from '../demo/scenario.ts';
import type { MarketplaceCard } from '../core/cards/rates.ts';
import type { ExchangeTable } from '../core/money/money.ts';
import { newLane } from '../core/workspace/newLane.ts';
import { candidateData, quoteSource, storedLane } from '../core/workspace/records.ts';
import type { CandidateData, QuoteSource, StoredLane } from '../core/workspace/records.ts';
import type { Settings } from '../core/workspace/settings.ts';
import type { Tx } from './db/client.ts';
import type { CardRow } from './use/workspaces.ts';
import { settings as settingsSchema } from '../core/workspace/settings.ts';
import { auth } from './auth/auth.ts';
import { authDb, closeDatabase, inWorkspace } from './db/client.ts';
import { member, organization, user } from './db/authSchema.ts';
import { candidate, feed, quote, supplier, watched } from './db/schema.ts';
import { watch } from '../core/evidence/observed.ts';
import { countWatched } from './jobs/watchMarkets.ts';
import { storeTask } from './use/tasks.ts';
import { env, today } from './env.ts';
import { closeLoader } from './db/loader.ts';
import { closeQueue } from './jobs/boss.ts';
import { loadDemoLists } from './loadDemoLists.ts';
import { loadDemoOrders } from './loadDemoOrders.ts';
import { loadDemoSelling } from './loadDemoSelling.ts';
import { insertLanes } from './use/storeLanes.ts';
import type { LaneToStore } from './use/storeLanes.ts';
import { cardsInForce, furnishWorkspace, newId } from './use/workspaces.ts';

/** The demo account's password, the same at every start of one installation and known to nobody. */
export function demoPassword(): string {
  return createHmac('sha256', env().BM_SECRET).update('demo account').digest('hex');
}

/** The demo's account, made where there is none. */
async function demoUser(): Promise<string> {
  const [known] = await authDb().select({ id: user.id }).from(user).where(eq(user.email, DEMO.email));
  if (known !== undefined) return known.id;
  const body = { name: DEMO.person, email: DEMO.email, password: demoPassword() };
  return (await auth().api.signUpEmail({ body })).user.id;
}

/** What every candidate of the demo is made from. */
type Furnished = {
  readonly tx: Tx;
  readonly workspaceId: string;
  readonly settings: Settings;
  readonly cards: readonly CardRow[];
  /** Ids of the suppliers by their keys in the scenario. */
  readonly suppliers: ReadonlyMap<string, string>;
};
type DemoCandidate = (typeof demoCandidates)[number];

async function addSuppliers(tx: Tx, workspaceId: string): Promise<ReadonlyMap<string, string>> {
  const ids = new Map<string, string>();
  for (const { key, ...s } of demoSuppliers) {
    const id = newId();
    ids.set(key, id);
    await tx.insert(supplier).values({ workspaceId, id, mail: `orders@${key}.supplier.example`, ...s });
  }
  return ids;
}

/** A quote of the scenario under its supplier's name. */
async function addQuote(
  { tx, workspaceId, suppliers }: Furnished,
  candidateId: string,
  of: { supplier: string; quote: object },
  createdAt = new Date(),
): Promise<{ id: string; data: QuoteSource }> {
  const id = newId();
  const name = demoSuppliers.find((s) => s.key === of.supplier)?.name ?? '';
  const data = quoteSource.parse({ ...of.quote, supplier: name });
  const supplierId = suppliers.get(of.supplier) ?? null;
  await tx.insert(quote).values({ workspaceId, id, candidateId, supplierId, createdAt, data });
  return { id, data };
}

/** A lane as the workspace's defaults make it, with what the scenario sets by hand. */
function demoLane(
  { cards, settings }: Furnished,
  { name, way, product }: CandidateData,
  quoteId: string,
  l: DemoCandidate['lanes'][number],
): StoredLane {
  const card = cards.find((c) => c.kind === 'marketplace' && c.key === l.market);
  if (card === undefined) throw new Error(`The demo names a market that no starter card has: ${l.market}`);
  const market = card.data as MarketplaceCard;
  const exchange = cards.find((c) => c.kind === 'exchange');
  const stored = newLane({
    way,
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
    origin: product.origin,
    price: l.price,
    quoteId,
    today: today(),
  });
  const set = l.set ?? {};
  const provenance = Object.fromEntries(Object.entries(stored.provenance).filter(([path]) => !(path in set)));
  return storedLane.parse({ ...stored, ...set, provenance: { ...provenance, ...takenOver(name) } });
}

/** Where a lane's price was taken from the market, the lane says of when. */
function takenOver(name: string): StoredLane['provenance'] {
  const days = demoFollowed[name]?.priceTaken;
  if (days === undefined) return {};
  const date = new Date(Date.parse(`${today()}T00:00:00Z`) - days * 86_400_000).toISOString().slice(0, 10);
  return { price: { source: 'evidence', date, note: 'now' } };
}

/** What the company follows in each market of a candidate; the evidence comes from the feed. */
async function followMarkets(
  { tx, workspaceId }: Furnished,
  candidateId: string,
  given: DemoCandidate,
): Promise<void> {
  const followed = demoFollowed[given.name];
  if (followed === undefined) return;
  for (const { market } of given.lanes) {
    const search = followed.search[market.slice(-2)] ?? '';
    const term = search.toLowerCase();
    const data = watch.parse({
      listing: followed.listing,
      variation: followed.variation ?? '',
      search,
      terms: { [term]: { ticked: true, confirmed: true } },
      care: (followed.care ?? []).map((c) => ({ ...c, date: today() })),
    });
    await tx.insert(watched).values({ workspaceId, candidateId, market, data }).onConflictDoNothing();
  }
}

async function addCandidate(to: Furnished, given: DemoCandidate, at: Date): Promise<void> {
  const { tx, workspaceId, settings, cards } = to;
  const { supplier: supplierKey, quote: source, others, lanes, dropped, ...rest } = given;
  const id = newId();
  const data = candidateData.parse(rest);
  const gone = { droppedAt: dropped ? at : null, droppedReason: dropped ?? null };
  await tx.insert(candidate).values({ workspaceId, id, data, createdAt: at, ...gone });
  const first = await addQuote(to, id, { supplier: supplierKey, quote: source });
  for (const o of others ?? []) await addQuote(to, id, o, new Date(Date.now() + 1000));
  const rows = lanes.map((l, position): LaneToStore => {
    return { id: newId(), position, data: demoLane(to, data, first.id, l), createdAt: at };
  });
  const byId = Object.fromEntries(cards.map((c) => [c.id, c.data]));
  await followMarkets(to, id, given);
  await insertLanes(tx, workspaceId, settings, { id, data }, rows, { [first.id]: first.data }, byId, null);
}

export async function loadDemo(): Promise<boolean> {
  const [there] = await authDb()
    .select({ id: organization.id })
    .from(organization)
    .where(eq(organization.slug, DEMO.slug));
  if (there !== undefined) return false;
  const userId = await demoUser();
  const workspaceId = newId();
  await authDb().transaction(async (tx) => {
    await tx.insert(organization).values({ id: workspaceId, name: DEMO.name, slug: DEMO.slug });
    await tx.insert(member).values({ id: newId(), organizationId: workspaceId, userId, role: 'owner' });
  });
  await furnishWorkspace(workspaceId, demoSettings);
  const settings = settingsSchema.parse(demoSettings);
  await inWorkspace(workspaceId, async (tx) => {
    const suppliers = await addSuppliers(tx, workspaceId);
    const cards = await cardsInForce(tx, workspaceId, '9999-12-31');
    const to: Furnished = { tx, workspaceId, settings, cards, suppliers };
    // A minute apart, so that the newest stands first.
    for (const [i, given] of demoCandidates.entries())
      await addCandidate(to, given, new Date(Date.now() - (demoCandidates.length - i) * 60_000));
    // The stand-in's feed; the worker asks it as soon as both are there.
    await tx.insert(feed).values({ workspaceId, address: '' });
    await storeTask(tx, workspaceId, 'watchMarkets', {}, await countWatched(tx, workspaceId, {}), userId);
  });
  await loadDemoLists(workspaceId, userId);
  await loadDemoOrders(workspaceId, userId);
  await loadDemoSelling(workspaceId, userId);
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
