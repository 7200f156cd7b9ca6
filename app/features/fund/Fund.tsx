import { Box, Button, Typography } from '@mui/material';
import type { TFunction } from 'i18next';
import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import type { ReactNode } from 'react';
import { Trans, useTranslation } from 'react-i18next';
import { Link, useRevalidator, useSearchParams } from 'react-router';
import { admissibleOrders, launch, quantitiesToCompare } from '../../../core/launch/launch.ts';
import type { BudgetAt, LaunchResult } from '../../../core/launch/schema.ts';
import { conversionsOf, minorDigits } from '../../../core/money/money.ts';
import { launchWorkings } from '../../../core/launch/workings.ts';
import { planOf } from '../../../core/workspace/summary.ts';
import type { CardData } from '../../../core/cards/schema.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { ChoiceLine, NumField, TextLine } from '../../ui/Field.tsx';
import { useBounds } from '../../ui/bounds.ts';
import { floorTo, roundToTotal, useFormat } from '../../ui/locale.ts';
import type { Format } from '../../ui/locale.ts';
import { RatesUsed } from '../../ui/RatesUsed.tsx';
import { useOthersChanges } from '../../ui/saving.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { countryName } from '../../ui/names.ts';
import { Explain } from '../weigh/Workings.tsx';
import type { SheetState } from '../weigh/store.ts';
import { useLaneViews } from '../weigh/useFigures.ts';
import { usePlan } from './usePlan.ts';

const QuantityChart = lazy(() => import('./QuantityChart.tsx'));
type Props = {
  names: { id: string; name: string }[];
  settings: Settings;
  sheet: { today: string; cards: Record<string, CardData>; state: SheetState } | null;
  canEdit: boolean;
  base: string;
};

/** What a launch takes, against the cash at hand. */
export function FundPage({ names, settings, sheet, canEdit, base }: Props) {
  const { t } = useTranslation();
  if (sheet === null)
    return (
      <Box sx={{ maxWidth: 560 }}>
        <Typography variant="h1">{t('nav.fund')}</Typography>
        <Typography sx={{ my: 2 }}>{t('fund.empty')}</Typography>
        <Button component={Link} to={`${base}/find`} variant="contained">
          {t('weigh.first')}
        </Button>
      </Box>
    );
  return <Funding names={names} settings={settings} sheet={sheet} canEdit={canEdit} base={base} />;
}

