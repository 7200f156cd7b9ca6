import { Box, Button, Divider, Typography } from '@mui/material';
import { useTranslation } from 'react-i18next';
import { data, Form, redirect, useActionData, useLoaderData } from 'react-router';
import { forwardToAuth, safeTarget } from '../../server/auth/forward.ts';
import { personOf } from '../../server/auth/session.ts';
import { env } from '../../server/env.ts';
import { enterDemo } from '../../server/use/demo.ts';
import { AccountForm, AccountPage, TextLink } from '../features/account/AccountForm.tsx';
import type { Route } from './+types/signIn.ts';
import { answering } from '../answers.ts';

export const loader = answering(async ({ request }: Route.LoaderArgs) => {
  const to = safeTarget(new URL(request.url).searchParams.get('to'));
  if ((await personOf(request)) !== null) throw redirect(to);
  return { demo: env().BM_DEMO === '1', to };
});

export const action = answering(async ({ request }: Route.ActionArgs) => {
  const form = await request.formData();
  const to = safeTarget(String(form.get('to') ?? '/'));
  const answer =
    form.get('intent') === 'demo'
      ? await enterDemo(request)
      : await forwardToAuth(request, '/sign-in/email', {
          email: String(form.get('email') ?? '').trim(),
          password: String(form.get('password') ?? ''),
        });
  if (!answer.ok) return data({ code: answer.code }, { status: 400 });
  throw redirect(to, { headers: answer.cookies });
});

export default function SignIn() {
  const { t } = useTranslation();
  const { demo, to } = useLoaderData<typeof loader>();
  const failed = useActionData<typeof action>();
  return (
    <AccountPage title={t('account.signIn')}>
      {demo && (
        <Box sx={{ mb: 3 }}>
          <Form method="post">
            <input type="hidden" name="intent" value="demo" />
            <input type="hidden" name="to" value={to} />
            <Button type="submit" variant="contained" color="primary" size="large" fullWidth>
              {t('account.enterDemo')}
            </Button>
          </Form>
          <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
            {t('account.demoText')}
          </Typography>
          <Divider sx={{ mt: 3 }}>{t('account.or')}</Divider>
        </Box>
      )}
      <AccountForm
        hidden={{ to }}
        error={failed ? t([`account.errors.${failed.code}`, 'account.errors.FAILED']) : null}
        button={t('account.signIn')}
        fields={[
          { name: 'email', label: t('account.email'), type: 'email', autoComplete: 'username' },
          {
            name: 'password',
            label: t('account.password'),
            type: 'password',
            autoComplete: 'current-password',
          },
        ]}>
        <Typography>
          {t('account.noAccount')}{' '}
          <TextLink to={`/sign-up?to=${encodeURIComponent(to)}`}>{t('account.signUp')}</TextLink>
        </Typography>
        <Typography variant="body2" color="text.secondary">
          {t('account.forgotten')}
        </Typography>
      </AccountForm>
    </AccountPage>
  );
}
