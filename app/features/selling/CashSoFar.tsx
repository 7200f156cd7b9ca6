/** The cash of a lane on sale beside its launch as it was planned, and when the money is back. */
import { Box, Typography } from '@mui/material';
import { Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { CashBeside } from '../../../core/actuals/cashBeside.ts';
import { daysBetween } from '../../../core/money/days.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { dashesOf, Stroke } from '../../ui/Stroke.tsx';
import { TableFile } from '../../ui/TableFile.tsx';
import { useChartLook } from '../../ui/useChartLook.ts';
import { useWords } from '../../ui/useWords.ts';
import './words.ts';

const SERIES = ['actual', 'planned', 'ahead'] as const;

/** `cash` null: the lane cannot be run over time. */
export function CashSoFar({ cash, name }: { cash: CashBeside | null; name: string }) {
  const { t } = useWords();
  return (
    <Box component="section" aria-label={t('launched.cash.title')} sx={{ mt: 3 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        {t('launched.cash.title')}
      </Typography>
      {cash === null ? <Typography>{t('launched.cash.none')}</Typography> : <Said cash={cash} name={name} />}
    </Box>
  );
}

function Said({ cash, name }: { cash: CashBeside; name: string }) {
  const { t } = useWords();
  const f = useFormat();
  const and = new Intl.ListFormat('en', { type: 'conjunction' });
  const { planned, actual } = cash.today;
  const money = (x: number | null): string => f.money(x, cash.currency);
  return (
    <>
      <Typography>
        <MoneyBack cash={cash} />{' '}
        {t(planned === null ? 'launched.cash.todayAlone' : 'launched.cash.today', {
          actual: money(actual),
          planned: money(planned),
        })}
      </Typography>
      {cash.ordersUnknown > 0 && (
        <Typography>{t('launched.cash.ordersUnknown', { count: cash.ordersUnknown })}</Typography>
      )}
      {cash.byPlan.length > 0 && (
        <Typography variant="body2" color="text.secondary">
          {t('launched.cash.byPlan', {
            what: and.format(cash.byPlan.map((b) => t(`launched.cash.told.${b}`))),
          })}
        </Typography>
      )}
      <Picture cash={cash} />
      <Box component="details">
        <summary>{t('launched.months')}</summary>
        <MonthsOfCash cash={cash} name={name} />
      </Box>
    </>
  );
}

function MonthsOfCash({ cash, name }: { cash: CashBeside; name: string }) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end' }}>
        <TableFile
          table={() => ({
            name: `${name}, ${t('launched.cash.title')}`,
            columns: [t('launched.month'), ...SERIES.map((s) => t(`launched.cash.${s}`))].map((title) => ({
              title,
            })),
            rows: cash.months.map((m) => [m.month, ...SERIES.map((s) => m[s])]),
          })}
        />
      </Box>
      <FigureTable label={t('launched.cash.picture')}>
        <thead>
          <tr>
            <th scope="col">{t('launched.month')}</th>
            {SERIES.map((s) => (
              <th scope="col" key={s}>
                {t(`launched.cash.${s}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {cash.months.map((m) => (
            <tr key={m.month} className={m.actual === null ? 'quiet' : undefined}>
              <th scope="row">{`${f.monthName(Number(m.month.slice(5)))} ${m.month.slice(0, 4)}`}</th>
              {SERIES.map((s) => (
                <td key={s}>{f.money(m[s], cash.currency)}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </FigureTable>
    </>
  );
}

/** Which of the two days is known, and which comes first. */
function backWords({ plannedPayback: planned, payback }: CashBeside) {
  const { known, day } = payback;
  if (!known) return planned === null ? 'unknownNotPlanned' : 'unknown';
  if (day === null) return planned === null ? 'neither' : 'notActual';
  if (planned === null) return 'notPlanned';
  return day === planned ? 'both' : day > planned ? 'later' : 'earlier';
}

/** When the money is back: planned, as it goes now, and how far apart that is. */
function MoneyBack({ cash }: { cash: CashBeside }) {
  const { t } = useWords();
  const f = useFormat();
  const { plannedPayback: planned, payback } = cash;
  const apart = planned === null || payback.day === null ? 0 : daysBetween(planned, payback.day);
  return t(`launched.cash.back.${backWords(cash)}`, {
    planned: planned === null ? '' : f.day(planned),
    actual: payback.day === null ? '' : f.day(payback.day),
    days: t('launched.cash.days', { count: Math.abs(apart) }),
  });
}

/** As it went, planned and as it goes on, each with a stroke of its own. */
function Picture({ cash }: { cash: CashBeside }) {
  const { t } = useWords();
  const f = useFormat();
  const { palette, axis, over } = useChartLook();
  const label = (month: string): string =>
    `${f.monthName(Number(month.slice(5)))}${month.endsWith('-01') ? ` ${month.slice(0, 4)}` : ''}`;
  const shown = SERIES.filter((s) => cash.months.some((m) => m[s] !== null));
  // What goes on starts where the last whole month left off.
  const turn = cash.months.findIndex((m) => m.ahead !== null) - 1;
  const points = cash.months.map((m, i) => (i === turn ? { ...m, ahead: m.actual } : m));
  return (
    <>
      <Typography variant="body2" sx={{ display: 'flex', gap: 3, mt: 1 }}>
        {shown.map((s) => (
          <span key={s}>
            <Stroke index={SERIES.indexOf(s)} />
            {t(`launched.cash.${s}`)}
          </span>
        ))}
      </Typography>
      <Box role="img" aria-label={t('launched.cash.picture')} sx={{ height: 240, mt: 1 }}>
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={points} margin={{ top: 8, right: 16, bottom: 4, left: 8 }}>
            <XAxis dataKey="month" tickFormatter={label} {...axis} minTickGap={24} />
            <YAxis width={72} tickFormatter={(x: number) => f.mark(x, cash.currency)} {...axis} />
            <ReferenceLine y={0} stroke={palette.text.primary} />
            <Tooltip
              contentStyle={over}
              separator=": "
              labelFormatter={(m) => label(String(m))}
              formatter={(x, s) => [f.money(Number(x), cash.currency), t(`launched.cash.${s as 'planned'}`)]}
            />
            {shown.map((s) => (
              <Line
                key={s}
                type="linear"
                dataKey={s}
                stroke={palette.text.primary}
                strokeDasharray={dashesOf(SERIES.indexOf(s))}
                strokeWidth={2}
                dot={false}
                isAnimationActive={false}
              />
            ))}
          </LineChart>
        </ResponsiveContainer>
      </Box>
    </>
  );
}
