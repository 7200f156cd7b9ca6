/**
 * What is tried in place of what a lane says: the solvers try a price or a purchase price, draws try all eight.
 * One vector of plain numbers that a reckoning holds and its steps read; NaN, or a factor of 1, is as the lane
 * says.
 */
export class Tried {
  /** The lane's price, sales currency. */
  price = Number.NaN;
  /** Unit price of component `component` as quoted: in the source's currency, with or without VAT as it is there. */
  unitPrice = Number.NaN;
  component = -1;
  /** Factor on the bids of all keywords. */
  bids = 1;
  /** Factor on the units that a click sells. */
  conversion = 1;
  /** Factor on what freight legs cost, after minimums. */
  freight = 1;
  /** Units a month that stay whatever price is tried, where `holdsUnits`; NaN: not known. */
  units = Number.NaN;
  holdsUnits = false;
  /** Returns per unit shipped, where the lane says what a return costs. */
  returnRate = Number.NaN;
  /** Factor on the exchange rate of the currency of the first quote. */
  exchange = 1;
  /** true: purchased lines come with all their VAT, also what is recovered: their cost is then what is paid. */
  allVatIsCost = false;
  /** false leaves fees that follow the price unrounded: profit between limits is then a straight line. */
  rounding = true;

  /** Takes everything back: as the lane says. */
  release(): void {
    this.price = this.unitPrice = this.units = this.returnRate = Number.NaN;
    this.component = -1;
    this.bids = this.conversion = this.freight = this.exchange = 1;
    this.holdsUnits = false;
    this.rounding = true;
    this.allVatIsCost = false;
  }

  /** Keeps units a month at `units` (NaN: not known) whatever price is tried. */
  holdUnits(units: number): void {
    this.holdsUnits = true;
    this.units = units;
  }
}
