/** What is known of the goods in one's hand, and what is not: name, listing, rank, units, own shop, permission, age. */
import { Box, Button, Link as MuiLink, Typography } from '@mui/material';
import { Link } from 'react-router';
import { TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useWhen } from './useWhen.ts';
import type { Check } from './useCheck.ts';
import { useWords } from '../../ui/useWords.ts';

export function KnownOf({ check, root }: { check: Check; root: string }) {
  const { t } = useWords();
  const when = useWhen();
  const { goods, listing, listings, chosen } = check;
  if (goods.text.trim() === '' && check.again === null)
    return <Typography color="text.secondary">{t('check.startHere')}</Typography>;
  if (goods.isAsking)
    return (
      <Typography color="text.secondary" role="status">
        {t('check.asking')}
      </Typography>
    );
  const asked = goods.said?.at;
  const isOld = asked !== undefined && Date.now() - Date.parse(asked) > 600_000;
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }}>
      {listing === null ? (
        <>
          {goods.recognised.kind !== 'notABarcode' && (
            <Typography color="text.secondary">{t(`check.${noneOf(check)}`)}</Typography>
          )}
          {goods.recognised.kind !== 'words' && (
            <TextLine
              label={t('check.name')}
              value={check.own.name}
              onChange={(name) => check.change({ name })}
              width="100%"
            />
          )}
        </>
      ) : (
        <>
          <Typography variant="h3" component="h2">
            <bdi>{listing.title || listing.code}</bdi>
          </Typography>
          <Facts check={check} />
          {listings.length > 1 && (
            <Box>
              <Button size="small" onClick={() => check.choose((chosen + 1) % listings.length)}>
                {t('check.next')}
              </Button>
            </Box>
          )}
        </>
      )}
      {goods.said?.candidate != null && (
        <Typography variant="body2">
          {t('check.known')}
          <MuiLink component={Link} to={`${root}/weigh/${goods.said.candidate.id}`}>
            {goods.said.candidate.name}
          </MuiLink>
        </Typography>
      )}
      <Marked check={check} />
      {goods.said?.wrong.map((w) => (
        <Typography key={w} variant="body2" color="text.secondary">
          {w}
        </Typography>
      ))}
      {isOld && (
        <Typography variant="body2" color="text.secondary">
          {t('check.old', { when: when(asked) })}
        </Typography>
      )}
    </Box>
  );
}

const noneOf = ({ goods }: Check): 'away' | 'noFeed' | 'unknown' =>
  goods.said === null ? 'away' : goods.said.hasFeed ? 'unknown' : 'noFeed';

/** The facts of a listing in one line; what is not known is said. */
function Facts({ check }: { check: Check }) {
  const { t } = useWords();
  const f = useFormat();
  const { listing, listings, chosen } = check;
  if (listing === null) return null;
  const { rank, units, mine, ownShop, offers } = listing;
  const facts = [
    listings.length > 1 &&
      (chosen === 0
        ? t('check.fastest', { count: listings.length })
        : t('check.listing', { n: chosen + 1, count: listings.length })),
    rank === null ? t('check.not.rank') : t('check.rank', { rank: f.number(rank, 0) }),
    units === null
      ? t('check.not.units')
      : mine === null
        ? t('check.sold', { units: f.number(units, 0) })
        : t('check.soldMine', { units: f.number(units, 0), mine: f.number(mine, 0) }),
    offers !== null && t('check.offers', { count: offers }),
    ownShop === null ? t('check.not.ownShop') : t('check.ownShop', { share: f.percent(ownShop, 0) }),
    t(`check.from.${listing.source}`, { day: f.day(listing.asOf) }),
  ].filter(Boolean);
  return (
    <>
      <Typography variant="body2" color="text.secondary">
        {facts.join(' · ')}
      </Typography>
      {listing.pack !== check.own.boughtPack && (
        <Typography variant="body2" sx={{ fontWeight: 650 }}>
          {t('check.packs', {
            sold: listing.pack,
            bought: check.own.boughtPack,
            each: f.number(listing.pack / check.own.boughtPack, 2),
          })}
        </Typography>
      )}
      <Typography variant="body2" sx={{ fontWeight: listing.permission === 'open' ? 400 : 650 }}>
        {t(`check.permission.${listing.permission ?? 'unknown'}`)}
      </Typography>
    </>
  );
}

function Marked({ check }: { check: Check }) {
  const { t } = useWords();
  const mark = check.goods.said?.mark ?? null;
  if (mark === null) return null;
  return (
    <Typography variant="body2">
      {mark.state === 'dropped' && mark.reason !== ''
        ? t('check.marked.droppedWhy', { reason: mark.reason })
        : t(`check.marked.${mark.state}`)}
    </Typography>
  );
}
