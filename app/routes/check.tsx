import { redirect, useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { checkKit } from '../../server/use/checks.ts';
import { CheckPage } from '../features/check/CheckPage.tsx';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { answering } from '../answers.ts';
import type { Route } from './+types/check.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const kit = await checkKit(entry.workspaceId);
  if (kit === null) throw redirect(`/w/${entry.slug}`);
  return { kit, person: entry.person.id };
});

export const meta: Route.MetaFunction = () => [{ title: 'Quick check · Bold Margin' }];
/** What a device has at hand stays as it is while it is used; it is read anew when the page is opened. */
export const shouldRevalidate = (): boolean => false;

export default function Check() {
  const { kit, person } = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <CheckPage kit={kit} person={person} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
