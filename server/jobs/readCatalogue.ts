/**
 * A shop's catalogue, page by page: its goods and the listings they are sold as become the two files of a list,
 * which is read as any other while they grow. What counts of the files is noted with every part that is stored.
 */
import { appendFile, mkdir, stat, truncate } from 'node:fs/promises';
import { dirname } from 'node:path';
import Papa from 'papaparse';
import type { FeedAnswer, Question } from '../../between/feed.ts';
import { readGtin } from '../../core/goods/gtin.ts';
import { NOISE, tokensOf } from '../../core/match/tokens.ts';
import {
  CATALOGUE_HEAD,
  leftOut,
  MARKET_HEAD,
  rowOfGoods,
  rowOfListing,
} from '../../core/shops/catalogue.ts';
import { CATALOGUE_START, placeAfter } from '../../core/shops/place.ts';
import type { MarketListing } from '../../core/shops/catalogue.ts';
import type { CatalogueChoice, ShopGoods } from '../../core/shops/schema.ts';
import { readList } from '../files/lists.ts';
import { storePath } from '../files/store.ts';
import { askFeed } from '../outside/feed.ts';
import type { Feed } from '../outside/feed.ts';
import { refused, Refusal } from '../refusal.ts';
import { feedOf } from '../use/feeds.ts';
import { settingsOf } from '../use/workspaces.ts';
import { tallyOf } from './listTask.ts';
import type { CatalogueWork, ListTask, Source } from './listTask.ts';
import { readOn } from './readRows.ts';
import type { Turn } from './readRows.ts';

/** Goods of a page; barcodes that are asked for at once; listings taken for goods without one. */
const PAGE = 200;
const BARCODES_AT_ONCE = 100;
const LISTINGS_SEARCHED = 5;
/** Goods without a barcode for which listings are searched. */
const MOST_SEARCHES = 3_000;
/** Questions that wait for the feed together. */
const AT_ONCE = 4;
/** Milliseconds that pages are taken for before their rows are read: few at first, so that something shows at once. */
const FIRST_ROUND_MS = 500;
const MOST_ROUND_MS = 15_000;
/** Pauses before a shop that does not answer is asked again. */
const PAUSES_MS = [2_000, 5_000, 15_000, 30_000];
/** What a shop that is away for a while says, and asking again may mend. */
const PASSING: ReadonlySet<string> = new Set(['feedAway', 'feedBusy', 'feedSlow']);

const BEGINNING: CatalogueWork = {
  ...CATALOGUE_START,
  listings: 0,
  searches: 0,
  toSearch: null,
  sourceBytes: 0,
  referenceBytes: 0,
};

/**
 * Reads a shop's catalogue from where its task stands, as `readOn` does a file.
 * @throws Refusal with the feed's fault
 */
export async function readCatalogue(
  workspaceId: string,
  taskId: string,
  before: ListTask,
  source: Source,
  choice: CatalogueChoice,
  turn: Turn,
): Promise<ListTask | 'elsewhere'> {
  const feed = await feedOf(workspaceId);
  if (feed === null) throw refused('feedNone');
  const until = Date.now() + turn.turnMs;
  let work: ListTask = tallyOf({ ...before, catalogue: before.catalogue ?? BEGINNING });
  const taking = await TakingPages.begin(workspaceId, source, choice, feed, work.catalogue as CatalogueWork);
  for (let roundMs = FIRST_ROUND_MS; ; roundMs = Math.min(MOST_ROUND_MS, roundMs * 2)) {
    const catalogue = await taking.round(roundMs);
    const searched = choice.market === null || catalogue.searches === catalogue.toSearch;
    const whole = catalogue.category >= choice.categories.length && searched;
    const more = await readOn(
      workspaceId,
      taskId,
      { ...work, catalogue },
      { ...source, grows: !whole },
      turn,
    );
    if (more === 'elsewhere' || more.read === true) return more;
    work = more;
    if (Date.now() > until && (await turn.othersWait())) return work;
  }
}

/** A file that rows are added to, of which so many bytes count. */
class Growing {
  private waiting: (string | number | null)[][] = [];
  constructor(
    readonly path: string,
    public bytes: number,
  ) {}

