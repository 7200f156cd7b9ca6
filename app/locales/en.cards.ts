/** Words of the rate cards: reading, editing, importing, comparing. */
export const cardWords = {
  cards: {
    kind: { marketplace: 'Marketplaces', tax: 'Taxes', freight: 'Freight routes', postage: 'Own postage', exchange: 'Exchange rates', benchmark: 'Bank benchmark' },
    one: { marketplace: 'marketplace card', tax: 'tax card', freight: 'freight route', postage: 'postage card', exchange: 'exchange rates', benchmark: 'bank benchmark' },
    find: 'Find a card', drafts: 'Drafts', newCard: 'New card', newTitle: 'What is the new card about?', more: 'More',
    inForce: 'in force from {{date}}', notYet: 'in force from {{date}}, not yet', superseded: '{{from}} to {{to}}', withdrawn: 'withdrawn', version: 'Version', example: 'example: replace with your own', age: '{{days}} days old', ageToday: 'of today',
    next: 'Write the next version', copy: 'Copy as a new card', withdraw: 'Withdraw this version', putBack: 'Put it back in force', withdrawnText: 'This version is withdrawn: lanes that were computed with it keep it, new ones do not get it.',
    exportTitle: 'Export', exportXlsx: 'Workbook (XLSX)', exportJson: 'Whole card (JSON)', exportCsv: '{{sheet}} (CSV)', importTitle: 'Import a file', importText: 'A workbook, a table as CSV, or a whole card as JSON. Nothing changes before you have seen what it would do.',
    compare: 'Compare with', touches: 'What it touches', freightQuote: 'Ask for a quote', fetchRates: "Fetch today's rates", fetched: 'as of {{at}}', fetchStale: 'The service did not answer; the rates as of {{at}} stand.', fetchFailed: 'The service did not answer. The stored rates stand; try again later, or type or import them.',
    sheet: { card: 'Card', categories: 'Categories', referralTiers: 'Referral tiers', surcharges: 'Surcharges', sizeTiers: 'Size tiers', weightSteps: 'Fees by weight', months: 'Storage by month', longStay: 'Long stay', vatRates: 'VAT', duties: 'Duties', importCharges: 'Import charges', legs: 'Legs', weightBands: 'Weight bands', zones: 'Zones', rates: 'Rates' },
    column: {
      field: 'Field', value: 'Value', name: 'Name', inForceFrom: 'In force from', note: 'Note', marketplace: 'Marketplace', country: 'Country', currency: 'Currency', itemFee: 'Item fee', paymentBase: 'Payment fee of', paymentPct: 'Payment fee', paymentFixed: 'Payment fee, fixed', subscriptionMonthly: 'Subscription a month',
      feeVat: 'VAT on fees', feeVatRate: 'VAT rate on fees', feeVatBears: 'Fees that bear it', advertVat: 'VAT on adverts', advertVatRate: 'VAT rate on adverts', refundAdminPct: 'Kept of the referral on a refund', refundAdminMax: 'Kept at most', backReferral: 'Referral given back', backItemFee: 'Item fee given back', backPayment: 'Payment fee given back', backSurcharges: 'Surcharges given back',
      addOnDangerous: 'Dangerous goods, more', addOnOversize: 'Oversize, more', payoutEveryDays: 'Payout every, days', payoutDelayDays: 'Payout after, days',
      key: 'Key', base: 'Share of', mode: 'Tiers apply', min: 'Minimum', max: 'Maximum', category: 'Category', upTo: 'Up to', pct: 'Rate', of: 'Of', maxL: 'Longest side, cm', maxW: 'Middle side, cm', maxH: 'Shortest side, cm', maxKg: 'Up to kg', maxLengthGirth: 'Length and girth, cm', divisor: 'cm³ per kg', packagingKg: 'Packaging, kg',
      tier: 'Size tier', priceUpTo: 'Priced up to', upToKg: 'Up to kg', eachFurtherKg: 'Each further kg', fee: 'Fee', month: 'Month', storagePerM3: 'Storage, m³', peakSurcharge: 'Peak surcharge', fromMonths: 'From month', toMonths: 'To month', rate: 'Rate',
      regime: 'Shown prices', checkoutTax: 'Tax at checkout', customsBasis: 'Customs value', importVatBase: 'Import VAT on', importVatRates: 'Import VAT rates', dutyFreeLimit: 'Duty-free up to', taxClass: 'Tax class', vatRate: 'VAT rate', importVatRate: 'Import VAT rate', heading: 'HS heading', origins: 'Origins', additional: 'On top', perUnit: 'Per unit', perKg: 'Per kg', flat: 'Flat',
      from: 'From', to: 'To', packingAllowance: 'Packing allowance', insuranceRate: 'Insurance', transitDays: 'Transit days', inboundDays: 'Inbound days', leg: 'Leg', stage: 'Stage', basis: 'Charged', vat: 'VAT', recoverable: 'VAT comes back', minCharge: 'Minimum', fuelSurcharge: 'Fuel', minKg: 'At least kg', minCbm: 'At least m³', usableM3: 'Usable m³', buyerPays: 'Buyer pays',
      zone: 'Zone', share: 'Share', date: 'Date', source: 'Source',
    },
  },
  draft: {
    title: 'Draft', of: 'next version of {{name}}', new: 'a new card', lead: 'Edit it like a sheet: type, paste from a spreadsheet, fill down with Ctrl+D, undo with Ctrl+Z. Percentages carry their sign.', addRow: 'Add a row', removeRows: 'Remove row', fillDown: 'Fill down', saved: 'Draft saved', saving: 'Saving …', conflict: 'Somebody else has saved this draft meanwhile. Load it again to see their version; yours stays here until then.', offline: 'Not saved: no answer from the server. Trying again …', gone: 'This draft is gone: put in force or thrown away by somebody.', load: 'Load it again',
    errors_one: '{{count}} cell to mend before it can be put in force', errors_other: '{{count}} cells to mend before it can be put in force', noErrors: 'Every cell is in order.', more: 'and {{count}} more', where: '{{sheet}}, row {{row}}, {{column}}', wherePlain: '{{sheet}}, {{column}}', whereRow: '{{sheet}}, row {{row}}',
    changes_one: '{{count}} change to {{name}}', changes_other: '{{count}} changes to {{name}}', noChanges: 'Nothing differs from {{name}} yet.', putInForce: 'Put in force from {{date}}', throwAway: 'Throw the draft away', thrown: 'The draft is thrown away.', touches: 'See what it would touch',
  },
  change: {
    added: 'added', removed: 'removed', changed: 'changed', row: 'Row', before: 'Before', after: 'After', none: 'The two versions say the same.', title: '{{name}}: {{a}} against {{b}}',
  },
  import: {
    title: 'What this file would do', from: 'In force from', added_one: '{{count}} row added', added_other: '{{count}} rows added', changed_one: '{{count}} row changed', changed_other: '{{count}} rows changed', removed_one: '{{count}} row removed', removed_other: '{{count}} rows removed', nothing: 'The file says what the card says already.',
    wrong_one: '{{count}} cell cannot be read, so nothing can be put in force yet', wrong_other: '{{count}} cells cannot be read, so nothing can be put in force yet', comma: 'The numbers of this file have decimal commas', apply: 'Put in force from {{date}}', asDraft: 'Open as a draft', tables_one: '{{count}} day of rates', tables_other: '{{count}} days of rates', applyRates: 'Take them over', kept: 'Days that are there already stay as they are.', days: '{{first}} to {{last}}',
  },
  touch: {
    title: 'What {{name}} of {{date}} touches', none: 'No candidate uses an older version of this card.', lanes_one: '{{count}} lane', lanes_other: '{{count}} lanes', of_one: 'of {{count}} candidate', of_other: 'of {{count}} candidates', noneFalls: 'none keeps less', notKnown: 'not known', some_one: 'of {{count}} it is not known', some_other: 'of {{count}} it is not known', fall_one: '{{count}} keeps less', fall_other: '{{count}} keep less', under_one: '{{count}} falls under a hurdle', under_other: '{{count}} fall under a hurdle',
    candidate: 'Candidate and lane', before: 'Keeps now', after: 'Then', change: 'Change', why: 'Why', hurdles: 'Falls under', bring_one: 'Bring this lane up to date', bring_other: 'Bring all {{count}} lanes up to date', lead: 'Unit profit in {{currency}}, largest fall first. Lanes keep the version they were computed with until you bring them up to date.', unknown: 'not known any more', draft: 'This is a draft: put it in force to bring lanes up to date.', working: 'Bringing lanes up to date: {{done}} of {{total}}', done: 'Done: {{count}} lanes are up to date.', cancelled: 'Stopped after {{done}} of {{total}}.', failed: 'It stopped with an error; what was done is kept.', back: 'Back to the card',
    later: 'It is in force from {{date}}; lanes can be brought up to date from that day on.',
    weighing: 'Weighing lanes again: {{done}} of {{total}}', onlyFalls: 'Only those that keep less', shown: '{{shown}} of {{all}} shown', all: 'Show all',
  },
  tryTwo: { with: 'Beside', none: 'no second card', differs: 'Difference' },
};
