/**
 * The way in (economics, section 4): freight of a shipment, insurance, customs value, duty, import charges and
 * import VAT, landed cost. Sales currency, net of VAT, per unit sold unless a rule speaks of the shipment.
 */
import { clamp, isKnown, up, within } from './numbers.ts';

/**
 * Whole cartons of an order: `up(B / unitsPerCarton)`, bought units.
 *
 * @example cartonsOf(110, 20) // 6
 */
export const cartonsOf = (bought: number, unitsPerCarton: number): number => up(bought / unitsPerCarton);

/**
 * Volume of three sides in cm, in m3.
 *
 * @example volumeM3(20, 10, 10) // 0.002
 */
export const volumeM3 = (a: number, b: number, c: number): number => (a * b * c) / 1e6;

/**
 * Weight a leg charges: `max(kg, volumeCm3 / divisor, minKg)`; without a divisor volume does not count.
 *
 * @example chargeableKg(80, 0.6, 6000, 45) // 100
 * @example chargeableKg(30, 0.6, null, 45) // 45
 */
export const chargeableKg = (kg: number, m3: number, divisor: number | null, minKg: number): number =>
  Math.max(kg, divisor === null ? 0 : (m3 * 1e6) / divisor, minKg);

/**
 * Containers a shipment fills: `up(m3 / usableM3)`.
 *
 * @example containersOf(30, 28) // 2
 */
export const containersOf = (m3: number, usableM3: number): number => up(m3 / usableM3);

/**
 * What a leg charges for the shipment: `max(minCharge, cost) * (1 + fuelSurcharge)`. Currency of the leg.
 *
 * @example legCharge(40, 60, 0.1) // 66
 */
export const legCharge = (cost: number, minCharge: number, fuelSurcharge: number): number =>
  Math.max(minCharge, cost) * (1 + fuelSurcharge);

/**
 * What is paid for a whole order, per unit of it.
 *
 * @example perUnit(66, 200) // 0.33
 */
export const perUnit = (amount: number, quantity: number): number => amount / quantity;

/**
 * `rate * (goods + intl)`, with intl the origin and main legs that the buyer pays.
 *
 * @example insurance(0.005, 4, 0.2) // 0.021
 */
export const insurance = (rate: number, goods: number, intl: number): number => rate * (goods + intl);

/**
 * `goods + intl + insurance`.
 *
 * @example cifValue(4, 0.225, 0.021125) // 4.246125
 */
export const cifValue = (goods: number, intl: number, insured: number): number => goods + intl + insured;

/**
 * Customs value where the tax card says FOB: `goods + origin legs the buyer pays - freight and insurance
 * inside the price`.
 *
 * @example fobValue(5, 0.3, 1) // 4.3
 */
export const fobValue = (goods: number, originLegs: number, insidePrice: number): number =>
  goods + originLegs - insidePrice;

/**
 * Whether the shipment stays free of duty: `customsValue * Q` is not above the limit.
 *
 * @example isDutyFree(1.5, 100, 150) // true
 */
export const isDutyFree = (customsValue: number, quantity: number, limit: number): boolean =>
  within(customsValue * quantity, limit);

/**
 * `dutyRate * customsValue + perUnit + perKg * unit kg`.
 *
 * @example duty(0.05, 4, 0.1, 0.5, 2) // 1.3
 */
export const duty = (rate: number, customsValue: number, each: number, perKg: number, kg: number): number =>
  rate * customsValue + each + perKg * kg;

/**
 * One charge on import, per unit: `(clamp(pct * customsValue * Q, min, max) + flat) / Q`. A bound that is not
 * known leaves no answer.
 *
 * @example importCharge(0.01, 5, 100, 10, null, 60) // 0.7
 */
export function importCharge(
  pct: number,
  customsValue: number,
  quantity: number,
  min: number | null,
  max: number | null,
  flat: number,
): number {
  const areBoundsKnown = (min === null || isKnown(min)) && (max === null || isKnown(max));
  return areBoundsKnown ? (clamp(pct * customsValue * quantity, min, max) + flat) / quantity : Number.NaN;
}

/**
 * `rImport * (base + duty)`.
 *
 * @example importVat(0.2, 4.366125, 0.21230625) // 0.91568625
 */
export const importVat = (rate: number, base: number, dutyPaid: number): number => rate * (base + dutyPaid);

/**
 * `landedCost + recoverable VAT + cashback still to come`: the cash a unit takes.
 *
 * @example landedCash(5, 1, 0.5) // 6.5
 */
export const landedCash = (landedCost: number, recoverableVat: number, cashbackToCome: number): number =>
  landedCost + recoverableVat + cashbackToCome;
