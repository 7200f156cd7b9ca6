/** The plan of a purse in a sentence. */
import { Box, Typography } from '@mui/material';
import { Trans } from 'react-i18next';
import { dayText } from '../../../core/cash/calendar.ts';
import { lastDay } from '../../../core/purse/options.ts';
import type { NoPlan, Plan } from '../../../core/purse/purse.ts';
import type { PurseDocument } from '../../../core/purse/schema.ts';
import { useFormat } from '../../ui/locale.ts';
import type { PurseStep } from '../../../between/solvingPurse.ts';
import type { PurseState } from './usePurse.ts';
import { useWords } from '../../ui/useWords.ts';

/** Which launches, when, what they bring; or why there is no plan. */
export function PurseAnswer({
  said,
  step,
  state,
  document,
  money,
  wrong,
  isMany,
  nameOf,
}: {
  said: Plan | NoPlan | null;
  step: PurseStep | null;
  state: PurseState;
  document: PurseDocument;
  money: number | null;
  /** What is wrong with the cash, in a sentence. */
  wrong: string | null;
  /** More lanes than are solved in a browser. */
  isMany: boolean;
  nameOf: (key: string) => string;
}) {
  const { t } = useWords();
  const f = useFormat();
  /** What stands where there is no plan yet, or none can be. */
  const instead = (): string | null => {
    if (money === null) return t('purse.cashFirst');
    if (wrong !== null) return wrong;
    if (document.lanes.length === 0) return t('purse.none');
    if (isMany) return t('purse.many', { n: f.number(document.lanes.length, 0) });
    if (state === 'failed') return t('purse.failed');
    if (said !== null) return null;
    return t(state === 'stopped' ? 'purse.stopped' : 'purse.working');
  };
  const text = instead();
  return (
    <Typography
      variant="h4"
      component="p"
      data-testid="purse-answer"
      aria-live="polite"
      sx={{ my: 2, minHeight: '2.4em', '& strong': { fontWeight: 720 } }}>
      {text ??
        (said?.feasible ? (
          <Feasible plan={said} document={document} step={step} />
        ) : said !== null ? (
          <Infeasible plan={said} document={document} nameOf={nameOf} />
        ) : null)}
    </Typography>
  );
}

function Feasible({ plan, document, step }: { plan: Plan; document: PurseDocument; step: PurseStep | null }) {
  const { t } = useWords();
  const f = useFormat();
  const home = document.lanes[0]?.lane.homeCurrency ?? 'EUR';
  const { launches } = plan;
  const components = {
    b: <strong />,
    k: <Box component="strong" sx={{ color: plan.value < 0 ? 'error.main' : 'primary.main' }} />,
  };
  if (launches.length === 0) return <>{t('purse.nothing')}</>;
  const later = launches.filter((l) => l.week > 0);
  const now = launches.length - later.length;
  const firstLater = later[0];
  const more = step?.said?.more;
  const dayOf = (week: number): string => f.dayShort(dayText(document.start, 7 * week));
  const parts = [
    now > 0 ? t('purse.now', { count: now }) : null,
    firstLater !== undefined
      ? `${t('purse.later', { count: later.length })}, ${t('purse.laterFirst', { day: dayOf(firstLater.week) })}`
      : null,
  ].filter((x) => x !== null);
  return (
    <>
      <Trans
        i18nKey="purse.launch"
        count={launches.length}
        values={{ count: launches.length }}
        components={components}
      />{' '}
      {parts.join('; ')}.{' '}
      <Trans
        i18nKey="purse.together"
        values={{
          money: f.money(plan.value, home),
          day: f.day(dayText(document.start, lastDay(document))),
          low: f.money(plan.lowest, home),
        }}
        components={components}
      />{' '}
      <Box component="span" sx={{ color: 'text.secondary' }}>
        {more != null &&
          t(more > 0.5 ? 'purse.more' : 'purse.moreNothing', {
            cash: f.money(step?.said?.tenth ?? null, home),
            money: f.money(more, home),
          })}{' '}
        {plan.idle > 0.5 && t('purse.idle', { money: f.money(plan.idle, home) })}{' '}
        {plan.gap === null
          ? t('purse.gapUnknown')
          : plan.gap > 1e-6
            ? t('purse.gap', { gap: f.percent(plan.gap, 1) })
            : t('purse.best')}
      </Box>
    </>
  );
}

function Infeasible({
  plan,
  document,
  nameOf,
}: {
  plan: NoPlan;
  document: PurseDocument;
  nameOf: (key: string) => string;
}) {
  const f = useFormat();
  const home = document.lanes[0]?.lane.homeCurrency ?? 'EUR';
  const key = plan.why === 'cash' && plan.must.length === 0 ? 'cashFixed' : plan.why;
  return (
    <Trans
      i18nKey={`purse.noPlan.${key}`}
      values={{
        must: plan.must.map(nameOf).join('; '),
        cash: f.money(plan.cash, home),
        seconds: f.number(document.seconds, 1),
      }}
      components={{ b: <Box component="strong" sx={{ color: 'error.main' }} /> }}
    />
  );
}
