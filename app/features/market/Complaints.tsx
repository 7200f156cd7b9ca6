/**
 * What buyers complain of: each becomes an improvement with its cost and the price it may carry, and a scenario
 * lane.
 */
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { useFetcher } from 'react-router';
import { improvedLane } from '../../../core/evidence/improve.ts';
import type { Complaint } from '../../../core/evidence/schema.ts';
import { NumField, TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useStore } from '../weigh/store.ts';
import { From } from './parts.tsx';
import type { PaneProps } from './parts.tsx';
import { useWords } from '../../ui/useWords.ts';

export function Complaints(p: PaneProps) {
  const { t } = useWords();
  const list = p.market.composed.document.complaints;
  if (list.length === 0) return null;
  return (
    <Box sx={{ mt: 1 }}>
      <Typography variant="body2" sx={{ fontWeight: 650 }}>
        {t('market.complaints.title')}{' '}
        <Box component="span" sx={{ fontWeight: 400, color: 'text.secondary' }}>
          <From kind="complaints" {...p} />
        </Box>
      </Typography>
      {list.map((c) => (
        <ComplaintLine key={c.theme} complaint={c} {...p} />
      ))}
    </Box>
  );
}

function ComplaintLine({
  complaint: c,
  market,
  watch,
  decide,
  canEdit,
  url,
}: PaneProps & { complaint: Complaint }) {
  const { t } = useWords();
  const f = useFormat();
  const store = useStore();
  const fetcher = useFetcher();
  const [open, setOpen] = useState(false);
  const { view } = market;
  const own = watch.improvements[c.theme] ?? { improvement: c.improvement, cost: c.cost, price: c.price };
  const put = (change: Partial<typeof own>) => decide({ improvements: { [c.theme]: { ...own, ...change } } });
  const lane = improvedLane(view.state.data, c);
  const keep = async (): Promise<void> => {
    if (lane === null) return;
    await store.flush();
    const row = {
      id: crypto.randomUUID(),
      position: view.state.position + 1,
      data: lane,
      scenarioOf: view.id,
    };
    void fetcher.submit(
      { intent: 'putLane', row: JSON.stringify(row) },
      { method: 'post', action: url.replace(/\/market$/, '') },
    );
  };
  return (
    <Box sx={{ fontSize: '0.85rem', py: 0.25 }}>
      <b>{c.theme}</b> {c.share === null ? f.number(c.count, 0) : f.percent(c.share, 0)} {c.improvement}{' '}
      {canEdit && (
        <Button
          size="small"
          sx={{ py: 0, px: 0.5, minWidth: 0, minHeight: 25 }}
          aria-expanded={open}
          onClick={() => setOpen(!open)}>
          {t('market.complaints.mend')}
        </Button>
      )}
      {open && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'end' }}>
          <TextLine
            label={t('market.complaints.improvement')}
            value={own.improvement}
            width={150}
            onChange={(improvement) => put({ improvement })}
          />
          <NumField
            label={t('market.complaints.cost')}
            kind="money"
            currency={view.doc.currency}
            width={96}
            value={own.cost}
            onChange={(cost) => put({ cost })}
          />
          <NumField
            label={t('market.complaints.price')}
            kind="money"
            currency={view.doc.currency}
            width={96}
            value={own.price}
            onChange={(price) => put({ price })}
          />
          <Button
            size="small"
            disabled={lane === null || fetcher.state !== 'idle'}
            onClick={() => void keep()}>
            {t('market.complaints.scenario')}
          </Button>
        </Box>
      )}
    </Box>
  );
}
