/** What a lane really brought over some months: the lines of its build-up as they were settled. */
import { COST_LINES, LINES, lineValue } from '../lane/costLines.ts';
import type { Line } from '../lane/costLines.ts';
import { reckon } from '../lane/reckon.ts';
import { Reckoning } from '../lane/reckoning.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { returnsAllowance } from '../rules/returns.ts';
import { priceOfGross, vatLost } from '../rules/revenue.ts';
import { SETTLED, SETTLED_KINDS, settledRule, STEPS } from './schema.ts';
import type { SettledKind } from './schema.ts';
import type { ReceivedCost } from './received.ts';
import type { KindSums } from './sums.ts';

/** The lines of a build-up, and what made good a loss, which no plan has. */
export const ACTUAL_LINES = [...LINES, 'reimbursement'] as const;
export type ActualLine = (typeof ACTUAL_LINES)[number];

/**
 * Where an actual amount comes from. `settled`: lines of this product; `shared`: its part of charges of the whole
 * account; `told`: by reports of one's own; `reckoned`: from what was settled, by the rates of the lane; `received`: by
 * orders that came in; `asPlanned`: nothing says otherwise; `partly`: so in some of the months.
 */
export type ActualFrom = 'settled' | 'shared' | 'told' | 'reckoned' | 'received' | 'asPlanned' | 'partly';
/** `amount` null: not known. */
export type ActualAmount = { readonly amount: number | null; readonly from: ActualFrom };

/**
 * Over all units of some months, sales currency. `price`: the shelf price that brings the gross of a unit. `lacks`:
 * lines that are not known; the profit leaves them out, and so is at most what it says; null where VAT is not known.
 */
export type Actual = {
  readonly shipped: number;
  readonly returned: number;
  readonly lost: number;
  readonly gross: number;
  readonly netRevenue: number | null;
  readonly price: number | null;
  readonly lines: Readonly<Record<ActualLine, ActualAmount>>;
  readonly lacks: readonly ActualLine[];
  readonly landedCost: number | null;
  readonly profit: number | null;
};

/** What is known of some months of a lane. */
export type Settled = {
  readonly own: KindSums;
  /** Its part of what is of no one product. */
  readonly shared: KindSums;
  /**
   * Kinds that any product of the marketplace was settled in these months: of others it is not known that nothing was
   * charged.
   */
  readonly kinds: ReadonlySet<SettledKind>;
  /** Landed lines of a unit as orders that came in cost them. */
  readonly received?: ReceivedCost;
};

const amountOf = (sums: KindSums, kind: SettledKind): number => (sums[kind]?.amount ?? 0) / STEPS;
const backOf = (sums: KindSums, kind: SettledKind): number => (sums[kind]?.back ?? 0) / STEPS;
const taxOf = (sums: KindSums, kind: SettledKind): number => (sums[kind]?.tax ?? 0) / STEPS;
const saysTax = (sums: KindSums, kinds: readonly SettledKind[]): boolean =>
  kinds.some((k) => sums[k]?.tax != null);

const SALES = SETTLED_KINDS.filter((k) => SETTLED[k].is === 'sale');
const CHARGES = SETTLED_KINDS.filter((k) => SETTLED[k].is === 'cost');
/** Costs that reports of one's own tell. */
const TOLD_COSTS = SETTLED_KINDS.filter((k) => SETTLED[k].is === 'told' && settledRule(k).line !== undefined);

/** A unit of a lane at a price, sales currency: lines are NaN where they are unknown or blank. */
export type UnitAt = Pick<
  Reckoning,
  | 'price'
  | 'gross'
  | 'netRevenue'
  | 'landedCost'
  | 'unitProfit'
  | 'outputVat'
  | 'vatIsCost'
  | 'handling'
  | 'disposal'
  | 'blanks'
> & { readonly lines: Readonly<Record<Line, number>> };

const r = new Reckoning();
/** Units of each lane document at the prices that were asked for: months go by few prices. */
const known = new WeakMap<LaneDocument, Map<number | null, UnitAt>>();
/** Prices of a lane that are kept at hand. */
const MOST_KEPT = 10_000;

