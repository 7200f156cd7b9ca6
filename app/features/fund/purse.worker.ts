/** Chooses launches apart from the screen. The solver is loaded here alone. */
import { expose } from 'comlink';
import loadHighs from 'highs';
import solverFile from 'highs/runtime?url';
import { solverOf } from '../../../between/solver.ts';
import { solvePurse } from '../../../between/solvingPurse.ts';
import type { PurseStep } from '../../../between/solvingPurse.ts';
import type { PurseDocument } from '../../../core/purse/schema.ts';

const work = {
  /** Solves a purse and tells every step; whoever no longer wants it ends the worker. */
  async solve(document: PurseDocument, tell: (step: PurseStep) => void): Promise<void> {
    solvePurse(document, solverOf(await loadHighs({ locateFile: () => solverFile })), tell);
  },
};
export type PurseWork = typeof work;
expose(work);
