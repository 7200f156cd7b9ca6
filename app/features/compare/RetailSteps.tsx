import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { HiddenHead } from '../../ui/FigureTable.tsx';
import { useRevalidator } from 'react-router';
import type { LaneResult } from '../../../core/lane/result.ts';
import { deliveryPerUnit, discountSteps, retailSteps, taxAtTill } from '../../../core/lane/steps/retail.ts';
import type { RetailSteps as RetailStepsOf } from '../../../core/lane/steps/retail.ts';
import { minorDigits } from '../../../core/money/money.ts';
import type { RetailPurchase } from '../../../core/lane/schema.ts';
import { useFormat } from '../../ui/locale.ts';
import { useResultFigures } from '../../ui/resultFigures.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { tell, type Why } from '../../ui/client.ts';
import { useWords } from '../../ui/useWords.ts';

/** A shop with the lane bought there. */
type Shop = {
  readonly id: string;
  readonly name: string;
  readonly source: RetailPurchase;
  readonly landed: number | null;
  readonly result: LaneResult;
};
/** A shop's steps, in its own currency; null where its shelf price is not known. */
type Column = {
  readonly shop: Shop;
  readonly s: RetailPurchase;
  readonly steps: RetailStepsOf | null;
  readonly discounts: ReturnType<typeof discountSteps>;
  readonly delivery: number | null;
};

/**
 * Shops for the same goods, step by step from the shelf to what a unit costs; the order of the discounts can
 * be changed here.
 */
