/**
 * What is asked of a screened list: which rows, in which order, which columns. It lives in the address of the
 * page.
 */
import { z } from 'zod';
import { SOLVED_COLUMNS } from '../columns/columns.ts';
import type { SolvedColumn } from '../columns/columns.ts';
import { VERDICTS } from '../columns/verdicts.ts';
import { LIST_FIGURES } from './figures.ts';

export const LIST_TEXTS = ['title', 'brand', 'category', 'code'] as const;
/** Things that are so or not so of a row. */
export const LIST_FLAGS = [
  'multipack',
  'falseBargain',
  'repaired',
  'noMarket',
  'severalListings',
  'new',
  'dearer',
  'cheaper',
  'kept',
  'shortlisted',
  'dropped',
  'ordered',
] as const;
export type ListFlag = (typeof LIST_FLAGS)[number];

const word = z.string().trim().min(1).max(100);
export const listFilter = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('range'),
    figure: z.enum(LIST_FIGURES),
    min: z.number().nullable().default(null),
    max: z.number().nullable().default(null),
    keepUnknown: z.boolean().default(false),
  }),
  /** Rows whose title, brand, category or barcode hold a word (`in`), or none of them (`out`); no word: all. */
  z.strictObject({ kind: z.literal('words'), mode: z.enum(['in', 'out']), words: z.array(word).max(30) }),
  /** Rows of one of these values, or of none of them (`not`); no value: all. */
  z.strictObject({
    kind: z.literal('oneOf'),
    of: z.enum(['brand', 'category']),
    values: z.array(z.string().max(200)).max(200),
    not: z.boolean().default(false),
  }),
  z.strictObject({ kind: z.literal('verdict'), only: z.array(z.enum(VERDICTS)).min(1) }),
  z.strictObject({ kind: z.literal('flag'), flag: z.enum(LIST_FLAGS), is: z.boolean() }),
]);
export type ListFilter = z.output<typeof listFilter>;

export const listSort = z.strictObject({
  by: z.union([z.enum(LIST_FIGURES), z.enum(LIST_TEXTS), z.literal('line'), z.literal('verdict')]),
  down: z.boolean(),
});
export type ListSort = z.output<typeof listSort>;

export const listQuery = z.strictObject({
  text: z.string().max(200).default(''),
  filters: z.array(listFilter).max(30).default([]),
  sort: z.array(listSort).max(4).default([]),
});
export type ListQuery = z.output<typeof listQuery>;

/** What an untouched list shows: what clears the hurdles, the most profit a month first. */
export const SHORT_LIST: ListQuery = {
  text: '',
  filters: [{ kind: 'verdict', only: ['pass'] }],
  sort: [{ by: 'profitPerMonth', down: true }],
};

/** Whether a query asks for what has to be solved for every row first. */
export const asksForSolved = (q: ListQuery): boolean =>
  q.sort.some((s) => isSolved(s.by)) || q.filters.some((f) => f.kind === 'range' && isSolved(f.figure));
export const isSolved = (id: string): id is SolvedColumn =>
  (SOLVED_COLUMNS as readonly string[]).includes(id);

const bound = (x: number | null): string => (x === null ? '' : String(x));
/** A query as parameters of an address, readable and short; `queryIn` reads it back. */
export function searchOf(q: ListQuery): URLSearchParams {
  const s = new URLSearchParams();
  if (q.text !== '') s.set('text', q.text);
  for (const f of q.filters)
    switch (f.kind) {
      case 'range':
        s.append('limit', `${f.figure}:${bound(f.min)}:${bound(f.max)}${f.keepUnknown ? ':unknown' : ''}`);
        break;
      case 'words':
        s.append('words', `${f.mode}:${f.words.join(',')}`);
        break;
      case 'oneOf':
        s.append(f.of, `${f.not ? 'not' : 'is'}:${JSON.stringify(f.values)}`);
        break;
      case 'verdict':
        s.append('verdict', f.only.join(','));
        break;
      case 'flag':
        s.append('flag', `${f.flag}:${f.is ? 'yes' : 'no'}`);
        break;
    }
  if (q.sort.length > 0) s.set('sort', q.sort.map((k) => (k.down ? '-' : '') + k.by).join(','));
  return s;
}

