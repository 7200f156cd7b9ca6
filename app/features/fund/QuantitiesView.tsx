/** Order quantities beside each other, each by its whole cash run and its draws. */
import { Box, Button, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import type { ReactNode } from 'react';
import { dayText } from '../../../core/cash/calendar.ts';
import {
  bestQuantity,
  expectedOf,
  nextBreakGain,
  QUANTITY_MEASURES,
  quantityRuns,
} from '../../../core/cash/quantities.ts';
import type { QuantityMeasure, QuantityRun } from '../../../core/cash/quantities.ts';
import type { CashPlan } from '../../../core/cash/schema.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { shareAbove } from '../../../core/risk/shapes.ts';
import { cashPlanOf } from '../../../core/workspace/fundPlan.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import type { AheadPart } from './fundParts.tsx';
import { isRanged, rangesOf, sureOf } from './sureOf.ts';
import { useLacks } from './useLacks.ts';
import { useRisk } from './useRisk.ts';
import { useWords } from '../../ui/useWords.ts';

type Row = {
  readonly key: string;
  readonly of: (run: QuantityRun, i: number) => ReactNode;
  readonly plain: (run: QuantityRun, i: number) => string | number | null;
};

export default function QuantitiesView(part: AheadPart) {
  const { t } = useWords();
  const f = useFormat();
  const { plan, whole, view, today, home, quantities, set, orders } = part;
  const [by, setBy] = useState<QuantityMeasure>('end');
  const cashPlan = useMemo(() => cashPlanOf(whole, today), [whole, today]);
  const runs = useMemo(() => quantityRuns(view.doc, cashPlan, quantities), [view.doc, cashPlan, quantities]);
  const sure = sureOf(whole, view.id);
  const asked = useMemo(
    () =>
      Object.fromEntries(
        quantities.map((q) => [
          q,
          { doc: { ...view.doc, orderQuantity: q }, ranges: rangesOf(sure, [], plan) },
        ]),
      ),
    [quantities, view.doc, sure, plan],
  );
  const hasRanges = isRanged(sure);
  const { said } = useRisk(asked);
  const loss = runs.map(({ quantity }) => {
    const one = said[quantity];
    return hasRanges && one?.known && one.launch !== null ? one.launch.spread.loss.chance : null;
  });
  const best = bestQuantity(runs, by, loss);
  const rows = useRows(part, runs, loss);
  const lacksInWords = useLacks();
  const lacking = runs.find((r) => !r.said.known)?.said;
  const change = (i: number, x: number | null): void =>
    set({ quantities: quantities.map((q, j) => (j === i ? (x ?? q) : q)) });
  return (
    <Pane
      title={t('quantities.title')}
      aside={
        <TableFile
          table={() => ({
            name: `${part.candidate.name} ${t('quantities.title')}`,
            columns: [t('form.orderQuantity'), ...runs.map((r) => f.number(r.quantity))].map((title) => ({
              title,
            })),
            rows: rows.map((r) => [t(`quantities.row.${r.key}`), ...runs.map(r.plain)]),
          })}
        />
      }>
      {lacking !== undefined && !lacking.known && (
        <Typography sx={{ mb: 1 }}>
          {t('overTime.lacks', { what: lacksInWords(lacking.lacks, lacking.problems) })}
        </Typography>
      )}
      <Box sx={{ mb: 1 }}>
        <ChoiceLine
          label={t('quantities.best')}
          value={by}
          options={QUANTITY_MEASURES.map((m) => ({ value: m, label: t(`quantities.by.${m}`) }))}
          onChange={setBy}
          width={220}
        />
      </Box>
      <FigureTable label={t('quantities.title')}>
        <thead>
          <tr>
            <th scope="col">{t('form.orderQuantity')}</th>
            {quantities.map((q, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: columns are told apart by their place alone
              <th scope="col" key={i}>
                <Box sx={{ display: 'flex', justifyContent: 'flex-end', alignItems: 'center', gap: 0.5 }}>
                  {quantities.length > 1 && (
                    <button
                      type="button"
                      className="figure no-print"
                      aria-label={t('quantities.remove', { n: f.number(q) })}
                      onClick={() => set({ quantities: quantities.filter((_, j) => j !== i) })}>
                      ×
                    </button>
                  )}
                  <NumField
                    label={t('quantities.edit', { n: i + 1 })}
                    value={q}
                    onChange={(x) => change(i, x)}
                    kind="number"
                    min={0.000001}
                    max={1e9}
                    step={orders.step}
                    width={84}
                    inTable
                  />
                </Box>
                {best === i && (
                  <Box component="span" sx={{ color: 'primary.main', fontWeight: 680 }}>
                    {t('quantities.isBest')}
                  </Box>
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.key}>
              <th scope="row">{t(`quantities.row.${r.key}`)}</th>
              {runs.map((run, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: as their columns
                <td key={i} style={best === i ? { fontWeight: 650 } : undefined}>
                  {r.of(run, i)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </FigureTable>
      {quantities.length < 8 && (
        <Button
          size="small"
          onClick={() =>
            set({ quantities: [...quantities, (quantities.at(-1) ?? orders.first) + orders.step * 10] })
          }>
          {t('quantities.add')}
        </Button>
      )}
      <NextBreak doc={view.doc} plan={cashPlan} home={home} />
    </Pane>
  );
}

/** What ordering up to the next price break would gain. */
function NextBreak({ doc, plan, home }: { doc: LaneDocument; plan: CashPlan; home: string }) {
  const { t } = useWords();
  const f = useFormat();
  const found = useMemo(() => nextBreakGain(doc, plan), [doc, plan]);
  return (
    <Typography variant="body2" sx={{ mt: 1 }}>
      {found === null
        ? t('quantities.noBreak')
        : t(found.gain < 0 ? 'quantities.breakLess' : 'quantities.break', {
            n: f.number(found.next),
            from: f.number(found.from),
            money: f.money(Math.abs(found.gain), home),
          })}
    </Typography>
  );
}

function useRows(part: AheadPart, runs: readonly QuantityRun[], loss: readonly (number | null)[]): Row[] {
  const { t } = useWords();
  const f = useFormat();
  const { home, whole, view } = part;
  const sure = sureOf(whole, view.id);
  const units = sure.ranges.units;
  const runOut = runs.map((r) =>
    units === null || !r.said.known
      ? null
      : r.runsOutAbove === null
        ? 0
        : shareAbove(units, sure.shape, r.runsOutAbove),
  );
  const c = (r: QuantityRun) => expectedOf(r);
  const dayOf = (r: QuantityRun, n: number | null): string =>
    n === null || !r.said.known ? t('quantities.none') : f.day(dayText(r.said.start, n));
  const money = (x: number | null): ReactNode => (
    <Box component="span" sx={{ color: x !== null && x < 0 ? 'error.main' : 'inherit' }}>
      {f.plain(x, home)}
    </Box>
  );
  const chance = (x: number | null): string => (x === null ? t('quantities.needsRange') : f.percent(x, 0));
  const amount = (key: string, of: (r: QuantityRun) => number | null): Row => ({
    key,
    of: (r) => money(of(r)),
    plain: of,
  });
  const days = (key: string, of: (r: QuantityRun) => number | null): Row => ({
    key,
    of: (r) => (c(r) === null ? '–' : dayOf(r, of(r))),
    plain: (r) => (c(r) === null ? null : dayOf(r, of(r))),
  });
  const count = (key: string, of: (r: QuantityRun) => number | null, digits = 0): Row => ({
    key,
    of: (r) => f.number(of(r), digits),
    plain: of,
  });
  return [
    amount('unitCost', (r) => r.unitCost),
    amount('moneyNeeded', (r) => c(r)?.moneyNeeded ?? null),
    days('neededOn', (r) => c(r)?.neededOn ?? null),
    days('payback', (r) => c(r)?.payback ?? null),
    count('daysShort', (r) => c(r)?.daysShort ?? null),
    count('cover', (r) => r.coverMonths, 1),
    amount('end', (r) => c(r)?.end ?? null),
    count('stock', (r) => c(r)?.left.stock.units ?? null),
    { key: 'runOut', of: (_, i) => chance(runOut[i] ?? null), plain: (_, i) => runOut[i] ?? null },
    { key: 'loss', of: (_, i) => chance(loss[i] ?? null), plain: (_, i) => loss[i] ?? null },
  ];
}
