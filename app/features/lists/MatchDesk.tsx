/** Goods beside the listings they could be, one by one: decided by buttons or keys. */
import { Box, Button, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import type { ReactNode } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { ListingSeen, MatchDecision, MatchedRow, PicturesFrom } from '../../../between/matching.ts';
import { codeOfKey } from '../../../core/match/remembered.ts';
import { NumField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { GoodsPicture } from './GoodsPicture.tsx';
import { useWords } from '../../ui/useWords.ts';

/** Whom the feed is asked for pictures of, and under which address. */
type Pictures = { readonly root: string; readonly from: PicturesFrom | null };
const ofListing = ({ from }: Pictures, { code }: ListingSeen) =>
  from === null || from.market === null || code === '' ? null : { market: from.market, code };
const ofGoods = ({ from }: Pictures, { shopCode }: MatchedRow) =>
  from === null || shopCode === '' ? null : { shop: from.shop, code: shopCode };
const LARGE = 128;
const SMALL = 44;

type Packs = { readonly sold: number; readonly bought: number };

/** Whether a key is meant for what has the focus: a button or a link takes Enter itself. */
const isForFocused = (e: KeyboardEvent): boolean =>
  e.target instanceof Element && e.target.closest('a, button, summary') !== null;

/** The rows at the left, the one at hand at the right. */
export function MatchDesk({
  rows: loaded,
  decisions,
  act,
  canEdit,
  told,
  pictures,
}: {
  /** What the server said to the latest decision. */
  told: { readonly error?: string } | undefined;
  pictures: Pictures;
  rows: readonly MatchedRow[];
  decisions: readonly MatchDecision[];
  act: (what: object) => void;
  canEdit: boolean;
}) {
  const { t } = useWords();
  const [at, setAt] = useState(0);
  const [last, setLast] = useState<MatchedRow | null>(null);
  // What was decided here goes at once; whether it is kept shows when the rows come anew.
  const [decidedHere, setDecidedHere] = useState<readonly string[]>([]);
  useEffect(() => {
    if (told?.error !== undefined) setDecidedHere([]);
  }, [told]);
  const isOpen = (r: MatchedRow): boolean =>
    !decidedHere.includes(r.said) || decisions.some((d) => d.said === r.said);
  const rows = loaded.filter(isOpen);
  const row = rows[Math.min(at, rows.length - 1)] ?? null;
  const [packs, setPacks] = useState<Packs | null>(null);
  const move = (to: number): void => {
    setPacks(null);
    setAt(Math.max(0, Math.min(rows.length - 1, to)));
  };
  const decide = (key: string | null): void => {
    if (row === null || !canEdit) return;
    act({ intent: 'decide', said: row.said, key, packs: key === null ? null : packs });
    setPacks(null);
    setLast(row);
    setDecidedHere((before) => [...before, row.said]);
  };
  const undo = (): void => {
    if (last === null) return;
    act({ intent: 'undecide', said: last.said });
    setDecidedHere((before) => before.filter((said) => said !== last.said));
    setLast(null);
  };
  const keys = { preventDefault: true };
  useHotkeys('down', () => move(at + 1), keys, [at, rows]);
  useHotkeys('up', () => move(at - 1), keys, [at, rows]);
  useHotkeys('enter', (e) => !isForFocused(e) && row?.listing != null && decide(row.listing.key), {}, [
    row,
    packs,
  ]);
  useHotkeys('n', () => decide(null), keys, [row]);
  useHotkeys('u', undo, keys, [last]);
  useHotkeys(
    '1,2,3,4,5',
    (_, { keys: pressed }) => {
      const other = row?.others[Number(pressed?.[0]) - 1];
      if (other !== undefined) decide(other.key);
    },
    keys,
    [row, packs],
  );
  if (row === null)
    return last === null ? null : <Button onClick={undo}>{t('matching.undo', { title: last.title })}</Button>;
  const decision = decisions.find((d) => d.said === row.said) ?? null;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '300px 1fr' }, gap: 3 }}>
      <Box
        component="ol"
        sx={{ listStyle: 'none', m: 0, p: 0, maxHeight: { xs: 160, md: 460 }, overflowY: 'auto' }}>
        {rows.map((r, i) => (
          <li key={r.said}>
            <Button
              fullWidth
              size="small"
              aria-current={r === row ? 'true' : undefined}
              onClick={() => move(i)}
              sx={{
                justifyContent: 'flex-start',
                textAlign: 'start',
                fontWeight: r === row ? 650 : 400,
                bgcolor: r === row ? 'paperTint' : 'transparent',
              }}>
              <bdi>{r.title}</bdi>
            </Button>
          </li>
        ))}
      </Box>
      <Box aria-live="polite">
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 2 }}>
          <Goods row={row} pictures={pictures} />
          {row.listing !== null && <Listing listing={row.listing} row={row} pictures={pictures} />}
        </Box>
        <Typography sx={{ my: 1 }} data-testid="match-reason">
          <b>{t(`matching.confidence.${row.confidence}`)}</b>: {t(`matching.reason.${row.reason}`)}
        </Typography>
        {decision !== null ? (
          <Typography>
            {decision.key === null
              ? t('matching.decidedNone')
              : t('matching.decidedAs', { code: codeOfKey(decision.key) })}{' '}
            {canEdit && (
              <Button size="small" onClick={() => act({ intent: 'undecide', said: row.said })}>
                {t('matching.takeBack')}
              </Button>
            )}
          </Typography>
        ) : (
          canEdit && (
            <>
              <PackOf packs={packs ?? row.packs} set={setPacks} />
              <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', my: 1 }}>
                {row.listing !== null && (
                  <Button variant="contained" onClick={() => decide(row.listing?.key ?? null)}>
                    {t('matching.confirm')}
                  </Button>
                )}
                <Button variant="outlined" onClick={() => decide(null)}>
                  {t('matching.refuse')}
                </Button>
                <Button onClick={() => move(at + 1)}>{t('matching.skip')}</Button>
                {last !== null && (
                  <Button color="inherit" onClick={undo}>
                    {t('matching.undo', { title: last.title.slice(0, 40) })}
                  </Button>
                )}
              </Box>
              <Others others={row.others} choose={decide} pictures={pictures} />
              <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
                {t('matching.keys')}
              </Typography>
            </>
          )
        )}
      </Box>
    </Box>
  );
}

