/** One lane of a comparison. */
import { memo } from 'react';
import { Link } from 'react-router';
import { MarginBar } from '../../ui/MarginBar.tsx';
import { Bounded } from '../../ui/Bounded.tsx';
import { useBounds } from '../../ui/bounds.ts';
import { useBoundOf } from '../../ui/resultFigures.ts';
import { useFormat } from '../../ui/locale.ts';
import { type barOf, breakEvenOf, resultOf } from './useCompared.ts';
import type { Compared, Sort } from './useCompared.ts';
import { useWords } from '../../ui/useWords.ts';

type LineProps = {
  c: Compared;
  bar: ReturnType<typeof barOf>;
  scale: number;
  template: string;
  start: number;
  index: number;
  local: boolean;
  home: string;
  place: string;
  land: string;
  detail: string;
  sort: Sort | null;
  /** The figure they are sorted by, in words. */
  extra: string;
  delta: number | null;
  showDelta: boolean;
  pinned: boolean;
  chosen: boolean;
  canDrop: boolean;
  ticked: boolean;
  onTick: (id: string) => void;
  onPin: (id: string) => void;
  onChoose: (id: string) => void;
  onDrop: (id: string) => void;
  sheet: string;
};

export const LaneLine = memo(function LaneLine({
  c,
  bar,
  scale,
  template,
  start,
  index,
  local,
  home,
  place,
  land,
  detail,
  sort,
  extra,
  delta,
  showDelta,
  pinned,
  chosen,
  canDrop,
  ticked,
  onTick,
  onPin,
  onChoose,
  onDrop,
  sheet,
}: LineProps) {
  const { t } = useWords();
  const f = useFormat();
  const result = resultOf(c);
  const shown = local ? result : (bar ?? result);
  const profit = shown.figures.unitProfit;
  const bounds = useBounds();
  const boundOf = useBoundOf();
  const lacking = result.incomplete.unitProfit;
  const [problem] = result.problems;
  const even = breakEvenOf(c.doc);
  const short = (amount: string, figure: 'unitProfit' | 'margin' | 'roi') => (
    <Bounded amount={amount} words={boundOf(amount, result, figure)} />
  );
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: for the pointer; the row's buttons have the keyboard
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={chosen}
      className={`compared${chosen ? ' chosen' : ''}${pinned ? ' pinned' : ''}`}
      style={{ transform: `translateY(${start}px)`, gridTemplateColumns: template }}
      onClick={() => onChoose(c.id)}>
      <div role="cell">
        <input
          type="checkbox"
          checked={ticked}
          aria-label={t('compare.tick', { where: place })}
          onClick={(e) => e.stopPropagation()}
          onChange={() => onTick(c.id)}
        />
      </div>
      <div role="cell">
        <button
          type="button"
          aria-pressed={pinned}
          aria-label={pinned ? t('compare.unpin') : t('compare.pin', { where: place })}
          title={pinned ? t('compare.pinned') : t('compare.pin', { where: place })}
          onClick={(e) => {
            e.stopPropagation();
            onPin(c.id);
          }}>
          ⇥
        </button>
      </div>
      <div role="rowheader" className="where">
        <Link
          to={`${sheet}?lane=${c.id}`}
          onClick={(e) => e.stopPropagation()}
          aria-label={t('compare.openSheet', { where: place })}>
          {land}
        </Link>
        <small>{detail}</small>
      </div>
      <div role="cell">
        {bar === null ? (
          <small>{t('lanes.noRate')}</small>
        ) : (
          <MarginBar result={bar} scale={scale} height={13} />
        )}
        {profit !== null && bounds.lacks(lacking) && (
          <small className="lacks">{t('compare.notKnown', { list: bounds.list(lacking ?? []) })}</small>
        )}
      </div>
      <div role="cell" className="num">
        <b className={profit !== null && profit < 0 ? 'loses' : ''}>
          {profit === null
            ? '–'
            : short(local ? f.money(profit, c.doc.currency) : f.plain(profit, home), 'unitProfit')}
        </b>
        <small>
          {profit === null
            ? problem === undefined
              ? t('compare.problem')
              : t(`problemShort.${problem.code}`)
            : profit < 0
              ? t('lanes.losesWord')
              : c.doc.currency === home
                ? ''
                : local
                  ? f.money(c.light.figures.unitProfit, home)
                  : f.money(result.figures.unitProfit, c.doc.currency)}
        </small>
      </div>
      <div role="cell" className="num">
        {short(f.percent(result.figures.margin), 'margin')}
      </div>
      {!showDelta && (
        <div role="cell" className="num">
          {short(f.percent(result.figures.roi, 0), 'roi')}
        </div>
      )}
      <div role="cell" className="num">
        {even === null ? (
          '–'
        ) : (
          <Bounded
            amount={f.money(even, c.doc.currency)}
            words={bounds.of(f.money(even, c.doc.currency), lacking, 'above')}
          />
        )}
        <small>{c.doc.price === null ? '' : f.money(c.doc.price, c.doc.currency)}</small>
      </div>
      {sort !== null && (
        <div role="cell" className="num">
          {extra}
        </div>
      )}
      {showDelta && (
        <div role="cell" className="num">
          {delta === null ? (
            ''
          ) : (
            <button
              type="button"
              aria-pressed={chosen}
              aria-label={t('compare.why', { where: place })}
              title={t('compare.why', { where: place })}
              onClick={(e) => {
                e.stopPropagation();
                onChoose(c.id);
              }}>
              {Number.isNaN(delta) ? '–' : `${delta > 0 ? '+' : ''}${f.plain(delta, home)}`}
            </button>
          )}
        </div>
      )}
      <div role="cell">
        {canDrop && (
          <button
            type="button"
            aria-label={t('compare.drop', { where: place })}
            onClick={(e) => {
              e.stopPropagation();
              onDrop(c.id);
            }}>
            ×
          </button>
        )}
      </div>
    </div>
  );
});
