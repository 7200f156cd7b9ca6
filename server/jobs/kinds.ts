/**
 * The kinds of long work: which queue takes them, what is asked of them, and what is said where they cannot go
 * on. Who works on a queue stands in `worker.ts`; steps, tries, leases and progress are the runner's
 * (`serve.ts`).
 */
import { z } from 'zod';
import { CARD_FIELDS } from '../../core/workspace/records.ts';

type CardOfLane = keyof typeof CARD_FIELDS;
const cardOfLane = z.enum(Object.keys(CARD_FIELDS) as [CardOfLane, ...CardOfLane[]]);

const AGAIN = 'What was done is kept; start it again.';
const READ_AGAIN = 'The file is kept: look at it, or leave columns out, and read it again.';

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
    stopped: AGAIN,
  },
  /** All lanes are weighed again: what their results read has changed. */
  weighAgain: { queue: 'lanes', asks: z.strictObject({}), stopped: AGAIN },
  /** The rows of a list are looked at, and none is stored. */
  checkList: { queue: 'lists', asks: z.strictObject({ listId: z.string() }), stopped: READ_AGAIN },
  /** A list is read for good. */
  readList: { queue: 'lists', asks: z.strictObject({ listId: z.string() }), stopped: READ_AGAIN },
} as const satisfies Record<string, { queue: string; asks: z.ZodType; stopped: string }>;

export type TaskKind = keyof typeof JOBS;
export type Queue = (typeof JOBS)[TaskKind]['queue'];
export type Asked<K extends TaskKind> = z.output<(typeof JOBS)[K]['asks']>;
/** A piece of work as it lies in a queue; what it is about stands in `bm.task`. */
export type Piece = { workspaceId: string; taskId: string };

const KINDS = Object.keys(JOBS) as TaskKind[];
export const kindsOf = (queue: Queue): TaskKind[] => KINDS.filter((k) => JOBS[k].queue === queue);
/** What is said where work of a queue keeps failing, or takes its worker down. */
export const stoppedWords = (queue: Queue): string => JOBS[kindsOf(queue)[0] as TaskKind].stopped;
