/** The price ladder: what each price keeps, rivals among them. */
import { Box, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { evaluate } from '../../../core/lane/evaluate.ts';
import { grossAt } from '../../../core/lane/steps/revenue.ts';
import type { LaneResult } from '../../../core/lane/result.ts';
import { rivalPrices } from '../../../core/lane/rivals.ts';
import { priceFor, priceHeadroom } from '../../../core/lane/solve.ts';
import { priceOfGross } from '../../../core/rules/revenue.ts';
import { useBounds } from '../../ui/bounds.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { TextLine } from '../../ui/Field.tsx';
import { parseNumber } from '../../ui/parseNumber.ts';
import { useFormat } from '../../ui/locale.ts';
import { useStore, useValue } from './store.ts';
import { table } from './moreParts.ts';
import type { Part } from './More.tsx';
import { ProfitCell } from '../../ui/ProfitCell.tsx';
import { useBoundColumn, useResultFigures } from '../../ui/resultFigures.ts';
import { LadderChart } from './LadderChart.tsx';
import { useWords } from '../../ui/useWords.ts';

/** A price on the ladder, as the buyer pays it, and the lane at it. */
export type Rung = {
  readonly gross: number;
  /** Null below what delivery alone costs the buyer. */
  readonly result: LaneResult | null;
  readonly kind: 'rival' | 'now' | 'even';
};

export function Ladder({ view }: Part) {
  const { t } = useWords();
  const f = useFormat();
  const store = useStore();
  const bounds = useBounds();
  const { doc } = view;
  const c = doc.currency;
  const typed = (useValue('lane', view.id, ['rivalPrices']) as number[] | undefined) ?? [];
  const [text, setText] = useState<string | null>(null);
  const rivals = rivalPrices(doc.demand, typed);
  const even = priceFor(doc);
  const price = doc.price ?? even.price ?? 20;
  const at = (gross: number): LaneResult | null => {
    const price = priceOfGross(gross, doc.shippingCharged, doc.averageDiscount);
    return price < 0 ? null : evaluate({ ...doc, price });
  };
  const grossNow = view.result.figures.gross ?? price;
  const grossEven = even.price === null ? null : grossAt(doc, even.price);
  const marks = [
    ...rivals.map((gross) => ({ gross, kind: 'rival' as const })),
    { gross: grossNow, kind: 'now' as const },
    ...(grossEven === null ? [] : [{ gross: grossEven, kind: 'even' as const }]),
  ].sort((a, b) => a.gross - b.gross);
  const rungs: Rung[] = marks.map((m) => ({ ...m, result: at(m.gross) }));
  const low = Math.min(grossNow * 0.6, ...marks.map((m) => m.gross * 0.95));
  const high = Math.max(grossNow * 1.4, ...marks.map((m) => m.gross * 1.05));
  // biome-ignore lint/correctness/useExhaustiveDependencies: a rung depends on the lane alone
  const curve = useMemo(
    () =>
      Array.from({ length: 41 }, (_, i) => low + ((high - low) * i) / 40).map((gross) => {
        const figures = at(gross)?.figures;
        const [profit, units] = [figures?.unitProfit ?? null, figures?.expectedMonthlyUnits ?? null];
        return { gross, profit, units };
      }),
    [doc, low, high],
  );
  const cushion = grossEven === null ? null : grossNow - grossEven;
  const take = (value: string): void => {
    setText(null);
    const list = value.split(/[\s;]+/).flatMap((x) => {
      const n = parseNumber(x, f.locale);
      return n.kind === 'number' && n.value > 0 ? [n.value] : [];
    });
    store.edit([{ entity: 'lane', id: view.id, path: ['rivalPrices'], to: [...new Set(list)].slice(0, 50) }]);
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1fr 1fr' }, gap: 4 }}>
      <Box>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          {t('ladder.text')}
        </Typography>
        <Typography sx={{ mb: 1 }}>
          {cushion === null || cushion <= 0
            ? t('ladder.noCushion')
            : t('ladder.cushion', {
                by: bounds.of(f.money(cushion, c), view.result.incomplete.unitProfit),
                share: f.percent(priceHeadroom(grossNow, grossEven)),
              })}
        </Typography>
        <Box onBlur={() => text !== null && take(text)}>
          <TextLine
            label={t('ladder.rivals', { currency: c })}
            value={text ?? typed.map((x) => f.number(x)).join('; ')}
            onChange={setText}
            width="100%"
          />
        </Box>
        <LadderTable
          even={even.incomplete}
          name={`${store.get().state.candidate.data.name} ${t('more.ladder')}`}
          rungs={rungs}
          currency={c}
        />
      </Box>
      <LadderChart curve={curve} rungs={rungs} currency={c} low={low} high={high} />
    </Box>
  );
}

/** The rungs to read and to take along. `even`: what the break-even price lacks. */
function LadderTable({
  rungs,
  currency: c,
  even,
  name,
}: {
  rungs: readonly Rung[];
  currency: string;
  even: readonly string[];
  name: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const said = useResultFigures();
  const bound = useBoundColumn();
  return (
    <>
      <TableFile
        table={() => ({
          name,
          columns: [
            t('ladder.price'),
            t('form.currency'),
            t('ladder.what'),
            t('ladder.profit'),
            t('ladder.margin'),
            t('ladder.units'),
            t('ladder.month'),
            bound.title,
          ].map((title, i) => ({ title, percent: i === 4 })),
          rows: rungs.map(({ gross, kind, result }) => [
            gross,
            c,
            t(`ladder.${kind}`),
            result?.figures.unitProfit ?? null,
            result?.figures.margin ?? null,
            result?.figures.expectedMonthlyUnits ?? null,
            result?.figures.profitPerMonth ?? null,
            bound.of(result),
          ]),
        })}
      />
      <Box component="table" sx={{ ...table, mt: 1.5 }}>
        <thead>
          <tr>
            <th scope="col">{t('ladder.price')}</th>
            <th scope="col">{t('ladder.profit')}</th>
            <th scope="col">{t('ladder.margin')}</th>
            <th scope="col">{t('ladder.units')}</th>
            <th scope="col">{t('ladder.month')}</th>
          </tr>
        </thead>
        <tbody>
          {rungs.map(({ gross, kind, result }) => {
            const month = result?.figures.profitPerMonth ?? null;
            return (
              <tr key={`${kind}${gross}`}>
                <th scope="row" style={{ fontWeight: kind === 'now' ? 700 : 400 }}>
                  {kind === 'even' ? bounds.of(f.money(gross, c), even, 'above') : f.money(gross, c)}{' '}
                  <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
                    {t(`ladder.${kind}`)}
                  </Box>
                </th>
                <ProfitCell result={result} sign="plain" />
                <td>{said(result, 'margin')}</td>
                <td>{f.number(result?.figures.expectedMonthlyUnits ?? null, 0)}</td>
                <td>
                  {month === null ? '–' : bounds.of(f.number(month, 0), result?.incomplete.profitPerMonth)}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Box>
    </>
  );
}
