/** Few dear against many cheap: all the cash into one of two lanes. */
import { Box } from '@mui/material';
import { useMemo, useState } from 'react';
import { allInOne } from '../../../core/launch/fewOrMany.ts';
import type { AllInOne } from '../../../core/launch/fewOrMany.ts';
import type { PurseDocument, PurseLane } from '../../../core/purse/schema.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import { useWords } from '../../ui/useWords.ts';

const FIGURES = ['landedCash', 'units', 'unitProfit', 'profit', 'months', 'profitPerMonth'] as const;
type Figure = (typeof FIGURES)[number];

type Props = { document: PurseDocument; nameOf: (key: string) => string; currency: string };

export function FewOrMany({ document, nameOf, currency }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const { lanes, cash, reserve } = document;
  const [chosen, setChosen] = useState<readonly (string | null)[]>([null, null]);
  const other = lanes.find((l) => l.candidate !== lanes[0]?.candidate);
  const two = [
    lanes.find((l) => l.key === chosen[0]) ?? lanes[0],
    lanes.find((l) => l.key === chosen[1]) ?? other,
  ];
  const said = useMemo(
    () => two.map((l) => (l === undefined ? null : allInOne(l.lane, { ...l.plan.launch, cash, reserve }))),
    [two[0], two[1], cash, reserve],
  );
  if (two.some((l) => l === undefined)) return null;
  const known = (i: number): AllInOne | null => {
    const x = said[i];
    return x == null || x.lacks.length > 0 ? null : x;
  };
  const priceOf = (l: PurseLane | undefined): string =>
    f.money(l?.lane.price ?? null, l?.lane.currency ?? currency);
  const shown = (figure: Figure, x: number | null): string =>
    figure === 'units' ? f.number(x, 0) : figure === 'months' ? f.number(x, 1) : f.money(x, currency);
  return (
    <Pane title={t('purse.fewOrMany')} aside={t('purse.fewOrManyAside')}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, mb: 1 }}>
        {two.map((l, i) => (
          <SearchChoice
            // biome-ignore lint/suspicious/noArrayIndexKey: two choices in fixed places
            key={i}
            label={t('purse.oneOfTwo', { n: i + 1 })}
            value={l?.key ?? ''}
            options={lanes.map((x) => ({ value: x.key, label: nameOf(x.key) }))}
            onChange={(key) => setChosen(chosen.map((c, j) => (j === i ? key : c)))}
            width={380}
          />
        ))}
      </Box>
      <FigureTable label={t('purse.fewOrMany')}>
        <thead>
          <tr>
            <th scope="col">{currency}</th>
            {two.map((l, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: two columns in fixed places
              <th scope="col" key={i} style={{ whiteSpace: 'normal' }}>
                {nameOf(l?.key ?? '')}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">{t('purse.allInOne.price')}</th>
            {two.map((l, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: as their columns
              <td key={i}>{priceOf(l)}</td>
            ))}
          </tr>
          {FIGURES.map((key) => (
            <tr key={key}>
              <th scope="row">{t(`purse.allInOne.${key}`)}</th>
              {two.map((_, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: as their columns
                <td key={i}>{shown(key, known(i)?.[key] ?? null)}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </FigureTable>
      <TableFile
        table={() => ({
          name: t('purse.fewOrMany'),
          columns: [currency, ...two.map((l) => nameOf(l?.key ?? ''))].map((title) => ({ title })),
          rows: FIGURES.map((key) => [
            t(`purse.allInOne.${key}`),
            ...two.map((_, i) => known(i)?.[key] ?? null),
          ]),
        })}
      />
    </Pane>
  );
}
