/** Who belongs to the workspace, and who is asked to. */
import { Alert, Box, Button, MenuItem, TextField } from '@mui/material';
import { Form } from 'react-router';
import { ROLES, invitationForm } from '../../../core/workspace/people.ts';
import { useRecordForm } from '../../ui/forms.ts';
import type { FormAnswer } from '../../ui/forms.ts';
import { Section } from './Section.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  me: string;
  members: { id: string; userId: string; role: string; name: string; email: string }[];
  invitations: { id: string; email: string; role: string | null; link: string }[];
  said: (FormAnswer & { error: string | null; link: string | null }) | null;
  owner: boolean;
};

export function Members({ me, members, invitations, said, owner }: Props) {
  const { t } = useWords();
  return (
    <Section title={t('settings.members')} id="members">
      <Box sx={{ width: '100%' }}>
        {said?.error && (
          <Alert severity="error" sx={{ mb: 1 }}>
            {t([`settings.errors.${said.error}`, 'account.errors.FAILED'])}
          </Alert>
        )}
        {said?.link && (
          <Alert severity="info" sx={{ mb: 1, overflowWrap: 'anywhere' }}>
            {t('settings.resetLink')} <code>{said.link}</code>
          </Alert>
        )}
        {members.map((m) => (
          <Box
            key={m.id}
            sx={{
              display: 'flex',
              gap: 1.5,
              alignItems: 'center',
              py: 0.5,
              flexWrap: 'wrap',
              borderBottom: '1px solid',
              borderColor: 'hairline',
            }}>
            <Box sx={{ minWidth: 240 }}>
              <b>{m.name}</b>{' '}
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {m.email}
              </Box>
            </Box>
            <span>{t(`roles.${m.role}`)}</span>
            {owner && m.userId !== me && (
              <>
                {ROLES.filter((r) => r !== m.role).map((r) => (
                  <Act
                    key={r}
                    intent="role"
                    id={m.id}
                    role={r}
                    label={t('settings.makeRole', { role: t(`roles.${r}`).toLowerCase() })}
                  />
                ))}
                <Act intent="resetLink" id={m.id} label={t('settings.makeReset')} />
                <Act intent="remove" id={m.id} label={t('line.remove')} />
              </>
            )}
          </Box>
        ))}
        {invitations.map((i) => (
          <Box
            key={i.id}
            sx={{
              py: 0.75,
              fontSize: '0.86rem',
              borderBottom: '1px solid',
              borderColor: 'hairline',
              overflowWrap: 'anywhere',
            }}>
            {t('settings.invited', { email: i.email, role: t(`roles.${i.role ?? 'viewer'}`).toLowerCase() })}{' '}
            <code>{i.link}</code> <Act intent="uninvite" id={i.id} label={t('settings.takeBack')} />
          </Box>
        ))}
        {owner && <Invite said={said ?? undefined} />}
      </Box>
    </Section>
  );
}

function Invite({ said }: { said: FormAnswer | undefined }) {
  const { t } = useWords();
  const form = useRecordForm(invitationForm, said);
  const { begins, wrong } = form.field('email');
  return (
    <Form method="post" {...form.props}>
      <Box sx={{ display: 'flex', gap: 1.5, mt: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <input type="hidden" name="intent" value="invite" />
        <TextField
          name="email"
          type="email"
          required
          label={t('settings.inviteEmail')}
          defaultValue={begins}
          error={wrong !== undefined}
          helperText={wrong}
          sx={{ width: 260 }}
          fullWidth={false}
          slotProps={{ inputLabel: { required: false } }}
        />
        <TextField
          select
          name="role"
          label={t('settings.role')}
          defaultValue="editor"
          sx={{ width: 130 }}
          fullWidth={false}>
          {ROLES.map((r) => (
            <MenuItem key={r} value={r}>
              {t(`roles.${r}`)}
            </MenuItem>
          ))}
        </TextField>
        <Button type="submit" variant="outlined">
          {t('settings.invite')}
        </Button>
      </Box>
    </Form>
  );
}

function Act({ intent, id, role, label }: { intent: string; id: string; role?: string; label: string }) {
  return (
    <Form method="post" style={{ display: 'inline' }} preventScrollReset>
      <input type="hidden" name="intent" value={intent} />
      <input type="hidden" name="id" value={id} />
      {role && <input type="hidden" name="role" value={role} />}
      <Button type="submit" size="small">
        {label}
      </Button>
    </Form>
  );
}
