/** Pages of a shop's catalogue, with the listings that their goods are sold as. */
import type { FeedAnswer, Question } from '../../between/feed.ts';
import { readGtin } from '../../core/goods/gtin.ts';
import { NOISE, tokensOf } from '../../core/match/tokens.ts';
import {
  CATALOGUE_HEAD,
  leftOut,
  LISTING_CODE,
  MARKET_HEAD,
  rowOfGoods,
  rowOfListing,
  SHOP_CODE,
} from '../../core/shops/catalogue.ts';
import type { MarketListing } from '../../core/shops/catalogue.ts';
import { placeAfter } from '../../core/shops/place.ts';
import type { CatalogueChoice, ShopGoods } from '../../core/shops/schema.ts';
import { readList } from '../files/lists.ts';
import { storePath } from '../files/store.ts';
import { askFeed } from '../outside/feed.ts';
import type { Feed } from '../outside/feed.ts';
import { refused, Refusal } from '../refusal.ts';
import { settingsOf } from '../use/workspaces.ts';
import { GrowingFile } from './growingFile.ts';
import type { CatalogueWork, Source } from './listTask.ts';

/** Goods of a page; barcodes that are asked for at once; listings taken for goods without one. */
const PAGE = 200;
const BARCODES_AT_ONCE = 100;
const LISTINGS_SEARCHED = 5;
/** Goods without a barcode for which listings are searched. */
const MOST_SEARCHES = 3_000;
/** Questions that wait for the feed together. */
const AT_ONCE = 4;
/** What a shop that is away for a while says, and asking again may mend; and how long that is waited for. */
const PASSING: ReadonlySet<string> = new Set(['feedAway', 'feedBusy', 'feedSlow']);
const MOST_AWAY_MS = 180_000;

/** Asks several questions, a few at once; the answers in the order of the questions. */
async function aFewAtOnce<A, B>(all: readonly A[], ask: (one: A) => Promise<B>): Promise<B[]> {
  const answers: B[] = [];
  for (let i = 0; i < all.length; i += AT_ONCE)
    answers.push(...(await Promise.all(all.slice(i, i + AT_ONCE).map(ask))));
  return answers;
}

/** Cells under some headings, row by row. */
async function eachRow(
  path: string,
  headings: readonly string[],
  take: (cells: readonly string[]) => void,
): Promise<void> {
  let at: number[] = [];
  await readList(
    path,
    headings,
    ({ header }) => {
      at = headings.map((h) => header.indexOf(h));
    },
    (batch) => {
      for (const cells of batch) take(at.map((k) => cells[k] ?? ''));
    },
  );
}

/** Takes pages of a catalogue into the files of a list, each page wholly or not at all. */
export class TakingPages {
  private readonly seen = new Set<string>();
  /** Of these, goods of the category at hand, as far as this worker has read it. */
  private readonly here = new Set<string>();
  private readonly listed = new Set<string>();
  /** Searches for goods without a proven barcode; null: not begun. */
  private unproven: string[] | null = null;

  private constructor(
    private readonly choice: CatalogueChoice,
    private readonly feed: Feed,
    private readonly noise: ReadonlySet<string>,
    private readonly goods: GrowingFile,
    private readonly listings: GrowingFile,
    private work: CatalogueWork,
  ) {}

  static async begin(
    workspaceId: string,
    source: Source,
    choice: CatalogueChoice,
    feed: Feed,
    work: CatalogueWork,
  ): Promise<TakingPages> {
    const settings = await settingsOf(workspaceId);
    const noise = new Set(settings?.noiseWords ?? NOISE);
    const referencePath = storePath(workspaceId, source.listId, 'reference');
    const goods = new GrowingFile(source.path, work.sourceBytes);
    const listings = new GrowingFile(referencePath, work.referenceBytes);
    await goods.begin(CATALOGUE_HEAD);
    await listings.begin(MARKET_HEAD);
    const taking = new TakingPages(choice, feed, noise, goods, listings, work);
    if (work.sourceBytes > 0) {
      await eachRow(source.path, [SHOP_CODE], ([code]) => taking.seen.add(code as string));
      await eachRow(referencePath, [LISTING_CODE, 'gtin'], (l) => taking.listed.add(l.join(' ')));
    }
    return taking;
  }

  /**
   * Takes pages for so long, or to the end; what it has come to counts once it is stored with the rows. A shop that is
   * away for a moment is noted, and what was taken until then stands.
   * @throws Refusal where the shop says what asking again would not mend, or has been away for too long
   */
  async round(ms: number): Promise<CatalogueWork> {
    try {
      await this.takeFor(ms);
      this.work = { ...this.work, awaySince: null };
    } catch (e) {
      if (!(e instanceof Refusal) || e.reason !== 'away') throw e;
      const since = this.work.awaySince ?? new Date().toISOString();
      if (Date.now() - Date.parse(since) > MOST_AWAY_MS) throw new Refusal('invalid', e.fault);
      this.work = { ...this.work, awaySince: since };
    }
    await this.goods.write();
    await this.listings.write();
    this.work = { ...this.work, sourceBytes: this.goods.bytes, referenceBytes: this.listings.bytes };
    return this.work;
  }

