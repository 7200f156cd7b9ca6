/** What the supplier confirmed, line by line: quantity and price, which count from then on. */
import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { useState } from 'react';
import type { OrderSaid } from '../../../core/orders/totals.ts';
import { NumField } from '../../ui/Field.tsx';
import { FigureTable } from '../../ui/FigureTable.tsx';
import type { ActOn, OrderShown } from './orderPage.ts';
import { useWords } from '../../ui/useWords.ts';

export function Confirmed({
  shown,
  said,
  act,
  onClose,
}: {
  shown: OrderShown;
  said: OrderSaid;
  act: ActOn;
  onClose: () => void;
}) {
  const { t } = useWords();
  const { terms, edition } = shown;
  const [lines, setLines] = useState(
    said.lines.map((l) => ({ id: l.id, units: l.units, unitPrice: l.unitPrice })),
  );
  const set = (id: string, some: Partial<(typeof lines)[number]>): void =>
    setLines(lines.map((l) => (l.id === id ? { ...l, ...some } : l)));
  // A price that is not known yet is not confirmed.
  const known = lines.filter((l) => l.units !== null && l.unitPrice !== null);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{t('order.confirmTitle')}</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 1 }}>{t('order.confirmText')}</Typography>
        <FigureTable label={t('order.confirmTitle')}>
          <thead>
            <tr>
              <th scope="col">{t('order.item')}</th>
              <th scope="col">{t('order.units')}</th>
              <th scope="col">{t('order.unitPrice')}</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((l) => {
              const name = terms.lines.find((x) => x.id === l.id)?.name ?? '';
              return (
                <tr key={l.id}>
                  <th scope="row" style={{ fontWeight: 500 }}>
                    <bdi>{name}</bdi>
                  </th>
                  <td>
                    <NumField
                      label={`${t('order.units')}, ${name}`}
                      inTable
                      value={l.units}
                      onChange={(units) => set(l.id, { units })}
                      kind="number"
                      width={90}
                    />
                  </td>
                  <td>
                    <NumField
                      label={`${t('order.unitPrice')}, ${name}`}
                      inTable
                      value={l.unitPrice}
                      onChange={(unitPrice) => set(l.id, { unitPrice })}
                      kind="money"
                      currency={terms.currency}
                      width={100}
                    />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </FigureTable>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t('cancel')}</Button>
        <Button
          variant="contained"
          onClick={() => {
            act({ intent: 'move', to: 'confirmed', note: '', edition, confirmed: known });
            onClose();
          }}>
          {t('order.confirmNow')}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
