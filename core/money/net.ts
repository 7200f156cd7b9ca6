import { withoutVat } from '../rules/revenue.ts';
import type { PurchasedLine } from './schema.ts';

/** What says how VAT stands on an amount. */
export type Vatable = Pick<PurchasedLine, 'vat' | 'vatRate' | 'recoverable'>;

/** Net of VAT: `amount / (1 + vatRate)` where VAT is included. In the line's own currency. */
export function netOf(amount: number, line: Vatable): number {
  return line.vat === 'included' ? withoutVat(amount, line.vatRate) : amount;
}
