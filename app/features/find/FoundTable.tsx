/**
 * What a search found, each row weighed by the workspace's defaults: what it keeps before its goods, and what
 * one may pay. Rows are shortlisted, dropped and kept as those of a list are.
 */
import { Alert, Box, Button, Typography } from '@mui/material';
import { Link } from 'react-router';
import type { FeedRow } from '../../../between/feed.ts';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { MarginBar } from '../../ui/MarginBar.tsx';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import type { TableToSave } from '../../ui/TableFile.tsx';
import { useAddress } from '../../ui/useAddress.ts';
import '../lists/words.ts';
import { TickedRows } from '../lists/TickedRows.tsx';
import { useFoundActs, useWeighed } from './useFound.ts';
import type { FoundActs, FoundFrame, FoundRow, FoundRows } from './useFound.ts';
import { toGoodsOf, toListing, toSeller } from './ways.ts';
import { useWords } from '../../ui/useWords.ts';

/** A search or a list of the feed: what was found, page by page. */
export function FoundTable(p: FoundFrame & { found: FoundRows }) {
  const { t } = useWords();
  const f = useFormat();
  const [search, setAddress] = useAddress();
  const { found } = p;
  const all = useWeighed(found.listings, found.currency, p);
  const acts = useFoundActs(p, found.asOf, found.currency, search.get('words') ?? '');
  // What was dropped is out of the way, unless one looks for it.
  const showsDropped = search.get('list') === 'dropped' || search.get('dropped') === '1';
  const rows = all.rows.filter((r) => showsDropped || r.mark?.state !== 'dropped');
  const hidden = all.rows.length - rows.length;
  const decided = search.get('list') === 'shortlisted' || search.get('list') === 'dropped';
  return (
    <Box component="section" aria-label={t('findMarket.found')}>
      <Typography variant="body2" role="status" sx={{ mb: 0.5 }}>
        {found.total === null
          ? t('findMarket.picked', { count: found.listings.length })
          : t('findMarket.total', { count: found.total })}{' '}
        {t(decided ? 'findMarket.decidedAsOf' : 'findMarket.asOf', { day: f.day(found.asOf) })}
        {hidden > 0 && (
          <Button size="small" sx={{ py: 0 }} onClick={() => setAddress({ dropped: '1' })}>
            {t('findMarket.showDropped', { count: hidden })}
          </Button>
        )}
      </Typography>
      <FoundList rows={rows} scale={all.scale} acts={acts} currency={found.currency} {...p} />
      <Box sx={{ display: 'flex', gap: 1, mt: 0.5 }}>
        {found.next !== null && (
          <Button size="small" onClick={() => setAddress({ cursor: found.next })}>
            {t('findMarket.next')}
          </Button>
        )}
        {search.has('cursor') && (
          <Button size="small" onClick={() => setAddress({ cursor: null })}>
            {t('findMarket.first')}
          </Button>
        )}
        <TableFile table={() => tableOf(t('findMarket.title'), rows)} />
      </Box>
    </Box>
  );
}

const INK = { color: 'inherit' } as const;
const COLUMNS = ['price', 'bar', 'pay', 'units', 'reviews', 'rank', 'days'] as const;

/** Rows under each other on one ruler, with what is done with those that are ticked. */
export function FoundList({
  rows,
  scale,
  acts,
  currency,
  ...p
}: FoundFrame & { rows: readonly FoundRow[]; scale: number; acts: FoundActs; currency: string }) {
  const { t } = useWords();
  const { ticked } = acts;
  const [one] = [...ticked.values()];
  return (
    <>
      {acts.error !== undefined && <Alert severity="error">{acts.error}</Alert>}
      {ticked.size > 0 && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', mb: 0.5 }}>
          <TickedRows
            count={ticked.size}
            canEdit={p.canEdit}
            onMark={(change) => acts.mark([...ticked.values()], change)}
            onKeep={ticked.size === 1 && one !== undefined ? () => acts.keep(one) : null}
            onUntick={acts.untick}
          />
        </Box>
      )}
      <FigureTable label={t('findMarket.found')}>
        <thead>
          <tr>
            <th scope="col">{t('findMarket.column.listing')}</th>
            {COLUMNS.map((k) => (
              <th scope="col" key={k} className={k === 'bar' ? 'text' : undefined}>
                {t(`findMarket.column.${k}`)}
              </th>
            ))}
            <HiddenHead>{t('findMarket.column.act')}</HiddenHead>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <Line key={row.key} row={row} scale={scale} acts={acts} currency={currency} {...p} />
          ))}
        </tbody>
      </FigureTable>
    </>
  );
}

