/** Strokes that tell the lines of a chart apart without colour, and the same stroke beside a row's name. */
import { Box } from '@mui/material';
import { useTheme } from '@mui/material/styles';

const DASHES = ['', '6 3', '2 3', '10 3 2 3', '1 5'];

/** The dashes of the line drawn as number `index` (from 0), as SVG's stroke-dasharray. */
export const dashesOf = (index: number): string => DASHES[index % DASHES.length] ?? '';

export function Stroke({ index }: { index: number }) {
  const theme = useTheme();
  const { palette } = theme.vars ?? theme;
  return (
    <Box
      component="svg"
      aria-hidden
      viewBox="0 0 26 6"
      sx={{ width: 26, height: 6, mr: 1, verticalAlign: 'middle' }}>
      <line
        x1="0"
        y1="3"
        x2="26"
        y2="3"
        stroke={palette.text.primary}
        strokeWidth="2"
        strokeDasharray={dashesOf(index)}
      />
    </Box>
  );
}
