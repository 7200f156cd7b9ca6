import { Box, Button, Typography } from '@mui/material';
import { lazy, Suspense } from 'react';
import { useTranslation } from 'react-i18next';
import { useFetcher, useRevalidator } from 'react-router';
import { packRatio, priceBreakAt } from '../../../core/goods/goods.ts';
import type { Family } from '../../../core/lane/lines.ts';
import type { MarketplaceCard } from '../../../core/lane/rates.ts';
import { FREIGHT_BASES, INCOTERMS, leg as legSchema, METHODS, STAGES } from '../../../core/lane/schema.ts';
import type { LaneDocument, Quote, RetailPurchase } from '../../../core/lane/schema.ts';
import { priceLadder } from '../../../core/lane/solve.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import type { StoredLane } from '../../../core/workspace/records.ts';
import { Choice, LineState, List, Num, Row, Sides, Text } from './bound.tsx';
import { useStore, useValue } from './store.ts';

const ComponentOf = lazy(() => import('./ComponentOf.tsx'));

export type CardHeads = readonly { id: string; kind: string; key: string; name: string; inForceFrom: string }[];
export type FormProps = { laneId: string; candidateId: string; doc: LaneDocument; cardHeads?: CardHeads };

/** A route or postage taken from a rate card, or typed on the lane itself. */
function FromCard({
  laneId,
  field,
  kind,
  cardHeads,
  typed,
}: {
  laneId: string;
  field: 'freightCardId' | 'postageCardId';
  kind: 'freight' | 'postage';
  cardHeads: CardHeads;
  typed: () => { path: string; to: unknown };
}) {
  const { t } = useTranslation();
  const store = useStore();
  const { revalidate } = useRevalidator();
  const value = (useValue('lane', laneId, [field]) as string | null | undefined) ?? '';
  const own = cardHeads.filter((c) => c.kind === kind);
  const known = value === '' || own.some((c) => c.id === value);
  return (
    <ChoiceLine
      label={t('form.fromCard')}
      value={value}
      width={230}
      options={[
        { value: '', label: t('form.typedHere') },
        ...own.map((c) => ({ value: c.id, label: c.name })),
        ...(known ? [] : [{ value, label: '…' }]),
      ]}
      onChange={(id) => {
        if (id === '') {
          const { path, to } = typed();
          store.edit([
            { entity: 'lane', id: laneId, path: [path], to },
            { entity: 'lane', id: laneId, path: [field], to: null },
          ]);
          return;
        }
        store.edit([{ entity: 'lane', id: laneId, path: [field], to: id }]);
        // The card's own figures come from the server.
        void store.flush().then(() => revalidate());
      }}
    />
  );
}

const CURRENCIES = [
  'EUR',
  'USD',
  'GBP',
  'PLN',
  'JPY',
  'AED',
  'CNY',
  'INR',
  'TRY',
  'CHF',
  'SEK',
  'DKK',
  'CZK',
  'CAD',
  'AUD',
];
export const COUNTRIES = [
  'DE',
  'FR',
  'ES',
  'IT',
  'PL',
  'GB',
  'US',
  'JP',
  'AE',
  'CN',
  'IN',
  'TR',
  'NL',
  'BE',
  'AT',
  'SE',
  'CZ',
  'VN',
  'BD',
  'PK',
  'CH',
  'CA',
  'AU',
  'KR',
  'MX',
];
const same = (list: readonly string[]) => list.map((v) => ({ value: v, label: v }));
/** A keyword, opened and not filled in. */
const OPEN_KEYWORD = { text: '', low: null, high: null, weight: 0.5, conversionRate: null, expectedClicks: null };
/** Something bought, opened and not filled in. */
const purchased = (currency: string) => ({ amount: null, currency, vat: 'none', vatRate: 0, recoverable: null });

export function useVatOptions() {
  const { t } = useTranslation();
  return (['none', 'included', 'added'] as const).map((v) => ({ value: v, label: t(`vat.${v}`) }));
}
const yesNo = (t: (k: string) => string) => [
  { value: 'yes', label: t('yes') },
  { value: 'no', label: t('no') },
];

