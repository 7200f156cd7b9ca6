/**
 * All countries of a candidate side by side: what each market says and what a unit keeps there, home currency
 * beside.
 */
import { Box, Typography } from '@mui/material';
import { useMemo } from 'react';
import { NO_WATCH } from '../../../core/evidence/observed.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import type { Frame, LaneView } from '../weigh/useFigures.ts';
import type { KeptMarket } from '../../../core/evidence/observed.ts';
import { usePeaksInWords } from './monthsInWords.ts';
import { TermsAcross } from './TermsAcross.tsx';
import { marketFor, marketOf } from './useMarket.ts';
import type { Market } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  views: readonly LaneView[];
  markets: readonly KeptMarket[];
  frame: Frame;
  onChoose: (lane: string) => void;
};

export function AllMarkets({ views, markets, frame, onChoose }: Props) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const all = useMemo(
    () =>
      views.map((v) => {
        const kept = markets.find((m) => m.market === marketOf(v));
        return marketFor(v, kept, kept?.watch ?? NO_WATCH, frame);
      }),
    [views, markets, frame],
  );
  const home = frame.settings.homeCurrency;
  const inWords = usePeaksInWords();
  const seasonOf = ({ said }: Market): string => {
    const { season } = said.season.together;
    return inWords(season.known ? season.peaks : null);
  };
  const kept = (m: Market, amount: number | null, currency: string): string =>
    amount === null ? '–' : bounds.of(f.money(amount, currency), m.view.result.incomplete.unitProfit);
  const ranked = [...all].sort(
    (a, b) => (b.view.home?.figures.unitProfit ?? -1e99) - (a.view.home?.figures.unitProfit ?? -1e99),
  );
  return (
    <>
      <Pane title={t('market.allOf.title')} aside={t('market.allOf.aside')}>
        <FigureTable label={t('market.allOf.title')}>
          <thead>
            <tr>
              {(
                [
                  'country',
                  'keeps',
                  'keepsHome',
                  'searches',
                  'season',
                  'rivals',
                  'place',
                  'lost',
                  'units',
                  'may',
                ] as const
              ).map((c) => (
                <th scope="col" key={c} className={c === 'season' || c === 'may' ? 'text' : undefined}>
                  {t(`market.allOf.${c}`, { currency: home })}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {ranked.map((m) => (
              <tr key={m.view.id}>
                <th scope="row">
                  <Box
                    component="button"
                    type="button"
                    onClick={() => onChoose(m.view.id)}
                    sx={{
                      all: 'unset',
                      cursor: 'pointer',
                      textDecoration: 'underline',
                      '&:focus-visible': { outline: '2px solid' },
                    }}>
                    {countryName(m.view.doc.country, i18n.language)}
                  </Box>
                  <Typography variant="body2" color="text.secondary">
                    {m.view.doc.marketplace}
                  </Typography>
                </th>
                <td>{kept(m, m.view.result.figures.unitProfit, m.view.doc.currency)}</td>
                <td>
                  <b>{kept(m, m.view.home?.figures.unitProfit ?? null, home)}</b>
                </td>
                <td>{f.number(m.said.figures.searches, 0)}</td>
                <td className="text">{seasonOf(m)}</td>
                <td>{f.number(m.said.rivals?.rows ?? null, 0)}</td>
                <td>
                  {m.said.rivals?.place == null
                    ? '–'
                    : t('market.allOf.placeOf', {
                        place: m.said.rivals.place.place,
                        of: m.said.rivals.place.of,
                      })}
                </td>
                <td>
                  {m.said.history?.margin?.lossShare == null
                    ? '–'
                    : bounds.of(
                        f.percent(m.said.history.margin.lossShare, 0),
                        m.view.result.incomplete.unitProfit,
                        'orMore',
                      )}
                </td>
                <td>
                  {m.said.units?.mine.known === true
                    ? f.number(Math.floor(m.said.units.mine.expected), 0)
                    : '–'}
                </td>
                <td className="text">
                  {t(`market.care.states.${m.composed.document.permission?.state ?? 'unknown'}`)}
                </td>
              </tr>
            ))}
          </tbody>
        </FigureTable>
        <TableFile
          table={() => ({
            name: t('market.allOf.title'),
            columns: [
              'country',
              'marketplace',
              'currency',
              'unit profit',
              `unit profit ${home}`,
              'searches',
              'season',
              'rivals',
              'place',
              'share of days at a loss',
              'my units',
              'permission',
            ].map((title) => ({ title })),
            rows: ranked.map((m) => [
              m.view.doc.country,
              m.view.doc.marketplace,
              m.view.doc.currency,
              m.view.result.figures.unitProfit,
              m.view.home?.figures.unitProfit ?? null,
              m.said.figures.searches,
              seasonOf(m),
              m.said.rivals?.rows ?? null,
              m.said.rivals?.place?.place ?? null,
              m.said.history?.margin?.lossShare ?? null,
              m.said.units?.mine.known === true ? Math.floor(m.said.units.mine.expected) : null,
              m.composed.document.permission?.state ?? '',
            ]),
          })}
        />
      </Pane>
      <TermsAcross markets={ranked} />
    </>
  );
}
