/** Work on lists. */
import { workOnList } from './readList.ts';
import type { Service } from './serve.ts';

/** How long a list is worked on while others wait. */
const TURN_MS = 2000;

export const listsWork: Service = {
  queue: 'lists',
  work: ({ workspaceId, taskId }, othersWait) =>
    workOnList(workspaceId, taskId, { turnMs: TURN_MS, othersWait }),
};
