import { Box, Button, Typography } from '@mui/material';
import { useMemo } from 'react';
import { Trans, useTranslation } from 'react-i18next';
import { Link, useRevalidator, useSearchParams } from 'react-router';
import { launch } from '../../../core/launch/launch.ts';
import { admissibleOrders, quantitiesToCompare } from '../../../core/launch/orders.ts';
import { planOf } from '../../../core/workspace/summary.ts';
import type { CardData } from '../../../core/cards/schema.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import { useOthersChanges } from '../../ui/saving.ts';
import { countryName } from '../../ui/names.ts';
import type { SheetState } from '../weigh/store.ts';
import { useLaneViews } from '../weigh/useFigures.ts';
import { FundBudget } from './FundBudget.tsx';
import { FundCompare } from './FundCompare.tsx';
import { FundMoney } from './FundMoney.tsx';
import type { FundPart } from './fundParts.tsx';
import { usePlan } from './usePlan.ts';

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
        <FundMoney {...part} />
        <FundBudget {...part} />
        <FundCompare {...part} />
      </Box>
    </Box>
  );
}
