/** Goods of the second look: what the list says of them, what the market says, and what speaks against them. */
import { Box } from '@mui/material';
import { blanksIn } from '../../../core/lane/blanks.ts';
import type { CloserLook, CloserWarning } from '../../../core/evidence/closer.ts';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import type { LookedShown } from './Closer.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  r: LookedShown;
  ticked: boolean;
  /** Null: nothing may be decided here. */
  onTick: ((on: boolean) => void) | null;
};

export function CloserRow({ r, ticked, onTick }: Props) {
  const { t } = useWords();
  const { look, row } = r;
  const name = row?.title || r.title || r.code;
  return (
    <tr>
      <th scope="row" style={{ fontWeight: 500, minWidth: 240, maxWidth: 300 }}>
        <Box component="label" sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
          {onTick !== null && (
            <input
              type="checkbox"
              checked={ticked}
              disabled={row === null}
              aria-label={t('closer.tick', { name })}
              onChange={(e) => onTick(e.target.checked)}
            />
          )}
          <Box component="span" dir="auto" sx={{ overflowWrap: 'anywhere' }}>
            {name}
            {row !== null && row.mark !== '' && (
              <Box component="em" sx={{ color: 'text.secondary', ml: 0.5 }}>
                {t(`listFlag.${row.mark}`)}
              </Box>
            )}
            {r.listing !== '' && (
              <Box component="span" sx={{ display: 'block', fontSize: '0.76rem', color: 'text.secondary' }}>
                {r.listingTitle} · {t('closer.listing', { code: r.listing })}
              </Box>
            )}
          </Box>
        </Box>
      </th>
      {look === null ? <NotLooked r={r} /> : <Looked r={r} look={look} />}
    </tr>
  );
}

/** Why there is nothing to see yet. */
function NotLooked({ r }: { r: LookedShown }) {
  const { t } = useWords();
  const state = r.row === null && r.state === 'looked' ? 'rowGone' : r.state;
  return (
    <td className="text quiet" colSpan={10}>
      {t(`closer.state.${state}`, { error: r.fault, defaultValue: '' })}
    </td>
  );
}

function Looked({ r, look }: { r: LookedShown; look: CloserLook }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const money = (x: number | null): string => (x === null ? t('closer.notKnown') : f.money(x, look.currency));
  const keeps = (x: number | null): string => (x === null ? money(x) : bounds.of(money(x), look.lacks));
  const fast = r.row?.figures.unitProfit ?? null;
  return (
    <>
      <td className="text" style={{ minWidth: 210 }}>
        {look.warnings.length === 0 ? (
          <span className="quiet">{t('closer.nothing')}</span>
        ) : (
          look.warnings.map((w) => <Warning key={w} w={w} look={look} />)
        )}
      </td>
      <td className={fast !== null && fast < 0 ? 'loss' : undefined}>
        {fast === null
          ? t('closer.notKnown')
          : bounds.of(f.money(fast, look.currency), blanksIn(r.row?.blanks ?? 0))}
      </td>
      <td>{money(look.price)}</td>
      {(['30', '90', '180'] as const).map((w) => (
        <td key={w}>{money(look.means[w])}</td>
      ))}
      <td className={look.keepsAtMean !== null && look.keepsAtMean < 0 ? 'loss' : undefined}>
        {keeps(look.keepsAtMean)}
      </td>
      <td>
        {look.ownShop === null || look.ownShop.known === 0
          ? t('closer.notKnown')
          : t('closer.ofDays', {
              days: f.number(look.ownShop.days, 0),
              known: f.number(look.ownShop.known, 0),
            })}
      </td>
      <td>
        {look.offers === null
          ? t('closer.notKnown')
          : look.lowest === null
            ? f.number(look.offers, 0)
            : t('closer.from', { count: look.offers, price: money(look.lowest) })}
      </td>
      <td className="text">{t(`closer.permissions.${look.permission ?? 'unknown'}`)}</td>
    </>
  );
}

/** Graver than a remark: what forbids it, or makes it a loss. */
const GRAVE: ReadonlySet<CloserWarning> = new Set(['otherGoods', 'closed', 'rightsAlert', 'lossAtMean']);

function Warning({ w, look }: { w: CloserWarning; look: CloserLook }) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <Box sx={{ fontWeight: GRAVE.has(w) ? 650 : 400 }}>
      {t(`closer.warning.${w}`, {
        share: f.percent(look.lossShare ?? 0, 0),
        count: w === 'fewDays' ? look.days : (look.offers ?? 0),
      })}
    </Box>
  );
}
