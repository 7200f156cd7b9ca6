/** Work on lists. */
import { LISTS } from './boss.ts';
import { workOnList } from './readList.ts';
import { serve } from './serve.ts';

/** How long a list is worked on while others wait, and in any case. */
const TURN_MS = 2000;

export const serveLists = (): Promise<void> =>
  serve({
    queue: LISTS,
    kinds: ['checkList', 'readList'],
    stopped: 'The file is kept: look at it, or leave columns out, and read it again.',
    work: ({ workspaceId, taskId }, othersWait) =>
      workOnList(workspaceId, taskId, { turnMs: TURN_MS, othersWait }),
  });
