import { Link, MenuItem, Stack, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { data, Form, redirect, useActionData, useLoaderData, useNavigation } from 'react-router';
import { z } from 'zod';
import { Button } from '@mui/material';
import { WAYS } from '../../core/lane/choices.ts';
import { country, currency } from '../../core/money/schema.ts';
import { CURRENCY_OF } from '../../core/money/iso.ts';
import { needPerson, workspacesOf } from '../../server/auth/session.ts';
import { createWorkspace, isWorkspaceDeleted } from '../../server/use/workspaces.ts';
import { AccountPage } from '../features/account/AccountForm.tsx';
import { useCountries, useCurrencies } from '../ui/names.ts';
import { SearchChoice } from '../ui/SearchChoice.tsx';
import type { Route } from './+types/home.ts';
import { answering } from '../answers.ts';
import { useWords } from '../ui/useWords.ts';

export const loader = answering(async ({ request }: Route.LoaderArgs) => {
  const person = await needPerson(request);
  const url = new URL(request.url);
  if (!url.searchParams.has('new'))
    for (const w of await workspacesOf(person.id))
      if (!(await isWorkspaceDeleted(w.id))) throw redirect(`/w/${w.slug}/weigh`);
  return { name: person.name };
});

const input = z.object({
  name: z.string().trim().min(1).max(80),
  country,
  currency,
  registered: z.enum(['registered', 'notRegistered']),
  cash: z.string().optional(),
});

export const action = answering(async ({ request }: Route.ActionArgs) => {
  await needPerson(request);
  const parsed = input.safeParse(Object.fromEntries(await request.formData()));
  if (!parsed.success)
    return data({ error: parsed.error.issues[0]?.path[0]?.toString() ?? 'name' }, { status: 400 });
  const { name, country: home, currency: homeCurrency, registered } = parsed.data;
  const made = await createWorkspace(request.headers, name, {
    homeCurrency,
    homeCountry: home,
    standings: { [home]: { kind: registered } },
    ways: [...WAYS],
  });
  throw redirect(`/w/${made.slug}/weigh`);
});

export default function Welcome() {
  const { t } = useWords();
  const { name } = useLoaderData<typeof loader>();
  const [countries, currencies] = [useCountries(), useCurrencies()];
  const [home, setHome] = useState('DE');
  const [money, setMoney] = useState('EUR');
  const failed = useActionData<typeof action>();
  const busy = useNavigation().state !== 'idle';
  return (
    <AccountPage title={t('welcome.title', { name })} lead={t('welcome.lead')}>
      <Form method="post">
        <Stack spacing={2}>
          <TextField
            name="name"
            label={t('welcome.name')}
            required
            error={failed?.error === 'name'}
            slotProps={{ inputLabel: { required: false } }}
          />
          <SearchChoice
            name="country"
            label={t('welcome.country')}
            value={home}
            options={countries}
            onChange={(c) => {
              setHome(c);
              setMoney(CURRENCY_OF[c] ?? money);
            }}
            width="100%"
          />
          <SearchChoice
            name="currency"
            label={t('welcome.currency')}
            value={money}
            options={currencies}
            onChange={setMoney}
            width="100%"
          />
          <TextField
            select
            name="registered"
            label={t('welcome.standing')}
            defaultValue="registered"
            helperText={t('welcome.standingHelp')}>
            <MenuItem value="registered">{t('standing.registered')}</MenuItem>
            <MenuItem value="notRegistered">{t('standing.notRegistered')}</MenuItem>
          </TextField>
          <Button type="submit" variant="contained" size="large" disabled={busy}>
            {t('welcome.create')}
          </Button>
          <Typography variant="body2" color="text.secondary">
            {t('welcome.cards')}{' '}
            <Link href="/account" color="inherit">
              {t('account.title')}
            </Link>
          </Typography>
        </Stack>
      </Form>
    </AccountPage>
  );
}
