import { data } from 'react-router';
import { z } from 'zod';
import { listLook } from '../../core/lists/query.ts';
import { listSettings } from '../../core/lists/settings.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { keepRow, markChange, markGoods, tallyOf } from '../../server/use/goods.ts';
import { loadList } from '../../server/use/lists.ts';
import { removeView, saveLook, saveView } from '../../server/use/listViews.ts';
import { saveListSettings } from '../../server/use/listSetup.ts';
import { cancelTask } from '../../server/use/tasks.ts';
import type { Route } from './+types/listAct.ts';
import type { ListRow } from '../../between/ask.ts';
import { fillIn } from '../../words/index.ts';
import { listTerms } from '../locales/en.listTerms.ts';
import { listWords } from '../locales/en.lists.ts';
import { answering, unfit } from '../answers.ts';

const act = z.discriminatedUnion('what', [
  z.object({ what: z.literal('mark'), change: markChange }),
  z.object({
    what: z.literal('keep'),
    lines: z.array(z.number().int().min(1)).min(1).max(200),
    /** Sold units to order, where not the list's. */ quantity: z.number().int().min(1).max(1e9).optional(),
  }),
  z.object({ what: z.literal('settings'), settings: listSettings }),
  z.object({ what: z.literal('look'), look: listLook }),
  z.object({
    what: z.literal('saveView'),
    name: z.string().trim().min(1, 'viewNoName').max(80),
    look: listLook,
    assumptions: listSettings.shape.assumptions.nullable(),
  }),
  z.object({ what: z.literal('removeView'), id: z.string().max(100) }),
  z.object({ what: z.literal('cancel') }),
]);

/** What is noted of a row that becomes a candidate. */
const notesOf = (row: ListRow, list: string): string[] => [
  `${listTerms.listText.code} ${row.code}`,
  row.brand === '' ? '' : `${listTerms.listText.brand} ${row.brand}`,
  fillIn(listWords.list.keptFrom, { list, row: row.line }),
];

/** Everything that is decided on a list: marks, kept rows, assumptions, views. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const { workspaceId, person } = entry;
  const parsed = act.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const page = await loadList(workspaceId, params.list);
  if (page === null) throw data(null, 404);
  const a = parsed.data;
  let kept: string[] = [];
  switch (a.what) {
    case 'mark':
      await markGoods(workspaceId, page, a.change, person.id);
      break;
    case 'keep': {
      kept = [];
      for (const line of a.lines) {
        const id = await keepRow(workspaceId, page, line, person.id, notesOf, a.quantity ?? null);
        if (id !== null) kept.push(id);
      }
      break;
    }
    case 'settings':
      await saveListSettings(workspaceId, page.list.id, a.settings);
      break;
    case 'look':
      await saveLook(workspaceId, page.list.id, a.look);
      break;
    case 'saveView':
      await saveView(workspaceId, a.name, a.look, a.assumptions);
      break;
    case 'removeView':
      await removeView(workspaceId, a.id);
      break;
    case 'cancel':
      for (const w of page.work)
        if (w.state === 'waiting' || w.state === 'running') await cancelTask(workspaceId, w.id);
      break;
  }
  return data({ ok: true as const, kept, tally: await tallyOf(workspaceId, page.list.id) });
});
