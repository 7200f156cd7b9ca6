/** The quick check: what one holds, the price on its shelf, and the verdict before the hand is off the key. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { CheckKit } from '../../../between/checkKit.ts';
import type { ShelfCheck } from '../../../core/check/schema.ts';
import { goodsName } from '../../../core/check/session.ts';
import { addWords } from '../../i18n.ts';
import { checkWords } from '../../locales/en.check.ts';
import { NumField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { GoodsField } from './GoodsField.tsx';
import { KnownOf } from './KnownOf.tsx';
import { OwnFacts } from './OwnFacts.tsx';
import { SoFar } from './SoFar.tsx';
import { Till } from './Till.tsx';
import { useCheck } from './useCheck.ts';
import type { Check } from './useCheck.ts';
import { useDevice } from './useDevice.ts';
import { useOffline } from './useOffline.ts';
import { useWalk } from './useWalk.ts';
import { useWhen } from './useWhen.ts';
import { Verdict } from './Verdict.tsx';
import { WalkLine } from './WalkLine.tsx';
import { useWords } from '../../ui/useWords.ts';

addWords(checkWords);
type Props = { kit: CheckKit; person: string; root: string; canEdit: boolean };

export function CheckPage({ kit, person, root, canEdit }: Props) {
  const { t } = useWords();
  const [search] = useSearchParams();
  const check = useCheck(kit, root, (search.get('goods') ?? '').slice(0, 200));
  const device = useDevice({ root, person }, canEdit);
  const walk = useWalk(device);
  const shelf = useRef<HTMLDivElement>(null);
  const [last, setLast] = useState<ShelfCheck | null>(null);
  const toShelf = (): void => shelf.current?.querySelector('input')?.focus();
  const decide = async (state: ShelfCheck['state']): Promise<void> => {
    const { checked, gist, again } = check;
    if (checked === null || gist === null) return;
    // At once: the next goods may be typed while these are still being written down.
    check.renew();
    setLast(await walk.decide({ checked, gist, again }, state));
  };
  // What the market does not know is asked where the goods are.
  const isUnknown = check.hasGoods && !check.goods.isAsking && check.listing === null;
  if (check.market === null) return <Alert severity="info">{t('check.noMarket')}</Alert>;
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 440px) minmax(0, 1fr)' },
        gap: { xs: 2, md: 6 },
        maxWidth: 1100,
      }}>
      <Box sx={{ display: 'grid', gap: 1.5, alignContent: 'start', minWidth: 0 }}>
        <Head kit={kit} marketName={check.market.name} />
        <GoodsField check={check} onFound={toShelf} />
        <KnownOf check={check} root={root} />
        <ShelfFields check={check} at={shelf} />
        {isUnknown && <OwnFacts check={check} kit={kit} />}
        {check.said !== null && check.doc !== null && check.own.shelf !== null && (
          <>
            <Verdict said={check.said} doc={check.doc} shopCurrency={check.terms.till.currency} />
            <PriceNote check={check} />
          </>
        )}
        {canEdit ? (
          <Decide check={check} onDecide={decide} />
        ) : (
          <Typography color="text.secondary">{t('check.viewer')}</Typography>
        )}
        {last !== null && (
          <Decided
            last={last}
            onWhy={(reason) => {
              void walk.explain(last.id, reason);
              setLast(null);
            }}
          />
        )}
        <Till check={check} kit={kit} ownFacts={!isUnknown} />
        <WalkLine walk={walk} device={device} root={root} homeCurrency={kit.settings.homeCurrency} />
      </Box>
      <SoFar walk={walk} onTakeBack={check.takeBack} />
    </Box>
  );
}

/** The page's name, its market, and how old is what a check is reckoned with. */
function Head({ kit, marketName }: { kit: CheckKit; marketName: string }) {
  const { t } = useWords();
  const when = useWhen();
  const isOffline = useOffline();
  const [isOld, setOld] = useState(false);
  // The clock of whoever looks at it, not of whoever wrote the page.
  useEffect(() => setOld(Date.now() - Date.parse(kit.at) > 3_600_000), [kit.at]);
  return (
    <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline', flexWrap: 'wrap' }}>
      <Typography variant="h2" component="h1">
        {t('check.title')}
      </Typography>
      <Typography variant="body2" color="text.secondary" role="status">
        {[
          marketName,
          isOffline && t('check.offline'),
          isOld ? t('check.age', { when: when(kit.at) }) : t('check.ageToday'),
        ]
          .filter(Boolean)
          .join(' · ')}
      </Typography>
    </Box>
  );
}

