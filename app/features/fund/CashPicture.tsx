/**
 * The account day by day against its start, with the stock under it on the same axis. Drawn as SVG of its own: areas
 * change their colour where the line crosses the start, on steps, and shortages are hatched, which charts of series do
 * not do; and it is drawn anew at every key.
 */
import { Box } from '@mui/material';
import { useMemo } from 'react';
import type { CashRuns } from '../../../core/cash/cash.ts';
import { Hatch } from '../../ui/Hatch.tsx';
import { useFormat } from '../../ui/locale.ts';
import { roundStep } from '../../ui/roundStep.ts';
import { useWidth } from '../../ui/useWidth.ts';
import { ACCOUNT, HEIGHT, LEFT, RIGHT, steps, TOP, v } from './cashFrame.ts';
import { DayShown } from './DayShown.tsx';
import { Ends, Marks, MonthAxis, StockUnder } from './cashParts.tsx';
import { marksOf } from './marks.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  said: CashRuns;
  cash: number | null;
  reserve: number;
  currency: string;
  day: number | null;
  onDay: (day: number | null) => void;
};

export function CashPicture({ said, cash, reserve, currency, day, onDay }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const [at, width] = useWidth<HTMLDivElement>(800);
  const start = cash ?? 0;
  const { horizon, cases } = said;
  const days = horizon + 1;
  const x = (d: number): number => LEFT + (d / days) * (width - LEFT - RIGHT);
  const drawn = useMemo(() => {
    const all = [cases.expected, cases.low, cases.high].map((c) => c.run.cumulated);
    const low = Math.min(0, ...all.map((c) => Math.min(...c))) + start;
    const high = Math.max(0, ...all.map((c) => Math.max(...c))) + start;
    const floor = cash === null ? low : Math.min(low, reserve, 0);
    const step = roundStep(high - floor || 1, 5);
    const from = Math.floor(floor / step) * step;
    const to = Math.ceil(high / step) * step || step;
    return { from, to: to > from ? to : from + step, step };
  }, [cases, start, cash, reserve]);
  const y = (money: number): number => TOP + ACCOUNT * (1 - (money - drawn.from) / (drawn.to - drawn.from));
  const ticks = Array.from(
    { length: Math.round((drawn.to - drawn.from) / drawn.step) + 1 },
    (_, i) => drawn.from + i * drawn.step,
  );
  const line = (c: 'low' | 'expected' | 'high'): string =>
    steps(cases[c].run.cumulated, x, (flow) => y(start + flow));
  const area = `${line('expected')}V${y(start).toFixed(1)}H${x(0).toFixed(1)}Z`;
  const marks = useMemo(() => marksOf(said), [said]);
  const lowest = cases.expected.neededOn;
  const shown = day === null ? null : Math.min(day, horizon);
  return (
    <Box ref={at} sx={{ mb: 1 }}>
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={t('overTime.picture')}
        style={{ display: 'block', fontSize: 12, overflow: 'visible' }}
        onPointerMove={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          const d = Math.floor(((e.clientX - box.left - LEFT) / (width - LEFT - RIGHT)) * days);
          onDay(d >= 0 && d <= horizon ? d : null);
        }}>
        <defs>
          <clipPath id="under-start">
            <rect x={LEFT} y={y(start)} width={width} height={HEIGHT} />
          </clipPath>
          <clipPath id="over-start">
            <rect x={LEFT} y={0} width={width} height={Math.max(0, y(start))} />
          </clipPath>
          <Hatch id="sold-out" />
        </defs>
        {ticks.map((money) => (
          <g key={money}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(money)} y2={y(money)} stroke={v('hairline')} />
            <text x={LEFT - 8} y={y(money) + 4} textAnchor="end" fill={v('text-secondary')}>
              {f.number(money, 0)}
            </text>
          </g>
        ))}
        <path d={area} fill={v('family-goods')} fillOpacity={0.55} clipPath="url(#under-start)" />
        <path d={area} fill={v('keep-main')} clipPath="url(#over-start)" />
        <path d={line('low')} fill="none" stroke={v('text-secondary')} strokeDasharray="2 3" />
        <path d={line('high')} fill="none" stroke={v('text-secondary')} strokeDasharray="6 3" />
        <line x1={LEFT} x2={width - RIGHT} y1={y(start)} y2={y(start)} stroke={v('ink')} strokeWidth={1.5} />
        <path d={line('expected')} fill="none" stroke={v('ink')} strokeWidth={2} />
        <Ends said={said} cash={cash} y={y} right={width - RIGHT} />
        {cash !== null && reserve > 0 && (
          <g>
            <line
              x1={LEFT}
              x2={width - RIGHT}
              y1={y(reserve)}
              y2={y(reserve)}
              stroke={v('ink')}
              strokeDasharray="3 3"
            />
            <text x={LEFT + 4} y={y(reserve) + 14} fill={v('text-secondary')}>
              {t('overTime.keptBack', { money: f.number(reserve, 0) })}
            </text>
          </g>
        )}
        {lowest !== null && (
          <g>
            <circle
              cx={x(lowest + 0.5)}
              cy={y(start - cases.expected.moneyNeeded)}
              r={4.5}
              fill={v('loss-main')}
            />
            <text
              x={x(lowest + 0.5) + (lowest > 0.75 * days ? -9 : 9)}
              textAnchor={lowest > 0.75 * days ? 'end' : 'start'}
              y={y(start - cases.expected.moneyNeeded) + 15}
              fontWeight={650}
              fill={v('loss-main')}>
              {t('overTime.lowest', { money: f.number(start - cases.expected.moneyNeeded, 0) })}
            </text>
          </g>
        )}
        <Marks marks={marks} x={x} width={width} />
        <StockUnder said={said} x={x} width={width} />
        <MonthAxis said={said} x={x} width={width} />
        {shown !== null && (
          <line
            x1={x(shown + 0.5)}
            x2={x(shown + 0.5)}
            y1={TOP - 6}
            y2={HEIGHT - 20}
            stroke={v('primary-main')}
            strokeWidth={1.5}
          />
        )}
      </svg>
      <DayShown said={said} start={start} currency={currency} day={shown} onDay={onDay} marks={marks} />
    </Box>
  );
}
