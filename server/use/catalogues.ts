/** Shops' catalogues: which there are, how one was read last, a reading begun, and done again as the next edition. */
import { and, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type { MarketplaceCard, TaxCard } from '../../core/cards/rates.ts';
import { usualCards } from '../../core/cards/schema.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import type { ListSettings } from '../../core/lists/settings.ts';
import { marketChoice } from '../../core/lists/setup.ts';
import type { MarketChoice } from '../../core/lists/setup.ts';
import { CATALOGUE_MAP, MARKET_MAP, shopVatBack } from '../../core/shops/catalogue.ts';
import { sameReading } from '../../core/shops/schema.ts';
import type { CatalogueSetup, Shop } from '../../core/shops/schema.ts';
import { marketsOffered } from '../../core/workspace/offered.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { supplierList } from '../db/schema.ts';
import { today } from '../env.ts';
import { askFeed } from '../outside/feed.ts';
import { gone, refused, Refusal } from '../refusal.ts';
import { feedOf } from './feeds.ts';
import { listIn, startList } from './lists.ts';
import type { ListRecord } from './lists.ts';
import { startingSettings } from './listSetup.ts';
import { needOwn } from './own.ts';
import { needRoomForList } from './quotas.ts';
import { supplierNamed } from './suppliers.ts';
import { cardsInForce, newId, settingsIn } from './workspaces.ts';

export type ShopChoice = Shop & {
  /** As its goods were chosen and weighed last; else as one begins. */
  last: CatalogueSetup | null;
  begins: ListSettings;
};
export type ShopsPage = {
  shops: ShopChoice[];
  markets: MarketChoice[];
  /** Markets that the feed knows. */
  known: string[];
  settings: Settings;
  wrong: Fault | null;
};

/** The shops and markets that the workspace's feed knows, or why it does not say. */
async function feedSays(workspaceId: string): Promise<{ shops: Shop[]; known: string[] } | Fault> {
  const feed = await feedOf(workspaceId);
  if (feed === null) return fault('feedNone');
  const [shops, markets] = await Promise.all([askFeed(feed, 'shops', {}), askFeed(feed, 'markets', {})]);
  if (!shops.ok) return shops.fault;
  if (!markets.ok) return markets.fault;
  return { shops: shops.value.shops, known: markets.value.markets.map((m) => m.market) };
}

/** How goods of a shop are weighed at first: the list's usual terms, in the shop's money and VAT. */
function inShop(begins: ListSettings, shop: Shop, taxes: readonly TaxCard[]): ListSettings {
  const rate = taxes.find((t) => t.country === shop.country)?.vatRates.standard ?? null;
  const { assumptions } = begins;
  const purchase = {
    ...assumptions.purchase,
    currency: shop.currency,
    ...(rate === null
      ? {}
      : { vat: shop.tax === 'included' ? ('included' as const) : ('added' as const), vatRate: rate }),
  };
  return { ...begins, assumptions: { ...assumptions, purchase } };
}

/** The shops of the workspace's feed, each with how it was read last. */
export async function loadShops(workspaceId: string): Promise<ShopsPage> {
  const said = await feedSays(workspaceId);
  const { shops, known } = 'shops' in said ? said : { shops: [], known: [] };
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    if (settings === null) throw gone();
    const cards = await cardsInForce(tx, workspaceId, today());
    const begins = await startingSettings(tx, workspaceId, settings);
    const taxes = cards.filter((c) => c.kind === 'tax').map((c) => c.data as TaxCard);
    const read = await tx
      .select({ catalogue: supplierList.catalogue, settings: supplierList.settings })
      .from(supplierList)
      .where(and(eq(supplierList.workspaceId, workspaceId), isNotNull(supplierList.catalogue)))
      .orderBy(desc(supplierList.createdAt))
      .limit(500);
    return {
      settings,
      known,
      wrong: 'shops' in said ? null : said,
      shops: shops.map((s) => {
        const last = read.find((r) => r.catalogue?.shop === s.key);
        return {
          ...s,
          begins: inShop(begins, s, taxes),
          last:
            last?.catalogue == null || last.settings === null
              ? null
              : { choice: last.catalogue, settings: last.settings },
        };
      }),
      markets: marketsOffered(cards, settings).map((c) => marketChoice(c, c.data as MarketplaceCard)),
    };
  });
}

