/** What opens beside something that was pressed: a titled dialog. */
import { Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { Popover } from './later.tsx';

type Props = {
  /** What it opens beside. */
  at: HTMLElement;
  /** What it is called for whoever hears it. */
  label: string;
  title: string;
  onClose: () => void;
  maxWidth?: number;
  children: ReactNode;
};

export function Opened({ at, label, title, onClose, maxWidth = 520, children }: Props) {
  return (
    <Popover
      open
      anchorEl={at}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      slotProps={{ paper: { role: 'dialog', 'aria-label': label, sx: { p: 2, maxWidth } } }}>
      <Typography variant="h3" gutterBottom>
        {title}
      </Typography>
      {children}
    </Popover>
  );
}
