import { Alert, Box, Button, InputBase, Menu, MenuItem, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import type { ReactNode } from 'react';
import { Link, useFetcher } from 'react-router';
import type { CellError, Tables } from '../../../core/cards/reader.ts';
import { CARD_KINDS } from '../../../core/cards/schema.ts';
import { draftOf } from '../../../core/cards/tables.ts';
import { roughCard } from '../../../core/schedules/rough.ts';
import type { Origin } from '../../../core/packs/schema.ts';
import type { CardData, CardKind } from '../../../core/cards/schema.ts';
import type { RowChange } from '../../../core/cards/tables.ts';
import type { MarketplaceCard, TaxCard } from '../../../core/cards/rates.ts';
import type { Standing } from '../../../core/lane/schema.ts';
import type { ExchangeTable } from '../../../core/money/money.ts';
import { isOffered } from '../../../core/workspace/offered.ts';
import { fieldInput } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { useAddress } from '../../ui/useAddress.ts';
import { ChangeList } from './ChangeList.tsx';
import { ExchangeRows, MarketplaceTables, PlainTables } from './CardTables.tsx';
import { TaxTables } from './TaxTables.tsx';
import type { Item } from '../../../core/compare/tryItem.ts';
import { ProofsOfCard } from './ProofsPane.tsx';
import type { Kept } from './ProofsPane.tsx';
import { TryIt } from './TryIt.tsx';
import type { Beside } from './TryIt.tsx';
import './words.ts';
import './scheduleWords.ts';
import { CardHead } from './CardHead.tsx';
import { useWords } from '../../ui/useWords.ts';

export type Version = {
  id: string;
  kind: CardKind;
  key: string;
  name: string;
  inForceFrom: string;
  example: boolean;
  withdrawn: boolean;
};
export type Props = {
  versions: Version[];
  drafts: { id: string; kind: CardKind; name: string }[];
  chosen: (Version & { data: CardData; origin?: Origin | null }) | null;
  against: (Version & { data: CardData }) | null;
  changes: RowChange[];
  tax: CardData | null;
  beside: Beside | null;
  exchange: ExchangeTable | null;
  homeCurrency: string;
  hideExamples: boolean;
  standings: Record<string, Standing>;
  /** What was really charged, of the chosen marketplace. */
  proofs: readonly Kept[];
  today: string;
  base: string;
  canEdit: boolean;
  outside: boolean;
};
export type Answer = {
  errors?: CellError[];
  preview?: {
    kind: CardKind;
    cells: Tables;
    errors: CellError[];
    changes: RowChange[];
    counts: { added: number; changed: number; removed: number };
    comma: boolean;
    from: string;
  };
  rates?: { tables: ExchangeTable[] };
  rateErrors?: CellError[];
  fetched?: { at: string; stale: boolean; card: string | null } | null;
};

/** The cards behind every figure: what is in force, its versions, and any item tried on it. */
export function RatesPage(props: Props) {
  const { versions, drafts, chosen, homeCurrency, standings, today, base, canEdit } = props;
  const { t, i18n } = useWords();
  const f = useFormat();
  const [search, setAddress] = useAddress();
  const [words, setWords] = useState('');
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const fetcher = useFetcher<Answer>();
  const card = chosen?.kind === 'marketplace' ? (chosen.data as MarketplaceCard) : null;
  const [item, setItem] = useState<Item>({ sides: [28, 18, 11], kg: 0.85, category: '', price: null });
  const category = card?.categories.some((c) => c.key === item.category)
    ? item.category
    : (card?.categories[0]?.key ?? '');
  const price = item.price ?? (card === null ? null : examplePrice(card.currency, props.exchange));
  const newest = current(versions, today);
  const label = (v: Version): string => (v.kind === 'tax' ? countryName(v.key, i18n.language) : v.name);
  const found = newest.filter((v) =>
    `${label(v)} ${v.key}`.toLowerCase().includes(words.trim().toLowerCase()),
  );
  const post = (body: Record<string, string>): void => void fetcher.submit(body, { method: 'post' });
  const thrown = search.get('thrown');
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap', mb: 1.5 }}>
        <Typography variant="h1">{t('nav.rates')}</Typography>
        <Typography color="text.secondary" sx={{ flex: 1 }}>
          {t('rates.lead')}
        </Typography>
        {canEdit && (
          <Button component={Link} to="read" variant="outlined" size="small">
            {t('read.open')}
          </Button>
        )}
        <Button component={Link} to="packs" size="small">
          {t('rates.packs')}
        </Button>
        {canEdit && (
          <Button onClick={(e) => setMenu(e.currentTarget)} aria-haspopup="menu">
            {t('cards.newCard')}
          </Button>
        )}
        <Menu
          open={menu !== null}
          anchorEl={menu}
          onClose={() => setMenu(null)}
          onClick={() => setMenu(null)}>
          {CARD_KINDS.map((kind) => (
            <MenuItem key={kind} onClick={() => post({ intent: 'new', kind })}>
              {t(`cards.kind.${kind}`)}
            </MenuItem>
          ))}
        </Menu>
      </Box>
      {thrown !== null && canEdit && (
        <Alert
          severity="info"
          variant="outlined"
          sx={{ mb: 1.5 }}
          onClose={() => setAddress({ thrown: null })}
          action={
            <Button size="small" onClick={() => post({ intent: 'restoreDraft', id: thrown })}>
              {t('undo')}
            </Button>
          }>
          {t('draft.thrown')}
        </Alert>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '220px 1fr' }, gap: 3 }}>
        <Box component="nav" aria-label={t('rates.cards')}>
          <InputBase
            value={words}
            onChange={(e) => setWords(e.target.value)}
            placeholder={t('cards.find')}
            inputProps={{ 'aria-label': t('cards.find') }}
            sx={{ ...fieldInput(false), mb: 1 }}
          />
          <Box
            tabIndex={0}
            role="group"
            aria-label={t('rates.cards')}
            sx={{ maxHeight: { xs: 200, md: 'calc(100vh - 190px)' }, overflowY: 'auto', pr: 1 }}>
            {drafts.length > 0 && (
              <Group title={t('cards.drafts')}>
                {drafts.map((d) => (
                  <CardLink key={d.id} to={`draft/${d.id}`} here={false}>
                    {d.name || t(`cards.one.${d.kind}`)}
                  </CardLink>
                ))}
              </Group>
            )}
            <CardsByKind cards={found.filter((v) => !v.example)} chosen={chosen} label={label} />
            {found.some((v) => v.example) && (
              <Examples
                hidden={props.hideExamples}
                onHide={canEdit ? (hide) => post({ intent: hide ? 'hideExamples' : 'showExamples' }) : null}>
                <CardsByKind
                  cards={found.filter((v) => v.example && isOffered(v, props))}
                  chosen={chosen}
                  label={label}
                />
              </Examples>
            )}
          </Box>
        </Box>
        <Box sx={{ minWidth: 0 }}>
          {chosen === null ? (
            <Typography>{t('rates.none')}</Typography>
          ) : (
            <>
              <CardHead {...props} chosen={chosen} label={label(chosen)} fetcher={fetcher} />
              {chosen.origin != null && (
                <Typography variant="body2" color="text.secondary" dir="auto">
                  {t('rates.fromPack', { source: chosen.origin.source, date: f.day(chosen.origin.day) })}
                </Typography>
              )}
              {card !== null && !chosen.example && <RoughParts card={card} proofs={props.proofs.length} />}
              {'note' in chosen.data && chosen.data.note && (
                <Typography variant="body2" color="text.secondary" sx={{ mb: 1.5 }} dir="auto">
                  {chosen.data.note}
                </Typography>
              )}
              {props.against !== null ? (
                <Box sx={{ maxWidth: 760 }}>
                  <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
                    {t('change.title', {
                      name: label(chosen),
                      a: f.day(props.against.inForceFrom),
                      b: f.day(chosen.inForceFrom),
                    })}
                  </Typography>
                  {props.changes.length === 0 ? (
                    <Typography>{t('change.none')}</Typography>
                  ) : (
                    <ChangeList kind={chosen.kind} changes={props.changes} />
                  )}
                </Box>
              ) : card !== null ? (
                <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1fr 340px' }, gap: 4 }}>
                  <MarketplaceTables card={card} item={item} category={category} price={price} />
                  <Box sx={{ display: 'grid', gap: 2, alignContent: 'start' }}>
                    <TryIt
                      card={card}
                      tax={props.tax as TaxCard | null}
                      item={item}
                      setItem={setItem}
                      category={category}
                      price={price}
                      homeCurrency={homeCurrency}
                      standings={standings}
                      today={today}
                      exchange={props.exchange}
                      others={newest
                        .filter((v) => v.kind === 'marketplace' && v.id !== chosen.id)
                        .map((v) => ({ id: v.id, name: v.name }))}
                      beside={props.beside}
                      onBeside={(id) => setAddress({ beside: id })}
                    />
                    <ProofsOfCard
                      key={chosen.key}
                      cardId={chosen.id}
                      cardKey={chosen.key}
                      card={card}
                      tax={props.tax as TaxCard | null}
                      by={{ homeCurrency, standings, today }}
                      proofs={props.proofs}
                      canEdit={canEdit}
                      readUrl={`${base}/rates/read`}
                    />
                  </Box>
                </Box>
              ) : chosen.kind === 'tax' ? (
                <TaxTables
                  card={chosen.data as TaxCard}
                  standing={standings[chosen.key] ?? null}
                  base={base}
                />
              ) : chosen.kind === 'exchange' ? (
                <ExchangeRows table={chosen.data as ExchangeTable} />
              ) : (
                <PlainTables kind={chosen.kind} data={chosen.data} />
              )}
            </>
          )}
        </Box>
      </Box>
    </Box>
  );
}

