/** One lane on sale: its build-up planned and actual line by line, why the profit is another, month by month. */
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { CashBeside } from '../../../core/actuals/cashBeside.ts';
import type { Compared } from '../../../core/actuals/compare.ts';
import type { Coming } from '../../../core/actuals/received.ts';
import type { Count } from '../../../core/actuals/stock.ts';
import type { Offer } from '../../../core/actuals/takeOver.ts';
import type { NextOrder } from '../../../core/cash/nextOrder.ts';
import type { HurdleResult } from '../../../core/lane/hurdles.ts';
import { useBounds } from '../../ui/bounds.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import type { Format } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { CashSoFar } from './CashSoFar.tsx';
import { ClaimList } from './ClaimList.tsx';
import type { ClaimShown } from './ClaimList.tsx';
import { Drifts, HurdlesMet } from './Drifts.tsx';
import { useLaneAct } from './LaneActs.ts';
import { nowOf } from './LaunchedRow.tsx';
import type { LaunchedLine } from './LaunchedRow.tsx';
import { LeftOver } from './LeftOver.tsx';
import type { WayOut } from './LeftOver.tsx';
import { LetGo } from './LetGo.tsx';
import { Decisions, StandsSaid, TwoBars, useLineName } from './parts.tsx';
import { Shelf } from './Shelf.tsx';
import { TakeOver } from './TakeOver.tsx';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

export type Launched = LaunchedLine & {
  readonly candidateId: string;
  /** Line by line over all months, and over the last two periods. */
  readonly whole: Compared | null;
  readonly late: Compared | null;
  readonly months: readonly { readonly month: string; readonly compared: Compared }[];
  readonly hurdles: readonly HurdleResult[];
  readonly counts: readonly Count[];
  readonly coming: readonly Coming[];
  readonly next: NextOrder | null;
  readonly claims: readonly ClaimShown[];
  readonly offers: readonly Offer[];
  readonly ways: readonly WayOut[];
  readonly cash: CashBeside | null;
  readonly homeCurrency: string;
};

/** With a + above 0; what rounds to nothing has no sign. */
const signed = (f: Format, x: number | null, currency: string): string => {
  const said = f.money(x, currency);
  const nothing = f.money(0, currency);
  if (x === null) return said;
  return f.money(Math.abs(x), currency) === nothing ? nothing : `${x > 0 ? '+' : ''}${said}`;
};

type Props = { page: Launched; base: string; today: string; canEdit: boolean };

export function LaunchedPage({ page, base, today, canEdit }: Props) {
  const { stands, gist } = nowOf(page);
  const currency = gist?.currency ?? page.homeCurrency;
  return (
    <Box sx={{ maxWidth: 1080 }}>
      <Head page={page} base={base} canEdit={canEdit} />
      <Box sx={{ '& > p': { fontSize: '1.1rem' }, my: 1.5 }}>
        <StandsSaid
          stands={stands}
          currency={gist?.currency ?? null}
          advises={page.decisions.length === 0}
          isPart={(gist?.actual.lacks.length ?? 0) > 0}
        />
        <Decisions decisions={page.decisions} currency={currency} home={page.homeCurrency} />
      </Box>
      {gist !== null && (
        <Box sx={{ mb: 1.5 }}>
          <TwoBars gist={gist} />
        </Box>
      )}
      <Came page={page} />
      {page.lately !== null && <Drifts drifts={page.lately.drifts} currency={currency} />}
      <HurdlesMet hurdles={page.hurdles} currency={currency} />
      <ClaimList claims={page.claims} currency={currency} name={page.name} canEdit={canEdit} />
      {page.months.length > 0 && <Months months={page.months} name={page.name} />}
      {page.months.length > 0 && <CashSoFar cash={page.cash} name={page.name} />}
      <Shelf {...page} {...{ currency, today, canEdit }} home={page.homeCurrency} />
      {canEdit && <TakeOver offers={page.offers} currency={currency} />}
      <LetGo stopped={page.stopped} canEdit={canEdit} />
      <LeftOver ways={page.ways} canEdit={canEdit} />
    </Box>
  );
}

function Head({ page, base, canEdit }: Omit<Props, 'today'>) {
  const { t } = useWords();
  const f = useFormat();
  const { act, isBusy } = useLaneAct();
  return (
    <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
      <Typography variant="h1">
        <bdi>{page.name}</bdi>
      </Typography>
      <Typography color="text.secondary" sx={{ flex: 1, minWidth: { xs: '100%', md: 240 } }}>
        {page.place.replace('/', ' ')} · {t('selling.onSaleSince', { day: f.day(page.since) })}
        {page.until !== null && `, ${t('selling.until', { day: f.day(page.until) })}`} ·{' '}
        {t('selling.codes', { codes: page.codes.join(', ') })}
      </Typography>
      <Button component={Link} to={`${base}/selling`}>
        {t('selling.title')}
      </Button>
      <Button component={Link} to={`${base}/weigh/${page.candidateId}`}>
        {t('launched.sheet')}
      </Button>
      {canEdit && (
        <Button disabled={isBusy} onClick={() => act({ intent: 'off' })}>
          {t('launched.off')}
        </Button>
      )}
    </Box>
  );
}

