/** What the supplier confirmed, line by line: quantity and price, which count from then on. */
import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { useRef, useState } from 'react';
import { readInvoice } from '../../../core/orders/invoiceFile.ts';
import type { InvoiceRead } from '../../../core/orders/invoiceFile.ts';
import type { OrderSaid } from '../../../core/orders/totals.ts';
import { NumField } from '../../ui/Field.tsx';
import { FileField } from '../../ui/FileField.tsx';
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
  const file = useRef<HTMLInputElement>(null);
  const [read, setRead] = useState<InvoiceRead | null>(null);
  /** Fills the lines in by the rows of the supplier's invoice; what it does not name stays. */
  const take = async (chosen: File): Promise<void> => {
    const { default: Papa } = await import('papaparse');
    const text = (await chosen.text()).replace(/^\uFEFF/, '');
    const now = readInvoice(Papa.parse<string[]>(text, { skipEmptyLines: 'greedy' }).data, terms.lines);
    const by = new Map(now.found.map((l) => [l.id, l]));
    setLines(
      lines.map((l) => {
        const { units = null, unitPrice = null } = by.get(l.id) ?? {};
        return { id: l.id, units: units ?? l.units, unitPrice: unitPrice ?? l.unitPrice };
      }),
    );
    setRead(now);
  };
  // A price that is not known yet is not confirmed.
  const known = lines.filter((l) => l.units !== null && l.unitPrice !== null);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{t('order.confirmTitle')}</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 1 }}>{t('order.confirmText')}</Typography>
        <Button variant="outlined" size="small" sx={{ mb: 1 }} onClick={() => file.current?.click()}>
          {t('order.invoice')}
        </Button>
        <FileField
          ref={file}
          label={t('order.invoice')}
          accept=".csv,.tsv,.txt"
          onFile={(chosen) => void take(chosen)}
        />
        {read !== null && (
          <Typography variant="body2" role="status" sx={{ mb: 1 }}>
            {t('order.invoiceFound', { count: read.found.length, all: lines.length })}
            {read.strange.length > 0 &&
              ` ${t('order.invoiceStrange', { names: read.strange.slice(0, 10).join(', ') })}`}
            {read.wrong.length > 0 &&
              ` ${t('order.invoiceWrong', { rows: read.wrong.slice(0, 10).join(', ') })}`}
          </Typography>
        )}
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
