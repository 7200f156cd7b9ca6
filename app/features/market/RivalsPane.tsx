/** Rivals: who counts, what they ask and sell, where one's own price stands among theirs. */
import { Box, Checkbox, Typography } from '@mui/material';
import equal from 'fast-deep-equal';
import { memo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { myPriceOf } from '../../../core/evidence/keeps.ts';
import { rivalKey } from '../../../core/evidence/observed.ts';
import { revenueOf } from '../../../core/evidence/rivals.ts';
import type { Rival } from '../../../core/evidence/schema.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { keyed } from '../../ui/keyed.ts';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { toGoodsOf, toSeller, toListing } from '../find/ways.ts';
import { Pane } from '../weigh/Pane.tsx';
import { minorDigits } from '../../../core/money/money.ts';
import { roundMinor } from '../../../core/rules/numbers.ts';
import { priceOfGross } from '../../../core/rules/revenue.ts';
import { useStore } from '../weigh/store.ts';
import { From, IntoLane, NotKnown } from './parts.tsx';
import type { PaneProps } from './parts.tsx';
import { RivalsRuler } from './RivalsRuler.tsx';
import { RivalsSum } from './RivalsSum.tsx';
import { useKeeps } from './useKeeps.ts';
import { useWords } from '../../ui/useWords.ts';

const FIRST = 9;

export function RivalsPane(p: PaneProps) {
  const { t } = useWords();
  const keeps = useKeeps(p.market.view);
  const { said, composed, view } = p.market;
  const page = composed.document.rivals;
  const rivals = said.rivals;
  if (page === null || rivals === null)
    return (
      <Pane title={t('market.rivals.title')}>
        <NotKnown>{t('market.rivals.none')}</NotKnown>
      </Pane>
    );
  const count = (why: string): number => rivals.counted.filter((c) => c === why).length;
  return (
    <Pane
      title={t('market.rivals.title')}
      aside={
        <>
          {t('market.rivals.aside', {
            count: rivals.rows,
            all: page.rows.length,
            paid: count('paid'),
            struck: count('struck') + count('twice'),
          })}{' '}
          · <From kind="rivals" {...p} />
        </>
      }>
      <RivalsRuler
        rows={page.rows}
        said={rivals}
        mine={myPriceOf(composed.document, view.doc)}
        breakEven={said.breakEven}
        even={said.breakEven === null ? '' : keeps.even(said.breakEven)}
        currency={page.currency}
      />
      <RivalTable {...p} />
      <RivalsSum market={p.market} />
      <TableFile
        table={() => ({
          name: `${view.doc.country} ${t('market.rivals.title')}`,
          columns: [
            'counted',
            'listing',
            'title',
            'brand',
            'seller',
            'price',
            'units',
            'revenue',
            'reviews',
            'rating',
            'days listed',
            'offers',
            'paid',
          ].map((title) => ({ title })),
          rows: page.rows.map((r, i) => [
            rivals.counted[i] === true,
            r.listing,
            r.title,
            r.brand,
            r.seller,
            r.price,
            r.units,
            revenueOf(r),
            r.reviews,
            r.rating,
            r.daysListed,
            r.offers,
            r.paid,
          ]),
        })}
      />
    </Pane>
  );
}

/** The rows of the page; a tick decides whether a row counts. */
function RivalTable({ market, decide, canEdit }: PaneProps) {
  const { t } = useWords();
  const [all, setAll] = useState(false);
  const page = market.composed.document.rivals;
  const said = market.said.rivals;
  if (page === null || said === null) return null;
  const few = new Set(said.fewReviews);
  const c = page.currency;
  const { newcomerDays } = market.composed.document.settings;
  const rows = keyed(page.rows, rivalKey).slice(0, all ? page.rows.length : FIRST);
  return (
    <>
      <FigureTable label={t('market.rivals.table')}>
        <thead>
          <tr>
            <th scope="col">{t('market.rivals.listing')}</th>
            <th scope="col">{t('market.rivals.price')}</th>
            <th scope="col">{t('market.rivals.units')}</th>
            <th scope="col">{t('market.rivals.revenue')}</th>
            <th scope="col">{t('market.rivals.reviews')}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ key, item: r, place: i }) => {
            const state = said.counted[i] as Counted;
            return (
              <RivalRow
                key={key}
                rival={r}
                state={state}
                isFew={few.has(i)}
                isNew={r.daysListed !== null && r.daysListed <= newcomerDays}
                // Only the row whose price may be borrowed reads more of the market.
                lends={said.reference === i ? market : null}
                market={market.key}
                currency={c}
                canEdit={canEdit}
                decide={decide}
              />
            );
          })}
        </tbody>
      </FigureTable>
      {page.rows.length > FIRST && (
        <Box
          component="button"
          type="button"
          onClick={() => setAll(!all)}
          sx={{
            all: 'unset',
            cursor: 'pointer',
            textDecoration: 'underline',
            fontSize: '0.85rem',
            '&:focus-visible': { outline: '2px solid' },
          }}>
          {all ? t('market.rivals.less') : t('market.rivals.more', { count: page.rows.length - FIRST })}
        </Box>
      )}
      <Typography variant="body2" color="text.secondary" sx={{ fontSize: '0.78rem' }}>
        {t('market.rivals.money', { currency: c, tax: t(`market.rivals.tax.${page.tax}`) })}{' '}
        {t('market.rivals.gone')}
      </Typography>
    </>
  );
}

