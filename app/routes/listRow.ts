import { data } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { loadRow } from '../../server/use/goods.ts';
import { loadList } from '../../server/use/lists.ts';
import { ScreeningAway } from '../../server/screening/client.ts';
import type { Route } from './+types/listRow.ts';

/** One row of a list as a full lane. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const entry = await enterWorkspace(request, params.workspace);
  const page = await loadList(entry.workspaceId, params.list);
  if (page === null || page.shown === null) throw data(null, 404);
  try {
    const row = await loadRow(entry.workspaceId, page, Number(params.line));
    if (row === null) throw data(null, 404);
    return { ...row, mark: row.mark === null ? null : { state: row.mark.state, reason: row.mark.reason, note: row.mark.note, tags: row.mark.tags, candidateId: row.mark.candidateId, soldPack: row.mark.soldPack, boughtPack: row.mark.boughtPack } };
  } catch (e) {
    if (e instanceof ScreeningAway) throw data(null, 503);
    throw e;
  }
}
