/** What came in of an order, in parts, with what was damaged and what is still open. */
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { arrivedOf } from '../../../core/orders/states.ts';
import type { OrderSaid } from '../../../core/orders/totals.ts';
import { NumField, TextLine } from '../../ui/Field.tsx';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { NoteDialog } from './NoteDialog.tsx';
import { NotedLine } from './NotedLine.tsx';
import type { ActOn, OrderShown } from './orderPage.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = { shown: OrderShown; said: OrderSaid; act: ActOn; canEdit: boolean; today: string };

export function Arrivals({ shown, said, act, canEdit, today }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const [isOpen, setOpen] = useState(false);
  const { terms, progress, edition, state } = shown;
  const takes = state !== 'closed' && state !== 'cancelled';
  const sum = (of: (l: { units: number; damaged: number }) => number, at: number): number =>
    progress.receipts[at]?.lines.reduce((s, l) => s + of(l), 0) ?? 0;
  return (
    <Pane title={t('order.received')}>
      <FigureTable label={t('order.received')}>
        <thead>
          <tr>
            <th scope="col">{t('order.item')}</th>
            <th scope="col">{t('order.units')}</th>
            <th scope="col">{t('order.good')}</th>
            <th scope="col">{t('order.damaged')}</th>
            <th scope="col">{t('order.stillOpen')}</th>
          </tr>
        </thead>
        <tbody>
          {terms.lines.map((l) => {
            const { ordered, good, damaged, open } = arrivedOf(l, progress);
            return (
              <tr key={l.id}>
                <th scope="row" style={{ fontWeight: 500 }}>
                  <bdi>{l.name}</bdi>
                  {canEdit && good > 0 && l.laneId !== null && <Actual {...{ shown, said, act }} id={l.id} />}
                </th>
                <td>{f.number(ordered)}</td>
                <td>{f.number(good)}</td>
                <td className={damaged > 0 ? 'loss' : undefined}>{f.number(damaged)}</td>
                <td>
                  {open !== null && open < 0 ? t('order.more', { units: f.number(-open) }) : f.number(open)}
                </td>
              </tr>
            );
          })}
        </tbody>
      </FigureTable>
      {progress.receipts.map((r, i) => (
        <NotedLine
          key={r.id}
          onTakeBack={canEdit && takes ? () => act({ intent: 'dropReceipt', id: r.id, edition }) : null}>
          {t('order.receiptLine', {
            day: f.day(r.day),
            good: f.number(sum((l) => l.units, i)),
            damaged: f.number(sum((l) => l.damaged, i)),
          })}
          {r.note !== '' && `: ${r.note}`}
        </NotedLine>
      ))}
      {canEdit && takes && (
        <Button variant="outlined" sx={{ mt: 1 }} onClick={() => setOpen(true)}>
          {t('order.receive')}
        </Button>
      )}
      {isOpen && <Receive {...{ shown, act, today }} onClose={() => setOpen(false)} />}
    </Pane>
  );
}

/** What was paid, into the lane the goods were ordered for. */
function Actual({ shown, said, act, id }: Pick<Props, 'shown' | 'said' | 'act'> & { id: string }) {
  const { t } = useWords();
  const f = useFormat();
  const price = said.lines.find((l) => l.id === id)?.unitPrice ?? null;
  if (price === null) return null;
  return (
    <Box>
      <Button
        size="small"
        sx={{ minWidth: 0, py: 0, px: 0.5 }}
        onClick={() => act({ intent: 'actual', line: id, edition: shown.edition })}>
        {t('order.actual')} ({f.money(price, shown.terms.currency)})
      </Button>
    </Box>
  );
}

function Receive({
  shown,
  act,
  today,
  onClose,
}: Pick<Props, 'shown' | 'act' | 'today'> & { onClose: () => void }) {
  const { t } = useWords();
  const { terms, progress, edition } = shown;
  const [day, setDay] = useState(today);
  const [note, setNote] = useState('');
  const [lines, setLines] = useState(
    terms.lines.map((l): { id: string; units: number | null; damaged: number | null } => ({
      id: l.id,
      units: null,
      damaged: null,
    })),
  );
  const set = (id: string, some: object): void =>
    setLines(lines.map((l) => (l.id === id ? { ...l, ...some } : l)));
  const came = lines.filter((l) => (l.units ?? 0) > 0 || (l.damaged ?? 0) > 0);
  return (
    <NoteDialog
      title={t('order.receiveTitle')}
      width="sm"
      onNote={
        came.length === 0 || day === ''
          ? null
          : () =>
              act({
                intent: 'receive',
                edition,
                day,
                note,
                lines: came.map((l) => ({ line: l.id, units: l.units ?? 0, damaged: l.damaged ?? 0 })),
              })
      }
      onClose={onClose}>
      <TextLine label={t('order.day')} value={day} onChange={setDay} type="date" width={150} />
      <FigureTable label={t('order.receiveTitle')}>
        <thead>
          <tr>
            <th scope="col">{t('order.item')}</th>
            <th scope="col">{t('order.stillOpen')}</th>
            <th scope="col">{t('order.good')}</th>
            <th scope="col">{t('order.damaged')}</th>
          </tr>
        </thead>
        <tbody>
          {terms.lines.map((l) => (
            <tr key={l.id}>
              <th scope="row" style={{ fontWeight: 500 }}>
                <bdi>{l.name}</bdi>
              </th>
              <td>{arrivedOf(l, progress).open ?? '–'}</td>
              {(['units', 'damaged'] as const).map((k) => (
                <td key={k}>
                  <NumField
                    label={`${t(k === 'units' ? 'order.good' : 'order.damaged')}, ${l.name}`}
                    inTable
                    value={lines.find((x) => x.id === l.id)?.[k] ?? null}
                    onChange={(v) => set(l.id, { [k]: v })}
                    kind="number"
                    width={80}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </FigureTable>
      <TextLine label={t('order.noteHere')} value={note} onChange={setNote} width="100%" maxLength={1000} />
    </NoteDialog>
  );
}
