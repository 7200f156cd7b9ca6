/** Goods of another seller that stand in one's own lists: what they cost there, and what those lists make of them. */
import { Typography } from '@mui/material';
import { Link } from 'react-router';
import type { ListRow } from '../../../between/ask.ts';
import type { FeedRow } from '../../../between/feed.ts';
import { blanksIn } from '../../../core/lane/blanks.ts';
import { useBounds } from '../../ui/bounds.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import type { FoundFrame } from './useFound.ts';
import { toListing } from './ways.ts';
import { useWords } from '../../ui/useWords.ts';

export type OursShown = {
  goods: FeedRow;
  cost: number;
  currency: string;
  list: string;
  listId: string;
  row: ListRow | null;
};
type Props = { p: FoundFrame; ours: readonly OursShown[]; sales: string };

export function OurGoods({ p, ours, sales }: Props) {
  const { t } = useWords();
  return (
    <Pane title={t('seller.ours')}>
      <Typography variant="body2" sx={{ mb: 0.5 }}>
        {ours.length === 0 ? t('seller.oursNone') : t('seller.oursSaid', { count: ours.length })}
      </Typography>
      {ours.length > 0 && (
        <FigureTable label={t('seller.ours')}>
          <thead>
            <tr>
              <th scope="col">{t('seller.goods')}</th>
              <th scope="col">{t('seller.price')}</th>
              <th scope="col">{t('seller.units')}</th>
              <th scope="col">{t('seller.ourCost')}</th>
              <th scope="col">{t('seller.mayPay')}</th>
              <th scope="col">{t('seller.keeps')}</th>
              <th scope="col" className="text">
                {t('seller.hurdles')}
              </th>
              <th scope="col" className="text">
                {t('seller.ourList')}
              </th>
            </tr>
          </thead>
          <tbody>
            {ours.map((o) => (
              <Ours key={o.goods.listing} o={o} p={p} sales={sales} />
            ))}
          </tbody>
        </FigureTable>
      )}
    </Pane>
  );
}

function Ours({ o, p, sales }: { o: OursShown; p: FoundFrame; sales: string }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const { goods, row } = o;
  const blanks = blanksIn(row?.blanks ?? 0);
  const { unitProfit = null, mostToPay = null } = row?.figures ?? {};
  return (
    <tr>
      <th scope="row" style={{ fontWeight: 400 }}>
        <Link to={toListing(p, goods.listing)} style={{ color: 'inherit' }} dir="auto">
          {goods.title}
        </Link>
      </th>
      <td>{f.money(goods.price, sales)}</td>
      <td>{f.number(goods.units, 0)}</td>
      <td>{f.money(o.cost, o.currency)}</td>
      <td>{mostToPay === null ? '–' : bounds.of(f.money(mostToPay, o.currency), blanks, 'lessThan')}</td>
      <td className={unitProfit !== null && unitProfit < 0 ? 'loss' : undefined}>
        {unitProfit === null ? '–' : bounds.of(f.money(unitProfit, sales), blanks)}
      </td>
      <td className="text">
        {row === null ? (
          <span className="quiet">{t('seller.otherMarket')}</span>
        ) : (
          t(`seller.verdict.${row.verdict}`)
        )}
      </td>
      <td className="text">
        <Link to={`${p.root}/lists/${o.listId}`} style={{ color: 'inherit' }}>
          {o.list}
        </Link>
      </td>
    </tr>
  );
}
