/** Sizes and colours of one product: what each keeps, and what they keep together. */
import { Box, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { daysLasting } from '../../../core/rules/result.ts';
import type { Cell } from '../../../core/cards/cells.ts';
import {
  readVariations,
  VARIATION_COLUMNS,
  variationCells,
  weighVariations,
} from '../../../core/workspace/variations.ts';
import type { Variation } from '../../../core/workspace/variations.ts';
import { DraftGrid } from '../rates/DraftGrid.tsx';
import '../rates/words.ts';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import { ProfitCell } from '../../ui/ProfitCell.tsx';
import { useBoundColumn, useResultFigures } from '../../ui/resultFigures.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import type { Part } from './More.tsx';
import { table } from './moreParts.ts';
import { useStore, useValue } from './store.ts';
import type { LaneView } from './useFigures.ts';
import { useWords } from '../../ui/useWords.ts';

export function Variations({ view, candidateId }: Part) {
  const { t } = useWords();
  const f = useFormat();
  const store = useStore();
  const stored = (useValue('candidate', candidateId, ['variations']) as Variation[] | undefined) ?? [];
  const [rows, setRows] = useState<readonly (readonly Cell[])[]>(() => variationCells(stored));
  const read = useMemo(() => readVariations(rows), [rows]);
  const { doc } = view;
  const c = doc.currency;
  const bounds = useBounds();
  const weighed = useMemo(() => weighVariations(doc, read.list), [doc, read.list]);
  const take = (next: readonly (readonly Cell[])[]): void => {
    setRows(next);
    const now = readVariations(next);
    if (now.errors.length === 0 && store.canEdit)
      store.edit([{ entity: 'candidate', id: candidateId, path: ['variations'], to: now.list }]);
  };
  return (
    <Box>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        {t('variations.text')}
      </Typography>
      <DraftGrid
        label={t('more.variations')}
        columns={VARIATION_COLUMNS}
        rows={rows}
        columnOf={(_, column) => VARIATION_COLUMNS[column] ?? null}
        title={(column) => t(`variations.${column.key}`)}
        readOnly={!store.canEdit}
        canAddRows
        focus={null}
        errors={read.errors.map((e) => ({ ...e, sheet: '' }))}
        onEdit={(edits) => {
          const next = rows.map((r) => [...r]);
          for (const e of edits) (next[e.row] as Cell[])[e.column] = e.text;
          take(next);
        }}
        onRows={take}
      />
      {weighed.rows.length > 0 && (
        <>
          <Typography sx={{ my: 1, fontWeight: 650 }} data-testid="variations-answer">
            {t('variations.answer', { paying: weighed.paying, all: weighed.rows.length })}{' '}
            {weighed.blended !== null &&
              t('variations.blended', {
                amount: bounds.of(
                  f.money(weighed.blended, c),
                  weighed.rows.flatMap((x) => x.result.incomplete.unitProfit ?? []),
                ),
              })}
          </Typography>
          <VariationTable view={view} weighed={weighed.rows} />
        </>
      )}
    </Box>
  );
}

type WeighedVariation = ReturnType<typeof weighVariations>['rows'][number];

/** What each variation keeps, to read and to take along. */
function VariationTable({ view, weighed }: { view: LaneView; weighed: readonly WeighedVariation[] }) {
  const { t } = useWords();
  const f = useFormat();
  const store = useStore();
  const said = useResultFigures();
  const bound = useBoundColumn();
  const c = view.doc.currency;
  return (
    <>
      <TableFile
        table={() => ({
          name: `${store.get().state.candidate.data.name} ${t('more.variations')}`,
          columns: [
            ...VARIATION_COLUMNS.map((x) => ({
              title: t(`variations.${x.key}`),
              percent: x.kind === 'share',
            })),
            { title: t('form.currency') },
            { title: t('variations.keeps') },
            { title: t('figure.margin'), percent: true },
            { title: t('variations.roi'), percent: true },
            { title: t('variations.units') },
            { title: bound.title },
          ],
          rows: weighed.map(({ variation: v, result: r }) => [
            v.name,
            v.price,
            v.cost,
            v.delivery,
            v.kg,
            v.shareOfSales,
            v.stock,
            c,
            r.figures.unitProfit,
            r.figures.margin,
            r.figures.roi,
            r.figures.expectedMonthlyUnits,
            bound.of(r),
          ]),
        })}
      />
      <Box component="table" sx={{ ...table, maxWidth: 620 }}>
        <thead>
          <tr>
            <th scope="col">{t('variations.name')}</th>
            <th scope="col">{t('variations.keeps')}</th>
            <th scope="col">{t('figure.margin')}</th>
            <th scope="col">{t('variations.roi')}</th>
            <th scope="col">{t('variations.units')}</th>
          </tr>
        </thead>
        <tbody>
          {weighed.map(({ variation: v, result: r }) => {
            const units = r.figures.expectedMonthlyUnits;
            const days = v.stock === null || !units ? null : daysLasting(v.stock, units);
            return (
              <tr key={v.name}>
                <th scope="row" style={{ fontWeight: 400 }}>
                  <bdi>{v.name}</bdi>
                  {days !== null && days < 60 && (
                    <Box sx={{ fontSize: '0.76rem', color: 'error.main' }}>
                      {t('variations.short', { days: f.number(days, 0) })}
                    </Box>
                  )}
                </th>
                <ProfitCell result={r} />
                <td>{said(r, 'margin')}</td>
                <td>{said(r, 'roi')}</td>
                <td>{f.number(units, 0)}</td>
              </tr>
            );
          })}
        </tbody>
      </Box>
    </>
  );
}
