import { Box, Button, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { priceBreakAt } from '../../../core/rules/goods.ts';
import { crossings, landedAt, onQuote } from '../../../core/compare/quotes.ts';
import type { Stretch } from '../../../core/compare/quotes.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { LaneResult } from '../../../core/lane/result.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import type { QuoteSource } from '../../../core/workspace/records.ts';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useChartLook } from '../../ui/useChartLook.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { RetailSteps } from './RetailSteps.tsx';
import type { Around, Compared } from './useCompared.ts';
import { ProfitCell } from '../../ui/ProfitCell.tsx';
import { useBoundColumn, useResultFigures } from '../../ui/resultFigures.ts';
import { dashesOf, Stroke } from '../../ui/Stroke.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  lanes: readonly Compared[];
  chosen: Compared;
  around: Around;
  place: (c: Compared) => string;
  onChoose: (id: string) => void;
  canEdit: boolean;
  use: (quoteId: string) => void;
  add: () => void;
  sheet: string;
};

/** A quote and the lane bought on it, at the quantity asked about. */
type Row = {
  readonly q: Around['quotes'][number];
  readonly i: number;
  readonly name: string;
  readonly result: LaneResult;
  readonly landed: number | null;
};

/** Unit price of a quote at a quantity, or the shelf price of a shop; in the currency of the quote. */
function unitAt(s: QuoteSource, quantity: number): number | null {
  return s.kind === 'quote'
    ? (s.priceBreaks[priceBreakAt(s.priceBreaks, quantity)]?.unitPrice ?? null)
    : s.shelfPrice;
}

/**
 * One lane on every quote of the candidate: landed cost at one quantity, and from which quantity which is
 * cheapest.
 */
