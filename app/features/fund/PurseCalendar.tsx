/** The chosen launches as bars over the account they share; a bar that is dragged to another week is pinned there. */
import { Box } from '@mui/material';
import { useRef, useState } from 'react';
import type { PointerEvent } from 'react';
import { calendarOf, dayText } from '../../../core/cash/calendar.ts';
import { lastDay } from '../../../core/purse/options.ts';
import type { Launch, Plan } from '../../../core/purse/purse.ts';
import type { PurseDocument } from '../../../core/purse/schema.ts';
import { useFormat } from '../../ui/locale.ts';
import { roundStep } from '../../ui/roundStep.ts';
import { useWidth } from '../../ui/useWidth.ts';
import { Pane } from '../weigh/Pane.tsx';
import type { PurseRules } from './usePurseRules.ts';
import { useWords } from '../../ui/useWords.ts';

const NAMES = 196;
const ROW = 54;
const v = (name: string): string => `var(--mui-palette-${name})`;

type Props = {
  plan: Plan;
  document: PurseDocument;
  rules: PurseRules;
  nameOf: (key: string) => string;
  currency: string;
};

export function PurseCalendar({ plan, document, rules, nameOf, currency }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const [at, width] = useWidth<HTMLDivElement>(800);
  const days = lastDay(document) + 1;
  const names = width < 520 ? 0 : NAMES;
  const x = (d: number): number => names + (d / days) * (width - names - 4);
  const months = monthsOf(document.start, days);
  const pin = (l: Launch, week: number): void =>
    rules.change({ must: { ...rules.kept.must, [l.key]: { quantity: l.quantity, week } } });
  return (
    <Pane title={t('purse.calendar')}>
      <Box ref={at} sx={{ position: 'relative' }}>
        <svg width={width} height={20} style={{ display: 'block', fontSize: 12 }} aria-hidden="true">
          {months.map((m) => (
            <text
              key={m.from}
              x={(x(m.from) + x(m.to)) / 2}
              y={14}
              textAnchor="middle"
              fill={v('text-secondary')}>
              {x(m.to) - x(m.from) > 24 ? f.monthName(m.month) : ''}
            </text>
          ))}
        </svg>
        {plan.launches.map((l) => (
          <LaunchRow
            key={l.key}
            launch={l}
            name={nameOf(l.key)}
            document={document}
            names={names}
            width={width}
            isPinned={typeof rules.kept.must[l.key] === 'object'}
            onWeek={(week) => pin(l, week)}
          />
        ))}
        <Account
          plan={plan}
          document={document}
          x={x}
          width={width}
          names={names}
          currency={currency}
          months={months}
        />
      </Box>
    </Pane>
  );
}

function monthsOf(start: string, days: number): { from: number; to: number; month: number }[] {
  const calendar = calendarOf(start, days, 'month');
  const months = [];
  for (let d = 0; d < days; ) {
    const to = Math.min(days - 1, calendar.monthEnd[d] as number) + 1;
    months.push({ from: d, to, month: (calendar.month[d] as number) + 1 });
    d = to;
  }
  return months;
}

type RowProps = {
  launch: Launch;
  name: string;
  document: PurseDocument;
  names: number;
  width: number;
  isPinned: boolean;
  onWeek: (week: number) => void;
};

