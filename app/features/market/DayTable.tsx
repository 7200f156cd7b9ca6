/** The same figures as a table: each observed day, the newest first. */
import { Box } from '@mui/material';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import type { ShownDay } from './daysShown.ts';
import { useKeeps } from './useKeeps.ts';
import type { Market } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

export function DayTable({ days, market }: { days: readonly ShownDay[]; market: Market }) {
  const { t } = useWords();
  const f = useFormat();
  const keeps = useKeeps(market.view);
  const c = market.said.history?.currency ?? market.view.doc.currency;
  return (
    <Box sx={{ maxHeight: 380, overflowY: 'auto' }}>
      <FigureTable label={t('market.overTime.title')}>
        <thead>
          <tr>
            <th scope="col">{t('market.overTime.day')}</th>
            <th scope="col">{t('market.overTime.price')}</th>
            <th scope="col">{t('market.overTime.keeps')}</th>
            <th scope="col">{t('market.under.rank')}</th>
            <th scope="col">{t('market.under.offers')}</th>
            <th scope="col">{t('market.under.ownShop')}</th>
            <th scope="col">{t('market.under.promotion')}</th>
          </tr>
        </thead>
        <tbody>
          {[...days]
            .reverse()
            .filter((d) => d.observed)
            .map((d) => (
              <tr key={d.day}>
                <th scope="row">{f.day(d.day)}</th>
                <td>{d.price === null ? t('market.overTime.nobody') : f.money(d.price, c)}</td>
                <td>{keeps.money(d.unitProfit)}</td>
                <td>{f.number(d.rank, 0)}</td>
                <td>{f.number(d.offers, 0)}</td>
                <td>{d.ownShop === null ? '–' : t(d.ownShop ? 'market.yes' : 'market.no')}</td>
                <td>{t(d.promotion ? 'market.yes' : 'market.no')}</td>
              </tr>
            ))}
        </tbody>
      </FigureTable>
    </Box>
  );
}
