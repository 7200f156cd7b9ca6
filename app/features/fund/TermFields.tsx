/** When a launch grows and how: what of its plan is not the first order. */
import { Box, Button } from '@mui/material';
import { memo, useState } from 'react';
import type { ReactNode } from 'react';
import type { CashTerms } from '../../../core/cash/schema.ts';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import { Dragged } from './Dragged.tsx';
import { useWords } from '../../ui/useWords.ts';

type Part = { terms: CashTerms; set: (some: Partial<CashTerms>) => void };

/** How sales grow, when one orders again, and what is seldom changed. */
export const TermFields = memo(function TermFields(p: Part) {
  return (
    <>
      <Ramp {...p} />
      <ReorderFields {...p} />
      <MoreOfPlan {...p} />
    </>
  );
});

/** What the first months sell, as shares of what the lane expects; the last goes on. */
function Ramp({ terms: { ramp }, set }: Part) {
  const { t } = useWords();
  const at = (i: number, x: number): void => set({ ramp: ramp.map((r, j) => (j === i ? x : r)) });
  return (
    <>
      {ramp.slice(0, 6).map((r, i) => (
        <Dragged
          // biome-ignore lint/suspicious/noArrayIndexKey: months are told apart by their place alone
          key={i}
          label={t('overTime.ramp', { n: i + 1 })}
          value={r}
          min={0}
          max={2}
          step={0.05}
          onDrag={(x) => at(i, x)}>
          <NumField
            label={t('overTime.ramp', { n: i + 1 })}
            value={r}
            onChange={(x) => at(i, x ?? 1)}
            kind="percent"
            max={1000}
            width="100%"
          />
        </Dragged>
      ))}
      <Box sx={{ width: '100%' }}>
        {ramp.length < 6 && (
          <Button size="small" onClick={() => set({ ramp: [...ramp, ramp.at(-1) ?? 1] })}>
            {t('overTime.moreRamp')}
          </Button>
        )}
        {ramp.length > 1 && (
          <Button size="small" onClick={() => set({ ramp: ramp.slice(0, -1) })}>
            {t('overTime.lessRamp')}
          </Button>
        )}
      </Box>
    </>
  );
}

function ReorderFields({ terms, set }: Part) {
  const { t } = useWords();
  const { reorder } = terms;
  const notBefore = reorder.kind === 'none' ? null : reorder.notBefore;
  return (
    <>
      <ChoiceLine
        label={t('overTime.reorder')}
        value={reorder.kind}
        options={(['none', 'same', 'cover'] as const).map((k) => ({
          value: k,
          label: t(`overTime.reorders.${k}`),
        }))}
        onChange={(kind) =>
          set({
            reorder:
              kind === 'none'
                ? { kind }
                : kind === 'same'
                  ? { kind, notBefore }
                  : { kind, days: 60, notBefore },
          })
        }
        width={150}
      />
      {reorder.kind === 'cover' && (
        <NumField
          label={t('overTime.coverDays')}
          value={reorder.days}
          onChange={(x) => set({ reorder: { ...reorder, days: x ?? 60 } })}
          kind="number"
          whole
          min={1}
          max={1825}
          width={100}
        />
      )}
      {reorder.kind !== 'none' && (
        <NumField
          label={t('overTime.safetyDays')}
          value={terms.safetyDays}
          onChange={(x) => set({ safetyDays: x ?? 14 })}
          kind="number"
          whole
          max={3650}
          width={100}
        />
      )}
    </>
  );
}

/** What is seldom changed, out of the way until it is wanted. */
function MoreOfPlan({ terms, set }: Part) {
  const { t } = useWords();
  const [open, setOpen] = useState(false);
  const { vat, cases, reorder } = terms;
  const days = (
    label: string,
    value: number,
    onChange: (x: number) => void,
    min = 0,
    max = 3650,
  ): ReactNode => (
    <NumField
      label={t(`overTime.${label}`)}
      value={value}
      onChange={(x) => onChange(x ?? value)}
      kind="number"
      whole
      min={min}
      max={max}
      width={150}
    />
  );
  if (!open)
    return (
      <Box sx={{ width: '100%' }}>
        <Button size="small" aria-expanded={false} onClick={() => setOpen(true)}>
          {t('overTime.more')}
        </Button>
      </Box>
    );
  return (
    <>
      {days('horizon', terms.horizon, (horizon) => set({ horizon }), 1, 1825)}
      <NumField
        label={t('overTime.lowCase')}
        value={cases.low}
        onChange={(x) => set({ cases: { ...cases, low: x ?? cases.low } })}
        kind="percent"
        max={1000}
        width={110}
      />
      <NumField
        label={t('overTime.highCase')}
        value={cases.high}
        onChange={(x) => set({ cases: { ...cases, high: x ?? cases.high } })}
        kind="percent"
        max={1000}
        width={110}
      />
      {reorder.kind !== 'none' && (
        <>
          <ChoiceLine
            label={t('overTime.selfFunding')}
            value={terms.selfFunding ? 'yes' : 'no'}
            options={(['no', 'yes'] as const).map((k) => ({ value: k, label: t(k) }))}
            onChange={(k) => set({ selfFunding: k === 'yes' })}
            width={150}
          />
          <NumField
            label={t('overTime.notBefore')}
            value={reorder.notBefore}
            onChange={(notBefore) => set({ reorder: { ...reorder, notBefore } })}
            kind="number"
            whole
            max={3650}
            width={130}
          />
        </>
      )}
      <ChoiceLine
        label={t('overTime.vatPeriod')}
        value={vat.period}
        options={(['month', 'quarter', 'year'] as const).map((k) => ({
          value: k,
          label: t(`overTime.vatPeriods.${k}`),
        }))}
        onChange={(period) => set({ vat: { ...vat, period } })}
        width={150}
      />
      {days('vatAfter', vat.settledAfter, (settledAfter) => set({ vat: { ...vat, settledAfter } }))}
      {days('vatBack', vat.reclaimedAfter, (reclaimedAfter) => set({ vat: { ...vat, reclaimedAfter } }))}
      {days('cashbackAfter', terms.cashbackAfter, (cashbackAfter) => set({ cashbackAfter }))}
      {days('returnedAfter', terms.returnedAfter, (returnedAfter) => set({ returnedAfter }), 1)}
      <NumField
        label={t('overTime.reserveShare')}
        value={terms.reserveShare}
        onChange={(x) => set({ reserveShare: x ?? 0 })}
        kind="percent"
        max={1}
        width={150}
      />
    </>
  );
}
