import { savedAs } from '../../server/files/names.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { exportWorkspace } from '../../server/use/workspaces.ts';
import type { Route } from './+types/exportWorkspace.ts';
import { answering } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const body = JSON.stringify(await exportWorkspace(entry.workspaceId, entry.name), null, 1);
  return new Response(body, {
    headers: {
      'content-type': 'application/json; charset=utf-8',
      ...savedAs(`${entry.slug}.json`),
      'cache-control': 'no-store',
    },
  });
});
