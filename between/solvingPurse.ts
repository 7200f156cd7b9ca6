/** A purse solved step by step: the plan first, then what is asked about it. In a browser's worker, and as a job. */
import {
  CURVE_SHARES,
  costOfChoosing,
  curvePoint,
  leftOutOf,
  moreAndLess,
  partOf,
  planWith,
  preparePurse,
  saidFirst,
} from '../core/purse/purse.ts';
import type { PurseSaid } from '../core/purse/purse.ts';
import type { Solver } from '../core/purse/model.ts';
import type { PurseDocument } from '../core/purse/schema.ts';

export type PurseStep = {
  /** What is known so far; null: no plan yet. */
  readonly said: PurseSaid | null;
  /** Pieces done and pieces there are, of the stage that runs. */
  readonly stage: 'options' | 'questions' | 'done';
  readonly done: number;
  readonly all: number;
  /** What the plan took so far. */
  readonly seconds: number;
};

/** Lanes whose options are worked out are told about this often. */
const TOLD_MS = 100;

/** The solver looks at the clock between its own steps alone: so much of its time is kept for the last of them. */
const KEPT_SHARE = 0.06;
/** The least it is given, in seconds, however long the options took. */
const LEAST = 1;
/** Seconds that all questions about a plan may take: so many times its own, so many at least; and one of them. */
const QUESTIONS = { times: 2, least: 40 };
const SHORTEST = 0.2;

/** The plan of a purse, within the seconds that it gives: what the options take is taken off the time to think. */
export function planInTime(
  document: PurseDocument,
  solver: Solver,
  onLane: (done: number, seconds: number) => void = () => undefined,
) {
  const began = performance.now();
  const seconds = (): number => (performance.now() - began) / 1000;
  const purse = preparePurse(document, solver, (done) => {
    onLane(done, seconds());
    return true;
  });
  const left = document.seconds * (1 - KEPT_SHARE) - seconds();
  const plan = planWith(purse, { seconds: Math.max(LEAST, left) });
  return { purse, plan, seconds: seconds() };
}

/** Solves a purse and tells every step; whoever no longer wants it ends the thread it runs in. */
export function solvePurse(document: PurseDocument, solver: Solver, tell: (step: PurseStep) => void): void {
  const lanes = document.lanes.length;
  let told = 0;
  const {
    purse,
    plan,
    seconds: took,
  } = planInTime(document, solver, (done, seconds) => {
    if (performance.now() - told < TOLD_MS) return;
    told = performance.now();
    tell({ said: null, stage: 'options', done, all: lanes, seconds });
  });
  let said: PurseSaid = saidFirst(purse, plan);
  if (!plan.feasible) {
    tell({ said, stage: 'done', done: 0, all: 0, seconds: took });
    return;
  }
  const left = leftOutOf(purse, plan);
  const pieces = left.length + CURVE_SHARES.length;
  let done = 0;
  const step = (): void => tell({ said, stage: 'questions', done: ++done, all: pieces, seconds: took });
  const began = performance.now();
  // Each question gets its part, and of many questions none more than what is left of the time for all.
  const part = (): number => {
    const all = Math.max(QUESTIONS.least, QUESTIONS.times * document.seconds);
    const rest = all - (performance.now() - began) / 1000;
    return Math.max(SHORTEST, Math.min(partOf(purse), rest / (pieces - done)));
  };
  tell({ said, stage: 'questions', done, all: pieces, seconds: took });
  for (const share of CURVE_SHARES) {
    const curve = [...said.curve, curvePoint(purse, share, part())];
    said = { ...said, curve, ...moreAndLess(plan, curve) };
    step();
  }
  for (const lane of left) {
    said = { ...said, leftOut: [...said.leftOut, costOfChoosing(purse, plan, lane, part())] };
    step();
  }
  tell({ said, stage: 'done', done: pieces, all: pieces, seconds: took });
}