/** The lane reckoned at a price; its units a month stay those of its plan. `price` null: as it is planned. */
export function unitAt(doc: LaneDocument, price: number | null): UnitAt {
  const at = known.get(doc) ?? new Map<number | null, UnitAt>();
  known.set(doc, at);
  const kept = at.get(price);
  if (kept !== undefined) return kept;
  r.tried.release();
  reckon(doc, r);
  if (price !== null) {
    r.tried.holdUnits(r.units);
    r.tried.price = price;
    reckon(doc, r);
  }
  const lines = Object.fromEntries(LINES.map((l) => [l, lineValue(r, l)])) as Record<Line, number>;
  const { gross, netRevenue, landedCost, unitProfit, outputVat, vatIsCost, handling, disposal, blanks } = r;
  const unit: UnitAt = {
    ...{ price: r.price, gross, netRevenue, landedCost, unitProfit, outputVat, vatIsCost },
    ...{ handling, disposal, blanks, lines },
  };
  if (at.size >= MOST_KEPT) at.clear();
  at.set(price, unit);
  return unit;
}

/** What buyers paid, and the VAT in it. Where tax is added at checkout it is no part of either. */
function salesOf(doc: LaneDocument, own: KindSums) {
  const sales = SALES.reduce((s, k) => s + amountOf(own, k), 0);
  const tax = SALES.reduce((s, k) => s + taxOf(own, k), 0);
  if (doc.rates.tax?.regime === 'exclusive') return { gross: sales - tax, vat: 0, from: 'reckoned' as const };
  const beside = amountOf(own, 'vat') - backOf(own, 'vat');
  const gross = sales + beside;
  const said = doc.standing?.kind !== 'flatRate';
  if (said && (own.vat !== undefined || saysTax(own, SALES)))
    return { gross, vat: beside + tax, from: 'settled' as const };
  if (said && own.vatWithheld !== undefined)
    return { gross, vat: -amountOf(own, 'vatWithheld'), from: 'settled' as const };
  return { gross, vat: null, from: 'reckoned' as const };
}

/** What buyers got back, and the VAT in it: as the report says, else the share of VAT in what was sold. */
function refundsOf(doc: LaneDocument, own: KindSums, vatShare: number): { gross: number; vat: number } {
  const exclusive = doc.rates.tax?.regime === 'exclusive';
  const vatBack = exclusive ? 0 : -backOf(own, 'vat');
  const gross = -amountOf(own, 'refund') + vatBack;
  const known = exclusive || saysTax(own, ['refund']) || backOf(own, 'vat') !== 0;
  return { gross, vat: known ? vatBack - taxOf(own, 'refund') : gross * vatShare };
}

/**
 * What came back: the revenue that buyers got back without its VAT, less the fees that came back with it, the refund
 * fee, and what a returned unit costs and is worth by the lane.
 */
function returnsOf(
  doc: LaneDocument,
  unit: UnitAt,
  own: KindSums,
  returned: number,
  vatShare: number,
): number {
  const { gross, vat } = refundsOf(doc, own, vatShare);
  const net = gross - vat;
  const feesBack = CHARGES.reduce((s, k) => s + (k === 'refundFee' ? 0 : backOf(own, k)), 0);
  const fee = -amountOf(own, 'refundFee');
  const { returns } = doc;
  const goods =
    returns === null || returns === 'none' || returned === 0
      ? 0
      : returnsAllowance(
          ...([returned, 0, 0, 0, unit.handling] as const),
          ...([returns.resaleShare, unit.disposal, unit.landedCost] as const),
        );
  return net - feesBack + fee + goods;
}

/** What a charge of the marketplace came to, without the VAT it bears. */
function chargedOf(kind: SettledKind, settled: Settled): { own: number; shared: number } {
  const net = (sums: KindSums): number => -(amountOf(sums, kind) - backOf(sums, kind) - taxOf(sums, kind));
  return { own: net(settled.own), shared: net(settled.shared) };
}

type Told = { readonly line: Line; readonly amount: number; readonly instead: boolean };
/**
 * What reports of one's own tell that the settlements do not: adverts, where no product of the marketplace was charged
 * any; dispatch, in place of what was planned for it where one dispatches oneself.
 */
function toldOf(doc: LaneDocument, settled: Settled): Told[] {
  const told: Told[] = [];
  const amountTold = (kind: 'clicks' | 'ownDispatch'): number => {
    const { own, shared } = chargedOf(kind, settled);
    return own + shared;
  };
  if (settled.kinds.has('clicks') && !settled.kinds.has('adverts'))
    told.push({ line: 'adverts', amount: amountTold('clicks'), instead: true });
  const dispatch = amountTold('ownDispatch');
  if (dispatch !== 0) {
    const charged = settled.kinds.has('fulfilment')
      ? chargedOf('fulfilment', settled)
      : { own: 0, shared: 0 };
    const beside = isOwn(doc, 'fulfilment') ? charged.own + charged.shared : 0;
    told.push({ line: 'fulfilment', amount: dispatch + beside, instead: isOwn(doc, 'fulfilment') });
  }
  return told;
}

