import { data } from 'react-router';
import { z } from 'zod';
import { listSettings } from '../../core/lists/settings.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { loadRow } from '../../server/use/goods.ts';
import { loadList } from '../../server/use/lists.ts';
import { ScreeningAway } from '../../server/screening/client.ts';
import type { Route } from './+types/listRow.ts';
import { fault } from '../../core/fault.ts';
import { inWords } from '../../words/index.ts';
import { answering, unfit } from '../answers.ts';

const asked = z.object({
  /** Assumptions that are tried and not saved. */ settings: listSettings.nullable(),
});

/** One row of a list as a full lane; read only. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const body = asked.safeParse(await request.json().catch(() => null));
  if (!body.success) return unfit(body.error);
  const page = await loadList(entry.workspaceId, params.list, body.data.settings);
  if (page === null || page.shown === null) throw data(null, 404);
  try {
    const line = z.coerce.number().int().min(1).max(1e9).safeParse(params.line);
    if (!line.success) throw data({ error: inWords(fault('noSuchRow')) }, 404);
    const row = await loadRow(entry.workspaceId, page, line.data);
    if (row === null) throw data(null, 404);
    return data({
      ...row,
      listingByHand: row.mark?.listings[params.list] !== undefined,
      mark:
        row.mark === null
          ? null
          : {
              state: row.mark.state,
              reason: row.mark.reason,
              note: row.mark.note,
              tags: row.mark.tags,
              candidateId: row.mark.candidateId,
              soldPack: row.mark.soldPack,
              boughtPack: row.mark.boughtPack,
            },
    });
  } catch (e) {
    if (e instanceof ScreeningAway) throw data(null, 503);
    throw e;
  }
});
