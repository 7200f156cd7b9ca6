import { isKnown } from '../../rules/numbers.ts';
import {
  containedVat,
  flatRateVat,
  grossOf,
  itemPrice,
  netRevenue,
  withCheckoutTax,
  withoutVat,
} from '../../rules/revenue.ts';
import type { Reckoning } from '../reckoning.ts';
import type { TaxCard } from '../../cards/rates.ts';
import type { LaneDocument, Standing } from '../schema.ts';

/**
 * VAT rate that a seller's shelf price contains: that of the product's class (`typed` beats it) in an
 * inclusive regime, unless the seller is not registered there; 0 in an exclusive one. Null where the tax card
 * is missing or has no rate for the class.
 */
export function vatInPrice(
  tax: TaxCard | null,
  standing: Standing | null,
  taxClass: string,
  typed: number | null = null,
): number | null {
  if (tax === null) return null;
  if (tax.regime === 'exclusive' || standing?.kind === 'notRegistered') return 0;
  return typed ?? tax.vatRates[taxClass] ?? null;
}

/** Gross at a shelf price: after the average discount, with charged delivery; sales currency, VAT as in the price. */
export function grossAt(
  doc: Pick<LaneDocument, 'averageDiscount' | 'shippingCharged'>,
  price: number,
): number {
  return grossOf(itemPrice(price, doc.averageDiscount), doc.shippingCharged);
}

/**
 * Revenue and output VAT (economics, section 2). `itemPrice = price (1 - averageDiscount)`, `gross =
 * itemPrice + shippingCharged`, `netRevenue = gross - outputVat`. Decision: an exclusive regime owes no
 * output VAT whatever the standing, so a missing standing is a problem there only where VAT on purchases or
 * fees would depend on it.
 */
export function reckonRevenue(r: Reckoning): void {
  const doc = r.doc;
  const tax = doc.rates.tax;
  const price = isKnown(r.tried.price) ? r.tried.price : doc.price;
  if (price === null) r.blank('price');
  r.price = price === null ? Number.NaN : price;
  r.itemPrice = itemPrice(r.price, doc.averageDiscount);
  r.gross = grossOf(r.itemPrice, doc.shippingCharged);

  const standing = doc.standing;
  if (standing === null) {
    r.vatIsCost = r.problem('standingMissing', 'outputVat', 'standing', { country: doc.country });
  } else if (standing.kind === 'registered') r.vatIsCost = 0;
  else if (standing.kind === 'marketplaceRemits') r.vatIsCost = standing.recoverable ? 0 : 1;
  else r.vatIsCost = 1;

  const typed = doc.typed.vatRate;
  const inclusive = tax === null || tax.regime === 'inclusive';
  let rate: number;
  if (typed !== null) rate = typed;
  else if (tax === null) rate = r.problem('noTaxCard', 'outputVat', 'rates.tax', { country: doc.country });
  else {
    const found = tax.vatRates[doc.product.taxClass];
    if (found !== undefined) rate = found;
    else if (!inclusive) rate = 0;
    else
      rate = r.problem('noTaxClass', 'outputVat', 'product.taxClass', {
        country: doc.country,
        taxClass: doc.product.taxClass,
      });
  }
  r.vatRate = rate;
  r.withheldVat = 0;
  if (!inclusive) {
    r.outputVat = 0;
    r.netBase = r.gross;
    r.buyerPays = withCheckoutTax(r.gross, tax?.checkoutTax ?? 0);
  } else {
    r.buyerPays = r.gross;
    if (standing === null) {
      r.outputVat = Number.NaN;
      r.netBase = Number.NaN;
    } else if (standing.kind === 'notRegistered') {
      r.outputVat = 0;
      r.netBase = r.gross;
    } else {
      r.netBase = withoutVat(r.gross, rate);
      r.outputVat =
        standing.kind === 'flatRate' ? flatRateVat(r.gross, standing.rate) : containedVat(r.gross, rate);
      if (standing.kind === 'marketplaceRemits') r.withheldVat = r.outputVat;
    }
  }
  r.netRevenue = netRevenue(r.gross, r.outputVat);

  if (r.trace !== null) {
    const ratePath = typed !== null ? 'typed.vatRate' : 'rates.tax.vatRates';
    r.trace.line('gross', r.gross, 'price * (1 - averageDiscount) + shippingCharged', [
      ['price', price, 'money', 'price'],
      ['averageDiscount', doc.averageDiscount, 'share', 'averageDiscount'],
      ['shippingCharged', doc.shippingCharged, 'money', 'shippingCharged'],
    ]);
    if (!inclusive) r.trace.line('outputVat', 0, '0', [['regime', 'exclusive', 'text', 'rates.tax.regime']]);
    else if (standing?.kind === 'notRegistered')
      r.trace.line('outputVat', 0, '0', [['standing', 'notRegistered', 'text', 'standing']]);
    else if (standing?.kind === 'flatRate')
      r.trace.line('outputVat', r.outputVat, 'gross * flatRate', [
        ['gross', r.gross, 'money', ''],
        ['flatRate', standing.rate, 'share', 'standing'],
      ]);
    else
      r.trace.line('outputVat', r.outputVat, 'gross * vatRate / (1 + vatRate)', [
        ['gross', r.gross, 'money', ''],
        ['vatRate', rate, 'share', ratePath],
        ['standing', standing?.kind ?? null, 'text', 'standing'],
      ]);
    r.trace.line('netRevenue', r.netRevenue, 'gross - outputVat', [
      ['gross', r.gross, 'money', ''],
      ['outputVat', r.outputVat, 'money', ''],
    ]);
  }
}
