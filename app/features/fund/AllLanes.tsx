import { Button } from '@mui/material';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import type { AheadPart } from './fundParts.tsx';
import { offeredFor, withOffered } from './offered.ts';
import { isRanged, sureOf } from './sureOf.ts';
import { useLacks } from './useLacks.ts';
import type { RiskAnswers } from './useRisk.ts';
import { useWords } from '../../ui/useWords.ts';

const FIGURES = ['p5', 'p50', 'p95'] as const;

/** Every lane of the candidate by its own ranges, drawn by the same numbers. */
export function AllLanes({ part, said }: { part: AheadPart; said: RiskAnswers }) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const lacksInWords = useLacks();
  const { whole, views, settings, cards, markets, learned, today } = part;
  const nameOf = (v: (typeof views)[number]): string =>
    `${countryName(v.doc.country, i18n.language)} · ${v.doc.marketplace}`;
  const outcomeOf = (id: string) => {
    const own = said[id];
    return own?.known && isRanged(sureOf(whole, id)) ? (own.launch ?? own.unit) : null;
  };
  const takeEverywhere = (): void => {
    const own = views.map((v) => [
      v.id,
      withOffered(sureOf(whole, v.id), offeredFor({ settings, cards, markets, learned, today }, v)),
    ]);
    part.set({ sure: { ...whole.sure, ...Object.fromEntries(own) } });
  };
  return (
    <Pane
      title={t('sure.lanes')}
      aside={
        part.canEdit && (
          <Button size="small" onClick={takeEverywhere}>
            {t('sure.takeEverywhere')}
          </Button>
        )
      }>
      <FigureTable label={t('sure.lanes')}>
        <thead>
          <tr>
            <th scope="col">{t('sure.lane')}</th>
            {([...FIGURES, 'loss'] as const).map((k) => (
              <th scope="col" key={k}>
                {t(`sure.figure.${k}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {views.map((v) => {
            const { id } = v;
            const own = said[id];
            if (own === undefined) return null;
            const outcome = outcomeOf(id);
            return (
              <tr key={id}>
                <th scope="row">{nameOf(v)}</th>
                {outcome === null || !own.known ? (
                  <td colSpan={4} className="text">
                    {own.known ? t('sure.noRanges') : lacksInWords(own.lacks, own.problems)}
                  </td>
                ) : (
                  <>
                    {FIGURES.map((k) => (
                      <td key={k} className={outcome.spread[k] < 0 ? 'loss' : undefined}>
                        {f.money(outcome.spread[k], own.currency)}
                      </td>
                    ))}
                    <td>{f.percent(outcome.spread.loss.chance, 1)}</td>
                  </>
                )}
              </tr>
            );
          })}
        </tbody>
      </FigureTable>
      <TableFile
        table={() => ({
          name: t('sure.lanes'),
          columns: [t('sure.lane'), ...FIGURES.map((k) => t(`sure.figure.${k}`)), t('sure.figure.loss')].map(
            (title) => ({ title }),
          ),
          rows: views.flatMap((v) => {
            const outcome = outcomeOf(v.id);
            return outcome === null
              ? []
              : [[nameOf(v), ...FIGURES.map((k) => outcome.spread[k]), outcome.spread.loss.chance]];
          }),
        })}
      />
    </Pane>
  );
}