/** The one number, with the discount and how many one would take. */
function ShelfFields({ check, at }: { check: Check; at: React.RefObject<HTMLDivElement | null> }) {
  const { t } = useWords();
  const { own, change, terms, changeTerms } = check;
  return (
    <Box
      ref={at}
      sx={{
        display: 'grid',
        gridTemplateColumns: '1.3fr 1fr 1fr',
        gap: 1.25,
        '& input': { fontSize: '1.4rem', py: 1.1 },
      }}>
      <NumField
        label={t('check.shelf')}
        value={own.shelf}
        onChange={(shelf) => change({ shelf })}
        kind="money"
        currency={terms.till.currency}
        width="100%"
      />
      <NumField
        label={t('check.off')}
        value={terms.till.off}
        onChange={(off) => changeTerms({ till: { ...terms.till, off: off ?? 0 } })}
        kind="percent"
        max={1}
        width="100%"
      />
      <NumField
        label={t('check.take')}
        value={own.take}
        onChange={(take) => change({ take: take ?? 1 })}
        kind="number"
        min={1}
        max={1_000_000}
        whole
        required
        width="100%"
      />
    </Box>
  );
}

/** Which price it is reckoned at, and how far the market's is from that today. */
function PriceNote({ check }: { check: Check }) {
  const { t } = useWords();
  const f = useFormat();
  const { price, listing, market } = check;
  const currency = market?.currency ?? '';
  if (price === null)
    return (
      <Typography variant="body2" role="status">
        {t('check.noPrice')}
      </Typography>
    );
  const now = listing?.prices.now ?? null;
  const apart = now === null || price <= 0 ? 0 : now / price - 1;
  return (
    <Typography variant="body2" color="text.secondary">
      {t('check.reckoned', {
        price: f.money(price, currency),
        basis: t(`check.basis.${check.checked?.basis ?? 'now'}`),
      })}{' '}
      {Math.abs(apart) >= 0.05 &&
        t(apart > 0 ? 'check.over' : 'check.under', {
          now: f.money(now, currency),
          share: f.percent(Math.abs(apart), 0),
        })}
    </Typography>
  );
}

function Decide({
  check,
  onDecide,
}: {
  check: Check;
  onDecide: (state: ShelfCheck['state']) => Promise<void>;
}) {
  const { t } = useWords();
  const big = { minHeight: 52, fontSize: '1.05rem' };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1.7fr 1fr', gap: 1.25 }}>
      <Button variant="contained" disabled={!check.hasGoods} sx={big} onClick={() => void onDecide('kept')}>
        {t('check.keepNext', { take: check.own.take })}
      </Button>
      <Button variant="outlined" disabled={!check.hasGoods} sx={big} onClick={() => void onDecide('left')}>
        {t('check.leave')}
      </Button>
    </Box>
  );
}

const WHYS = ['dear', 'damaged', 'crowded', 'slow', 'bulky'] as const;
/** What was decided just now; of what was left one may say why. */
function Decided({ last, onWhy }: { last: ShelfCheck; onWhy: (reason: string) => void }) {
  const { t } = useWords();
  return (
    <Box role="status" sx={{ fontSize: '0.9rem' }}>
      {t(last.state === 'kept' ? 'check.keptNow' : 'check.leftNow', { name: goodsName(last) })}
      {last.state === 'left' && (
        <>
          {' '}
          {t('check.why')}{' '}
          {WHYS.map((w) => (
            <Button key={w} size="small" onClick={() => onWhy(t(`check.whys.${w}`))}>
              {t(`check.whys.${w}`)}
            </Button>
          ))}
        </>
      )}
    </Box>
  );
}
