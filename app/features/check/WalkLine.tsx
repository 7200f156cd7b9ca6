/** The walk so far: how long, what was kept and left, what it adds up to; paused, gone on with, ended. */
import { Alert, Box, Button, Link as MuiLink, Typography } from '@mui/material';
import { Link } from 'react-router';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import type { Device } from './useDevice.ts';
import type { Walk } from './useWalk.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = { walk: Walk; device: Device; root: string; homeCurrency: string };

export function WalkLine({ walk, device, root, homeCurrency }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const { tally, session } = walk;
  const amount = bounds.of(f.money(tally.perMonthHome, homeCurrency), tally.lacks);
  const month =
    tally.kept === 0
      ? null
      : tally.unknown === tally.kept
        ? t('check.perMonthNone')
        : t(tally.unknown > 0 ? 'check.perMonthSome' : 'check.perMonth', { amount, unknown: tally.unknown });
  return (
    <Box sx={{ borderTop: '1px solid', borderColor: 'hairline', pt: 1, display: 'grid', gap: 0.75 }}>
      {session === null ? (
        <Typography variant="body2" color="text.secondary">
          {t('check.noWalk')}{' '}
          <MuiLink component={Link} to={`${root}/checks`}>
            {t('check.walks')}
          </MuiLink>
        </Typography>
      ) : (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'baseline', columnGap: 1.5 }}>
          <Typography data-testid="tally">
            {t('check.tally', { kept: tally.kept, left: tally.left })} ·{' '}
            {t('check.minutes', { count: Math.floor(walk.minutes) })}
            {walk.isPaused && `, ${t('check.paused')}`}
          </Typography>
          {month !== null && (
            <Typography
              sx={{
                ml: 'auto',
                color: tally.unknown === tally.kept ? 'text.secondary' : 'primary.main',
                fontWeight: 650,
              }}>
              {month}
            </Typography>
          )}
          <Box sx={{ width: '100%', display: 'flex', gap: 1 }}>
            <Button size="small" onClick={() => void walk.pause(!walk.isPaused)}>
              {t(walk.isPaused ? 'check.goOn' : 'check.pause')}
            </Button>
            <Button
              size="small"
              component={Link}
              to={`${root}/checks/${session.id}`}
              onClick={() => void walk.end()}>
              {t('check.end')}
            </Button>
            <Button size="small" component={Link} to={`${root}/checks`} sx={{ ml: 'auto' }}>
              {t('check.walks')}
            </Button>
          </Box>
        </Box>
      )}
      <Waiting device={device} root={root} />
    </Box>
  );
}

/** What only this device has, and how to take it along. */
function Waiting({ device, root }: { device: Device; root: string }) {
  const { t } = useWords();
  const { held, trouble } = device;
  const waiting = held.checks.filter((c) => !c.sent && c.refused === null);
  const refused = held.checks.filter((c) => c.refused !== null);
  const all = [...waiting, ...refused];
  const isStuck = trouble !== null && trouble !== 'offline';
  if (all.length === 0 && held.isSafe) return null;
  const takeAlong = (): void => {
    const text = JSON.stringify({
      format: 'bold-margin/checks',
      version: 1,
      sessions: held.session === null ? held.waiting.map((s) => s.data) : [held.session.data],
      checks: all.map((c) => c.data),
    });
    const url = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
    const link = document.createElement('a');
    link.href = url;
    link.download = 'checks.json';
    link.click();
    setTimeout(() => URL.revokeObjectURL(url), 10_000);
  };
  return (
    <Box sx={{ display: 'grid', gap: 0.75 }}>
      {!held.isSafe && <Alert severity="error">{t('check.noRoom')}</Alert>}
      {refused.length > 0 && (
        <Alert severity="error">
          {t('check.refusedSome', { count: refused.length, why: refused[0]?.refused })}
        </Alert>
      )}
      {waiting.length > 0 && (
        <Typography variant="body2" role="status" data-testid="waiting">
          {t('check.waiting', { count: waiting.length })}{' '}
          {trouble === 'signedOut' && (
            <MuiLink href={`/sign-in?to=${encodeURIComponent(`${root}/check`)}`}>{t('check.signIn')}</MuiLink>
          )}
          {isStuck && trouble !== 'signedOut' && t('check.refusedSend')}
        </Typography>
      )}
      {(all.length > 0 || !held.isSafe) && (
        <Box>
          <Button size="small" onClick={takeAlong}>
            {t('check.takeAlong')}
          </Button>
        </Box>
      )}
    </Box>
  );
}
