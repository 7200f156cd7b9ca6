/** What a unit is bought for: quotes with their breaks and packs, shops with their discounts, several components. */
import { Box, Button, Typography } from '@mui/material';
import { Suspense, lazy } from 'react';
import { useFetcher } from 'react-router';
import { ratioOf } from '../../../core/lane/steps/goods.ts';
import { priceBreakAt } from '../../../core/rules/goods.ts';
import { INCOTERMS } from '../../../core/lane/choices.ts';
import type { LaneDocument, Quote } from '../../../core/lane/schema.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import type { StoredLane } from '../../../core/workspace/records.ts';
import { Choice, LineState, List, Num, Row, Text } from './bound.tsx';
import { useStore, useValue } from './store.ts';
import { same, useVatOptions } from './formParts.tsx';
import { useCurrencies } from '../../ui/names.ts';
import type { FormProps } from './formParts.tsx';
import { RetailForm } from './RetailForm.tsx';
import { PackRow } from './RetailForm.tsx';
import { useWords } from '../../ui/useWords.ts';

const ComponentOf = lazy(() => import('./ComponentOf.tsx'));

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
  const { t } = useWords();
  const currencies = useCurrencies();
  const f = useFormat();
  const { way } = doc;
  const several = quote.priceBreaks.length > 1;
  // The price that rates this order is the one to edit first.
  const first = Array.isArray(doc.goods) ? doc.goods[0] : undefined;
  const rates = Math.max(
    0,
    first === undefined || doc.orderQuantity === null
      ? 0
      : priceBreakAt(quote.priceBreaks, doc.orderQuantity * ratioOf(first)),
  );
  const vat = useVatOptions();
  const q = { entity: 'quote' as const, id: quoteId };
  const named = (path: string, add: string) => (
    <List {...q} path={[path]} make={() => ({ name: '', amount: null })} add={add}>
      {(i, p) => (
        <>
          <Text {...q} path={[...p, 'name']} label={t('form.name')} width={150} />
          <Num
            {...q}
            path={[...p, 'amount']}
            label={t('form.amount')}
            kind="money"
            currency={quote.currency}
            zero
          />
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
        <Choice
          {...q}
          path={['currency']}
          label={t('form.currency')}
          options={currencies}
          search
          width={150}
        />
        <Choice {...q} path={['incoterm']} label={t('form.incoterm')} options={same(INCOTERMS)} width={84} />
        <Text {...q} path={['supplier']} label={t('form.supplier')} width={170} />
      </Row>
      <Row>
        <Choice {...q} path={['vat']} label={t('form.vatOnPurchase')} options={vat} width={130} />
        {quote.vat !== 'none' && (
          <Num {...q} path={['vatRate']} label={t('form.vatRate')} kind="percent" zero />
        )}
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
  const { t } = useWords();
  const store = useStore();
  return (
    <Button
      size="small"
      onClick={() =>
        store.edit([
          { entity: 'quote', id: quoteId, path: ['carton'], to: { units: 20, volumeM3: null, kg: null } },
        ])
      }>
      {t('form.addCarton')}
    </Button>
  );
}

export function GoodsForm({ laneId, candidateId, doc }: FormProps) {
  const { t } = useWords();
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
                          : t('form.componentNamed', {
                              n: i + 1,
                              name: c.name,
                              interpolation: { escapeValue: false },
                            }),
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
                        {
                          entity: 'lane',
                          id: laneId,
                          path: ['components'],
                          to: components.filter((_, j) => j !== i),
                        },
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
                  fetcher.submit(
                    { intent: 'addQuote' },
                    { method: 'post', action: `../weigh/${candidateId}` },
                  ),
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
                      {
                        quoteId: free.id,
                        name: '',
                        unitsInSoldPack: 1,
                        unitsInBoughtPack: 1,
                        candidateId: null,
                      },
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
          known={() => ({
            standard: null,
            oversize: null,
            currency: home,
            vat: 'none',
            vatRate: 0,
            recoverable: null,
          })}
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