/** The cards of each kind, under its name. */
function CardsByKind({
  cards,
  chosen,
  label,
}: {
  cards: readonly Version[];
  chosen: Version | null;
  label: (v: Version) => string;
}) {
  const { t } = useWords();
  return CARD_KINDS.map((kind) => {
    const own = cards.filter((h) => h.kind === kind);
    return own.length === 0 ? null : (
      <Group key={kind} title={t(`cards.kind.${kind}`)}>
        {own.map((h) => (
          <CardLink key={h.id} to={`?card=${h.id}`} here={h.kind === chosen?.kind && h.key === chosen.key}>
            {label(h)}
          </CardLink>
        ))}
      </Group>
    );
  });
}

/** A price of about thirty euros in the card's currency, to start trying with. */
function examplePrice(currency: string, exchange: ExchangeTable | null): number {
  const rate = exchange === null || currency === exchange.base ? 1 : (exchange.rates[currency] ?? 1);
  const x = 29.9 * rate;
  return x > 1000 ? Math.round(x / 10) * 10 : Math.round(x * 100) / 100;
}

/** Of each card the version in force on a day, else its first to come, else its last. */
function current(versions: readonly Version[], today: string): Version[] {
  const byKey = new Map<string, Version[]>();
  for (const v of versions) byKey.set(`${v.kind}/${v.key}`, [...(byKey.get(`${v.kind}/${v.key}`) ?? []), v]);
  return [...byKey.values()].flatMap((list) => {
    const live = list.filter((v) => !v.withdrawn);
    return live.find((v) => v.inForceFrom <= today) ?? live[live.length - 1] ?? list[0] ?? [];
  });
}