function TaxForm({ laneId, candidateId, doc }: FormProps) {
  const { t } = useTranslation();
  const store = useStore();
  const own = useValue('lane', laneId, ['standing']) as { kind: string; rate?: number } | null;
  const classes = Object.keys(doc.rates.tax?.vatRates ?? { standard: 0 });
  if (!classes.includes(doc.product.taxClass)) classes.push(doc.product.taxClass);
  return (
    <>
      <Row>
        <Box sx={{ width: 210 }}>
          <Box component="label" htmlFor="standing" sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>
            {t('form.standing')}
          </Box>
          <Box
            component="select"
            id="standing"
            value={own?.kind ?? ''}
            onChange={(e: { target: { value: string } }) => {
              const k = e.target.value;
              store.edit([
                {
                  entity: 'lane',
                  id: laneId,
                  path: ['standing'],
                  to:
                    k === ''
                      ? null
                      : k === 'flatRate'
                        ? { kind: k, rate: 0.05 }
                        : k === 'marketplaceRemits'
                          ? { kind: k, recoverable: false }
                          : { kind: k },
                },
              ]);
            }}
            sx={{
              width: '100%',
              height: 31,
              font: 'inherit',
              color: 'text.primary',
              bgcolor: 'background.paper',
              border: 0,
              borderBottom: '1.5px solid',
              borderColor: 'fieldLine',
            }}>
            <option value="">
              {t('form.standingOfWorkspace', {
                standing: doc.standing === null ? t('standing.missing') : t(`standing.${doc.standing.kind}`),
              })}
            </option>
            {['registered', 'notRegistered', 'flatRate', 'marketplaceRemits'].map((k) => (
              <option key={k} value={k}>
                {t(`standing.${k}`)}
              </option>
            ))}
          </Box>
        </Box>
        {own?.kind === 'marketplaceRemits' && (
          <Choice
            entity="lane"
            id={laneId}
            path={['standing', 'recoverable']}
            label={t('form.recoverable')}
            map="boolean"
            options={yesNo(t)}
            width={150}
          />
        )}
        {own?.kind === 'flatRate' && (
          <Num
            entity="lane"
            id={laneId}
            path={['standing', 'rate']}
            label={t('form.flatRate')}
            kind="percent"
            max={1}
            zero
          />
        )}
        <Choice
          entity="candidate"
          id={candidateId}
          path={['product', 'taxClass']}
          label={t('form.taxClass')}
          options={same(classes)}
        />
      </Row>
      <Row title={t('form.typedBeats')}>
        <Num entity="lane" id={laneId} path={['typed', 'vatRate']} label={t('form.vatRate')} kind="percent" max={1} />
        <Num
          entity="lane"
          id={laneId}
          path={['typed', 'importVatRate']}
          label={t('form.importVatRate')}
          kind="percent"
          max={1}
        />
        <Choice
          entity="lane"
          id={laneId}
          path={['importVatPostponed']}
          label={t('form.importVatPostponed')}
          map="boolean"
          options={yesNo(t)}
          width={150}
        />
      </Row>
    </>
  );
}

function QuoteForm({
  quoteId,
  quote,
  laneId,
  doc,
}: {
  quoteId: string;
  quote: Quote;
  laneId: string;
  doc: LaneDocument;
}) {
  const { t } = useTranslation();
  const f = useFormat();
  const { way } = doc;
  const several = quote.priceBreaks.length > 1;
  // The price that rates this order is the one to edit first.
  const first = Array.isArray(doc.goods) ? doc.goods[0] : undefined;
  const rates = Math.max(
    0,
    first === undefined || doc.orderQuantity === null ? 0 : priceBreakAt(quote, doc.orderQuantity * packRatio(first)),
  );
  const vat = useVatOptions();
  const q = { entity: 'quote' as const, id: quoteId };
  const named = (path: string, add: string) => (
    <List {...q} path={[path]} make={() => ({ name: '', amount: null })} add={add}>
      {(i, p) => (
        <>
          <Text {...q} path={[...p, 'name']} label={t('form.name')} width={150} />
          <Num {...q} path={[...p, 'amount']} label={t('form.amount')} kind="money" currency={quote.currency} zero />
          <span hidden>{i}</span>
        </>
      )}
    </List>
  );
  return (
    <>
      <Row>
        <Num
          {...q}
          path={['priceBreaks', rates, 'unitPrice']}
          label={
            several
              ? t('form.unitPriceFrom', { quantity: f.number(quote.priceBreaks[rates]?.minQty ?? 0) })
              : t('form.unitPrice')
          }
          kind="money"
          currency={quote.currency}
          step={0.1}
          width={several ? 150 : 108}
        />
        <Num
          entity="lane"
          id={laneId}
          path={['orderQuantity']}
          label={t('form.orderQuantity')}
          kind="number"
          min={0.000001}
          max={1e9}
          step={10}
        />
        <Choice {...q} path={['currency']} label={t('form.currency')} options={same(CURRENCIES)} width={84} />
        <Choice {...q} path={['incoterm']} label={t('form.incoterm')} options={same(INCOTERMS)} width={84} />
        <Text {...q} path={['supplier']} label={t('form.supplier')} width={170} />
      </Row>
      <Row>
        <Choice {...q} path={['vat']} label={t('form.vatOnPurchase')} options={vat} width={130} />
        {quote.vat !== 'none' && <Num {...q} path={['vatRate']} label={t('form.vatRate')} kind="percent" zero />}
        <Num
          {...q}
          path={['firstPrice']}
          label={t('form.firstPrice')}
          kind="money"
          currency={quote.currency}
          width={110}
        />
        <Num {...q} path={['minimumOrder']} label={t('form.minimumOrder')} kind="number" zero />
        <Text {...q} path={['validUntil']} label={t('form.validUntil')} width={120} blank />
        <Num {...q} path={['leadDays']} label={t('form.leadDays')} kind="number" />
        <Num {...q} path={['depositShare']} label={t('form.deposit')} kind="percent" max={1} />
        <Num {...q} path={['creditDays']} label={t('form.creditDays')} kind="number" zero />
      </Row>
      <Box component="details" open={several}>
        <Box component="summary" sx={{ cursor: 'pointer', fontSize: '0.84rem', mb: 1 }}>
          {t('form.moreGoods')}
        </Box>
        <Row title={t('form.priceBreaks')}>
          <List
            {...q}
            path={['priceBreaks']}
            make={() => ({ minQty: (quote.priceBreaks.at(-1)?.minQty ?? 0) * 2 || 100, unitPrice: null })}
            add={t('form.addBreak')}>
            {(_, p) => (
              <>
                <Num {...q} path={[...p, 'minQty']} label={t('form.fromPieces')} kind="number" zero />
                <Num
                  {...q}
                  path={[...p, 'unitPrice']}
                  label={t('form.unitPrice')}
                  kind="money"
                  currency={quote.currency}
                />
              </>
            )}
          </List>
        </Row>
        <Row title={t('form.extras')}>{named('extras', t('form.addExtra'))}</Row>
        <Row title={t('form.perOrder')}>{named('perOrder', t('form.addPerOrder'))}</Row>
        <Row title={t('form.oneOffs')}>{named('oneOffs', t('form.addOneOff'))}</Row>
        <Row title={t('form.carton')}>
          {quote.carton === null ? (
            <CartonButton quoteId={quoteId} />
          ) : (
            <>
              <Num
                {...q}
                path={['carton', 'units']}
                label={t('form.unitsPerCarton')}
                kind="number"
                min={1}
                whole
                required
              />
              <Num {...q} path={['carton', 'volumeM3']} label={t('form.cartonM3')} kind="number" />
              <Num {...q} path={['carton', 'kg']} label={t('form.cartonKg')} kind="weight" />
            </>
          )}
        </Row>
        <PackRow laneId={laneId} />
        {way === 'ownBrand' && (
          <Num
            {...q}
            path={['freightInPrice']}
            label={t('form.freightInPrice')}
            kind="money"
            currency={quote.currency}
            zero
            width={200}
          />
        )}
      </Box>
    </>
  );
}