/** Lines that one pays oneself whatever the marketplace charges: what is settled comes on top. */
function isOwn(doc: LaneDocument, line: Line): boolean {
  if (line === 'fulfilment') return doc.method !== 'warehouse';
  if (line === 'storage') return doc.storage !== 'card';
  return line === 'other';
}

/**
 * The build-up of a lane over some months, as it was settled. What no report can say (goods, the way in, preparation)
 * stands as orders that came in say, else as planned at the price that was really paid; so does a fee that no report
 * of the marketplace has a line of, since unknown is never zero. Units that were lost count at their landed cost.
 *
 * @param doc the lane as it stood at the launch
 */
export function actualOf(doc: LaneDocument, settled: Settled): Actual {
  const { own, received = {} } = settled;
  const shipped = own.sale?.units ?? 0;
  const returned = own.refund?.units ?? 0;
  const lost = own.reimbursement?.units ?? 0;
  const sales = salesOf(doc, own);
  const price = priceOf(doc, sales.gross, shipped);
  const unit = unitAt(doc, price);
  const planned = unit.lines;
  const vat = sales.vat ?? shipped * planned.outputVat;
  /** A unit's landed line: as orders cost it, and as planned for units that no order is known of. */
  const landed = (l: Line): number => {
    const got = received[l];
    if (got === undefined) return planned[l];
    return got.share >= 1 ? got.each : got.share * got.each + (1 - got.share) * planned[l];
  };
  const landedEach = LANDED.reduce((s, l) => s + landed(l), 0);

  const lines = {} as Record<ActualLine, { amount: number; from: ActualFrom }>;
  for (const line of LINES) {
    const got = received[line];
    lines[line] = {
      amount: shipped === 0 ? 0 : shipped * landed(line),
      from: got === undefined ? 'asPlanned' : got.share >= 1 ? 'received' : 'partly',
    };
  }
  lines.outputVat = { amount: vat, from: sales.from };
  for (const kind of CHARGES) {
    const line = settledRule(kind).line as Line;
    if (kind === 'refundFee' || !settled.kinds.has(kind)) continue;
    const charged = chargedOf(kind, settled);
    const plus = isOwn(doc, line) ? lines[line].amount : 0;
    const from = charged.own === 0 && charged.shared !== 0 ? 'shared' : 'settled';
    lines[line] = { amount: plus + charged.own + charged.shared, from };
  }
  for (const { line, amount, instead } of toldOf(doc, settled))
    lines[line] = { amount: (instead ? 0 : lines[line].amount) + amount, from: 'told' };
  if (CHARGES.some((k) => own[k]?.tax != null || settled.shared[k]?.tax != null)) {
    const tax = CHARGES.reduce((s, k) => s - taxOf(own, k) - taxOf(settled.shared, k), 0);
    lines.feeVat = { amount: vatLost(tax, unit.vatIsCost), from: 'settled' };
  }
  if (settled.kinds.has('refund') || returned > 0) {
    const share = vatShareOf(sales.gross, vat, unit);
    lines.returns = { amount: returnsOf(doc, unit, own, returned, share), from: 'settled' };
  }
  if (lost > 0) lines.breakage = { amount: lines.breakage.amount + lost * landedEach, from: 'reckoned' };
  lines.reimbursement = { amount: -amountOf(own, 'reimbursement'), from: 'settled' };
  const lacks = ACTUAL_LINES.filter((l) => Number.isNaN(lines[l].amount));
  const spent = ACTUAL_LINES.reduce((s, l) => s + (lacks.includes(l) ? 0 : lines[l].amount), 0);
  return {
    shipped,
    returned,
    lost,
    gross: sales.gross,
    netRevenue: orNull(sales.gross - vat),
    price,
    lines: Object.fromEntries(
      ACTUAL_LINES.map((l) => [l, { amount: orNull(lines[l].amount), from: lines[l].from }]),
    ) as Record<ActualLine, ActualAmount>,
    lacks,
    landedCost: orNull(shipped === 0 ? 0 : shipped * landedEach),
    profit: lacks.includes('outputVat') ? null : sales.gross - spent,
  };
}

/** The share of VAT in what was sold; where nothing was, as planned. */
const vatShareOf = (gross: number, vat: number, unit: UnitAt): number =>
  gross > 0 ? vat / gross : unit.gross > 0 ? unit.outputVat / unit.gross : 0;

/** What an advert report tells of a product: clicks, what they cost without VAT, and units that were sold by them. */
export type AdvertsTold = { readonly clicks: number; readonly cost: number; readonly units: number };

