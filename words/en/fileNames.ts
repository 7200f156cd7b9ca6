/** Names of files that are taken along, without their ending. */
export const fileNames = {
  lanes: '{{name}} lanes {{day}}',
  touches: '{{name}} {{day}} touches',
  gone: '{{name}} gone',
  shortlist: '{{name}} shortlist',
  toMend: '{{name}} to mend',
} as const;
/** How a copy is called, and what a reason is where none was given. */
export const defaults = { copy: '{{name}} (copy)', noReason: 'No reason given' } as const;
