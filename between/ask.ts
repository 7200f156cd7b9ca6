/**
 * What the web process asks of the screening process, and what it gets. Both sides read this, so that neither
 * guesses.
 */
import { z } from 'zod';
import { listQuery } from '../core/lists/query.ts';
import { LIST_FIGURES } from '../core/lists/figures.ts';
import type { ListFigure } from '../core/lists/figures.ts';
import { screenSettings } from '../core/lists/settings.ts';
import type { Histogram } from '../core/columns/select.ts';
import type { RowInputs } from '../core/columns/assumptions.ts';
import type { Verdict } from '../core/lane/hurdles.ts';

/** Marks of goods that a row can carry, by their number. */
export const MARK_STATES = ['', 'shortlisted', 'kept', 'dropped', 'ordered'] as const;
export type MarkName = (typeof MARK_STATES)[number];

/** Rows that may be asked for by their lines, ahead of the list. */
export const MOST_AHEAD = 100;

export const ask = z.strictObject({
  workspaceId: z.string().max(100),
  listId: z.string().max(100),
  runId: z.string().max(100),
  /** Parts of the run in the file store that are whole. */
  parts: z.array(z.strictObject({ name: z.string().max(100), rows: z.number().int().min(0) })),
  ranked: z.boolean(),
  /** How many rows the run is thought to come to. */
  expected: z.number().int().min(0),
  settings: screenSettings,
  /** Who asks; each keeps what the rows come to under their own assumptions. */
  asker: z.string().max(100).default(''),
  basis: z.enum(['now', '30', '90']),
  categories: z.record(z.string(), z.string()),
  /** Which state of the marks is meant; the marks themselves where this process does not have it yet. */
  marksEdition: z.string().max(100),
  marks: z
    .array(
      z.tuple([
        z.number(),
        z.number().int().min(0).max(4),
        z.number().nullable(),
        z.number().nullable(),
        z.number().int().nullable(),
      ]),
    )
    .nullable(),
  query: listQuery,
  /** Rows that pass, or those that the limits took away. */
  show: z.enum(['kept', 'removed']),
  from: z.number().int().min(0),
  count: z.number().int().min(0).max(5000),
  /** Whether near misses are wanted with what would clear them. */
  remedies: z.boolean(),
  /** Figures to be summed up and drawn; empty: only the window. */
  figures: z.array(z.enum(LIST_FIGURES)).max(30),
  /** Brands and categories with their counts. */
  facets: z.boolean(),
});
export type Ask = z.output<typeof ask>;

/** A listing of a row's barcode in the market figures. */
export type RowListing = {
  readonly line: number;
  readonly title: string;
  readonly price: number | null;
  readonly units: number | null;
  readonly kg: number | null;
  readonly category: string;
  readonly counts: boolean;
};
export type OpenedRow = {
  readonly inputs: RowInputs;
  readonly row: ListRow;
  readonly listings: readonly RowListing[];
};
export type Remedied = {
  readonly figure: string;
  readonly unitPrice: number | null;
  readonly price: number | null;
};
/** What a row comes to under the assumptions. */
export type JudgedRow = {
  readonly figures: Readonly<Partial<Record<ListFigure, number | null>>>;
  readonly gross: number | null;
  /**
   * What the price goes to, sales currency: tax, goods, way in, marketplace, fulfilment (with storage and
   * conversion), returns and the rest, adverts.
   */
  readonly families: readonly (number | null)[];
  readonly verdict: Verdict;
  /** What keeps it from an answer, and which cost lines are blank. */
  readonly trouble: string;
  readonly blanks: number;
};
export type ListRow = JudgedRow & {
  /** Row in the file. */
  readonly line: number;
  readonly key: number;
  readonly code: string;
  readonly title: string;
  readonly brand: string;
  readonly category: string;
  readonly mark: MarkName;
  readonly notes: number;
  readonly listings: number;
  readonly listingPack: number;
  /** What else the file says of it, where asked for; the web process adds it. */
  readonly more?: Readonly<Record<string, string>>;
  /** Places in the query's filters of those that took it away. */
  readonly removedBy: readonly number[];
  readonly remedies: readonly Remedied[];
};
export type FigureStats = Histogram & {
  readonly figure: ListFigure;
  readonly known: number;
  readonly sum: number;
  readonly median: number | null;
  /** Costs missing of the rows that count (bits of blanks): what stands is a bound. */
  readonly lacks: number;
};
export type Answer = {
  /** Rows of the list that are in memory. */
  readonly rows: number;
  /** How many the query leaves. */
  readonly kept: number;
  /**
   * Of each filter of the query (the text first, where there is one): rows it takes away alone, and how many
   * are left after it.
   */
  readonly funnel: readonly {
    readonly alone: number;
    readonly left: number;
    readonly warning: 'cluster' | 'nearlyAll' | null;
  }[];
  readonly window: readonly ListRow[];
  readonly verdicts: Readonly<Record<Verdict, number>>;
  /** Rows with one trouble or another, and rows that lack a shelf price. */
  readonly unknown: { readonly noMarket: number; readonly noCategory: number; readonly troubled: number };
  /**
   * What rows that cannot be told yet lack, with how many, most first: a trouble, a blank cost line, or the
   * shelf price.
   */
  readonly lacking: readonly [what: string, rows: number][];
  /**
   * The supplier's categories that the card does not have, with their rows, most first; where facets are asked
   * for.
   */
  readonly strange: readonly [string, number][];
  readonly stats: readonly FigureStats[];
  readonly facets: {
    readonly brand: readonly [string, number][];
    readonly category: readonly [string, number][];
  } | null;
  /** Milliseconds: reading columns, evaluating, choosing, ordering. */
  readonly took: {
    readonly load: number;
    readonly evaluate: number;
    readonly select: number;
    readonly sort: number;
  };
};
