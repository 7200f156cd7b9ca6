/** How goods come in, go out and come back. */
import { METHODS } from '../../../core/lane/schema.ts';
import { Choice, LineState, List, Num, Row, Sides, Text } from './bound.tsx';
import { useValue } from './store.ts';
import { FromCard, purchased, yesNo } from './formParts.tsx';
import type { FormProps } from './formParts.tsx';
import { useWords } from '../../ui/useWords.ts';

export function FulfilmentForm({ laneId, candidateId, doc, cardHeads = [] }: FormProps) {
  const { t } = useWords();
  const c = { entity: 'candidate' as const, id: candidateId };
  const l = { entity: 'lane' as const, id: laneId };
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
        <Num
          {...c}
          path={['product', 'kg']}
          label={t('form.weight')}
          kind="weight"
          min={0.000001}
          step={0.05}
        />
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
      {doc.method === 'ownDispatch' && <OwnDispatchRow laneId={laneId} doc={doc} cardHeads={cardHeads} />}
      {doc.method === 'supplierShips' && <SupplierDeliveryRow laneId={laneId} doc={doc} />}
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
      {doc.method !== 'supplierShips' && <StorageRow laneId={laneId} doc={doc} />}
    </>
  );
}

export function ReturnsForm({ laneId, doc }: FormProps) {
  const { t } = useWords();
  const l = { entity: 'lane' as const, id: laneId };
  return (
    <>
      <Row>
        <LineState
          id={laneId}
          path={['returns']}
          label={t('family.returns')}
          known={() => ({
            rate: null,
            resaleShare: 0,
            handling: purchased(doc.homeCurrency),
            disposal: null,
          })}
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
        <Num
          {...l}
          path={['breakage']}
          label={t('form.breakage')}
          kind="percent"
          max={0.99}
          zero
          width={190}
        />
      </Row>
    </>
  );
}

export function OtherForm({ laneId, doc }: FormProps) {
  const { t } = useWords();
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

/** Own dispatch: postage by a card or typed, packaging. */
function OwnDispatchRow({
  laneId,
  doc,
  cardHeads,
}: {
  laneId: string;
  doc: FormProps['doc'];
  cardHeads: NonNullable<FormProps['cardHeads']>;
}) {
  const { t } = useWords();
  const l = { entity: 'lane' as const, id: laneId };
  const carded = (useValue('lane', laneId, ['postageCardId']) as string | null | undefined) ?? null;
  return (
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
                    (doc.dispatch as { zones: { postage: { currency: string } }[] }).zones[0]?.postage
                      .currency ?? doc.homeCurrency
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
  );
}

/** What the supplier takes for an order that goes straight to the buyer. */
function SupplierDeliveryRow({ laneId, doc }: { laneId: string; doc: FormProps['doc'] }) {
  const { t } = useWords();
  const l = { entity: 'lane' as const, id: laneId };
  return (
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
  );
}

/** Storage by the card or at a rate of one's own, and how long goods lie. */
function StorageRow({ laneId, doc }: { laneId: string; doc: FormProps['doc'] }) {
  const { t } = useWords();
  const l = { entity: 'lane' as const, id: laneId };
  return (
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
  );
}
