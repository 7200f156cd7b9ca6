/** Lanes that ask what if, beside the one they came from. */
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { HiddenHead } from '../../ui/FigureTable.tsx';
import { useFetcher } from 'react-router';
import { TableFile } from '../../ui/TableFile.tsx';
import { TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useStore } from './store.ts';
import { table } from './moreParts.ts';
import type { Part } from './More.tsx';
import { ProfitCell } from '../../ui/ProfitCell.tsx';
import { useBoundColumn, useResultFigures } from '../../ui/resultFigures.ts';
import { useWords } from '../../ui/useWords.ts';

export function Scenarios({ view, views, onChoose, base, candidateId }: Part) {
  const { t } = useWords();
  const f = useFormat();
  const said = useResultFigures();
  const bound = useBoundColumn();
  const store = useStore();
  const fetcher = useFetcher();
  const [name, setName] = useState('');
  const laneId = view.state.scenarioOf ?? view.id;
  const own = views.find((v) => v.id === laneId) ?? view;
  const list = [own, ...views.filter((v) => v.state.scenarioOf === laneId)];
  const keep = async (): Promise<void> => {
    await store.flush();
    const row = {
      id: crypto.randomUUID(),
      position: view.state.position + list.length,
      data: { ...view.state.data, name: name.trim() },
      scenarioOf: laneId,
    };
    setName('');
    void fetcher.submit(
      { intent: 'putLane', row: JSON.stringify(row) },
      { method: 'post', action: `${base}/${candidateId}` },
    );
  };
  const c = own.doc.currency;
  return (
    <Box>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        {t('scenarios.text')}
      </Typography>
      <Box component="table" sx={table}>
        <thead>
          <tr>
            <th scope="col">{t('scenarios.named')}</th>
            <th scope="col">{t('form.price')}</th>
            <th scope="col">{t('scenarios.quantity')}</th>
            <th scope="col">{t('lines.landedCost')}</th>
            <th scope="col">{t('figure.unitProfit')}</th>
            <th scope="col">{t('figure.margin')}</th>
            <th scope="col">{t('figure.roi')}</th>
            <th scope="col">{t('scenarios.against')}</th>
            <HiddenHead>{t('scenarios.open')}</HiddenHead>
          </tr>
        </thead>
        <tbody>
          {list.map((v) => {
            const profit = v.result.figures.unitProfit;
            const diff =
              v === own || profit === null || own.result.figures.unitProfit === null
                ? null
                : profit - own.result.figures.unitProfit;
            return (
              <tr key={v.id}>
                <th scope="row" style={{ fontWeight: v.id === view.id ? 700 : 400 }}>
                  <bdi>{v === own ? t('scenarios.lane') : v.doc.name || t('scenarios.named')}</bdi>
                </th>
                <td>{f.money(v.doc.price, c)}</td>
                <td>{f.number(v.doc.orderQuantity)}</td>
                <td>{said(v.result, 'landedCost', 'plain')}</td>
                <ProfitCell result={v.result} />
                <td>{said(v.result, 'margin')}</td>
                <td>{said(v.result, 'roi')}</td>
                <td>{diff === null ? '' : `${diff > 0 ? '+' : ''}${f.plain(diff, c)}`}</td>
                <td>
                  {v.id !== view.id && (
                    <Button size="small" onClick={() => onChoose(v.id)}>
                      {t('scenarios.open')}
                    </Button>
                  )}
                  {v !== own && store.canEdit && (
                    <Button
                      size="small"
                      aria-label={t('scenarios.remove', { name: v.doc.name })}
                      onClick={() => {
                        onChoose(laneId);
                        void fetcher.submit(
                          { intent: 'removeLane', id: v.id },
                          { method: 'post', action: `${base}/${candidateId}` },
                        );
                      }}>
                      ×
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Box>
      <TableFile
        table={() => ({
          name: `${store.get().state.candidate.data.name} ${t('more.scenarios')}`,
          columns: [
            t('scenarios.named'),
            t('form.currency'),
            t('form.price'),
            t('scenarios.quantity'),
            t('lines.landedCost'),
            t('figure.unitProfit'),
            t('figure.margin'),
            t('figure.roi'),
            bound.title,
          ].map((title, i) => ({ title, percent: i === 6 || i === 7 })),
          rows: list.map((v) => [
            v === own ? t('scenarios.lane') : v.doc.name,
            c,
            v.doc.price,
            v.doc.orderQuantity,
            v.result.figures.landedCost,
            v.result.figures.unitProfit,
            v.result.figures.margin,
            v.result.figures.roi,
            bound.of(v.result),
          ]),
        })}
      />
      {store.canEdit && (
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-end', mt: 1.5 }}>
          <TextLine label={t('scenarios.name')} value={name} onChange={setName} width={240} />
          <Button disabled={name.trim() === '' || fetcher.state !== 'idle'} onClick={() => void keep()}>
            {t('scenarios.keep')}
          </Button>
        </Box>
      )}
    </Box>
  );
}
