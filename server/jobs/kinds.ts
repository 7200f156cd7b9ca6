/**
 * The kinds of long work: which queue takes them, and what is asked of them. Who works on a queue stands in
 * `worker.ts`; steps, tries, leases and progress are the runner's (`serve.ts`).
 */
import { z } from 'zod';
import { settledPlace, settlementMap } from '../../core/actuals/schema.ts';
import { CARD_FIELDS } from '../../core/workspace/compose.ts';

type CardOfLane = keyof typeof CARD_FIELDS;
const cardOfLane = z.enum(Object.keys(CARD_FIELDS) as [CardOfLane, ...CardOfLane[]]);

export const JOBS = {
  /** Lanes of a card are brought up to a version of it (absent: the newest in force), or only looked at. */
  bringUpToDate: {
    queue: 'lanes',
    asks: z.strictObject({
      kind: cardOfLane,
      key: z.string(),
      version: z.string().optional(),
      /** Give notice of what would fall under a hurdle, store nothing. */
      lookOnly: z.boolean().optional(),
    }),
  },
  /** All lanes are weighed again: what their results read has changed. */
  weighAgain: { queue: 'lanes', asks: z.strictObject({}) },
  /** The rows of a list are looked at, and none is stored. */
  checkList: { queue: 'lists', asks: z.strictObject({ listId: z.string() }) },
  /** A list is read for good. */
  readList: { queue: 'lists', asks: z.strictObject({ listId: z.string() }) },
  /** Watched markets are brought up to date from the feed: those of one candidate, or all. */
  watchMarkets: {
    queue: 'markets',
    asks: z.strictObject({ candidateId: z.string().optional(), market: z.string().optional() }),
  },
  /** The purse of a workspace is solved, the solver thinking for so long about its plan. */
  solvePurse: { queue: 'purses', asks: z.strictObject({ seconds: z.number().min(1).max(600) }) },
  /** Rows of a list without a proven barcode are matched to its market figures. */
  matchList: { queue: 'matches', asks: z.strictObject({ listId: z.string() }) },
  /** Goods of a list are looked at a second time, in what the feed knows of their listings. */
  lookCloser: { queue: 'feeds', asks: z.strictObject({ listId: z.string() }) },
  /** Shops of other sellers that are followed are looked at again. */
  watchSellers: { queue: 'feeds', asks: z.strictObject({}) },
  /** A long settlement report is read. */
  readReport: {
    queue: 'reports',
    asks: z.strictObject({
      reportId: z.string(),
      place: settledPlace,
      map: settlementMap,
      sheet: z.string().nullable(),
    }),
  },
  /** What a place charged is held against its cards anew: one of them was put in force or taken back. */
  holdAgainstCards: { queue: 'reports', asks: z.strictObject({ place: z.string() }) },
  /** A mail goes out. */
  sendMail: { queue: 'mails', asks: z.strictObject({ mailId: z.string() }) },
} as const satisfies Record<string, { queue: string; asks: z.ZodType }>;

export type TaskKind = keyof typeof JOBS;
export type Queue = (typeof JOBS)[TaskKind]['queue'];
export type Asked<K extends TaskKind> = z.output<(typeof JOBS)[K]['asks']>;
/** A piece of work as it lies in a queue; what it is about stands in `bm.task`. */
export type Piece = { workspaceId: string; taskId: string };

const KINDS = Object.keys(JOBS) as TaskKind[];
export const kindsOf = (queue: Queue): TaskKind[] => KINDS.filter((k) => JOBS[k].queue === queue);