/** Money out in earth, goods on sale in sand, money back on top in the colour of what is kept. */
function LaunchRow({ launch, name, document, names, width, isPinned, onWeek }: RowProps) {
  const { t } = useWords();
  const f = useFormat();
  const days = lastDay(document) + 1;
  const scale = (width - names - 4) / days;
  const from = useRef<number | null>(null);
  const [moved, setMoved] = useState(0);
  const weekAt = (by: number): number =>
    Math.max(0, Math.min(document.weeks - 1, Math.round(launch.week + by / scale / 7)));
  const dayAt = (week: number): string => f.dayShort(dayText(document.start, 7 * week));
  const start = 7 * launch.week;
  const back = launch.payback ?? days;
  const shift = (weekAt(moved) - launch.week) * 7 * scale;
  const left = (d: number): number => names + d * scale + shift;
  const drop = (e: PointerEvent): void => {
    if (from.current === null) return;
    const week = weekAt(e.clientX - from.current);
    from.current = null;
    setMoved(0);
    if (week !== launch.week) onWeek(week);
  };
  const part = (a: number, b: number, colour: string, top: number, height: number) => (
    <Box
      style={{ left: left(a), width: Math.max(0, Math.min(b, days) - a) * scale, top, height }}
      sx={{ position: 'absolute', bgcolor: colour, overflow: 'hidden' }}
    />
  );
  return (
    <Box
      sx={{
        position: 'relative',
        height: names === 0 ? ROW + 34 : ROW,
        borderTop: '1px solid',
        borderColor: 'hairline',
      }}>
      <Box
        sx={{
          position: 'absolute',
          left: 0,
          top: 4,
          width: names === 0 ? '100%' : names - 12,
          fontSize: '0.82rem',
          lineHeight: 1.25,
        }}>
        <b>{name.split(' · ')[0]}</b>
        <Box sx={{ color: 'text.secondary', fontSize: '0.76rem' }}>
          {name.split(' · ').slice(1).join(' · ')} · {f.number(launch.quantity, 0)}
        </Box>
      </Box>
      <Box
        sx={{ position: 'absolute', inset: 0, top: names === 0 ? 34 : 0, overflow: 'hidden' }}
        style={{ pointerEvents: 'none' }}>
        {part(start, Math.min(launch.onSale, back), 'family.wayIn', 12, 18)}
        {part(Math.min(launch.onSale, back), back, 'family.tax', 12, 18)}
        {part(back, days, 'keep.main', 6, 24)}
        <Box
          className="no-print"
          title={t('purse.dragHint')}
          style={{ left: left(start), width: Math.max(30, (days - start) * scale), pointerEvents: 'auto' }}
          sx={{
            position: 'absolute',
            top: 4,
            height: 28,
            cursor: 'ew-resize',
            touchAction: 'none',
            '&:focus-within': { outline: '2px solid', outlineColor: 'primary.main', outlineOffset: 1 },
            '& .bar-week': { position: 'absolute', inset: 0, opacity: 0, pointerEvents: 'none', margin: 0 },
          }}
          onPointerDown={(e) => {
            from.current = e.clientX;
            e.currentTarget.setPointerCapture(e.pointerId);
          }}
          onPointerMove={(e) => from.current !== null && setMoved(e.clientX - from.current)}
          onPointerUp={drop}
          onPointerCancel={() => {
            from.current = null;
            setMoved(0);
          }}>
          {/* The same by keys: a slider that is seen by its focus alone. */}
          <input
            type="range"
            className="bar-week"
            aria-label={t('purse.pin', { name })}
            aria-valuetext={dayAt(launch.week)}
            min={0}
            max={document.weeks - 1}
            value={launch.week}
            onChange={(e) => onWeek(Number(e.target.value))}
          />
        </Box>
        <Box
          style={{ left: left(start) + 3 }}
          sx={{
            position: 'absolute',
            top: 32,
            fontSize: '0.74rem',
            color: 'text.secondary',
            whiteSpace: 'nowrap',
          }}>
          {t('purse.ordered', { day: dayAt(weekAt(moved)) })}
          {isPinned ? ` · ${t('purse.isPinned')}` : ''}
        </Box>
        {launch.payback !== null && (back - start) * scale > 100 && (
          <Box
            style={{ left: Math.min(left(back) + 3, width - 120) }}
            sx={{
              position: 'absolute',
              top: 32,
              fontSize: '0.74rem',
              color: 'text.secondary',
              whiteSpace: 'nowrap',
            }}>
            {t('purse.backOn', { day: f.dayShort(dayText(document.start, back)) })}
          </Box>
        )}
      </Box>
    </Box>
  );
}

function Account({
  plan,
  document,
  x,
  width,
  names,
  currency,
  months,
}: {
  plan: Plan;
  document: PurseDocument;
  x: (d: number) => number;
  width: number;
  names: number;
  currency: string;
  months: readonly { from: number }[];
}) {
  const { t } = useWords();
  const f = useFormat();
  const HEIGHT = 150;
  const low = Math.min(0, ...plan.balance);
  const high = Math.max(document.cash, ...plan.balance);
  const step = roundStep(high - low || 1, 4);
  const y = (money: number): number => 10 + (HEIGHT - 20) * (1 - (money - low) / (high - low || 1));
  const ticks = Array.from(
    { length: Math.floor((high - low) / step) + 1 },
    (_, i) => Math.ceil(low / step) * step + i * step,
  );
  const line = plan.balance
    .map((b, w) => `${w === 0 ? 'M' : 'L'}${x(7 * w + 3.5).toFixed(1)} ${y(b).toFixed(1)}`)
    .join('');
  return (
    <svg
      width={width}
      height={HEIGHT}
      role="img"
      aria-label={t('purse.account')}
      style={{ display: 'block', fontSize: 12, overflow: 'visible' }}>
      {names > 0 && (
        <text x={0} y={22} fill={v('text-primary')} fontWeight={650}>
          {t('purse.account')}
        </text>
      )}
      {months.map((m) => (
        <line key={m.from} x1={x(m.from)} x2={x(m.from)} y1={0} y2={HEIGHT} stroke={v('hairline')} />
      ))}
      {ticks.map((money) => (
        <text
          key={money}
          x={Math.max(44, names - 8)}
          y={y(money) + 4}
          textAnchor="end"
          fill={v('text-secondary')}>
          {f.number(money, 0)}
        </text>
      ))}
      <path
        d={`${line}L${x(7 * plan.balance.length - 3.5)} ${y(0)}L${x(3.5)} ${y(0)}Z`}
        fill={v('family-tax')}
        fillOpacity={0.35}
      />
      <path d={line} fill="none" stroke={v('ink')} strokeWidth={2} />
      {document.reserve > 0 && (
        <>
          <line
            x1={x(0)}
            x2={width}
            y1={y(document.reserve)}
            y2={y(document.reserve)}
            stroke={v('ink')}
            strokeDasharray="3 3"
          />
          <text x={x(0) + 4} y={y(document.reserve) + 14} fill={v('text-secondary')}>
            {t('purse.keptBack')} {f.money(document.reserve, currency)}
          </text>
        </>
      )}
    </svg>
  );
}
