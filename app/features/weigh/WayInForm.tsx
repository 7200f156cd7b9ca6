/** How goods come in: origin, duty, the route leg by leg, preparation. */
import { FREIGHT_BASES, leg as legSchema, STAGES } from '../../../core/cards/carriage.ts';
import { Choice, LineState, List, Num, Row, Text } from './bound.tsx';
import { useValue } from './store.ts';
import { FromCard, yesNo } from './formParts.tsx';
import { useCurrencies, useCountries } from '../../ui/names.ts';
import type { FormProps } from './formParts.tsx';
import type { Leg } from '../../../core/cards/carriage.ts';
import type { Path } from '../../../core/workspace/patch.ts';
import { useWords } from '../../ui/useWords.ts';

export function WayInForm({ laneId, candidateId, doc, cardHeads = [] }: FormProps) {
  const { t } = useWords();
  const countries = useCountries();
  const c = { entity: 'candidate' as const, id: candidateId };
  const l = { entity: 'lane' as const, id: laneId };
  const carded = (useValue('lane', laneId, ['freightCardId']) as string | null | undefined) ?? null;
  const route = doc.route === null || doc.route === 'none' || carded !== null ? null : doc.route;
  return (
    <>
      <Row>
        <Choice
          {...l}
          path={['imported']}
          label={t('form.imported')}
          map="boolean"
          options={yesNo(t)}
          width={150}
        />
        <Choice
          {...c}
          path={['product', 'origin']}
          label={t('form.origin')}
          map="nullable"
          options={[{ value: '', label: '–' }, ...countries]}
          search
          width={150}
        />
        <Text {...c} path={['product', 'hsCode']} label={t('form.hsCode')} width={110} blank maxLength={10} />
        <Num
          {...l}
          path={['typed', 'dutyPct']}
          label={t('form.dutyTyped')}
          kind="percent"
          max={100}
          width={140}
        />
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
                  legs: [
                    legSchema.parse({
                      stage: 'main',
                      basis: 'perCbm',
                      rate: null,
                      currency: doc.homeCurrency,
                    }),
                  ],
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
                make={() =>
                  legSchema.parse({ stage: 'main', basis: 'perCbm', rate: null, currency: doc.homeCurrency })
                }
                add={t('form.addLeg')}
                empty={t('form.noLegs')}>
                {(i, p) => {
                  const leg = route.legs[i];
                  if (leg === undefined) return null;
                  return <LegFields laneId={laneId} leg={leg} p={p} />;
                }}
              </List>
              <RouteTerms laneId={laneId} />
            </>
          )}
        </>
      )}
    </>
  );
}

/** A leg of freight: stage, basis, rate, and what goes with the basis. */
function LegFields({ laneId, leg, p }: { laneId: string; leg: Leg; p: Path }) {
  const { t } = useWords();
  const l = { entity: 'lane' as const, id: laneId };
  const currencies = useCurrencies();
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
        options={currencies}
        search
        width={150}
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
      <Num {...l} path={[...p, 'fuelSurcharge']} label={t('form.fuel')} kind="percent" zero width={80} />
      {leg.basis === 'perKg' && (
        <Num {...l} path={[...p, 'divisor']} label={t('form.divisor')} kind="number" width={100} />
      )}
      {leg.basis === 'perContainer' && (
        <Num {...l} path={[...p, 'usableM3']} label={t('form.usableM3')} kind="number" width={100} />
      )}
    </>
  );
}

/** What holds for a whole route: insurance, packing, days. */
function RouteTerms({ laneId }: { laneId: string }) {
  const { t } = useWords();
  const l = { entity: 'lane' as const, id: laneId };
  return (
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
  );
}