/** Begins to read a shop's catalogue as a list. Returns its id. @throws Refusal where the shop is no longer there */
export async function readShop(workspaceId: string, setup: CatalogueSetup, by: string): Promise<string> {
  await needRoomForList(workspaceId);
  const said = await feedSays(workspaceId);
  if (!('shops' in said)) throw new Refusal('invalid', said);
  const shop = said.shops.find((s) => s.key === setup.choice.shop);
  if (shop === undefined) throw refused('shopUnknown');
  // Of a market that the feed does not know, no listings are asked for.
  const market = said.known.find((m) => m === setup.choice.market) ?? null;
  const known = { ...setup, choice: { ...setup.choice, market } };
  const id = await inWorkspace(workspaceId, async (tx) => {
    const { marketplaceCardId } = setup.settings;
    await needOwn(tx, workspaceId, { card: [marketplaceCardId] });
    return storeCatalogue(tx, workspaceId, known, shop, by);
  });
  await startList(workspaceId, id, 'readList', by);
  return id;
}

/** Reads the shop of a list again, as the list's next edition. Returns its id. */
export async function readShopAgain(workspaceId: string, listId: string, by: string): Promise<string> {
  const list = await inWorkspace(workspaceId, (tx) => listIn(tx, workspaceId, listId));
  if (list?.catalogue == null || list.settings === null) throw gone();
  return readShop(workspaceId, { choice: list.catalogue, settings: list.settings }, by);
}

async function storeCatalogue(
  tx: Tx,
  workspaceId: string,
  { choice, settings }: CatalogueSetup,
  shop: Shop,
  by: string,
): Promise<string> {
  const id = newId();
  const cards = await cardsInForce(tx, workspaceId, today());
  const usual = usualCards(cards, { country: settings.country, homeCurrency: choice.currency });
  const own = await settingsIn(tx, workspaceId);
  const purchase = {
    ...settings.assumptions.purchase,
    recoverable: shopVatBack(shop.country, settings.country, own?.standings ?? {}),
  };
  const before = await editionBefore(tx, workspaceId, choice);
  const file = { name: shop.name.slice(0, 200), kind: 'csv' as const, bytes: 0, sha256: '' };
  await tx
    .insert(supplierList)
    .values({
      workspaceId,
      id,
      name: `${shop.name} ${today()}`.slice(0, 200),
      supplierId: await supplierNamed(tx, workspaceId, {
        name: shop.name,
        country: shop.country,
        currency: shop.currency,
        mail: shop.mail ?? '',
      }),
      file,
      map: CATALOGUE_MAP,
      settings: {
        ...settings,
        taxCardId: usual.tax?.id ?? null,
        exchangeCardId: usual.exchange?.id ?? null,
        assumptions: { ...settings.assumptions, purchase },
      },
      look: before?.look ?? null,
      reference:
        choice.market === null
          ? null
          : {
              file: { ...file, name: choice.market.slice(0, 200) },
              sheet: null,
              map: MARKET_MAP,
              choice: 'sellsFastest',
            },
      catalogue: choice,
      previousId: before?.id ?? null,
      createdBy: by,
    });
  return id;
}

/** The newest reading of the same goods that was read to its end. */
async function editionBefore(
  tx: Tx,
  workspaceId: string,
  choice: CatalogueSetup['choice'],
): Promise<Pick<ListRecord, 'id' | 'look'> | null> {
  const read = await tx
    .select({ id: supplierList.id, look: supplierList.look, catalogue: supplierList.catalogue })
    .from(supplierList)
    .where(
      and(
        eq(supplierList.workspaceId, workspaceId),
        isNull(supplierList.deletedAt),
        isNotNull(supplierList.runId),
        sql`${supplierList.catalogue} ->> 'shop' = ${choice.shop}`,
      ),
    )
    .orderBy(desc(supplierList.createdAt))
    .limit(50);
  return read.find((r) => r.catalogue !== null && sameReading(r.catalogue, choice)) ?? null;
}
