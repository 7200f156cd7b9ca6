/**
 * The price of a market day by day over the break-even line: what a unit keeps, or loses, filled between the two.
 * SVG of its own: a library of charts would take a quarter of what the page loads, and several times as long to draw.
 */
import { Box } from '@mui/material';
import { memo, useState } from 'react';
import type { HistorySaid } from '../../../core/evidence/keeps.ts';
import { Hatch } from '../../ui/Hatch.tsx';
import { useFormat } from '../../ui/locale.ts';
import { roundStep } from '../../ui/roundStep.ts';
import { useWidth } from '../../ui/useWidth.ts';
import { outlineOf, stretchesOf } from './dayShapes.ts';
import type { ShownDay } from './daysShown.ts';
import { UnderTime } from './UnderTime.tsx';
import type { Keeps } from './useKeeps.ts';
import { useWords } from '../../ui/useWords.ts';

const LEFT = 52;
/** Room for what the lines are called, beside them and not over the bars. */
const RIGHT = { whole: 104, bound: 142 };
const TOP = 6;
const PLOT = 214;
const HEIGHT = TOP + PLOT + 30;
/** Room that the name of a day takes on the axis. */
const DAY_WIDTH = 74;
const v = (name: string): string => `var(--mui-palette-${name})`;

/** Ticks one can say, at most seven. */
function ticksOf(low: number, high: number): number[] {
  const step = roundStep(high - low, 6);
  const first = Math.max(0, Math.floor(low / step) * step);
  const count = Math.ceil((high - first) / step + 1e-9);
  return Array.from({ length: count + 1 }, (_, i) => first + i * step);
}

type Props = { days: readonly ShownDay[]; history: HistorySaid; keeps: Keeps; mine: number | null };

/** Drawn again only where the days or the lines in them are new. */
export const MarginChart = memo(function MarginChart({ days, history, keeps, mine }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const [at, measured] = useWidth<HTMLDivElement>(760);
  const [day, setDay] = useState<number | null>(null);
  const c = history.currency;
  const even = history.breakEven;
  const prices = days.flatMap((d) => d.price ?? []);
  const marks = [even, mine, history.band?.low].filter((x): x is number => x != null);
  const ticks = ticksOf(Math.min(...prices, ...marks), Math.max(...prices, ...marks));
  const [from, to] = [ticks[0] as number, ticks.at(-1) as number];
  const width = Math.max(measured, 320);
  const right = width - (keeps.bounded ? RIGHT.bound : RIGHT.whole);
  const x = (i: number): number => LEFT + (i / days.length) * (right - LEFT);
  const y = (price: number): number => TOP + PLOT * (1 - (price - from) / (to - from));
  const shown = days[Math.min(day ?? days.length - 1, days.length - 1)] as ShownDay;
  const every = Math.max(1, Math.ceil(days.length / Math.max(1, Math.floor((right - LEFT) / DAY_WIDTH))));
  return (
    <Box ref={at}>
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={t('market.overTime.chart', { days: prices.length })}
        data-testid="margin-chart"
        style={{ display: 'block', fontSize: 12, maxWidth: '100%', overflow: 'visible' }}
        onPointerMove={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          const i = Math.floor(((e.clientX - box.left - LEFT) / (right - LEFT)) * days.length);
          setDay(i >= 0 && i < days.length ? i : null);
        }}
        onPointerLeave={() => setDay(null)}>
        <defs>
          <Hatch id="market-loses" />
        </defs>
        {history.band !== null && (
          <rect
            x={LEFT}
            width={right - LEFT}
            y={y(Math.min(to, history.band.high))}
            height={Math.max(0, y(Math.max(from, history.band.low)) - y(Math.min(to, history.band.high)))}
            fill={v('divider')}
            fillOpacity={0.55}
          />
        )}
        {ticks.map((price) => (
          <text key={price} x={LEFT - 8} y={y(price) + 4} textAnchor="end" fill={v('text-secondary')}>
            {f.number(price, 2)}
          </text>
        ))}
        <Gaps days={days} history={history} x={x} />
        {even !== null && (
          <>
            <path
              d={outlineOf(days, (d) => (d.price !== null && d.price >= even ? d.price : null), even, x, y)}
              fill={v('keep-main')}
            />
            <path
              d={outlineOf(days, (d) => (d.price !== null && d.price < even ? d.price : null), even, x, y)}
              fill="url(#market-loses)"
              stroke={v('loss-main')}
            />
          </>
        )}
        <path
          d={outlineOf(days, (d) => d.price, null, x, y)}
          fill="none"
          stroke={v('text-primary')}
          strokeWidth={1.25}
        />
        <Lines even={even} mine={mine} keeps={keeps} currency={c} y={y} right={right} span={to - from} />
        <line x1={LEFT} x2={right} y1={TOP + PLOT} y2={TOP + PLOT} stroke={v('text-secondary')} />
        {days.map((d, i) =>
          i % every === 0 && x(i) + DAY_WIDTH / 2 <= right ? (
            <text key={d.day} x={x(i)} y={TOP + PLOT + 16} fill={v('text-secondary')}>
              {f.dayShort(d.day)}
            </text>
          ) : null,
        )}
        {day !== null && (
          <line
            x1={x(day + 0.5)}
            x2={x(day + 0.5)}
            y1={TOP}
            y2={TOP + PLOT}
            stroke={v('primary-main')}
            strokeWidth={1.5}
          />
        )}
      </svg>
      <UnderTime days={days} left={LEFT} right={width - right} />
      <Box
        sx={{
          display: 'flex',
          gap: 1.5,
          alignItems: 'center',
          pl: `${LEFT}px`,
          mt: 0.5,
          fontSize: '0.84rem',
        }}>
        <input
          type="range"
          min={0}
          max={days.length - 1}
          value={day ?? days.length - 1}
          aria-label={t('market.overTime.goTo')}
          aria-valuetext={f.day(shown.day)}
          className="no-print"
          style={{ flex: '0 1 220px', height: 24 }}
          onChange={(e) => setDay(Number(e.target.value))}
        />
        <span data-testid="market-day">
          {f.day(shown.day)} ·{' '}
          {shown.price === null
            ? t(shown.observed ? 'market.overTime.nobody' : 'market.overTime.notSeen')
            : t('market.overTime.point', {
                price: f.money(shown.price, c),
                profit: keeps.money(shown.unitProfit),
              })}
        </span>
      </Box>
    </Box>
  );
});

