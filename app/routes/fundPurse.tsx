import { useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { purseAnswered } from '../../server/use/purse.ts';
import { answering } from '../answers.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { PursePage } from '../features/fund/PursePage.tsx';
import { readAgainFor } from '../readAgain.ts';
import { purseSource } from './purseSource.ts';
import type { Route } from './+types/fundPurse.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const source = await purseSource(entry);
  return { source, answered: await purseAnswered(entry.workspaceId, source) };
});
export const shouldRevalidate = readAgainFor();

export const meta: Route.MetaFunction = () => [{ title: 'One purse · Bold Margin' }];

export default function FundPurse() {
  const { source, answered } = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <PursePage
      source={source}
      answered={answered}
      canEdit={head.role !== 'viewer'}
      base={`/w/${head.slug}`}
    />
  );
}
