/** What a lane on sale is told, and what came of that. */
import { useFetcher } from 'react-router';

/** Sends something about the lane at hand; `error`: why the last was refused. */
export function useLaneAct() {
  const act = useFetcher<{ done?: true; error?: string }>();
  return {
    act: (body: object): void => {
      void act.submit(JSON.stringify(body), { method: 'post', encType: 'application/json' });
    },
    error: act.state === 'idle' ? act.data?.error : undefined,
    isBusy: act.state !== 'idle',
  };
}
