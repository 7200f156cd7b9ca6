/** Draws lanes apart from the screen, so that typing never waits. */
import { expose } from 'comlink';
import { riskOf } from '../../../core/risk/risk.ts';
import type { RiskAnswers, RiskAsked } from './useRisk.ts';

const work = {
  /** Each lane over its own ranges, all by the same numbers. */
  risks: (asked: RiskAsked): RiskAnswers =>
    Object.fromEntries(Object.entries(asked).map(([name, { doc, ranges }]) => [name, riskOf(doc, ranges)])),
};
export type RiskWork = typeof work;
expose(work);
