/** The lanes of a comparison under each other, on one ruler. */
import { Box } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef } from 'react';
import type { CardData } from '../../../core/cards/schema.ts';
import type { LaunchPlan } from '../../../core/launch/schema.ts';
import type { QuoteSource } from '../../../core/workspace/records.ts';
import { rulerStep } from '../../ui/MarginBar.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { countryName } from '../../ui/names.ts';
import { barOf } from './useCompared.ts';
import type { Compared, Group, Sort } from './useCompared.ts';
import { useFigureWords } from './useFigureWords.ts';
import { useLines } from './useLines.ts';
import type { Line } from './useLines.ts';
import { LaneLine } from './LaneLine.tsx';
import { useWords } from '../../ui/useWords.ts';

const ROW = 54;
const HEADING = 34;
type Props = {
  lanes: readonly Compared[];
  group: Group;
  per: 'money' | 'hundred';
  local: boolean;
  sort: Sort;
  plan: LaunchPlan;
  quotes: readonly { id: string; data: QuoteSource }[];
  cards: Record<string, CardData>;
  home: string;
  place: (c: Compared) => string;
  pinned: Compared | null;
  chosen: Compared | null;
  print: boolean;
  onPin: (id: string) => void;
  onChoose: (id: string) => void;
  onDrop: ((id: string) => void) | null;
  ticked: ReadonlySet<string>;
  onTick: (ids: readonly string[], to: boolean) => void;
  sheet: string;
};

/** Lanes under lanes on one ruler; only those in view are drawn. */
export function LaneList({
  lanes,
  group,
  per,
  local,
  sort,
  plan,
  quotes,
  cards,
  home,
  place,
  pinned,
  chosen,
  print,
  onPin,
  onChoose,
  onDrop,
  ticked,
  onTick,
  sheet,
}: Props) {
  const { t, i18n } = useWords();
  const said = useFigureWords(plan, home);
  const box = useRef<HTMLDivElement>(null);
  const { lines, detailOf } = useLines(lanes, group, quotes, cards);
  const scale = useMemo(
    () =>
      lanes.reduce(
        (most, c) =>
          Math.max(
            most,
            per === 'money'
              ? c.light.extent
              : (100 * c.light.extent) / (c.light.figures.gross || Number.POSITIVE_INFINITY),
          ),
        1e-9,
      ),
    [lanes, per],
  );
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: (i) => (lines[i]?.kind === 'group' ? HEADING : ROW),
    overscan: 8,
    initialRect: { width: 1100, height: 520 },
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: another grouping has other heights
  useEffect(() => virtual.measure(), [virtual, group, lines.length]);
  const extra = ['unitProfit', 'margin', 'roi', 'breakEven'].includes(sort) ? null : sort;
  // Beside a pinned lane the difference takes the place of the ROI.
  const template = [
    '20px 26px minmax(140px, 1.1fr) minmax(140px, 2fr) 92px 56px',
    ...(pinned === null ? ['56px'] : []),
    '92px',
    ...(extra === null ? [] : ['104px']),
    ...(pinned === null ? [] : ['60px']),
    '26px',
  ].join(' ');
  const pin = useLatest(onPin);
  const choose = useLatest(onChoose);
  const drop = useLatest((id: string) => onDrop?.(id));
  const tick = useLatest((id: string) => onTick([id], !ticked.has(id)));
  const keeps = (c: Compared): number | null => c.light.figures.unitProfit;
  const row = (line: Line, start: number, index: number) => {
    if (line.kind === 'group')
      return (
        <div
          key={`g${line.title}`}
          role="row"
          aria-rowindex={index + 2}
          className="compared-group"
          style={{ transform: `translateY(${start}px)` }}>
          <div role="rowheader">
            {line.title} <span>{line.count}</span>
          </div>
        </div>
      );
    const c = line.lane;
    const bar = barOf(c, per);
    const delta =
      pinned === null || pinned.id === c.id
        ? null
        : keeps(c) === null || keeps(pinned) === null
          ? Number.NaN
          : (keeps(c) as number) - (keeps(pinned) as number);
    return (
      <LaneLine
        key={c.id}
        c={c}
        bar={bar}
        scale={scale}
        template={template}
        start={start}
        index={index}
        local={local}
        home={home}
        place={place(c)}
        land={countryName(c.doc.country, i18n.language)}
        detail={detailOf(c)}
        sort={extra}
        extra={extra === null ? '' : said(c, extra)}
        delta={delta}
        showDelta={pinned !== null}
        pinned={pinned?.id === c.id}
        chosen={chosen?.id === c.id}
        canDrop={onDrop !== null}
        ticked={ticked.has(c.id)}
        onTick={tick}
        onPin={pin}
        onChoose={choose}
        onDrop={drop}
        sheet={sheet}
      />
    );
  };
  const head = (
    <ListHead
      template={template}
      scale={scale}
      units={per === 'hundred' ? '/100' : local ? '' : home}
      extra={extra}
      pinned={pinned !== null}
      allTicked={lanes.length > 0 && lanes.every((c) => ticked.has(c.id))}
      onTickAll={(to) =>
        onTick(
          lanes.map((c) => c.id),
          to,
        )
      }
    />
  );
  if (print) {
    let y = 0;
    const placed = lines.map((line, i) => {
      const at = y;
      y += line.kind === 'group' ? HEADING : ROW;
      return row(line, at, i);
    });
    return (
      <Box role="table" aria-label={t('compare.title')}>
        {head}
        <Box sx={{ position: 'relative' }} style={{ height: y }}>
          {placed}
        </Box>
      </Box>
    );
  }
  return (
    <Box
      ref={box}
      role="table"
      aria-label={t('compare.title')}
      aria-rowcount={lines.length + 1}
      tabIndex={0}
      sx={{ height: 'max(340px, calc(100vh - 300px))', overflow: 'auto', minWidth: 0 }}>
      <Box sx={{ minWidth: 720 }}>
        {head}
        <Box sx={{ position: 'relative' }} style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => row(lines[item.index] as Line, item.start, item.index))}
        </Box>
      </Box>
    </Box>
  );
}

