/** What stands in a cell of a list's row. */
import { useCallback } from 'react';
import { blanksIn } from '../../../core/lane/blanks.ts';
import { extraOf } from '../../../core/lists/query.ts';
import type { ListColumn } from '../../../core/lists/query.ts';
import { costsOf, listFigureRule } from '../../../core/lists/figures.ts';
import type { ListFigure } from '../../../core/lists/figures.ts';
import { minorDigits } from '../../../core/money/money.ts';
import type { ListRow } from '../../../between/ask.ts';
import { useBounds } from '../../ui/bounds.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { Bounded } from '../../ui/Bounded.tsx';
import { MarginBar } from '../../ui/MarginBar.tsx';
import { figureText } from './RangeLimit.tsx';
import { CopyCode } from './RowParts.tsx';
import { useWords } from '../../ui/useWords.ts';

/** Currencies of purchase and of sale, and the price that fills a bar. */
type Scale = { list: string; sales: string; scale: number };
type CellProps = Scale & { row: ListRow };

/** How a cell is drawn: the same function as long as currencies and scale stay, so that rows are not drawn again. */
export function useCell({ list, sales, scale }: Scale) {
  return useCallback(
    (row: ListRow, id: ListColumn) => <Cell row={row} id={id} list={list} sales={sales} scale={scale} />,
    [list, sales, scale],
  );
}

function Cell({ id, ...p }: CellProps & { id: ListColumn }) {
  const extra = extraOf(id);
  if (extra !== null) return <ExtraCell row={p.row} extra={extra} />;
  switch (id) {
    case 'title':
      return <TitleCell row={p.row} />;
    case 'brand':
    case 'category':
      return <span dir="auto">{p.row[id]}</span>;
    case 'code':
      return <CopyCode code={p.row.code} />;
    case 'verdict':
      return <VerdictCell {...p} />;
    case 'bar':
      return <BarCell {...p} />;
    case 'cost':
      return <CostCell {...p} />;
    default:
      return <FigureCell {...p} id={id as ListFigure} />;
  }
}

function ExtraCell({ row, extra }: { row: ListRow; extra: string }) {
  const { t } = useWords();
  const text = row.more?.[extra] ?? '';
  if (!/^https?:\/\//i.test(text))
    return (
      <span dir="auto" title={text}>
        {text}
      </span>
    );
  return (
    <a href={text} target="_blank" rel="noreferrer noopener" onClick={(e) => e.stopPropagation()}>
      {extra === 'picture' ? t('list.openPicture') : extra === 'link' ? t('list.openLink') : text}
    </a>
  );
}

function TitleCell({ row }: { row: ListRow }) {
  const { t } = useWords();
  return (
    <span className="list-title" dir="auto" title={row.title}>
      {row.title || row.code}
      {row.mark !== '' && <em>{t(`listFlag.${row.mark}`)}</em>}
      {row.removedBy.length > 0 && (
        <em>
          {t('list.takenBy')} {row.removedBy.map((k) => (k < 0 ? t('list.textLimit') : k + 1)).join(', ')}
        </em>
      )}
    </span>
  );
}

/** The verdict, and what would clear a near miss or keeps an unknown row from an answer. */
function VerdictCell({ row, list }: CellProps) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const [first] = row.remedies;
  const pays =
    first?.unitPrice != null && first.unitPrice > 0
      ? t('list.pays', {
          price: f.money(
            floorTo(Math.min(...row.remedies.map((x) => x.unitPrice ?? 0)), minorDigits(list)),
            list,
          ),
          now: f.money(row.figures.paid ?? row.figures.cost ?? null, list),
        })
      : '';
  const blanks = blanksIn(row.blanks);
  const lacks =
    row.trouble !== ''
      ? t(`listTrouble.${row.trouble}`)
      : row.figures.price === null
        ? t('list.unknownPrice')
        : blanks.map((b) => t(`blank.${b}`)).join(', ');
  const explained =
    row.trouble !== ''
      ? t(`listTrouble.${row.trouble}`)
      : row.verdict === 'unknown'
        ? t('answer.incomplete', { blanks: bounds.list(blanks) })
        : pays;
  return (
    <span className={`verdict-${row.verdict}`} title={explained}>
      {t(`listVerdict.${row.verdict}`)}
      {pays !== '' && <small>{pays}</small>}
      {row.verdict === 'unknown' && <small>{lacks}</small>}
    </span>
  );
}

function BarCell({ row, sales, scale }: CellProps) {
  const unitProfit = row.figures.unitProfit ?? null;
  if (row.gross === null || unitProfit === null) return null;
  const [
    tax = null,
    goods = null,
    wayIn = null,
    marketplace = null,
    fulfilment = null,
    returns = null,
    adverts = null,
  ] = row.families;
  return (
    <MarginBar
      height={9}
      scale={Math.max(scale, row.gross)}
      result={{
        currency: sales,
        families: { tax, goods, wayIn, marketplace, fulfilment, returns, other: 0, adverts },
        figures: { gross: row.gross, unitProfit },
        incomplete: { unitProfit: blanksIn(row.blanks).filter((b) => b !== 'demand') },
      }}
    />
  );
}

/** The purchase price, with that of the edition before where it was another. */
function CostCell({ row, list, sales }: CellProps) {
  const { t } = useWords();
  const f = useFormat();
  const { before, cost } = row.figures;
  const changed = before != null && Math.abs(before - (cost ?? 0)) >= 0.005;
  return (
    <span>
      {figureText(f, 'cost', cost, list, sales)}
      {changed && <small>{t('list.before', { price: f.plain(before, list) })}</small>}
    </span>
  );
}

/** A figure, as the bound it is where costs are blank. */
function FigureCell({ row, list, sales, id }: CellProps & { id: ListFigure }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const x = row.figures[id] ?? null;
  const text = figureText(f, id, x, list, sales);
  if (x === null) {
    // Where the profit is known, so is that there is no such price.
    const isSolved = id === 'breakEvenPrice' || id === 'mostToPay';
    return isSolved && row.figures.unitProfit != null ? <small>{t(`list.noAnswer.${id}`)}</small> : text;
  }
  const words = bounds.of(text, blanksIn(row.blanks & costsOf(id)), listFigureRule(id).bound);
  const bounded = <Bounded amount={text} words={words} />;
  if (id !== 'unitProfit' && id !== 'profitPerMonth') return bounded;
  return <b className={x < 0 ? 'loses' : 'keeps'}>{bounded}</b>;
}
