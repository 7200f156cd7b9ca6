/** How charts of lines look: their axes and what opens over a point. */
import { useTheme } from '@mui/material/styles';

export function useChartLook() {
  const theme = useTheme();
  // Colours by name, so that they are those of the scheme the page is in.
  const { palette } = theme.vars ?? theme;
  return {
    palette,
    axis: { stroke: palette.text.secondary, fontSize: 12 },
    /** Style of what opens over a point. */
    over: { background: palette.background.paper, border: `1px solid ${palette.divider}` },
  } as const;
}
