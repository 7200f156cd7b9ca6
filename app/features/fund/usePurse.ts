/** The plan of a purse, solved anew in a worker whenever what it is asked changes; the older question is ended. */
import { proxy, wrap } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { PurseDocument } from '../../../core/purse/schema.ts';
import type { PurseStep } from '../../../between/solvingPurse.ts';
import type { PurseWork } from './purse.worker.ts';

/** `stopped`: by whoever looks at it; what was known stands until something changes. */
export type PurseState = 'idle' | 'working' | 'stopped' | 'failed';
/** A moment without changes, so that a number that is being typed is solved once. */
const PAUSE_MS = 200;

export function usePurse(document: PurseDocument | null): {
  step: PurseStep | null;
  state: PurseState;
  stop: () => void;
} {
  const [step, setStep] = useState<PurseStep | null>(null);
  const [state, setState] = useState<PurseState>('idle');
  const worker = useRef<Worker | null>(null);
  const end = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
  }, []);
  const stop = useCallback(() => {
    end();
    setState('stopped');
  }, [end]);
  useEffect(() => {
    if (document === null) return;
    setState('working');
    const timer = setTimeout(() => {
      const own = new Worker(new URL('./purse.worker.ts', import.meta.url), { type: 'module' });
      worker.current = own;
      // A worker that was ended meanwhile has nothing to say any more.
      const over = (how: PurseState) => (): void => void (worker.current === own && setState(how));
      const hear = (next: PurseStep): void => {
        if (worker.current !== own) return;
        // What was known stays on screen until there is something newer.
        setStep((before) => (next.said === null ? { ...next, said: before?.said ?? null } : next));
      };
      own.onerror = over('failed');
      void wrap<PurseWork>(own).solve(document, proxy(hear)).then(over('idle'), over('failed'));
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      end();
    };
  }, [document, end]);
  return { step, state, stop };
}
