/**
 * Styles of what is drawn again at every keystroke: bars, cost lines, figures, lanes. They are plain rules
 * under fixed class names, because working out styles anew for each of some hundred small elements would take
 * longer than the frame has.
 */
import { plainButton, v } from './drawnParts.ts';
import { drawnTables } from './drawnTables.ts';

export const drawn = {
  '.hidden-text': {
    position: 'absolute',
    width: 1,
    height: 1,
    overflow: 'hidden',
    clipPath: 'inset(50%)',
    whiteSpace: 'nowrap',
  },
  '@media print': { '.no-print, header, nav': { display: 'none !important' } },
  ...drawnTables,
  // -- the bar
  '.bar': { position: 'relative' },
  '.bar.large': { paddingTop: 24 },
  '.bar-track': { position: 'relative', container: 'track / inline-size' },
  '.large > .bar-track': { borderBottom: `1px solid ${v('ink')}` },
  '.bar-slice': {
    container: 'slice / inline-size',
    position: 'absolute',
    bottom: 0,
    overflow: 'hidden',
    whiteSpace: 'nowrap',
  },
  '.large .bar-slice': { boxShadow: `inset -1px 0 0 ${v('background-default')}`, cursor: 'pointer' },
  '.large .bar-slice.chosen': { outline: `2px solid ${v('ink')}`, outlineOffset: -2 },
  '.bar-name': {
    display: 'block',
    padding: '7px 8px 0',
    lineHeight: 1.35,
    fontSize: '0.78rem',
    '& b': { display: 'block', fontWeight: 650, fontSize: '0.86rem' },
  },
  // A slice too narrow for its name goes without; its line below has it.
  '@container slice (max-width: 58px)': { '.bar-name': { display: 'none' } },
  '.bar-kept': {
    position: 'absolute',
    bottom: 0,
    overflow: 'hidden',
    whiteSpace: 'nowrap',
    pointerEvents: 'none',
    backgroundColor: v('keep-main'),
    color: v('keep-on'),
  },
  '.bar-kept.incomplete': {
    backgroundColor: v('keep-soft'),
    border: `1px dashed ${v('keep-main')}`,
    color: v('ink'),
  },
  '.bar-keeps': {
    padding: '8px 12px 0',
    fontSize: '0.82rem',
    '& b': {
      display: 'block',
      fontFamily: '"Bricolage Grotesque Variable", sans-serif',
      fontWeight: 750,
      fontSize: '1.7rem',
      lineHeight: 1.15,
    },
  },
  '.bar-keeps.narrow b': { fontSize: '1rem' },
  '.bar-keeps.least': { padding: '10px 4px 0', fontSize: 0, '& b': { fontSize: '0.8rem' } },
  '.bar-lost': {
    position: 'absolute',
    bottom: 0,
    pointerEvents: 'none',
    border: `1px solid ${v('loss-main')}`,
    backgroundImage: `repeating-linear-gradient(135deg, ${v('loss-main')} 0 2px, transparent 2px 6px)`,
  },
  '.bar-even': {
    position: 'absolute',
    bottom: -2,
    top: 0,
    width: 2,
    backgroundColor: v('ink'),
    pointerEvents: 'none',
  },
  '.large .bar-even': { bottom: -6, top: -20 },
  '.bar-even-says': {
    position: 'absolute',
    top: -4,
    padding: '0 4px',
    whiteSpace: 'nowrap',
    fontSize: '0.78rem',
    fontWeight: 650,
    backgroundColor: v('background-default'),
  },
  '@container ruler (max-width: 520px)': { '.bar-mark.near': { display: 'none' } },
  '.bar-marks': {
    container: 'ruler / inline-size',
    position: 'relative',
    height: 24,
    fontSize: '0.76rem',
    color: v('text-secondary'),
  },
  '.bar-mark': {
    position: 'absolute',
    top: 0,
    transform: 'translateX(-50%)',
    '&::before': {
      content: '""',
      display: 'block',
      width: 1,
      height: 5,
      margin: '0 auto',
      backgroundColor: v('text-secondary'),
    },
  },
  '.bar-mark:first-of-type': { transform: 'none', '&::before': { margin: 0 } },
  '.bar-price': { position: 'absolute', top: 5, fontWeight: 700, color: v('text-primary') },

  // -- a cost family's line in the breakdown
  '.line': {
    display: 'grid',
    gridTemplateColumns: '16px minmax(90px, 120px) 1fr auto 60px',
    alignItems: 'center',
    columnGap: 8,
    minHeight: 34,
  },
  '.line > i': { width: 11, height: 11 },
  '.line > button': { ...plainButton, fontWeight: 640, textAlign: 'left', padding: '6px 0' },
  '.line > small': {
    fontSize: '0.82rem',
    lineHeight: 1.25,
    color: v('text-secondary'),
    overflowWrap: 'anywhere',
  },
  '.line > span': { textAlign: 'right', fontWeight: 500 },
  '.line > span + small': { textAlign: 'right' },
  '.line.open > span': { fontWeight: 680 },

  // -- a number that opens its workings
  '.figure': {
    ...plainButton,
    fontWeight: 'inherit',
    textAlign: 'right',
    minHeight: 24,
    minWidth: 24,
    borderBottom: `1px dotted ${v('fieldLine')}`,
    '&:hover': { color: v('primary-main'), borderColor: v('primary-main') },
  },
  '.figures': {
    display: 'flex',
    flexWrap: 'wrap',
    columnGap: 24,
    rowGap: 4,
    margin: 0,
    fontSize: '0.84rem',
    '& > div': { display: 'flex', gap: 6 },
    '& dt': { color: v('text-secondary') },
    '& dd': { margin: 0, fontWeight: 600 },
    '& dd > small': { fontSize: 'inherit', fontWeight: 400, color: v('text-secondary') },
  },

  // -- a lane among its neighbours
  '.lane': { display: 'flex', alignItems: 'center', margin: '0 -8px', padding: '0 8px', borderRadius: 6 },
  '.lane.chosen': { backgroundColor: v('paperTint') },
  '.lane > button:first-of-type': {
    ...plainButton,
    flex: 1,
    minWidth: 0,
    display: 'grid',
    gridTemplateColumns: '124px 1fr 82px',
    gap: 10,
    alignItems: 'center',
    textAlign: 'left',
    padding: '4px 0',
  },
  '.lane-where, .lane-keeps': {
    lineHeight: 1.25,
    minWidth: 0,
    '& > *': { display: 'block', overflowWrap: 'anywhere' },
    '& > span': { fontSize: '0.88rem' },
    '& > small': { fontSize: '0.76rem', color: v('text-secondary') },
  },
  '.lane-keeps': {
    textAlign: 'right',
    '& > b': { fontWeight: 650, color: v('primary-main') },
    '& > b.loses': { color: v('error-main') },
    '& > b.unknown': { color: v('text-secondary') },
  },

  // A bar in a narrow place: the margin keeps its colour and height, and its figure fits.
  '@container track (max-width: 520px)': {
    '.bar-keeps': { padding: '8px 5px 0' },
    '.bar-keeps b, .bar-keeps.narrow b': { fontSize: '0.95rem' },
  },

  // -- a phone's width; last, so that it wins
  '@media (max-width: 599px)': {
    '.bar-name.narrow': { display: 'none' },
    '.bar-keeps': { padding: '8px 6px 0' },
    '.bar-keeps b, .bar-keeps.narrow b': { fontSize: '1.05rem' },
    '.bar-keeps.least b': { display: 'none' },
    '.lane > button:first-of-type': { gridTemplateColumns: '104px 1fr 74px' },
  },
} as const;
