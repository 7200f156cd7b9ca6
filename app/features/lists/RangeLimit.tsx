/** A limit from and to, over how the figure lies in the list. */
import { Box } from '@mui/material';
import type { ListFilter } from '../../../core/lists/query.ts';
import type { ListFigure } from '../../../core/lists/figures.ts';
import type { FigureStats } from '../../../between/ask.ts';
import { NumField } from '../../ui/Field.tsx';
import { minorDigits } from '../../../core/money/money.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import type { Format } from '../../ui/locale.ts';
import { listFigureRule } from '../../../core/lists/figures.ts';
import { useWords } from '../../ui/useWords.ts';

/** The unit a figure of a list is shown in. */
export function figureKind(
  f: ListFigure,
  list: string,
  sales: string,
): { kind: 'money' | 'percent' | 'number'; currency?: string } {
  const { unit } = listFigureRule(f);
  if (unit === 'share') return { kind: 'percent' };
  if (unit === 'purchase' || unit === 'sales')
    return { kind: 'money', currency: unit === 'purchase' ? list : sales };
  return { kind: 'number' };
}

export function figureText(
  fmt: Format,
  f: ListFigure,
  x: number | null | undefined,
  list: string,
  sales: string,
): string {
  if (x === null || x === undefined) return '–';
  const { unit, roundsDown } = listFigureRule(f);
  if (unit === 'share') return fmt.percent(x);
  if (typeof unit === 'object') return fmt.number(x, unit.decimals);
  const currency = unit === 'purchase' ? list : sales;
  return fmt.plain(roundsDown ? floorTo(x, minorDigits(currency)) : x, currency);
}

export function RangeLimit({
  filter,
  stats,
  onChange,
  kind,
  currency,
}: {
  filter: Extract<ListFilter, { kind: 'range' }>;
  stats: FigureStats | undefined;
  onChange: (f: ListFilter) => void;
  kind: 'money' | 'percent' | 'number';
  currency?: string;
}) {
  const { t } = useWords();
  const name = t(`listFigure.${filter.figure}`);
  const field = { kind, min: -1e9, width: '100%', ...(currency === undefined ? {} : { currency }) } as const;
  return (
    <>
      {stats !== undefined && stats.to > stats.from && (
        <Spread stats={stats} min={filter.min} max={filter.max} name={name} kind={kind} currency={currency} />
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <NumField
          label={`${t('list.from')}${filter.min === null ? ` (${t('list.noLimit')})` : ''}`}
          value={filter.min}
          onChange={(min) => onChange({ ...filter, min })}
          {...field}
        />
        <NumField
          label={`${t('list.to')}${filter.max === null ? ` (${t('list.noLimit')})` : ''}`}
          value={filter.max}
          onChange={(max) => onChange({ ...filter, max })}
          {...field}
        />
      </Box>
      <Box
        component="label"
        sx={{ display: 'flex', gap: 0.5, minHeight: 24, alignItems: 'center', fontSize: '0.78rem' }}>
        <input
          type="checkbox"
          checked={filter.keepUnknown}
          onChange={(e) => onChange({ ...filter, keepUnknown: e.target.checked })}
        />
        {t('list.keepUnknown')}
      </Box>
    </>
  );
}

/** How a figure lies in the list, small, with the limits drawn on it: what they take away stands pale. */
function Spread({
  stats,
  min,
  max,
  name,
  kind,
  currency,
}: {
  stats: FigureStats;
  min: number | null;
  max: number | null;
  name: string;
  kind: string;
  currency: string | undefined;
}) {
  const { t } = useWords();
  const f = useFormat();
  const most = Math.max(1, ...stats.counts);
  const [from, to] = [stats.from, stats.to];
  const at = (x: number): number => Math.max(0, Math.min(100, (100 * (x - from)) / (to - from)));
  const text = (x: number): string =>
    kind === 'percent'
      ? f.percent(x, 0)
      : kind === 'money' && currency !== undefined
        ? f.plain(x, currency)
        : f.number(x, 0);
  return (
    <Box
      role="img"
      aria-label={t('list.distribution', { figure: name, from: text(from), to: text(to) })}
      sx={{ mt: 0.5 }}>
      <Box sx={{ position: 'relative', height: 30 }}>
        {stats.counts.map((n, i) => {
          const width = 100 / stats.counts.length;
          const mid = from + ((i + 0.5) * (to - from)) / stats.counts.length;
          const stays = (min === null || mid >= min) && (max === null || mid <= max);
          return (
            <Box
              // biome-ignore lint/suspicious/noArrayIndexKey: bins are their places
              key={i}
              component="span"
              sx={{
                position: 'absolute',
                bottom: 0,
                bgcolor: stays ? 'text.primary' : 'fieldLine',
                opacity: stays ? 0.75 : 0.4,
              }}
              style={{
                left: `${i * width}%`,
                width: `calc(${width}% - 1px)`,
                height: `${n === 0 ? 0 : Math.max(4, (100 * n) / most)}%`,
              }}
            />
          );
        })}
        {[min, max].map(
          (x, i) =>
            x !== null && (
              <Box
                key={i === 0 ? 'min' : 'max'}
                component="span"
                sx={{ position: 'absolute', top: -2, bottom: -2, width: '2px', bgcolor: 'primary.main' }}
                style={{ left: `${at(x)}%` }}
              />
            ),
        )}
      </Box>
      <Box
        sx={{
          display: 'flex',
          justifyContent: 'space-between',
          fontSize: '0.7rem',
          color: 'text.secondary',
          borderTop: '1px solid',
          borderColor: 'fieldLine',
        }}>
        <span>{text(from)}</span>
        <span>{text(to)}</span>
      </Box>
    </Box>
  );
}
