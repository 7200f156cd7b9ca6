import { Box, Button, Typography } from '@mui/material';
import { lazy, Suspense, useMemo } from 'react';
import { Link, useRevalidator, useSearchParams } from 'react-router';
import { launch } from '../../../core/launch/launch.ts';
import { admissibleOrders, quantitiesToCompare } from '../../../core/launch/orders.ts';
import { fundPlanOf, launchOf } from '../../../core/workspace/fundPlan.ts';
import type { CardData } from '../../../core/cards/schema.ts';
import type { KeptMarket } from '../../../core/evidence/observed.ts';
import type { Learned } from '../../../core/risk/offered.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useOthersChanges } from '../../ui/saving.ts';
import { countryName } from '../../ui/names.ts';
import type { SheetState } from '../weigh/store.ts';
import type { Order } from '../../../core/orders/schema.ts';
import { useLaneViews } from '../weigh/useFigures.ts';
import { BudgetView } from './BudgetView.tsx';
import { FundWays } from './FundWays.tsx';
import type { FundView } from './FundWays.tsx';
import type { FundPart } from './fundParts.tsx';
import { usePlan } from './usePlan.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

const OverTimeView = lazy(() => import('./OverTimeView.tsx'));
const QuantitiesView = lazy(() => import('./QuantitiesView.tsx'));
const SureView = lazy(() => import('./SureView.tsx'));

type Props = {
  names: { id: string; name: string }[];
  settings: Settings;
  /** What is kept of the markets, where ranges are offered from it. */
  markets: readonly KeptMarket[];
  /** How far one's own launches were off. */
  learned: Learned;
  /** Agreed orders of the candidate's goods. */
  ordered: readonly Order[];
  sheet: { today: string; cards: Record<string, CardData>; state: SheetState } | null;
  canEdit: boolean;
  base: string;
};

/** What a launch takes, against the cash at hand. */
export function FundPage({ sheet, ...rest }: Props) {
  const { t } = useWords();
  if (sheet === null)
    return (
      <Box sx={{ maxWidth: 560 }}>
        <Typography variant="h1">{t('nav.fund')}</Typography>
        <Typography sx={{ my: 2 }}>{t('fund.empty')}</Typography>
        <Button component={Link} to={`${rest.base}/find`} variant="contained">
          {t('weigh.first')}
        </Button>
      </Box>
    );
  return <Funding {...rest} sheet={sheet} />;
}

function Funding({
  names,
  settings,
  markets,
  learned,
  ordered,
  sheet,
  canEdit,
  base,
}: Omit<Props, 'sheet'> & { sheet: NonNullable<Props['sheet']> }) {
  const { t, i18n } = useWords();
  const [search, setSearch] = useSearchParams();
  const stored = useMemo(
    () => fundPlanOf(sheet.state.candidate.data, settings.launch),
    [sheet.state.candidate.data, settings.launch],
  );
  const {
    fields: whole,
    set,
    ...saving
  } = usePlan(stored, sheet.state.candidate.id, `${base}/fund/save`, canEdit);
  const plan = useMemo(() => launchOf(whole), [whole]);
  const { revalidate } = useRevalidator();
  const by = useOthersChanges(`${base}/weigh/${sheet.state.candidate.id}/edition`, () => void revalidate());
  const views = useLaneViews(sheet.state, { settings, cards: sheet.cards, today: sheet.today });
  const view = views.find((v) => v.id === search.get('lane')) ?? views[0];
  const shown = (['time', 'quantities', 'sure'] as const).find((v) => v === search.get('view')) ?? 'budget';
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
  const part: FundPart = {
    plan,
    set,
    result,
    view,
    orders,
    quantities,
    candidate: sheet.state.candidate.data,
    home,
  };
  const ahead = {
    ...part,
    whole,
    views,
    settings,
    cards: sheet.cards,
    markets,
    learned,
    today: sheet.today,
    canEdit,
    save: `${base}/weigh/${sheet.state.candidate.id}/save`,
    base,
    ordered: {
      orders: ordered,
      lane: sheet.state.lanes.find((l) => l.id === view.id) ?? { id: view.id, data: { components: [] } },
    },
  };
  const go = (to: { candidate?: string; lane?: string; view?: FundView }): void =>
    setSearch({
      candidate: to.candidate ?? sheet.state.candidate.id,
      ...(to.candidate === undefined && { lane: to.lane ?? view.id }),
      view: to.view ?? shown,
    });
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 1.5 }}>
        <Typography variant="h1" sx={{ mr: 1 }}>
          {t('nav.fund')}
        </Typography>
        <ChoiceLine
          label={t('weigh.candidate')}
          value={sheet.state.candidate.id}
          options={names.map((n) => ({ value: n.id, label: n.name }))}
          onChange={(v) => go({ candidate: v })}
          width={300}
        />
        <ChoiceLine
          label={t('fund.lane')}
          value={view.id}
          options={views.map((v) => ({
            value: v.id,
            label: `${countryName(v.doc.country, i18n.language)} · ${v.doc.marketplace}`,
          }))}
          onChange={(v) => go({ lane: v })}
          width={230}
        />
        <Box
          role="status"
          sx={{ fontSize: '0.82rem', color: saving.error ? 'error.main' : 'text.secondary', ml: 'auto' }}>
          {by !== null && <>{t('saving.changedBy', { name: by })} · </>}
          {saving.error ?? t(`saving.${saving.state}`)}
        </Box>
      </Box>
      <FundWays base={base} candidate={sheet.state.candidate.id} lane={view.id} here={shown} />
      {shown === 'budget' ? (
        <BudgetView {...part} />
      ) : (
        <Suspense fallback={<Box sx={{ height: 600 }} />}>
          {shown === 'time' && <OverTimeView key={view.id} {...ahead} />}
          {shown === 'quantities' && <QuantitiesView key={view.id} {...ahead} />}
          {shown === 'sure' && <SureView key={view.id} {...ahead} />}
        </Suspense>
      )}
    </Box>
  );
}
