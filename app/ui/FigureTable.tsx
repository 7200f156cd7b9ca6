/** A table of figures: the first column names the rows, the others stand right; wider than its place it scrolls. */
import { Box } from '@mui/material';
import type { ReactNode } from 'react';

/** Of the class `text` stand left, `loss` in the colour of one, `total` stronger, `quiet` fainter: rows or cells. */
export function FigureTable({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box
      role="region"
      tabIndex={0}
      aria-label={label}
      sx={{ overflowX: 'auto', position: 'relative', '@media print': { overflow: 'visible' } }}>
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
          '& .loss': { color: 'error.main' },
          // A year of months has to fit on paper.
          '@media print': { fontSize: '0.7rem', '& th, & td': { px: 0.4 } },
          '& .total': { fontWeight: 650 },
          '& .quiet': { color: 'text.secondary' },
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
