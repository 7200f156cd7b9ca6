/** Parts that the tables of all cards share. */
import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { useFormat } from '../../ui/locale.ts';

export function Rows({ head, children, caption }: { head: string[]; children: ReactNode; caption: string }) {
  return (
    <Box role="region" aria-label={caption} tabIndex={0} sx={{ overflowX: 'auto', mb: 2.5 }}>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          fontSize: '0.85rem',
          width: '100%',
          '& td, & th': {
            py: 0.4,
            px: 0.75,
            textAlign: 'right',
            borderBottom: '1px solid',
            borderColor: 'hairline',
            verticalAlign: 'top',
          },
          '& th': { fontWeight: 400, color: 'text.secondary' },
          '& td:first-of-type, & th:first-of-type': { textAlign: 'left' },
        }}>
        <Box component="caption" sx={{ textAlign: 'left', fontWeight: 650, fontSize: '0.9rem', pb: 0.5 }}>
          {caption}
        </Box>
        <thead>
          <tr>
            {head.map((h) => (
              <th key={h} scope="col">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </Box>
    </Box>
  );
}

/** A row that applied to the tried item: tinted, bold, with an edge, and said to screen readers. */
export const applied = (on: boolean) => ({
  'aria-current': on ? ('true' as const) : undefined,
  sx: on
    ? {
        bgcolor: 'paperTint',
        '& td': { fontWeight: 680 },
        '& td:first-of-type': { boxShadow: 'inset 3px 0 0 var(--mui-palette-primary-main)' },
      }
    : {},
});

export function Small({ children }: { children: ReactNode }) {
  return (
    <Box
      component="span"
      sx={{
        display: 'block',
        color: 'text.secondary',
        fontSize: '0.78rem',
        fontWeight: 400,
        whiteSpace: 'nowrap',
      }}>
      {children}
    </Box>
  );
}

/** Twelve amounts of the calendar months. */
export function ByMonth({
  caption,
  months,
  m,
}: {
  caption: string;
  months: readonly number[];
  m: (x: number) => string;
}) {
  const f = useFormat();
  return (
    <Rows caption={caption} head={months.map((_, i) => f.monthName(i + 1))}>
      <tr>
        {months.map((x, i) => (
          <Box component="td" key={f.monthName(i + 1)} sx={{ textAlign: 'right !important' }}>
            {m(x)}
          </Box>
        ))}
      </tr>
    </Rows>
  );
}