function Group({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <Box sx={{ mb: 2 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

function CardLink({ to, here, children }: { to: string; here: boolean; children: React.ReactNode }) {
  return (
    <Box
      component={Link}
      to={to}
      prefetch="intent"
      preventScrollReset
      aria-current={here ? 'page' : undefined}
      dir="auto"
      sx={{
        display: 'block',
        fontSize: '0.88rem',
        py: 0.35,
        px: 1,
        ml: -1,
        borderRadius: 1,
        color: 'text.primary',
        textDecoration: 'none',
        bgcolor: here ? 'paperTint' : 'transparent',
        fontWeight: here ? 650 : 400,
        overflowWrap: 'anywhere',
      }}>
      {children}
    </Box>
  );
}

/** The cards that the program came with, which can be kept out of sight wherever one chooses. */
function Examples({
  hidden,
  onHide,
  children,
}: {
  hidden: boolean;
  onHide: ((hide: boolean) => void) | null;
  children: ReactNode;
}) {
  const { t } = useWords();
  return (
    <details open>
      <Box
        component="summary"
        sx={{ fontSize: '0.84rem', color: 'text.secondary', cursor: 'pointer', py: 0.5 }}>
        {t('cards.examples')}
      </Box>
      {onHide !== null && (
        <Button
          size="small"
          onClick={() => onHide(!hidden)}
          sx={{ px: 0, minWidth: 0, fontWeight: 400, textAlign: 'start' }}>
          {t(hidden ? 'rates.showExamples' : 'rates.hideExamples')}
        </Button>
      )}
      {children}
    </details>
  );
}

/** What one's own card still lacks, with what would make it right. */
function RoughParts({ card, proofs }: { card: MarketplaceCard; proofs: number }) {
  const { t } = useWords();
  const rough = useMemo(() => roughCard(draftOf('marketplace', card)), [card]);
  if (rough.length === 0 && proofs > 0) return null;
  return (
    <Box sx={{ fontSize: '0.86rem', mb: 1.5 }}>
      <b>{t('read.rough')}</b>
      <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
        {rough.map((r) => (
          <li key={r.code}>{t(`read.roughs.${r.code}`, r.code === 'noSides' ? { tiers: r.tiers } : {})}</li>
        ))}
        {proofs === 0 && <li>{t('read.roughs.noProofs')}</li>}
      </Box>
    </Box>
  );
}
