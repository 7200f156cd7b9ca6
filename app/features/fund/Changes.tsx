/** What would change the launch: a few other plans, each run whole, each tried by one press. */
import { memo, useDeferredValue, useMemo } from 'react';
import { dayText } from '../../../core/cash/calendar.ts';
import { otherPlans } from '../../../core/cash/others.ts';
import type { Otherwise } from '../../../core/cash/others.ts';
import type { CashPlan } from '../../../core/cash/schema.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import type { AheadPart } from './fundParts.tsx';
import type { useTried } from './useTried.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  start: string;
  asked: { readonly doc: LaneDocument; readonly plan: CashPlan };
  set: AheadPart['set'];
  attempt: ReturnType<typeof useTried>['attempt'];
};

/** Follows a key a moment later: the launch itself comes first. */
export function Changes(p: Props) {
  return <Others {...p} asked={useDeferredValue(p.asked)} />;
}

const Others = memo(function Others({ start, asked: { doc, plan }, set, attempt }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const others = useMemo(() => otherPlans(doc, plan), [doc, plan]);
  const nameOf = useOtherwise(doc);
  const go = (o: Otherwise): void => ('lane' in o ? attempt(o.lane) : set(o.plan));
  if (others.length === 0) return null;
  return (
    <Pane title={t('overTime.change')}>
      <FigureTable label={t('overTime.change')}>
        <thead>
          <tr>
            <HiddenHead>{t('overTime.change')}</HiddenHead>
            <th scope="col">{t('quantities.row.moneyNeeded')}</th>
            <th scope="col">{t('quantities.row.payback')}</th>
            <th scope="col">{t('quantities.row.daysShort')}</th>
            <HiddenHead>{t('overTime.try')}</HiddenHead>
          </tr>
        </thead>
        <tbody>
          {others.map(({ otherwise, expected: c }) => (
            <tr key={otherwise.what}>
              <th scope="row">{nameOf(otherwise)}</th>
              <td>{f.number(c.moneyNeeded, 0)}</td>
              <td className={c.payback === null ? 'loss' : undefined}>
                {c.payback === null ? t('overTime.notBack') : f.dayShort(dayText(start, c.payback))}
              </td>
              <td className={c.daysShort > 0 ? 'loss' : undefined}>{f.number(c.daysShort, 0)}</td>
              <td>
                <button
                  type="button"
                  className="figure"
                  aria-label={`${t('overTime.try')}: ${nameOf(otherwise)}`}
                  onClick={() => go(otherwise)}>
                  {t('overTime.try')}
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </FigureTable>
      <TableFile
        table={() => ({
          name: t('overTime.change'),
          columns: [
            t('overTime.change'),
            t('quantities.row.moneyNeeded'),
            t('quantities.row.payback'),
            t('quantities.row.daysShort'),
          ].map((title) => ({ title })),
          rows: others.map(({ otherwise, expected: c }) => [
            nameOf(otherwise),
            c.moneyNeeded,
            c.payback === null ? null : dayText(start, c.payback),
            c.daysShort,
          ]),
        })}
      />
    </Pane>
  );
});

/** What is otherwise, in words. */
function useOtherwise(doc: LaneDocument): (o: Otherwise) => string {
  const { t } = useWords();
  const f = useFormat();
  return (o) => {
    if (o.what === 'quantity')
      return t('overTime.changes.quantity', { n: f.number(o.lane.orderQuantity, 0) });
    if (o.what === 'price')
      return t('overTime.changes.price', { price: f.plain(o.lane.price, doc.currency) });
    if (o.what === 'start') return t('overTime.changes.start', { day: f.dayShort(o.plan.start ?? '') });
    return t(`overTime.changes.${o.what}`);
  };
}
