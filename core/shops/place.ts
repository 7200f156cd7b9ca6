/** How far a shop's catalogue has been read, and what is odd about it: it changes, ends early, gives a page again. */
import type { LeftOut } from './catalogue.ts';

/** Goods that one reading takes: as many rows as a list may have. */
const MOST_GOODS = 1_000_000;
/** Pages of one category after which a shop is taken to lead in a circle. */
const MOST_PAGES = 5_000;

export type CataloguePlace = {
  /** Place among the chosen categories; past the last: all is read. */
  readonly category: number;
  readonly cursor: string | null;
  /** Of this category: goods so far, and the pages that were asked for. */
  readonly here: number;
  readonly asked: readonly string[];
  readonly pages: number;
  /** Goods seen, and how many there will be as far as the shop says. */
  readonly goods: number;
  readonly expected: number;
  readonly left: Readonly<Partial<Record<LeftOut, number>>>;
  readonly edition: string | null;
  /** It was another catalogue from some page on. */
  readonly changed: boolean;
  /** Goods that it says it has and did not give; categories it gave a page of again, and that were left there. */
  readonly short: number;
  readonly repeated: number;
  /** Day that it speaks of. */
  readonly asOf: string | null;
};
/** What people are told of it. */
const SAID = [
  'pages',
  'goods',
  'expected',
  'left',
  'changed',
  'short',
  'repeated',
  'searches',
  'toSearch',
] as const;
type Searching = { readonly searches: number; readonly toSearch: number | null };
export type CatalogueSaid = Pick<CataloguePlace & Searching, (typeof SAID)[number]>;
export const saidOfCatalogue = (p: CataloguePlace & Searching): CatalogueSaid =>
  Object.fromEntries(SAID.map((k) => [k, p[k]])) as CatalogueSaid;

export const CATALOGUE_START: CataloguePlace = {
  category: 0,
  cursor: null,
  here: 0,
  asked: [],
  pages: 0,
  goods: 0,
  expected: 0,
  left: {},
  edition: null,
  changed: false,
  short: 0,
  repeated: 0,
  asOf: null,
};

export type CataloguePage = {
  readonly goods: number;
  readonly total: number;
  readonly next: string | null;
  readonly edition: string;
  readonly asOf: string;
  /** All of its goods stood on pages of this category before. */
  readonly isAgain: boolean;
};

/**
 * The place after a page. A category ends where the shop says so, where it gives a page again, and where it leads in
 * a circle; what is then missing of the goods that it says it has is counted. `categories`: the goods of each as it
 * was chosen.
 */
export function placeAfter(
  p: CataloguePlace,
  page: CataloguePage,
  categories: readonly { readonly goods: number }[],
): CataloguePlace {
  const fresh = page.isAgain ? 0 : page.goods;
  const here = p.here + fresh;
  const asked = p.cursor === null ? p.asked : [...p.asked, p.cursor];
  const circles = page.isAgain || asked.includes(page.next ?? '') || asked.length >= MOST_PAGES;
  const goods = p.goods + fresh;
  const isFull = goods >= MOST_GOODS;
  const goesOn = page.next !== null && !circles && !isFull;
  const missing = Math.max(0, page.total - here);
  const category = goesOn ? p.category : isFull ? categories.length : p.category + 1;
  const later = categories.slice(p.category + 1).reduce((n, c) => n + c.goods, 0);
  return {
    ...p,
    category,
    cursor: goesOn ? page.next : null,
    here: goesOn ? here : 0,
    asked: goesOn ? asked : [],
    pages: p.pages + 1,
    goods,
    expected: goods + (isFull ? 0 : later) + (goesOn ? missing : 0),
    edition: p.edition ?? page.edition,
    changed: p.changed || (p.edition !== null && p.edition !== page.edition),
    short: p.short + (goesOn ? 0 : missing) + (isFull ? later : 0),
    repeated: p.repeated + (circles && (page.next !== null || page.isAgain) ? 1 : 0),
    asOf: page.asOf,
  };
}