  /** Cuts off what a worker wrote that was stopped before it counted; a new file gets its head. */
  async begin(head: readonly string[]): Promise<void> {
    await mkdir(dirname(this.path), { recursive: true });
    const has = (await stat(this.path).catch(() => null))?.size ?? 0;
    if (has > this.bytes) await truncate(this.path, this.bytes);
    if (this.bytes === 0) this.waiting.push([...head]);
    await this.write();
  }
  add(row: (string | number | null)[]): void {
    this.waiting.push(row);
  }
  async write(): Promise<void> {
    if (this.waiting.length === 0) return;
    const text = `${Papa.unparse(this.waiting, { newline: '\r\n' })}\r\n`;
    await appendFile(this.path, text);
    this.bytes += Buffer.byteLength(text);
    this.waiting = [];
  }
}

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

class TakingPages {
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
    private readonly goods: Growing,
    private readonly listings: Growing,
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
    const goods = new Growing(source.path, work.sourceBytes);
    const listings = new Growing(referencePath, work.referenceBytes);
    await goods.begin(CATALOGUE_HEAD);
    await listings.begin(MARKET_HEAD);
    const taking = new TakingPages(choice, feed, noise, goods, listings, work);
    if (work.sourceBytes > 0) {
      await eachRow(source.path, ['shopCode'], ([code]) => taking.seen.add(code as string));
      await eachRow(referencePath, ['listing', 'gtin'], (l) => taking.listed.add(l.join(' ')));
    }
    return taking;
  }

  /** Takes pages for so long, or to the end; what it has come to counts once it is stored with the rows. */
  async round(ms: number): Promise<CatalogueWork> {
    const until = Date.now() + ms;
    while (this.work.category < this.choice.categories.length) {
      await this.page();
      if (Date.now() >= until) break;
    }
    await this.goods.write();
    const { market, categories } = this.choice;
    if (market !== null && this.work.category >= categories.length) await this.searchOn(market, until);
    await this.listings.write();
    this.work = { ...this.work, sourceBytes: this.goods.bytes, referenceBytes: this.listings.bytes };
    return this.work;
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
    const taken = isAgain ? [] : this.taken(said.goods, said.asOf);
    if (market !== null) await this.findListings(taken, market);
    this.work = {
      ...this.work,
      ...placeAfter(this.work, { ...said, goods: said.goods.length, isAgain }, categories),
    };
    if (this.work.category !== category) this.here.clear();
  }

  /** Notes goods that nothing leaves out as rows, and counts the others by what does. */
  private taken(page: readonly ShopGoods[], day: string): ShopGoods[] {
    const left = { ...this.work.left };
    const taken: ShopGoods[] = [];
    for (const g of page) {
      const why = this.seen.has(g.code) ? 'seenBefore' : leftOut(g, this.choice.filters, day);
      this.seen.add(g.code);
      this.here.add(g.code);
      if (why !== null) left[why] = (left[why] ?? 0) + 1;
      else {
        this.goods.add(rowOfGoods(g, day));
        taken.push(g);
      }
    }
    this.work = { ...this.work, left };
    return taken;
  }

  /** Listings of goods by their barcodes. */
  private async findListings(goods: readonly ShopGoods[], market: string): Promise<void> {
    const gtins = goods.flatMap((g) => {
      const read = readGtin(g.gtin ?? '');
      return read.ok ? [read.code] : [];
    });
    const some = Array.from({ length: Math.ceil(gtins.length / BARCODES_AT_ONCE) }, (_, k) =>
      gtins.slice(k * BARCODES_AT_ONCE, (k + 1) * BARCODES_AT_ONCE),
    );
    for (const said of await aFewAtOnce(some, (g) => this.ask('barcodes', { market, gtins: g.join('|') })))
      for (const l of said.listings) this.note(l);
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

  /** Asks the feed, and again after a pause where it is only away for a while. */
  private async ask<Q extends Question>(
    question: Q,
    params: Readonly<Record<string, string | number>>,
  ): Promise<FeedAnswer<Q>> {
    for (let i = 0; ; i++) {
      const said = await askFeed(this.feed, question, params);
      if (said.ok) return said.value;
      const pause = PAUSES_MS[i];
      if (!PASSING.has(said.fault.code) || pause === undefined) throw new Refusal('invalid', said.fault);
      await new Promise((done) => setTimeout(done, pause));
    }
  }
}
