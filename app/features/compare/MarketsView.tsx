/**
 * Which country first: what each lane keeps, local and at home, beside what its market says of demand, season, rivals
 * and permission.
 */
import { Typography } from '@mui/material';
import { Link } from 'react-router';
import { placeAmong } from '../../../core/evidence/rivals.ts';
import type { PlaceAmongPrices } from '../../../core/evidence/rivals.ts';
import type { MarketFacts } from '../../../core/evidence/stored.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { grossOf, itemPrice } from '../../../core/rules/revenue.ts';
import { addWords } from '../../i18n.ts';
import { marketWords } from '../../locales/en.market.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { usePeaksInWords } from '../market/monthsInWords.ts';
import { homeOf, resultOf } from './useCompared.ts';
import type { Compared } from './useCompared.ts';
import { useWords } from '../../ui/useWords.ts';

addWords(marketWords);

type Props = {
  lanes: readonly Compared[];
  markets: Readonly<Record<string, MarketFacts>>;
  settings: Settings;
  sheet: string;
};
const COLUMNS = [
  'country',
  'keeps',
  'keepsHome',
  'searches',
  'season',
  'rivals',
  'place',
  'ceiling',
  'may',
] as const;

/** Where a lane's own price, delivery included, stands among the rivals'; null in another currency. */
function placeOf({ doc }: Compared, facts: MarketFacts | undefined, s: Settings): PlaceAmongPrices | null {
  const prices = facts?.prices ?? null;
  if (doc.price === null || prices === null || prices.currency !== doc.currency) return null;
  const mine = grossOf(itemPrice(doc.price, doc.averageDiscount), doc.shippingCharged);
  return placeAmong(prices.list, mine, s.evidence);
}

export default function MarketsView({ lanes, markets, settings, sheet }: Props) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const home = settings.homeCurrency;
  const rows = lanes.map((c) => {
    const facts = markets[`${c.doc.marketplace}/${c.doc.country}`];
    const result = resultOf(c);
    return {
      c,
      facts,
      place: placeOf(c, facts, settings),
      profit: result.figures.unitProfit,
      atHome: homeOf(c)?.figures.unitProfit ?? null,
      lacks: result.incomplete.unitProfit,
    };
  });
  const inWords = usePeaksInWords();
  const season = (facts: MarketFacts | undefined): string => inWords(facts?.peaks ?? null);
  const kept = (amount: number | null, currency: string, lacks: (typeof rows)[number]['lacks']): string =>
    amount === null ? '–' : bounds.of(f.money(amount, currency), lacks);
  const isText = (c: string): boolean => c === 'season' || c === 'may';
  if (Object.keys(markets).length === 0)
    return <Typography sx={{ mt: 1, maxWidth: 560 }}>{t('compare.noMarkets')}</Typography>;
  return (
    <>
      <FigureTable label={t('compare.views.markets')}>
        <thead>
          <tr>
            {COLUMNS.map((c) => (
              <th scope="col" key={c} className={isText(c) ? 'text' : undefined}>
                {t(`market.allOf.${c}`, { currency: home })}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ c, facts, place, profit, atHome, lacks }) => (
            <tr key={c.id}>
              <th scope="row">
                <Link to={`${sheet}/market?lane=${c.id}`} style={{ color: 'inherit' }}>
                  {countryName(c.doc.country, i18n.language)}
                </Link>
                <Typography variant="body2" color="text.secondary">
                  {c.doc.marketplace} · {t(`method.${c.doc.method}`)}
                </Typography>
              </th>
              <td>{kept(profit, c.doc.currency, lacks)}</td>
              <td>
                <b>{kept(atHome, home, lacks)}</b>
              </td>
              <td>{f.number(facts?.searches ?? null, 0)}</td>
              <td className="text">{season(facts)}</td>
              <td>{f.number(facts?.rivals ?? null, 0)}</td>
              <td>
                {place === null ? '–' : t('market.allOf.placeOf', { place: place.place, of: place.of })}
                {place?.overCeiling === true && (
                  <Typography variant="body2" color="error">
                    {t('market.allOf.overCeiling')}
                  </Typography>
                )}
              </td>
              <td>{place === null ? '–' : f.plain(place.ceiling, c.doc.currency)}</td>
              <td className="text">{t(`market.care.states.${facts?.permission ?? 'unknown'}`)}</td>
            </tr>
          ))}
        </tbody>
      </FigureTable>
      <TableFile
        table={() => ({
          name: t('compare.views.markets'),
          columns: [
            t('form.country'),
            t('family.marketplace'),
            t('form.currency'),
            t('market.allOf.keeps'),
            t('market.allOf.keepsHome', { currency: home }),
            t('market.allOf.searches'),
            t('market.allOf.season'),
            t('market.allOf.rivals'),
            t('market.allOf.place'),
            t('market.allOf.ceiling'),
            t('market.allOf.may'),
          ].map((title) => ({ title })),
          rows: rows.map(({ c, facts, place, profit, atHome }) => [
            c.doc.country,
            c.doc.marketplace,
            c.doc.currency,
            profit,
            atHome,
            facts?.searches ?? null,
            season(facts),
            facts?.rivals ?? null,
            place?.place ?? null,
            place?.ceiling ?? null,
            facts?.permission ?? null,
          ]),
        })}
      />
    </>
  );
}
