/** Columns and terms of a list: guessed, shown, saved. */
import { and, desc, eq, isNotNull, isNull, lt } from 'drizzle-orm';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import { guessMap, headerAmong, mapIssues } from '../../core/lists/map.ts';
import type { ListMap } from '../../core/lists/map.ts';
import { listSettings } from '../../core/lists/settings.ts';
import type { ListSettings } from '../../core/lists/settings.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { supplier, supplierList } from '../db/schema.ts';
import { today } from '../env.ts';
import { needOwn } from './own.ts';
import { supplierNamed } from './suppliers.ts';
import { cardsInForce } from './workspaces.ts';
import { forgetListings, headsOf } from './receiveLists.ts';
import { listIn, loadList } from './lists.ts';
import { marketChoice } from '../../core/lists/setup.ts';
import type { ListSetup, SetupChoices } from '../../core/lists/setup.ts';
import type { ListPage } from './lists.ts';
import { gone } from '../refusal.ts';
import { usualCards } from '../../core/cards/schema.ts';
import { firstMarket, isOffered } from '../../core/workspace/offered.ts';

// ---- mapping and settings
// ------------------------------------------------------------------------------------------

/** What a new list starts with: the marketplace at home, the workspace's defaults and its hurdles for wholesale. */
export async function startingSettings(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
): Promise<ListSettings> {
  const cards = await cardsInForce(tx, workspaceId, today());
  const market = firstMarket(
    cards.filter((c) => isOffered(c, settings)),
    settings.homeCountry,
  );
  const card = (market?.data as MarketplaceCard | undefined) ?? null;
  const country = card?.country ?? settings.homeCountry;
  const usual = usualCards(cards, { country, homeCurrency: settings.homeCurrency });
  const d = settings.defaults;
  return listSettings.parse({
    country,
    marketplaceCardId: market?.id ?? null,
    taxCardId: usual.tax?.id ?? null,
    exchangeCardId: usual.exchange?.id ?? null,
    taxClass: 'standard',
    assumptions: {
      method: card !== null && card.warehouse === null ? 'ownDispatch' : 'warehouse',
      purchase: { currency: settings.homeCurrency },
      orderQuantity: 10,
      inbound: { perUnit: d.inboundPerUnit ?? 0, perKg: 0 },
      prep: d.prep,
      returns:
        d.returnRate === null
          ? null
          : d.returnRate === 0
            ? 'none'
            : {
                rate: d.returnRate,
                resaleShare: d.resaleShare,
                handling: { amount: d.returnHandling, currency: settings.homeCurrency },
              },
      advertPerSale: 0,
      unitsShare: 1,
      conversionSpread: d.conversionSpread,
      hurdles: settings.hurdles.wholesale ?? [],
    },
  });
}

export type SetupPage = ListPage & SetupChoices;

/** All that choosing columns and assumptions takes; guesses where nothing has been chosen yet. */
export async function loadSetup(
  workspaceId: string,
  id: string,
  sheet: string | null,
): Promise<SetupPage | null> {
  const page = await loadList(workspaceId, id);
  if (page === null) return null;
  const sheets = await headsOf(workspaceId, id);
  const referenceSheets =
    page.list.reference === null ? null : await headsOf(workspaceId, id, 'reference').catch(() => null);
  return inWorkspace(workspaceId, async (tx) => {
    const suppliers = await tx
      .select({ id: supplier.id, name: supplier.name, currency: supplier.currency, map: supplier.listMap })
      .from(supplier)
      .where(eq(supplier.workspaceId, workspaceId))
      .orderBy(supplier.name);
    const cards = (await cardsInForce(tx, workspaceId, today())).filter((c) => c.kind === 'marketplace');
    const earlier = await tx
      .select({ id: supplierList.id, name: supplierList.name })
      .from(supplierList)
      .where(
        and(
          eq(supplierList.workspaceId, workspaceId),
          isNull(supplierList.deletedAt),
          isNotNull(supplierList.runId),
          lt(supplierList.createdAt, page.list.createdAt),
        ),
      )
      .orderBy(desc(supplierList.createdAt))
      .limit(100);
    const chosen = sheet ?? page.list.sheet;
    const rows = (sheets.find((s) => s.name === (chosen ?? '')) ?? sheets[0])?.rows ?? [];
    const header = (rows[headerAmong(rows)] ?? []).map((c) => c.trim());
    const remembered = suppliers.find((s) => s.id === page.list.supplierId)?.map ?? null;
    const fits = (m: ListMap | null): m is ListMap => m !== null && mapIssues(m, header).length === 0;
    const map = fits(page.list.map)
      ? page.list.map
      : fits(remembered)
        ? remembered
        : guessMap(header, rows.slice(headerAmong(rows) + 1));
    return {
      ...page,
      sheets,
      referenceSheets,
      map,
      own: page.list.settings ?? (await startingSettings(tx, workspaceId, page.settings)),
      suppliers,
      earlier,
      markets: cards.map((c) => marketChoice(c, c.data as MarketplaceCard)),
    };
  });
}

/** Stores how a list is read and weighed; the supplier keeps the mapping for the next one. */
export async function saveSetup(workspaceId: string, id: string, setup: ListSetup): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const list = await listIn(tx, workspaceId, id);
    // What is read from a shop has its columns from there.
    if (list === null || list.catalogue !== null) throw gone();
    await needOwn(tx, workspaceId, { card: [setup.settings.marketplaceCardId], list: [setup.previousId] });
    let supplierId: string | null = null;
    if (setup.supplier !== '') {
      supplierId = await supplierNamed(tx, workspaceId, {
        name: setup.supplier,
        currency: setup.settings.assumptions.purchase.currency,
      });
      await tx
        .update(supplier)
        .set({ listMap: setup.map })
        .where(and(eq(supplier.workspaceId, workspaceId), eq(supplier.id, supplierId)));
    }
    const cards = await cardsInForce(tx, workspaceId, today());
    const { country, assumptions } = setup.settings;
    const usual = usualCards(cards, { country, homeCurrency: assumptions.purchase.currency });
    const settings = {
      ...setup.settings,
      taxCardId: usual.tax?.id ?? null,
      exchangeCardId: usual.exchange?.id ?? null,
    };
    const reference =
      list.reference === null || setup.reference === null ? null : { ...list.reference, ...setup.reference };
    // What was chosen by hand is a row of the sheet before.
    if (reference !== null && reference.sheet !== list.reference?.sheet)
      await forgetListings(tx, workspaceId, id);
    await tx
      .update(supplierList)
      .set({
        name: setup.name,
        supplierId,
        sheet: setup.sheet,
        map: setup.map,
        settings,
        previousId: setup.previousId === id ? null : setup.previousId,
        reference,
        updatedAt: new Date(),
      })
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id)));
  });
}

/** Assumptions changed beside the grid. */
export async function saveListSettings(
  workspaceId: string,
  id: string,
  settings: ListSettings,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    await needOwn(tx, workspaceId, {
      card: [settings.marketplaceCardId, settings.taxCardId, settings.exchangeCardId],
    });
    await tx
      .update(supplierList)
      .set({ settings, updatedAt: new Date() })
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id)));
  });
}
