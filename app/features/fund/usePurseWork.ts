/** The server's own solving of the purse: begun, watched while it goes on, ended. */
import { useCallback, useEffect, useState } from 'react';
import { useRevalidator } from 'react-router';
import type { PurseAnswered, PurseWorkSaid } from '../../../between/purseWork.ts';
import { tell } from '../../ui/client.ts';
import { useNotDone } from '../../ui/useNotDone.ts';

const LOOK_MS = 1500;

export function usePurseWork(answered: PurseAnswered | null, base: string) {
  const notDone = useNotDone();
  const { revalidate } = useRevalidator();
  const [error, setError] = useState<string | null>(null);
  const [work, setWork] = useState<PurseWorkSaid | null>(answered);
  useEffect(() => setWork(answered), [answered]);
  const url = `${base}/fund/purse/act`;
  const isWorking = work?.state === 'working';
  useEffect(() => {
    if (!isWorking) return;
    const look = async (): Promise<void> => {
      const told = await tell<PurseWorkSaid | null>(url);
      // A server that is away for a moment is asked again.
      if (!told.ok) return;
      setWork(told.data);
      if (told.data?.state !== 'working') await revalidate();
    };
    const timer = setInterval(() => void look(), LOOK_MS);
    return () => clearInterval(timer);
  }, [isWorking, url, revalidate]);
  const start = useCallback(
    async (seconds: number): Promise<void> => {
      const told = await tell(url, { act: 'solve', seconds });
      setError(told.ok ? null : notDone(told));
      if (told.ok) setWork({ state: 'working', done: 0, all: 0 });
    },
    [url, notDone],
  );
  const stop = useCallback(async (): Promise<void> => {
    const told = await tell(url, { act: 'stop' });
    setError(told.ok ? null : notDone(told));
    if (told.ok) await revalidate();
  }, [url, notDone, revalidate]);
  return { work, error, start, stop };
}
