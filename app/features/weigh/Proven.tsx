import { Box } from '@mui/material';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { cardKey } from '../../../core/cards/schema.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { holdAll } from '../../../core/proofs/check.ts';
import type { Proof } from '../../../core/proofs/schema.ts';
import { tell } from '../../ui/client.ts';
import '../rates/scheduleWords.ts';

/** How well proven the fees of a lane are: how many proofs its card meets, and the way to them. */
export default function Proven({ doc }: { doc: LaneDocument }) {
  const { t } = useTranslation();
  const { workspace } = useParams();
  const { marketplace: card, tax } = doc.rates;
  const key = card === null ? null : cardKey('marketplace', card);
  const [proofs, setProofs] = useState<readonly Proof[] | null>(null);
  useEffect(() => {
    if (key === null) return;
    let stale = false;
    void tell<{ proofs: { proof: Proof }[] }>(
      `/w/${workspace}/rates/proofs?key=${encodeURIComponent(key)}`,
    ).then((told) => {
      if (!stale && told.ok) setProofs(told.data.proofs.map((p) => p.proof));
    });
    return () => {
      stale = true;
    };
  }, [key, workspace]);
  const held = useMemo(() => {
    if (card === null || proofs === null || proofs.length === 0) return null;
    const standings = doc.standing === null ? {} : { [doc.country]: doc.standing };
    return holdAll(card, tax, { homeCurrency: doc.homeCurrency, standings, today: doc.date }, proofs);
  }, [card, tax, proofs, doc.standing, doc.country, doc.homeCurrency, doc.date]);
  if (key === null || proofs === null) return null;
  return (
    <Box
      sx={{
        fontSize: '0.84rem',
        mt: 1,
        color: held !== null && held.fails > 0 ? 'error.main' : 'text.secondary',
      }}>
      {held === null ? t('proofs.unproven') : t('proofs.meets', { count: held.held.length, met: held.met })}{' '}
      <Box
        component={Link}
        to={`/w/${workspace}/rates?kind=marketplace&key=${encodeURIComponent(key)}`}
        sx={{ color: 'inherit' }}>
        {t('proofs.toCard')}
      </Box>
    </Box>
  );
}
