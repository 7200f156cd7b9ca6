import { Box, Button } from '@mui/material';
import { Suspense, lazy } from 'react';
import type { Family } from '../../../core/lane/costLines.ts';
import type { MarketplaceCard } from '../../../core/cards/rates.ts';
import { priceLadder } from '../../../core/lane/solve.ts';
import { useFormat } from '../../ui/locale.ts';
import { Choice, LineState, List, Num, Row, Text } from './bound.tsx';
import { useStore, useValue } from './store.ts';
import type { Standing } from '../../../core/lane/schema.ts';
import { same, yesNo } from './formParts.tsx';
import { StandingChoice } from '../../ui/StandingChoice.tsx';
import type { FormProps } from './formParts.tsx';
import { GoodsForm } from './goodsForms.tsx';
import { FulfilmentForm, ReturnsForm, OtherForm } from './deliveryForms.tsx';
import { WayInForm } from './WayInForm.tsx';
import { useWords } from '../../ui/useWords.ts';

const Proven = lazy(() => import('./Proven.tsx'));

/** A keyword, opened and not filled in. */
const OPEN_KEYWORD = {
  text: '',
  low: null,
  high: null,
  weight: 0.5,
  conversionRate: null,
  expectedClicks: null,
};

function TaxForm({ laneId, candidateId, doc }: FormProps) {
  const { t } = useWords();
  const store = useStore();
  const own = useValue('lane', laneId, ['standing']) as Standing | null | undefined;
  const classes = Object.keys(doc.rates.tax?.vatRates ?? { standard: 0 });
  if (!classes.includes(doc.product.taxClass)) classes.push(doc.product.taxClass);
  return (
    <>
      <Row>
        <StandingChoice
          label={t('form.standing')}
          none={t('form.standingOfWorkspace', {
            standing: doc.standing === null ? t('standing.missing') : t(`standing.${doc.standing.kind}`),
          })}
          standing={own ?? null}
          onChange={(to) => store.edit([{ entity: 'lane', id: laneId, path: ['standing'], to }])}
          width={210}
        />
        <Choice
          entity="candidate"
          id={candidateId}
          path={['product', 'taxClass']}
          label={t('form.taxClass')}
          options={same(classes)}
        />
      </Row>
      <Row title={t('form.typedBeats')}>
        <Num
          entity="lane"
          id={laneId}
          path={['typed', 'vatRate']}
          label={t('form.vatRate')}
          kind="percent"
          max={1}
        />
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

function MarketplaceForm({ laneId, doc }: FormProps) {
  const { t } = useWords();
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
                  category:
                    card.categories.find((c) => c.key === doc.product.category)?.name ?? t('form.notSet'),
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
        <Num
          {...l}
          path={['accountUnitsPerMonth']}
          label={t('form.accountUnits')}
          kind="number"
          width={170}
        />
      </Row>
      <Row title={t('form.typedBeats')}>
        <Num {...l} path={['typed', 'referralPct']} label={t('form.referralPct')} kind="percent" max={1} />
        <Num
          {...l}
          path={['typed', 'itemFee']}
          label={t('form.itemFee')}
          kind="money"
          currency={doc.currency}
        />
        <Num
          {...l}
          path={['typed', 'paymentPct']}
          label={t('form.paymentPct')}
          kind="percent"
          max={1}
          step={0.1}
        />
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
      {card !== null && (
        <Suspense fallback={null}>
          <Proven doc={doc} />
        </Suspense>
      )}
    </>
  );
}

function AdvertsForm({ laneId, doc }: FormProps) {
  const { t } = useWords();
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
          <Num
            {...l}
            path={['adverts', 'adShare']}
            label={t('form.adShare')}
            kind="percent"
            max={1}
            zero
            width={170}
          />
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
  const { t } = useWords();
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
  const rivals =
    d?.kind === 'offerSplit' ? [...new Set(d.rivals.filter((x) => x !== null))].sort((a, b) => a - b) : [];
  const months = Array.from({ length: 12 }, (_, i) => f.monthName(i + 1));
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
            <Num
              {...l}
              path={['demand', 'marketUnits']}
              label={t('form.marketUnits')}
              kind="number"
              width={150}
            />
            <Num {...l} path={['demand', 'share']} label={t('form.share')} kind="percent" max={1} />
          </>
        )}
        {d?.kind === 'offerSplit' && (
          <>
            <Num
              {...l}
              path={['demand', 'listingUnits']}
              label={t('form.listingUnits')}
              kind="number"
              width={130}
            />
            <Num {...l} path={['demand', 'band']} label={t('form.band')} kind="percent" zero width={130} />
            <List {...l} path={['demand', 'rivals']} make={() => null} add={t('form.addRival')}>
              {(_, p) => (
                <Num
                  {...l}
                  path={p}
                  label={t('form.rivalPrice')}
                  kind="money"
                  currency={doc.currency}
                  width={130}
                />
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
          <Button
            size="small"
            onClick={() => store.edit([{ ...l, path: ['season'], to: Array(12).fill(1) }])}>
            {t('form.addSeason')}
          </Button>
        ) : (
          <>
            {months.map((name, i) => (
              <Num
                key={name}
                {...l}
                path={['season', i]}
                label={name}
                kind="number"
                zero
                step={0.1}
                width={52}
              />
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
