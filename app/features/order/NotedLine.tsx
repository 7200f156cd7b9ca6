/** Something noted of an order, on a line, and how it is taken back. */
import { Box, Button } from '@mui/material';
import type { ReactNode } from 'react';
import { useWords } from '../../ui/useWords.ts';

export function NotedLine({
  onTakeBack,
  children,
}: {
  /** Null: it stands. */
  onTakeBack: (() => void) | null;
  children: ReactNode;
}) {
  const { t } = useWords();
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline', fontSize: '0.88rem' }}>
      {children}
      {onTakeBack !== null && (
        <Button size="small" sx={{ minWidth: 0, py: 0 }} onClick={onTakeBack}>
          {t('order.takeBack')}
        </Button>
      )}
    </Box>
  );
}
