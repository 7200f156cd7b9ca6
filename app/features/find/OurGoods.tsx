/** Goods of another seller that stand in one's own lists: what they cost there, beside what one may pay. */
import { Typography } from '@mui/material';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import type { FeedRow } from '../../../between/feed.ts';
import { useBounds } from '../../ui/bounds.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import type { SellerPageProps, ShopShown } from './SellerPage.tsx';
import { useWeighed } from './useFound.ts';
import { toListing } from './ways.ts';

type Props = { p: SellerPageProps; goods: readonly FeedRow[]; currency: string; costs: ShopShown['costs'] };

export function OurGoods({ p, goods, currency, costs }: Props) {
  const { t } = useTranslation();
  const f = useFormat();
  const bounds = useBounds();
  const own = useMemo(() => goods.filter((g) => costs[g.gtin ?? ''] !== undefined), [goods, costs]);
  const { rows } = useWeighed(own, currency, p);
  return (
    <Pane title={t('seller.ours')}>
      <Typography variant="body2" sx={{ mb: 0.5 }}>
        {own.length === 0 ? t('seller.oursNone') : t('seller.oursSaid', { count: own.length })}
      </Typography>
      {own.length > 0 && (
        <FigureTable label={t('seller.ours')}>
          <thead>
            <tr>
              <th scope="col">{t('seller.goods')}</th>
              <th scope="col">{t('seller.price')}</th>
              <th scope="col">{t('seller.units')}</th>
              <th scope="col">{t('seller.mayPay')}</th>
              <th scope="col">{t('seller.ourCost')}</th>
              <th scope="col" className="text">
                {t('seller.ourList')}
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ key, item, pay }) => {
              const cost = costs[item.gtin ?? ''];
              return (
                <tr key={key}>
                  <th scope="row" style={{ fontWeight: 400 }}>
                    <Link to={toListing(p, item.listing)} style={{ color: 'inherit' }} dir="auto">
                      {item.title}
                    </Link>
                  </th>
                  <td>{f.plain(item.price, currency)}</td>
                  <td>{f.number(item.units, 0)}</td>
                  <td>
                    {pay?.unitPrice == null
                      ? '–'
                      : bounds.of(f.money(pay.unitPrice, pay.currency), pay.incomplete)}
                  </td>
                  <td>{cost === undefined ? '–' : f.money(cost.cost, cost.currency)}</td>
                  <td className="text">
                    {cost !== undefined && (
                      <Link to={`${p.root}/lists/${cost.listId}`} style={{ color: 'inherit' }}>
                        {cost.list}
                      </Link>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </FigureTable>
      )}
    </Pane>
  );
}
