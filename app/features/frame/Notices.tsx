import { Badge, Box, Button, IconButton, Typography } from '@mui/material';
import { Popover } from '../../ui/later.tsx';
import BellIcon from '@mui/icons-material/MailOutlined';
import { useEffect, useState } from 'react';
import { Link, useFetcher } from 'react-router';
import type { Notice } from '../../../core/workspace/notices.ts';
import { useFormat } from '../../ui/locale.ts';
import { noticeSaid } from './noticeSaid.ts';
import { useWords } from '../../ui/useWords.ts';

type Task = { id: string; kind: string; state: string; done: number; total: number; changed: number };
type Shown = Omit<Notice, 'at'> & { at: string; read: boolean };
const QUIET_MS = 45_000;
const BUSY_MS = 1500;

/** What long work is doing, and what has happened that one should know. */
export function Notices({ base }: { base: string }) {
  const { t } = useWords();
  const f = useFormat();
  const { load, data } = useFetcher<{ tasks: Task[]; notices: Shown[] }>({ key: 'pulse' });
  const act = useFetcher();
  const [open, setOpen] = useState<HTMLElement | null>(null);
  const working = (data?.tasks ?? []).filter((x) => x.state === 'waiting' || x.state === 'running');
  const busy = working.length > 0;
  useEffect(() => {
    void load(`${base}/pulse`);
    const timer = setInterval(
      () => document.visibilityState === 'visible' && void load(`${base}/pulse`),
      busy ? BUSY_MS : QUIET_MS,
    );
    return () => clearInterval(timer);
  }, [load, base, busy]);
  const unread = (data?.notices ?? []).filter((n) => !n.read).length;
  const close = (): void => {
    setOpen(null);
    if (unread > 0) void act.submit({ intent: 'read' }, { method: 'post', action: `${base}/pulse` });
  };
  const at = (x: Task): string =>
    x.kind === 'readList' || x.kind === 'checkList' || x.kind === 'readReport'
      ? t(`notices.${x.kind}`, { done: f.number(x.done, 0) })
      : x.kind === 'watchMarkets'
        ? t('notices.watchMarkets', { done: f.number(x.done), total: f.number(x.total) })
        : x.kind === 'solvePurse'
          ? t('notices.solvePurse')
          : x.kind === 'holdAgainstCards'
            ? t('notices.holdAgainstCards')
            : x.total === 0
              ? t('notices.looking')
              : t('notices.working', { done: f.number(x.done), total: f.number(x.total) });
  return (
    <>
      {working.map((x) => (
        <Box key={x.id} component="span" role="status" sx={{ display: { xs: 'none', md: 'inline' } }}>
          {at(x)}
        </Box>
      ))}
      <IconButton
        size="small"
        onClick={(e) => setOpen(e.currentTarget)}
        aria-label={unread > 0 ? t('notices.unread', { count: unread }) : t('notices.title')}
        aria-haspopup="dialog">
        <Badge badgeContent={unread} color="primary" max={99}>
          <BellIcon fontSize="small" />
        </Badge>
      </IconButton>
      <Popover
        open={open !== null}
        anchorEl={open}
        onClose={close}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{
          paper: {
            role: 'dialog',
            'aria-label': t('notices.title'),
            sx: { p: 2, width: 400, maxHeight: 460 },
          },
        }}>
        <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
          {t('notices.title')}
        </Typography>
        {working.map((x) => (
          <Box key={x.id} sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: '0.88rem', mb: 1 }}>
            {at(x)}{' '}
            <Button
              size="small"
              onClick={() =>
                void act.submit({ intent: 'cancel', id: x.id }, { method: 'post', action: `${base}/pulse` })
              }>
              {t('cancel')}
            </Button>
          </Box>
        ))}
        {(data?.notices ?? []).length === 0 && (
          <Typography variant="body2" color="text.secondary">
            {t('notices.none')}
          </Typography>
        )}
        {(data?.notices ?? []).map((n) => (
          <Box
            key={n.id}
            component={Link}
            to={`${base}${n.link}`}
            onClick={close}
            sx={{
              display: 'block',
              color: 'text.primary',
              textDecoration: 'none',
              fontSize: '0.88rem',
              py: 0.75,
              borderTop: '1px solid',
              borderColor: 'hairline',
              fontWeight: n.read ? 400 : 650,
            }}>
            {noticeSaid(n, t, f)}{' '}
            <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
              {f.dayShort(n.at.slice(0, 10))}
            </Box>
          </Box>
        ))}
        <Box sx={{ mt: 1.5, fontSize: '0.84rem' }}>
          <Link to={`${base}/settings#notices`} onClick={close}>
            {t('notices.byMail')}
          </Link>
        </Box>
      </Popover>
    </>
  );
}