export function RetailSteps({
  shops,
  currency,
  today,
  canEdit,
  saveUrl,
  quantity,
}: {
  shops: readonly Shop[];
  currency: string;
  today: string;
  canEdit: boolean;
  saveUrl: string;
  quantity: number;
}) {
  const { t } = useWords();
  const said = useResultFigures();
  const { revalidate } = useRevalidator();
  const [notSaved, setNotSaved] = useState<Why | null>(null);
  const turn = async (shop: Shop): Promise<void> => {
    const { reordered } = shop.source;
    const told = await tell(saveUrl, {
      patches: [{ entity: 'quote', id: shop.id, path: ['reordered'], from: reordered, to: !reordered }],
    });
    setNotSaved(told.ok ? null : told.why);
    await revalidate();
  };
  const columns = shops.map((shop): Column => {
    const s = shop.source;
    const p = s.shelfPrice;
    const steps = p === null ? null : retailSteps(s, p);
    return {
      shop,
      s,
      steps,
      discounts: p === null ? [] : discountSteps(s, p),
      delivery: deliveryPerUnit(s, quantity),
    };
  });
  const cheapest = [...shops]
    .filter((x) => x.landed !== null)
    .sort((a, b) => (a.landed as number) - (b.landed as number))[0];
  return (
    <Box component="section" aria-label={t('retail.title')} sx={{ mt: 2 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
          {t('retail.title')}
        </Typography>
        {notSaved !== null && (
          <Typography role="status" variant="body2" color="error">
            {t(`notDone.${notSaved}`)}
          </Typography>
        )}
        <RetailFile columns={columns} currency={currency} />
      </Box>
      {cheapest !== undefined && columns.length > 1 && (
        <Typography sx={{ mb: 1 }} data-testid="retail-answer">
          {t('retail.answer', {
            shop: cheapest.name,
            amount: said(cheapest.result, 'landedCost'),
            interpolation: { escapeValue: false },
          })}
        </Typography>
      )}
      <RetailTable
        columns={columns}
        cheapest={cheapest}
        currency={currency}
        today={today}
        onTurn={canEdit ? (shop) => void turn(shop) : null}
      />
    </Box>
  );
}

/** The steps to take along, in amounts as exact as they are worked out. */
function RetailFile({ columns, currency }: { columns: readonly Column[]; currency: string }) {
  const { t } = useWords();
  const cents = (x: number | null, code: string): number | null =>
    x === null ? null : Number(x.toFixed(minorDigits(code) + 4));
  return (
    <TableFile
      table={() => ({
        name: t('retail.title'),
        columns: [
          'retail.shop',
          'form.currency',
          'form.shelfPrice',
          'retail.afterDiscounts',
          'retail.tax',
          'retail.till',
          'retail.gift',
          'form.cashback',
          'retail.delivery',
          'retail.cost',
          'retail.bound',
          'retail.until',
          'form.stock',
          'form.exclusions',
        ].map((k, i) => ({ title: i === 9 ? t(k, { currency }) : t(k) })),
        rows: columns.map(({ shop, s, steps, delivery }) => [
          shop.name,
          s.currency,
          s.shelfPrice,
          cents(steps?.afterDiscounts ?? null, s.currency),
          cents(steps === null ? null : taxAtTill(steps), s.currency),
          cents(steps?.atTill ?? null, s.currency),
          cents(steps?.giftCardSaving ?? null, s.currency),
          cents(steps?.cashback ?? null, s.currency),
          cents(delivery, s.currency),
          cents(shop.landed, currency),
          shop.landed === null ? '' : t(`bound.word.${shop.result.bounds.landedCost ?? 'whole'}`),
          s.validUntil,
          s.stock,
          s.exclusions,
        ]),
      })}
    />
  );
}

/** Shops across, steps down. `onTurn`: puts the discounts in the other order; null where one may not. */
function RetailTable({
  columns,
  cheapest,
  currency,
  today,
  onTurn,
}: {
  columns: readonly Column[];
  cheapest: Shop | undefined;
  currency: string;
  today: string;
  onTurn: ((shop: Shop) => void) | null;
}) {
  const { t } = useWords();
  const f = useFormat();
  const said = useResultFigures();
  // Two ways to one amount may differ in the last bit; both are shown alike.
  const plain = (x: number | null, code: string): string =>
    f.plain(x === null ? null : Number(x.toFixed(6)), code);
  const most = Math.max(0, ...columns.map((c) => c.discounts.length));
  const each = (title: string, of: (c: (typeof columns)[number]) => React.ReactNode, strong = false) => (
    <tr key={title}>
      <th scope="row" style={{ fontWeight: strong ? 700 : 400 }}>
        {title}
      </th>
      {columns.map((c) => (
        <Box component="td" key={c.shop.id} sx={{ fontWeight: strong ? 700 : 400 }}>
          {of(c)}
        </Box>
      ))}
    </tr>
  );
  const less = (x: number, code: string): string => (x === 0 ? '' : plain(-x, code));
  const state = (s: RetailPurchase): string =>
    [
      s.validUntil === null
        ? ''
        : t(today > s.validUntil ? 'suppliers.expired' : 'suppliers.valid', { date: f.day(s.validUntil) }),
      s.stock === null ? '' : t('retail.stock', { count: s.stock }),
      s.exclusions,
    ]
      .filter(Boolean)
      .join(' · ');
  return (
    <Box role="region" tabIndex={0} aria-label={t('retail.title')} sx={{ overflowX: 'auto' }}>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          fontSize: '0.88rem',
          '& th, & td': {
            py: 0.4,
            px: 1.5,
            textAlign: 'right',
            borderBottom: '1px solid',
            borderColor: 'hairline',
            verticalAlign: 'top',
          },
          '& th:first-of-type': { textAlign: 'left', pl: 0 },
        }}>
        <thead>
          <tr>
            <HiddenHead>{t('retail.step')}</HiddenHead>
            {columns.map((c) => (
              <th scope="col" key={c.shop.id}>
                <bdi>{c.shop.name}</bdi>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {each(t('form.shelfPrice'), (c) => f.money(c.s.shelfPrice, c.s.currency))}
          {Array.from({ length: most }, (_, i) =>
            each(t('retail.discount', { n: i + 1 }), (c) => {
              const d = c.discounts[i];
              return d === undefined ? (
                ''
              ) : (
                <>
                  {plain(d.price, c.s.currency)}
                  <Box sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>
                    {d.discount.kind === 'percent'
                      ? t('retail.percent', { share: f.percent(d.discount.share) })
                      : t('retail.coupon', {
                          amount: f.money(d.discount.amount, c.s.currency),
                          count: d.discount.covers,
                        })}
                  </Box>
                </>
              );
            }),
          )}
          {each(t('form.order'), (c) =>
            c.s.discounts.length < 2 ? (
              ''
            ) : onTurn !== null ? (
              <Button
                size="small"
                aria-label={t('retail.turn', { shop: c.shop.name, interpolation: { escapeValue: false } })}
                onClick={() => onTurn(c.shop)}>
                {t(c.s.reordered ? 'form.asListed' : 'form.percentFirst')}
              </Button>
            ) : (
              t(c.s.reordered ? 'form.asListed' : 'form.percentFirst')
            ),
          )}
          {each(t('retail.tax'), (c) =>
            c.steps === null
              ? '–'
              : c.s.exempt
                ? t('retail.exempt')
                : plain(taxAtTill(c.steps), c.s.currency),
          )}
          {each(t('retail.till'), (c) => plain(c.steps?.atTill ?? null, c.s.currency))}
          {each(t('retail.gift'), (c) => less(c.steps?.giftCardSaving ?? 0, c.s.currency))}
          {each(t('form.cashback'), (c) => less(c.steps?.cashback ?? 0, c.s.currency))}
          {each(t('retail.delivery'), (c) =>
            c.delivery === null ? '' : plain(c.delivery, c.s.delivery?.currency ?? c.s.currency),
          )}
          {each(
            t('retail.cost', { currency }),
            (c) =>
              c.shop.landed === null ? (
                '–'
              ) : (
                <span style={{ textDecoration: c.shop === cheapest ? 'underline' : 'none' }}>
                  {said(c.shop.result, 'landedCost')}
                </span>
              ),
            true,
          )}
          {each(t('retail.mind'), (c) => (
            <Box
              sx={{
                maxWidth: 190,
                fontSize: '0.78rem',
                color: c.s.validUntil !== null && today > c.s.validUntil ? 'error.main' : 'text.secondary',
                ml: 'auto',
              }}>
              {state(c.s)}
            </Box>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