function CartonButton({ quoteId }: { quoteId: string }) {
  const { t } = useTranslation();
  const store = useStore();
  return (
    <Button
      size="small"
      onClick={() =>
        store.edit([{ entity: 'quote', id: quoteId, path: ['carton'], to: { units: 20, volumeM3: null, kg: null } }])
      }>
      {t('form.addCarton')}
    </Button>
  );
}

function PackRow({ laneId }: { laneId: string }) {
  const { t } = useTranslation();
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

function RetailForm({ quoteId, retail, laneId }: { quoteId: string; retail: RetailPurchase; laneId: string }) {
  const { t } = useTranslation();
  const store = useStore();
  const vat = useVatOptions();
  const q = { entity: 'quote' as const, id: quoteId };
  const toggle = (key: 'giftCard' | 'cashback' | 'delivery', value: unknown) => (
    <Button size="small" onClick={() => store.edit([{ ...q, path: [key], to: retail[key] === null ? value : null }])}>
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
        <Choice {...q} path={['currency']} label={t('form.currency')} options={same(CURRENCIES)} width={84} />
        <Choice {...q} path={['vat']} label={t('form.vatOnPurchase')} options={vat} width={130} />
        {retail.vat !== 'none' && <Num {...q} path={['vatRate']} label={t('form.vatRate')} kind="percent" zero />}
        <Text {...q} path={['supplier']} label={t('form.shop')} width={150} />
      </Row>
      <Row title={t('form.discounts')}>
        <List {...q} path={['discounts']} make={() => ({ kind: 'percent', share: null })} add={t('form.addDiscount')}>
          {(i, p) =>
            retail.discounts[i]?.kind === 'coupon' ? (
              <>
                <Num {...q} path={[...p, 'amount']} label={t('form.coupon')} kind="money" currency={retail.currency} />
                <Num {...q} path={[...p, 'covers']} label={t('form.covers')} kind="number" min={1} whole required />
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
              { ...q, path: ['discounts'], to: [...retail.discounts, { kind: 'coupon', amount: null, covers: 1 }] },
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
        <Choice {...q} path={['exempt']} label={t('form.exempt')} map="boolean" options={yesNo(t)} width={120} />
        {retail.giftCard !== null && (
          <>
            <Num {...q} path={['giftCard', 'discount']} label={t('form.giftCard')} kind="percent" max={1} width={150} />
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

function GoodsForm({ laneId, candidateId, doc }: FormProps) {
  const { t } = useTranslation();
  const store = useStore();
  const { quotes } = store.get().state;
  const fetcher = useFetcher();
  const components = (useValue('lane', laneId, ['components']) as StoredLane['components'] | undefined) ?? [];
  const home = doc.homeCurrency;
  const nameOf = (id: string): string => {
    const at = quotes.findIndex((q) => q.id === id);
    return quotes[at]?.data.supplier || t('form.quoteNumber', { n: at + 1 });
  };
  const free = quotes.find((q) => !components.some((c) => c.quoteId === q.id));
  return (
    <>
      {components.length === 0 && <Typography variant="body2">{t('form.noQuote')}</Typography>}
      {components.map((c, i) => {
        const source = quotes.find((q) => q.id === c.quoteId)?.data;
        return (
          <Box
            key={`${c.quoteId}${i === 0 ? '' : i}`}
            sx={i === 0 ? {} : { borderTop: '1px solid', borderColor: 'fieldLine', pt: 1 }}>
            {(quotes.length > 1 || components.length > 1) && (
              <Row
                {...(components.length > 1
                  ? {
                      title:
                        c.name === ''
                          ? t('form.component', { n: i + 1 })
                          : t('form.componentNamed', { n: i + 1, name: c.name, interpolation: { escapeValue: false } }),
                    }
                  : {})}>
                <ChoiceLine
                  label={t('form.chooseQuote')}
                  value={c.quoteId}
                  width={220}
                  options={quotes.map((q) => ({ value: q.id, label: nameOf(q.id) }))}
                  onChange={(id) =>
                    store.edit([{ entity: 'lane', id: laneId, path: ['components', i, 'quoteId'], to: id }])
                  }
                />
                {components.length > 1 && (
                  <Num
                    entity="lane"
                    id={laneId}
                    path={['components', i, 'unitsInSoldPack']}
                    label={t('form.inSoldPack')}
                    kind="number"
                    min={1}
                    whole
                    required
                    width={150}
                  />
                )}
                {components.length > 1 && (
                  <Button
                    size="small"
                    onClick={() =>
                      store.edit([
                        { entity: 'lane', id: laneId, path: ['components'], to: components.filter((_, j) => j !== i) },
                      ])
                    }>
                    {t('form.removeComponent')}
                  </Button>
                )}
              </Row>
            )}
            {source === undefined ? null : source.kind === 'quote' ? (
              <QuoteForm quoteId={c.quoteId} quote={source} laneId={laneId} doc={doc} />
            ) : (
              <RetailForm quoteId={c.quoteId} retail={source} laneId={laneId} />
            )}
          </Box>
        );
      })}
      {store.canEdit && (
        <Row>
          <Button
            size="small"
            disabled={fetcher.state !== 'idle'}
            onClick={() =>
              void store
                .flush()
                .then(() =>
                  fetcher.submit({ intent: 'addQuote' }, { method: 'post', action: `../weigh/${candidateId}` }),
                )
            }>
            {t('form.addQuote')}
          </Button>
          <Suspense>
            <ComponentOf laneId={laneId} candidateId={candidateId} />
          </Suspense>
          {free !== undefined && (
            <Button
              size="small"
              onClick={() =>
                store.edit([
                  {
                    entity: 'lane',
                    id: laneId,
                    path: ['components'],
                    to: [
                      ...components,
                      { quoteId: free.id, name: '', unitsInSoldPack: 1, unitsInBoughtPack: 1, candidateId: null },
                    ],
                  },
                ])
              }>
              {t('form.addComponent')}
            </Button>
          )}
        </Row>
      )}
      <Row title={t('form.prep')}>
        <LineState
          id={laneId}
          path={['prep']}
          label={t('form.prep')}
          known={() => ({ standard: null, oversize: null, currency: home, vat: 'none', vatRate: 0, recoverable: null })}
        />
        {doc.prep !== null && doc.prep !== 'none' && (
          <>
            <Num
              entity="lane"
              id={laneId}
              path={['prep', 'standard']}
              label={t('form.prepStandard')}
              kind="money"
              currency={doc.prep.currency}
              zero
            />
            <Num
              entity="lane"
              id={laneId}
              path={['prep', 'oversize']}
              label={t('form.prepOversize')}
              kind="money"
              currency={doc.prep.currency}
            />
          </>
        )}
      </Row>
    </>
  );
}

function WayInForm({ laneId, candidateId, doc, cardHeads = [] }: FormProps) {
  const { t } = useTranslation();
  const c = { entity: 'candidate' as const, id: candidateId };
  const l = { entity: 'lane' as const, id: laneId };
  const carded = (useValue('lane', laneId, ['freightCardId']) as string | null | undefined) ?? null;
  const route = doc.route === null || doc.route === 'none' || carded !== null ? null : doc.route;
  return (
    <>
      <Row>
        <Choice {...l} path={['imported']} label={t('form.imported')} map="boolean" options={yesNo(t)} width={150} />
        <Choice
          {...c}
          path={['product', 'origin']}
          label={t('form.origin')}
          map="nullable"
          options={[{ value: '', label: '–' }, ...same(COUNTRIES)]}
          width={90}
        />
        <Text {...c} path={['product', 'hsCode']} label={t('form.hsCode')} width={110} blank maxLength={10} />
        <Num {...l} path={['typed', 'dutyPct']} label={t('form.dutyTyped')} kind="percent" max={100} width={140} />
      </Row>
      {doc.method !== 'supplierShips' && (
        <>
          <Row title={t('form.route')}>
            <FromCard
              laneId={laneId}
              field="freightCardId"
              kind="freight"
              cardHeads={cardHeads}
              typed={() => ({ path: 'route', to: doc.route })}
            />
            {carded === null && (
              <LineState
                id={laneId}
                path={['route']}
                label={t('form.route')}
                known={() => ({
                  name: '',
                  legs: [legSchema.parse({ stage: 'main', basis: 'perCbm', rate: null, currency: doc.homeCurrency })],
                  packingAllowance: 0,
                  insuranceRate: 0,
                  transitDays: null,
                  inboundDays: 0,
                })}
              />
            )}
          </Row>
          {route !== null && (
            <>
              <List
                {...l}
                path={['route', 'legs']}
                make={() => legSchema.parse({ stage: 'main', basis: 'perCbm', rate: null, currency: doc.homeCurrency })}
                add={t('form.addLeg')}
                empty={t('form.noLegs')}>
                {(i, p) => {
                  const leg = route.legs[i];
                  if (leg === undefined) return null;
                  return (
                    <>
                      <Choice
                        {...l}
                        path={[...p, 'stage']}
                        label={t('form.stage')}
                        options={STAGES.map((s) => ({ value: s, label: t(`stage.${s}`) }))}
                        width={120}
                      />
                      <Choice
                        {...l}
                        path={[...p, 'basis']}
                        label={t('form.basis')}
                        options={FREIGHT_BASES.map((b) => ({ value: b, label: t(`basis.${b}`) }))}
                        width={120}
                      />
                      <Num
                        {...l}
                        path={[...p, 'rate']}
                        label={t('form.rate')}
                        kind="money"
                        currency={leg.currency}
                        width={100}
                      />
                      <Choice
                        {...l}
                        path={[...p, 'currency']}
                        label={t('form.currency')}
                        options={same(CURRENCIES)}
                        width={76}
                      />
                      <Num
                        {...l}
                        path={[...p, 'minCharge']}
                        label={t('form.minCharge')}
                        kind="money"
                        currency={leg.currency}
                        zero
                        width={100}
                      />
                      <Num
                        {...l}
                        path={[...p, 'fuelSurcharge']}
                        label={t('form.fuel')}
                        kind="percent"
                        zero
                        width={80}
                      />
                      {leg.basis === 'perKg' && (
                        <Num {...l} path={[...p, 'divisor']} label={t('form.divisor')} kind="number" width={100} />
                      )}
                      {leg.basis === 'perContainer' && (
                        <Num {...l} path={[...p, 'usableM3']} label={t('form.usableM3')} kind="number" width={100} />
                      )}
                    </>
                  );
                }}
              </List>
              <Row>
                <Num
                  {...l}
                  path={['route', 'insuranceRate']}
                  label={t('form.insurance')}
                  kind="percent"
                  zero
                  step={0.1}
                />
                <Num
                  {...l}
                  path={['route', 'packingAllowance']}
                  label={t('form.packing')}
                  kind="percent"
                  zero
                  width={130}
                />
                <Num {...l} path={['route', 'transitDays']} label={t('form.transitDays')} kind="number" />
                <Num {...l} path={['route', 'inboundDays']} label={t('form.inboundDays')} kind="number" zero />
              </Row>
            </>
          )}
        </>
      )}
    </>
  );
}

function MarketplaceForm({ laneId, doc }: FormProps) {
  const { t } = useTranslation();
  const l = { entity: 'lane' as const, id: laneId };
  const card: MarketplaceCard | null = doc.rates.marketplace;
  return (
    <>
      <Row>
        {card !== null && (
          <Choice
            {...l}
            path={['category']}
            label={t('form.category')}
            map="nullable"
            options={[
              {
                value: '',
                label: t('form.categoryOfProduct', {
                  category: card.categories.find((c) => c.key === doc.product.category)?.name ?? t('form.notSet'),
                }),
              },
              ...card.categories.map((c) => ({ value: c.key, label: c.name })),
            ]}
            width={230}
          />
        )}
        <Num
          {...l}
          path={['conversionSpread']}
          label={t('form.conversionSpread')}
          kind="percent"
          max={1}
          zero
          width={170}
        />
        <Num {...l} path={['accountUnitsPerMonth']} label={t('form.accountUnits')} kind="number" width={170} />
      </Row>
      <Row title={t('form.typedBeats')}>
        <Num {...l} path={['typed', 'referralPct']} label={t('form.referralPct')} kind="percent" max={1} />
        <Num {...l} path={['typed', 'itemFee']} label={t('form.itemFee')} kind="money" currency={doc.currency} />
        <Num {...l} path={['typed', 'paymentPct']} label={t('form.paymentPct')} kind="percent" max={1} step={0.1} />
        <Num
          {...l}
          path={['typed', 'paymentFixed']}
          label={t('form.paymentFixed')}
          kind="money"
          currency={doc.currency}
        />
        <Num
          {...l}
          path={['typed', 'subscriptionMonthly']}
          label={t('form.subscription')}
          kind="money"
          currency={doc.currency}
          width={140}
        />
      </Row>
    </>
  );
}

function FulfilmentForm({ laneId, candidateId, doc, cardHeads = [] }: FormProps) {
  const { t } = useTranslation();
  const c = { entity: 'candidate' as const, id: candidateId };
  const l = { entity: 'lane' as const, id: laneId };
  const carded = (useValue('lane', laneId, ['postageCardId']) as string | null | undefined) ?? null;
  return (
    <>
      <Row>
        <Choice
          {...l}
          path={['method']}
          label={t('form.method')}
          options={METHODS.map((m) => ({ value: m, label: t(`method.${m}`) }))}
          width={180}
        />
        <Sides {...c} path={['product', 'sides']} label={t('form.sides')} />
        <Num {...c} path={['product', 'kg']} label={t('form.weight')} kind="weight" min={0.000001} step={0.05} />
        <Choice
          {...c}
          path={['product', 'oversize']}
          label={t('form.oversize')}
          map="boolean"
          options={yesNo(t)}
          width={100}
        />
        <Choice
          {...c}
          path={['product', 'dangerous']}
          label={t('form.dangerous')}
          map="boolean"
          options={yesNo(t)}
          width={120}
        />
      </Row>
      {doc.method === 'ownDispatch' && (
        <Row title={t('form.dispatch')}>
          <FromCard
            laneId={laneId}
            field="postageCardId"
            kind="postage"
            cardHeads={cardHeads}
            typed={() => ({ path: 'dispatch', to: doc.dispatch })}
          />
          {carded === null && (
            <LineState
              id={laneId}
              path={['dispatch']}
              label={t('form.dispatch')}
              known={() => ({
                zones: [
                  {
                    name: '',
                    share: 1,
                    postage: {
                      currency: doc.homeCurrency,
                      steps: [{ upToKg: 30, fee: null }],
                      stepKg: null,
                      stepFee: 0,
                    },
                  },
                ],
                vat: 'none',
                vatRate: 0,
                recoverable: null,
                packagingKg: 0,
                packaging: purchased(doc.homeCurrency),
                pickAndPack: null,
              })}
            />
          )}
          {carded === null && doc.dispatch !== null && doc.dispatch !== 'none' && (
            <>
              <List
                {...l}
                path={['dispatch', 'zones', 0, 'postage', 'steps']}
                make={() => ({
                  upToKg:
                    ((
                      doc.dispatch as { zones: { postage: { steps: { upToKg: number }[] } }[] }
                    ).zones[0]?.postage.steps.at(-1)?.upToKg ?? 1) + 1,
                  fee: null,
                })}
                add={t('form.addStep')}>
                {(_, p) => (
                  <>
                    <Num
                      {...l}
                      path={[...p, 'upToKg']}
                      label={t('form.upToKg')}
                      kind="weight"
                      min={0.000001}
                      required
                    />
                    <Num
                      {...l}
                      path={[...p, 'fee']}
                      label={t('form.postage')}
                      kind="money"
                      currency={
                        (doc.dispatch as { zones: { postage: { currency: string } }[] }).zones[0]?.postage.currency ??
                        doc.homeCurrency
                      }
                      zero
                    />
                  </>
                )}
              </List>
              <Num {...l} path={['dispatch', 'packagingKg']} label={t('form.packagingKg')} kind="weight" zero />
            </>
          )}
        </Row>
      )}
      {doc.method === 'supplierShips' && (
        <Row title={t('form.supplierDelivery')}>
          <LineState
            id={laneId}
            path={['supplierDelivery']}
            label={t('form.supplierDelivery')}
            known={() => purchased(doc.homeCurrency)}
          />
          {doc.supplierDelivery !== null && doc.supplierDelivery !== 'none' && (
            <Num
              {...l}
              path={['supplierDelivery', 'amount']}
              label={t('form.perOrderCost')}
              kind="money"
              currency={doc.supplierDelivery.currency}
              zero
            />
          )}
        </Row>
      )}
      <Row title={t('form.typedBeats')}>
        <Num
          {...l}
          path={['typed', 'fulfilmentFee']}
          label={t('form.fulfilmentFee')}
          kind="money"
          currency={doc.currency}
          width={150}
        />
        {doc.method !== 'supplierShips' && (
          <Num
            {...l}
            path={['typed', 'storagePerM3Month']}
            label={t('form.storageRate')}
            kind="money"
            currency={doc.currency}
            width={190}
          />
        )}
      </Row>
      {doc.method !== 'supplierShips' && (
        <Row title={t('form.storage')}>
          <LineState
            id={laneId}
            path={['storage']}
            label={t('form.storage')}
            known={() => (doc.rates.marketplace?.storage ? 'card' : { own: purchased(doc.homeCurrency) })}
          />
          {doc.storage !== null && doc.storage !== 'none' && doc.storage !== 'card' && (
            <Num
              {...l}
              path={['storage', 'own', 'amount']}
              label={t('form.ownStorage')}
              kind="money"
              currency={doc.storage.own.currency}
              zero
              width={170}
            />
          )}
          <Num {...l} path={['monthsHeld']} label={t('form.monthsHeld')} kind="number" step={0.5} width={150} />
        </Row>
      )}
    </>
  );
}

function ReturnsForm({ laneId, doc }: FormProps) {
  const { t } = useTranslation();
  const l = { entity: 'lane' as const, id: laneId };
  return (
    <>
      <Row>
        <LineState
          id={laneId}
          path={['returns']}
          label={t('family.returns')}
          known={() => ({ rate: null, resaleShare: 0, handling: purchased(doc.homeCurrency), disposal: null })}
        />
        {doc.returns !== null && doc.returns !== 'none' && (
          <>
            <Num {...l} path={['returns', 'rate']} label={t('form.returnRate')} kind="percent" max={0.99} />
            <Num
              {...l}
              path={['returns', 'resaleShare']}
              label={t('form.resaleShare')}
              kind="percent"
              max={1}
              zero
              width={130}
            />
            {doc.returns.handling !== null && (
              <Num
                {...l}
                path={['returns', 'handling', 'amount']}
                label={t('form.handling')}
                kind="money"
                currency={doc.returns.handling.currency}
              />
            )}
          </>
        )}
      </Row>
      <Row>
        <Num {...l} path={['breakage']} label={t('form.breakage')} kind="percent" max={0.99} zero width={190} />
      </Row>
    </>
  );
}

function OtherForm({ laneId, doc }: FormProps) {
  const { t } = useTranslation();
  const l = { entity: 'lane' as const, id: laneId };
  return (
    <>
      <List
        {...l}
        path={['otherPerUnit']}
        make={() => ({ name: '', line: purchased(doc.currency) })}
        add={t('form.addOther')}
        empty={t('form.noOther')}>
        {(i, p) => (
          <>
            <Text {...l} path={[...p, 'name']} label={t('form.name')} width={180} />
            <Num
              {...l}
              path={[...p, 'line', 'amount']}
              label={t('form.perUnit')}
              kind="money"
              currency={doc.otherPerUnit[i]?.line.currency ?? doc.currency}
              min={-1e12}
            />
          </>
        )}
      </List>
      <Row>
        <Num
          {...l}
          path={['freeExtraProfit']}
          label={t('form.freeExtra')}
          kind="money"
          currency={doc.currency}
          min={-1e12}
          zero
          width={190}
        />
        <Num
          {...l}
          path={['monthlyFixedCosts']}
          label={t('form.monthlyFixed')}
          kind="money"
          currency={doc.currency}
          zero
          width={190}
        />
      </Row>
    </>
  );
}

function AdvertsForm({ laneId, doc }: FormProps) {
  const { t } = useTranslation();
  const l = { entity: 'lane' as const, id: laneId };
  return (
    <>
      <Row>
        <LineState
          id={laneId}
          path={['adverts']}
          label={t('family.adverts')}
          known={() => ({ keywords: [OPEN_KEYWORD], adShare: 1 })}
        />
        {doc.adverts !== null && doc.adverts !== 'none' && (
          <Num {...l} path={['adverts', 'adShare']} label={t('form.adShare')} kind="percent" max={1} zero width={170} />
        )}
      </Row>
      {doc.adverts !== null && doc.adverts !== 'none' && (
        <List {...l} path={['adverts', 'keywords']} make={() => OPEN_KEYWORD} add={t('form.addKeyword')}>
          {(_, p) => (
            <>
              <Text {...l} path={[...p, 'text']} label={t('form.keyword')} width={120} />
              <Num
                {...l}
                path={[...p, 'low']}
                label={t('form.cpcLow')}
                kind="money"
                currency={doc.currency}
                step={0.01}
                width={90}
              />
              <Num
                {...l}
                path={[...p, 'high']}
                label={t('form.cpcHigh')}
                kind="money"
                currency={doc.currency}
                step={0.01}
                width={90}
              />
              <Num
                {...l}
                path={[...p, 'conversionRate']}
                label={t('form.conversion')}
                kind="percent"
                max={1}
                width={100}
              />
            </>
          )}
        </List>
      )}
    </>
  );
}

/** What one expects to sell; not a cost, but storage, cover and profit a month read it. */
export function DemandForm({ laneId, doc }: FormProps) {
  const { t } = useTranslation();
  const f = useFormat();
  const store = useStore();
  const l = { entity: 'lane' as const, id: laneId };
  const d = doc.demand;
  const set = (kind: string) =>
    store.edit([
      {
        ...l,
        path: ['demand'],
        to:
          kind === ''
            ? null
            : kind === 'typed'
              ? { kind, units: null }
              : kind === 'marketShare'
                ? { kind, marketUnits: null, share: null }
                : { kind, listingUnits: null, variationShare: 1, retailArmShare: 0, band: 0, rivals: [] },
      },
    ]);
  const rivals = d?.kind === 'offerSplit' ? [...new Set(d.rivals.filter((x) => x !== null))].sort((a, b) => a - b) : [];
  const months = Array.from({ length: 12 }, (_, i) =>
    new Intl.DateTimeFormat(f.locale, { month: 'short', timeZone: 'UTC' }).format(new Date(Date.UTC(2026, i, 1))),
  );
  return (
    <>
      <Row>
        <Box sx={{ width: 170 }}>
          <Box component="label" htmlFor="demand-kind" sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>
            {t('form.demandKind')}
          </Box>
          <Box
            component="select"
            id="demand-kind"
            value={d?.kind ?? ''}
            onChange={(e: { target: { value: string } }) => set(e.target.value)}
            sx={{
              width: '100%',
              height: 31,
              font: 'inherit',
              color: 'text.primary',
              bgcolor: 'background.paper',
              border: 0,
              borderBottom: '1.5px solid',
              borderColor: 'fieldLine',
            }}>
            <option value="">{t('line.blank')}</option>
            {['typed', 'marketShare', 'offerSplit'].map((k) => (
              <option key={k} value={k}>
                {t(`demand.${k}`)}
              </option>
            ))}
          </Box>
        </Box>
        {d?.kind === 'typed' && (
          <Num {...l} path={['demand', 'units']} label={t('form.unitsMonth')} kind="number" step={5} />
        )}
        {d?.kind === 'marketShare' && (
          <>
            <Num {...l} path={['demand', 'marketUnits']} label={t('form.marketUnits')} kind="number" width={150} />
            <Num {...l} path={['demand', 'share']} label={t('form.share')} kind="percent" max={1} />
          </>
        )}
        {d?.kind === 'offerSplit' && (
          <>
            <Num {...l} path={['demand', 'listingUnits']} label={t('form.listingUnits')} kind="number" width={130} />
            <Num {...l} path={['demand', 'band']} label={t('form.band')} kind="percent" zero width={130} />
            <List {...l} path={['demand', 'rivals']} make={() => null} add={t('form.addRival')}>
              {(_, p) => (
                <Num {...l} path={p} label={t('form.rivalPrice')} kind="money" currency={doc.currency} width={130} />
              )}
            </List>
          </>
        )}
      </Row>
      {rivals.length > 0 && (
        <Row title={t('form.ladder')}>
          <Box component="ul" sx={{ m: 0, pl: 2.5, fontSize: '0.86rem' }}>
            {priceLadder(doc, rivals).map((x) => (
              <li key={x.gross}>
                {t('form.ladderStep', {
                  price: f.money(x.gross, doc.currency),
                  profit: f.money(x.unitProfit, doc.currency),
                })}
              </li>
            ))}
          </Box>
        </Row>
      )}
      <Row title={t('form.season')}>
        {doc.season === null ? (
          <Button size="small" onClick={() => store.edit([{ ...l, path: ['season'], to: Array(12).fill(1) }])}>
            {t('form.addSeason')}
          </Button>
        ) : (
          <>
            {months.map((name, i) => (
              <Num key={name} {...l} path={['season', i]} label={name} kind="number" zero step={0.1} width={52} />
            ))}
            <Button
              size="small"
              sx={{ color: 'text.secondary' }}
              onClick={() => store.edit([{ ...l, path: ['season'], to: null }])}>
              {t('form.noSeason')}
            </Button>
          </>
        )}
        <Choice
          {...l}
          path={['saleMonth']}
          label={t('form.saleMonth')}
          width={150}
          map="month"
          options={[
            { value: '', label: t('form.wholeYear') },
            ...months.map((name, i) => ({ value: String(i + 1), label: name })),
          ]}
        />
      </Row>
    </>
  );
}

const FORMS: Record<Family, (p: FormProps) => React.ReactNode> = {
  tax: TaxForm,
  goods: GoodsForm,
  wayIn: WayInForm,
  marketplace: MarketplaceForm,
  fulfilment: FulfilmentForm,
  returns: ReturnsForm,
  other: OtherForm,
  adverts: AdvertsForm,
};

export function FamilyForm({ family, ...props }: FormProps & { family: Family }) {
  const Form = FORMS[family];
  return <Form {...props} />;
}