export function QuotesView({ lanes, chosen, around, place, onChoose, canEdit, use, add, sheet }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const { doc } = chosen;
  const c = doc.currency;
  const [typed, setTyped] = useState<number | null>(null);
  const quantity = typed ?? doc.orderQuantity ?? 100;
  const docs = useMemo(() => around.quotes.map((q) => onQuote(doc, q.data)), [around.quotes, doc]);
  const most = Math.max(
    quantity * 3,
    ...around.quotes.flatMap((q) =>
      q.data.kind === 'quote' ? q.data.priceBreaks.map((b) => b.minQty * 1.5) : [],
    ),
    50,
  );
  const stretches = useMemo(() => crossings(docs, Math.round(most)), [docs, most]);
  const name = (i: number): string =>
    around.quotes[i]?.data.supplier || `${t('suppliers.supplier')} ${i + 1}`;
  const rows: Row[] = around.quotes
    .map((q, i) => ({ q, i, name: name(i), at: { ...(docs[i] as typeof doc), orderQuantity: quantity } }))
    .map((x) => ({ ...x, result: evaluate(x.at), landed: landedAt(x.at, quantity) }));
  const cheapest = [...rows]
    .filter((x) => x.landed !== null)
    .sort((a, b) => (a.landed as number) - (b.landed as number))[0];
  const shops = rows.flatMap(({ q, name, landed, result }) =>
    q.data.kind === 'retail' ? [{ id: q.id, name, source: q.data, landed, result }] : [],
  );
  const own = chosen.data.components[0]?.quoteId;
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', mb: 1, flexWrap: 'wrap' }}>
        <ChoiceLine
          label={t('routes.lane')}
          value={chosen.id}
          width={300}
          options={lanes
            .slice(0, 300)
            .map((l) => ({ value: l.id, label: `${place(l)}, ${t(`method.${l.doc.method}`)}` }))}
          onChange={onChoose}
        />
        <NumField
          label={t('suppliers.quantity')}
          value={quantity}
          onChange={setTyped}
          kind="number"
          min={1}
          width={110}
          step={50}
        />
        <Typography variant="body2" color="text.secondary" sx={{ pb: 0.75, flex: 1 }}>
          {t('suppliers.lead')}
        </Typography>
        <QuoteFile rows={rows} currency={c} quantity={quantity} />
        {canEdit && <Button onClick={add}>{t('suppliers.add')}</Button>}
      </Box>
      {around.quotes.length < 2 && <Typography sx={{ mb: 1 }}>{t('suppliers.one')}</Typography>}
      {cheapest !== undefined && around.quotes.length > 1 && (
        <Typography variant="h4" component="p" sx={{ mb: 1 }} data-testid="quotes-answer">
          {t('suppliers.best', { supplier: name(cheapest.i) })}{' '}
          {stretches
            .filter((s) => s.best >= 0)
            .map((s, i) =>
              i === 0
                ? null
                : t('suppliers.crossing', { quantity: f.number(s.from), supplier: name(s.best) }),
            )
            .filter(Boolean)
            .join(' ')}
        </Typography>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1.3fr 1fr' }, gap: 4 }}>
        <QuoteTable
          rows={rows}
          cheapest={cheapest}
          quantity={quantity}
          today={around.today}
          own={own}
          use={canEdit ? use : null}
          sheet={`${sheet}?lane=${chosen.id}`}
        />
        <CostOverQuantity
          docs={docs}
          rows={rows}
          currency={c}
          quantity={quantity}
          most={most}
          stretches={stretches}
        />
      </Box>
      {shops.length > 0 && (
        <RetailSteps
          shops={shops}
          currency={c}
          today={around.today}
          canEdit={canEdit}
          saveUrl={`${sheet}/save`}
          quantity={quantity}
        />
      )}
    </Box>
  );
}

/** The quotes at the quantity, to take along. */
function QuoteFile({
  rows,
  currency: c,
  quantity,
}: {
  rows: readonly Row[];
  currency: string;
  quantity: number;
}) {
  const { t } = useWords();
  const bound = useBoundColumn();
  return (
    <TableFile
      table={() => ({
        name: t('suppliers.title'),
        columns: [
          t('suppliers.supplier'),
          t('form.currency'),
          t('suppliers.unit'),
          t('suppliers.rule'),
          t('form.validUntil'),
          t('suppliers.quantity'),
          `${t('suppliers.landed')} ${c}`,
          `${t('suppliers.keeps')} ${c}`,
          bound.title,
        ].map((title) => ({ title })),
        rows: rows.map(({ q, name, result, landed }) => [
          name,
          q.data.currency,
          unitAt(q.data, quantity),
          q.data.kind === 'quote' ? q.data.incoterm : 'EXW',
          q.data.validUntil,
          quantity,
          landed,
          landed === null ? null : result.figures.unitProfit,
          landed === null ? '' : bound.of(result),
        ]),
      })}
    />
  );
}

/** `own`: the quote the lane is on now; `use`: puts it on another, null where one may not. */
function QuoteTable({
  rows,
  cheapest,
  quantity,
  today,
  own,
  use,
  sheet,
}: {
  rows: readonly Row[];
  cheapest: Row | undefined;
  quantity: number;
  today: string;
  own: string | undefined;
  use: ((quoteId: string) => void) | null;
  sheet: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const said = useResultFigures();
  return (
    <FigureTable label={t('suppliers.title')}>
      <thead>
        <tr>
          <th scope="col">{t('suppliers.supplier')}</th>
          <th scope="col">{t('suppliers.unit')}</th>
          <th scope="col">{t('suppliers.rule')}</th>
          <th scope="col">{t('suppliers.landed')}</th>
          <th scope="col">{t('suppliers.keeps')}</th>
          {use !== null && <HiddenHead>{t('suppliers.use')}</HiddenHead>}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ q, i, name, result, landed }) => {
          const s = q.data;
          const unit = unitAt(s, quantity);
          const expired = s.validUntil !== null && today > s.validUntil;
          return (
            <tr key={q.id}>
              <th scope="row" style={{ fontWeight: i === cheapest?.i ? 700 : 400 }}>
                <Stroke index={i} />
                <bdi>{name}</bdi>
                {s.validUntil !== null && (
                  <Box
                    sx={{
                      fontSize: '0.76rem',
                      color: expired ? 'error.main' : 'text.secondary',
                      fontWeight: 400,
                    }}>
                    {t(expired ? 'suppliers.expired' : 'suppliers.valid', { date: f.day(s.validUntil) })}
                  </Box>
                )}
              </th>
              <td>{f.money(unit, s.currency)}</td>
              <td>{s.kind === 'quote' ? s.incoterm : 'EXW'}</td>
              <Box component="td" sx={{ fontWeight: i === cheapest?.i ? 700 : 400 }}>
                {landed === null
                  ? t('suppliers.cannot', { quantity: f.number(quantity) })
                  : said(result, 'landedCost')}
              </Box>
              <ProfitCell result={landed === null ? null : result} />
              {use !== null && (
                <td>
                  {q.id === own ? (
                    t('routes.now')
                  ) : (
                    <Button size="small" onClick={() => use(q.id)}>
                      {t('suppliers.use')}
                    </Button>
                  )}{' '}
                  <Box component={Link} to={sheet} sx={{ color: 'inherit' }}>
                    {t('rates.change')}
                  </Box>
                </td>
              )}
            </tr>
          );
        })}
      </tbody>
    </FigureTable>
  );
}

