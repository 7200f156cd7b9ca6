/** What units that are left still bring once their cost is spent: sold off here, or by another lane of the product. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { NumField } from '../../ui/Field.tsx';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useLaneAct } from './LaneActs.ts';
import { useWords } from '../../ui/useWords.ts';

export type WayOut = {
  readonly laneId: string;
  readonly lane: string;
  readonly currency: string;
  readonly price: number | null;
  readonly brings: number | null;
  readonly floor: number | null;
};

export function LeftOver({ ways, canEdit }: { ways: readonly WayOut[]; canEdit: boolean }) {
  const { t } = useWords();
  const { error, act, isBusy } = useLaneAct();
  if (ways.length === 0) return null;
  return (
    <Box sx={{ mt: 3 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        {t('launched.left.title')}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        {t('launched.left.lead')}
      </Typography>
      {error !== undefined && <Alert severity="error">{error}</Alert>}
      <FigureTable label={t('launched.left.title')}>
        <thead>
          <tr>
            {(['by', 'price', 'brings', 'floor'] as const).map((h) => (
              <th scope="col" key={h}>
                {t(`launched.left.${h}`)}
              </th>
            ))}
            {canEdit && <HiddenHead>{t('launched.left.keep')}</HiddenHead>}
          </tr>
        </thead>
        <tbody>
          {ways.map((w, i) => (
            <Way
              key={w.laneId}
              way={w}
              {...(canEdit && {
                onKeep: (price: number) =>
                  !isBusy &&
                  act({
                    intent: 'leftOver',
                    of: w.laneId,
                    price,
                    name: t(i === 0 ? 'launched.left.sellOff' : 'launched.left.elsewhere'),
                  }),
              })}
            />
          ))}
        </tbody>
      </FigureTable>
    </Box>
  );
}

function Way({ way: w, onKeep }: { way: WayOut; onKeep?: (price: number) => void }) {
  const { t } = useWords();
  const f = useFormat();
  const [price, setPrice] = useState(w.price);
  return (
    <tr>
      <th scope="row">
        <bdi>{w.lane}</bdi>
      </th>
      <td>{f.money(w.price, w.currency)}</td>
      <td>{f.money(w.brings, w.currency)}</td>
      <td>{f.money(w.floor, w.currency)}</td>
      {onKeep !== undefined && (
        <td>
          <Box sx={{ display: 'flex', gap: 1, justifyContent: 'flex-end', alignItems: 'center' }}>
            <NumField
              label={t('launched.left.priceOf', { lane: w.lane })}
              inTable
              value={price}
              onChange={setPrice}
              kind="money"
              currency={w.currency}
              width={100}
            />
            <Button
              size="small"
              disabled={price === null || price <= 0}
              aria-label={t('launched.left.keepOf', { lane: w.lane })}
              onClick={() => price !== null && onKeep(price)}>
              {t('launched.left.keep')}
            </Button>
          </Box>
        </td>
      )}
    </tr>
  );
}
