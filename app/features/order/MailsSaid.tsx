/** What became of the mails about something; one that did not go, or of which nobody knows, can be sent again. */
import { Alert, Button, Link as MuiLink } from '@mui/material';
import { useFormat } from '../../ui/locale.ts';
import type { MailsShown } from './orderPage.ts';
import { useMailWatch } from './useMailWatch.ts';
import { useWords } from '../../ui/useWords.ts';

const SEVERITY = {
  failed: 'error',
  unsure: 'warning',
  waiting: 'info',
  sending: 'info',
  sent: 'info',
} as const;

export function MailsSaid({
  mails,
  mailbox,
  again,
}: Pick<MailsShown, 'mails' | 'mailbox'> & { again: (() => void) | null }) {
  const { t } = useWords();
  const f = useFormat();
  useMailWatch(mails);
  return (
    <>
      {mails.map((m) => (
        <Alert
          key={m.id}
          severity={SEVERITY[m.state]}
          sx={{ my: 0.5, py: 0 }}
          action={
            (m.state === 'failed' || m.state === 'unsure') &&
            again !== null && (
              <Button size="small" onClick={again}>
                {t('order.mailAgain')}
              </Button>
            )
          }>
          {t(`order.mailState.${m.state}`, { to: m.to, day: f.day(m.at.slice(0, 10)) })} {m.error}
        </Alert>
      ))}
      {mails.length > 0 && mailbox !== null && (
        <MuiLink href={mailbox} target="_blank" rel="noreferrer" sx={{ fontSize: '0.86rem' }}>
          {t('order.mailbox')}
        </MuiLink>
      )}
    </>
  );
}