type LineProps = FoundFrame & { row: FoundRow; scale: number; acts: FoundActs; currency: string };
function Line({ row, scale, acts, currency, ...p }: LineProps) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const { item: l, result, pay, mark } = row;
  const dropped = mark?.state === 'dropped';
  return (
    <Box component="tr" sx={dropped ? { color: 'text.secondary' } : {}}>
      <Box component="th" scope="row" sx={{ fontWeight: 400, maxWidth: 330 }}>
        <Box sx={{ display: 'flex', gap: 0.75 }}>
          {p.canEdit && (
            <input
              type="checkbox"
              checked={acts.ticked.has(l.listing)}
              aria-label={t('findMarket.tick', { title: l.title })}
              onChange={() => acts.tick(l)}
              style={{ alignSelf: 'flex-start', marginTop: 4 }}
            />
          )}
          <div>
            <Link
              to={toListing(p, l.listing)}
              style={{ color: 'inherit', display: 'inline-block', minHeight: 24, lineHeight: '24px' }}
              dir="auto">
              {l.title || l.listing}
            </Link>
            <Said row={row} acts={acts} {...p} />
          </div>
        </Box>
      </Box>
      <td>{f.plain(l.price, currency)}</td>
      <td className="text" style={{ minWidth: 170 }}>
        {result === null ? '–' : <MarginBar result={result} scale={scale} />}
      </td>
      <td>
        {pay?.unitPrice == null ? '–' : bounds.of(f.money(pay.unitPrice, pay.currency), pay.incomplete)}
      </td>
      <td>{f.number(l.units, 0)}</td>
      <td>{f.number(l.reviews, 0)}</td>
      <td>{f.number(l.rank, 0)}</td>
      <td>{f.number(l.daysListed, 0)}</td>
      <td>
        <Act row={row} acts={acts} {...p} />
      </td>
    </Box>
  );
}

/** Under its title: code, brand and seller as ways on, and what was decided about it. */
function Said({ row, acts, ...p }: FoundFrame & { row: FoundRow; acts: FoundActs }) {
  const { t } = useWords();
  const { item: l, mark } = row;
  return (
    <Box sx={{ fontSize: '0.78rem', color: 'text.secondary' }}>
      {mark !== null && (
        <>
          <Box component="b" sx={{ color: 'text.primary' }}>
            {t(`findMarket.state.${mark.state}`)}
            {mark.reason === '' ? '' : `: ${mark.reason}`}
          </Box>{' '}
          {p.canEdit && mark.state !== 'kept' && (
            <Button
              size="small"
              disabled={acts.busy}
              sx={{ py: 0, px: 0.5, minWidth: 0, minHeight: 24 }}
              onClick={() => acts.mark([l], null)}
              aria-label={t('findMarket.takeBackThis', { title: l.title })}>
              {t('findMarket.takeBack')}
            </Button>
          )}
          ·{' '}
        </>
      )}
      {l.listing}
      {l.brand !== '' && (
        <>
          {' '}
          ·{' '}
          <Link to={toGoodsOf(p, { brand: l.brand })} style={INK}>
            {l.brand}
          </Link>
        </>
      )}{' '}
      ·{' '}
      <Link to={toSeller(p, l.seller)} style={INK}>
        {l.seller}
      </Link>
      {l.paid ? ` · ${t('findMarket.paid')}` : ''}
    </Box>
  );
}

/** The next step with a row: weigh it, or go to where it is weighed. */
function Act({ row, acts, ...p }: FoundFrame & { row: FoundRow; acts: FoundActs }) {
  const { t } = useWords();
  const { item: l, mark } = row;
  const sx = { py: 0, minHeight: 25 };
  if (mark?.state === 'kept' && mark.candidateId !== null)
    return (
      <Button size="small" sx={sx} component={Link} to={`${p.root}/weigh/${mark.candidateId}/market`}>
        {t('findMarket.open')}
      </Button>
    );
  if (!p.canEdit) return null;
  return (
    <Button
      size="small"
      disabled={acts.busy}
      sx={sx}
      onClick={() => acts.keep(l)}
      aria-label={t('findMarket.keepThis', { title: l.title })}>
      {t('findMarket.keep')}
    </Button>
  );
}

function tableOf(name: string, rows: readonly FoundRow[]): TableToSave {
  const figures: readonly [string, (l: FeedRow) => string | number | boolean | null][] = [
    ['listing', (l) => l.listing],
    ['title', (l) => l.title],
    ['brand', (l) => l.brand],
    ['seller', (l) => l.seller],
    ['category', (l) => l.category],
    ['barcode', (l) => l.gtin],
    ['price', (l) => l.price],
    ['units', (l) => l.units],
    ['reviews', (l) => l.reviews],
    ['rating', (l) => l.rating],
    ['rank', (l) => l.rank],
    ['days listed', (l) => l.daysListed],
    ['offers', (l) => l.offers],
    ['kg', (l) => l.kg],
    ['paid', (l) => l.paid],
  ];
  return {
    name,
    columns: [...figures.map(([title]) => ({ title })), { title: 'most to pay' }, { title: 'decided' }],
    rows: rows.map(({ item, pay, mark }) => [
      ...figures.map(([, of]) => of(item)),
      pay?.unitPrice ?? null,
      mark?.state ?? '',
    ]),
  };
}
