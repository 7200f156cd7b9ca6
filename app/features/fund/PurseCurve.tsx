/** What more cash would bring: the value of the best plan over the cash there is. */
import { Box } from '@mui/material';
import type { CurvePoint } from '../../../core/purse/purse.ts';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { useWidth } from '../../ui/useWidth.ts';
import { Pane } from '../weigh/Pane.tsx';
import { useWords } from '../../ui/useWords.ts';

const HEIGHT = 150;
const [LEFT, RIGHT, TOP, BOTTOM] = [62, 20, 14, 28];
const v = (name: string): string => `var(--mui-palette-${name})`;

export function PurseCurve({
  curve,
  cash,
  currency,
}: {
  curve: readonly CurvePoint[];
  cash: number;
  currency: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const [at, width] = useWidth<HTMLDivElement>(800);
  const known = curve.filter((c): c is CurvePoint & { worth: number } => c.worth !== null);
  const most = Math.max(1, ...known.map((c) => c.worth));
  const x = (money: number): number => LEFT + (money / (2 * cash || 1)) * (width - LEFT - RIGHT);
  const y = (worth: number): number => TOP + (HEIGHT - TOP - BOTTOM) * (1 - worth / most);
  const now = known.find((c) => c.share === 1);
  return (
    <Pane
      title={t('purse.curve')}
      aside={
        <Box sx={{ display: 'flex', justifyContent: 'space-between' }}>
          <span>
            {t('purse.curveOf')}, {currency}
          </span>
          <TableFile
            table={() => ({
              name: t('purse.curve'),
              columns: [{ title: t('fund.cash') }, { title: t('purse.curveOf') }],
              rows: curve.map((c) => [c.cash, c.worth]),
            })}
          />
        </Box>
      }>
      <Box ref={at}>
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label={t('purse.curve')}
          style={{ display: 'block', fontSize: 12 }}>
          {[0, 0.5, 1].map((k) => (
            <g key={k}>
              <line x1={LEFT} x2={width - RIGHT} y1={y(k * most)} y2={y(k * most)} stroke={v('hairline')} />
              <text x={LEFT - 8} y={y(k * most) + 4} textAnchor="end" fill={v('text-secondary')}>
                {f.number(k * most, 0)}
              </text>
            </g>
          ))}
          {[0.5, 1, 1.5, 2].map((k) => (
            <text
              key={k}
              x={x(k * cash)}
              y={HEIGHT - 8}
              textAnchor={k === 2 ? 'end' : 'middle'}
              fill={v('text-secondary')}>
              {f.number(k * cash, 0)}
            </text>
          ))}
          <path
            d={known
              .map((c, i) => `${i === 0 ? 'M' : 'L'}${x(c.cash).toFixed(1)} ${y(c.worth).toFixed(1)}`)
              .join('')}
            fill="none"
            stroke={v('keep-main')}
            strokeWidth={2.5}
          />
          {now !== undefined && (
            <>
              <circle cx={x(now.cash)} cy={y(now.worth)} r={4.5} fill={v('keep-main')} />
              <text x={x(now.cash) + 8} y={y(now.worth) + 18} fill={v('text-primary')} fontWeight={650}>
                {t('purse.nowCash', { cash: f.number(now.cash, 0), money: f.number(now.worth, 0) })}
              </text>
            </>
          )}
        </svg>
      </Box>
    </Pane>
  );
}
