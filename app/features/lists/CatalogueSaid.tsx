/** What is said of the catalogue that a list was read from. */
import { Alert, Box, Button } from '@mui/material';
import { useNavigation, useSubmit } from 'react-router';
import type { CatalogueSaid } from '../../../core/shops/place.ts';
import { useFormat } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

/** How many goods were left out, and by what. */
export function LeftOutOf({ said }: { said: CatalogueSaid }) {
  const { t } = useWords();
  const f = useFormat();
  const reasons = Object.entries(said.left).sort(([, a], [, b]) => b - a);
  const n = reasons.reduce((sum, [, x]) => sum + x, 0);
  if (n === 0) return null;
  return (
    <>
      {' '}
      · {t('catalogue.left', { count: n, n: f.number(n, 0) })} (
      {reasons.map(([why, x]) => t(`catalogue.leftBy.${why}`, { n: f.number(x, 0) })).join(', ')})
    </>
  );
}

/** What was odd about the shop while it was read. */
export function CatalogueOdd({ said }: { said: CatalogueSaid }) {
  const { t } = useWords();
  const odd = [
    said.changed ? t('catalogue.changed') : null,
    said.repeated > 0 ? t('catalogue.repeated', { count: said.repeated }) : null,
    said.short > 0 ? t('catalogue.short', { count: said.short, n: said.short }) : null,
  ].filter((x) => x !== null);
  if (odd.length === 0) return null;
  return (
    <Alert severity="warning" sx={{ my: 0.5, py: 0 }}>
      {odd.map((x) => (
        <Box key={x}>{x}</Box>
      ))}
    </Alert>
  );
}

/** Reads the shop again, as the list's next edition. */
export function ReadAgain({ id, root }: { id: string; root: string }) {
  const { t } = useWords();
  const submit = useSubmit();
  const busy = useNavigation().state !== 'idle';
  return (
    <Button
      size="small"
      disabled={busy}
      onClick={() =>
        void submit(JSON.stringify({ again: id }), {
          method: 'post',
          action: `${root}/lists/shop`,
          encType: 'application/json',
        })
      }>
      {t('catalogue.again')}
    </Button>
  );
}
