import { Typography } from '@mui/material';
import { useTranslation } from 'react-i18next';
import { data, redirect, useActionData, useLoaderData } from 'react-router';
import { forwardToAuth, safeTarget } from '../../server/auth/forward.ts';
import { AccountForm, AccountPage, TextLink } from '../features/account/AccountForm.tsx';
import type { Route } from './+types/signUp.ts';
import { answering } from '../answers.ts';

export const loader = ({ request }: Route.LoaderArgs) => ({
  to: safeTarget(new URL(request.url).searchParams.get('to')),
});

export const action = answering(async ({ request }: Route.ActionArgs) => {
  const form = await request.formData();
  const answer = await forwardToAuth(request, '/sign-up/email', {
    name: String(form.get('name') ?? '').trim(),
    email: String(form.get('email') ?? '').trim(),
    password: String(form.get('password') ?? ''),
  });
  if (!answer.ok) return data({ code: answer.code }, { status: 400 });
  throw redirect(safeTarget(String(form.get('to') ?? '/')), { headers: answer.cookies });
});

export default function SignUp() {
  const { t } = useTranslation();
  const { to } = useLoaderData<typeof loader>();
  const failed = useActionData<typeof action>();
  return (
    <AccountPage title={t('account.signUp')} lead={t('account.signUpLead')}>
      <AccountForm
        hidden={{ to }}
        error={failed ? t([`account.errors.${failed.code}`, 'account.errors.FAILED']) : null}
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
