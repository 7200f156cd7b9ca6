/** Averages of a window, and the prices a lane may go by: each with its count, or how many days it still lacks. */
import { Box, Typography } from '@mui/material';
import { BASES } from '../../../core/evidence/history.ts';
import type { Window } from '../../../core/evidence/history.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { daysShown } from './daysShown.ts';
import { IntoLane } from './parts.tsx';
import type { PaneProps } from './parts.tsx';
import { useKeeps } from './useKeeps.ts';
import { useIntoLane } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

export function Bases({ market, window }: PaneProps & { window: Window }) {
  const { t } = useWords();
  const f = useFormat();
  const into = useIntoLane(market);
  const keeps = useKeeps(market.view);
  const { history } = market.said;
  if (history === null) return null;
  const c = history.currency;
  const s = history.windows[window];
  const without = history.withoutPromotions?.[window];
  return (
    <Box sx={{ mt: 1 }}>
      <Typography variant="body2" sx={{ mb: 0.5 }}>
        {t('market.overTime.spread', {
          days: f.number(s.days, 0),
          mean: f.money(s.mean, c),
          median: f.money(s.median, c),
          low: f.money(s.low, c),
          high: f.money(s.high, c),
        })}{' '}
        {without !== undefined &&
          t('market.overTime.withoutPromotions', {
            mean: f.money(without.mean, c),
            days: f.number(without.days, 0),
          })}
      </Typography>
      <FigureTable label={t('market.overTime.bases')}>
        <thead>
          <tr>
            <th scope="col">{t('market.overTime.basis')}</th>
            <th scope="col">{t('market.overTime.price')}</th>
            <th scope="col">{t('market.overTime.keeps')}</th>
            <th scope="col" className="text">
              <span className="hidden-text">{t('market.toLane')}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {BASES.map((b) => {
            const own = history.bases[b];
            const at = own.known ? history.atBases[b] : null;
            return (
              <tr key={b}>
                <th scope="row" style={{ fontWeight: 400 }}>
                  {t(`market.overTime.by.${b}`)}
                </th>
                <td>
                  {own.known
                    ? f.money(own.price, c)
                    : t('market.overTime.lacks', { days: own.days, needs: own.needs })}
                </td>
                <td>{at === null ? '' : keeps.money(at)}</td>
                <td className="text">
                  <IntoLane act={into('price', 'history', b)} label={t('market.usePrice')} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </FigureTable>
      <TableFile
        table={() => ({
          name: `${market.view.doc.country} ${t('market.kind.history')}`,
          columns: ['day', 'price', 'unit profit', 'rank', 'offers', 'own shop', 'promotion'].map(
            (title) => ({ title }),
          ),
          rows: daysShown(market.composed.document.prices?.days ?? [], market.said.history, 'all').map(
            (d) => [d.day, d.price, d.unitProfit, d.rank, d.offers, d.ownShop, d.promotion],
          ),
        })}
      />
    </Box>
  );
}
