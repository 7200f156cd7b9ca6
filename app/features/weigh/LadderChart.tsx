/** Profit and units over the price, with the rungs of the ladder. */
import { Box } from '@mui/material';
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
import { useFormat } from '../../ui/locale.ts';
import { useChartLook } from '../../ui/useChartLook.ts';
import type { Rung } from './Ladder.tsx';
import { useWords } from '../../ui/useWords.ts';

/** Amounts in `currency`, prices as the buyer pays them. */
export function LadderChart({
  curve,
  rungs,
  currency: c,
  low,
  high,
}: {
  curve: readonly { gross: number; profit: number | null; units: number | null }[];
  rungs: readonly Rung[];
  currency: string;
  low: number;
  high: number;
}) {
  const { t } = useWords();
  const f = useFormat();
  const { palette, axis, over } = useChartLook();
  return (
    <Box role="img" aria-label={t('ladder.chart')} sx={{ height: 300 }}>
      <ResponsiveContainer>
        <LineChart data={curve} margin={{ left: 0, right: 0, top: 16, bottom: 4 }}>
          <CartesianGrid stroke={palette.divider} vertical={false} />
          <XAxis
            dataKey="gross"
            type="number"
            domain={[low, high]}
            tickFormatter={(x: number) => f.mark(x, c)}
            {...axis}
          />
          <YAxis yAxisId="profit" tickFormatter={(x: number) => f.mark(x, c)} {...axis} width={60} />
          <YAxis
            yAxisId="units"
            orientation="right"
            tickFormatter={(x: number) => f.number(x, 0)}
            {...axis}
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
            contentStyle={over}
          />
          <ReferenceLine yAxisId="profit" y={0} stroke={palette.text.primary} />
          {rungs.map((m) => (
            <ReferenceLine
              key={`${m.kind}${m.gross}`}
              yAxisId="profit"
              x={m.gross}
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
  );
}
