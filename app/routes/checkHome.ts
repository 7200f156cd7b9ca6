import { redirect } from 'react-router';
import { needPerson, workspacesOf } from '../../server/auth/session.ts';
import { isWorkspaceDeleted } from '../../server/use/workspaces.ts';
import { answering } from '../answers.ts';
import type { Route } from './+types/checkHome.ts';

/** Where the installed quick check begins: with the first workspace of whoever opens it. */
export const loader = answering(async ({ request }: Route.LoaderArgs) => {
  const person = await needPerson(request);
  for (const w of await workspacesOf(person.id))
    if (!(await isWorkspaceDeleted(w.id))) throw redirect(`/w/${w.slug}/check`);
  throw redirect('/');
});
