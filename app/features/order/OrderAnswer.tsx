/** What an order comes to and when, in a sentence, and what it leaves of the cash. */
import { Box, Typography } from '@mui/material';
import { Trans } from 'react-i18next';
import type { ExchangeTable } from '../../../core/money/money.ts';
import { inHome, leftAfter } from '../../../core/orders/purse.ts';
import type { OrderState, OrderTerms } from '../../../core/orders/schema.ts';
import type { OrderSaid } from '../../../core/orders/totals.ts';
import { useFormat } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  terms: OrderTerms;
  said: OrderSaid;
  state: OrderState;
  /** What other orders leave, home currency; null: not known. */
  left: number | null;
  home: string;
  exchange: ExchangeTable | null;
};

export function OrderAnswer({ terms, said, state, left, home, exchange }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const totalHome = inHome(said.total, terms.currency, { exchange, home });
  const rest = state === 'draft' ? leftAfter(left, totalHome) : null;
  const total = f.money(said.total, terms.currency);
  const [first, second] = said.due;
  // What is a share of a total that lacks something is a bound too.
  const bounded = (text: string): string =>
    said.lacks.length > 0 ? t('orders.atLeast', { amount: text }) : text;
  const money = (x: number): string => f.money(x, terms.currency);
  const due =
    second === undefined
      ? first?.day == null
        ? t('order.dueSome')
        : t('order.dueOne', { day: f.day(first.day) })
      : t(first?.day == null ? 'order.dueTwoNo' : 'order.dueTwo', {
          deposit: bounded(money(first?.amount ?? 0)),
          day: first?.day == null ? '' : f.day(first.day),
          balance: bounded(money(second.amount)),
          later: second.day === null ? t('order.laterNo') : t('order.later', { day: f.day(second.day) }),
        });
  const expired = said.lines.flatMap((l) =>
    l.expired ? (terms.lines.find((x) => x.id === l.id)?.name ?? []) : [],
  );
  if (terms.lines.length === 0)
    return (
      <Typography variant="h4" component="p" data-testid="order-answer" sx={{ mb: 2 }}>
        {t('order.answerNone')}
      </Typography>
    );
  return (
    <Box sx={{ mb: 2 }}>
      <Typography
        variant="h4"
        component="p"
        data-testid="order-answer"
        sx={{ '& strong': { fontWeight: 720 } }}>
        <Trans
          i18nKey="order.answer"
          count={terms.lines.length}
          values={{ count: terms.lines.length, total: bounded(total) }}
          components={{ k: <strong /> }}
        />
        {terms.currency !== home &&
          totalHome !== null &&
          exchange !== null &&
          t('order.inHome', { amount: f.money(totalHome, home), day: f.day(exchange.date) })}
        {due}{' '}
        {rest !== null && (
          <Trans
            i18nKey={rest < 0 ? 'order.over' : 'order.leaves'}
            values={{ left: f.money(rest, home), over: f.money(-rest, home) }}
            components={{
              b: <Box component="strong" sx={{ color: rest < 0 ? 'error.main' : 'primary.main' }} />,
            }}
          />
        )}
      </Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
        {said.lacks.length > 0 &&
          `${t('order.lacks', { what: said.lacks.map((l) => t(`order.lack.${l}`)).join(', ') })} `}
        {said.shortOfMinimum > 0 &&
          `${t('order.shortOfMinimum', {
            minimum: money(terms.minimumValue),
            short: money(said.shortOfMinimum),
          })} `}
        {state === 'draft' &&
          expired.length > 0 &&
          t('order.expired', { count: expired.length, names: expired.join(', ') })}
      </Typography>
    </Box>
  );
}