/** The headings, and the ruler that the bars lie on. `units`: what the amounts are in. */
function ListHead({
  template,
  scale,
  units,
  extra,
  pinned,
  allTicked,
  onTickAll,
}: {
  template: string;
  scale: number;
  units: string;
  extra: Sort | null;
  pinned: boolean;
  allTicked: boolean;
  onTickAll: (to: boolean) => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const step = rulerStep(scale);
  const marks: number[] = [];
  for (let x = 0; x <= scale + 1e-9; x += step) marks.push(x);
  return (
    <Box
      role="row"
      aria-rowindex={1}
      sx={{
        display: 'grid',
        gridTemplateColumns: template,
        columnGap: '10px',
        px: '6px',
        height: 30,
        alignItems: 'end',
        position: 'sticky',
        top: 0,
        zIndex: 2,
        bgcolor: 'background.default',
        borderBottom: '1px solid',
        borderColor: 'text.primary',
        fontSize: '0.76rem',
        color: 'text.secondary',
        '& > div': { textAlign: 'right' },
      }}>
      <div role="columnheader">
        <input
          type="checkbox"
          checked={allTicked}
          aria-label={t('compare.tickAll')}
          onChange={() => onTickAll(!allTicked)}
        />
      </div>
      <div role="columnheader">
        <span className="hidden-text">{t('compare.pin', { where: '' })}</span>
      </div>
      <Box role="columnheader" sx={{ textAlign: 'left !important' }}>
        {t('compare.lane')}
      </Box>
      <Box role="columnheader" aria-label={t('compare.bar')} sx={{ position: 'relative', height: 18 }}>
        {marks.map((x) => (
          <Box
            key={x}
            component="span"
            sx={{
              position: 'absolute',
              bottom: 0,
              transform: x === 0 ? 'none' : 'translateX(-50%)',
              fontSize: '0.7rem',
            }}
            style={{ left: `${(100 * x) / scale}%` }}>
            {f.number(x, 0)}
          </Box>
        ))}
      </Box>
      <div role="columnheader">
        {t('compare.keeps')}, {units}
      </div>
      <div role="columnheader">{t('compare.margin')}</div>
      {!pinned && <div role="columnheader">{t('compare.roi')}</div>}
      <div role="columnheader">{t('compare.breaksEven')}</div>
      {extra !== null && <div role="columnheader">{t(`compare.figure.${extra}`)}</div>}
      {pinned && <div role="columnheader">±</div>}
      <div role="columnheader">
        <span className="hidden-text">{t('compare.drop', { where: '' })}</span>
      </div>
    </Box>
  );
}
