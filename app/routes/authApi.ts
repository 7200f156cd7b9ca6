import { auth } from '../../server/auth/auth.ts';
import type { Route } from './+types/authApi.ts';

export const loader = ({ request }: Route.LoaderArgs) => auth().handler(request);
export const action = ({ request }: Route.ActionArgs) => auth().handler(request);
