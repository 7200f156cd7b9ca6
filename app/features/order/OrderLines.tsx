/** What is ordered, line by line: quantity and price as a form, what does not fit and what would. */
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { priceBreakAt } from '../../../core/rules/goods.ts';
import { orderLine } from '../../../core/orders/schema.ts';
import type { OrderLine, OrderTerms } from '../../../core/orders/schema.ts';
import { togetherWith, unitsOf } from '../../../core/orders/fit.ts';
import type { LineSaid, OrderSaid } from '../../../core/orders/totals.ts';
import { ChoiceLine, NumField, TextLine } from '../../ui/Field.tsx';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import type { OrderEdit } from './useOrder.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = { terms: OrderTerms; said: OrderSaid; edit: OrderEdit | null; base: string };

export function OrderLines({ terms, said, edit, base }: Props) {
  const { t } = useWords();
  const add = (): void =>
    edit?.addLine(
      orderLine.parse({
        id: crypto.randomUUID(),
        name: t('order.newLine'),
        priceBreaks: [{ minQty: 0, unitPrice: null }],
      }),
    );
  const shared = terms.lines.some((l) => togetherWith(l, terms.lines).length > 1);
  return (
    <Pane title={t('order.lines')} aside={shared ? t('order.together') : undefined}>
      <FigureTable label={t('order.lines')}>
        <thead>
          <tr>
            <th scope="col">{t('order.item')}</th>
            {(['units', 'unitPrice', 'net', 'vat', 'gross'] as const).map((k) => (
              <th scope="col" key={k}>
                {t(`order.${k}`)}
              </th>
            ))}
            {edit !== null && <HiddenHead>{t('order.removeShort')}</HiddenHead>}
          </tr>
        </thead>
        <tbody>
          {terms.lines.map((l) => {
            const own = said.lines.find((x) => x.id === l.id);
            return own === undefined ? null : (
              <Line key={l.id} line={l} own={own} terms={terms} edit={edit} base={base} />
            );
          })}
        </tbody>
      </FigureTable>
      {edit !== null && (
        <Button size="small" onClick={add} sx={{ mt: 0.5 }}>
          {t('order.addLine')}
        </Button>
      )}
    </Pane>
  );
}

type LineProps = { line: OrderLine; own: LineSaid; terms: OrderTerms; edit: OrderEdit | null; base: string };

function Line({ line, own, terms, edit, base }: LineProps) {
  const { t } = useWords();
  const f = useFormat();
  const [isOpen, setOpen] = useState(false);
  const money = (x: number | null | undefined): string => f.plain(x ?? null, terms.currency);
  const set = (some: Partial<OrderLine>): void => edit?.setLine({ ...line, ...some });
  return (
    <>
      <tr>
        <th scope="row" style={{ fontWeight: 500, minWidth: 220 }}>
          {edit === null ? (
            <bdi>{line.name}</bdi>
          ) : (
            <TextLine
              label={t('order.item')}
              inTable
              value={line.name}
              onChange={(name) => name.trim() !== '' && set({ name })}
              width="100%"
              maxLength={500}
            />
          )}
          <About line={line} base={base} />
          {(own.misfit !== null || own.nextBreak !== null) && <Fit {...{ line, own, terms, edit }} />}
        </th>
        <td>
          {edit === null ? (
            f.number(own.units, 6)
          ) : (
            <NumField
              label={`${t('order.units')}, ${line.name}`}
              inTable
              value={line.units}
              onChange={(units) => set({ units: units === 0 ? null : units })}
              kind="number"
              step={line.carton ?? 1}
              width={90}
            />
          )}
        </td>
        <td>{edit === null ? f.number(own.unitPrice, 6) : <Price {...{ line, terms, set }} />}</td>
        <td>{money(own.amount?.net)}</td>
        <td>{money(own.amount?.vat)}</td>
        <td className="total">{money(own.amount?.gross)}</td>
        {edit !== null && (
          <td>
            <Button
              size="small"
              aria-expanded={isOpen}
              aria-label={t('order.details', { name: line.name })}
              onClick={() => setOpen(!isOpen)}
              sx={{ minWidth: 0 }}>
              {t('order.detailsShort')}
            </Button>
            <Button
              size="small"
              aria-label={t('order.remove', { name: line.name })}
              onClick={() => edit.removeLine(line.id)}
              sx={{ minWidth: 0, color: 'text.secondary' }}>
              {t('order.removeShort')}
            </Button>
          </td>
        )}
      </tr>
      {isOpen && (
        <tr>
          <td colSpan={7} className="text">
            <Details line={line} set={set} />
          </td>
        </tr>
      )}
    </>
  );
}

