/**
 * The cost lines of a lane, each said once: from here follow the sums, the families of the bar, what a table
 * and an export have, which line is shown as unknown, and where an amount is said to come from.
 */
import type { Blank } from './blanks.ts';
import type { Reckoning } from './reckoning.ts';
import type { Component, LaneDocument, SOURCES } from './schema.ts';

type Source = (typeof SOURCES)[number];
/** What the lane notes of the inputs at these paths, the first that says something; null where none does. */
type Noted = (...paths: string[]) => Source | null;

/**
 * Sums of a unit (economics, section 8). A line raises `landedCost` and is taken from the others; `gross` less
 * its lines is the net revenue.
 */
export type Sum = 'gross' | 'landedCost' | 'proceeds' | 'contribution' | 'unitProfit';

export const FAMILIES = [
  'tax',
  'goods',
  'wayIn',
  'marketplace',
  'fulfilment',
  'returns',
  'other',
  'adverts',
] as const;
export type Family = (typeof FAMILIES)[number];

type CostLine = {
  readonly family: Family;
  readonly sum: Sum;
  /** What makes the line unknown where it is blank; `inPart`: only where nothing of it is known either. */
  readonly blank?: Blank;
  readonly inPart?: true;
  /** Where the amount comes from. */
  readonly source: (doc: LaneDocument, noted: Noted) => Source;
  /** The amount a unit, sales currency: as a step of the lane has left it, or worked out here (`own`). */
  readonly amount: (r: Reckoning) => number;
  readonly own?: true;
};

const isTyped = (value: unknown): boolean => value !== null && value !== undefined;
const typedOrCard = (...inputs: (keyof LaneDocument['typed'])[]): CostLine['source'] => {
  return (doc) => (inputs.some((i) => isTyped(doc.typed[i])) ? 'typed' : 'card');
};
const notedOr = (path: string, otherwise: Source): CostLine['source'] => {
  return (_doc, noted) => noted(path) ?? otherwise;
};
const fromCard = (): Source => 'card';

/** Whether somebody quoted the source's price: a supplier or a day stands on it. */
export const isQuoted = (source: Component['source']): boolean =>
  source.kind === 'quote' && (source.supplier !== '' || source.date !== null);
const quotedOrTyped = (doc: LaneDocument): Source =>
  Array.isArray(doc.goods) && doc.goods.every((c) => isQuoted(c.source)) ? 'quote' : 'typed';

const ofRoute: CostLine['source'] = (doc, noted) =>
  noted('route') ?? (doc.route !== null && doc.route !== 'none' && doc.route.name !== '' ? 'card' : 'typed');

function ofFulfilment(doc: LaneDocument, noted: Noted): Source {
  if (isTyped(doc.typed.fulfilmentFee)) return 'typed';
  if (doc.method === 'warehouse') return 'card';
  if (doc.method === 'ownDispatch') return noted('dispatch') ?? 'card';
  return noted('supplierDelivery') ?? 'typed';
}

function ofStorage(doc: LaneDocument, noted: Noted): Source {
  if (isTyped(doc.typed.storagePerM3Month)) return 'typed';
  return doc.storage === 'card' ? 'card' : (noted('storage') ?? 'typed');
}

/** Other costs a unit, each with a name of its own. */
function reckonOther(r: Reckoning): number {
  let sum = 0;
  const { otherPerUnit } = r.doc;
  for (let i = 0; i < otherPerUnit.length; i++) {
    const { name, line } = otherPerUnit[i] as (typeof otherPerUnit)[number];
    if (line.amount === null) {
      r.blank('other');
      continue;
    }
    const cost = r.cost(line, 'other');
    sum += cost;
    r.trace?.line('other', cost, 'amount', [
      ['name', name, 'text', `otherPerUnit.${i}`],
      ['amount', line.amount, 'number', `otherPerUnit.${i}`],
    ]);
  }
  return sum;
}

/** What a free extra brings, which lowers the costs. */
function reckonFreeExtra(r: Reckoning): number {
  const brings = r.doc.freeExtraProfit;
  if (brings === 0) return 0;
  r.trace?.line('freeExtra', -brings, '-freeExtraProfit', [
    ['freeExtraProfit', brings, 'money', 'freeExtraProfit'],
  ]);
  return -brings;
}