/**
 * What some months brought to the account, fees taken, and the VAT that is owed for them: that in sales, less that in
 * refunds, what the marketplace keeps and what charges bear where it is reclaimed. Sales currency; null: not known.
 */
export type AccountOf = {
  readonly settled: number;
  readonly vatOwed: number | null;
  /** Paid beside the account by reports of one's own, with its VAT. */
  readonly told: number;
  /** Whether these tell what dispatch took. */
  readonly tellsDispatch: boolean;
  /** Null: no advert report names the product. */
  readonly adverts: AdvertsTold | null;
};
export function accountOf(doc: LaneDocument, of: Settled, { gross, lines }: Actual): AccountOf {
  const { own, shared, kinds } = of;
  const whole = (sums: KindSums): number =>
    SETTLED_KINDS.reduce(
      (s, k) => s + (['aside', 'told'].includes(SETTLED[k].is) ? 0 : amountOf(sums, k)),
      0,
    );
  // Adverts that the marketplace charges are told twice.
  const beside = TOLD_COSTS.filter((k) => k !== 'clicks' || !kinds.has('adverts'));
  const unit = unitAt(doc, null);
  const exclusive = doc.rates.tax?.regime === 'exclusive';
  const sold = exclusive
    ? SALES.reduce((s, k) => s + taxOf(own, k), amountOf(own, 'vat'))
    : (lines.outputVat.amount ?? Number.NaN);
  const back = exclusive ? -taxOf(own, 'refund') : refundsOf(doc, own, vatShareOf(gross, sold, unit)).vat;
  const fees = [...CHARGES, ...beside].reduce((s, k) => s - taxOf(own, k) - taxOf(shared, k), 0);
  const reclaimed = fees === 0 ? 0 : fees * (1 - unit.vatIsCost);
  const owed = sold - back + amountOf(own, 'vatWithheld') - reclaimed;
  const { clicks, advertSale } = own;
  return {
    settled: whole(own) + whole(shared),
    vatOwed: orNull(owed),
    told: beside.reduce((s, k) => s - amountOf(own, k) - amountOf(shared, k), 0),
    tellsDispatch: amountOf(own, 'ownDispatch') + amountOf(shared, 'ownDispatch') !== 0,
    adverts:
      clicks === undefined
        ? null
        : { clicks: clicks.units, cost: chargedOf('clicks', of).own, units: advertSale?.units ?? 0 },
  };
}

/** The shelf price that brings the gross of a unit; null where nothing was sold. */
const priceOf = (doc: LaneDocument, gross: number, shipped: number): number | null =>
  shipped > 0 ? Math.max(0, priceOfGross(gross / shipped, doc.shippingCharged, doc.averageDiscount)) : null;

/** Several months as one: what each came to, added up. Unknown is the whole where a month of it is. */
export function addActuals(doc: LaneDocument, months: readonly Actual[]): Actual {
  const sum = (of: (a: Actual) => number | null): number | null =>
    months.reduce<number | null>((s, a) => {
      const x = of(a);
      return s === null || x === null ? null : s + x;
    }, 0);
  const all = (of: (a: Actual) => number): number => months.reduce((s, a) => s + of(a), 0);
  const [shipped, gross] = [all((a) => a.shipped), all((a) => a.gross)];
  return {
    shipped,
    returned: all((a) => a.returned),
    lost: all((a) => a.lost),
    gross,
    netRevenue: sum((a) => a.netRevenue),
    price: priceOf(doc, gross, shipped),
    lines: Object.fromEntries(
      ACTUAL_LINES.map((l) => [
        l,
        { amount: sum((a) => a.lines[l].amount), from: fromOf(months.map((a) => a.lines[l])) },
      ]),
    ) as Record<ActualLine, ActualAmount>,
    lacks: ACTUAL_LINES.filter((l) => months.some((a) => a.lacks.includes(l))),
    landedCost: sum((a) => a.landedCost),
    profit: sum((a) => a.profit),
  };
}

/** Where a line of several months is known from; months in which it came to nothing say nothing of it. */
function fromOf(months: readonly ActualAmount[]): ActualFrom {
  const froms = [...new Set(months.filter((a) => a.amount !== 0).map((a) => a.from))];
  const [first = months[0]?.from ?? 'asPlanned', ...others] = froms;
  if (others.length === 0) return first;
  return froms.includes('asPlanned') ? 'partly' : froms.includes('settled') ? 'settled' : first;
}

/** Unknown as null; nothing has no sign. */
const orNull = (x: number): number | null => (Number.isFinite(x) ? x + 0 : null);
const LANDED = LINES.filter((l) => COST_LINES[l].sum === 'landedCost');