/** Landed cost of each quote over the order quantity, and where another becomes the cheapest. */
function CostOverQuantity({
  docs,
  rows,
  currency: c,
  quantity,
  most,
  stretches,
}: {
  docs: readonly LaneDocument[];
  rows: readonly Row[];
  currency: string;
  quantity: number;
  most: number;
  stretches: readonly Stretch[];
}) {
  const { t } = useWords();
  const f = useFormat();
  const { palette, axis, over } = useChartLook();
  const chart = useMemo(
    () =>
      Array.from({ length: 61 }, (_, i) => Math.max(1, Math.round((most * i) / 60))).map((q) => ({
        q,
        ...Object.fromEntries(docs.map((d, i) => [`s${i}`, landedAt(d, q)])),
      })),
    [docs, most],
  );
  return (
    <Box>
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        {t('suppliers.chart')}
      </Typography>
      <Box role="img" aria-label={t('suppliers.chart')} sx={{ height: 260 }}>
        <ResponsiveContainer>
          <LineChart data={chart} margin={{ left: 0, right: 10, top: 20, bottom: 4 }}>
            <XAxis
              dataKey="q"
              type="number"
              domain={[0, Math.round(most)]}
              {...axis}
              tickFormatter={(x: number) => f.number(x, 0)}
              label={{
                value: t('form.orderQuantity'),
                position: 'insideBottomRight',
                offset: -2,
                fontSize: 12,
                fill: palette.text.secondary,
              }}
            />
            <YAxis
              domain={['auto', 'auto']}
              {...axis}
              width={64}
              tickFormatter={(x: number) => f.money(x, c)}
            />
            <Tooltip
              formatter={(x, id) => [f.money(Number(x), c), rows[Number(String(id).slice(1))]?.name ?? '']}
              labelFormatter={(x) => f.number(Number(x))}
              contentStyle={over}
            />
            {stretches.slice(1).map((s) => (
              <ReferenceLine
                key={s.from}
                x={s.from}
                stroke={palette.primary.main}
                strokeDasharray="3 3"
                label={{ value: f.number(s.from), position: 'top', fontSize: 11, fill: palette.text.primary }}
              />
            ))}
            <ReferenceLine x={quantity} stroke={palette.text.primary} />
            {rows.map(({ q, i }) => (
              <Line
                key={q.id}
                dataKey={`s${i}`}
                dot={false}
                isAnimationActive={false}
                connectNulls={false}
                stroke={palette.text.primary}
                strokeWidth={2}
                strokeDasharray={dashesOf(i)}
              />
            ))}
          </LineChart>
        </ResponsiveContainer>
      </Box>
    </Box>
  );
}
