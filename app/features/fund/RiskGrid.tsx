/** Two inputs at once: what each pair of values keeps, and where it turns to a loss. */
import { Box } from '@mui/material';
import { useMemo, useState } from 'react';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { saidOf } from '../../../core/risk/offered.ts';
import { gridOf } from '../../../core/risk/risk.ts';
import { RISK_INPUTS } from '../../../core/risk/schema.ts';
import type { RangesDocument, RiskInput } from '../../../core/risk/schema.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import { useInputText } from './useInputText.ts';
import { useWords } from '../../ui/useWords.ts';

const FAINT = 'color-mix(in srgb, var(--mui-palette-loss-main) 22%, transparent)';
const RULED = `repeating-linear-gradient(135deg, ${FAINT} 0 2px, transparent 2px 7px)`;

/** The place of the value nearest to today's. */
function nearest(values: readonly number[], today: number | null): number {
  if (today === null) return -1;
  return values.reduce(
    (best, x, i) => (Math.abs(x - today) < Math.abs((values[best] as number) - today) ? i : best),
    0,
  );
}

export function RiskGrid({
  doc,
  asked,
  currency,
}: {
  doc: LaneDocument;
  asked: RangesDocument;
  currency: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const inputText = useInputText(doc);
  const ranged = RISK_INPUTS.filter((i) => asked.ranges[i] !== null);
  const [chosen, setChosen] = useState<{ across?: RiskInput; down?: RiskInput; of: 'unit' | 'launch' }>({
    of: 'unit',
  });
  const across = ranged.find((i) => i === chosen.across) ?? ranged[0];
  const down = ranged.find((i) => i === chosen.down && i !== across) ?? ranged.find((i) => i !== across);
  const grid = useMemo(
    () => (across === undefined || down === undefined ? null : gridOf(doc, asked, across, down, chosen.of)),
    [doc, asked, across, down, chosen.of],
  );
  if (grid === null || across === undefined || down === undefined) return null;
  const [column, row] = [nearest(grid.columns, saidOf(doc, across)), nearest(grid.rows, saidOf(doc, down))];
  const options = ranged.map((i) => ({ value: i, label: t(`sure.input.${i}`) }));
  return (
    <Pane title={t('sure.grid')} aside={t('sure.turns')}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, mb: 1 }} className="no-print">
        <ChoiceLine
          label={t('sure.across')}
          value={across}
          options={options}
          onChange={(x) => setChosen({ ...chosen, across: x })}
          width={190}
        />
        <ChoiceLine
          label={t('sure.down')}
          value={down}
          options={options.filter((o) => o.value !== across)}
          onChange={(x) => setChosen({ ...chosen, down: x })}
          width={190}
        />
        <ChoiceLine
          label={t('sure.gridOf')}
          value={chosen.of}
          options={(['unit', 'launch'] as const).map((k) => ({ value: k, label: t(`sure.${k}`) }))}
          onChange={(of) => setChosen({ ...chosen, of })}
          width={110}
        />
        <TableFile
          table={() => ({
            name: t('sure.grid'),
            columns: [
              t(`sure.input.${down}`),
              ...grid.columns.map((x) => `${t(`sure.input.${across}`)} ${inputText(across, x)}`),
            ].map((title) => ({ title })),
            rows: grid.rows.map((y, j) => [inputText(down, y), ...(grid.cells[j] ?? [])]),
          })}
        />
      </Box>
      <FigureTable label={t('sure.grid')}>
        <thead>
          <tr>
            <th scope="col">{t(`sure.input.${down}`)}</th>
            {grid.columns.map((x) => (
              <th scope="col" key={x}>
                {inputText(across, x)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {grid.rows.map((y, j) => (
            <tr key={y}>
              <th scope="row">{inputText(down, y)}</th>
              {(grid.cells[j] ?? []).map((cell, i) => {
                const isLoss = cell !== null && cell < -1e-9;
                return (
                  <Box
                    component="td"
                    key={grid.columns[i]}
                    sx={{
                      color: isLoss ? 'error.main' : 'inherit',
                      ...(isLoss && { backgroundImage: RULED }),
                      ...(i === column &&
                        j === row && { outline: '2px solid', outlineColor: 'ink', outlineOffset: -2 }),
                    }}>
                    {cell === null ? '–' : chosen.of === 'unit' ? f.plain(cell, currency) : f.number(cell, 0)}
                  </Box>
                );
              })}
            </tr>
          ))}
        </tbody>
      </FigureTable>
    </Pane>
  );
}
