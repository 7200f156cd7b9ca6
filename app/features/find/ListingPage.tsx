/** One listing of a market: what is said of it, its variations and offers, and the ways on from it. */
import { Alert, Box, Button, Link as MuiLink, Typography } from '@mui/material';
import { useState } from 'react';
import type { ReactNode } from 'react';
import type { FeedRow } from '../../../between/feed.ts';
import type { ListingSaid } from '../../../between/listingSaid.ts';
import type { MarketplaceCard } from '../../../core/cards/rates.ts';
import { addWords } from '../../i18n.ts';
import { findMarketWords } from '../../locales/en.findMarket.ts';
import { marketWords } from '../../locales/en.market.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { keyed } from '../../ui/keyed.ts';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { FindTrail } from './FindTrail.tsx';
import { FoundList } from './FoundTable.tsx';
import { useFoundActs, useWeighed } from './useFound.ts';
import type { FoundActs, FoundFrame } from './useFound.ts';
import { toSearch } from './ways.ts';
import { useWords } from '../../ui/useWords.ts';

addWords({ ...findMarketWords, ...marketWords });

export type ListingPageProps = FoundFrame & { said: ListingSaid | null; wrong: string[] };

export function ListingPage(p: ListingPageProps) {
  const { t } = useWords();
  const { said } = p;
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <FindTrail
        root={p.root}
        over={[{ to: toSearch(p), name: t('findMarket.title') }]}
        here={said?.listing.listing ?? ''}
      />
      {p.wrong.map((w) => (
        <Alert severity="error" key={w} sx={{ mb: 1 }}>
          {w}
        </Alert>
      ))}
      {said === null ? <Typography>{t('findMarket.listing.none')}</Typography> : <Said {...p} said={said} />}
    </Box>
  );
}

type SaidProps = FoundFrame & { said: NonNullable<ListingPageProps['said']> };
function Said({ said, ...p }: SaidProps) {
  const { t } = useWords();
  const f = useFormat();
  const { listing, row, siblings, neighbours } = said;
  const card = p.cards[p.laneCards.marketplace ?? ''] as MarketplaceCard | undefined;
  const acts = useFoundActs(p, listing.asOf, listing.currency, '');
  const others = (siblings ?? []).filter((s) => s.listing !== listing.listing);
  return (
    <>
      <Typography variant="h4" component="h1" dir="auto" sx={{ mb: 0.5 }}>
        {listing.title || listing.listing}
      </Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        {t('findMarket.listing.as', { day: f.day(listing.asOf) })}{' '}
        <Codes code={listing.listing} gtin={listing.gtin} address={card?.listingAddress ?? ''} />
      </Typography>
      <Pane title={t('findMarket.listing.itself')}>
        <Rows rows={[row]} acts={acts} currency={listing.currency} {...p} />
      </Pane>
      <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' } }}>
        <Facts said={said} />
        <Offers said={said} />
      </Box>
      <VariationTable said={said} />
      <Terms said={said} />
      <Pane title={t('findMarket.listing.siblings')}>
        {others.length === 0 ? (
          <Typography variant="body2">
            {t(listing.gtin === null ? 'findMarket.listing.noBarcode' : 'findMarket.listing.noSiblings')}
          </Typography>
        ) : (
          <Rows rows={others.map(withPack(t))} acts={acts} currency={listing.currency} {...p} />
        )}
      </Pane>
      <Pane
        title={t(listing.rank === null ? 'findMarket.listing.nearPrice' : 'findMarket.listing.neighbours')}>
        {neighbours.length === 0 ? (
          <Typography variant="body2">{t('findMarket.listing.noNeighbours')}</Typography>
        ) : (
          <Rows rows={neighbours} acts={acts} currency={listing.currency} {...p} />
        )}
      </Pane>
    </>
  );
}

/** Its codes, each copied by one press, and its own page where the card says where that is. */
function Codes({ code, gtin, address }: { code: string; gtin: string | null; address: string }) {
  const { t } = useWords();
  const [copied, setCopied] = useState<string | null>(null);
  const copy = (text: string): void =>
    void navigator.clipboard.writeText(text).then(
      () => setCopied(text),
      () => setCopied(null),
    );
  return (
    <>
      {[code, ...(gtin === null ? [] : [gtin])].map((c) => (
        <Button
          key={c}
          size="small"
          onClick={() => copy(c)}
          aria-label={t('findMarket.listing.copy', { code: c })}>
          {copied === c ? t('findMarket.listing.copied', { code: c }) : c}
        </Button>
      ))}
      {address !== '' && (
        <MuiLink
          href={address.replace('{code}', encodeURIComponent(code))}
          target="_blank"
          rel="noreferrer"
          color="inherit">
          {t('findMarket.listing.page')}
        </MuiLink>
      )}
    </>
  );
}

/** A row whose title says how many pieces its pack has, where it is more than one. */
const withPack =
  (t: ReturnType<typeof useWords>['t']) =>
  ({ pack, ...row }: FeedRow & { pack: number }): FeedRow => ({
    ...row,
    title: pack === 1 ? row.title : `${row.title} (${t('findMarket.listing.pack', { count: pack })})`,
  });

function Rows({
  rows,
  acts,
  currency,
  ...p
}: FoundFrame & { rows: readonly FeedRow[]; acts: FoundActs; currency: string }) {
  const weighed = useWeighed(rows, currency, p);
  const own = new Map([...acts.ticked].filter(([code]) => rows.some((r) => r.listing === code)));
  return (
    <FoundList
      rows={weighed.rows}
      scale={weighed.scale}
      acts={{ ...acts, ticked: own }}
      currency={currency}
      {...p}
    />
  );
}

