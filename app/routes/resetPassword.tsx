import { Typography } from '@mui/material';
import { data, useActionData, useLoaderData } from 'react-router';
import { forwardToAuth } from '../../server/auth/forward.ts';
import { setPasswordForm } from '../../core/workspace/people.ts';
import type { AccountAnswer } from '../features/account/AccountForm.tsx';
import { notYet, readForm } from '../ui/forms.ts';
import { AccountForm, AccountPage, TextLink } from '../features/account/AccountForm.tsx';
import type { Route } from './+types/resetPassword.ts';
import { answering } from '../answers.ts';
import { useWords } from '../ui/useWords.ts';

export const loader = ({ request }: Route.LoaderArgs) => ({
  token: new URL(request.url).searchParams.get('token') ?? '',
});

export const action = answering(async ({ request }: Route.ActionArgs) => {
  const form = await request.formData();
  const sent = readForm(form, setPasswordForm);
  if (sent.status !== 'success') return data(notYet(sent), 422);
  const answer = await forwardToAuth(request, '/reset-password', {
    token: String(form.get('token') ?? ''),
    newPassword: sent.value.password,
  });
  return data({ code: answer.ok ? 'done' : answer.code }, { status: answer.ok ? 200 : 400 });
});

export default function ResetPassword() {
  const { t } = useWords();
  const { token } = useLoaderData<typeof loader>();
  const said = useActionData<AccountAnswer>();
  if (said?.code === 'done')
    return (
      <AccountPage title={t('account.resetDone')}>
        <Typography>
          <TextLink to="/sign-in">{t('account.signIn')}</TextLink>
        </Typography>
      </AccountPage>
    );
  return (
    <AccountPage title={t('account.reset')} lead={t('account.resetLead')}>
      <AccountForm
        hidden={{ token }}
        schema={setPasswordForm}
        said={said}
        button={t('account.resetButton')}
        fields={[
          {
            name: 'password',
            label: t('account.newPassword'),
            type: 'password',
            autoComplete: 'new-password',
            help: t('account.passwordHelp'),
          },
        ]}
      />
    </AccountPage>
  );
}
