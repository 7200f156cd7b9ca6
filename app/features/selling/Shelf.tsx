/** What is on the shelf of a lane and on its way, what was counted, and the next order. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import type { Coming } from '../../../core/actuals/received.ts';
import type { Count, Stock } from '../../../core/actuals/stock.ts';
import type { NextOrder } from '../../../core/cash/nextOrder.ts';
import { NumField, TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useLaneAct } from './LaneActs.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  readonly stock: Stock;
  readonly counts: readonly Count[];
  readonly coming: readonly Coming[];
  readonly next: NextOrder | null;
  readonly currency: string;
  readonly home: string;
  readonly today: string;
  readonly canEdit: boolean;
};
const SHOWN = 5;

export function Shelf({ stock, counts, coming, next, currency, home, today, canEdit }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const { act, error, isBusy } = useLaneAct();
  const [day, setDay] = useState(today);
  const [units, setUnits] = useState<number | null>(null);
  return (
    <Box component="section" aria-label={t('launched.shelf.title')} sx={{ mt: 3 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        {t('launched.shelf.title')}
      </Typography>
      <Typography data-testid="shelf-said">
        {stock.units === null
          ? t('launched.shelf.unknown')
          : t(`launched.shelf.${stock.from === 'counted' ? 'counted' : 'byOrders'}`, {
              units: f.number(stock.units, 0),
              value: f.money(stock.value, currency),
            })}{' '}
        {coming
          .map((c) =>
            t(c.day === null ? 'launched.shelf.comingNoDay' : 'launched.shelf.coming', {
              units: f.number(c.units, 0),
              day: f.day(c.day ?? today),
            }),
          )
          .join(' ')}{' '}
        {next !== null &&
          t('launched.shelf.next', {
            units: f.number(next.quantity, 0),
            day: f.day(next.day),
            money: f.money(next.money, home),
          })}
      </Typography>
      {counts
        .slice(-SHOWN)
        .reverse()
        .map((c) => (
          <Typography variant="body2" key={c.day}>
            {t('launched.shelf.countLine', { day: f.day(c.day), units: f.number(c.units, 0) })}
            {canEdit && (
              <Button
                size="small"
                disabled={isBusy}
                aria-label={t('launched.shelf.dropOf', { day: f.day(c.day) })}
                onClick={() => act({ intent: 'dropCount', day: c.day })}>
                {t('launched.shelf.drop')}
              </Button>
            )}
          </Typography>
        ))}
      {error !== undefined && <Alert severity="error">{error}</Alert>}
      {canEdit && (
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'end', flexWrap: 'wrap', mt: 0.5 }}>
          <TextLine label={t('launched.shelf.day')} value={day} onChange={setDay} type="date" width={150} />
          <NumField
            label={t('launched.shelf.units')}
            value={units}
            onChange={setUnits}
            kind="number"
            max={1e9}
            width={120}
          />
          <Button
            variant="outlined"
            disabled={units === null || day === '' || isBusy}
            onClick={() => {
              act({ intent: 'count', day, units });
              setUnits(null);
            }}>
            {t('launched.shelf.note')}
          </Button>
        </Box>
      )}
    </Box>
  );
}
