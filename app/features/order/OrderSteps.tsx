/** Where an order stands, what happened to it, and the ways it may go from here. */
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { ORDER_WAYS, stateBefore } from '../../../core/orders/states.ts';
import type { OrderState } from '../../../core/orders/schema.ts';
import type { OrderSaid } from '../../../core/orders/totals.ts';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { Confirmed } from './Confirmed.tsx';
import { SendOrder } from './SendOrder.tsx';
import { MailsSaid } from './MailsSaid.tsx';
import type { ActOn, MailsShown, OrderShown } from './orderPage.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = MailsShown & {
  shown: OrderShown;
  said: OrderSaid;
  names: Readonly<Record<string, string>>;
  from: string;
  act: ActOn;
  canEdit: boolean;
  /** Everything typed is saved: what goes out is what stands here. */
  isSaved: boolean;
};

export function OrderSteps({
  shown,
  said,
  names,
  mails,
  canMail,
  mailbox,
  from,
  act,
  canEdit,
  isSaved,
}: Props) {
  const { t } = useWords();
  const f = useFormat();
  const [asks, setAsks] = useState<'send' | 'confirmed' | null>(null);
  const { state, progress, edition } = shown;
  const go = (to: OrderState): void =>
    to === 'confirmed' ? setAsks('confirmed') : act({ intent: 'move', to, note: '', edition });
  const canGoBack = state !== 'draft' && (stateBefore(shown) !== null || state === 'cancelled');
  return (
    <Pane title={t('order.steps')}>
      {progress.steps.map((s) => (
        <Typography key={`${s.state}${s.at}`} variant="body2">
          {t('order.step', {
            state: t(`orderState.${s.state}`),
            day: f.day(s.at.slice(0, 10)),
            by: names[s.by] ?? t('order.somebody'),
          })}
          {s.note !== '' && `: ${s.note}`}
        </Typography>
      ))}
      <MailsSaid mails={mails} mailbox={mailbox} again={canEdit ? () => setAsks('send') : null} />
      {canEdit && (
        <Box className="no-print" sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }}>
          {state === 'draft' && canMail && (
            <Button
              variant="contained"
              disabled={!isSaved || shown.terms.lines.length === 0}
              onClick={() => setAsks('send')}>
              {t('order.send')}
            </Button>
          )}
          {ORDER_WAYS[state].map((to) => (
            <Button
              key={to}
              variant={to === 'cancelled' ? 'text' : 'outlined'}
              color={to === 'cancelled' ? 'inherit' : 'primary'}
              disabled={state === 'draft' && to === 'sent' && (!isSaved || shown.terms.lines.length === 0)}
              onClick={() => go(to)}>
              {t(`order.go.${to}`)}
            </Button>
          ))}
          {canGoBack && (
            <Button color="inherit" onClick={() => act({ intent: 'back', edition })}>
              {t(state === 'cancelled' ? 'order.reopen' : 'order.stepBack')}
            </Button>
          )}
        </Box>
      )}
      {state === 'draft' && !canMail && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
          {t('order.noMail')}
        </Typography>
      )}
      {asks === 'send' && <SendOrder shown={shown} from={from} act={act} onClose={() => setAsks(null)} />}
      {asks === 'confirmed' && (
        <Confirmed shown={shown} said={said} act={act} onClose={() => setAsks(null)} />
      )}
    </Pane>
  );
}