function Facts({ said: { listing: l, permission } }: Pick<SaidProps, 'said'>) {
  const { t } = useWords();
  const f = useFormat();
  const { units } = l;
  const range = { low: f.number(units?.low ?? null, 0), high: f.number(units?.high ?? null, 0) };
  const facts: [string, ReactNode][] = [
    [
      'units',
      units === null
        ? '–'
        : units.stated
          ? t('findMarket.listing.unitsStated', { units: f.number(units.units, 0) })
          : units.low === null || units.high === null
            ? f.number(units.units, 0)
            : t('findMarket.listing.unitsRange', { units: f.number(units.units, 0), ...range }),
    ],
    ['rank', f.number(l.rank, 0)],
    ['reviews', f.number(l.reviews, 0)],
    ['rating', f.number(l.rating, 1)],
    ['days', f.number(l.daysListed, 0)],
    ['kg', l.kg === null ? '–' : `${f.number(l.kg, 2)} kg`],
    ['size', l.sides === null ? '–' : `${l.sides.map((x) => f.number(x, 1)).join(' × ')} cm`],
    ['returns', f.percent(l.returnRate)],
    ['gtin', l.gtin ?? '–'],
    ['permission', t(`market.care.states.${permission?.state ?? 'unknown'}`)],
  ];
  return (
    <Pane title={t('findMarket.listing.facts')}>
      <Box
        component="dl"
        sx={{ m: 0, display: 'grid', gridTemplateColumns: 'auto 1fr', columnGap: 2, rowGap: 0.25 }}>
        {facts.map(([name, value]) => (
          <Box key={name} sx={{ display: 'contents' }}>
            <Box component="dt" sx={{ color: 'text.secondary' }}>
              {t(`findMarket.listing.${name}` as 'findMarket.listing.rank')}
            </Box>
            <Box component="dd" sx={{ m: 0 }}>
              {value}
            </Box>
          </Box>
        ))}
      </Box>
    </Pane>
  );
}

function Offers({ said: { offers } }: Pick<SaidProps, 'said'>) {
  const { t } = useWords();
  const f = useFormat();
  const list = offers?.offers ?? [];
  return (
    <Pane title={t('findMarket.listing.offers')}>
      {list.length === 0 ? (
        <Typography variant="body2">{t('findMarket.listing.noOffers')}</Typography>
      ) : (
        <FigureTable label={t('findMarket.listing.offers')}>
          <thead>
            <tr>
              <th scope="col">{t('findMarket.listing.seller')}</th>
              <th scope="col">{t('findMarket.listing.price')}</th>
              <th scope="col">{t('findMarket.listing.delivery')}</th>
              <th scope="col" className="text">
                {t('findMarket.listing.from')}
              </th>
            </tr>
          </thead>
          <tbody>
            {keyed(list, (o) => o.seller).map(({ key, item: o }) => (
              <tr key={key}>
                <th scope="row" style={{ fontWeight: 400 }}>
                  {o.seller}
                  {o.ownShop ? ` (${t('findMarket.listing.ownShop')})` : ''}
                  {o.isDefault ? `, ${t('findMarket.listing.isDefault')}` : ''}
                </th>
                <td>{f.plain(o.price, offers?.currency ?? '')}</td>
                <td>{f.plain(o.delivery, offers?.currency ?? '')}</td>
                <td className="text">
                  {o.warehouse === null ? '–' : t(`findMarket.listing.${o.warehouse ? 'warehouse' : 'own'}`)}
                </td>
              </tr>
            ))}
          </tbody>
        </FigureTable>
      )}
    </Pane>
  );
}

/** By which terms it is found, and in which free and paid place. */
function Terms({ said: { terms } }: Pick<SaidProps, 'said'>) {
  const f = useFormat();
  const rows = terms.map((x) => ({
    name: `${x.term} (${x.language})`,
    figures: [x.volume, x.freePlace, x.paidPlace].map((n) => f.number(n, 0)),
  }));
  return <Figures title="terms" columns={['term', 'searches', 'freePlace', 'paidPlace']} rows={rows} />;
}

function VariationTable({ said: { listing } }: Pick<SaidProps, 'said'>) {
  const f = useFormat();
  const known = listing.variations.every((v) => v.ratings !== null);
  const all = listing.variations.reduce((sum, v) => sum + (v.ratings ?? 0), 0);
  const rows = listing.variations.map((v) => ({
    name: v.name || v.code,
    figures: [
      f.plain(v.price, listing.currency),
      f.number(v.ratings, 0),
      !known || all === 0 || v.ratings === null ? '–' : f.percent(v.ratings / all, 0),
    ],
  }));
  return <Figures title="variations" columns={['name', 'price', 'ratings', 'share']} rows={rows} />;
}

type Word = keyof (typeof findMarketWords)['findMarket']['listing'];
/** A table of figures by name; nothing where there is no row. */
function Figures({
  title,
  columns,
  rows,
}: {
  title: Word;
  columns: readonly Word[];
  rows: readonly { readonly name: string; readonly figures: readonly string[] }[];
}) {
  const { t } = useWords();
  const name = (word: Word): string => t(`findMarket.listing.${word}`, { count: 0 });
  if (rows.length === 0) return null;
  return (
    <Pane title={name(title)}>
      <FigureTable label={name(title)}>
        <thead>
          <tr>
            {columns.map((c) => (
              <th scope="col" key={c}>
                {name(c)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {keyed(rows, (r) => r.name).map(({ key, item }) => (
            <tr key={key}>
              <th scope="row" style={{ fontWeight: 400 }} dir="auto">
                {item.name}
              </th>
              {item.figures.map((x, i) => (
                <td key={columns[i + 1]}>{x}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </FigureTable>
    </Pane>
  );
}