/** Parts and lines, of the last two periods or since the launch. */
function Came({ page }: { page: Launched }) {
  const { t } = useWords();
  const f = useFormat();
  const [sinceLaunch, setSinceLaunch] = useState(page.late === null);
  const { lately } = page;
  const compared = sinceLaunch || page.late === null ? page.whole : page.late;
  if (compared === null) return null;
  return (
    <>
      {lately !== null && (
        <ChoiceLine
          label={t('launched.days')}
          width={260}
          value={sinceLaunch ? 'whole' : 'late'}
          onChange={(v) => setSinceLaunch(v === 'whole')}
          options={[
            {
              value: 'late' as const,
              label: t('selling.period', { from: f.day(lately.from), to: f.day(lately.to) }),
            },
            { value: 'whole' as const, label: t('launched.sinceLaunch') },
          ]}
        />
      )}
      <Parts compared={compared} />
      <Lines compared={compared} name={page.name} />
    </>
  );
}

/** Why the profit is another than planned: parts that add up. */
function Parts({ compared: c }: { compared: Compared }) {
  const { t } = useWords();
  const bounds = useBounds();
  const f = useFormat();
  const nameOf = useLineName();
  if (c.parts === null) return null;
  const values = { sold: f.number(c.actual.shipped, 0), planned: f.number(c.planned.units, 0) };
  const prices = {
    actual: f.money(c.actual.price, c.currency),
    planned: f.money(c.planned.price, c.currency),
  };
  return (
    <Box component="section" aria-label={t('launched.parts')} sx={{ my: 2.5 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        {t('launched.parts', { difference: signed(f, c.parts.difference, c.currency) })}
      </Typography>
      {(['volume', 'price', 'rate'] as const).map((part) => (
        <Box key={part} sx={{ display: 'flex', gap: 2, maxWidth: 620, py: 0.25 }}>
          <Box
            component="b"
            sx={{
              width: 110,
              textAlign: 'right',
              color: (c.parts?.[part] ?? 0) < 0 ? 'error.main' : undefined,
            }}>
            {signed(f, c.parts?.[part] ?? null, c.currency)}
          </Box>
          <span>
            {t(
              `launched.part.${part === 'volume' && c.parts?.volume === null ? 'volumeUnknown' : part}`,
              part === 'price' ? prices : values,
            )}
          </span>
        </Box>
      ))}
      {c.parts.leavesOut.length > 0 && (
        <Typography variant="body2" sx={{ mt: 0.5 }}>
          {t('launched.leavesOut', { lines: c.parts.leavesOut.map(nameOf).join(', ') })}
        </Typography>
      )}
      <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
        {t('launched.margin', {
          margin: c.margin === null ? '–' : bounds.of(f.percent(c.margin), c.actual.lacks),
          roi: c.roi === null ? '–' : bounds.of(f.percent(c.roi), c.actual.lacks),
        })}
        {c.actual.returned > 0 && ` · ${t('selling.returned', { count: c.actual.returned })}`}
        {c.actual.lost > 0 && ` · ${t('selling.lost', { count: c.actual.lost })}`}
      </Typography>
    </Box>
  );
}

/** Lines of which nothing was planned and nothing came say nothing. */
const speaks = (l: Compared['lines'][number]): boolean =>
  l.planned !== 0 || (l.actual !== 0 && l.actual !== null) || (l.rate ?? 0) !== 0;

function Lines({ compared: c, name }: { compared: Compared; name: string }) {
  const { t } = useWords();
  const bounds = useBounds();
  const f = useFormat();
  const nameOf = useLineName();
  const more = (a: number | null, b: number | null): number | null =>
    a === null || b === null ? null : a - b;
  const grossEach = c.actual.shipped === 0 ? null : c.actual.gross / c.actual.shipped;
  const rows = c.lines.filter(speaks);
  return (
    <>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end' }}>
        <TableFile
          table={() => ({
            name: `${name}, ${t('launched.line')}`,
            columns: [
              ...[t('launched.line'), t('launched.planned'), t('launched.actual'), t('launched.over')],
              t('launched.from'),
            ].map((title) => ({ title })),
            rows: [
              [t('launched.price'), c.planned.gross, grossEach, c.parts?.price ?? null, ''],
              ...rows.map((l) => [
                nameOf(l.line),
                l.planned,
                l.actual,
                l.rate,
                t(`launched.source.${l.from}`),
              ]),
              [t('launched.unitProfit'), c.planned.unitProfit, c.unitProfit, c.parts?.difference ?? null, ''],
            ],
          })}
        />
      </Box>
      <FigureTable label={t('launched.line')}>
        <thead>
          <tr>
            <th scope="col">{t('launched.line')}</th>
            {(['planned', 'actual', 'more', 'over'] as const).map((h) => (
              <th scope="col" key={h}>
                {t(`launched.${h}`)}
              </th>
            ))}
            <th scope="col" className="text">
              {t('launched.from')}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">{t('launched.price')}</th>
            <td>{f.money(c.planned.gross, c.currency)}</td>
            <td>{f.money(grossEach, c.currency)}</td>
            <td>{signed(f, more(grossEach, c.planned.gross), c.currency)}</td>
            <td>{signed(f, c.parts?.price ?? null, c.currency)}</td>
            <td className="text" />
          </tr>
          {rows.map((l) => (
            <tr key={l.line} className={l.from === 'asPlanned' ? 'quiet' : undefined}>
              <th scope="row">{nameOf(l.line)}</th>
              <td>{f.money(l.planned, c.currency)}</td>
              <td>{f.money(l.actual, c.currency)}</td>
              <td>{signed(f, more(l.actual, l.planned), c.currency)}</td>
              <td className={(l.rate ?? 0) < 0 ? 'loss' : undefined}>{signed(f, l.rate, c.currency)}</td>
              <td className="text">{t(`launched.source.${l.actual === null ? 'unknown' : l.from}`)}</td>
            </tr>
          ))}
          <tr className="total">
            <th scope="row">{t('launched.unitProfit')}</th>
            <td>
              {c.planned.unitProfit === null
                ? '–'
                : bounds.of(f.money(c.planned.unitProfit, c.currency), c.planned.lacks)}
            </td>
            <td>{bounds.of(f.money(c.unitProfit, c.currency), c.actual.lacks)}</td>
            <td>
              {c.planned.lacks.length + c.actual.lacks.length > 0
                ? '–'
                : signed(f, more(c.unitProfit, c.planned.unitProfit), c.currency)}
            </td>
            <td />
            <td className="text" />
          </tr>
        </tbody>
      </FigureTable>
    </>
  );
}

function Months({ months, name }: { months: Launched['months']; name: string }) {
  const { t } = useWords();
  const bounds = useBounds();
  const f = useFormat();
  const monthOf = (m: string): string => `${f.monthName(Number(m.slice(5)))} ${m.slice(0, 4)}`;
  const HEADS = ['unitsPlanned', 'unitsSold', 'unitsBack', 'profitUnit', 'profit', 'difference'] as const;
  return (
    <Box sx={{ mt: 3 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
          {t('launched.months')}
        </Typography>
        <TableFile
          table={() => ({
            name: `${name}, ${t('launched.months')}`,
            columns: [t('launched.month'), ...HEADS.map((h) => t(`launched.${h}`))].map((title) => ({
              title,
            })),
            rows: months.map(({ month, compared: c }) => [
              month,
              c.planned.units,
              c.actual.shipped,
              c.actual.returned,
              c.unitProfit,
              c.actual.profit,
              c.parts?.difference ?? null,
            ]),
          })}
        />
      </Box>
      <FigureTable label={t('launched.months')}>
        <thead>
          <tr>
            <th scope="col">{t('launched.month')}</th>
            {HEADS.map((h) => (
              <th scope="col" key={h}>
                {t(`launched.${h}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {months.map(({ month, compared: c }) => (
            <tr key={month}>
              <th scope="row">{monthOf(month)}</th>
              <td>{f.number(c.planned.units, 0)}</td>
              <td>{f.number(c.actual.shipped, 0)}</td>
              <td>{f.number(c.actual.returned, 0)}</td>
              <td className={(c.unitProfit ?? 0) < 0 ? 'loss' : undefined}>
                {bounds.of(f.money(c.unitProfit, c.currency), c.actual.lacks)}
              </td>
              <td>{bounds.of(f.money(c.actual.profit, c.currency), c.actual.lacks)}</td>
              <td className={(c.parts?.difference ?? 0) < 0 ? 'loss' : undefined}>
                {signed(f, c.parts?.difference ?? null, c.currency)}
              </td>
            </tr>
          ))}
        </tbody>
      </FigureTable>
    </Box>
  );
}
