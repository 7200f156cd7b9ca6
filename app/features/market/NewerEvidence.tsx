/** Evidence that is newer than what the lane was fed with: what it would change, by a press. */
import { Alert, Button } from '@mui/material';
import { useMemo } from 'react';
import { newerEvidence } from '../../../core/evidence/newer.ts';
import { useFormat } from '../../ui/locale.ts';
import { useKeeps } from './useKeeps.ts';
import { useIntoLane } from './useMarket.ts';
import type { Market } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

export function NewerEvidence({ market }: { market: Market }) {
  const { t } = useWords();
  const f = useFormat();
  const into = useIntoLane(market);
  const keeps = useKeeps(market.view);
  const { composed, view, said } = market;
  const newer = useMemo(
    () => newerEvidence(composed.document, view.doc, said, composed.origins),
    [composed, view.doc, said],
  );
  return (
    <>
      {newer.map((n) => {
        const act = into(n.use, n.kind, n.basis);
        return (
          <Alert
            key={n.use}
            severity="info"
            variant="outlined"
            sx={{ mb: 1, py: 0 }}
            action={
              act !== null && (
                <Button size="small" onClick={act}>
                  {t('market.newer.take')}
                </Button>
              )
            }>
            {t('market.newer.said', {
              what: t(`market.newer.what.${n.use}`),
              held: f.day(n.held),
              asOf: f.day(n.asOf),
              before: keeps.money(n.before),
              after: keeps.money(n.after),
            })}
          </Alert>
        );
      })}
    </>
  );
}
