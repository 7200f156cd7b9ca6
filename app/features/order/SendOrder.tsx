/** The mail an order goes out with, looked over before it goes. */
import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useState } from 'react';
import { orderName } from '../../../core/orders/name.ts';
import { TextLine } from '../../ui/Field.tsx';
import type { ActOn, OrderShown } from './orderPage.ts';
import { useWords } from '../../ui/useWords.ts';

export function SendOrder({
  shown,
  from,
  act,
  onClose,
}: {
  shown: OrderShown;
  /** Who orders: the first line signs. */
  from: string;
  act: ActOn;
  onClose: () => void;
}) {
  const { t } = useWords();
  const { terms, number, edition } = shown;
  const name = orderName(number);
  const [to, setTo] = useState(terms.mail);
  const [subject, setSubject] = useState(t('order.subjectIs', { name }));
  const [text, setText] = useState(
    t('order.textIs', { name, supplier: terms.supplier, by: from.split('\n')[0] }),
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{t('order.sendTitle', { name, supplier: terms.supplier })}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5 }}>
        <TextLine label={t('order.mail')} value={to} onChange={setTo} width="100%" />
        <TextLine label={t('order.subject')} value={subject} onChange={setSubject} width="100%" />
        <TextLine
          label={t('order.text')}
          value={text}
          onChange={setText}
          multiline
          maxRows={12}
          maxLength={20_000}
          width="100%"
        />
        <Box sx={{ color: 'text.secondary', fontSize: '0.84rem' }}>{t('order.attached')}</Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t('cancel')}</Button>
        <Button
          variant="contained"
          disabled={to.trim() === ''}
          onClick={() => {
            act({ intent: 'send', edition, to: to.trim(), subject, text });
            onClose();
          }}>
          {t('order.sendNow')}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