/** Stretches in which nobody offered, said where there is room. */
function Gaps({
  days,
  history,
  x,
}: {
  days: readonly ShownDay[];
  history: HistorySaid;
  x: (i: number) => number;
}) {
  const { t } = useWords();
  const first = days[0]?.day ?? '';
  const inGap = (d: ShownDay): boolean => history.gaps.some((g) => d.day >= g.from && d.day <= g.to);
  if (history.gaps.every((g) => g.to < first)) return null;
  return (
    <>
      {stretchesOf(days.map(inGap)).map(([from, to]) => (
        <g key={from}>
          <rect
            x={x(from)}
            width={x(to + 1) - x(from)}
            y={TOP}
            height={PLOT}
            fill={v('background-default')}
          />
          {x(to + 1) - x(from) > 84 && (
            <text
              x={(x(from) + x(to + 1)) / 2}
              y={TOP + PLOT / 2}
              textAnchor="middle"
              fontSize={11}
              fill={v('text-secondary')}>
              {t('market.overTime.gap')}
            </text>
          )}
        </g>
      ))}
    </>
  );
}

/** The break-even line and my price, each called by its name beside it; names of lines that nearly meet stand apart. */
function Lines({
  even,
  mine,
  keeps,
  currency,
  y,
  right,
  span,
}: {
  even: number | null;
  mine: number | null;
  keeps: Keeps;
  currency: string;
  y: (price: number) => number;
  right: number;
  span: number;
}) {
  const { t } = useWords();
  const f = useFormat();
  const meet = even !== null && mine !== null && Math.abs(mine - even) < 0.07 * span;
  const apart = meet ? (mine > even ? 8 : -8) : 0;
  const named = (price: number, name: string, by: number) => (
    <text x={right + 6} y={y(price) + 4 + by} fontWeight={650} fill={v('text-primary')}>
      {name}
    </text>
  );
  return (
    <>
      {even !== null && (
        <>
          <line x1={LEFT} x2={right} y1={y(even)} y2={y(even)} stroke={v('text-primary')} strokeWidth={2} />
          {named(even, t('market.overTime.breaksEven', { price: keeps.even(even) }), apart)}
        </>
      )}
      {mine !== null && (
        <>
          <line
            x1={LEFT}
            x2={right}
            y1={y(mine)}
            y2={y(mine)}
            stroke={v('text-primary')}
            strokeDasharray="3 3"
          />
          {named(mine, t('market.overTime.mine', { price: f.plain(mine, currency) }), -apart)}
        </>
      )}
    </>
  );
}
