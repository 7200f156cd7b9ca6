import { data } from 'react-router';
import { z } from 'zod';
import { listQuery } from '../../core/lists/query.ts';
import { LIST_FIGURES } from '../../core/lists/figures.ts';
import { listSettings } from '../../core/lists/settings.ts';
import { MOST_AHEAD } from '../../between/ask.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { askAhead, askList, ScreeningAway } from '../../server/screening/client.ts';
import { moreOf } from '../../server/use/goods.ts';
import { loadList } from '../../server/use/lists.ts';
import type { Route } from './+types/listAsk.ts';
import { answering, unfit } from '../answers.ts';
import { workShown } from '../workShown.ts';

const asked = z.object({
  query: listQuery,
  show: z.enum(['kept', 'removed']).default('kept'),
  from: z.number().int().min(0).max(1e8).default(0),
  count: z.number().int().min(0).max(500).default(100),
  /** Assumptions that are tried and not yet saved. */
  settings: listSettings.nullable().default(null),
  remedies: z.boolean().default(true),
  figures: z.array(z.enum(LIST_FIGURES)).max(30).default([]),
  facets: z.boolean().default(false),
  /** Rows in view, by their lines: what they come to is answered ahead of the whole list. */
  ahead: z.array(z.number().int()).max(MOST_AHEAD).optional(),
  /** Whether columns kept as they are, links and pictures are shown. */
  more: z.boolean().default(false),
});

/** A window of a list under a query and assumptions; read only. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const body = asked.safeParse(await request.json().catch(() => null));
  if (!body.success) return unfit(body.error);
  const { settings, more, ahead, ...rest } = body.data;
  const wanted = { ...rest, asker: entry.person.id };
  const page = await loadList(entry.workspaceId, params.list, settings);
  if (page === null) throw data(null, 404);
  try {
    if (ahead !== undefined)
      return data({ ahead: await askAhead(entry.workspaceId, page, wanted, ahead, request.signal) });
    const answer = await askList(entry.workspaceId, page, wanted, request.signal);
    const extra =
      more && page.shown !== null
        ? await moreOf(
            entry.workspaceId,
            page.shown.id,
            answer.window.map((r) => r.line),
          )
        : null;
    const newest = page.work.find((w) => w.kind === 'readList');
    return data({
      ...answer,
      window:
        extra === null ? answer.window : answer.window.map((r) => ({ ...r, more: extra.get(r.line) ?? {} })),
      work: newest === undefined ? null : workShown(newest),
    });
  } catch (e) {
    if (e instanceof ScreeningAway) return data({ away: true as const }, 503);
    throw e;
  }
});