/** The price that the quantity reaches, edited where it stands; the first one where it reaches none, saying so. */
function Price({
  line,
  terms,
  set,
}: {
  line: OrderLine;
  terms: OrderTerms;
  set: (some: Partial<OrderLine>) => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const together = unitsOf(togetherWith(line, terms.lines));
  const at = Math.max(0, together === null ? 0 : priceBreakAt(line.priceBreaks, together));
  const from = line.priceBreaks[at]?.minQty ?? 0;
  const isReached = together === null || together >= from;
  return (
    <>
      <NumField
        label={`${t('order.unitPrice')}, ${line.name}`}
        inTable
        value={line.priceBreaks[at]?.unitPrice ?? null}
        onChange={(unitPrice) =>
          set({ priceBreaks: line.priceBreaks.map((b, i) => (i === at ? { ...b, unitPrice } : b)) })
        }
        kind="money"
        currency={terms.currency}
        step={0.1}
        width={100}
      />
      {!isReached && (
        <Box sx={{ fontSize: '0.78rem', color: 'text.secondary' }}>
          {t('order.priceFrom', { units: f.number(from) })}
        </Box>
      )}
    </>
  );
}

function About({ line, base }: { line: OrderLine; base: string }) {
  const { t } = useWords();
  const f = useFormat();
  const about: ReactNode[] = [
    line.code === '' ? null : `${t('order.code')} ${line.code}`,
    line.gtin === null ? null : `${t('order.barcode')} ${line.gtin}`,
    line.minimumOrder > 0 ? `${t('order.minimum')} ${f.number(line.minimumOrder)}` : null,
    line.carton === null ? null : `${t('order.carton')} ${f.number(line.carton)}`,
    line.confirmed === null ? null : t('order.confirmedAs'),
  ].filter((x) => x !== null);
  return (
    <Box sx={{ fontSize: '0.78rem', color: 'text.secondary', fontWeight: 400 }}>
      {line.candidateId !== null && (
        <>
          <Box component={Link} to={`${base}/weigh/${line.candidateId}`} sx={{ color: 'inherit' }}>
            {t('nav.weigh')}
          </Box>{' '}
        </>
      )}
      {about.join(' · ')}
    </Box>
  );
}

/** What does not fit about the quantity, what would, and what the next price break costs. */
function Fit({ line, own, terms, edit }: Omit<LineProps, 'base'>) {
  const { t } = useWords();
  const f = useFormat();
  const { misfit, nextBreak } = own;
  const take = (units: number): ReactNode =>
    edit === null ? (
      f.number(units)
    ) : (
      <Button
        size="small"
        variant="outlined"
        aria-label={t('order.takeOf', { units: f.number(units), name: line.name })}
        onClick={() => edit.setLine({ ...line, units })}
        sx={{ minWidth: 0, py: 0, px: 0.75, mr: 0.5 }}>
        {t('order.take', { units: f.number(units) })}
      </Button>
    );
  return (
    <Box sx={{ fontSize: '0.8rem', fontWeight: 400, mt: 0.25 }}>
      {misfit !== null && (
        <Box sx={{ color: 'error.main' }}>
          {misfit.short > 0 && `${t('order.short', { short: f.number(misfit.short) })} `}
          {misfit.brokenCarton && `${t('order.brokenCarton', { carton: f.number(line.carton ?? 1) })} `}
          <Box component="span" sx={{ color: 'text.primary' }}>
            {t('order.wouldFit')} {misfit.below !== null && take(misfit.below)}
            {take(misfit.above)}
          </Box>
        </Box>
      )}
      {misfit === null && nextBreak !== null && (
        <Box sx={{ color: 'text.secondary' }}>
          {t(nextBreak.costsMore < 0 ? 'order.nextBreakSaves' : 'order.nextBreak', {
            more: f.number(nextBreak.more),
            price: f.money(nextBreak.unitPrice, terms.currency),
            amount: f.money(Math.abs(nextBreak.costsMore), terms.currency),
          })}{' '}
          {own.units !== null && take(own.units + nextBreak.more)}
        </Box>
      )}
    </Box>
  );
}

function Details({ line, set }: { line: OrderLine; set: (some: Partial<OrderLine>) => void }) {
  const { t } = useWords();
  return (
    <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', py: 0.5 }}>
      <TextLine
        label={t('order.code')}
        value={line.code}
        onChange={(code) => set({ code })}
        maxLength={100}
        width={130}
      />
      <NumField
        label={t('order.minimum')}
        value={line.minimumOrder === 0 ? null : line.minimumOrder}
        onChange={(v) => set({ minimumOrder: v ?? 0 })}
        kind="number"
        width={90}
      />
      <NumField
        label={t('order.carton')}
        value={line.carton}
        onChange={(carton) => set({ carton: carton === 0 ? null : carton })}
        kind="number"
        whole
        width={90}
      />
      <ChoiceLine
        label={t('order.vatHow')}
        value={line.vat}
        options={(['none', 'included', 'added'] as const).map((v) => ({
          value: v,
          label: t(`order.vatKinds.${v}`),
        }))}
        onChange={(vat) => set({ vat })}
        width={120}
      />
      <NumField
        label={t('order.vatRate')}
        value={line.vatRate}
        onChange={(v) => set({ vatRate: v ?? 0 })}
        kind="percent"
        max={1}
        width={80}
      />
    </Box>
  );
}