type Counted = NonNullable<PaneProps['market']['said']['rivals']>['counted'][number];
type RowProps = {
  rival: Rival;
  state: Counted;
  isFew: boolean;
  isNew: boolean;
  lends: PaneProps['market'] | null;
  market: string;
  currency: string;
  canEdit: boolean;
  decide: PaneProps['decide'];
};

/** A row is drawn again only where something in it is another: a strike-out is answered within a frame. */
const RivalRow = memo(function RivalRow(p: RowProps) {
  const { t } = useWords();
  const f = useFormat();
  const { rival: r, state, lends } = p;
  const counts = state === true;
  const notes = [
    ...(counts ? [] : [t(`market.rivals.out.${state}`)]),
    ...(p.isFew ? [t('market.rivals.few')] : []),
    ...(p.isNew ? [t('market.rivals.listed', { days: r.daysListed })] : []),
    ...(lends === null ? [] : [t('market.rivals.reference')]),
  ];
  return (
    <Box
      component="tr"
      sx={counts ? {} : { color: 'text.secondary', '& td, & .name': { textDecoration: 'line-through' } }}>
      <Box component="th" scope="row" sx={{ fontWeight: 400, display: 'flex', gap: 0.5 }}>
        <Checkbox
          size="small"
          checked={counts}
          disabled={!p.canEdit || state === 'twice'}
          onChange={(e) => void p.decide({ struck: { [rivalKey(r)]: !e.target.checked } })}
          slotProps={{ input: { 'aria-label': t('market.rivals.counts', { title: r.title || r.listing }) } }}
          sx={{ p: 0, alignSelf: 'flex-start' }}
        />
        <Box sx={{ overflowWrap: 'anywhere' }}>
          <span className="name" dir="auto">
            {r.title || r.listing}
          </span>
          <Box sx={{ fontSize: '0.78rem', color: 'text.secondary' }}>
            {notes.join(' · ')}
            {lends !== null && <BorrowPrice rival={r} market={lends} />}
            <Onward rival={r} market={p.market} first={notes.length === 0} />
          </Box>
        </Box>
      </Box>
      <td>{f.plain(r.price, p.currency)}</td>
      <td>{f.number(r.units, 0)}</td>
      <td>{f.number(revenueOf(r), 0)}</td>
      <td>{f.number(r.reviews, 0)}</td>
    </Box>
  );
}, isSameRow);

/** The document is composed anew at every decision: a rival is the same where all it says is. */
function isSameRow(a: RowProps, b: RowProps): boolean {
  const { rival: x, ...before } = a;
  const { rival: y, ...after } = b;
  return (
    (Object.keys(after) as (keyof typeof after)[]).every((k) => before[k] === after[k]) &&
    (x === y || equal(x, y))
  );
}

/** From a row to its listing, and to everything of its brand and its seller. */
function Onward({ rival, market, first }: { rival: Rival; market: string; first: boolean }) {
  const { workspace } = useParams();
  const place = { root: `/w/${workspace}`, market };
  const { listing, brand, seller } = rival;
  const ways = [
    { text: listing, to: toListing(place, listing) },
    { text: brand, to: toGoodsOf(place, { brand }) },
    { text: seller, to: toSeller(place, seller) },
  ].filter((w) => w.text !== '');
  return ways.map(({ text, to }, i) => (
    <span key={to}>
      {first && i === 0 ? '' : ' · '}
      <Link to={to} style={{ color: 'inherit' }}>
        {text}
      </Link>
    </span>
  ));
}

/** The price of the middle one of those that earn most, for the lane: it says that it is borrowed. */
function BorrowPrice({ rival, market }: { rival: Rival; market: PaneProps['market'] }) {
  const { t } = useWords();
  const store = useStore();
  const { doc, id } = market.view;
  const price =
    rival.price === null ? -1 : priceOfGross(rival.price, doc.shippingCharged, doc.averageDiscount);
  if (!store.canEdit || price < 0 || market.composed.document.rivals?.currency !== doc.currency) return null;
  const lend = (): void => {
    const to = roundMinor(price, 10 ** minorDigits(doc.currency));
    const date = market.composed.origins.rivals?.asOf ?? null;
    const note = (rival.listing || rival.title).slice(0, 200);
    store.edit([{ entity: 'lane', id, path: ['price'], to }], { source: 'borrowed', date, note });
    void store.flush();
  };
  return <IntoLane act={lend} label={t('market.borrowPrice')} />;
}
