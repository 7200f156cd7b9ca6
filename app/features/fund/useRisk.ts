/** Draws of lanes, made in a worker; the last question asked is the one that is answered. */
import { wrap } from 'comlink';
import type { Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import type { RiskSaid } from '../../../core/risk/risk.ts';
import type { RangesDocument } from '../../../core/risk/schema.ts';
import type { RiskWork } from './risk.worker.ts';

/** What is to be drawn, by a name of the asker's. */
export type RiskAsked = Readonly<
  Record<string, { readonly doc: LaneDocument; readonly ranges: RangesDocument }>
>;
export type RiskAnswers = Readonly<Record<string, RiskSaid>>;
export type Drawn = {
  /** What is known by now; names that were asked for since are not in it. */
  readonly said: RiskAnswers;
  readonly state: 'working' | 'done' | 'failed';
};
/** A moment without keys, so that a number that is being typed is drawn once. */
const PAUSE_MS = 120;

export function useRisk(asked: RiskAsked): Drawn {
  const worker = useRef<Remote<RiskWork> | null>(null);
  const [drawn, setDrawn] = useState<Drawn>({ said: {}, state: 'working' });
  useEffect(() => {
    const of = new Worker(new URL('./risk.worker.ts', import.meta.url), { type: 'module' });
    of.onerror = () => setDrawn((d) => ({ ...d, state: 'failed' }));
    worker.current = wrap<RiskWork>(of);
    return () => of.terminate();
  }, []);
  const turn = useRef(0);
  useEffect(() => {
    const mine = ++turn.current;
    setDrawn((d) => ({ ...d, state: 'working' }));
    const timer = setTimeout(() => {
      const heard = (next: (before: Drawn) => Drawn) => turn.current === mine && setDrawn(next);
      void worker.current?.risks(asked).then(
        (said) => heard(() => ({ said, state: 'done' })),
        () => heard((d) => ({ ...d, state: 'failed' })),
      );
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [asked]);
  return drawn;
}
