/**
 * What is wrong with something that was given, by its code: the problem, and what to do. One list, long as it is:
 * whoever says a fault looks first whether there is one already.
 */
export const faults: Readonly<Record<string, readonly [problem: string, remedy: string]>> = {
  // -- a cell
  noNumber: ['This is not a number', 'Write digits, such as 12.5.'],
  notNumber: [
    '"{{text}}" is not a number',
    'Write digits with a decimal point and no thousands marks, such as 1234.5.',
  ],
  commaForPoint: [
    '"{{text}}" has a comma where the decimal point belongs',
    'Write {{better}}, or say that this file is written with decimal commas.',
  ],
  missing: ['This is missing', '{{wants|wants}}'],
  missingChoice: ['This is missing', 'Use one of: {{choices}}.'],
  belowZero: ['{{value}} is below 0', 'Write 0 or more.'],
  beyondMeasure: ['{{value}} is beyond all measure', 'Write at most {{most}}.'],
  shareOver: [
    '{{value}} is over 1, that is over 100 %',
    'Write {{percent}} or {{fraction}} for {{value}} per cent.',
  ],
  rateOver: [
    '{{value}} is over 100, that is over 10,000 %',
    'Write {{percent}} or {{fraction}} for {{value}} per cent.',
  ],
  notMonth: ['{{value}} is not a month', 'Write 1 to 12.'],
  rateZero: ['A rate of 0 cannot be used', 'Write a number above 0, or take the row out.'],
  notHeading: ['"{{text}}" is not an HS heading', 'Write up to ten digits, such as 4421.'],
  notChoice: ['"{{text}}" is not known here', 'Use one of: {{choices}}.'],
  notChoices: ['"{{text}}" is not known here', 'Use any of: {{choices}}.'],
  notYesNo: ['"{{text}}" is neither yes nor no', 'Write yes or no.'],
  notCurrency: ['"{{text}}" is not a currency', 'Use a three-letter code such as EUR.'],
  notCountry: ['"{{text}}" is not a country', 'Use a two-letter code such as DE.'],
  notCountries: ['"{{text}}" is not a country', 'Use two-letter codes such as DE CN.'],
  notDay: ['"{{text}}" is not a day', 'Write year-month-day, such as 2026-12-01.'],

  addressPattern: [
    'This is no address of a page with a place for the code',
    'Write it in full with {code} where the code stands, such as https://shop.example/item/{code}.',
  ],

  strangePage: [
    'No marketplace here has pages at {{host}}',
    'Give its card the address of a listing’s page, or type the code alone.',
  ],
  // -- checks at a shelf
  checkUnfit: ['This check cannot be read ({{path}})', 'Check the goods again; the figures are in the file.'],
  checkNoCard: ['The rates of {{market}} with which this was checked are not here', 'Check the goods again.'],
  quotaChecks: [
    'This workspace keeps {{most}} checks already',
    'Make candidates of those that count, and ask whoever runs this server to clear the others.',
  ],
  checksNoFile: ['This is no file of checks', 'Take the one that the quick check saved.'],

  matchNoListings: [
    'The list has no market figures to match with',
    'Add market figures in its columns and terms.',
  ],
  matchNothing: ['The list has not been read yet', 'Read it, then match what it could not take.'],

  // -- orders and mail
  orderLineNoName: ['The line has no name', 'Say what is ordered.'],
  orderManyLines: ['An order has at most 500 lines', 'Make a second order of the rest.'],
  orderChanged: ['Somebody else has changed this order meanwhile', 'Look at it again, then do it once more.'],
  orderSent: [
    'Order {{number}} has been sent',
    'What the supplier has is not changed; cancel it and make another.',
  ],
  orderNoWay: ['Order {{number}} cannot go that way from where it stands', 'Read the page again.'],
  orderNoLines: ['The order has no lines', 'Add what is to be ordered.'],
  orderNoUnits: ['A line has no quantity', 'Say how many of it.'],
  orderNoCash: [
    'The cash at hand is {{cash}} {{currency}}',
    'Correct the cash in Fund, then note the payment.',
  ],
  orderMailed: ['This order has been mailed already', 'Read the page again.'],
  orderNothingPaid: [
    'Nothing of {{name}} has come in that its lane could take over',
    'Note what came in first.',
  ],
  quotaOrders: ['This workspace keeps {{most}} orders already', 'Ask whoever runs this server.'],
  quotaEnquiries: ['This workspace keeps {{most}} enquiries already', 'Ask whoever runs this server.'],
  enquirySent: ['This enquiry has been sent', 'What the supplier has is not changed; make another.'],
  enquiryNotSent: ['This enquiry has not been sent', 'Send it, or note that it went another way.'],
  enquiryNoText: ['The enquiry has no text', 'Say what you ask.'],
  mailShape: ['This is no address of a mail', 'Write one, such as orders@supplier.example.'],
  mailLineBreak: ['There is a line break where none may be', 'Write it in one line.'],
  mailRefused: [
    'The mail server refuses a mail to {{to}} ({{code}})',
    'Check the address, then send it again.',
  ],
  mailAway: ['The mail server does not answer', 'It is tried again by itself, for some hours.'],
  mailUnsure: [
    'The line broke while the mail to {{to}} was handed over',
    'Nobody knows whether it arrived; ask, or send it again.',
  ],
  mailNone: ['No mail server is set here', 'Take the PDF along and send it yourself.'],
  mailNoAddress: ['The supplier has no mail address', 'Write one on the order.'],
  mailNoSubject: ['The mail has no subject', 'Say in a few words what it is about.'],

  // -- evidence
  monthShape: ['This is no month', 'Write year-month, such as 2026-11.'],
  termNoText: ['The term is blank', 'Type what people search for.'],
  feedAddress: [
    '"{{address}}" is no address of a feed',
    'Write it in full, such as https://feed.example/v1.',
  ],
  feedNotSecure: ['The address is not encrypted', 'Use one that begins with https:.'],
  feedNoHost: ['There is no {{host}}', 'Check the address.'],
  feedPrivate: [
    '{{host}} is in the private network of this server',
    'Use a public address, or have whoever runs the server allow it (BM_FEED_PRIVATE).',
  ],
  catalogueNoCategory: ['No category is chosen', 'Choose at least one.'],
  catalogueOther: [
    '{{shop}} now asks its prices otherwise ({{currency}})',
    'Choose the shop anew, so that its prices are taken as they are.',
  ],
  shopUnknown: ['The market feed has no such shop any more', 'Choose another one.'],
  closerNoMarket: ['The list is sold on no marketplace yet', 'Choose one in its columns and terms.'],
  closerTooMany: [
    'A list may have {{most}} goods looked at a second time',
    'Take some off the second look first.',
  ],
  sellerNothing: ['The market feed has no goods of {{seller}}', 'Look at another market.'],
  sellersTooMany: ['A workspace may follow {{most}} sellers', 'Follow one less first.'],
  feedNone: ['No market feed is set', 'Set one in Settings, or bring evidence by file.'],
  feedAway: ['The market feed does not answer', 'What was known stays. Try again later.'],
  feedSlow: ['The market feed took too long', 'What was known stays. Try again later.'],
  feedBusy: ['The market feed was asked too often', 'What was known stays. Try again later.'],
  feedStopped: ['Asking the market feed was stopped', 'Ask again when you like.'],
  feedTooLarge: ['The market feed answered {{question}} with more than is read', 'Tell whoever runs it.'],
  feedBroke: [
    'The market feed answered {{question}} wrongly ({{field}}), and nothing of it was kept',
    'Tell whoever runs it; the contract is docs/feed.openapi.json.',
  ],
  feedRefused: ['The market feed does not know the secret', 'Set it anew in Settings.'],
  feedUnknown: ['The market feed knows nothing of that ({{question}})', 'Check listing and market.'],
  feedNotUnderstood: ['The market feed did not understand {{question}}', 'Tell whoever runs it.'],
  evidenceBlank: ['The cell is blank', 'Fill it in, or leave the row out.'],
  settledColumnMissing: [
    'No column is chosen for {{column}}',
    'Choose the column that says it; a report whose rows have no day may say one for all of them.',
  ],
  settledNoColumn: ['The file has no column "{{column}}"', 'Choose another one; it has: {{columns}}.'],
  settledTooManyLines: ['The report has more than {{most}} lines', 'Bring it in parts.'],
  quotaReports: ['There is no room for more reports', 'Take back some that are no longer needed.'],
  quotaLaunched: ['There are {{most}} lanes on sale already', 'Take off some that no longer sell.'],
  launchedCodeTaken: [
    '{{code}} belongs to another lane on sale',
    'Take the code from that one first, or leave it out here.',
  ],
  chooseLane: ['No lane is chosen', 'Choose the lane that went on sale.'],
  launchedNoDay: ['It is not said since when it is on sale', 'Choose the first day on sale.'],
  reportBeingRead: [
    'This report is being read already',
    'Wait until it is read, then say what is to change.',
  ],
  reportGone: ['The report was taken back while it was read', 'Bring it in again.'],
  countedNoDay: [
    'The day of the count is missing, or still to come',
    'Choose the day on which it was counted.',
  ],
  nothingToTakeOver: [
    'There is nothing to take over any more',
    'Load the page again: the lane or the reports have changed.',
  ],
  launchedNoCode: [
    'No code is given',
    'Write the listing code or own number that reports name the goods by.',
  ],
  settledNoAmount: ['No column is chosen for the amounts', 'Choose at least one.'],
  settledManyKinds: ['There are too many kinds of lines', 'Choose the column that says what a line is for.'],
  settledNumber: [
    '"{{text}}" in {{column}} is no number',
    'Write it in digits, or choose how the file writes decimals.',
  ],
  settledTooLarge: ['{{text}} in {{column}} is more than one line can come to', 'Check the figure.'],
  settledNothing: ['No amount stands in the row', 'Leave the row out, or choose the column of its amount.'],
  settledTwice: [
    'Line number {{line}} stands in the file before',
    'It counts once, as it stood first; leave one of them out.',
  ],
  settledTax: [
    'The tax of {{tax}} is more than the amount of {{amount}} that holds it',
    'Say whether amounts hold the tax.',
  ],
  billColumn: [
    'The file has no column {{column}}',
    'Give the day, what it is for and the amount a heading each.',
  ],
  billNone: [
    'The file has no bill of order {{order}}',
    'Leave the column of the order out, or put its number there.',
  ],
  billDay: ['Row {{row}}: “{{text}}” is no day up to today', 'Write it as 31.12.2026 or 2026-12-31.'],
  billKind: [
    'Row {{row}}: “{{text}}” is nothing a bill is noted for',
    'Write freight, insurance, duty, import charges, preparation or buying costs.',
  ],
  billAmount: [
    'Row {{row}}: “{{text}}” is no amount above 0',
    'Write the amount without VAT, in the home currency.',
  ],
  billBy: [
    'Row {{row}}: nothing is shared out by “{{text}}”',
    'Write one of {{ways}}, or leave it blank for value.',
  ],
  billMany: ['An order keeps at most {{most}} bills', 'Put small ones together into one row.'],
  settledBlank: ['The {{column}} is blank', 'Fill it in, or leave the row out: it may be a total.'],
  settledDay: ['"{{text}}" is no day', 'Write year-month-day, or choose whether day or month stands first.'],
  settledOutside: ['{{text}} is before there were marketplaces', 'Check the year.'],
  settledFuture: ['{{text}} is still to come', 'Check whether day or month stands first, and the year.'],
  settledCurrency: [
    'The row is in {{text}}, the marketplace settles in {{currency}}',
    'Bring the report of this currency for its own country.',
  ],
  settledCountry: [
    'The row is of {{text}}, the report of {{country}}',
    'Bring these rows as the report of that country.',
  ],
  settledUnits: ['"{{text}}" is no number of units', 'Write whole units.'],
  settledNegativeUnits: ['A sale of {{text}} units', 'Say that the line is a refund.'],
  evidenceDay: ['"{{text}}" is no day', 'Write year-month-day, such as 2026-11-29.'],
  evidenceMonth: ['"{{text}}" is no month', 'Write year-month, such as 2026-11.'],
  evidenceYes: ['"{{text}}" is neither yes nor no', 'Write yes or no.'],
  evidenceChoice: ['"{{text}}" is none of {{choices}}', 'Write one of them.'],
  evidenceNumber: [
    '"{{text}}" is no number',
    'Write it in digits, or leave the cell blank where it is not known.',
  ],
  evidenceNegative: [
    '{{text}} is below 0',
    'Write 0 or more, or leave the cell blank where it is not known.',
  ],
  evidenceTooLarge: ['{{text}} is more than can be', 'Check the figure and its unit.'],
  evidenceOutside: ['"{{text}}" cannot be', 'Check the figure; leave the cell blank where it is not known.'],
  evidenceFuture: ['{{text}} has not been yet', 'Check how days and months are written in the file.'],
  evidenceDayTwice: ['{{text}} stands again in row {{row}}', 'The later row counts; leave one of them out.'],
  evidenceCurrency: [
    'The row is in {{text}}, the market in {{currency}}',
    'Convert the prices to {{currency}}, or leave these rows out.',
  ],
  evidenceTwoCurrencies: ['The file is in {{currencies}}', 'Bring one currency to a file.'],
  evidenceColumnMissing: ['No column is chosen for {{column}}', 'Choose the column that says it.'],
  evidenceTooManyRows: [
    '{{rows}} rows are more than the {{most}} that are read',
    'Cut the file into several.',
  ],
  evidenceTooManyRivals: ['Only {{most}} rivals are read', 'Leave the others out.'],
  evidenceMonthOrVariation: [
    'A row is a month with its units, or a variation with its ratings, not both',
    'Make two rows of it.',
  ],
  evidenceOnePermission: ['Only the first row counts', 'Bring one row for each product and market.'],
  listingMarksFull: [
    'Decisions about {{most}} listings are kept already',
    'Take some back in Find to note others.',
  ],
  evidenceFull: ['Of this kind {{most}} observations are kept already', 'Take the product up anew to go on.'],
  evidenceTooManyDecisions: ['There are more than 20,000 decisions about this market', 'Take some back.'],
  evidenceNothing: [
    'No row of the file can be read',
    'Look at what is wrong with its rows, or choose other columns.',
  ],
  twoCurrencies: [
    'Prices, offers and rivals of one market are in two currencies',
    'Convert one of them first.',
  ],

  // -- a pack of cards
  notPack: ['This is no pack of cards', 'Choose the JSON or the zip that was saved as one.'],
  packNoName: ['The pack has no name', 'Give it one.'],
  packNoCards: ['No card is in the pack', 'Choose one at least.'],
  packTooManyCards: ['A pack takes 500 cards', 'Make two of it.'],
  packTooManyProofs: ['A pack takes 20,000 proofs', 'Make two of it.'],
  packCardTwice: ['Two cards of the pack are of the same, from the same day', 'Leave one of them out.'],
  packProofOfNone: [
    'A proof is of a marketplace that is not in the pack',
    'Put its card in, or leave it out.',
  ],
  packNoManifest: [
    'The zip has no manifest.json, so it is no pack of cards',
    'Choose the file that was saved as one.',
  ],
  packPath: ['This is no place of a file in a pack', 'Cards stand in cards/, proofs in proofs/.'],
  packHash: ['This is no SHA-256', 'Write 64 hexadecimal digits.'],
  packNotListed: ['The manifest does not name this file', 'Take it out, or name it.'],
  packFileMissing: ['The manifest names this file, and it is not there', 'Ask for the pack anew.'],
  packFileChanged: ['This file is not what it was when the pack was made', 'Ask for the pack anew.'],
  packUnpacks: ['This unpacks to more than any pack of cards', 'Choose another file.'],
  packConflict: [
    'From {{day}} another version of {{card}} is in force',
    'Open it as a draft, and choose another day.',
  ],

  // -- a fee table as somebody gave it
  scheduleNoTable: [
    'No table was found in this',
    'Paste two lines at least: headings and figures, with tabs, semicolons or blanks between the columns.',
  ],
  scheduleColumn: [
    'What the column "{{heading}}" says is not known',
    'Give it a heading such as weight, fee, category; or leave it out.',
  ],
  scheduleMode: [
    'Whether a percentage holds for the whole price or for the part up to its limit is not said: taken for the part',
    'Where it holds for the whole price, choose so for the category in the draft.',
  ],
  scheduleLong: [
    '{{left}} lines are left out: they are more than any fee table has',
    'Paste the table in parts.',
  ],
  scheduleWide: [
    '{{left}} columns are left out: they are more than any fee table has',
    'Paste the columns that matter.',
  ],
  scheduleTable: [
    'What this table is about is not known',
    'Give its columns headings such as size tier, weight, fee, category, month.',
  ],
  scheduleTitles: [
    'Several tables have no column for a size or zone; they are told apart by their titles: {{titles}}',
    'Paste one of them alone where they are of several countries or services.',
  ],
  scheduleWithVat: [
    'Fees under "{{heading}}" have VAT in them: a card has fees before VAT',
    'Paste the column without VAT, or take it out in the draft.',
  ],
  scheduleElsewhere: [
    'A card of fees a unit has no place for "{{what}}"',
    'Leave it, and add it to the lane as a cost of your own where it applies.',
  ],
  scheduleStorageBy: [
    'A card holds one storage rate a month: {{names}} is left out',
    'Paste the column that your goods fall under.',
  ],
  scheduleCell: [
    '"{{text}}" cannot be read here',
    'Write a {{column|scheduleColumns}}, such as {{column|scheduleSuch}}.',
  ],
  scheduleShifted: [
    '"{{text}}" stands where a name belongs: this row is shifted',
    'Put its cells under their headings.',
  ],
  scheduleCurrency: [
    '"{{text}}" is not in {{currency}}, the currency of this card',
    'Paste it into a card of that currency, or write the amounts in {{currency}}.',
  ],
  schedulePercent: ['"{{text}}" is over 100 %', 'Write a percentage up to 100.'],
  scheduleVolume: [
    'Storage is given without a unit of volume',
    'Write what the fee is for, such as "per cubic metre" or "per cubic foot".',
  ],
  scheduleGap: [
    'Between {{from}} and {{to}} kg {{tier}} has no fee',
    'Add the step that is missing, or let the next one begin at {{from}} kg.',
  ],
  scheduleOverlap: [
    '{{tier}} has two fees from {{to}} to {{from}} kg',
    'Let the second step begin where the first one ends.',
  ],
  scheduleTwice: ['{{tier}} has two fees up to {{kg}} kg', 'Keep one of the two rows.'],
  scheduleFalls: [
    'Up to {{kg}} kg comes after a heavier step of {{tier}}',
    'Sort the rows by rising weight, or give this one a size tier of its own.',
  ],
  freightCell: [
    'What "{{text}}" is for is not known',
    'Say it: a kg, a m³, a carton, a container, a shipment, a unit.',
  ],
  freightBand: [
    'A freight card has prices a kilogram by bands of weight, and no others',
    'Write "per kg" over the column where it is that.',
  ],
  freightNoEnd: [
    'The last band has no end: a card needs one, and {{kg}} kg are taken',
    'Change it in the draft where you send more at once.',
  ],
  freightMinimum: [
    'The least charge is taken to be that of "{{leg}}"',
    'Enter it in the draft where it is of another leg.',
  ],
  freightFuel: [
    'The fuel surcharge is taken to be on the main leg alone',
    'Enter it with other legs in the draft where it is.',
  ],
  freightMain: [
    'Where on the way this is paid is not said: taken for the main leg',
    'Choose another stage in the draft.',
  ],
  scheduleOften: [
    'Storage is told by the day or week: a card has it by the month, {{times}} times as much',
    'Change it in the draft where the marketplace reckons otherwise.',
  ],
  scheduleAgeAdds: [
    'What a long stay costs is taken to come on top of the basic storage',
    'Where it holds instead of it, enter the difference in the draft.',
  ],
  scheduleAgeTotal: [
    'What a long stay costs is taken to hold instead of the basic storage: the difference is added',
    'Where it comes on top, enter it as it stands in the draft.',
  ],
  scheduleModeWhole: [
    'Whether a percentage holds for the whole price or for the part up to its limit is not said: taken for the whole',
    'Where it holds for the part, choose so for the category in the draft.',
  ],
  scheduleUnused: [
    'What is said by "{{text}}" was read, and no part of a card comes of it',
    'Say in its heading what it is for, or enter it in the draft.',
  ],
  scheduleSame: [
    '{{tier}} has several fees that nothing tells apart',
    'Paste the table with what they are for: a weight, a size, a price.',
  ],
  scheduleEachInside: [
    'What {{tier}} costs for each further step stands before other steps: a card has it past the last one only',
    'Write these steps out, one row each.',
  ],
  schedulePeak: [
    'Fees by weight that change with the season are not read: a card has one fee, and an addition in peak months',
    'Paste the fees outside of the peak, and enter the addition under Months in the draft.',
  ],
  scheduleChosen: [
    'Of what is listed under "{{what}}" a card has one',
    'Paste the row that holds for you as lines: "Commission: 9 %", "Payment: 1.9 % + 0.30".',
  ],
  scheduleDated: [
    'Columns are of different days; those under "{{taken}}" are taken',
    'Leave out the columns of other days where that is not the one you want.',
  ],
  scheduleStepFrom: [
    'It is not said from which weight on {{fee}} is charged for each further step',
    'Say it in the cell: "over 1 kg".',
  ],
  scheduleStepBase: [
    'Past its limit this fee begins at {{base}}, where the step before costs {{last}}; a card goes on from there',
    'Add a step of its own for the first further weight, at what is then charged.',
  ],

  // -- what was really charged
  tooManyProofs: ['A card holds {{most}} proofs at most', 'Take some away first.'],
  proofNoFee: [
    'No fee is said that was charged',
    'Write one at least: referral, item fee, payment or fulfilment.',
  ],
  proofSides: ['"{{text}}" is not three sides', 'Write them with their unit, such as 30 x 20 x 10 cm.'],
  proofWeight: ['"{{text}}" is not a weight', 'Write it with its unit, such as 0.5 kg or 1.1 lb.'],
  proofCategory: ['The card has no category "{{text}}"', 'Write the key or the name of one it has.'],
  proofAmount: ['"{{text}}" is not an amount in {{currency}}', 'Write digits, such as 4.52.'],
  proofPart: [
    '"{{text}}" is neither a size, a weight, a category nor an amount',
    'Write parts with commas between, such as 10 x 8 x 3 in, 1.1 lb, 4.52.',
  ],
  proofHeadings: [
    'The first row does not name the columns',
    'Name them: {{headings}}; one of the fees at least.',
  ],
  proofWrong: ['{{field}} cannot be so', 'Write a size, a weight or an amount above 0.'],

  // -- rows of a card
  noField: ['There is no field "{{field}}"', 'Use one of: {{fields}}.'],
  fieldTwice: ['The field "{{field}}" stands in row {{row}} already', 'Keep one of the two.'],
  tooManyCells: [
    'The row has more cells than the {{columns}} columns',
    'Take the cells after the last column out.',
  ],
  rowTwice: ['"{{text}}" stands in row {{row}} already', 'Keep one of the two rows.'],
  tooManyRows: ['There are {{rows}} rows', 'Keep at most {{most}}.'],
  afterOpen: [
    'This {{what|limited}} stands after the open one of row {{row}}, so it would never apply',
    'Put the open row (no limit) last.',
  ],
  sameLimit: [
    'This {{what|limited}} ends at {{limit}} as row {{row}} does: the two overlap',
    'Keep one of the two, or change a limit.',
  ],
  outOfOrder: [
    'This {{what|limited}} ends at {{limit}}, under the {{before}} of row {{row}}: they are out of order',
    'Sort the rows by rising limit.',
  ],
  openEnd: [
    'Nothing applies above {{limit}}: the last {{what|limited}} leaves a gap',
    'Leave the limit of the last row blank.',
  ],
  sameWeight: [
    'This {{what|limited}} ends at {{kg}} kg as row {{row}} does: the two overlap',
    'Sort the {{what|limitedMany}} by rising weight, each once.',
  ],
  weightOrder: [
    'This {{what|limited}} ends at {{kg}} kg, under the {{before}} kg of row {{row}}: they are out of order',
    'Sort the {{what|limitedMany}} by rising weight, each once.',
  ],
  noFirstStep: [
    'There is a further step but no first one',
    'Add a row with a weight and its {{what|stepAmount}}.',
  ],
  emptyStep: [
    'The row has neither a weight nor a further step',
    'Write the weight up to which the {{what|stepAmount}} applies.',
  ],
  stepOrFurther: ['A row is either a step up to a weight or a further step', 'Leave one of the two blank.'],
  furtherTwice: ['Row {{row}} says already what each further step costs', 'Keep one of the two rows.'],
  maxUnderMin: ['The maximum {{max}} is under the minimum {{min}}', 'Exchange the two, or leave one blank.'],
  baseRate: ['One {{currency}} is the base, so its rate is 1', 'Take the row out.'],
  dayTaken: [
    'Another version of {{card}} is in force from {{day}} already',
    'Choose another day, or withdraw that version first.',
  ],
  dayTakenMeanwhile: [
    'Another version is in force from this day by now',
    'Withdraw that one first, or put this one in force from another day.',
  ],

  // -- a marketplace's card
  noCategory: ['There is no category "{{category}}"', 'Add it to the sheet categories, or take the row out.'],
  categoryNoTier: [
    'The category "{{category}}" has no referral tier',
    'Add a row for it to the sheet referralTiers.',
  ],
  noTier: ['There is no size tier "{{tier}}"', 'Add it to the sheet sizeTiers, or take the row out.'],
  tierNoFee: ['The size tier "{{tier}}" has no fee', 'Add rows for it to the sheet weightSteps.'],
  paymentBase: ['There is a payment fee, but not what it is a share of', 'Use one of: {{choices}}.'],
  monthMissing: ['Month {{month}} is missing', 'Give all twelve months, or none.'],
  peakNoTier: ['There is a peak surcharge but no size tier', 'Add size tiers, or clear the column.'],
  longStayNoStorage: [
    'There are long-stay rates but no storage by month',
    'Fill the column storagePerM3 of the sheet months.',
  ],
  stayEnd: [
    'The band ends at {{end}} months, not after its start at {{start}}',
    'Write a later end, or leave it blank.',
  ],
  stayOpen: [
    'The band of row {{row}} has no end, so this one overlaps it',
    'Give that band an end, or take this row out.',
  ],
  stayOverlap: [
    'The band starts at {{start}} months, before row {{row}} ends at {{end}}: they overlap',
    'Start it at {{end}}.',
  ],
  stayGap: [
    'From {{from}} to {{to}} months nothing applies: there is a gap after row {{row}}',
    'Start it at {{from}}, or add a row with rate 0.',
  ],

  // -- cards of freight, postage, tax
  noLeg: ['There is no leg {{leg}}', 'Add it to the sheet legs, or take the row out.'],
  legNoRate: ['The leg has no rate', 'Write a rate, or weight bands for it.'],
  legTwoRates: ['The leg has a rate and weight bands', 'Keep one of the two.'],
  bandsNeedPerKg: ['Only a leg charged perKg can have weight bands', 'Write perKg, or take its bands out.'],
  noZone: ['There is no zone "{{zone}}"', 'Add it to the sheet zones, or take the row out.'],
  zoneShares: ['The shares of the zones add up to {{percent}} %', 'Make them add up to 100 %.'],
  zoneNoPostage: ['The zone "{{zone}}" has no postage', 'Add rows for it to the sheet weightSteps.'],
  classNoRate: [
    'The class "{{taxClass}}" has no rate',
    'Write a percentage such as 19%, or take the row out.',
  ],
  importVatStray: [
    'There is a rate for import VAT, but the card says that it goes by the VAT rates',
    'Write "own" in the field importVatRates, or clear the column.',
  ],

  // -- variations of a product
  variationNoName: ['The variation has no name', 'Write a size, colour or pack.'],
  salesShares: ['The shares of sales add up to {{percent}} %', 'Make them add up to 100 % at most.'],

  // -- columns and rows of a supplier's list
  noColumnFor: ['No column is {{role|role}}', 'Choose the column that holds it.'],
  noSuchColumn: ['The file has no column "{{column}}" ({{role}})', 'Choose one of: {{columns}}.'],
  columnChosenTwice: ['The column "{{column}}" is chosen for two things', 'Choose each column once.'],
  rowDuplicate: ['Barcode {{value}} stands in row {{first}} already', 'Keep one of the two rows.'],
  costMissing: ['There is no purchase price', 'Add it, or take the row out.'],
  costText: [
    'The purchase price "{{value}}" is not a number',
    'Write digits only, or say how the file writes its decimals.',
  ],
  costNegative: ['The purchase price {{value}} is below 0', 'Write what a unit costs.'],
  costAbsurd: ['The purchase price {{value}} is beyond all measure', 'Check its decimal mark.'],
  barcodeMissing: ['There is no barcode', 'Add it, or take the row out.'],
  barcodeNotDigits: ['"{{value}}" is not a barcode', 'Write its 8, 12, 13 or 14 digits.'],
  barcodeLength: ['"{{value}}" has {{digits}} digits', 'A barcode has 8, 12, 13 or 14.'],
  barcodeCheckDigit: [
    'The check digit of {{value}} is wrong',
    'A digit is mistyped: compare it with the goods.',
  ],
  barcodeDigitsLost: [
    'A spreadsheet has taken digits from "{{value}}"',
    'Format the column as text in the first file, and save it again.',
  ],

  // -- documents
  notKind: ['This is not {{kind|kind}}', 'Give {{kind|kind}}.'],
  fieldMissing: ['This is missing', 'Give {{kind|kind}}.'],
  noneOfThese: ['This is none of what may stand here', 'See docs/formats.md for what may stand here.'],
  notKnown: ['This value is not known here', 'Use one of: {{values}}.'],
  otherVersion: [
    'The version is missing, or that of another version of the program',
    'Use one of: {{values}}.',
  ],
  unknownFields: ['There is no field {{fields}} here', 'Remove it, or check the spelling.'],
  under: ['This is under {{minimum}}', 'Use at least {{minimum}}.'],
  over: ['This is over {{maximum}}', 'Use at most {{maximum}}.'],
  cannotStand: ['{{said}}', 'See docs/formats.md for what may stand here.'],
  tiersRise: ['Tiers must rise, and only the last may be open', 'Sort them by rising limit.'],
  lastTierOpen: ['The last tier must be open (upTo: null)', 'Take its limit out.'],
  stepsRise: ['Weight steps must rise', 'Sort them by rising weight, each once.'],
  bandsRise: ['Price bands must rise, and only the last may be open', 'Sort them by rising limit.'],
  lastBandOpen: ['The last price band must be open (upToPrice: null)', 'Take its limit out.'],
  weightBandsRise: ['Weight bands must rise', 'Sort weight bands by rising weight.'],
  zonesAddUp: ['The shares of the zones must add up to 1', 'Change one of them.'],
  zoneNames: ['Two zones have one name', 'Give each zone a name of its own.'],
  categoryKeys: ['A category key stands twice', 'Give each category a key of its own.'],
  breaksRise: ['Price breaks are out of order', 'Sort price breaks by rising quantity, each once.'],
  rampSellsNothing: ['The first months all sell nothing', 'At least one factor must be above 0.'],
  purseLaneTwice: ['A lane stands in the purse twice', 'Give each lane a key of its own.'],
  purseNoSuchLane: ['A rule names a lane that is not in the purse', 'Use the keys of the lanes.'],
  reserveOverCash: ['The reserve is over the cash', 'Lower the reserve, or raise the cash.'],
  rangeOutOfOrder: [
    'The range is out of order',
    'Let low be at most the most likely value, and high at least that.',
  ],
  oneMonthSells: ['No month sells anything', 'At least one month must sell.'],
  dayShape: ['This is not a day', 'Write the day as year-month-day, such as 2026-11-24.'],
  noSuchDay: ['No such day in the calendar', 'Write another.'],
  currencyShape: ['Use a three-letter currency code such as EUR', 'Write it in capitals.'],
  countryShape: ['Use a two-letter country code such as DE', 'Write it in capitals.'],
  noSuchField: ['There is no such field', 'Check the path.'],
  cardNoName: ['The card has no name', 'Give the card a name.'],
  productNoName: ['The product has no name', 'Give the product a name.'],
  supplierNoName: ['The supplier has no name', 'Give the supplier a name.'],
  emailShape: ['This is not an e-mail address', 'Write one such as name@example.com.'],
  passwordMissing: ['There is no password', 'Type it.'],
  passwordShort: ['The password needs at least 10 characters', 'Type a longer one.'],
  passwordLong: ['The password may have 128 characters at most', 'Type a shorter one.'],
  personNoName: ['There is no name', 'Write your name.'],
  headingDigits: ['These are no first digits of an HS code', 'Write up to ten digits, such as 4421.'],
  headingShape: ['This is no HS code', 'Give 4 to 10 digits of the HS code.'],
  notJson: ['This is not JSON', 'Check it for a missing quote, comma or bracket.'],

  optionMissing: ['This is missing', 'Give --{{option}} FILE.json.'],
  fileNotJson: ['{{file}} is not JSON', 'Check it for a missing quote, comma or bracket.'],

  // -- files
  fileEmpty: ['The file is empty', 'Choose a file with a header line and rows.'],
  fileBroken: ['The file did not arrive whole', 'Nothing of it was kept; send it again.'],
  fileTooLarge: [
    'The file is larger than {{megabytes}} MB',
    'Split it, or leave out columns that are not needed.',
  ],
  diskFull: [
    'There is no room left on the disk',
    'Nothing of the file was kept. Free some space, or ask whoever runs this server, and send it again.',
  ],
  notCsv: ['The file is not CSV text', 'Save the list as CSV, or as XLSX under its own name.'],
  onlyHeader: ['The file has a header and no rows', 'Choose the file that holds the goods.'],
  tooManyColumns: [
    'The file has {{columns}} columns, and a list may have {{most}}',
    'Leave out the columns that are not needed, or check which mark stands between them.',
  ],
  quoteOpen: [
    'A quotation mark is never closed: the file may have been cut off',
    'Export it again, and choose the whole file.',
  ],
  quoteOpenInRow: [
    'A quotation mark in row {{row}} is never closed: the file may have been cut off',
    'Export it again, and import the whole file.',
  ],
  cellTooLong: [
    'A cell in row {{row}} is over a million characters long: a quotation mark is not closed there',
    'Close or remove it, and choose the file again.',
  ],
  headingsNotFound: [
    'No row among the first {{within}} has the columns {{columns}}',
    'The file has {{found}}; name these in the mapping.',
  ],
  noHeader: [
    'No row among the first {{within}} has the columns {{columns}}',
    'The file has no header; add one.',
  ],
  notWorkbook: ['The file is not a whole XLSX workbook', 'Save it again as XLSX, and choose the whole file.'],
  workbookTooLarge: [
    'The workbook takes more memory than can be given to it',
    'Save the sheet as CSV, and choose that file.',
  ],
  workbookTooSlow: ['The workbook takes too long to read', 'Save the sheet as CSV, and choose that file.'],
  workbookUnpacks: [
    'The workbook unpacks to more than can be read',
    'Save the sheet with the list as CSV, and choose that file.',
  ],
  workbookNoSheet: ['The workbook has no sheet', 'Choose the file that holds the list.'],
  workbookNoSuchSheet: ['The workbook has no sheet "{{sheet}}"', 'Choose one of its sheets.'],
  workbookNoTable: ['The workbook has no sheet with a header', 'Choose a file that was exported from here.'],
  noTableWith: [
    'No table of this card has the columns {{columns}}',
    'Use the header of one of: {{headers}}.',
  ],
  noSheet: [
    'There is no sheet "{{sheet}}" in such a card',
    'Rename it to one of {{sheets}}, or take it out.',
  ],
  noColumn: ['There is no column "{{column}}"', 'Use {{columns}}.'],
  columnTwice: ['The column "{{column}}" stands twice', 'Keep one of the two.'],
  columnMissing: [
    'The column "{{column}}" is missing',
    'Add it; its cells may be blank where nothing applies.',
  ],
  lastRowShort: [
    'The last row has {{cells}} of {{columns}} cells: the file may have been cut off',
    'Export it again, and import the whole file.',
  ],
  sheetMissing: [
    'The sheet is missing',
    'Add it (with its header alone, if its rows are to go), or import single tables as CSV.',
  ],
  sheetMissingRows: [
    'The sheet is missing; the card has {{rows}} rows in it',
    'Add it (with its header alone, if its rows are to go), or import single tables as CSV.',
  ],
  notExported: ['The file is empty', 'Choose a file that was exported from here.'],
  otherCardKind: [
    'This is a card of another kind ({{kind}})',
    'Open the card it belongs to, and import it there.',
  ],
  cardBroken: ['The file breaks off or is not JSON', 'Export the card again, and import the whole file.'],
  notCard: ['This is not a rate card', 'Choose a file that was exported from Rates.'],
  cardNewer: [
    'This card is of version {{version}}, newer than this program reads',
    'Update the program, or export the card again as version {{reads}}.',
  ],
  noCardKind: ['"{{kind}}" is no kind of card', 'Use one of: {{kinds}}.'],
  rateTwice: ['{{currency}} on {{date}} stands in row {{row}} already', 'Keep one of the two rows.'],
  noRates: ['There is no rate in the file', 'Choose a file with at least one date, currency and rate.'],
  rateColumnMissing: ['The column "{{column}}" is missing', 'The header is: date, currency, rate.'],
  notReferenceRates: [
    'The file breaks off before its end, or is no file of reference rates',
    'Use the file of daily reference rates as it was published, whole.',
  ],
  notXml: ['The file is not XML', 'Use the file of daily reference rates as it was published, whole.'],
  laneNotJson: [
    'This file is not a lane document: it is not JSON',
    'Choose a file that was downloaded from a sheet.',
  ],
  otherProduct: [
    'This document is about another product: its size, weight or codes differ',
    'Open it in Find, as a candidate of its own.',
  ],
  referenceNoBarcode: [
    'The market figures have no column of barcodes',
    'Name that column "Barcode" or "EAN", and send the file again.',
  ],
  columnsNotChosen: ['The columns of this list have not been chosen', 'Choose them first.'],

  // -- products, lanes
  bundleOfItself: ['"{{product}}" cannot be a component of itself', 'Choose another product.'],
  bundleCircle: [
    '"{{product}}" is itself made of "{{way}}": a bundle cannot contain itself',
    'Choose another product, or take that component out there first.',
  ],
  productGone: ['This product is no longer there', 'Choose another one.'],
  partNoQuote: ['"{{product}}" has no quote yet', 'Give it one first, then put it into this bundle.'],
  foreign: ['This names a {{kind|ours}} that is not in this workspace', 'Choose one that is.'],
  foreignQuote: ['This names a quote that is not of this product', 'Choose one that is.'],
  scenarioBaseGone: ['The lane this is a scenario of is not there any more', 'Open the sheet again.'],
  viewNoName: ['The view has no name', 'Give the view a name.'],
  quantityAboveZero: ['This is no order quantity', 'Give an order quantity above 0.'],
  lanesNotBack: ['These lanes cannot be brought back', 'Add them anew.'],
  laneChanged: ['This lane has changed meanwhile', 'Load the page again.'],
  choiceNotRead: ['This choice is not understood', 'Choose again.'],
  noSuchRow: ['There is no such row', 'Look at the list again.'],

  // -- long work
  workKilled: [
    'This took down the process that worked on it {{times}} times, so it was given up',
    '{{queue|again}}',
  ],
  workStopped: ['The work stopped with an error', '{{queue|again}}'],
  underWayAtBackup: ['It was under way when the backup was made', 'Start it again.'],
  listGone: [
    'The list is not there any more, or its columns have not been chosen',
    'Open the list, and choose them.',
  ],
  asWritten: ['{{text}}', ''],

  // -- doors
  quotaLists: [
    'This workspace has {{most}} lists, which is all it may have',
    'Delete lists that are no longer needed; what is deleted leaves the disk after 30 days.',
  ],
  quotaBytes: [
    'This workspace has {{most}} GB of files, which is all it may have',
    'Delete lists that are no longer needed; what is deleted leaves the disk after 30 days.',
  ],
  quotaRows: [
    'This workspace has {{most}} million rows, which is all it may have',
    'Delete lists that are no longer needed; what is deleted leaves the disk after 30 days.',
  ],
  tooManyRequests: [
    'These are more requests than one person may make in a minute',
    'Wait a minute, then go on; nothing is lost.',
  ],
  unkeepable: [
    'A text holds a character that cannot be kept (NUL, or half of a pair)',
    'Remove it, and send this again.',
  ],
  bodyTooLarge: ['This is more than ten megabytes', 'Send less at once.'],
  bodyStalled: ['Nothing came any more, so this was given up', 'Send it again.'],
  addressUnreadable: ['This address holds characters that cannot be read', 'Check it.'],
  foreignOrigin: ['This request did not come from our own pages, so it was refused', ''],
  wentWrong: ['Something went wrong on our side', 'Nothing you typed was lost; try again.'],
};

