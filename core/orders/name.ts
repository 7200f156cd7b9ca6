/**
 * How an order is called, by its number.
 *
 * @example orderName(12) // 'PO-0012'
 */
export const orderName = (number: number): string => `PO-${String(number).padStart(4, '0')}`;
