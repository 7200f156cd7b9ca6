/** The launch month by month: columns that add up to the change of the account, to the cent; a cell opens its days. */
import { Box, Button, Typography } from '@mui/material';
import { useId, useMemo, useState } from 'react';
import type { CashRuns } from '../../../core/cash/cash.ts';
import { daysOfRun, monthsOf, toComeByFlow } from '../../../core/cash/months.ts';
import type { MonthRow } from '../../../core/cash/months.ts';
import { FLOWS } from '../../../core/cash/run.ts';
import type { Flow, Run } from '../../../core/cash/run.ts';
import type { CashCase, CashPlan } from '../../../core/cash/schema.ts';
import { CASH_CASES } from '../../../core/cash/schema.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { ChoiceLine } from '../../ui/Field.tsx';
import { Opened } from '../../ui/Opened.tsx';
import { useFormat } from '../../ui/locale.ts';
import { roundToTotal } from '../../../core/money/money.ts';
import { saveJson } from '../../ui/saveText.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { useWords } from '../../ui/useWords.ts';

type Column = {
  readonly title: string;
  readonly sold: number | null;
  readonly amounts: readonly (number | null)[];
  readonly end: number;
  readonly lowest: number | null;
};

/** Months and what is still to come, each rounded so that its lines add up to what the account changes by. */
function columnsOf(
  months: readonly MonthRow[],
  toCome: Readonly<Record<Flow, number>>,
  cash: number,
  digits: number,
  last: string,
): Column[] {
  const round = (x: number): number => Number(x.toFixed(digits));
  let before = round(cash);
  const columns = months.map((m): Column => {
    const end = round(m.end);
    const amounts = roundToTotal(
      FLOWS.map((f) => m[f]),
      digits,
      round(end - before),
    );
    before = end;
    return { title: m.month, sold: m.sold, amounts, end, lowest: m.lowest };
  });
  const coming = FLOWS.map((f) => toCome[f]);
  const all = round(coming.reduce((a, b) => a + b, 0));
  columns.push({
    title: last,
    sold: null,
    amounts: roundToTotal(coming, digits, all),
    end: round(before + all),
    lowest: null,
  });
  return columns;
}

type Props = {
  said: CashRuns;
  cash: number;
  currency: string;
  name: string;
  asked: { doc: LaneDocument; plan: CashPlan };
};

