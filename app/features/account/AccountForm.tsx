import { Alert, Box, Button, Link, Stack, TextField, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { Form, useNavigation } from 'react-router';
import type { z } from 'zod';
import { useRecordForm } from '../../ui/forms.ts';
import type { FormAnswer } from '../../ui/forms.ts';
import { Logo } from '../../ui/Logo.tsx';
import { useWords } from '../../ui/useWords.ts';

export type FormField = {
  name: string;
  label: string;
  type?: 'text' | 'email' | 'password';
  autoComplete?: string;
  help?: string;
};

/** The pages before the workspace: a heading, a short form, one button. */
export function AccountPage({
  title,
  lead,
  children,
}: {
  title: string;
  lead?: string;
  children: ReactNode;
}) {
  return (
    <Box
      component="main"
      sx={{ minHeight: '100vh', display: 'grid', gridTemplateColumns: { xs: '1fr', md: '5fr 6fr' } }}>
      <Box
        sx={{
          bgcolor: 'paperTint',
          p: { xs: 3, md: 8 },
          display: 'flex',
          flexDirection: 'column',
          justifyContent: 'space-between',
          gap: 4,
        }}>
        <Logo label />
        <Hero />
        <span />
      </Box>
      <Box
        sx={{
          p: { xs: 3, md: 8 },
          display: 'flex',
          flexDirection: 'column',
          justifyContent: 'center',
          maxWidth: 560,
        }}>
        <Typography variant="h1" gutterBottom>
          {title}
        </Typography>
        {lead !== undefined && (
          <Typography color="text.secondary" sx={{ mb: 3 }}>
            {lead}
          </Typography>
        )}
        {children}
      </Box>
    </Box>
  );
}

function Hero() {
  const { t } = useWords();
  return (
    <Box>
      <Typography
        variant="h1"
        component="p"
        sx={{ fontSize: { xs: '1.6rem', md: '2.6rem' }, lineHeight: 1.12, maxWidth: 460 }}>
        {t('account.hero')}
      </Typography>
      <Typography sx={{ mt: 2, maxWidth: 420 }} color="text.secondary">
        {t('account.heroText')}
      </Typography>
    </Box>
  );
}

/** What an account's form was answered: how it went, by its code, or what is wrong with its fields. */
export type AccountAnswer = FormAnswer & { readonly code?: string };

export function AccountForm({
  schema,
  fields,
  button,
  said,
  hidden = {},
  children,
}: {
  schema: z.ZodType<object>;
  fields: FormField[];
  button: string;
  said: AccountAnswer | undefined;
  hidden?: Record<string, string>;
  children?: ReactNode;
}) {
  const { t } = useWords();
  const busy = useNavigation().state !== 'idle';
  const form = useRecordForm(schema, said);
  const failed = said?.code !== undefined && said.code !== 'done';
  return (
    <Form method="post" {...form.props}>
      <Stack spacing={2}>
        {failed && (
          <Alert severity="error" role="alert">
            {t([`account.errors.${said.code}`, 'account.errors.FAILED'])}
          </Alert>
        )}
        {Object.entries(hidden).map(([name, value]) => (
          <input key={name} type="hidden" name={name} value={value} />
        ))}
        {fields.map((f) => {
          const { begins, wrong } = form.field(f.name);
          return (
            <TextField
              key={f.name}
              id={f.name}
              name={f.name}
              label={f.label}
              type={f.type ?? 'text'}
              autoComplete={f.autoComplete}
              required
              defaultValue={f.type === 'password' ? undefined : begins}
              error={wrong !== undefined}
              helperText={wrong ?? f.help}
              slotProps={{ inputLabel: { required: false } }}
            />
          );
        })}
        <Button type="submit" variant="contained" size="large" disabled={busy}>
          {button}
        </Button>
        {children}
      </Stack>
    </Form>
  );
}

export function TextLink({ to, children }: { to: string; children: ReactNode }) {
  return (
    <Link href={to} color="inherit">
      {children}
    </Link>
  );
}