/**
 * Reads a query from an address; what is not understood there is left out. Filters stand in the order of the
 * address.
 */
export function queryIn(search: URLSearchParams): ListQuery {
  const filters: ListFilter[] = [];
  const add = (f: unknown): void => {
    const read = listFilter.safeParse(f);
    if (read.success && filters.length < 30) filters.push(read.data);
  };
  for (const [key, value] of search) {
    const [first = '', ...rest] = value.split(':');
    if (key === 'limit') {
      const number = (t: string | undefined): number | null =>
        t === undefined || t === '' || !Number.isFinite(Number(t)) ? null : Number(t);
      add({
        kind: 'range',
        figure: first,
        min: number(rest[0]),
        max: number(rest[1]),
        keepUnknown: rest[2] === 'unknown',
      });
    } else if (key === 'words')
      add({
        kind: 'words',
        mode: first,
        words: rest
          .join(':')
          .split(',')
          .map((w) => w.trim())
          .filter(Boolean),
      });
    else if (key === 'brand' || key === 'category') {
      try {
        add({ kind: 'oneOf', of: key, not: first === 'not', values: JSON.parse(rest.join(':')) });
      } catch {
        // An address that was cut off.
      }
    } else if (key === 'verdict') add({ kind: 'verdict', only: value.split(',') });
    else if (key === 'flag') add({ kind: 'flag', flag: first, is: rest[0] === 'yes' });
  }
  const sort = (search.get('sort') ?? '').split(',').flatMap((k) => {
    const read = listSort.safeParse({ by: k.replace(/^-/, ''), down: k.startsWith('-') });
    return read.success ? [read.data] : [];
  });
  return { text: (search.get('text') ?? '').slice(0, 200), filters, sort: sort.slice(0, 4) };
}

/** Columns a row may be shown with, beside its mark: figures, texts, and what the hurdles say. */
export const LIST_COLUMNS = [
  'title',
  'brand',
  'category',
  'code',
  'verdict',
  ...LIST_FIGURES,
  'bar',
] as const;
/** A column of the file that is kept as it is, by its heading; link, picture and notes by these words. */
export type ExtraColumn = `extra:${string}`;
export type ListColumn = (typeof LIST_COLUMNS)[number] | ExtraColumn;
/** The heading of such a column; null where it is another. */
export const extraOf = (id: ListColumn): string | null =>
  id.startsWith('extra:') ? id.slice('extra:'.length) : null;
const extraColumn = z.custom<ExtraColumn>(
  (v) => typeof v === 'string' && v.startsWith('extra:') && v.length > 6 && v.length <= 206,
);

/** How a list is looked at, under a name: columns, query, and the assumptions that go with it. */
export const listLook = z.strictObject({
  columns: z
    .array(
      z.strictObject({
        id: z.union([z.enum(LIST_COLUMNS), extraColumn]),
        width: z.number().int().min(40).max(900),
        pinned: z.boolean().default(false),
      }),
    )
    .min(1)
    .max(40),
  query: listQuery,
});
export type ListLook = z.output<typeof listLook>;
export const DEFAULT_LOOK: ListLook = {
  columns: [
    { id: 'title', width: 200, pinned: true },
    { id: 'bar', width: 104, pinned: false },
    { id: 'verdict', width: 66, pinned: false },
    { id: 'unitProfit', width: 84, pinned: false },
    { id: 'margin', width: 62, pinned: false },
    { id: 'roi', width: 56, pinned: false },
    { id: 'profitPerMonth', width: 92, pinned: false },
    { id: 'cost', width: 76, pinned: false },
    { id: 'mostToPay', width: 84, pinned: false },
    { id: 'price', width: 76, pinned: false },
    { id: 'breakEvenPrice', width: 84, pinned: false },
    { id: 'units', width: 66, pinned: false },
    { id: 'quantity', width: 66, pinned: false },
    { id: 'code', width: 138, pinned: false },
    { id: 'brand', width: 110, pinned: false },
  ],
  query: SHORT_LIST,
};
