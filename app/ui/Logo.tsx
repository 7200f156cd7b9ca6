import { Box } from '@mui/material';

/** The mark: costs, then the margin, taller and bolder. */
export function Logo({ label = false }: { label?: boolean }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'flex-end', gap: 1.25 }}>
      <Box component="svg" viewBox="0 0 40 26" sx={{ width: 40, height: 26, display: 'block' }} aria-hidden>
        <Box
          component="rect"
          x="0"
          y="14"
          width="9"
          height="12"
          sx={{ fill: 'var(--mui-palette-family-goods)' }}
        />
        <Box
          component="rect"
          x="10"
          y="14"
          width="7"
          height="12"
          sx={{ fill: 'var(--mui-palette-family-wayIn)' }}
        />
        <Box
          component="rect"
          x="18"
          y="14"
          width="7"
          height="12"
          sx={{ fill: 'var(--mui-palette-family-marketplace)' }}
        />
        <Box
          component="rect"
          x="26"
          y="0"
          width="14"
          height="26"
          sx={{ fill: 'var(--mui-palette-keep-main)' }}
        />
      </Box>
      {label && (
        <Box
          component="span"
          sx={{ fontFamily: 'h1.fontFamily', fontWeight: 700, fontSize: '1.1rem', lineHeight: 1 }}>
          Bold Margin
        </Box>
      )}
    </Box>
  );
}
