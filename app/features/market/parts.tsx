/**
 * What the panes of a market share: where a figure comes from, a press that puts it into the lane, a strip of
 * facts.
 */
import { Box, Button, Typography } from '@mui/material';
import { useCallback, useEffect, useState } from 'react';
import type { ReactNode } from 'react';
import type { TFunction } from 'i18next';
import type { ObservedKind, Watch } from '../../../core/evidence/observed.ts';
import type { EarlierObservation, Gist } from '../../../core/evidence/observed.ts';
import { tell } from '../../ui/client.ts';
import { Popover } from '../../ui/later.tsx';
import { useFormat } from '../../ui/locale.ts';
import type { Format } from '../../ui/locale.ts';
import { useSelected, useStore } from '../weigh/store.ts';
import type { Change, Market } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

export type PaneProps = {
  market: Market;
  watch: Watch;
  /** Keeps a decision; true once the server has it. */
  decide: (change: Change) => Promise<boolean>;
  canEdit: boolean;
  url: string;
  onChanged: () => void;
};

/** A press that writes evidence into the lane; nothing where evidence does not say enough. */
export function IntoLane({ act, label }: { act: (() => void) | null; label: string }) {
  const { t } = useWords();
  const [done, setDone] = useState(false);
  if (act === null) return null;
  return (
    <>
      <Button
        size="small"
        sx={{ px: 0.5, py: 0, minWidth: 0, minHeight: 25 }}
        onClick={() => {
          act();
          setDone(true);
        }}>
        {label}
      </Button>
      <Box component="span" role="status" sx={{ color: 'text.secondary', fontSize: '0.82rem' }}>
        {done ? t('market.inLane') : ''}
      </Box>
    </>
  );
}

/** Where a kind of evidence comes from and how old it is; opens what was known before. */
export function From({ kind, market, url, canEdit, onChanged }: PaneProps & { kind: ObservedKind }) {
  const { t } = useWords();
  const f = useFormat();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const origin = market.composed.origins[kind];
  if (origin === undefined) return null;
  return (
    <>
      <Box
        component="button"
        type="button"
        onClick={(e: React.MouseEvent<HTMLElement>) => setAnchor(e.currentTarget)}
        sx={{
          all: 'unset',
          cursor: 'pointer',
          textDecoration: 'underline dotted',
          textUnderlineOffset: 3,
          color: origin.stale ? 'error.main' : 'inherit',
          '&:focus-visible': { outline: '2px solid', outlineOffset: 2 },
        }}>
        {t(origin.stale ? 'market.staleFrom' : 'market.from', {
          source: sourceName(t, origin.source),
          day: f.day(origin.asOf),
          how: t(origin.stated ? 'market.stated' : 'market.estimated'),
        })}
      </Box>
      <Popover open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        <Earlier kind={kind} market={market} url={url} canEdit={canEdit} onChanged={onChanged} />
      </Popover>
    </>
  );
}

const sourceName = (t: (key: string) => string, source: string): string =>
  source.startsWith('file:') ? source.slice(5) : t(`market.source.${source === 'typed' ? 'typed' : 'feed'}`);

/** An earlier observation in a few words. */
function gistSaid(t: TFunction, f: Format, g: Gist, currency: string): string {
  const parts = [
    ...(g.count === null ? [] : [t('market.gist.count', { count: g.count })]),
    ...(g.price === null ? [] : [f.money(g.price, currency)]),
    ...(g.units === null ? [] : [t('market.gist.units', { units: f.number(Math.floor(g.units), 0) })]),
    ...(g.state === null ? [] : [t(`market.care.states.${g.state}`)]),
  ];
  return parts.join(', ');
}

/** What was known of a kind before; one can be taken back, and brought back. */
function Earlier({
  kind,
  market,
  url,
  canEdit,
  onChanged,
}: Omit<PaneProps, 'watch' | 'decide'> & { kind: ObservedKind }) {
  const { t } = useWords();
  const f = useFormat();
  const [list, setList] = useState<readonly EarlierObservation[] | null>(null);
  const ask = useCallback((): void => {
    void tell<{ earlier: EarlierObservation[] }>(
      `${url}/earlier?market=${encodeURIComponent(market.key)}&kind=${kind}`,
    ).then((told) => setList(told.ok ? told.data.earlier : []));
  }, [url, market.key, kind]);
  useEffect(ask, [ask]);
  const act = (id: string, back: boolean): void =>
    void tell(`${url}/act`, { intent: 'takeBack', id, back }).then(() => {
      onChanged();
      ask();
    });
  return (
    <Box sx={{ p: 2, maxWidth: 520, fontSize: '0.88rem' }}>
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        {t('market.knownBefore', { kind: t(`market.kind.${kind}`) })}
      </Typography>
      {list === null ? (
        t('nav.loading')
      ) : (
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {list.map((o) => (
            <Box
              component="li"
              key={o.id}
              sx={{
                display: 'flex',
                gap: 1,
                alignItems: 'baseline',
                py: 0.25,
                textDecoration: o.takenBack ? 'line-through' : 'none',
              }}>
              <b>{f.day(o.asOf)}</b>
              <span>{sourceName(t, o.source)}</span>
              <span>{gistSaid(t, f, o.gist, market.view.doc.currency)}</span>
              <Box component="span" sx={{ color: 'text.secondary', flex: 1 }}>
                {t(o.stated ? 'market.stated' : 'market.estimated')} ·{' '}
                {t('market.keptOn', { day: f.day(o.at.slice(0, 10)) })}
              </Box>
              {canEdit && (
                <Button size="small" onClick={() => act(o.id, !o.takenBack)}>
                  {t(o.takenBack ? 'market.bringBack' : 'market.takeBack')}
                </Button>
              )}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}

/** Nothing is known yet: what one would bring. */
export function NotKnown({ children }: { children: ReactNode }) {
  return (
    <Typography variant="body2" color="text.secondary">
      {children}
    </Typography>
  );
}

/**
 * What a comparable listing lends to the product: its size and weight, and its price; each says that it is
 * borrowed.
 */
export function Borrow({ market }: Pick<PaneProps, 'market'>) {
  const { t } = useWords();
  const store = useStore();
  const id = useSelected((x) => x.state.candidate.id);
  const { about } = market.composed.document;
  const origin = market.composed.origins.units;
  if (about === null || origin === undefined || !store.canEdit || (about.kg === null && about.sides === null))
    return null;
  const lend = (): void => {
    const product = (key: 'kg' | 'sides') =>
      about[key] === null
        ? []
        : [{ entity: 'candidate' as const, id, path: ['product', key], to: about[key] }];
    const from = { source: 'borrowed', date: origin.asOf, note: market.key };
    store.edit([
      ...product('kg'),
      ...product('sides'),
      { entity: 'lane', id: market.view.id, path: ['provenance', 'product'], to: from },
    ]);
    void store.flush();
  };
  return <IntoLane act={lend} label={t('market.borrowSize')} />;
}
