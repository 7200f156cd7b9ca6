/** Bills of the way in: what the goods of an order cost beside their price, and how it is shared out. */
import { Button, Typography } from '@mui/material';
import { useRef, useState } from 'react';
import { BILL_KINDS, LARGEST_BILL_FILE, SHARED_BY } from '../../../core/orders/bills.ts';
import type { Bill } from '../../../core/orders/bills.ts';
import { ChoiceLine, NumField, TextLine } from '../../ui/Field.tsx';
import { FileField } from '../../ui/FileField.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { NoteDialog } from './NoteDialog.tsx';
import { NotedLine } from './NotedLine.tsx';
import type { ActOn, OrderShown } from './orderPage.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = { shown: OrderShown; act: ActOn; canEdit: boolean; today: string; home: string };

export function Bills({ shown, act, canEdit, today, home }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const [isOpen, setOpen] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const { progress, edition, state } = shown;
  return (
    <Pane title={t('order.bills')}>
      {progress.bills.map((b) => (
        <NotedLine
          key={b.id}
          onTakeBack={canEdit ? () => act({ intent: 'dropBill', id: b.id, edition }) : null}>
          {t('order.billLine', {
            day: f.day(b.day),
            kind: t(`lines.${b.kind}`),
            amount: f.money(b.amount, home),
            by: t(`order.sharedBy.${b.by}`),
          })}
          {b.note !== '' && `: ${b.note}`}
        </NotedLine>
      ))}
      {progress.bills.length === 0 && (
        <Typography variant="body2" color="text.secondary">
          {t('order.billsNone')}
        </Typography>
      )}
      {canEdit && state !== 'cancelled' && (
        <>
          <Button variant="outlined" sx={{ mt: 1, mr: 1 }} onClick={() => setOpen(true)}>
            {t('order.billNote')}
          </Button>
          <Button sx={{ mt: 1 }} onClick={() => file.current?.click()}>
            {t('order.billFile')}
          </Button>
          <Typography variant="body2" color="text.secondary">
            {t('order.billFileText')}
          </Typography>
          <FileField
            ref={file}
            label={t('order.billFile')}
            accept=".csv,.tsv,.txt"
            // A file that is too long is sent as far as it takes to be refused, not cut.
            onFile={(chosen) =>
              void chosen
                .text()
                .then((text) => act({ intent: 'bills', edition, text: text.slice(0, LARGEST_BILL_FILE + 1) }))
            }
          />
        </>
      )}
      {isOpen && <NoteBill {...{ shown, act, today, home }} onClose={() => setOpen(false)} />}
    </Pane>
  );
}

function NoteBill({ shown, act, today, home, onClose }: Omit<Props, 'canEdit'> & { onClose: () => void }) {
  const { t } = useWords();
  const [day, setDay] = useState(today);
  const [kind, setKind] = useState<Bill['kind']>('freight');
  const [by, setBy] = useState<Bill['by']>('value');
  const [amount, setAmount] = useState<number | null>(null);
  const [note, setNote] = useState('');
  return (
    <NoteDialog
      title={t('order.billNote')}
      onNote={
        amount === null || amount <= 0 || day === ''
          ? null
          : () =>
              act({ intent: 'bill', edition: shown.edition, day, kind, amount, by, note: note.slice(0, 200) })
      }
      onClose={onClose}>
      <TextLine label={t('order.day')} value={day} onChange={setDay} type="date" width={150} />
      <ChoiceLine
        label={t('order.billKind')}
        value={kind}
        onChange={(k) => setKind(k as Bill['kind'])}
        options={BILL_KINDS.map((k) => ({ value: k, label: t(`lines.${k}`) }))}
      />
      <NumField
        label={t('order.amount', { currency: home })}
        value={amount}
        onChange={setAmount}
        kind="money"
        currency={home}
        width={130}
      />
      <ChoiceLine
        label={t('order.billBy')}
        value={by}
        onChange={(b) => setBy(b as Bill['by'])}
        options={SHARED_BY.map((b) => ({ value: b, label: t(`order.sharedBy.${b}`) }))}
      />
      <TextLine label={t('order.billSays')} value={note} onChange={setNote} width={220} />
      <Typography variant="body2" color="text.secondary">
        {t('order.billText')}
      </Typography>
    </NoteDialog>
  );
}
