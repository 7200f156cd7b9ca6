/** A table of figures: the first column names the rows, the others stand right; wider than its place it scrolls. */
import { Box } from '@mui/material';
import type { ReactNode } from 'react';

/** Cells of the class `text` stand left. */
export function FigureTable({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box role="region" tabIndex={0} aria-label={label} sx={{ overflowX: 'auto', position: 'relative' }}>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          width: '100%',
          fontSize: '0.88rem',
          '& th, & td': {
            py: 0.6,
            px: 1,
            textAlign: 'right',
            borderBottom: '1px solid',
            borderColor: 'hairline',
            verticalAlign: 'top',
          },
          '& thead th': { fontWeight: 400, color: 'text.secondary', fontSize: '0.78rem' },
          '& th:first-of-type, & .text': { textAlign: 'left' },
        }}>
        {children}
      </Box>
    </Box>
  );
}

/** The heading of a column of buttons: read out, not shown. */
export function HiddenHead({ children }: { children: ReactNode }) {
  return (
    <th scope="col">
      <span className="hidden-text">{children}</span>
    </th>
  );
}
