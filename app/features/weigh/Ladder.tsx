/** The price ladder: what each price keeps, rivals among them. */
import { Box, Typography } from '@mui/material';
import { useTheme } from '@mui/material/styles';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import { grossAt } from '../../../core/lane/steps/revenue.ts';
import { rivalPrices } from '../../../core/lane/rivals.ts';
import { priceFor } from '../../../core/lane/solve.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { TextLine } from '../../ui/Field.tsx';
import { parseNumber } from '../../ui/parseNumber.ts';
import { useFormat } from '../../ui/locale.ts';
import { useStore, useValue } from './store.ts';
import { table } from './moreParts.ts';
import type { Part } from './More.tsx';

export function Ladder({ view }: Part) {
  const { t } = useTranslation();
  const f = useFormat();
  const store = useStore();
  const { palette } = useTheme();
  const { doc } = view;
  const c = doc.currency;
  const typed = (useValue('lane', view.id, ['rivalPrices']) as number[] | undefined) ?? [];
  const [text, setText] = useState<string | null>(null);
  const rivals = rivalPrices(doc.demand, typed);
  const even = priceFor(doc);
  const price = doc.price ?? even.price ?? 20;
  const priceOf = (gross: number): number =>
    Math.max(0, (gross - doc.shippingCharged) / (1 - doc.averageDiscount));
  const at = (gross: number) => {
    const r = evaluate({ ...doc, price: priceOf(gross) });
    return {
      gross,
      profit: r.figures.unitProfit,
      margin: r.figures.margin,
      units: r.figures.expectedMonthlyUnits,
      month: r.figures.profitPerMonth,
    };
  };
  const grossNow = view.result.figures.gross ?? price;
  const grossEven = even.price === null ? null : grossAt(doc, even.price);
  const marks = [
    ...rivals.map((x) => ({ x, kind: 'rival' as const })),
    { x: grossNow, kind: 'now' as const },
    ...(grossEven === null ? [] : [{ x: grossEven, kind: 'even' as const }]),
  ].sort((a, b) => a.x - b.x);
  const low = Math.min(grossNow * 0.6, ...marks.map((m) => m.x * 0.95));
  const high = Math.max(grossNow * 1.4, ...marks.map((m) => m.x * 1.05));
  // biome-ignore lint/correctness/useExhaustiveDependencies: a rung depends on the lane alone
  const curve = useMemo(
    () => Array.from({ length: 41 }, (_, i) => at(low + ((high - low) * i) / 40)),
    [doc, low, high],
  );
  const cushion = grossEven === null ? null : grossNow - grossEven;
  const take = (value: string): void => {
    setText(null);
    const list = value.split(/[\s;]+/).flatMap((x) => {
      const n = parseNumber(x, f.locale);
      return n.kind === 'number' && n.value > 0 ? [n.value] : [];
    });
    store.edit([{ entity: 'lane', id: view.id, path: ['rivalPrices'], to: [...new Set(list)].slice(0, 50) }]);
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1fr 1fr' }, gap: 4 }}>
      <Box>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          {t('ladder.text')}
        </Typography>
        <Typography sx={{ mb: 1 }}>
          {cushion === null || cushion <= 0
            ? t('ladder.noCushion')
            : t('ladder.cushion', { by: f.money(cushion, c), share: f.percent(cushion / grossNow) })}
        </Typography>
        <Box onBlur={() => text !== null && take(text)}>
          <TextLine
            label={t('ladder.rivals', { currency: c })}
            value={text ?? typed.map((x) => f.number(x)).join('; ')}
            onChange={setText}
            width="100%"
          />
        </Box>
        <TableFile
          table={() => ({
            name: `${store.get().state.candidate.data.name} ${t('more.ladder')}`,
            columns: [
              t('ladder.price'),
              t('form.currency'),
              t('ladder.what'),
              t('ladder.profit'),
              t('ladder.margin'),
              t('ladder.units'),
              t('ladder.month'),
            ].map((title, i) => ({ title, percent: i === 4 })),
            rows: marks.map((m) => {
              const r = at(m.x);
              return [m.x, c, t(`ladder.${m.kind}`), r.profit, r.margin, r.units, r.month];
            }),
          })}
        />
        <Box component="table" sx={{ ...table, mt: 1.5 }}>
          <thead>
            <tr>
              <th scope="col">{t('ladder.price')}</th>
              <th scope="col">{t('ladder.profit')}</th>
              <th scope="col">{t('ladder.margin')}</th>
              <th scope="col">{t('ladder.units')}</th>
              <th scope="col">{t('ladder.month')}</th>
            </tr>
          </thead>
          <tbody>
            {marks.map((m) => {
              const r = at(m.x);
              return (
                <tr key={`${m.kind}${m.x}`}>
                  <th scope="row" style={{ fontWeight: m.kind === 'now' ? 700 : 400 }}>
                    {f.money(m.x, c)}{' '}
                    <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
                      {t(`ladder.${m.kind}`)}
                    </Box>
                  </th>
                  <Box
                    component="td"
                    sx={{
                      fontWeight: 650,
                      color: r.profit !== null && r.profit < -0.004 ? 'error.main' : 'primary.main',
                    }}>
                    {f.plain(r.profit, c)}
                    {r.profit !== null && r.profit < -0.004 && ` ${t('lanes.losesWord')}`}
                  </Box>
                  <td>{f.percent(r.margin)}</td>
                  <td>{f.number(r.units, 0)}</td>
                  <td>{f.number(r.month, 0)}</td>
                </tr>
              );
            })}
          </tbody>
        </Box>
      </Box>
      <Box role="img" aria-label={t('ladder.chart')} sx={{ height: 300 }}>
        <ResponsiveContainer>
          <LineChart data={curve} margin={{ left: 0, right: 0, top: 16, bottom: 4 }}>
            <CartesianGrid stroke={palette.divider} vertical={false} />
            <XAxis
              dataKey="gross"
              type="number"
              domain={[low, high]}
              tickFormatter={(x: number) => f.mark(x, c)}
              stroke={palette.text.secondary}
              fontSize={12}
            />
            <YAxis
              yAxisId="profit"
              tickFormatter={(x: number) => f.mark(x, c)}
              stroke={palette.text.secondary}
              fontSize={12}
              width={60}
            />
            <YAxis
              yAxisId="units"
              orientation="right"
              tickFormatter={(x: number) => f.number(x, 0)}
              stroke={palette.text.secondary}
              fontSize={12}
              width={56}
              label={{
                value: t('form.unitsMonth'),
                angle: 90,
                position: 'insideRight',
                fontSize: 12,
                fill: palette.text.secondary,
                style: { textAnchor: 'middle' },
              }}
            />
            <Tooltip
              formatter={(x, id) => [
                id === 'units' ? f.number(Number(x), 0) : f.money(Number(x), c),
                t(id === 'units' ? 'ladder.units' : 'ladder.profit'),
              ]}
              labelFormatter={(x) => f.money(Number(x), c)}
              contentStyle={{ background: palette.background.paper, border: `1px solid ${palette.divider}` }}
            />
            <ReferenceLine yAxisId="profit" y={0} stroke={palette.text.primary} />
            {marks.map((m) => (
              <ReferenceLine
                key={`${m.kind}${m.x}`}
                yAxisId="profit"
                x={m.x}
                stroke={m.kind === 'now' ? palette.primary.main : palette.text.secondary}
                strokeDasharray={m.kind === 'rival' ? '2 4' : m.kind === 'even' ? '6 3' : ''}
                label={
                  m.kind === 'rival'
                    ? undefined
                    : {
                        value: t(`ladder.${m.kind}`),
                        position: 'top',
                        fontSize: 11,
                        fill: palette.text.primary,
                      }
                }
              />
            ))}
            <Line
              yAxisId="profit"
              dataKey="profit"
              dot={false}
              isAnimationActive={false}
              stroke={palette.primary.main}
              strokeWidth={2.5}
            />
            <Line
              yAxisId="units"
              dataKey="units"
              dot={false}
              isAnimationActive={false}
              stroke={palette.text.secondary}
              strokeWidth={1.5}
              strokeDasharray="4 3"
            />
          </LineChart>
        </ResponsiveContainer>
      </Box>
    </Box>
  );
}
