import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { dayText } from '../../../core/cash/calendar.ts';
import type { Plan } from '../../../core/purse/purse.ts';
import type { PurseDocument } from '../../../core/purse/schema.ts';
import { laneOfPurseKey } from '../../../core/workspace/purse.ts';
import { tell } from '../../ui/client.ts';
import { saveJson } from '../../ui/saveText.ts';
import { useNotDone } from '../../ui/useNotDone.ts';
import { useWords } from '../../ui/useWords.ts';

/** The plan becomes the launch plans of its candidates. */
export function AdoptPlan({
  plan,
  document,
  base,
  canEdit,
}: {
  plan: Plan;
  document: PurseDocument;
  base: string;
  canEdit: boolean;
}) {
  const { t } = useWords();
  const notDone = useNotDone();
  const [said, setSaid] = useState<string | null>(null);
  const adopt = async (): Promise<void> => {
    const launches = plan.launches.map((l) => ({
      ...laneOfPurseKey(l.key),
      quantity: l.quantity,
      start: dayText(document.start, 7 * l.week),
    }));
    const told = await tell<{ refused: string[] }>(`${base}/fund/purse/act`, { act: 'adopt', launches });
    setSaid(
      !told.ok
        ? notDone(told)
        : told.data.refused.length > 0
          ? t('purse.refused', { n: told.data.refused.length })
          : t('purse.made', { n: launches.length }),
    );
  };
  return (
    <Box sx={{ my: 2 }} className="no-print">
      {canEdit && (
        <Button variant="contained" disabled={plan.launches.length === 0} onClick={() => void adopt()}>
          {t('purse.make')}
        </Button>
      )}
      <Button size="small" onClick={() => saveJson('purse.json', document)}>
        {t('purse.document')}
      </Button>
      <Box role="status" sx={{ fontSize: '0.84rem', mt: 0.5 }}>
        {said}
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
        {t('purse.dragHint')}
      </Typography>
    </Box>
  );
}
