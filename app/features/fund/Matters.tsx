/** What matters most: each input alone at its low and its high, as bars around what is most likely. */
import { Box } from '@mui/material';
import { useState } from 'react';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import type { RiskKnown, Swing } from '../../../core/risk/risk.ts';
import type { RangesDocument } from '../../../core/risk/schema.ts';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import { useInputText } from './useInputText.ts';
import { useWords } from '../../ui/useWords.ts';

export function Matters({
  said,
  doc,
  ranges,
}: {
  said: RiskKnown;
  doc: LaneDocument;
  ranges: RangesDocument['ranges'];
}) {
  const { t } = useWords();
  const f = useFormat();
  const inputText = useInputText(doc);
  const [of, setOf] = useState<'unit' | 'launch'>(said.launch === null ? 'unit' : 'launch');
  const swings = (of === 'launch' ? said.launch : said.unit)?.matters ?? said.unit.matters;
  const ends = swings.flatMap((s) => [s.low, s.high]);
  const [from, to] = [Math.min(0, ...ends), Math.max(0, ...ends)];
  const at = (x: number): number => ((x - from) / (to - from || 1)) * 100;
  const bar = (s: Swing) => (
    <Box sx={{ position: 'relative', height: 18, minWidth: 120 }} aria-hidden="true">
      <Box
        style={{
          left: `${at(Math.min(s.low, s.high))}%`,
          width: `${at(Math.max(s.low, s.high)) - at(Math.min(s.low, s.high))}%`,
        }}
        sx={{ position: 'absolute', top: 3, bottom: 3, bgcolor: 'family.goods' }}
      />
      <Box
        style={{ left: `${at(0)}%` }}
        sx={{ position: 'absolute', top: 0, bottom: 0, width: 2, bgcolor: 'ink' }}
      />
    </Box>
  );
  return (
    <Pane
      title={t('sure.matters')}
      aside={
        said.launch !== null && (
          <Box sx={{ display: 'flex', justifyContent: 'flex-end' }}>
            <ChoiceLine
              label={t('sure.gridOf')}
              value={of}
              options={(['launch', 'unit'] as const).map((k) => ({ value: k, label: t(`sure.${k}`) }))}
              onChange={setOf}
              width={110}
            />
          </Box>
        )
      }>
      <FigureTable label={t('sure.matters')}>
        <thead>
          <tr>
            <HiddenHead>{t('sure.matters')}</HiddenHead>
            <th scope="col">{t('sure.low')}</th>
            <th scope="col">{t('sure.high')}</th>
            <HiddenHead>{t('sure.matters')}</HiddenHead>
          </tr>
        </thead>
        <tbody>
          {swings.map((s) => {
            const range = ranges[s.input];
            const cell = (x: number, value: number) => (
              <Box component="td" sx={{ color: x < 0 ? 'error.main' : 'inherit' }}>
                {f.money(x, said.currency)}
                <Box component="span" sx={{ display: 'block', color: 'text.secondary', fontSize: '0.76rem' }}>
                  {t('sure.atLow', { x: inputText(s.input, value) })}
                </Box>
              </Box>
            );
            return (
              <tr key={s.input}>
                <th scope="row">
                  {t(`sure.input.${s.input}`)}
                  {s.swing < 1e-9 && (
                    <Box
                      component="span"
                      sx={{ display: 'block', color: 'text.secondary', fontSize: '0.76rem' }}>
                      {t('sure.idle')}
                    </Box>
                  )}
                </th>
                {cell(s.low, range?.low ?? 0)}
                {cell(s.high, range?.high ?? 0)}
                <td>{bar(s)}</td>
              </tr>
            );
          })}
        </tbody>
      </FigureTable>
      <TableFile
        table={() => ({
          name: t('sure.matters'),
          columns: [
            t('sure.matters'),
            t('sure.low'),
            `${t('sure.low')}, ${said.currency}`,
            t('sure.high'),
            `${t('sure.high')}, ${said.currency}`,
          ].map((title) => ({ title })),
          rows: swings.map((s) => [
            t(`sure.input.${s.input}`),
            inputText(s.input, ranges[s.input]?.low ?? 0),
            s.low,
            inputText(s.input, ranges[s.input]?.high ?? 0),
            s.high,
          ]),
        })}
      />
    </Pane>
  );
}
