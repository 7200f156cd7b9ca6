/** Parts of the picture of an account: names, marks, the stock under it, the months. */
import { useMemo } from 'react';
import { calendarOf } from '../../../core/cash/calendar.ts';
import type { CashRuns } from '../../../core/cash/cash.ts';
import { useFormat } from '../../ui/locale.ts';
import { ACCOUNT, BASE, HEIGHT, LEFT, RIGHT, STOCK, steps, TOP, v } from './cashFrame.ts';
import type { Mark } from './marks.ts';
import { useWords } from '../../ui/useWords.ts';

/** What the lines are called, beside their ends; names that would stand over each other are moved apart. */
export function Ends({
  said,
  cash,
  y,
  right,
}: {
  said: CashRuns;
  cash: number | null;
  y: (m: number) => number;
  right: number;
}) {
  const { t } = useWords();
  const f = useFormat();
  const start = cash ?? 0;
  const names = [
    { text: t('overTime.high'), at: y(start + said.cases.high.end), ink: v('text-secondary') },
    { text: t('overTime.expected'), at: y(start + said.cases.expected.end), ink: v('ink') },
    { text: t('overTime.low'), at: y(start + said.cases.low.end), ink: v('text-secondary') },
  ].sort((a, b) => a.at - b.at);
  let last = Number.NEGATIVE_INFINITY;
  return (
    <g>
      {names.map(({ text, at, ink }) => {
        last = Math.max(at, last + 15);
        return (
          <text key={text} x={right + 6} y={last + 4} fill={ink}>
            {text}
          </text>
        );
      })}
      {/* A rim in the colour of the paper keeps it apart from the lines that cross it. */}
      <text
        x={right - 2}
        y={y(start) + 15}
        textAnchor="end"
        fill={v('ink')}
        fontWeight={650}
        paintOrder="stroke"
        stroke={v('background-default')}
        strokeWidth={4}>
        {cash === null ? t('overTime.start') : t('overTime.cashAtStart', { money: f.number(start, 0) })}
      </text>
    </g>
  );
}

/** Names of the days that count, on three heights, so that near ones stand apart; VAT is a tick alone. */
export function Marks({
  marks,
  x,
  width,
}: {
  marks: readonly Mark[];
  x: (t: number) => number;
  width: number;
}) {
  const { t } = useWords();
  const f = useFormat();
  const ends = [-1, -1, -1];
  return (
    <g>
      {marks.map((m) => {
        const at = x(m.day);
        const name = t(`overTime.mark.${m.what}`, { n: f.number(m.units, 0) });
        const wide = name.length * 6.4 + 8;
        const row = m.what === 'vat' ? -1 : ends.findIndex((end) => at > end && at + wide < width + 30);
        if (row >= 0) ends[row] = at + wide;
        return (
          <g key={`${m.what}${m.day}`}>
            <line
              x1={at}
              x2={at}
              y1={row >= 0 ? 14 + row * 16 : TOP - 6}
              y2={m.what === 'vat' ? TOP : TOP + ACCOUNT}
              stroke={v('text-secondary')}
              strokeOpacity={0.55}
            />
            {row >= 0 && (
              <text x={at + 4} y={14 + row * 16} fill={v('text-primary')}>
                {name}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

export function StockUnder({ said, x, width }: { said: CashRuns; x: (t: number) => number; width: number }) {
  const { t } = useWords();
  const f = useFormat();
  const { run } = said.cases.expected;
  const most = Math.max(1e-9, ...run.stock);
  const y = (units: number): number => BASE - (units / most) * STOCK;
  const isShort = (d: number): boolean => (run.lost[d] as number) > 1e-9;
  const short: [number, number][] = [];
  for (let d = 0; d <= said.horizon; d++)
    if (isShort(d)) {
      const last = short.at(-1);
      if (last !== undefined && last[1] === d) last[1] = d + 1;
      else short.push([d, d + 1]);
    }
  return (
    <g>
      <text x={LEFT - 8} y={BASE - STOCK / 2} textAnchor="end" fill={v('text-secondary')}>
        {t('overTime.stock')}
      </text>
      <text x={LEFT - 8} y={BASE - STOCK + 8} textAnchor="end" fill={v('text-secondary')}>
        {most < 1e-6 ? '' : f.number(most, 0)}
      </text>
      <path d={`${steps(run.stock, x, y)}V${BASE}H${x(0)}Z`} fill={v('family-wayIn')} fillOpacity={0.6} />
      {short.map(([from, to]) => (
        <rect
          key={from}
          x={x(from)}
          y={BASE - STOCK}
          width={x(to) - x(from)}
          height={STOCK}
          fill="url(#sold-out)">
          <title>{t('overTime.soldOut')}</title>
        </rect>
      ))}
      <line x1={LEFT} x2={width - RIGHT} y1={BASE} y2={BASE} stroke={v('ink')} />
    </g>
  );
}

export function MonthAxis({ said, x, width }: { said: CashRuns; x: (t: number) => number; width: number }) {
  const f = useFormat();
  const days = said.horizon + 1;
  const calendar = useMemo(() => calendarOf(said.start, days, 'month'), [said.start, days]);
  const months: { from: number; to: number; month: number }[] = [];
  for (let d = 0; d < days; ) {
    const to = Math.min(days - 1, calendar.monthEnd[d] as number);
    months.push({ from: d, to: to + 1, month: (calendar.month[d] as number) + 1 });
    d = to + 1;
  }
  const every = Math.ceil(months.length / Math.max(1, Math.floor((width - LEFT) / 46)));
  return (
    <g fill={v('text-secondary')} textAnchor="middle">
      {months.map((m, i) =>
        i % every === 0 && x(m.to) - x(m.from) > 20 / every ? (
          <text key={m.from} x={(x(m.from) + x(m.to)) / 2} y={HEIGHT - 6}>
            {f.monthName(m.month)}
          </text>
        ) : null,
      )}
    </g>
  );
}
