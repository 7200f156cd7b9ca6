/** A launch over time: what it really takes and when it is back, as a sentence, a picture and a table. */
import { Box, Link as MuiLink, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { Trans } from 'react-i18next';
import { Link } from 'react-router';
import { dayText } from '../../../core/cash/calendar.ts';
import { cashOf } from '../../../core/cash/cash.ts';
import type { CashRuns } from '../../../core/cash/cash.ts';
import { orderName } from '../../../core/orders/name.ts';
import { withAgreedOf } from '../../../core/orders/inPlan.ts';
import { cashPlanOf } from '../../../core/workspace/fundPlan.ts';
import { useFormat } from '../../ui/locale.ts';
import { CashForm } from './CashForm.tsx';
import { CashPicture } from './CashPicture.tsx';
import { Changes } from './Changes.tsx';
import { MonthTable } from './MonthTable.tsx';
import { PeaksAndBank } from './PeaksAndBank.tsx';
import type { AheadPart } from './fundParts.tsx';
import { useLacks } from './useLacks.ts';
import { useTried } from './useTried.ts';
import { useWords } from '../../ui/useWords.ts';

export default function OverTimeView(part: AheadPart) {
  const { t } = useWords();
  const f = useFormat();
  const { plan, whole, view, today, home } = part;
  const trying = useTried(view, part.save);
  const { orders, lane } = part.ordered;
  const {
    doc,
    plan: cashPlan,
    agreed,
  } = useMemo(
    () => withAgreedOf(orders, lane, trying.doc, cashPlanOf(whole, today)),
    [orders, lane, trying.doc, whole, today],
  );
  const said = useMemo(() => cashOf(doc, cashPlan), [doc, cashPlan]);
  const lacksInWords = useLacks();
  const [day, setDay] = useState<number | null>(null);
  const asked = useMemo(() => ({ doc, plan: cashPlan }), [doc, cashPlan]);
  return (
    <>
      {said.known ? (
        <Sentence said={said} part={part} />
      ) : (
        <Typography variant="h4" component="p" data-testid="time-answer" sx={{ mb: 2 }}>
          {t('overTime.lacks', { what: lacksInWords(said.lacks, said.problems) })}
        </Typography>
      )}
      {agreed !== null && (
        <Typography variant="body2" data-testid="time-order" sx={{ mb: 1 }}>
          {t('overTime.agreed', {
            order: orderName(agreed.order),
            units: f.number(agreed.units),
            day: f.day(cashPlan.start ?? today),
          })}{' '}
          <MuiLink component={Link} to={`${part.base}/order`}>
            {t('nav.order')}
          </MuiLink>
        </Typography>
      )}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) 340px' },
          columnGap: 4,
          rowGap: 2,
        }}>
        <Box>
          {said.known && (
            <>
              <CashPicture
                said={said}
                cash={cashPlan.launch.cash}
                reserve={plan.reserve}
                currency={home}
                day={day}
                onDay={setDay}
              />
              <MonthTable
                said={said}
                cash={cashPlan.launch.cash ?? 0}
                currency={home}
                name={part.candidate.name}
                asked={asked}
              />
            </>
          )}
        </Box>
        <Box>
          <CashForm {...part} trying={trying} />
          {said.known && (
            <>
              <Changes start={said.start} asked={asked} set={part.set} attempt={trying.attempt} />
              <PeaksAndBank said={said} doc={doc} currency={home} />
            </>
          )}
        </Box>
      </Box>
    </>
  );
}

function Sentence({ said, part }: { said: CashRuns; part: AheadPart }) {
  const { t } = useWords();
  const f = useFormat();
  const { plan, home } = part;
  const c = said.cases.expected;
  const dayOf = (n: number): string => f.day(dayText(said.start, n));
  const last = dayOf(said.horizon);
  const loss = <Box component="strong" sx={{ color: 'error.main' }} />;
  const components = { b: <strong />, l: loss };
  const over = said.over ?? 0;
  return (
    <Typography
      variant="h4"
      component="p"
      data-testid="time-answer"
      aria-live="polite"
      sx={{ mb: 2, '& strong': { fontWeight: 720 } }}>
      <Trans
        i18nKey={c.neededOn === null ? 'overTime.takesNone' : 'overTime.takes'}
        values={{ money: f.money(c.moneyNeeded, home), day: dayOf(c.neededOn ?? 0) }}
        components={components}
      />{' '}
      <Trans
        i18nKey={c.payback === null ? 'overTime.backNever' : 'overTime.back'}
        values={{ day: c.payback === null ? last : dayOf(c.payback) }}
        components={components}
      />{' '}
      <Trans
        i18nKey={c.daysShort === 0 ? 'overTime.never' : 'overTime.short'}
        count={c.daysShort}
        values={{ count: c.daysShort }}
        components={components}
      />{' '}
      {over > 0.005 && (
        <>
          <Trans
            i18nKey="overTime.tooMuch"
            values={{ money: f.money(over, home) }}
            components={components}
          />{' '}
        </>
      )}
      <Box component="span" sx={{ color: 'text.secondary' }}>
        {t(c.end < 0 ? 'overTime.endLost' : 'overTime.end', {
          day: last,
          money: f.money(Math.abs(c.end), home),
          units: f.number(c.left.stock.units, 0),
        })}{' '}
        {said.contingency > 0 &&
          t('overTime.contingency', {
            share: f.percent(plan.contingency, 0),
            money: f.money(said.toKeepReady, home),
          })}
      </Box>
    </Typography>
  );
}
