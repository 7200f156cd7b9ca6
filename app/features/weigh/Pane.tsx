/** A titled part of a sheet. */
import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';

export function Pane({
  title,
  aside,
  children,
}: {
  title: ReactNode;
  aside?: ReactNode;
  children: ReactNode;
}) {
  return (
    <Box component="section" sx={{ mb: 2.5 }}>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'baseline',
          gap: 1,
          borderBottom: '1px solid',
          borderColor: 'hairline',
          pb: 0.5,
          mb: 0.75,
        }}>
        <Typography variant="h3" component="h2">
          {title}
        </Typography>
        <Box sx={{ fontSize: '0.82rem', color: 'text.secondary', flex: 1 }}>{aside}</Box>
      </Box>
      {children}
    </Box>
  );
}