/** In the order in which they fill the bar. A line that gives money back is negative, and so netted in its family. */
export const COST_LINES = {
  outputVat: { family: 'tax', sum: 'gross', amount: (r) => r.outputVat, source: typedOrCard('vatRate') },
  irrecoverableVat: {
    family: 'tax',
    sum: 'landedCost',
    amount: (r) => r.irrecoverableVat,
    source: typedOrCard('vatRate'),
  },
  feeVat: { family: 'tax', sum: 'proceeds', amount: (r) => r.feeVat, source: fromCard },
  goods: {
    family: 'goods',
    sum: 'landedCost',
    amount: (r) => r.goods,
    source: (doc, noted) => noted('goods') ?? quotedOrTyped(doc),
  },
  buyingCosts: { family: 'goods', sum: 'landedCost', amount: (r) => r.buyingCosts, source: quotedOrTyped },
  prep: {
    family: 'goods',
    sum: 'landedCost',
    amount: (r) => r.prep,
    blank: 'prep',
    source: notedOr('prep', 'typed'),
  },
  // Legs that are known count although another is blank.
  freight: {
    family: 'wayIn',
    sum: 'landedCost',
    amount: (r) => r.freight,
    blank: 'freight',
    inPart: true,
    source: ofRoute,
  },
  insurance: { family: 'wayIn', sum: 'landedCost', amount: (r) => r.insurance, source: ofRoute },
  // The same where only the import charges lack an order quantity.
  duty: {
    family: 'wayIn',
    sum: 'landedCost',
    amount: (r) => r.duty,
    blank: 'duty',
    inPart: true,
    source: typedOrCard('dutyPct'),
  },
  importCharges: { family: 'wayIn', sum: 'landedCost', amount: (r) => r.importCharges, source: fromCard },
  referral: {
    family: 'marketplace',
    sum: 'proceeds',
    amount: (r) => r.referral,
    blank: 'referral',
    source: typedOrCard('referralPct'),
  },
  itemFee: {
    family: 'marketplace',
    sum: 'proceeds',
    amount: (r) => r.itemFee,
    source: typedOrCard('itemFee'),
  },
  payment: {
    family: 'marketplace',
    sum: 'proceeds',
    amount: (r) => r.payment,
    source: typedOrCard('paymentPct', 'paymentFixed'),
  },
  surcharges: { family: 'marketplace', sum: 'proceeds', amount: (r) => r.surcharges, source: fromCard },
  subscription: {
    family: 'marketplace',
    sum: 'proceeds',
    amount: (r) => r.subscription,
    blank: 'subscription',
    source: fromCard,
  },
  currencyConversion: {
    family: 'marketplace',
    sum: 'proceeds',
    amount: (r) => r.currencyConversion,
    source: notedOr('conversionSpread', 'default'),
  },
  fulfilment: {
    family: 'fulfilment',
    sum: 'proceeds',
    amount: (r) => r.fulfilment,
    blank: 'fulfilment',
    source: ofFulfilment,
  },
  storage: {
    family: 'fulfilment',
    sum: 'proceeds',
    amount: (r) => r.storage,
    blank: 'storage',
    source: ofStorage,
  },
  returns: {
    family: 'returns',
    sum: 'contribution',
    amount: (r) => r.returns,
    blank: 'returns',
    source: notedOr('returns', 'typed'),
  },
  breakage: {
    family: 'returns',
    sum: 'contribution',
    amount: (r) => r.breakage,
    source: notedOr('breakage', 'typed'),
  },
  other: {
    family: 'other',
    sum: 'contribution',
    blank: 'other',
    inPart: true,
    source: notedOr('otherPerUnit', 'typed'),
    amount: reckonOther,
    own: true,
  },
  freeExtra: {
    family: 'other',
    sum: 'contribution',
    source: notedOr('freeExtraProfit', 'typed'),
    amount: reckonFreeExtra,
    own: true,
  },
  adverts: {
    family: 'adverts',
    sum: 'unitProfit',
    amount: (r) => r.adverts,
    blank: 'adverts',
    source: notedOr('adverts', 'typed'),
  },
} as const satisfies Record<string, CostLine>;

