/** What keeps a lane from an answer, each thing once, with the way to where it is put right. */
import { Alert, Box, Button } from '@mui/material';
import { Link, useFetcher } from 'react-router';
import type { Problem } from '../../../core/lane/problems.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { countryName } from '../../ui/names.ts';
import type { LaneView } from './useFigures.ts';
import { useWords } from '../../ui/useWords.ts';

/** Problems that a card has: it is opened in Rates. */
const ON_CARD: Partial<Record<Problem['code'], 'tax' | 'marketplace' | 'exchange'>> = {
  noTaxClass: 'tax',
  noDutyRate: 'tax',
  cardCurrency: 'marketplace',
  categoryNotOnCard: 'marketplace',
  noSizeTier: 'marketplace',
  noWarehouse: 'marketplace',
  noStorageRates: 'marketplace',
  noExchangeRate: 'exchange',
};

export function Problems({ view, root, canEdit }: { view: LaneView; root: string; canEdit: boolean }) {
  const { t } = useWords();
  const { problems, notices } = view.result;
  if (problems.length + notices.length === 0) return null;
  // One thing that is missing often keeps several lines from an answer.
  const each = new Map(problems.map((p) => [JSON.stringify([p.code, p.detail]), p]));
  return (
    <Box sx={{ display: 'grid', gap: 0.75, my: 1 }}>
      {[...each.values()].map((p) => (
        <Alert
          key={p.code + p.path}
          severity="error"
          variant="outlined"
          action={canEdit ? <Mend problem={p} doc={view.doc} root={root} /> : undefined}>
          {t(`problem.${p.code}`, p.detail as Record<string, string>)}
        </Alert>
      ))}
      {notices.map((n) => (
        <Alert key={n.code + n.path} severity="warning" variant="outlined">
          {t(`notice.${n.code}`, n.detail as Record<string, string>)}
        </Alert>
      ))}
    </Box>
  );
}

/** Leads to where a problem is put right; nothing where that is on the sheet itself. */
function Mend({ problem, doc, root }: { problem: Problem; doc: LaneDocument; root: string }) {
  const { t, i18n } = useWords();
  const fetcher = useFetcher();
  const link = (to: string, label: string) => (
    <Button component={Link} to={`${root}/${to}`} size="small" color="inherit">
      {label}
    </Button>
  );
  const { code } = problem;
  if (code === 'standingMissing') return link('settings#standing', t('mend.standing'));
  if (code === 'noTaxCard' || code === 'noMarketplaceCard') {
    const kind = code === 'noTaxCard' ? 'tax' : 'marketplace';
    const { country, currency, marketplace } = doc;
    const name =
      kind === 'tax'
        ? t('mend.taxName', { country: countryName(country, i18n.language) })
        : `${marketplace} ${country}`;
    return (
      <Button
        size="small"
        color="inherit"
        disabled={fetcher.state !== 'idle'}
        onClick={() =>
          void fetcher.submit(
            { intent: 'new', kind, name, country, currency, marketplace },
            { method: 'post', action: `${root}/rates` },
          )
        }>
        {t(`mend.${kind}`, { country: countryName(country, i18n.language) })}
      </Button>
    );
  }
  const kind = ON_CARD[code];
  if (kind === undefined) return null;
  const key = kind === 'tax' ? doc.country : kind === 'exchange' ? '' : `${doc.marketplace}/${doc.country}`;
  return link(
    `rates?kind=${kind}${key === '' ? '' : `&key=${encodeURIComponent(key)}`}`,
    t(`mend.card.${kind}`),
  );
}
