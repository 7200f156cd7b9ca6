/** Work that asks the feed for one thing after another: second looks at goods, shops that are followed. */
import { loadTask } from '../use/tasks.ts';
import { lookCloser } from './lookCloser.ts';
import type { Service } from './serve.ts';
import { watchSellers } from './watchSellers.ts';

export const feedsWork: Service = {
  queue: 'feeds',
  work: async (piece) =>
    (await loadTask(piece.workspaceId, piece.taskId))?.kind === 'watchSellers'
      ? watchSellers(piece)
      : lookCloser(piece),
};
