/** All orders of a workspace, and what they leave of its cash. */
import { Alert, Box, Button, Link as MuiLink, Typography } from '@mui/material';
import { useMemo } from 'react';
import { Trans } from 'react-i18next';
import { Link } from 'react-router';
import type { ExchangeTable } from '../../../core/money/money.ts';
import { inHome, ordersPurse } from '../../../core/orders/purse.ts';
import type { OrdersPurse } from '../../../core/orders/purse.ts';
import type { Order } from '../../../core/orders/schema.ts';
import { isPromised } from '../../../core/orders/states.ts';
import { nextDue, openOf, orderSaid } from '../../../core/orders/totals.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { orderName } from '../../../core/orders/name.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  orders: readonly Order[];
  money: { cash: number | null; reserve: number };
  homeCurrency: string;
  exchange: ExchangeTable | null;
  today: string;
  left: number;
  base: string;
  canEdit: boolean;
};

export function OrdersPage({ orders, money, homeCurrency, exchange, today, left, base, canEdit }: Props) {
  const { t } = useWords();
  const purse = useMemo(
    () => ordersPurse(orders, money, { exchange, home: homeCurrency, today }),
    [orders, money, exchange, homeCurrency, today],
  );
  return (
    <Box sx={{ maxWidth: 1180 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap', mb: 1.5 }}>
        <Typography variant="h1">{t('orders.title')}</Typography>
        <Typography color="text.secondary" sx={{ flex: 1 }}>
          {t('orders.lead')}
        </Typography>
        <Button component={Link} to={`${base}/order/enquiries`}>
          {t('orders.enquiries')}
        </Button>
        {canEdit && (
          <Button component={Link} to={`${base}/order/new`} variant="contained">
            {t('orders.new')}
          </Button>
        )}
      </Box>
      {left > 0 && <Alert severity="warning">{t('toOrder.left', { count: left })}</Alert>}
      {orders.length === 0 ? (
        <Typography>{t('orders.none')}</Typography>
      ) : (
        <>
          <Answer orders={orders} purse={purse} home={homeCurrency} base={base} />
          <Table {...{ orders, homeCurrency, exchange, today, base }} />
        </>
      )}
    </Box>
  );
}

function Answer({
  orders,
  purse,
  home,
  base,
}: {
  orders: readonly Order[];
  purse: OrdersPurse;
  home: string;
  base: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const open = orders.filter((o) => isPromised(o.state)).length;
  const drafts = orders.filter((o) => o.state === 'draft').length;
  const strong = {
    k: <Box component="strong" />,
    b: <Box component="strong" sx={{ color: 'primary.main' }} />,
  };
  const loss = { b: <Box component="strong" sx={{ color: 'error.main' }} /> };
  const names = (numbers: readonly number[]): string => numbers.map(orderName).join(', ');
  return (
    <>
      <Typography
        variant="h4"
        component="p"
        data-testid="orders-answer"
        sx={{ mb: 1, '& strong': { fontWeight: 720 } }}>
        {open === 0 ? (
          t('orders.openNone')
        ) : (
          <Trans
            i18nKey="orders.open"
            count={open}
            values={{ count: open, promised: f.money(purse.promised, home) }}
            components={strong}
          />
        )}{' '}
        {purse.left !== null && purse.toSpend !== null && (
          <Trans
            i18nKey={purse.left < 0 ? 'orders.over' : 'orders.left'}
            values={{
              toSpend: f.money(purse.toSpend, home),
              left: f.money(purse.left, home),
              over: f.money(-purse.left, home),
            }}
            components={purse.left < 0 ? loss : strong}
          />
        )}{' '}
        {drafts > 0 && t('orders.drafts', { count: drafts })}
      </Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
        {purse.left === null && (
          <>
            {t('orders.cashUnknown')}{' '}
            <MuiLink component={Link} to={`${base}/fund`}>
              {t('orders.toFund')}
            </MuiLink>{' '}
          </>
        )}
        {purse.lacking.length > 0 && `${t('orders.atMost', { orders: names(purse.lacking) })} `}
        {purse.noRate.length > 0 && t('orders.noRate', { orders: names(purse.noRate) })}
      </Typography>
    </>
  );
}

const COLUMNS = ['lines', 'total', 'home', 'open', 'due'] as const;

function Table({
  orders,
  homeCurrency,
  exchange,
  today,
  base,
}: Pick<Props, 'orders' | 'homeCurrency' | 'exchange' | 'today' | 'base'>) {
  const { t } = useWords();
  const f = useFormat();
  const rows = orders.map((o) => {
    const said = orderSaid(o.terms, today);
    const home = inHome(said.total, o.terms.currency, { exchange, home: homeCurrency });
    const counts = isPromised(o.state);
    return { o, said, home, open: counts ? openOf(o, said) : null, due: counts ? nextDue(o, said) : null };
  });
  const bounded = (text: string, lacks: readonly string[]): string =>
    lacks.length === 0 || text === '–' ? text : t('orders.atLeast', { amount: text });
  return (
    <>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end' }}>
        <TableFile
          table={() => ({
            name: t('orders.title'),
            columns: [
              t('orders.column.number'),
              t('orders.column.supplier'),
              t('orders.column.state'),
              t('orders.column.lines'),
              t('order.currency'),
              t('orders.column.total'),
              t('orders.column.home', { currency: homeCurrency }),
              t('orders.column.open'),
            ].map((title) => ({ title })),
            rows: rows.map(({ o, said, home, open }) => [
              orderName(o.number),
              o.terms.supplier,
              t(`orderState.${o.state}`),
              o.terms.lines.length,
              o.terms.currency,
              said.total,
              home,
              open,
            ]),
          })}
        />
      </Box>
      <FigureTable label={t('orders.title')}>
        <thead>
          <tr>
            <th scope="col">{t('orders.column.number')}</th>
            <th scope="col" className="text">
              {t('orders.column.supplier')}
            </th>
            <th scope="col" className="text">
              {t('orders.column.state')}
            </th>
            {COLUMNS.map((c) => (
              <th scope="col" key={c}>
                {t(`orders.column.${c}`, { currency: homeCurrency })}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ o, said, home, open, due }) => (
            <tr key={o.id} className={o.state === 'cancelled' || o.state === 'closed' ? 'quiet' : undefined}>
              <th scope="row">
                <Box
                  component={Link}
                  to={`${base}/order/${o.id}`}
                  sx={{ color: 'text.primary', fontWeight: 650 }}>
                  {orderName(o.number)}
                </Box>
              </th>
              <td className="text">
                {o.terms.supplier === '' ? <i>{t('orders.noSupplier')}</i> : <bdi>{o.terms.supplier}</bdi>}
              </td>
              <td className="text">{t(`orderState.${o.state}`)}</td>
              <td>{o.terms.lines.length}</td>
              <td>{bounded(f.money(said.total, o.terms.currency), said.lacks)}</td>
              <td>{bounded(f.money(home, homeCurrency), said.lacks)}</td>
              <td>{f.money(open, o.terms.currency)}</td>
              <td>
                {due === null
                  ? open === 0
                    ? t('orders.paid')
                    : '–'
                  : t(due.day === null ? 'orders.dueSome' : 'orders.dueOn', {
                      amount: f.money(due.amount, o.terms.currency),
                      day: due.day === null ? '' : f.day(due.day),
                    })}
              </td>
            </tr>
          ))}
        </tbody>
      </FigureTable>
    </>
  );
}
