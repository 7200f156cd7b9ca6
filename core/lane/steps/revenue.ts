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
import type { Reckoning, Trace } from '../reckoning.ts';
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
  const { doc } = r;
  const price = isKnown(r.tried.price) ? r.tried.price : doc.price;
  if (price === null) r.blank('price');
  r.price = price === null ? Number.NaN : price;
  r.itemPrice = itemPrice(r.price, doc.averageDiscount);
  r.gross = grossOf(r.itemPrice, doc.shippingCharged);
  r.vatIsCost = vatIsCost(r);
  const exclusive = doc.rates.tax?.regime === 'exclusive';
  r.vatRate = outputVatRate(r, exclusive);
  reckonOutputVat(r, exclusive);
  r.netRevenue = netRevenue(r.gross, r.outputVat);
  if (r.trace !== null) traceRevenue(r, r.trace, exclusive);
}

/** Whether VAT on what is bought is a cost: 1, or 0 where it is reclaimed; NaN without a standing. */
function vatIsCost(r: Reckoning): number {
  const { standing, country } = r.doc;
  if (standing === null) return r.problem('standingMissing', 'outputVat', 'standing', { country });
  if (standing.kind === 'registered') return 0;
  return standing.kind === 'marketplaceRemits' && standing.recoverable ? 0 : 1;
}

/** The rate of the goods' tax class, as a fraction, typed or by the card; NaN where neither knows it. */
function outputVatRate(r: Reckoning, exclusive: boolean): number {
  const { doc } = r;
  const { country, product } = doc;
  const { tax } = doc.rates;
  if (doc.typed.vatRate !== null) return doc.typed.vatRate;
  if (tax === null) return r.problem('noTaxCard', 'outputVat', 'rates.tax', { country });
  const found = tax.vatRates[product.taxClass];
  if (found !== undefined) return found;
  if (exclusive) return 0;
  const detail = { country, taxClass: product.taxClass };
  return r.problem('noTaxClass', 'outputVat', 'product.taxClass', detail);
}

/** VAT owed on a sale, what the marketplace withholds of it, and the amounts that fees are charged on. */
function reckonOutputVat(r: Reckoning, exclusive: boolean): void {
  const { standing, rates } = r.doc;
  r.withheldVat = 0;
  r.outputVat = 0;
  r.netBase = r.buyerPays = r.gross;
  if (exclusive) r.buyerPays = withCheckoutTax(r.gross, rates.tax?.checkoutTax ?? 0);
  else if (standing === null) r.outputVat = r.netBase = Number.NaN;
  else if (standing.kind !== 'notRegistered') {
    r.netBase = withoutVat(r.gross, r.vatRate);
    r.outputVat =
      standing.kind === 'flatRate' ? flatRateVat(r.gross, standing.rate) : containedVat(r.gross, r.vatRate);
    if (standing.kind === 'marketplaceRemits') r.withheldVat = r.outputVat;
  }
}

function traceRevenue(r: Reckoning, trace: Trace, exclusive: boolean): void {
  const { doc } = r;
  const { standing } = doc;
  const ratePath = doc.typed.vatRate !== null ? 'typed.vatRate' : 'rates.tax.vatRates';
  trace.line('gross', r.gross, 'price * (1 - averageDiscount) + shippingCharged', [
    ['price', isKnown(r.price) ? r.price : null, 'money', 'price'],
    ['averageDiscount', doc.averageDiscount, 'share', 'averageDiscount'],
    ['shippingCharged', doc.shippingCharged, 'money', 'shippingCharged'],
  ]);
  if (exclusive) trace.line('outputVat', 0, '0', [['regime', 'exclusive', 'text', 'rates.tax.regime']]);
  else if (standing?.kind === 'notRegistered')
    trace.line('outputVat', 0, '0', [['standing', 'notRegistered', 'text', 'standing']]);
  else if (standing?.kind === 'flatRate')
    trace.line('outputVat', r.outputVat, 'gross * flatRate', [
      ['gross', r.gross, 'money', ''],
      ['flatRate', standing.rate, 'share', 'standing'],
    ]);
  else
    trace.line('outputVat', r.outputVat, 'gross * vatRate / (1 + vatRate)', [
      ['gross', r.gross, 'money', ''],
      ['vatRate', r.vatRate, 'share', ratePath],
      ['standing', standing?.kind ?? null, 'text', 'standing'],
    ]);
  trace.line('netRevenue', r.netRevenue, 'gross - outputVat', [
    ['gross', r.gross, 'money', ''],
    ['outputVat', r.outputVat, 'money', ''],
  ]);
}
