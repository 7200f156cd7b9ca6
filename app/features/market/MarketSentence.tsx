/**
 * What the market says in a sentence: wanted or not, when, at which price it stands, what is one's own, may it
 * be sold.
 */
import { Box, Typography } from '@mui/material';
import { Trans } from 'react-i18next';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { monthsInWords } from './monthsInWords.ts';
import { useKeeps } from './useKeeps.ts';
import type { PaneProps } from './parts.tsx';
import type { Market } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

export function MarketSentence({ market }: PaneProps) {
  const { i18n } = useWords();
  const b = <strong />;
  return (
    <Typography
      variant="h4"
      component="p"
      data-testid="market-sentence"
      aria-live="polite"
      sx={{ mb: 1.25, '& strong': { fontWeight: 720 } }}>
      <Wanted market={market} country={countryName(market.view.doc.country, i18n.language)} />{' '}
      <Stands market={market} /> <Mine market={market} />{' '}
      <Box component="span" sx={{ color: 'text.secondary' }}>
        <Trans
          i18nKey={`market.may.${market.composed.document.permission?.state ?? 'unknown'}`}
          components={{ b }}
        />
      </Box>
    </Typography>
  );
}

/** When people want it, and whether that is now. */
function Wanted({ market, country }: { market: Market; country: string }) {
  const { t } = useWords();
  const f = useFormat();
  const { together, listing, now } = market.said.season;
  const season = together.season.known ? together.season : listing.season;
  const b = <strong />;
  if (!season.known) return <Trans i18nKey="market.wanted.unknown" values={{ country }} components={{ b }} />;
  const index = season.index[Number(now.slice(5, 7)) - 1] as number;
  const state = index >= 1.2 ? 'peak' : index < 0.8 ? 'quiet' : 'usual';
  if (season.peaks.length === 0)
    return (
      <Trans
        i18nKey={season.seasonal ? 'market.wanted.uneven' : 'market.wanted.always'}
        values={{ country }}
        components={{ b }}
      />
    );
  const months = monthsInWords(season.peaks, f, (x, y) => t('market.fromTo', { from: x, to: y }));
  return <Trans i18nKey={`market.wanted.${state}`} values={{ country, months }} components={{ b }} />;
}

/** At which price the market stands, what a unit keeps there, and how often it would have lost. */
function Stands({ market }: { market: Market }) {
  const { t } = useWords();
  const f = useFormat();
  const keeps = useKeeps(market.view);
  const { history } = market.said;
  const b = <strong />;
  if (history === null) return <>{t('market.stands.unknown')}</>;
  // A price is today's only where it was seen today; an older one says of when it is.
  const isToday = history.now === market.view.doc.date;
  const price = history.bases.now;
  const last = history.margin?.days.at(-1);
  const profit = last?.day === history.now ? last.unitProfit : null;
  const within = (history.margin?.days ?? []).filter(
    (d) => Date.parse(history.now) - Date.parse(d.day) < 180 * 86_400_000,
  );
  const known = within.filter((d) => d.unitProfit !== null);
  const lost = known.filter((d) => (d.unitProfit as number) < -1e-9).length;
  return (
    <>
      {price.known ? (
        <Trans
          i18nKey={
            profit === null
              ? 'market.stands.price'
              : profit < -1e-9
                ? 'market.stands.loses'
                : 'market.stands.keeps'
          }
          values={{
            price: f.money(price.price, history.currency),
            when: isToday ? t('market.stands.today') : t('market.stands.on', { day: f.day(history.now) }),
            amount: keeps.money(
              profit === null ? null : Math.abs(profit),
              profit !== null && profit < 0 ? 'loss' : undefined,
            ),
          }}
          components={{
            b,
            k: <Box component="strong" sx={{ color: (profit ?? 0) < 0 ? 'error.main' : 'primary.main' }} />,
          }}
        />
      ) : (
        t(isToday ? 'market.stands.nobody' : 'market.stands.nobodyOn', { day: f.day(history.now) })
      )}{' '}
      {history.standing === 'spike' || history.standing === 'dip' ? (
        <Box component="strong" sx={{ color: 'error.main' }}>
          {t(`market.standing.${history.standing}`)}{' '}
        </Box>
      ) : null}
      {known.length > 0 && (
        <Trans
          i18nKey={lost === 0 && !keeps.bounded ? 'market.stands.never' : 'market.stands.lost'}
          values={{ lost: keeps.lost(f.number(lost, 0)), days: f.number(known.length, 0) }}
          components={{ b, l: <Box component="strong" sx={{ color: 'error.main' }} /> }}
        />
      )}
    </>
  );
}

/** What of the units could be one's own. */
function Mine({ market }: { market: Market }) {
  const { t } = useWords();
  const f = useFormat();
  const mine = market.said.units?.mine;
  if (mine?.known !== true) return null;
  if (!mine.inTheRunning) return <>{t('market.mine.none')}</>;
  const low = f.number(Math.floor(mine.low), 0);
  const high = f.number(Math.floor(mine.high), 0);
  return <>{low === high ? t('market.mine.one', { units: low }) : t('market.mine.range', { low, high })}</>;
}
