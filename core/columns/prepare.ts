/** What size and weight alone decide of each row: size tier, fulfilment fee in each price band, postage. */
import type { SizeTier } from '../cards/rates.ts';
import { exchangeFactor } from '../money/money.ts';
import { isUnknown } from '../rules/numbers.ts';
import { countedKg, parcelOf, sizeTierOf, stepFee, warehouseFee } from '../rules/parcel.ts';
import type { Parcel } from '../rules/parcel.ts';
import type { Assumptions, ListRates } from './assumptions.ts';
import { NO_STEP } from './block.ts';
import type { Prepared } from './block.ts';
import type { ListColumns } from './columns.ts';
import { lineAtCost, overTheYear } from './terms.ts';
import type { Terms } from './terms.ts';

/** Room for what is prepared for so many rows; `width`: that of the evaluator. */
export const makePrepared = (length: number, width: number): Prepared => ({
  bandFees: new Float64Array(length * width),
  tiers: new Int16Array(length),
});

/** What `prepareRows` reads of settings: as long as it stays the same, what was prepared can be used again. */
export const preparedBy = (set: Assumptions, rates: ListRates): string =>
  JSON.stringify([rates, set.method, set.dispatch, set.saleMonth, set.standing]);

const parcel: Parcel = { L: 0, W: 0, H: 0, kg: 0 };

/** Fills `into` for all rows of the columns, `width` fees a row. */
export function prepareRows(
  columns: ListColumns,
  terms: Terms,
  set: Assumptions,
  rates: ListRates,
  width: number,
  into: Prepared,
): void {
  into.bandFees.fill(0);
  into.tiers.fill(-1);
  if (terms.isWarehouse) prepareWarehouse(columns, terms, set.saleMonth, width, into);
  else preparePostage(columns, terms, rates, width, into);
}

function prepareWarehouse(
  { a, b, c, kg, length }: ListColumns,
  { card, power }: Terms,
  saleMonth: number | null,
  width: number,
  { bandFees, tiers }: Prepared,
): void {
  const warehouse = card?.warehouse ?? null;
  if (warehouse === null) return;
  const peak = warehouse.peak === null ? 0 : overTheYear(warehouse.peak, saleMonth);
  for (let i = 0; i < length; i++) {
    const [x, y, z, weight] = [a[i] as number, b[i] as number, c[i] as number, kg[i] as number];
    if (isUnknown(x + y + z + weight)) continue;
    const p = parcelOf(x, y, z, weight, parcel);
    const at = sizeTierOf(warehouse.tiers, p);
    tiers[i] = at;
    if (at < 0) continue;
    const tier = warehouse.tiers[at] as SizeTier;
    const billable = countedKg(tier, p) + tier.packagingKg;
    for (let k = 0; k < tier.bands.length; k++) {
      const step = stepFee((tier.bands[k] as SizeTier['bands'][number]).table, billable);
      bandFees[i * width + k] = warehouseFee(step, 0, peak, power);
    }
  }
}

function preparePostage(
  { kg, length }: ListColumns,
  { dispatch, vatIsCost }: Terms,
  rates: ListRates,
  width: number,
  { bandFees, tiers }: Prepared,
): void {
  if (dispatch === null) return;
  const { packaging, pickAndPack, packagingKg, vat, vatRate, recoverable } = dispatch;
  const fx = (currency: string): number => exchangeFactor(rates.exchange, currency, rates.currency);
  const zones = dispatch.zones.map((z) => ({ ...z, fx: fx(z.postage.currency) }));
  const each =
    (packaging === null ? 0 : lineAtCost(packaging, fx(packaging.currency), vatIsCost)) +
    (pickAndPack === null ? 0 : lineAtCost(pickAndPack, fx(pickAndPack.currency), vatIsCost));
  for (let i = 0; i < length; i++) {
    const weight = kg[i] as number;
    if (isUnknown(weight)) continue;
    let postage = 0;
    for (const zone of zones) {
      const fee = stepFee(zone.postage, weight + packagingKg);
      if (isUnknown(fee)) tiers[i] = NO_STEP;
      postage += zone.share * lineAtCost({ amount: fee, vat, vatRate, recoverable }, zone.fx, vatIsCost);
    }
    bandFees[i * width] = postage + each;
  }
}
