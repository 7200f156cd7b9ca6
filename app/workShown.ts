/** How far work on a list is, as its page is told. */
import { saidOfCatalogue } from '../core/shops/place.ts';
import type { loadList } from '../server/use/lists.ts';
import { inWords } from '../words/index.ts';

type Run = NonNullable<Awaited<ReturnType<typeof loadList>>>['work'][number];

export const workShown = ({ state, done, total, error, data: { catalogue } }: Run) => ({
  state,
  done,
  total,
  error: error === null ? null : inWords(error),
  catalogue: catalogue === undefined ? null : saidOfCatalogue(catalogue),
});
