/** One day of a launch in words: moved by pointer, by keys, or by the marks. */
import { Box } from '@mui/material';
import { dayText } from '../../../core/cash/calendar.ts';
import type { CashRuns } from '../../../core/cash/cash.ts';
import { FLOWS } from '../../../core/cash/run.ts';
import { useFormat } from '../../ui/locale.ts';
import { LEFT } from './cashFrame.ts';
import type { Mark } from './marks.ts';
import { useWords } from '../../ui/useWords.ts';

export function DayShown({
  said,
  start,
  currency,
  day,
  onDay,
  marks,
}: {
  said: CashRuns;
  /** The account at the start. */
  start: number;
  currency: string;
  /** Null: the day on which most is out. */
  day: number | null;
  onDay: (day: number) => void;
  marks: readonly Mark[];
}) {
  const { t } = useWords();
  const f = useFormat();
  const { run } = said.cases.expected;
  const d = day ?? said.cases.expected.neededOn ?? 0;
  const flows = FLOWS.filter((k) => Math.abs(run.flows[k][d] as number) > 0.004);
  const at = (of: Float64Array): number => of[d] as number;
  return (
    <Box
      sx={{
        fontSize: '0.84rem',
        display: 'flex',
        gap: 1.5,
        flexWrap: 'wrap',
        alignItems: 'center',
        pl: `${LEFT}px`,
      }}>
      <input
        type="range"
        min={0}
        max={said.horizon}
        value={d}
        aria-label={t('overTime.day')}
        aria-valuetext={f.day(dayText(said.start, d))}
        className="no-print"
        style={{ flex: '1 1 200px', maxWidth: 260, height: 24 }}
        onChange={(e) => onDay(Number(e.target.value))}
      />
      <Box component="span" data-testid="day-shown" sx={{ flex: '3 1 340px' }}>
        {t('overTime.onDay', {
          day: f.day(dayText(said.start, d)),
          balance: f.money(start + at(run.cumulated), currency),
          stock: f.number(at(run.stock), 0),
          sold: f.number(at(run.sold), 1),
        })}{' '}
        {flows.length === 0
          ? t('overTime.noFlow')
          : flows.map((k) => `${t(`overTime.flow.${k}`)} ${f.plain(at(run.flows[k]), currency)}`).join(' · ')}
      </Box>
      <Box
        component="span"
        className="no-print"
        sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, flexBasis: '100%' }}>
        {marks
          .filter((m) => m.what !== 'vat')
          .map((m) => (
            <button key={`${m.what}${m.day}`} type="button" className="figure" onClick={() => onDay(m.day)}>
              {t(`overTime.mark.${m.what}`, { n: f.number(m.units, 0) })}{' '}
              {f.dayShort(dayText(said.start, m.day))}
            </button>
          ))}
      </Box>
    </Box>
  );
}