export type Line = keyof typeof COST_LINES;
export const LINES = Object.keys(COST_LINES) as Line[];
const lineOf = (line: Line): CostLine => COST_LINES[line];

const linesBy = <K extends string>(keys: readonly K[], of: (line: CostLine) => K) =>
  Object.fromEntries(
    keys.map((k) => [k, LINES.filter((l) => of(COST_LINES[l]) === k)]),
  ) as unknown as Readonly<Record<K, readonly Line[]>>;
export const FAMILY_LINES = linesBy(FAMILIES, (l) => l.family);
export const SUM_LINES = linesBy(
  ['gross', 'landedCost', 'proceeds', 'contribution', 'unitProfit'] as const,
  (l) => l.sum,
);

/** Lines that no step of the lane works out. */
export const OWN_LINES = LINES.filter((l) => lineOf(l).own === true);
type Amount = (r: Reckoning) => number;
const OWN_AMOUNTS: readonly Amount[] = OWN_LINES.map((l) => COST_LINES[l].amount);
/** Works these out, and keeps them in the reckoning. */
export function reckonOwnLines(r: Reckoning): void {
  for (let i = 0; i < OWN_AMOUNTS.length; i++) r.own[i] = (OWN_AMOUNTS[i] as Amount)(r);
}

/** Reads a line from a finished reckoning. */
const readerOf = (line: Line): Amount => {
  const own = OWN_LINES.indexOf(line);
  return own < 0 ? COST_LINES[line].amount : (r) => r.own[own] as number;
};
const READ = Object.fromEntries(LINES.map((l) => [l, readerOf(l)])) as Readonly<Record<Line, Amount>>;
/** What lines of its own add to a sum. */
const ownOf = (sum: Sum): Amount => {
  const places = SUM_LINES[sum].map((l) => OWN_LINES.indexOf(l)).filter((at) => at >= 0);
  return (r) => {
    let total = 0;
    for (let i = 0; i < places.length; i++) total += r.own[places[i] as number] as number;
    return total;
  };
};
const ownOfContribution = ownOf('contribution');

/**
 * The lines of each sum added up (economics, section 8); unknown where one of them is. Written out, since a
 * million lanes come through here; costLines.test.ts holds them against the registry.
 */
export const LINES_OF: Readonly<Record<Sum, Amount>> = {
  gross: (r) => r.outputVat,
  landedCost: (r) =>
    r.goods +
    r.buyingCosts +
    r.freight +
    r.insurance +
    r.duty +
    r.importCharges +
    r.prep +
    r.irrecoverableVat,
  proceeds: (r) =>
    r.referral +
    r.itemFee +
    r.payment +
    r.surcharges +
    r.subscription +
    r.feeVat +
    r.fulfilment +
    r.storage +
    r.currencyConversion,
  contribution: (r) => r.returns + r.breakage + ownOfContribution(r),
  unitProfit: (r) => r.adverts,
};

/** A line as reckoned, for a sum or a table of workings; blank lines count as nothing. */
export const amountOf = (r: Reckoning, line: Line): number => READ[line](r);

/** A cost line as reckoned; NaN where it is unknown or blank. */
export function lineValue(r: Reckoning, line: Line): number {
  const { blank, inPart } = lineOf(line);
  const amount = READ[line](r);
  const isBlank = blank !== undefined && r.isBlank(blank) && (inPart !== true || amount === 0);
  return isBlank ? Number.NaN : amount;
}

/**
 * Where a cost line comes from: what the lane notes of the input that decides it; else the quote or the card
 * it is read from.
 */
export function sourceOf(doc: LaneDocument, line: Line): Source {
  const noted: Noted = (...paths) => {
    for (const p of paths) {
      const own =
        doc.provenance[p] ?? Object.entries(doc.provenance).find(([k]) => k.startsWith(`${p}.`))?.[1];
      if (own !== undefined) return own.source;
    }
    return null;
  };
  return lineOf(line).source(doc, noted);
}
