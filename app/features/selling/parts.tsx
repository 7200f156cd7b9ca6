/** Parts of the places of what sells: two bars on one ruler, what a product's standing is in a sentence. */
import { Fragment } from 'react';
import { Trans } from 'react-i18next';
import type { ActualLine } from '../../../core/actuals/actual.ts';
import type { Stands } from '../../../core/actuals/compare.ts';
import type { Decision } from '../../../core/actuals/decide.ts';
import type { Gist } from '../../../core/actuals/gist.ts';
import { barExtent, MarginBar } from '../../ui/MarginBar.tsx';
import type { BarResult } from '../../ui/MarginBar.tsx';
import { useFormat } from '../../ui/locale.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

/** A unit as a bar draws it, planned or actual. */
function barOf(g: Gist, which: 'planned' | 'actual'): BarResult {
  const { gross, unitProfit, families, lacks } = g[which];
  return {
    currency: g.currency,
    families,
    figures: { gross, unitProfit },
    incomplete: { unitProfit: lacks.length === 0 ? undefined : lacks },
  };
}

/** A unit as planned over a unit as it was, on one ruler. */
export function TwoBars({ gist }: { gist: Gist }) {
  const { t } = useWords();
  const bars = (['planned', 'actual'] as const).map((which) => ({ which, result: barOf(gist, which) }));
  const scale = Math.max(...bars.map((b) => barExtent(b.result)));
  return (
    <div className="two-bars">
      {bars.map(({ which, result }) => (
        <Fragment key={which}>
          <span>{t(`selling.${which}`)}</span>
          {result.figures.gross === null ? (
            <span>–</span>
          ) : (
            <MarginBar result={result} scale={scale} height={11} />
          )}
        </Fragment>
      ))}
    </div>
  );
}

/** A line's name; what made good a loss is none of a plan's. */
export function useLineName(): (line: ActualLine | 'price') => string {
  const { t } = useWords();
  return (line) =>
    line === 'price'
      ? t('selling.byPrice')
      : line === 'reimbursement'
        ? t('launched.reimbursement')
        : t(`lines.${line}`);
}

/** Lines of which it is said what one may do about them. */
const ADVICE = [
  'price',
  'adverts',
  'returns',
  'referral',
  'fulfilment',
  'storage',
  'breakage',
  'goods',
] as const;

/** How a product stands, in a sentence, and what one may do; `currency` null: nothing has been settled. */
export function StandsSaid({
  stands,
  currency,
  advises = true,
  isPart = false,
}: {
  stands: Stands;
  currency: string | null;
  /** Says what one may do about the line that did most; not where decisions stand beside it. */
  advises?: boolean;
  /** A cost is known neither to the plan nor to the reports: what is said is of the others. */
  isPart?: boolean;
}) {
  const { t } = useWords();
  const f = useFormat();
  const nameOf = useLineName();
  if (currency === null) return <p className="stands quiet">{t('selling.stands.nothing')}</p>;
  const because =
    stands.because === null
      ? ''
      : t('selling.because', {
          line: nameOf(stands.because),
          amount: `${(stands.amount ?? 0) > 0 ? '+' : ''}${f.money(stands.amount, currency)}`,
        });
  const isGood = stands.standing === 'asPlanned' || stands.standing === 'paysMore';
  const isLess = stands.standing === 'paysLess' || stands.standing === 'loses';
  const advice = !isLess || !advises ? undefined : ADVICE.find((a) => a === stands.because);
  return (
    <p className="stands">
      <Trans
        i18nKey={`selling.stands.${stands.standing}${isPart && isGood ? 'InPart' : ''}`}
        values={{ because }}
        components={{ b: <strong className={stands.standing === 'loses' ? 'loss' : ''} /> }}
      />{' '}
      {advice !== undefined && t(`selling.advice.${advice}`)}
    </p>
  );
}

/** What is to be decided, each with the sum behind it. */
export function Decisions({
  decisions,
  currency,
  home,
}: {
  decisions: readonly Decision[];
  currency: string;
  home: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  if (decisions.length === 0) return null;
  const said = (d: Decision): string => {
    const money = (x: number): string => f.money(x, currency);
    switch (d.what) {
      case 'raisePrice':
        return t('selling.decide.raisePrice', {
          from: money(d.from),
          price: money(d.price),
          gap: money(d.gap),
        });
      case 'cutAdverts':
        return t('selling.decide.cutAdverts', {
          planned: money(d.planned),
          actual: money(d.actual),
          year: money(-d.year),
        });
      case 'claim':
        return t('selling.decide.claim', { amount: money(d.amount), count: d.count });
      case 'reorder':
        return t(d.soldOut === null ? 'selling.decide.reorder' : 'selling.decide.reorderShort', {
          units: f.number(d.quantity, 0),
          day: f.day(d.day),
          money: f.money(d.money, home),
          soldOut: f.day(d.soldOut ?? d.day),
        });
      case 'letGo':
        return t('selling.decide.letGo', { each: money(-d.each), year: money(-d.year) });
    }
  };
  return (
    <ul className="decisions" aria-label={t('selling.decide.title')}>
      {decisions.map((d) => (
        <li key={d.what}>{said(d)}</li>
      ))}
    </ul>
  );
}
