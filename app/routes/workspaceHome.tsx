import { redirect } from 'react-router';
import type { Route } from './+types/workspaceHome.ts';

export const loader = ({ params }: Route.LoaderArgs) => redirect(`/w/${params.workspace}/weigh`);
