import { Box } from '@mui/material';
import { useTheme } from '@mui/material/styles';
import { useTranslation } from 'react-i18next';
import { Bar, BarChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { BudgetAt } from '../../../core/launch/schema.ts';
import { useFormat } from '../../ui/locale.ts';

/** Launch cash at each quantity, stacked by what it is for, against the cash at hand. */
export default function QuantityChart({
  compared,
  cash,
  currency,
}: {
  compared: readonly BudgetAt[];
  cash: number | null;
  currency: string;
}) {
  const { t } = useTranslation();
  const f = useFormat();
  const palette = (
    useTheme().vars as unknown as {
      palette: { family: Record<string, string>; ink: string; text: { secondary: string } };
    }
  ).palette;
  const rows = compared.map((c) => ({
    quantity: t('describe.units', { count: c.quantity, n: f.number(c.quantity) }),
    goods: c.lines.goods ?? 0,
    oneOffs: c.lines.oneOffs ?? 0,
    advertising: (c.lines.advertising ?? 0) + (c.lines.discounts ?? 0),
    contingency: c.lines.contingency ?? 0,
  }));
  const parts = [
    ['goods', palette.family.goods],
    ['oneOffs', palette.family.wayIn],
    ['advertising', palette.family.adverts],
    ['contingency', palette.family.tax],
  ] as const;
  return (
    <Box sx={{ mt: 1.5 }} role="img" aria-label={t('fund.chart')}>
      <ResponsiveContainer width="100%" height={170}>
        <BarChart data={rows} layout="vertical" margin={{ left: 0, right: 44, top: 16, bottom: 0 }}>
          <XAxis
            type="number"
            tick={{ fontSize: 11, fill: palette.text.secondary }}
            stroke={palette.ink}
            tickFormatter={(v: number) => f.mark(v, currency)}
            domain={[0, (max: number) => Math.max(max, cash ?? 0)]}
          />
          <YAxis
            type="category"
            dataKey="quantity"
            width={76}
            tick={{ fontSize: 12, fill: palette.text.secondary }}
            stroke={palette.ink}
          />
          {parts.map(([k, colour]) => (
            <Bar
              key={k}
              dataKey={k}
              stackId="cash"
              fill={colour ?? palette.ink}
              isAnimationActive={false}
              barSize={18}
            />
          ))}
          {cash !== null && (
            <ReferenceLine
              x={cash}
              stroke={palette.ink}
              strokeWidth={2}
              label={{
                value: t('fund.cashMark', { cash: f.money(cash, currency) }),
                position: 'top',
                fontSize: 11,
                fill: palette.ink,
              }}
            />
          )}
        </BarChart>
      </ResponsiveContainer>
      <Box sx={{ display: 'flex', gap: 1.5, fontSize: '0.76rem', flexWrap: 'wrap' }}>
        {parts.map(([k, colour]) => (
          <Box key={k} sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
            <Box style={{ backgroundColor: colour }} sx={{ width: 10, height: 10 }} />
            {t(`fund.part.${k}`)}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
