/** Measures of a shop's catalogue that becomes a list, and of matching as the job that people wait for. */
import { Readable } from 'node:stream';
import { setTimeout as wait } from 'node:timers/promises';
import Papa from 'papaparse';
import { catalogueFilters } from '../core/shops/schema.ts';
import type { Shop } from '../core/shops/schema.ts';
import { Draw } from '../core/testing/draw.ts';
import { someListings, somePairs } from '../core/testing/matchPairs.ts';
import { askFeed } from '../server/outside/feed.ts';
import type { Fed, Feed } from '../server/outside/feed.ts';
import { loadShops, readShop } from '../server/use/catalogues.ts';
import { feedOf, keepFeed } from '../server/use/feeds.ts';
import { loadList, startList } from '../server/use/lists.ts';
import { loadSetup, saveSetup } from '../server/use/listSetup.ts';
import { loadMatches, startMatching } from '../server/use/matching.ts';
import { receiveList, receiveReference } from '../server/use/receiveLists.ts';
import type { Measure } from './core.ts';
import { demoWorkspace, timed } from './tools.ts';

const SHOP = 'haldern';
const MARKET = 'Alderway/DE';
const ROWS = 100_000;
const LISTINGS = 40_000;

/** Waits for a list until its newest work has ended; returns seconds until it had a row and until it was whole. */
async function readWhole(workspaceId: string, id: string): Promise<{ first: number; whole: number }> {
  const started = performance.now();
  const seconds = (): number => (performance.now() - started) / 1000;
  for (let first = Number.NaN; ; await wait(50)) {
    const page = await loadList(workspaceId, id);
    if (Number.isNaN(first) && (page?.shown?.data.valid ?? 0) > 0) first = seconds();
    const work = page?.work[0];
    if (work?.state === 'failed') throw new Error(work.error?.code ?? 'failed');
    if (work?.state === 'done') return { first, whole: seconds() };
  }
}

/** All pages of a shop's catalogue, and nothing done with them. */
async function pagesAlone(feed: Feed, shop: Shop): Promise<number> {
  let goods = 0;
  for (const { key } of shop.categories)
    for (let cursor: string | null = '0'; cursor !== null; ) {
      const page: Fed<'catalogue'> = await askFeed(feed, 'catalogue', {
        shop: shop.key,
        category: key,
        cursor,
        limit: 200,
      });
      if (!page.ok) throw new Error(page.fault.code);
      goods += page.value.goods.length;
      cursor = page.value.next;
    }
  return goods;
}

async function measureCatalogue(): Promise<Measure[]> {
  const w = await demoWorkspace();
  await keepFeed(w.id, { address: '', secret: null }, w.by);
  const feed = await feedOf(w.id);
  const { shops, markets } = await loadShops(w.id);
  const shop = shops.find((s) => s.key === SHOP);
  const market = markets.find((m) => m.key === MARKET);
  if (feed === null || shop === undefined || market === undefined) throw new Error('no such shop or market');
  const { key, name, country, currency, tax, categories } = shop;
  const alone = await timed(() => pagesAlone(feed, shop));
  const choice = {
    shop: key,
    name,
    country,
    currency,
    tax,
    categories,
    market: MARKET,
    filters: catalogueFilters.parse({}),
  };
  const settings = { ...shop.begins, country: 'DE', marketplaceCardId: market.id };
  const { first, whole } = await readWhole(w.id, await readShop(w.id, { choice, settings }, w.by));
  const beside = `its ${alone.value} goods asked of the feed alone: ${(alone.ms / 1000).toFixed(1)} s`;
  return [
    {
      name: 'A shop’s catalogue to the first rows of its list',
      value: first,
      unit: 's',
      aim: '–',
      yardstick: beside,
      ratio: null,
    },
    {
      name: 'The same to the whole list, with listings searched for goods without a barcode',
      value: whole,
      unit: 's',
      aim: '–',
      yardstick: beside,
      ratio: (1000 * whole) / alone.ms,
    },
  ];
}

/** A list whose rows have no barcode, with the listings they could be, read to its end. */
async function listToMatch(w: { id: string; by: string }): Promise<string> {
  const d = new Draw(1);
  const { listings, things } = someListings(d, LISTINGS);
  const pairs = somePairs(d, ROWS, things);
  const goods = pairs.map(({ goods: g }) => ['', g.brand, g.title, '4.20']);
  const known = listings.map((l) => [l.key, l.brand, l.title, '19.90', l.units ?? '']);
  const source = Papa.unparse([['Barcode', 'Brand', 'Title', 'Net price'], ...goods]);
  const figures = Papa.unparse([['EAN', 'Brand', 'Title', 'Selling price', 'Units a month'], ...known]);
  const { id } = await receiveList(w.id, 'to match.csv', Readable.from([Buffer.from(source)]), w.by);
  await receiveReference(w.id, id, 'figures.csv', Readable.from([Buffer.from(figures)]));
  const setup = await loadSetup(w.id, id, null);
  if (setup === null || setup.list.reference === null) throw new Error('no set-up');
  const { map, sheet, choice } = setup.list.reference;
  await saveSetup(w.id, id, {
    name: 'Without barcodes',
    supplier: '',
    sheet: setup.list.sheet,
    map: setup.map,
    previousId: null,
    settings: setup.own,
    reference: { map, sheet, choice },
  });
  await startList(w.id, id, 'readList', w.by);
  await readWhole(w.id, id);
  return id;
}

async function measureMatchJob(): Promise<Measure[]> {
  const w = await demoWorkspace();
  const reading = await timed(() => listToMatch(w));
  const id = reading.value;
  const matching = await timed(async () => {
    await startMatching(w.id, id, w.by);
    while ((await loadMatches(w.id, id, 'open')).work !== null) await wait(200);
  });
  const { counts } = await loadMatches(w.id, id, 'open');
  const found = counts.certain + counts.likely + counts.byEye;
  if (found === 0) throw new Error('nothing was matched');
  return [
    {
      name: '100,000 rows without a barcode matched to 40,000 listings, as the job that is waited for',
      value: matching.ms / 1000,
      unit: 's',
      aim: 'at most 60',
      yardstick: `both files received and read: ${(reading.ms / 1000).toFixed(1)} s; ${found} different goods found`,
      ratio: matching.ms / reading.ms,
    },
  ];
}

export const measureShops = async (): Promise<Measure[]> => [
  ...(await measureCatalogue()),
  ...(await measureMatchJob()),
];