  private async takeFor(ms: number): Promise<void> {
    const until = Date.now() + ms;
    const { market, categories } = this.choice;
    while (this.work.category < categories.length) {
      await this.page();
      if (Date.now() >= until) return;
    }
    // Searched for are goods as they stand in the file.
    await this.goods.write();
    if (market !== null) await this.searchOn(market, until);
  }

  private async page(): Promise<void> {
    const { categories, shop, name, currency, tax, market } = this.choice;
    const { category, cursor } = this.work;
    const said = await this.ask('catalogue', {
      shop,
      category: categories[category]?.key ?? '',
      limit: PAGE,
      ...(cursor === null ? {} : { cursor }),
    });
    if (said.currency !== currency || said.tax !== tax)
      throw refused('catalogueOther', { shop: name, currency: said.currency });
    const isAgain = said.goods.length > 0 && said.goods.every((g) => this.here.has(g.code));
    const { taken, left } = this.sorted(isAgain ? [] : said.goods, said.asOf);
    const listings = market === null ? [] : await this.listingsOf(taken, market);
    // Everything has been asked for; from here on the page counts.
    for (const g of said.goods) for (const codes of [this.seen, this.here]) codes.add(g.code);
    for (const g of taken) this.goods.add(rowOfGoods(g, said.asOf));
    for (const l of listings) this.note(l);
    const place = placeAfter(this.work, { ...said, goods: said.goods.length, isAgain }, categories);
    this.work = { ...this.work, ...place, left };
    if (this.work.category !== category) this.here.clear();
  }

  /** Goods that nothing leaves out, and the count of all others by what does. */
  private sorted(
    page: readonly ShopGoods[],
    day: string,
  ): { taken: ShopGoods[]; left: CatalogueWork['left'] } {
    const left = { ...this.work.left };
    const onPage = new Set<string>();
    const taken = page.filter((g) => {
      const isSeen = this.seen.has(g.code) || onPage.has(g.code);
      const why = isSeen ? 'seenBefore' : leftOut(g, this.choice.filters, day);
      onPage.add(g.code);
      if (why !== null) left[why] = (left[why] ?? 0) + 1;
      return why === null;
    });
    return { taken, left };
  }

  /** Listings of goods by their barcodes. */
  private async listingsOf(goods: readonly ShopGoods[], market: string): Promise<MarketListing[]> {
    const gtins = goods.flatMap((g) => {
      const read = readGtin(g.gtin ?? '');
      return read.ok ? [read.code] : [];
    });
    const some = Array.from({ length: Math.ceil(gtins.length / BARCODES_AT_ONCE) }, (_, k) =>
      gtins.slice(k * BARCODES_AT_ONCE, (k + 1) * BARCODES_AT_ONCE),
    );
    const said = await aFewAtOnce(some, (g) => this.ask('barcodes', { market, gtins: g.join('|') }));
    return said.flatMap((s) => s.listings);
  }

  /**
   * Listings of goods that have no barcode that proves itself, by their words: what they are matched to. Last of all,
   * since no row waits for it.
   */
  private async searchOn(market: string, until: number): Promise<void> {
    this.unproven ??= await this.unprovenGoods();
    const toSearch = this.unproven.length;
    const limit = LISTINGS_SEARCHED;
    this.work = { ...this.work, toSearch };
    while (this.work.searches < toSearch && Date.now() < until) {
      const some = this.unproven.slice(this.work.searches, this.work.searches + AT_ONCE);
      for (const said of await aFewAtOnce(some, (words) => this.ask('search', { market, words, limit })))
        for (const l of said.listings) if (l.gtin !== null) this.note({ ...l, pack: 1, sides: null });
      this.work = { ...this.work, searches: this.work.searches + some.length };
    }
  }

  /** What goods without a proven barcode are searched for by: the words of their titles that say something. */
  private async unprovenGoods(): Promise<string[]> {
    const found: string[] = [];
    await eachRow(this.goods.path, ['gtin', 'brand', 'title'], ([gtin = '', brand, title]) => {
      if (readGtin(gtin).ok || found.length >= MOST_SEARCHES) return;
      const { words } = tokensOf(`${brand} ${title}`, this.noise);
      const telling = words.filter((x) => !/^\d+$/.test(x)).slice(0, 5);
      if (telling.length > 0) found.push(telling.join(' '));
    });
    return found;
  }

  private note(l: MarketListing): void {
    const key = `${l.listing} ${l.gtin}`;
    if (this.listed.has(key)) return;
    this.listed.add(key);
    this.listings.add(rowOfListing(l));
    this.work = { ...this.work, listings: this.work.listings + 1 };
  }

  private async ask<Q extends Question>(
    question: Q,
    params: Readonly<Record<string, string | number>>,
  ): Promise<FeedAnswer<Q>> {
    const said = await askFeed(this.feed, question, params);
    if (said.ok) return said.value;
    throw new Refusal(PASSING.has(said.fault.code) ? 'away' : 'invalid', said.fault);
  }
}
