/** What a launch over time hangs on: order size and price tried, first day, how sales grow, reorders, VAT. */
import { Box, Button } from '@mui/material';
import { memo } from 'react';
import { dayText } from '../../../core/cash/calendar.ts';
import { daysBetween } from '../../../core/money/days.ts';
import { NumField, TextLine } from '../../ui/Field.tsx';
import { Pane } from '../weigh/Pane.tsx';
import { Dragged } from './Dragged.tsx';
import type { AheadPart } from './fundParts.tsx';
import { TermFields } from './TermFields.tsx';
import type { useTried } from './useTried.ts';
import { useWords } from '../../ui/useWords.ts';

type Trying = ReturnType<typeof useTried>;
type Attempt = Trying['attempt'];

export function CashForm({
  whole,
  set,
  orders,
  today,
  trying,
  view,
  canEdit,
}: AheadPart & { trying: Trying }) {
  const { t } = useWords();
  const { doc } = trying;
  return (
    <Pane title={t('overTime.plan')}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1.5, rowGap: 0.5 }}>
        <OrderSize
          quantity={doc.orderQuantity}
          stored={view.doc.orderQuantity}
          orders={orders}
          attempt={trying.attempt}
        />
        <Price price={doc.price} stored={view.doc.price} currency={doc.currency} attempt={trying.attempt} />
        {trying.isTried && (
          <Box role="status" sx={{ width: '100%', fontSize: '0.84rem' }}>
            {trying.wrong ?? t('overTime.tried')}{' '}
            {canEdit && (
              <Button size="small" onClick={() => void trying.takeOver()}>
                {t('overTime.takeOver')}
              </Button>
            )}
            <Button size="small" onClick={trying.giveBack}>
              {t('overTime.back2')}
            </Button>
          </Box>
        )}
        <FirstDay start={whole.start ?? today} today={today} set={set} />
        <TermFields terms={whole} set={set} />
      </Box>
    </Pane>
  );
}

// Each is drawn anew only where its own number changes: a key answers within a frame.

const OrderSize = memo(function OrderSize({
  quantity,
  stored,
  orders,
  attempt,
}: {
  quantity: number | null;
  stored: number | null;
  orders: AheadPart['orders'];
  attempt: Attempt;
}) {
  const { t } = useWords();
  return (
    <Dragged
      label={t('form.orderQuantity')}
      value={quantity ?? orders.first}
      min={orders.first}
      max={Math.max(orders.first * 10, (stored ?? orders.first) * 3)}
      step={orders.step}
      onDrag={(x) => attempt({ orderQuantity: x })}>
      <NumField
        label={t('form.orderQuantity')}
        value={quantity}
        onChange={(x) => attempt({ orderQuantity: x })}
        kind="number"
        min={1}
        max={1e9}
        step={orders.step}
        width="100%"
      />
    </Dragged>
  );
});

const Price = memo(function Price({
  price,
  stored,
  currency,
  attempt,
}: {
  price: number | null;
  stored: number | null;
  currency: string;
  attempt: Attempt;
}) {
  const { t } = useWords();
  return (
    <Dragged
      label={t('overTime.price')}
      value={price ?? 0}
      min={0}
      max={Math.max(1, (stored ?? 10) * 2)}
      step={Math.max(0.01, Number(((stored ?? 10) / 200).toPrecision(1)))}
      onDrag={(x) => attempt({ price: x })}>
      <NumField
        label={t('overTime.price')}
        value={price}
        onChange={(x) => attempt({ price: x })}
        kind="money"
        currency={currency}
        step={0.5}
        width="100%"
      />
    </Dragged>
  );
});

const FirstDay = memo(function FirstDay({
  start,
  today,
  set,
}: {
  start: string;
  today: string;
  set: AheadPart['set'];
}) {
  const { t } = useWords();
  return (
    <Dragged
      label={t('overTime.start2')}
      value={daysBetween(today, start) / 7}
      min={0}
      max={52}
      step={1}
      onDrag={(w) => set({ start: w === 0 ? null : dayText(today, w * 7) })}>
      <TextLine
        label={t('overTime.start2')}
        value={start}
        onChange={(x) => /^\d{4}-\d\d-\d\d$/.test(x) && !Number.isNaN(Date.parse(x)) && set({ start: x })}
        width="100%"
        type="date"
      />
    </Dragged>
  );
});