function Funding({
  names,
  settings,
  sheet,
  canEdit,
  base,
}: Omit<Props, 'sheet'> & { sheet: NonNullable<Props['sheet']> }) {
  const { t, i18n } = useTranslation();
  const f = useFormat();
  const [search, setSearch] = useSearchParams();
  const stored = useMemo(
    () => planOf(sheet.state.candidate.data, settings.launch),
    [sheet.state.candidate.data, settings.launch],
  );
  const { plan, set, ...saving } = usePlan(stored, sheet.state.candidate.id, `${base}/fund/save`, canEdit);
  const { revalidate } = useRevalidator();
  const by = useOthersChanges(`${base}/weigh/${sheet.state.candidate.id}/edition`, () => void revalidate());
  const [client, setClient] = useState(false);
  useEffect(() => setClient(true), []);
  const views = useLaneViews(sheet.state, { settings, cards: sheet.cards, today: sheet.today });
  const view = views.find((v) => v.id === search.get('lane')) ?? views[0];
  const bounds = useBounds();
  const home = settings.homeCurrency;

  const orders = useMemo(
    () => (view === undefined ? { step: 1, first: 1 } : admissibleOrders(view.doc)),
    [view],
  );
  const Q = view?.doc.orderQuantity ?? orders.first;
  const quantities = plan.quantities.length > 0 ? plan.quantities : quantitiesToCompare(orders, Q);
  const result = useMemo(
    () => (view === undefined ? null : launch(view.doc, { ...plan, quantities })),
    [view, plan, quantities],
  );
  if (view === undefined || result === null) return <Typography>{t('sheet.noLanes')}</Typography>;
  const b = result.budget;
  const unitLacks = view.result.incomplete.unitProfit;
  /** A figure of the launch as the bound it is. */
  const bound = (key: string, text: string): string =>
    text === '–' || result.bounds[key] === undefined
      ? text
      : bounds.of(
          text,
          result.bounds[key] === 'notKnown' ? ['returns'] : ['advertising'],
          result.bounds[key] === 'atLeast' ? 'atLeast' : 'atMost',
        );
  const explain = (key: string, label: string, text: string) => (
    <Explain label={label} currency={home} steps={() => launchWorkings(result, plan)[key] ?? []}>
      {text}
    </Explain>
  );
  const row = (label: string, text: ReactNode, strong = false) => (
    <Box
      sx={{
        display: 'flex',
        justifyContent: 'space-between',
        gap: 2,
        py: 0.25,
        fontWeight: strong ? 680 : 400,
        borderTop: strong ? '1px solid' : 'none',
        borderColor: 'text.primary',
      }}>
      <span>{label}</span>
      <Box component="span" sx={{ whiteSpace: 'nowrap' }}>
        {text}
      </Box>
    </Box>
  );
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h1" sx={{ mr: 1 }}>
          {t('nav.fund')}
        </Typography>
        <ChoiceLine
          label={t('weigh.candidate')}
          value={sheet.state.candidate.id}
          options={names.map((n) => ({ value: n.id, label: n.name }))}
          onChange={(v) => setSearch({ candidate: v })}
          width={300}
        />
        <ChoiceLine
          label={t('fund.lane')}
          value={view.id}
          options={views.map((v) => ({
            value: v.id,
            label: `${countryName(v.doc.country, i18n.language)} · ${v.doc.marketplace}`,
          }))}
          onChange={(v) => setSearch({ candidate: sheet.state.candidate.id, lane: v })}
          width={230}
        />
        <Box
          role="status"
          sx={{ fontSize: '0.82rem', color: saving.error ? 'error.main' : 'text.secondary', ml: 'auto' }}>
          {by !== null && <>{t('saving.changedBy', { name: by })} · </>}
          {saving.error ?? t(`saving.${saving.state}`)}
        </Box>
      </Box>
      <Typography
        variant="h4"
        component="p"
        data-testid="fund-answer"
        sx={{ mb: 2.5, '& strong': { fontWeight: 720 } }}
        aria-live="polite">
        {b?.total == null ? (
          t('fund.unknown')
        ) : (
          <Trans
            i18nKey={
              b.leftOfCash === null
                ? 'fund.answerNoCash'
                : b.leftOfCash < 0
                  ? 'fund.answerShort'
                  : 'fund.answer'
            }
            values={{
              quantity: f.number(b.quantity),
              total: bounds.of(f.money(b.total, home), result.incomplete, 'atLeast'),
              left: bounds.of(
                f.money(Math.abs(b.leftOfCash ?? 0), home),
                result.incomplete,
                (b.leftOfCash ?? 0) < 0 ? 'atLeast' : 'atMost',
              ),
            }}
            components={{
              b: <strong />,
              k: (
                <Box
                  component="strong"
                  sx={{ color: (b.leftOfCash ?? 0) < 0 ? 'error.main' : 'primary.main' }}
                />
              ),
            }}
          />
        )}{' '}
        {result.mostUnits !== null &&
          (result.mostUnits > 0
            ? t(result.bounds.mostUnits === undefined ? 'fund.most' : 'fund.mostBound', {
                units: f.number(result.mostUnits),
              })
            : t('fund.mostNone', {
                units: f.number(result.smallestOrder),
                short: bounds.of(f.money(result.shortfall, home), result.incomplete, 'atLeast'),
              }))}
        {result.incomplete.length > 0 && (
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {' '}
            {t('launch.incomplete', { blanks: bounds.list(result.incomplete) })}
          </Box>
        )}
      </Typography>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: {
            xs: 'minmax(0, 1fr)',
            md: 'repeat(2, minmax(0, 1fr))',
            lg: 'minmax(0, 1.1fr) minmax(0, 1fr) minmax(0, 1.1fr)',
          },
          gap: 4,
        }}>
        <Box component="section" aria-label={t('fund.money')}>
          <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
            {t('fund.money')}
          </Typography>
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', mb: 2 }}>
            <NumField
              label={t('fund.cash')}
              value={plan.cash}
              onChange={(v) => set({ cash: v })}
              kind="money"
              currency={home}
              step={100}
              width={130}
            />
            <NumField
              label={t('fund.reserve')}
              value={plan.reserve}
              onChange={(v) => set({ reserve: v ?? 0 })}
              kind="money"
              currency={home}
              step={100}
              width={130}
            />
            <NumField
              label={t('fund.contingency')}
              value={plan.contingency}
              onChange={(v) => set({ contingency: v ?? 0 })}
              kind="percent"
              max={10}
              width={110}
            />
          </Box>
          <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
            {t('launch.oneOffsTitle')}
          </Typography>
          {plan.oneOffs.map((o, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place alone
            <Box key={i} sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-end', mb: 0.75 }}>
              <TextLine
                label={t('form.name')}
                value={o.name}
                onChange={(v) =>
                  set({ oneOffs: plan.oneOffs.map((x, j) => (j === i ? { ...x, name: v } : x)) })
                }
                width={150}
              />
              <NumField
                label={t('form.amount')}
                value={o.amount}
                onChange={(v) =>
                  set({ oneOffs: plan.oneOffs.map((x, j) => (j === i ? { ...x, amount: v } : x)) })
                }
                kind="money"
                currency={home}
                step={10}
                width={110}
              />
              <Button
                size="small"
                aria-label={t('line.removeNumber', { n: i + 1 })}
                sx={{ minWidth: 0, color: 'text.secondary' }}
                onClick={() => set({ oneOffs: plan.oneOffs.filter((_, j) => j !== i) })}>
                {t('line.remove')}
              </Button>
            </Box>
          ))}
          <Button
            size="small"
            onClick={() => set({ oneOffs: [...plan.oneOffs, { name: '', amount: null }] })}>
            {t('fund.addOneOff')}
          </Button>
          <Typography variant="h3" component="h2" sx={{ mt: 2, mb: 0.5 }}>
            {t('launch.advertisingTitle')}
          </Typography>
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
            <ChoiceLine
              label={t('fund.advertisingBy')}
              value={plan.advertising?.kind ?? ''}
              options={[
                { value: '', label: t('line.blank') },
                { value: 'daily', label: t('fund.daily') },
                { value: 'units', label: t('fund.byUnits') },
              ]}
              onChange={(v) =>
                set({
                  advertising:
                    v === 'daily'
                      ? { kind: 'daily', perDay: null, days: null }
                      : v === 'units'
                        ? { kind: 'units', units: null }
                        : null,
                })
              }
              width={150}
            />
            {plan.advertising?.kind === 'daily' && (
              <>
                <NumField
                  label={t('fund.perDay')}
                  value={plan.advertising.perDay}
                  onChange={(v) =>
                    set({
                      advertising: {
                        kind: 'daily',
                        perDay: v,
                        days: (plan.advertising as { days: number | null }).days,
                      },
                    })
                  }
                  kind="money"
                  currency={home}
                  step={1}
                  width={110}
                />
                <NumField
                  label={t('fund.days')}
                  value={plan.advertising.days}
                  onChange={(v) =>
                    set({
                      advertising: {
                        kind: 'daily',
                        perDay: (plan.advertising as { perDay: number | null }).perDay,
                        days: v,
                      },
                    })
                  }
                  kind="number"
                  width={80}
                />
              </>
            )}
            {plan.advertising?.kind === 'units' && (
              <NumField
                label={t('fund.advertUnits')}
                value={plan.advertising.units}
                onChange={(v) => set({ advertising: { kind: 'units', units: v } })}
                kind="number"
                width={140}
              />
            )}
            <NumField
              label={t('fund.discountUnits')}
              value={plan.discounts.units}
              onChange={(v) => set({ discounts: { ...plan.discounts, units: v ?? 0 } })}
              kind="number"
              width={120}
            />
            <NumField
              label={t('fund.discountEach')}
              value={plan.discounts.discount}
              onChange={(v) => set({ discounts: { ...plan.discounts, discount: v ?? 0 } })}
              kind="money"
              currency={home}
              width={120}
            />
          </Box>
        </Box>
        <Box component="section" aria-label={t('fund.budget')} sx={{ fontSize: '0.9rem' }}>
          <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
            {t('fund.budget')}
          </Typography>
          {b === null ? (
            <Typography variant="body2">{t('launch.noQuantity')}</Typography>
          ) : (
            <>
              {budgetLines(result, b, t, f).map(([key, label, amount]) => (
                <Box key={key}>
                  {row(
                    label,
                    key === 'goods' || key === 'contingency' ? explain(key, label, amount) : amount,
                  )}
                </Box>
              ))}
              {row(
                t('launch.total'),
                explain(
                  'total',
                  t('launch.total'),
                  b.total === null ? '–' : bounds.of(f.money(b.total, home), result.incomplete, 'atLeast'),
                ),
                true,
              )}
              {b.leftOfCash !== null &&
                row(
                  t(b.leftOfCash < 0 ? 'fund.shortfall' : 'fund.left'),
                  bounds.of(
                    f.money(Math.abs(b.leftOfCash), home),
                    result.incomplete,
                    b.leftOfCash < 0 ? 'atLeast' : 'atMost',
                  ),
                )}
            </>
          )}
          <Typography variant="h3" component="h2" sx={{ mt: 3, mb: 1 }}>
            {t('fund.affordTitle')}
          </Typography>
          {row(
            t('fund.productBudget'),
            explain(
              'productBudget',
              t('fund.productBudget'),
              bound('productBudget', f.money(result.productBudget, home)),
            ),
          )}
          {row(
            t('fund.mostUnits'),
            explain(
              'mostUnits',
              t('fund.mostUnits'),
              result.mostUnits === null
                ? '–'
                : bounds.of(
                    f.number(result.mostUnits),
                    result.bounds.mostUnits === undefined ? [] : result.incomplete,
                  ),
            ),
          )}
          {row(
            t('fund.mostPerUnit', { quantity: f.number(Q) }),
            explain(
              'mostPerUnit',
              t('fund.mostPerUnit', { quantity: f.number(Q) }),
              bound(
                'mostPerUnit',
                f.money(result.mostPerUnit === null ? null : floorTo(result.mostPerUnit, 2), home),
              ),
            ),
          )}
          {row(
            t('fund.mostUnitPrice'),
            bound(
              'mostUnitPrice',
              f.money(
                result.mostUnitPrice === null
                  ? null
                  : floorTo(result.mostUnitPrice, minorDigits(result.mostUnitPriceCurrency)),
                result.mostUnitPriceCurrency,
              ),
            ),
          )}
          {row(
            t('fund.band', {
              low: f.number(plan.priceMultiples.low),
              high: f.number(plan.priceMultiples.high),
            }),
            result.shelfPriceBand === null
              ? '–'
              : bound(
                  'shelfPriceBand',
                  `${f.money(result.shelfPriceBand.low, home)} – ${f.money(result.shelfPriceBand.high, home)}`,
                ),
          )}
          <Box sx={{ display: 'flex', gap: 1.5, mt: 0.5 }}>
            <NumField
              label={t('fund.multipleLow')}
              value={plan.priceMultiples.low}
              onChange={(v) => set({ priceMultiples: { ...plan.priceMultiples, low: v ?? 0 } })}
              kind="number"
              step={0.5}
              width={110}
            />
            <NumField
              label={t('fund.multipleHigh')}
              value={plan.priceMultiples.high}
              onChange={(v) => set({ priceMultiples: { ...plan.priceMultiples, high: v ?? 0 } })}
              kind="number"
              step={0.5}
              width={110}
            />
          </Box>
        </Box>
        <Box component="section" aria-label={t('fund.compare')} sx={{ fontSize: '0.9rem' }}>
          <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
            <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
              {t('fund.compare')}
            </Typography>
            <TableFile
              table={() => ({
                name: `${sheet.state.candidate.data.name} ${t('fund.compare')}`,
                columns: [
                  'form.orderQuantity',
                  'fund.unitCash',
                  'fund.goodsCash',
                  'fund.totalCash',
                  'fund.leftRow',
                  'fund.unitProfitRow',
                  'fund.cover',
                  'fund.fits',
                ].map((k) => ({ title: t(k) })),
                rows: result.compared.map((c) => [
                  c.quantity,
                  c.unitLandedCash,
                  c.lines.goods,
                  c.total,
                  c.leftOfCash,
                  c.unitProfit,
                  c.coverMonths,
                  c.admissible,
                ]),
              })}
            />
          </Box>
          <Box
            component="table"
            sx={{
              width: '100%',
              borderCollapse: 'collapse',
              '& th, & td': { textAlign: 'right', py: 0.35, fontWeight: 400 },
              '& th:first-of-type': { textAlign: 'left' },
            }}>
            <thead>
              <tr>
                <th scope="col">{t('form.orderQuantity')}</th>
                {result.compared.map((_, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: three columns in fixed places
                  <th scope="col" key={i}>
                    <Box sx={{ display: 'flex', justifyContent: 'flex-end' }}>
                      <NumField
                        label={t('fund.quantity', { n: i + 1 })}
                        value={quantities[i] ?? null}
                        onChange={(v) =>
                          set({ quantities: quantities.map((q, j) => (j === i ? (v ?? q) : q)) })
                        }
                        kind="number"
                        min={0.000001}
                        max={1e9}
                        step={orders.step}
                        width={76}
                      />
                    </Box>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {(
                [
                  ['unitCash', (c) => f.plain(c.unitLandedCash, home)],
                  ['goodsCash', (c) => f.plain(c.lines.goods, home)],
                  [
                    'totalCash',
                    (c) =>
                      c.total === null
                        ? '–'
                        : bounds.of(f.plain(c.total, home), result.incomplete, 'atLeast'),
                  ],
                  ['leftRow', (c) => f.plain(c.leftOfCash, home)],
                  [
                    'unitProfitRow',
                    (c) => (c.unitProfit === null ? '–' : bounds.of(f.plain(c.unitProfit, home), unitLacks)),
                  ],
                  ['cover', (c) => f.number(c.coverMonths, 1)],
                  ['fits', (c) => t(c.admissible ? 'yes' : 'no')],
                ] as [string, (c: BudgetAt) => string][]
              ).map(([k, get]) => (
                <tr key={k}>
                  <th scope="row">{t(`fund.${k}`)}</th>
                  {result.compared.map((c) => (
                    <Box
                      component="td"
                      key={c.quantity}
                      sx={{ color: get(c).startsWith('−') ? 'error.main' : 'inherit' }}>
                      {get(c)}
                    </Box>
                  ))}
                </tr>
              ))}
            </tbody>
          </Box>
          {client && (
            <Suspense fallback={<Box sx={{ height: 170 }} />}>
              <QuantityChart
                compared={result.compared}
                cash={plan.cash === null ? null : plan.cash - plan.reserve}
                currency={home}
              />
            </Suspense>
          )}
          <Typography variant="h3" component="h2" sx={{ mt: 2, mb: 1 }}>
            {t('fund.goalTitle')}
          </Typography>
          <Box sx={{ display: 'flex', gap: 2 }}>
            <NumField
              label={t('fund.goal')}
              value={plan.monthlyProfitGoal}
              onChange={(v) => set({ monthlyProfitGoal: v })}
              kind="money"
              currency={home}
              step={50}
              width={140}
            />
            <NumField
              label={t('form.monthlyFixed')}
              value={plan.monthlyFixedCosts}
              onChange={(v) => set({ monthlyFixedCosts: v ?? 0 })}
              kind="money"
              currency={home}
              step={10}
              width={170}
            />
          </Box>
          <Box sx={{ mt: 0.75 }} data-testid="goal-answer">
            {result.unitsADay === null
              ? result.reasons.unitsADay
                ? t('fund.noGoalUnits')
                : ''
              : t('fund.goalUnits', {
                  units: bound('unitsADay', f.number(result.unitsADay, 1)),
                  sells: f.number((view.result.figures.expectedMonthlyUnits ?? 0) / 30.4375, 1),
                })}
          </Box>
          <RatesUsed rates={conversionsOf([view.doc], home)} />
          <Box>
            {result.monthsToPayBack !== null
              ? t('fund.payBack', { months: bound('monthsToPayBack', f.number(result.monthsToPayBack, 1)) })
              : result.reasons.monthsToPayBack?.startsWith('beyond')
                ? t('fund.payBackBeyond')
                : ''}{' '}
            {result.breakEvenUnits === null
              ? ''
              : t('fund.breakEvenUnits', {
                  units: bound('breakEvenUnits', f.number(result.breakEvenUnits)),
                  month: f.number(result.breakEvenMonth),
                })}
          </Box>
        </Box>
      </Box>
    </Box>
  );
}

/** The named lines of a launch budget in the home currency, rounded so that they add up to the shown total. */
function budgetLines(
  result: LaunchResult,
  b: BudgetAt,
  t: TFunction,
  f: Format,
): [key: string, label: string, amount: string][] {
  const lines: [string, string, number | null][] = [
    ['goods', t('launch.goods', { quantity: f.number(b.quantity) }), b.lines.goods],
    ...result.oneOffs.map((o, i): [string, string, number | null] => [
      `oneOff${i}`,
      `${o.name || t('launch.oneOffs')}${o.source === 'quote' ? ` (${t('source.quote')})` : ''}`,
      o.amount,
    ]),
    ['advertising', t('launch.advertising'), b.lines.advertising],
    ['discounts', t('launch.discounts'), b.lines.discounts],
    ['contingency', t('launch.contingency'), b.lines.contingency],
  ];
  const rounded = roundToTotal(
    lines.map(([, , x]) => x),
    minorDigits(result.currency),
  );
  return lines.map(([key, label], i) => [key, label, f.plain(rounded[i] ?? null, result.currency)]);
}