export function MonthTable({ said, cash, currency, name, asked }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const [which, setWhich] = useState<CashCase>('expected');
  const [open, setOpen] = useState<{ el: HTMLElement; line: Flow; month: string } | null>(null);
  const { run } = said.cases[which];
  const digits = minorDigits(currency);
  const columns = useMemo(
    () => columnsOf(monthsOf(run, said.start, cash), toComeByFlow(run), cash, digits, t('overTime.toCome')),
    [run, said.start, cash, digits, t],
  );
  const lines = FLOWS.map((flow, i) => ({ flow, i })).filter(({ i }) =>
    columns.some((c) => (c.amounts[i] ?? 0) !== 0),
  );
  const monthName = (m: string): string =>
    /^\d{4}-\d\d$/.test(m)
      ? `${f.monthName(Number(m.slice(5)))}${m.endsWith('-01') ? ` ${m.slice(0, 4)}` : ''}`
      : m;
  const nameOfCell = (line: Flow, month: string): string =>
    t('overTime.cell', { line: t(`overTime.flow.${line}`), month: monthName(month) });
  const { plan } = asked;
  const id = useId();
  const factor = { low: plan.cases.low, high: plan.cases.high, expected: plan.cases.expected };
  return (
    <Box component="section" sx={{ mt: 2 }}>
      <Box sx={{ display: 'flex', alignItems: 'flex-end', gap: 2, flexWrap: 'wrap', mb: 0.5 }}>
        <Typography variant="h3" component="h2" sx={{ flex: 1 }}>
          {t('overTime.months')}
        </Typography>
        <ChoiceLine
          label={t('overTime.shown')}
          value={which}
          options={CASH_CASES.map((c) => ({
            value: c,
            label: t(`overTime.case.${c}`, { factor: f.percent(factor[c], 0) }),
          }))}
          onChange={setWhich}
          width={190}
        />
        <TableFile
          table={() => ({
            name: t('overTime.monthsOf', { name }),
            columns: [t('overTime.months'), ...columns.map((c) => c.title)].map((title) => ({ title })),
            rows: [
              [t('overTime.sold'), ...columns.map((c) => c.sold)],
              ...lines.map(({ flow, i }) => [
                t(`overTime.flow.${flow}`),
                ...columns.map((c) => c.amounts[i] ?? null),
              ]),
              [t('overTime.end2'), ...columns.map((c) => c.end)],
              [t('overTime.lowest2'), ...columns.map((c) => c.lowest)],
            ],
          })}
        />
        <Box className="no-print" sx={{ display: 'flex' }}>
          <Button size="small" onClick={() => saveJson(`${name}.lane.json`, asked.doc)}>
            {t('overTime.lane')}
          </Button>
          <Button size="small" onClick={() => saveJson(`${name}.plan.json`, plan)}>
            {t('overTime.planFile')}
          </Button>
          <Button size="small" onClick={() => window.print()}>
            {t('overTime.print')}
          </Button>
        </Box>
      </Box>
      <FigureTable label={t('overTime.months')}>
        <thead>
          <tr>
            <th scope="col">{currency}</th>
            {columns.map((c, column) => (
              <th scope="col" key={c.title} id={`${id}${column}`}>
                {monthName(c.title)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">{t('overTime.sold')}</th>
            {columns.map((c) => (
              <td key={c.title}>{c.sold === null || c.sold < 0.05 ? '–' : f.number(c.sold, 0)}</td>
            ))}
          </tr>
          {lines.map(({ flow, i }) => (
            <tr key={flow}>
              <th scope="row" id={`${id}${flow}`}>
                {t(`overTime.flow.${flow}`)}
              </th>
              {columns.map((c, column) => {
                const amount = c.amounts[i] ?? 0;
                if (amount === 0) return <td key={c.title}>–</td>;
                const isMonth = c.sold !== null;
                const text = f.plain(amount, currency);
                return (
                  <td key={c.title} className={amount < 0 ? 'loss' : undefined}>
                    {isMonth ? (
                      <button
                        type="button"
                        className="figure"
                        aria-haspopup="dialog"
                        id={`${id}${flow}${column}`}
                        aria-labelledby={`${id}${flow} ${id}${column} ${id}${flow}${column}`}
                        onClick={(e) => setOpen({ el: e.currentTarget, line: flow, month: c.title })}>
                        {text}
                      </button>
                    ) : (
                      text
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
          <tr className="total">
            <th scope="row">{t('overTime.end2')}</th>
            {columns.map((c) => (
              <td key={c.title} className={c.end < 0 ? 'loss' : undefined}>
                {f.plain(c.end, currency)}
              </td>
            ))}
          </tr>
          <tr className="quiet">
            <th scope="row">{t('overTime.lowest2')}</th>
            {columns.map((c) => (
              <td key={c.title}>{c.lowest === null ? '' : f.plain(c.lowest, currency)}</td>
            ))}
          </tr>
        </tbody>
      </FigureTable>
      {open !== null && (
        <Opened
          at={open.el}
          label={t('overTime.cellDays')}
          title={nameOfCell(open.line, open.month)}
          onClose={() => setOpen(null)}
          maxWidth={360}>
          <DaysOfCell run={run} start={said.start} cash={cash} currency={currency} {...open} />
        </Opened>
      )}
    </Box>
  );
}

/** The days that a cell is the sum of. */
function DaysOfCell({
  run,
  start,
  cash,
  currency,
  line,
  month,
}: {
  run: Run;
  start: string;
  cash: number;
  currency: string;
  line: Flow;
  month: string;
}) {
  const f = useFormat();
  const days = daysOfRun(run, start, cash).filter(
    (d) => d.day.startsWith(month) && Math.abs(d[line]) > 0.004,
  );
  return (
    <Box
      component="table"
      sx={{ fontSize: '0.86rem', '& td': { py: 0.2, pr: 2 }, '& td:last-child': { textAlign: 'right' } }}>
      <tbody>
        {days.map((d) => (
          <tr key={d.day}>
            <td>{f.dayShort(d.day)}</td>
            <td>{f.plain(d[line], currency)}</td>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