/** A picture, and what is said of it beside it. */
function Beside({ picture, children }: { picture: ReactNode; children: ReactNode }) {
  return (
    <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-start' }}>
      {picture}
      <Box sx={{ minWidth: 0 }}>{children}</Box>
    </Box>
  );
}

function Goods({ row, pictures }: { row: MatchedRow; pictures: Pictures }) {
  const { t } = useWords();
  const picture = (
    <GoodsPicture
      root={pictures.root}
      of={ofGoods(pictures, row)}
      title={row.title}
      side={LARGE}
      link={row.picture}
    />
  );
  return (
    <Pane title={t('matching.goods', { line: row.line })}>
      <Beside picture={picture}>
        <Typography sx={{ fontWeight: 650 }}>
          <bdi>{row.title}</bdi>
        </Typography>
        <Typography variant="body2" color="text.secondary">
          {[
            row.brand,
            row.cost === '' ? '' : t('matching.cost', { cost: row.cost }),
            row.barcode === '' ? t('matching.noBarcode') : t('matching.stood', { text: row.barcode }),
          ]
            .filter((x) => x !== '')
            .join(' · ')}
        </Typography>
      </Beside>
    </Pane>
  );
}

type ListingProps = { listing: ListingSeen; row: MatchedRow; pictures: Pictures };
function Listing({ listing, row, pictures }: ListingProps) {
  const { t } = useWords();
  const of = ofListing(pictures, listing);
  const words = new Set(row.title.toLowerCase().split(/\s+/));
  return (
    <Pane title={t('matching.listing')}>
      <Beside picture={<GoodsPicture root={pictures.root} of={of} title={listing.title} side={LARGE} />}>
        <Typography sx={{ fontWeight: 500 }}>
          {/* What both titles say stands out. */}
          <bdi>
            {listing.title.split(/(\s+)/).map((w, i) =>
              // biome-ignore lint/suspicious/noArrayIndexKey: words are told apart by their place alone
              words.has(w.toLowerCase()) ? <b key={i}>{w}</b> : w,
            )}
          </bdi>
        </Typography>
        <About listing={listing} />
      </Beside>
    </Pane>
  );
}

function About({ listing }: { listing: ListingSeen }) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <Typography variant="body2" color="text.secondary" component="span">
      {[
        listing.brand,
        listing.price === null ? '' : t('matching.price', { price: f.number(listing.price) }),
        listing.units === null ? '' : t('matching.units', { units: f.number(listing.units, 0) }),
        t('matching.barcode', { code: codeOfKey(listing.key) }),
      ]
        .filter((x) => x !== '')
        .join(' · ')}
    </Typography>
  );
}

/** Pieces in the packs of both sides: what is typed here goes with the barcode. */
function PackOf({ packs, set }: { packs: Packs; set: (packs: Packs) => void }) {
  const { t } = useWords();
  const field = (which: 'sold' | 'bought') => (
    <NumField
      label={t(`matching.${which}`)}
      value={packs[which]}
      onChange={(v) => v !== null && v >= 1 && set({ ...packs, [which]: v })}
      kind="number"
      whole
      min={1}
      max={10_000}
      width={80}
    />
  );
  return (
    <Box
      role="group"
      aria-label={t('matching.packs')}
      sx={{ display: 'flex', gap: 1, alignItems: 'flex-end' }}>
      <Typography variant="body2" sx={{ pb: 0.75 }}>
        {t('matching.packs')}
      </Typography>
      {field('sold')}
      {field('bought')}
    </Box>
  );
}

type OthersProps = { others: readonly ListingSeen[]; choose: (key: string) => void; pictures: Pictures };
function Others({ others, choose, pictures }: OthersProps) {
  const { t } = useWords();
  if (others.length === 0) return null;
  return (
    <Box component="section" aria-label={t('matching.others')}>
      <Typography variant="body2">{t('matching.others')}</Typography>
      <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none', display: 'grid', gap: 0.75 }}>
        {others.slice(0, 5).map((o, i) => (
          <li key={`${o.key}${o.title}`}>
            <Beside
              picture={
                <>
                  {i + 1}
                  <GoodsPicture
                    root={pictures.root}
                    of={ofListing(pictures, o)}
                    title={o.title}
                    side={SMALL}
                  />
                </>
              }>
              <bdi>{o.title}</bdi> <About listing={o} />{' '}
              <Button
                size="small"
                sx={{ minWidth: 0, py: 0 }}
                aria-label={`${t('matching.choose')}: ${o.title}`}
                onClick={() => choose(o.key)}>
                {t('matching.choose')}
              </Button>
            </Beside>
          </li>
        ))}
      </Box>
    </Box>
  );
}
