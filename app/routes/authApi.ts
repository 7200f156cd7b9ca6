import { auth } from '../../server/auth/auth.ts';
import { counted } from '../../server/auth/tries.ts';
import { jsonIn } from '../jsonIn.ts';
import type { Route } from './+types/authApi.ts';
import { answering } from '../answers.ts';

export const loader = ({ request }: Route.LoaderArgs) => auth().handler(request);

/** The sign-in service as it stands; what checks a password is counted here as by our own forms. */
export const action = answering(async ({ request }: Route.ActionArgs) => {
  const path = new URL(request.url).pathname.replace(/^\/api\/auth/, '').replace(/\/+$/, '');
  const body = jsonIn(await request.clone().text());
  return counted(
    path,
    request.headers,
    typeof body === 'object' && body !== null ? (body as Record<string, unknown>) : {},
    () => auth().handler(request),
  );
});
