/** Payments that were made of an order, and what is still to pay. */
import { Button, Typography } from '@mui/material';
import { useState } from 'react';
import type { OrderSaid } from '../../../core/orders/totals.ts';
import { NumField, TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { NoteDialog } from './NoteDialog.tsx';
import { NotedLine } from './NotedLine.tsx';
import type { ActOn, OrderShown } from './orderPage.ts';
import { useWords } from '../../ui/useWords.ts';

export function Payments({
  shown,
  said,
  act,
  canEdit,
  today,
  home,
  open,
}: {
  shown: OrderShown;
  said: OrderSaid;
  act: ActOn;
  canEdit: boolean;
  today: string;
  home: string;
  /** Still to pay, in the order's currency. */
  open: number;
}) {
  const { t } = useWords();
  const f = useFormat();
  const [isOpen, setOpen] = useState(false);
  const { terms, progress, edition, state } = shown;
  const money = (x: number): string => f.money(x, terms.currency);
  return (
    <Pane title={t('order.payments')}>
      {progress.payments.map((p) => (
        <NotedLine
          key={p.id}
          onTakeBack={
            canEdit && state !== 'closed' ? () => act({ intent: 'dropPayment', id: p.id, edition }) : null
          }>
          {t(terms.currency === home ? 'order.paidLine' : 'order.paidLineHome', {
            day: f.day(p.day),
            amount: money(p.amount),
            home: f.money(p.home, home),
          })}
        </NotedLine>
      ))}
      <Typography variant="body2">
        {open === 0 && said.lacks.length === 0
          ? t('order.paidAll')
          : t('order.stillToPay', {
              amount: said.lacks.length > 0 ? t('orders.atLeast', { amount: money(open) }) : money(open),
            })}
      </Typography>
      {canEdit && state !== 'closed' && state !== 'cancelled' && (
        <Button variant="outlined" sx={{ mt: 1 }} onClick={() => setOpen(true)}>
          {t('order.pay')}
        </Button>
      )}
      {isOpen && <Pay {...{ shown, act, today, home }} onClose={() => setOpen(false)} />}
    </Pane>
  );
}

function Pay({
  shown,
  act,
  today,
  home,
  onClose,
}: {
  shown: OrderShown;
  act: ActOn;
  today: string;
  home: string;
  onClose: () => void;
}) {
  const { t } = useWords();
  const { currency } = shown.terms;
  const [day, setDay] = useState(today);
  const [amount, setAmount] = useState<number | null>(null);
  const [took, setTook] = useState<number | null>(null);
  const inHome = currency === home ? amount : took;
  return (
    <NoteDialog
      title={t('order.payTitle')}
      onNote={
        amount === null || amount <= 0 || inHome === null || day === ''
          ? null
          : () => act({ intent: 'pay', edition: shown.edition, day, amount, home: inHome })
      }
      onClose={onClose}>
      <TextLine label={t('order.day')} value={day} onChange={setDay} type="date" width={150} />
      <NumField
        label={t('order.amount', { currency })}
        value={amount}
        onChange={setAmount}
        kind="money"
        currency={currency}
        width={130}
      />
      {currency !== home && (
        <NumField
          label={t('order.tookFrom', { currency: home })}
          value={took}
          onChange={setTook}
          kind="money"
          currency={home}
          width={190}
        />
      )}
      <Typography variant="body2" color="text.secondary">
        {t('order.payText')}
      </Typography>
    </NoteDialog>
  );
}
