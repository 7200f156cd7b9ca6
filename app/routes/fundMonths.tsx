import { useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { answering } from '../answers.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { AllMonths } from '../features/fund/AllMonths.tsx';
import { readAgainFor } from '../readAgain.ts';
import { purseSource } from './purseSource.ts';
import type { Route } from './+types/fundMonths.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) =>
  purseSource(await enterWorkspace(request, params.workspace)),
);
export const shouldRevalidate = readAgainFor();

export const meta: Route.MetaFunction = () => [{ title: 'All launches · Bold Margin' }];

export default function FundMonths() {
  const source = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <AllMonths source={source} base={`/w/${head.slug}`} />;
}
