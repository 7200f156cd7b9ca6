/** The market of the chosen lane beside its costs, in a few lines; the whole of it is one step away. */
import { Box } from '@mui/material';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { NO_WATCH } from '../../../core/evidence/observed.ts';
import type { KeptMarket } from '../../../core/evidence/observed.ts';
import { addWords } from '../../i18n.ts';
import { marketWords } from '../../locales/en.market.ts';
import { tell } from '../../ui/client.ts';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import type { Frame, LaneView } from '../weigh/useFigures.ts';
import { monthsInWords } from './monthsInWords.ts';
import { NewerEvidence } from './NewerEvidence.tsx';
import { useKeeps } from './useKeeps.ts';
import { marketFor, marketOf } from './useMarket.ts';
import type { Market } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

addWords(marketWords);

export default function MarketBrief({ view, frame, url }: { view: LaneView; frame: Frame; url: string }) {
  const { t } = useWords();
  const key = marketOf(view);
  const [data, setData] = useState<{ markets: KeptMarket[] }>();
  // Asked by our own client: whoever is signed out meanwhile stays on the sheet with what was typed.
  useEffect(() => {
    const stop = new AbortController();
    void tell<{ markets: KeptMarket[] }>(`${url}/data?market=${encodeURIComponent(key)}`, undefined, {
      signal: stop.signal,
    }).then((told) => {
      if (told.ok && !stop.signal.aborted) setData(told.data);
    });
    return () => stop.abort();
  }, [url, key]);
  const kept = data?.markets.find((m) => m.market === key);
  const market = useMemo(
    () => (kept === undefined ? null : marketFor(view, kept, kept.watch ?? NO_WATCH, frame)),
    [kept, view, frame],
  );
  if (data === undefined) return null;
  const facts = market === null ? [] : factsOf(market);
  return (
    <Pane
      title={t('market.brief.title')}
      aside={
        <Link to={`${url}?lane=${view.id}`} style={{ color: 'inherit' }}>
          {t('market.brief.open')}
        </Link>
      }>
      {market !== null && <NewerEvidence market={market} />}
      {facts.length === 0 || market === null ? (
        <Box sx={{ fontSize: '0.88rem', color: 'text.secondary' }}>{t('market.brief.nothing')}</Box>
      ) : (
        <Box
          component="dl"
          sx={{
            m: 0,
            display: 'grid',
            gridTemplateColumns: '110px 1fr',
            columnGap: 1.5,
            rowGap: 0.25,
            fontSize: '0.88rem',
          }}>
          {facts.map((name) => (
            <Fact key={name} name={name} market={market} />
          ))}
        </Box>
      )}
    </Pane>
  );
}

const FACTS = ['wanted', 'stands', 'lost', 'mine', 'rivals', 'may', 'worth'] as const;
type FactName = (typeof FACTS)[number];

/** The facts that are known. */
function factsOf({ said, composed }: Market): FactName[] {
  const known: Readonly<Record<FactName, boolean>> = {
    wanted: said.season.together.season.known || said.season.listing.season.known,
    stands: said.history !== null,
    lost: (said.history?.margin?.answered ?? 0) > 0,
    mine: said.units?.mine.known === true,
    rivals: said.rivals?.place != null,
    may: composed.document.permission !== null,
    worth: said.opportunity.vetoes.length > 0 || said.opportunity.mean !== null,
  };
  return FACTS.filter((x) => known[x]);
}

function Fact({ name, market }: { name: FactName; market: Market }) {
  const { t } = useWords();
  const f = useFormat();
  const text = useFact(name, market);
  const day = market.said.history?.now ?? market.view.doc.date;
  const when =
    day === market.view.doc.date ? t('market.stands.today') : t('market.stands.on', { day: f.dayShort(day) });
  const loud =
    (name === 'stands' && ['spike', 'dip'].includes(market.said.history?.standing ?? '')) ||
    (name === 'rivals' && market.said.rivals?.place?.overCeiling === true) ||
    (name === 'may' &&
      ['closed', 'rightsAlert'].includes(market.composed.document.permission?.state ?? '')) ||
    (name === 'worth' && market.said.opportunity.vetoes.length > 0);
  return (
    <>
      <Box component="dt" sx={{ color: 'text.secondary' }}>
        {t(`market.brief.${name}`, { when })}
      </Box>
      <Box component="dd" sx={{ m: 0, ...(loud ? { color: 'error.main', fontWeight: 650 } : {}) }}>
        {text}
      </Box>
    </>
  );
}

function useFact(name: FactName, { said, composed, view }: Market): string {
  const { t } = useWords();
  const f = useFormat();
  const keeps = useKeeps(view);
  const { history, rivals, units, opportunity } = said;
  const c = view.doc.currency;
  switch (name) {
    case 'wanted': {
      const { together, listing } = said.season;
      const season = together.season.known ? together.season : listing.season;
      if (!season.known) return '';
      return season.peaks.length === 0
        ? t(season.seasonal ? 'market.brief.uneven' : 'market.allOf.always')
        : monthsInWords(season.peaks, f, (from, to) => t('market.fromTo', { from, to }));
    }
    case 'stands': {
      const now = history?.bases.now;
      const price = now?.known === true ? f.money(now.price, c) : t('market.brief.nobody');
      const standing = history?.standing;
      return standing === 'spike' || standing === 'dip'
        ? `${price}. ${t(`market.standing.${standing}`)}`
        : price;
    }
    case 'lost':
      return t('market.brief.lostOf', {
        share: keeps.lost(f.percent(history?.margin?.lossShare ?? null, 0)),
        days: f.number(history?.margin?.answered ?? 0, 0),
        middle: keeps.money(history?.margin?.median ?? null),
      });
    case 'mine': {
      const mine = units?.mine;
      if (mine?.known !== true) return '';
      const [low, high] = [f.number(Math.floor(mine.low), 0), f.number(Math.floor(mine.high), 0)];
      if (!mine.inTheRunning) return t('market.mine.none');
      return low === high
        ? t('market.brief.mineOne', { units: low })
        : t('market.brief.mineOf', { low, high });
    }
    case 'rivals': {
      const place = rivals?.place;
      if (place == null) return '';
      const said1 = t('market.brief.place', {
        place: place.place,
        of: place.of,
        middle: f.money(place.median, c),
      });
      return place.overCeiling
        ? `${said1} ${t('market.brief.over', { ceiling: f.money(place.ceiling, c) })}`
        : said1;
    }
    case 'may':
      return t(`market.care.states.${composed.document.permission?.state ?? 'unknown'}`);
    default:
      return opportunity.vetoes.length > 0
        ? opportunity.vetoes.map((v) => t(`market.worth.veto.${v}`)).join(' ')
        : t('market.brief.worthOf', {
            share: f.percent(opportunity.mean, 0),
            known: opportunity.parts.length - opportunity.unknown.length,
            all: opportunity.parts.length,
          });
  }
}
