/**
 * The terms of every country under each other, each in its own language: which are searched most, when, and at which
 * bids. They are different buyers, and never added.
 */
import { bidRange } from '../../../core/evidence/bids.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { Pane } from '../weigh/Pane.tsx';
import { TermSeason } from './TermSeason.tsx';
import type { Market } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

/** Terms of a country that are shown: the ticked ones first, then the most searched. */
const FIRST = 3;

export function TermsAcross({ markets }: { markets: readonly Market[] }) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const rows = markets.flatMap((m) => {
    const { terms } = m.composed.document;
    const volume = (i: number): number => m.said.terms.terms[i]?.volume ?? -1;
    return terms
      .map((_, i) => i)
      .sort((a, b) => Number(terms[b]?.ticked) - Number(terms[a]?.ticked) || volume(b) - volume(a))
      .slice(0, FIRST)
      .flatMap((i, n) => {
        const term = terms[i];
        return term === undefined ? [] : [{ m, i, term, first: n === 0, of: Math.min(FIRST, terms.length) }];
      });
  });
  if (rows.length === 0) return null;
  return (
    <Pane title={t('market.across.title')} aside={t('market.across.aside')}>
      <FigureTable label={t('market.across.title')}>
        <thead>
          <tr>
            <th scope="col">{t('market.allOf.country')}</th>
            <th scope="col" className="text">
              {t('market.terms.term')}
            </th>
            <th scope="col">{t('market.terms.volume')}</th>
            <th scope="col" className="text">
              {t('market.terms.season')}
            </th>
            <th scope="col">{t('market.terms.bid')}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ m, i, term, first, of }) => {
            const c = m.view.doc.currency;
            const range = bidRange(term.bids, m.composed.document.match);
            return (
              <tr key={`${m.view.id} ${term.language} ${term.term}`}>
                {first && (
                  <th scope="rowgroup" rowSpan={of}>
                    {countryName(m.view.doc.country, i18n.language)}
                  </th>
                )}
                <td className="text" style={{ fontWeight: term.ticked ? 650 : 400 }}>
                  <bdi>{term.term}</bdi>
                  {term.language === '' ? '' : ` (${term.language})`}
                </td>
                <td>{f.number(m.said.terms.terms[i]?.volume ?? null, 0)}</td>
                <td className="text">
                  <TermSeason season={m.said.season.terms[i]} />
                </td>
                <td>
                  {range === null
                    ? '–'
                    : range.low === range.high
                      ? f.money(range.low, c)
                      : `${f.plain(range.low, c)}–${f.money(range.high, c)}`}
                </td>
              </tr>
            );
          })}
        </tbody>
      </FigureTable>
    </Pane>
  );
}
