import { redirect } from 'react-router';
import { forwardToAuth } from '../../server/auth/forward.ts';
import type { Route } from './+types/signOut.ts';
import { answering } from '../answers.ts';

export const action = answering(async ({ request }: Route.ActionArgs) => {
  const answer = await forwardToAuth(request, '/sign-out', {});
  throw redirect('/sign-in', { headers: answer.cookies });
});

export const loader = () => redirect('/');
