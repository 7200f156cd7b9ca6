/**
 * Launch cash at each quantity, stacked by what it is for, against the cash at hand. SVG of its own: a library of
 * charts for three bars would be a quarter of what the page loads.
 */
import { Box } from '@mui/material';
import type { BudgetAt } from '../../../core/launch/schema.ts';
import { useFormat } from '../../ui/locale.ts';
import { roundStep } from '../../ui/roundStep.ts';
import { useWidth } from '../../ui/useWidth.ts';
import { useWords } from '../../ui/useWords.ts';

const NAMES = 76;
const RIGHT = 44;
const TOP = 18;
const ROW = 42;
const BAR = 18;
const v = (name: string): string => `var(--mui-palette-${name})`;
const PARTS = [
  ['goods', 'family-goods'],
  ['oneOffs', 'family-wayIn'],
  ['advertising', 'family-adverts'],
  ['contingency', 'family-tax'],
] as const;

const amountsOf = ({ lines }: BudgetAt): Record<(typeof PARTS)[number][0], number> => ({
  goods: lines.goods ?? 0,
  oneOffs: lines.oneOffs ?? 0,
  advertising: (lines.advertising ?? 0) + (lines.discounts ?? 0),
  contingency: lines.contingency ?? 0,
});

export function QuantityChart({
  compared,
  cash,
  currency,
}: {
  compared: readonly BudgetAt[];
  cash: number | null;
  currency: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const [at, width] = useWidth<HTMLDivElement>(370);
  const rows = compared.map((c) => ({ quantity: c.quantity, amounts: amountsOf(c) }));
  const sums = rows.map(({ amounts }) => PARTS.reduce((sum, [k]) => sum + amounts[k], 0));
  const most = Math.max(1, cash ?? 0, ...sums);
  const x = (money: number): number => NAMES + (money / most) * (width - NAMES - RIGHT);
  const step = roundStep(most, 3);
  const foot = TOP + ROW * rows.length;
  return (
    <Box ref={at} sx={{ mt: 1.5 }}>
      <svg
        width={width}
        height={foot + 24}
        role="img"
        aria-label={t('fund.chart')}
        style={{ display: 'block', fontSize: 12 }}>
        {rows.map(({ quantity, amounts }, i) => {
          let from = 0;
          const top = TOP + ROW * i + (ROW - BAR) / 2;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: two of the quantities may be the same
            <g key={i}>
              <text x={NAMES - 8} y={top + 13} textAnchor="end" fill={v('text-secondary')}>
                {t('describe.units', { count: quantity, n: f.number(quantity) })}
              </text>
              {PARTS.map(([k, colour]) => {
                const left = x(from);
                from += amounts[k];
                return <rect key={k} x={left} y={top} width={x(from) - left} height={BAR} fill={v(colour)} />;
              })}
            </g>
          );
        })}
        <path d={`M${NAMES} ${TOP}V${foot}H${width - RIGHT}`} fill="none" stroke={v('ink')} />
        {Array.from({ length: Math.floor(most / step) + 1 }, (_, i) => i * step).map((money) => (
          <text key={money} x={x(money)} y={foot + 16} textAnchor="middle" fill={v('text-secondary')}>
            {f.mark(money, currency)}
          </text>
        ))}
        {cash !== null && cash >= 0 && (
          <>
            <line x1={x(cash)} x2={x(cash)} y1={TOP} y2={foot} stroke={v('ink')} strokeWidth={2} />
            <text x={Math.min(x(cash), width - 52)} y={12} textAnchor="middle" fill={v('text-primary')}>
              {t('fund.cashMark', { cash: f.money(cash, currency) })}
            </text>
          </>
        )}
      </svg>
      <Box sx={{ display: 'flex', gap: 1.5, fontSize: '0.76rem', flexWrap: 'wrap' }}>
        {PARTS.map(([k, colour]) => (
          <Box key={k} sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
            <Box style={{ backgroundColor: v(colour) }} sx={{ width: 10, height: 10 }} />
            {t(`fund.part.${k}`)}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
