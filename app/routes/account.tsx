import { Alert, Box, Container, Divider, Typography } from '@mui/material';
import { data, useActionData, useLoaderData } from 'react-router';
import { forwardToAuth } from '../../server/auth/forward.ts';
import { needPerson, workspacesOf } from '../../server/auth/session.ts';
import { changePasswordForm } from '../../core/workspace/people.ts';
import type { AccountAnswer } from '../features/account/AccountForm.tsx';
import { notYet, readForm } from '../ui/forms.ts';
import { AccountForm, TextLink } from '../features/account/AccountForm.tsx';
import { Logo } from '../ui/Logo.tsx';
import type { Route } from './+types/account.ts';
import { answering } from '../answers.ts';
import { useWords } from '../ui/useWords.ts';

export const loader = answering(async ({ request }: Route.LoaderArgs) => {
  const person = await needPerson(request);
  return { person, workspaces: await workspacesOf(person.id) };
});

export const action = answering(async ({ request }: Route.ActionArgs) => {
  await needPerson(request);
  const form = await request.formData();
  const sent = readForm(form, changePasswordForm);
  if (sent.status !== 'success') return data(notYet(sent), 422);
  const answer = await forwardToAuth(request, '/change-password', {
    currentPassword: sent.value.current,
    newPassword: sent.value.password,
    revokeOtherSessions: true,
  });
  return data(
    { code: answer.ok ? 'done' : answer.code },
    { status: answer.ok ? 200 : 400, headers: answer.cookies },
  );
});

export default function Account() {
  const { t } = useWords();
  const { person, workspaces } = useLoaderData<typeof loader>();
  const said = useActionData<AccountAnswer>();
  return (
    <Container component="main" maxWidth="sm" sx={{ py: 6 }}>
      <Logo label />
      <Typography variant="h1" sx={{ mt: 4 }}>
        {person.name}
      </Typography>
      <Typography color="text.secondary">{person.email}</Typography>
      <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
        {t('account.workspaces')}
      </Typography>
      <Box component="ul" sx={{ pl: 2, my: 0 }}>
        {workspaces.map((w) => (
          <li key={w.id}>
            <TextLink to={`/w/${w.slug}`}>{w.name}</TextLink> ({t(`roles.${w.role}`)})
          </li>
        ))}
      </Box>
      <Typography sx={{ mt: 1 }}>
        <TextLink to="/?new=1">{t('account.newWorkspace')}</TextLink>
      </Typography>
      <Divider sx={{ my: 4 }} />
      <Typography variant="h2" sx={{ mb: 2 }}>
        {t('account.changePassword')}
      </Typography>
      {said?.code === 'done' && (
        <Alert severity="info" sx={{ mb: 2 }}>
          {t('account.passwordChanged')}
        </Alert>
      )}
      <AccountForm
        schema={changePasswordForm}
        said={said}
        button={t('account.changePassword')}
        fields={[
          {
            name: 'current',
            label: t('account.currentPassword'),
            type: 'password',
            autoComplete: 'current-password',
          },
          {
            name: 'password',
            label: t('account.newPassword'),
            type: 'password',
            autoComplete: 'new-password',
            help: t('account.passwordHelp'),
          },
        ]}
      />
    </Container>
  );
}
