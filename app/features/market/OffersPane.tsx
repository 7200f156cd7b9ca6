/** Offers of the listing: what a unit keeps as it stands, if the lowest leave, if one undercuts. */
import { Typography } from '@mui/material';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import { From, IntoLane, NotKnown } from './parts.tsx';
import type { PaneProps } from './parts.tsx';
import { useKeeps } from './useKeeps.ts';
import { useIntoLane } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

export function OffersPane(p: PaneProps) {
  const { t } = useWords();
  const f = useFormat();
  const into = useIntoLane(p.market);
  const keeps = useKeeps(p.market.view);
  const said = p.market.said.offers;
  if (said === null)
    return (
      <Pane title={t('market.offers.title')}>
        <NotKnown>{t('market.offers.none')}</NotKnown>
      </Pane>
    );
  const c = said.currency;
  const list = p.market.composed.document.offers?.list ?? [];
  return (
    <Pane
      title={t('market.offers.title')}
      aside={
        <>
          {t('market.offers.count', { count: said.offers })}
          {said.state === 'default' ? '' : ` · ${t(`market.offers.${said.state}`)}`}
          {said.deliveryUnknown > 0
            ? ` · ${t('market.offers.deliveryUnknown', { count: said.deliveryUnknown })}`
            : ''}{' '}
          · <From kind="offers" {...p} />
        </>
      }>
      <FigureTable label={t('market.offers.title')}>
        <thead>
          <tr>
            <th scope="col">{t('market.offers.case')}</th>
            <th scope="col">{t('market.offers.price')}</th>
            <th scope="col">{t('market.overTime.keeps')}</th>
          </tr>
        </thead>
        <tbody>
          {said.cases.map((o) => {
            const key = 'leaves' in o.of ? `leaves${o.of.leaves}` : 'undercuts';
            return (
              <tr key={key}>
                <th scope="row" style={{ fontWeight: 400 }}>
                  {t(`market.offers.cases.${key}`, {
                    by: f.plain((said.cases[0]?.price ?? o.price) - o.price, c),
                  })}
                </th>
                <td>{f.plain(o.price, c)}</td>
                <td>
                  <b>{keeps.plain(o.unitProfit)}</b>
                </td>
              </tr>
            );
          })}
        </tbody>
      </FigureTable>
      <Typography variant="body2" sx={{ my: 0.5 }}>
        {said.warehousePremium !== null &&
          t(said.warehousePremium < 0 ? 'market.offers.discount' : 'market.offers.premium', {
            share: f.percent(Math.abs(said.warehousePremium), 1),
          })}{' '}
        <IntoLane act={into('rivalPrices', 'offers')} label={t('market.useOffers')} />
      </Typography>
      <TableFile
        table={() => ({
          name: `${p.market.view.doc.country} ${t('market.kind.offers')}`,
          columns: ['seller', 'price', 'delivery', 'warehouse', 'whose', 'default'].map((title) => ({
            title,
          })),
          rows: list.map((o) => [o.seller, o.price, o.delivery, o.warehouse, o.of, o.isDefault]),
        })}
      />
    </Pane>
  );
}
