/** What the command line says besides faults: how it is used, and what keeps a file from being read or written. */
export const usage = `Use:
  bm evaluate [file] [--workings] [--jsonl]      every cost line and figure of a lane
  bm solve [file] [--target figure=value ...]    break-evens, and what a target takes
  bm launch [file] [--jsonl]                     launch budget and affordability
  bm cash [file] [--plan PLAN.json] [--csv days|months]
                                                 the launch over time: the money it really needs and when it is
                                                 back, in three cases of demand; --csv gives the expected one
  bm purse [file]                                which launches one purse should pay for, how many, in which week
  bm risk [file] --ranges RANGES.json [--uniforms FILE]
                                                 how sure a lane is, drawn over ranges of what is not certain;
                                                 --uniforms: numbers from 0 to 1 in place of the seed's, eight a draw
  bm screen FILE --map MAP.json --settings SETTINGS.json [--as csv|jsonl] [--only pass,near] [--solve] [--invalid FILE]
            [--reference FILE --reference-map MAP.json] [--choose sellsFastest|cheapest|first] [--previous FILE]
                                                 a supplier's list, row by row; what is wrong goes to --invalid; market
                                                 figures it lacks come from --reference; --previous is its last edition
  bm actuals --lane LANE.json --settlement FILE.csv ... --map MAP.json [--code CODE ...] [--since DAY]
  bm match GOODS.csv --listings LISTINGS.csv [--noise WORDS]
                                                 which listing the goods of a source are, with the reason, and what
                                                 is left to the eye; --noise: words that say nothing of goods
  bm card read TABLE [--kind marketplace|postage|freight] [--currency EUR] [--like CARD.json]
                                                 a fee table as it stands (text, CSV or XLSX), cell by cell, and the
                                                 card it makes; beside --like, what it would change
  bm card check CARD.json PROOFS.csv             what was really charged against what a marketplace's card says
  bm evidence season|history|rivals|terms|units|offers|opportunity FILE [LANE.json]
                                                 what the market says, section by section; a lane beside it brings
                                                 one's own price, and what a unit keeps
  bm schema lane|result|launch|plan|purse|ranges|card|pack|evidence|map|screen|feed
                                                 the JSON Schema of a document
Without a file the document is read from standard input. Targets: unitProfit, margin, roi, marginOnShelfPrice, markup,
priceMultiple; ratios as fractions (margin=0.3); without any: margin 0.2 and 0.3, ROI 0.5 and 1. Exit 0: all evaluated;
1: a cell of a fee table is not sure, or a proof fails; 2: something was invalid.`;

/** What was asked for and cannot be done. */
export const asked = {
  notTarget: '"{{text}}" is not a target such as margin=0.3.',
  whichSchema: 'bm schema needs {{choices}}.',
  whichFile: 'bm screen needs a file.',
  notFormat: '"{{text}}" is neither csv nor jsonl.',
  whichSettlement: 'bm actuals needs --lane LANE.json, --settlement FILE.csv and --map MAP.json.',
  settlementUnfit: '{{file}}: {{why}}',
  whichListings: 'bm match needs --listings LISTINGS.csv.',
  noTitles: '{{file}} has no column of titles. Head it with title.',
  whichCard: 'bm card needs read or check, and its files.',
  notMarketplace: 'Only the card of a marketplace can be held against proofs.',
  whichEvidence: 'bm evidence needs one of {{choices}}, and its file.',
  noPrices: 'The document has no prices.',
  noRivals: 'The document has no rivals.',
  noUnits: 'The document says nothing of units.',
  noOffers: 'The document has no offers.',
  otherCurrency: 'The prices are in {{prices}}, the lane sells in {{lane}}.',
  whichRanges: 'bm risk needs --ranges RANGES.json.',
  notUniform: 'Number {{position}} of the uniform numbers is not from 0 up to but not 1.',
  uniformsLeftOver: 'The file has {{count}} uniform numbers; a draw takes {{each}} of them.',
  noneOf: '"{{text}}" is none of {{choices}}.',
  nothing: 'Say what to do.',
  noCommand: 'There is no command "{{text}}".',
  unforeseen: 'This should not have happened: {{said}}',
} as const;

/** Errors of the file system by their code. */
export const fileErrors: Readonly<Record<string, string>> = {
  ENOENT: 'There is no such file. Check the path.',
  EISDIR: 'This is a folder. Name a file in it.',
  EACCES: 'You may not open this file. Ask who owns it, or copy it.',
  EPERM: 'You may not open this file. Ask who owns it, or copy it.',
  ENOTDIR: 'A part of this path is a file, not a folder. Check the path.',
  ENAMETOOLONG: 'This name is too long.',
  EMFILE: 'Too many files are open.',
  ENOSPC: 'There is no room left on the disk.',
  EROFS: 'Nothing can be written there.',
  ELOOP: 'This path leads in a circle.',
};

export const files = { standardInput: 'Standard input', file: 'The file' } as const;

/** What a list that was screened came to, in a line. */
type Screened = {
  readonly rows: number;
  readonly valid: number;
  readonly invalid: number;
  readonly troubles: string;
  readonly repaired: number;
  readonly verdicts: string;
  readonly completed: { readonly rows: number; readonly listings: number } | null;
  readonly changes: { readonly what: string; readonly gone: number } | null;
};
export const told = {
  rows: (s: Screened): string => {
    const why = s.troubles === '' ? '' : ` (${s.troubles})`;
    const parts = [
      `${s.valid} valid, ${s.invalid} invalid${why}`,
      `${s.repaired} barcodes repaired`,
      s.verdicts,
      s.completed === null ? '' : `${s.completed.rows} completed from ${s.completed.listings} listings`,
      s.changes === null ? '' : `${s.changes.what}, ${s.changes.gone} gone`,
    ];
    return `${s.rows} rows: ${parts.filter((p, i) => i < 3 || p !== '').join('; ')}.\n`;
  },
} as const;
