import { Typography } from '@mui/material';
import { data, redirect, useActionData, useLoaderData } from 'react-router';
import { forwardToAuth, safeTarget } from '../../server/auth/forward.ts';
import { signUpForm } from '../../core/workspace/people.ts';
import type { AccountAnswer } from '../features/account/AccountForm.tsx';
import { notYet, readForm } from '../ui/forms.ts';
import { AccountForm, AccountPage, TextLink } from '../features/account/AccountForm.tsx';
import type { Route } from './+types/signUp.ts';
import { answering } from '../answers.ts';
import { useWords } from '../ui/useWords.ts';

export const loader = ({ request }: Route.LoaderArgs) => ({
  to: safeTarget(new URL(request.url).searchParams.get('to')),
});

export const action = answering(async ({ request }: Route.ActionArgs) => {
  const form = await request.formData();
  const sent = readForm(form, signUpForm);
  if (sent.status !== 'success') return data(notYet(sent), 422);
  const answer = await forwardToAuth(request, '/sign-up/email', sent.value);
  if (!answer.ok) return data({ code: answer.code }, { status: 400 });
  throw redirect(safeTarget(String(form.get('to') ?? '/')), { headers: answer.cookies });
});

export default function SignUp() {
  const { t } = useWords();
  const { to } = useLoaderData<typeof loader>();
  const said = useActionData<AccountAnswer>();
  return (
    <AccountPage title={t('account.signUp')} lead={t('account.signUpLead')}>
      <AccountForm
        hidden={{ to }}
        schema={signUpForm}
        said={said}
        button={t('account.signUp')}
        fields={[
          { name: 'name', label: t('account.name'), autoComplete: 'name' },
          { name: 'email', label: t('account.email'), type: 'email', autoComplete: 'username' },
          {
            name: 'password',
            label: t('account.password'),
            type: 'password',
            autoComplete: 'new-password',
            help: t('account.passwordHelp'),
          },
        ]}>
        <Typography>
          {t('account.haveAccount')}{' '}
          <TextLink to={`/sign-in?to=${encodeURIComponent(to)}`}>{t('account.signIn')}</TextLink>
        </Typography>
      </AccountForm>
    </AccountPage>
  );
}
