import { Button, Stack, Typography } from '@mui/material';
import { data, Form, redirect, useActionData, useLoaderData } from 'react-router';
import { forwardToAuth } from '../../server/auth/forward.ts';
import { needPerson } from '../../server/auth/session.ts';
import { invitationAt } from '../../server/use/members.ts';
import { AccountPage } from '../features/account/AccountForm.tsx';
import type { Route } from './+types/invitation.ts';
import { answering } from '../answers.ts';
import { useWords } from '../ui/useWords.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const person = await needPerson(request);
  const found = await invitationAt(params.id);
  const state =
    found === null || found.status !== 'pending' || found.expiresAt < new Date()
      ? 'over'
      : found.email.toLowerCase() !== person.email.toLowerCase()
        ? 'other'
        : 'open';
  // Whom it was for, and to where, is for the invited alone.
  return {
    state,
    name: state === 'open' ? (found?.name ?? '') : '',
    role: state === 'open' ? (found?.role ?? '') : '',
    email: person.email,
  };
});

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  await needPerson(request);
  const answer = await forwardToAuth(request, '/organization/accept-invitation', { invitationId: params.id });
  if (!answer.ok) return data({ code: answer.code }, { status: 400 });
  throw redirect(`/w/${(await invitationAt(params.id))?.slug ?? ''}`);
});

export default function Invitation() {
  const { t } = useWords();
  const { state, name, role, email } = useLoaderData<typeof loader>();
  const failed = useActionData<typeof action>();
  return (
    <AccountPage
      title={state === 'open' ? t('invitation.title', { name }) : t('invitation.closed')}
      lead={t(`invitation.${state}`, { email, role: t(`roles.${role || 'viewer'}`) })}>
      <Form method="post">
        <Stack spacing={2}>
          {failed && (
            <Typography role="alert" color="error">
              {t('account.errors.FAILED')}
            </Typography>
          )}
          {state === 'open' && (
            <Button type="submit" variant="contained" size="large">
              {t('invitation.accept')}
            </Button>
          )}
        </Stack>
      </Form>
    </AccountPage>
  );
}
