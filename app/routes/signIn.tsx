import { Box, Button, Divider, Typography } from '@mui/material';
import { data, Form, redirect, useActionData, useLoaderData } from 'react-router';
import { forwardToAuth, safeTarget } from '../../server/auth/forward.ts';
import { personOf } from '../../server/auth/session.ts';
import { env } from '../../server/env.ts';
import { enterDemo } from '../../server/use/demo.ts';
import { signInForm } from '../../core/workspace/people.ts';
import type { AccountAnswer } from '../features/account/AccountForm.tsx';
import { notYet, readForm } from '../ui/forms.ts';
import { AccountForm, AccountPage, TextLink } from '../features/account/AccountForm.tsx';
import type { Route } from './+types/signIn.ts';
import { answering } from '../answers.ts';
import { useWords } from '../ui/useWords.ts';

export const loader = answering(async ({ request }: Route.LoaderArgs) => {
  const to = safeTarget(new URL(request.url).searchParams.get('to'));
  if ((await personOf(request)) !== null) throw redirect(to);
  return { demo: env().BM_DEMO === '1', to };
});

export const action = answering(async ({ request }: Route.ActionArgs) => {
  const form = await request.formData();
  const to = safeTarget(String(form.get('to') ?? '/'));
  const sent = form.get('intent') === 'demo' ? null : readForm(form, signInForm);
  if (sent !== null && sent.status !== 'success') return data(notYet(sent), 422);
  const answer =
    sent === null ? await enterDemo(request) : await forwardToAuth(request, '/sign-in/email', sent.value);
  if (!answer.ok) return data({ code: answer.code }, { status: 400 });
  throw redirect(to, { headers: answer.cookies });
});

export default function SignIn() {
  const { t } = useWords();
  const { demo, to } = useLoaderData<typeof loader>();
  const said = useActionData<AccountAnswer>();
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
        schema={signInForm}
        said={said}
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
