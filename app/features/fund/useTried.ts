/** A price or an order quantity tried in place of the lane's, until it is taken into the lane or given back. */
import { useCallback, useMemo, useState } from 'react';
import { useRevalidator } from 'react-router';
import { tell } from '../../ui/client.ts';
import { useNotDone } from '../../ui/useNotDone.ts';
import type { LaneView } from '../weigh/useFigures.ts';

export type Tried = { readonly price?: number | null; readonly orderQuantity?: number | null };

export function useTried(view: LaneView, save: string) {
  const [tried, setTried] = useState<Tried>({});
  const [wrong, setWrong] = useState<string | null>(null);
  const { revalidate } = useRevalidator();
  const notDone = useNotDone();
  const doc = useMemo(() => ({ ...view.doc, ...tried }), [view.doc, tried]);
  const attempt = useCallback((more: Tried) => setTried((before) => ({ ...before, ...more })), []);
  const giveBack = useCallback(() => setTried({}), []);
  const takeOver = async (): Promise<void> => {
    const patches = (Object.keys(tried) as (keyof Tried)[]).map((key) => ({
      entity: 'lane',
      id: view.id,
      path: [key],
      from: view.state.data[key],
      to: tried[key],
    }));
    const told = await tell(save, { patches });
    setWrong(told.ok ? null : notDone(told));
    if (!told.ok) return;
    await revalidate();
    setTried({});
  };
  return { doc, tried, isTried: Object.keys(tried).length > 0, attempt, giveBack, takeOver, wrong };
}
