/** What the places under a sheet share. */
import type { LaneView } from './useFigures.ts';
import type { MoreTab } from './More.tsx';

export type Props = {
  tab: MoreTab;
  view: LaneView;
  views: readonly LaneView[];
  onChoose: (id: string) => void;
  base: string;
  candidateId: string;
};

export const table = {
  borderCollapse: 'collapse',
  width: '100%',
  fontSize: '0.86rem',
  '& th, & td': {
    py: 0.4,
    px: 0.75,
    textAlign: 'right',
    borderBottom: '1px solid',
    borderColor: 'hairline',
    verticalAlign: 'top',
  },
  '& thead th': { fontWeight: 400, color: 'text.secondary', fontSize: '0.76rem' },
  '& th:first-of-type': { textAlign: 'left' },
} as const;
