/** What is said between the server and the purse's page about the server's own solving. */
import type { PurseSaid } from '../core/purse/purse.ts';

export type PurseWorkSaid = {
  /** `ended`: by whoever wanted it no longer, or by a fault. */
  readonly state: 'working' | 'done' | 'ended';
  /** Pieces done and pieces there are, as in `PurseStep`. */
  readonly done: number;
  readonly all: number;
};
export type PurseAnswered = PurseWorkSaid & {
  /** Seconds the solver might think. */
  readonly asked: number;
  readonly at: string;
  readonly said: PurseSaid | null;
  /** Seconds the plan took. */
  readonly took: number;
  /** It is about the purse as it stands. */
  readonly isCurrent: boolean;
};
