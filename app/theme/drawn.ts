/**
 * Styles of what is drawn again at every keystroke: bars, cost lines, figures, lanes. They are plain rules under fixed class
 * names, because working out styles anew for each of some hundred small elements would take longer than the frame has.
 */
const v = (name: string): string => `var(--mui-palette-${name})`;
const plainButton = { font: 'inherit', color: 'inherit', background: 'none', border: 0, padding: 0, cursor: 'pointer' } as const;

export const drawn = {
  '.hidden-text': { position: 'absolute', width: 1, height: 1, overflow: 'hidden', clipPath: 'inset(50%)', whiteSpace: 'nowrap' },
  '@media print': { '.no-print, header, nav': { display: 'none !important' } },
  // -- lanes side by side
  '.compared': { position: 'absolute', top: 0, left: 0, right: 0, height: 54, display: 'grid', alignItems: 'center', columnGap: 10, padding: '0 6px', borderBottom: `1px solid ${v('hairline')}`, fontSize: '0.86rem', cursor: 'pointer' },
  '.compared:hover': { backgroundColor: v('paperTint') },
  '.compared.chosen': { backgroundColor: v('paperTint'), boxShadow: `inset 3px 0 0 ${v('primary-main')}` },
  '.compared.pinned': { boxShadow: `inset 3px 0 0 ${v('ink')}` },
  '.compared .num': { textAlign: 'right', whiteSpace: 'nowrap', lineHeight: 1.2 },
  '.compared .num b': { fontWeight: 680, color: v('primary-main') },
  '.compared .num b.loses': { color: v('error-main') },
  '.compared small': { display: 'block', fontSize: '0.72rem', color: v('text-secondary'), lineHeight: 1.15 },
  '.compared .where': { lineHeight: 1.2, overflowWrap: 'anywhere', '& a': { color: 'inherit', textDecoration: 'none', fontWeight: 600 }, '& a:hover': { textDecoration: 'underline' } },
  '.compared button': { ...plainButton, width: 26, height: 26, borderRadius: 6, color: v('text-secondary'), lineHeight: 1, fontSize: '0.9rem' },
  '.compared button:hover': { color: v('text-primary'), backgroundColor: v('background-paper') },
  '.compared button[aria-pressed=true]': { color: v('background-default'), backgroundColor: v('ink') },
  '.compared .num button': { width: 'auto', minWidth: 24, padding: '0 2px', color: v('text-primary'), borderBottom: `1px dotted ${v('fieldLine')}`, borderRadius: 0, fontSize: 'inherit' },
  '.compared .num button[aria-pressed=true]': { color: v('text-primary'), backgroundColor: 'transparent', borderBottom: `2px solid ${v('primary-main')}`, fontWeight: 680 },
  '.compared-group': { position: 'absolute', top: 0, left: 0, right: 0, height: 34, padding: '12px 6px 0', fontSize: '0.84rem', fontWeight: 680, '& span': { fontWeight: 400, color: v('text-secondary') } },
  // -- cells of a draft
  '.cell': { padding: '0 6px', lineHeight: '28px', whiteSpace: 'nowrap', overflow: 'hidden', textOverflow: 'ellipsis', borderLeft: `1px solid ${v('hairline')}`, cursor: 'cell', '& input': { font: 'inherit', color: 'inherit', width: '100%', height: 27, border: 0, padding: 0, outline: 'none', background: 'transparent' } },
  '.cell.fixed': { cursor: 'default', color: v('text-secondary') },
  '.cell.selected': { backgroundColor: v('paperTint') },
  '.cell.active': { outline: `2px solid ${v('primary-main')}`, outlineOffset: -2 },
  '.cell.wrong': { color: v('error-main'), textDecoration: 'underline wavy', textUnderlineOffset: 3, boxShadow: `inset 3px 0 0 ${v('error-main')}` },
  // -- rows of a supplier's list
  '.list-grid': { fontSize: '0.84rem' },
  '.list-head, .list-row, .list-foot': { display: 'grid', alignItems: 'center' },
  '.list-head': { position: 'relative', zIndex: 3, backgroundColor: v('background-default'), height: 40, borderBottom: `1px solid ${v('ink')}`, fontSize: '0.76rem', color: v('text-secondary'), '& > div': { position: 'relative', padding: '0 6px', height: 39, display: 'flex', alignItems: 'flex-end', paddingBottom: 4, lineHeight: 1.15, overflow: 'hidden' }, '& > .num button': { textAlign: 'right' }, '& > .num': { justifyContent: 'flex-end' }, '& button': { ...plainButton, overflow: 'hidden', minHeight: 24, fontWeight: 550 }, '& button:hover': { color: v('text-primary') }, '& [draggable]': { cursor: 'grab', minHeight: 24, display: 'inline-flex', alignItems: 'center' } },
  '.list-row': { position: 'absolute', top: 0, left: 0, height: 34, borderBottom: `1px solid ${v('hairline')}`, cursor: 'pointer', '& > div': { padding: '0 6px', whiteSpace: 'nowrap', overflow: 'hidden', textOverflow: 'ellipsis', lineHeight: 1.15, height: 33, display: 'flex', alignItems: 'center' }, '& > div > *': { minWidth: 0 }, '& > .num': { justifyContent: 'flex-end', textAlign: 'right' }, '& small': { display: 'block', fontSize: '0.7rem', color: v('text-secondary'), overflow: 'hidden', textOverflow: 'ellipsis', fontWeight: 400 }, '& b.keeps': { color: v('primary-main'), fontWeight: 660 }, '& b.loses': { color: v('error-main'), fontWeight: 660 }, '& .bar': { width: '100%' } },
  '.list-row > .fixed, .list-head > .fixed, .list-foot > .fixed': { backgroundColor: v('background-default') },
  '.list-row:hover, .list-row:hover > .fixed, .list-row.opened, .list-row.opened > .fixed': { backgroundColor: v('paperTint') },
  // Drawn above the pinned cells.
  '.list-grid:focus .list-row.active::after': { content: '""', position: 'absolute', inset: 0, zIndex: 2, pointerEvents: 'none', outline: `1px solid ${v('fieldLine')}`, outlineOffset: -1 },
  '.list-grid:focus-visible .list-row.active::after': { outline: `2px solid ${v('primary-main')}`, outlineOffset: -2 },
  '.list-row.dropped': { color: v('text-secondary'), textDecoration: 'line-through' },
  '.list-title': { overflow: 'hidden', textOverflow: 'ellipsis', flex: 1, '& em': { fontStyle: 'normal', fontSize: '0.72rem', marginLeft: 6, padding: '0 4px', border: `1px solid ${v('fieldLine')}`, borderRadius: 4 } },
  '.list-row .verdict-pass': { fontWeight: 640 },
  '.list-row .verdict-fail': { color: v('text-secondary') },
  '.list-row .verdict-near': { fontWeight: 640, fontStyle: 'italic' },
  '.list-row .verdict-unknown': { color: v('text-secondary') },
  '.list-wait': { display: 'block', height: 8, width: '60%', backgroundColor: v('hairline'), borderRadius: 4 },
  '.list-head > .list-target': { boxShadow: `inset 2px 0 0 ${v('primary-main')}` },
  '.list-edge': { position: 'absolute', right: 0, top: 4, bottom: 2, width: 7, cursor: 'col-resize', borderRight: `1px solid ${v('hairline')}`, touchAction: 'none' },
  '.list-edge:hover, .list-edge:focus-visible': { borderRight: `2px solid ${v('primary-main')}` },
  '.list-foot': { height: 40, borderTop: `1px solid ${v('ink')}`, backgroundColor: v('background-default'), fontWeight: 620, zIndex: 2, '& > div': { padding: '3px 6px', lineHeight: 1.2, height: 39, whiteSpace: 'nowrap', overflow: 'hidden' }, '& > .num': { textAlign: 'right' }, '& small': { display: 'block', fontSize: '0.74rem', fontWeight: 450, color: v('text-secondary') } },
  '.copy-code': { ...plainButton, fontVariantNumeric: 'tabular-nums', minHeight: 24, '&:hover': { textDecoration: 'underline' } },
  // -- the bar
  '.bar': { position: 'relative' },
  '.bar.large': { paddingTop: 24 },
  '.bar-track': { position: 'relative' },
  '.large > .bar-track': { borderBottom: `1px solid ${v('ink')}` },
  '.bar-slice': { container: 'slice / inline-size', position: 'absolute', bottom: 0, overflow: 'hidden', whiteSpace: 'nowrap' },
  '.large .bar-slice': { boxShadow: `inset -1px 0 0 ${v('background-default')}`, cursor: 'pointer' },
  '.large .bar-slice.chosen': { outline: `2px solid ${v('ink')}`, outlineOffset: -2 },
  '.bar-name': { display: 'block', padding: '7px 8px 0', lineHeight: 1.35, fontSize: '0.78rem', '& b': { display: 'block', fontWeight: 650, fontSize: '0.86rem' } },
  // A slice too narrow for its name goes without; its line below has it.
  '@container slice (max-width: 58px)': { '.bar-name': { display: 'none' } },
  '.bar-kept': { position: 'absolute', bottom: 0, overflow: 'hidden', whiteSpace: 'nowrap', pointerEvents: 'none', backgroundColor: v('keep-main'), color: v('keep-on') },
  '.bar-kept.incomplete': { backgroundColor: v('keep-soft'), border: `1px dashed ${v('keep-main')}`, color: v('ink') },
  '.bar-keeps': { padding: '8px 12px 0', fontSize: '0.82rem', '& b': { display: 'block', fontFamily: '"Bricolage Grotesque Variable", sans-serif', fontWeight: 750, fontSize: '1.7rem', lineHeight: 1.15 } },
  '.bar-keeps.narrow b': { fontSize: '1rem' },
  '.bar-keeps.least': { padding: '10px 4px 0', fontSize: 0, '& b': { fontSize: '0.8rem' } },
  '.bar-lost': { position: 'absolute', bottom: 0, pointerEvents: 'none', border: `1px solid ${v('loss-main')}`, backgroundImage: `repeating-linear-gradient(135deg, ${v('loss-main')} 0 2px, transparent 2px 6px)` },
  '.bar-even': { position: 'absolute', bottom: -2, top: 0, width: 2, backgroundColor: v('ink'), pointerEvents: 'none' },
  '.large .bar-even': { bottom: -6, top: -20 },
  '.bar-even-says': { position: 'absolute', top: -4, padding: '0 4px', whiteSpace: 'nowrap', fontSize: '0.78rem', fontWeight: 650, backgroundColor: v('background-default') },
  '.bar-marks': { position: 'relative', height: 24, fontSize: '0.76rem', color: v('text-secondary') },
  '.bar-mark': { position: 'absolute', top: 0, transform: 'translateX(-50%)', '&::before': { content: '""', display: 'block', width: 1, height: 5, margin: '0 auto', backgroundColor: v('text-secondary') } },
  '.bar-mark:first-of-type': { transform: 'none', '&::before': { margin: 0 } },
  '.bar-price': { position: 'absolute', top: 5, fontWeight: 700, color: v('text-primary') },

  // -- a cost family's line in the breakdown
  '.line': { display: 'grid', gridTemplateColumns: '16px minmax(90px, 120px) 1fr auto 60px', alignItems: 'center', columnGap: 8, minHeight: 34 },
  '.line > i': { width: 11, height: 11 },
  '.line > button': { ...plainButton, fontWeight: 640, textAlign: 'left', padding: '6px 0' },
  '.line > small': { fontSize: '0.82rem', lineHeight: 1.25, color: v('text-secondary'), overflowWrap: 'anywhere' },
  '.line > span': { textAlign: 'right', fontWeight: 500 },
  '.line > span + small': { textAlign: 'right' },
  '.line.open > span': { fontWeight: 680 },

  // -- a number that opens its workings
  '.figure': { ...plainButton, fontWeight: 'inherit', textAlign: 'right', minHeight: 24, minWidth: 24, borderBottom: `1px dotted ${v('fieldLine')}`, '&:hover': { color: v('primary-main'), borderColor: v('primary-main') } },
  '.figures': { display: 'flex', flexWrap: 'wrap', columnGap: 24, rowGap: 4, margin: 0, fontSize: '0.84rem', '& > div': { display: 'flex', gap: 6 }, '& dt': { color: v('text-secondary') }, '& dd': { margin: 0, fontWeight: 600 }, '& dd > small': { fontSize: 'inherit', fontWeight: 400, color: v('text-secondary') } },

  // -- a lane among its neighbours
  '.lane': { display: 'flex', alignItems: 'center', margin: '0 -8px', padding: '0 8px', borderRadius: 6 },
  '.lane.chosen': { backgroundColor: v('paperTint') },
  '.lane > button:first-of-type': { ...plainButton, flex: 1, minWidth: 0, display: 'grid', gridTemplateColumns: '124px 1fr 82px', gap: 10, alignItems: 'center', textAlign: 'left', padding: '4px 0' },
  '.lane-where, .lane-keeps': { lineHeight: 1.25, minWidth: 0, '& > *': { display: 'block', overflowWrap: 'anywhere' }, '& > span': { fontSize: '0.88rem' }, '& > small': { fontSize: '0.76rem', color: v('text-secondary') } },
  '.lane-keeps': { textAlign: 'right', '& > b': { fontWeight: 650, color: v('primary-main') }, '& > b.loses': { color: v('error-main') }, '& > b.unknown': { color: v('text-secondary') } },

  // -- a phone's width; last, so that it wins
  '@media (max-width: 599px)': { '.bar-name.narrow': { display: 'none' }, '.bar-keeps': { padding: '8px 6px 0' }, '.bar-keeps b, .bar-keeps.narrow b': { fontSize: '1.05rem' }, '.bar-keeps.least b': { display: 'none' }, '.lane > button:first-of-type': { gridTemplateColumns: '104px 1fr 74px' } },
} as const;
