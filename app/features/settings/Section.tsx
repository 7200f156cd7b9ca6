import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';

/** A part of the settings under its heading. */
export function Section({
  title,
  text,
  id,
  children,
}: {
  title: string;
  text?: string;
  id?: string;
  children: ReactNode;
}) {
  return (
    <Box component="section" id={id} sx={{ mt: 3.5 }}>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {title}
      </Typography>
      {text && (
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1, maxWidth: 640 }}>
          {text}
        </Typography>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, rowGap: 1.5, alignItems: 'flex-end' }}>
        {children}
      </Box>
    </Box>
  );
}
