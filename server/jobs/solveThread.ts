/** A thread of its own for solving a purse, so that the worker goes on beating meanwhile and can end it. */
import type { MessagePort } from 'node:worker_threads';
import loadHighs from 'highs';
import { solverOf } from '../../between/solver.ts';
import { solvePurse } from '../../between/solvingPurse.ts';
import type { PurseDocument } from '../../core/purse/schema.ts';

export default async function solveThread(asked: {
  document: PurseDocument;
  port: MessagePort;
}): Promise<void> {
  solvePurse(asked.document, solverOf(await loadHighs()), (step) => asked.port.postMessage(step));
}