/** A fault that says in which file it is, and at which of its fields. */
export const places = { file: '{{in|in}}: {{said}}', field: '{{in|in}}. At {{path}}: {{said}}' } as const;

/** Words for values inside of a sentence: `{{kind|named}}` is the entry `kind` says in the table `named`. */
export const values: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  wants: {
    text: 'Write something here.',
    digits: 'Write something here.',
    number: 'Write a number.',
    share: 'Write a percentage such as 12.5%.',
    rate: 'Write a percentage such as 12.5%.',
    days: 'Write a number.',
    month: 'Write 1 to 12.',
    yesNo: 'Write yes or no.',
    currency: 'Write a three-letter currency code such as EUR.',
    country: 'Write a two-letter country code such as DE.',
    countries: 'Use two-letter codes such as DE CN.',
    day: 'Write a day such as 2026-12-01.',
  },
  limited: { tier: 'tier', priceBand: 'price band', band: 'band', step: 'step' },
  limitedMany: { band: 'bands', step: 'steps' },
  stepAmount: { fee: 'fee', postage: 'postage' },
  scheduleColumns: {
    weight: 'weight',
    namedWeight: 'weight',
    maxWeight: 'weight',
    packaging: 'weight',
    sides: 'size',
    limits: 'size and weight',
    length: 'length',
    width: 'length',
    height: 'length',
    girth: 'length',
    fee: 'fee',
    minimum: 'fee',
    maximum: 'fee',
    itemFee: 'fee',
    percent: 'percentage',
    price: 'price',
    divisor: 'number',
    age: 'number of days',
    period: 'month',
  },
  scheduleSuch: {
    weight: 'up to 0.5 kg',
    namedWeight: 'Small up to 0.5 kg',
    maxWeight: '20 kg',
    packaging: '0.1 kg',
    sides: '30 x 20 x 10 cm',
    limits: '20 kg or less, longest side 60 cm or less',
    length: '30 cm',
    width: '20 cm',
    height: '10 cm',
    girth: '120 cm',
    fee: '3.49',
    minimum: '0.30',
    maximum: '15.00',
    itemFee: '0.99',
    percent: '15 %',
    price: 'up to 10.00',
    divisor: '5000',
    age: 'over 365',
    period: 'January to September',
  },
  role: { identifier: 'the barcode', cost: 'the purchase price' },
  kind: {
    string: 'text',
    number: 'a number',
    boolean: 'true or false',
    object: 'a group of fields',
    array: 'a list',
    int: 'a whole number',
    tuple: 'a list',
    record: 'a group of fields',
  },
  ours: { card: 'rate card', quote: 'quote', candidate: 'product', list: 'list' },
  again: {
    lanes: 'What was done is kept; start it again.',
    lists: 'The file is kept: look at it, or leave columns out, and read it again.',
  },
  /** Which of several files a fault is in. */
  in: { reference: 'Market figures', laneFile: 'This file is not a lane document' },
};
