/** A purchase in a shop: shelf price, discounts in their order, gift cards, cashback. */
import { Button } from '@mui/material';
import type { RetailPurchase } from '../../../core/lane/schema.ts';
import { Choice, List, Num, Row, Text } from './bound.tsx';
import { useStore } from './store.ts';
import { purchased, useVatOptions, yesNo } from './formParts.tsx';
import { useCurrencies } from '../../ui/names.ts';
import { useWords } from '../../ui/useWords.ts';

export function PackRow({ laneId }: { laneId: string }) {
  const { t } = useWords();
  return (
    <Row title={t('form.packs')}>
      <Num
        entity="lane"
        id={laneId}
        path={['components', 0, 'unitsInSoldPack']}
        label={t('form.inSoldPack')}
        kind="number"
        min={1}
        whole
        required
        width={150}
      />
      <Num
        entity="lane"
        id={laneId}
        path={['components', 0, 'unitsInBoughtPack']}
        label={t('form.inBoughtPack')}
        kind="number"
        min={1}
        whole
        required
        width={150}
      />
      <Num
        entity="lane"
        id={laneId}
        path={['buyingSpread']}
        label={t('form.buyingSpread')}
        kind="percent"
        zero
        width={150}
      />
    </Row>
  );
}

export function RetailForm({
  quoteId,
  retail,
  laneId,
}: {
  quoteId: string;
  retail: RetailPurchase;
  laneId: string;
}) {
  const { t } = useWords();
  const currencies = useCurrencies();
  const store = useStore();
  const vat = useVatOptions();
  const q = { entity: 'quote' as const, id: quoteId };
  const toggle = (key: 'giftCard' | 'cashback' | 'delivery', value: unknown) => (
    <Button
      size="small"
      onClick={() => store.edit([{ ...q, path: [key], to: retail[key] === null ? value : null }])}>
      {retail[key] === null ? t(`form.add.${key}`) : t(`form.drop.${key}`)}
    </Button>
  );
  return (
    <>
      <Row>
        <Num
          {...q}
          path={['shelfPrice']}
          label={t('form.shelfPrice')}
          kind="money"
          currency={retail.currency}
          step={0.1}
        />
        <Num
          entity="lane"
          id={laneId}
          path={['orderQuantity']}
          label={t('form.orderQuantity')}
          kind="number"
          min={0.000001}
          max={1e9}
        />
        <Choice
          {...q}
          path={['currency']}
          label={t('form.currency')}
          options={currencies}
          search
          width={150}
        />
        <Choice {...q} path={['vat']} label={t('form.vatOnPurchase')} options={vat} width={130} />
        {retail.vat !== 'none' && (
          <Num {...q} path={['vatRate']} label={t('form.vatRate')} kind="percent" zero />
        )}
        <Text {...q} path={['supplier']} label={t('form.shop')} width={150} />
      </Row>
      <Row title={t('form.discounts')}>
        <List
          {...q}
          path={['discounts']}
          make={() => ({ kind: 'percent', share: null })}
          add={t('form.addDiscount')}>
          {(i, p) =>
            retail.discounts[i]?.kind === 'coupon' ? (
              <>
                <Num
                  {...q}
                  path={[...p, 'amount']}
                  label={t('form.coupon')}
                  kind="money"
                  currency={retail.currency}
                />
                <Num
                  {...q}
                  path={[...p, 'covers']}
                  label={t('form.covers')}
                  kind="number"
                  min={1}
                  whole
                  required
                />
              </>
            ) : (
              <Num {...q} path={[...p, 'share']} label={t('form.percentOff')} kind="percent" max={1} />
            )
          }
        </List>
        <Button
          size="small"
          onClick={() =>
            store.edit([
              {
                ...q,
                path: ['discounts'],
                to: [...retail.discounts, { kind: 'coupon', amount: null, covers: 1 }],
              },
            ])
          }>
          {t('form.addCoupon')}
        </Button>
        <Choice
          {...q}
          path={['reordered']}
          label={t('form.order')}
          map="boolean"
          options={[
            { value: 'no', label: t('form.percentFirst') },
            { value: 'yes', label: t('form.asListed') },
          ]}
          width={170}
        />
      </Row>
      <Row>
        <Num {...q} path={['salesTax']} label={t('form.salesTax')} kind="percent" max={1} zero />
        <Choice
          {...q}
          path={['exempt']}
          label={t('form.exempt')}
          map="boolean"
          options={yesNo(t)}
          width={120}
        />
        {retail.giftCard !== null && (
          <>
            <Num
              {...q}
              path={['giftCard', 'discount']}
              label={t('form.giftCard')}
              kind="percent"
              max={1}
              width={150}
            />
            <Num
              {...q}
              path={['giftCard', 'part']}
              label={t('form.giftPart')}
              kind="percent"
              max={1}
              zero
              width={140}
            />
          </>
        )}
        {retail.cashback !== null && (
          <Num {...q} path={['cashback', 'share']} label={t('form.cashback')} kind="percent" max={1} />
        )}
        <Text {...q} path={['validUntil']} label={t('form.expires')} width={110} blank />
        <Num {...q} path={['stock']} label={t('form.stock')} kind="number" width={100} />
        <Text {...q} path={['exclusions']} label={t('form.exclusions')} width={190} />
        {retail.delivery !== null && (
          <Num
            {...q}
            path={['delivery', 'amount']}
            label={t('form.deliveryPerOrder')}
            kind="money"
            currency={retail.delivery.currency}
            width={150}
          />
        )}
      </Row>
      <Row>
        {toggle('giftCard', { discount: null, part: 1 })}
        {toggle('cashback', { share: null, taxCounts: false, giftCardsCount: true })}
        {toggle('delivery', purchased(retail.currency))}
      </Row>
      <PackRow laneId={laneId} />
    </>
  );
}
