import type { Reckoning } from '../reckoning.ts';
import type { FeeBase, MarketplaceCard } from '../../cards/rates.ts';
import { paymentFee, percentFee, referralBeforeBounds, referralFee } from '../../rules/fees.ts';
import { isKnown, roundMinor } from '../../rules/numbers.ts';

/** The amount a fee is charged on (economics, section 2), per unit, sales currency. */
export function feeBase(r: Reckoning, base: FeeBase): number {
  return base === 'item'
    ? r.itemPrice
    : base === 'gross'
      ? r.gross
      : base === 'net'
        ? r.netBase
        : r.buyerPays;
}

type Category = MarketplaceCard['categories'][number];
/** The category of that key on the card; null where the card has none. */
function categoryOf(card: MarketplaceCard, key: string): Category | null {
  for (let i = 0; i < card.categories.length; i++) {
    const c = card.categories[i] as Category;
    if (c.key === key) return c;
  }
  return null;
}

/** The lane's card; null where there is none, or where it is in another currency, which is a problem. */
function cardOf(r: Reckoning): MarketplaceCard | null {
  const { doc } = r;
  const card = doc.rates.marketplace;
  if (card === null || card.currency === doc.currency) return card;
  r.referral =
    r.itemFee =
    r.payment =
      r.problem('cardCurrency', 'referral', 'rates.marketplace', {
        marketplace: card.marketplace,
        card: card.currency,
        currency: doc.currency,
      });
  return null;
}

/** Referral, item and payment fee; sets them on `r`, each rounded once, per unit, sales currency, net of VAT. */
export function reckonSaleFees(r: Reckoning): void {
  const { doc } = r;
  r.referral = r.itemFee = r.payment = 0;
  r.bendReferralMin = r.bendReferralMax = 0;
  const card = cardOf(r);
  const category =
    card === null || doc.product.category === null ? null : categoryOf(card, doc.product.category);
  if (!doc.referralApplies) r.referral = 0;
  else if (doc.typed.referralPct !== null) referralTyped(r, doc.typed.referralPct, category);
  // Without a number the card is in another currency, which is said.
  else if (isKnown(r.referral)) referralByCard(r, card, category);
  itemFeeOf(r, card, category);
  paymentFeeOf(r, card);
}

function referralTyped(r: Reckoning, pct: number, category: Category | null): void {
  const base = category === null ? r.gross : feeBase(r, category.referral.base);
  r.referral = r.fee(percentFee(pct, base));
  r.trace?.line('referral', r.referral, 'round(pct * base)', [
    ['pct', pct, 'share', 'typed.referralPct'],
    ['base', base, 'money', ''],
  ]);
}

function referralByCard(r: Reckoning, card: MarketplaceCard | null, category: Category | null): void {
  const { doc } = r;
  if (card === null)
    r.referral = r.problem('noMarketplaceCard', 'referral', 'rates.marketplace', {
      marketplace: doc.marketplace || '—',
      country: doc.country,
    });
  else if (doc.product.category === null) r.blank('referral');
  else if (category === null)
    r.referral = r.problem('categoryNotOnCard', 'referral', 'product.category', {
      marketplace: card.marketplace,
      category: doc.product.category,
    });
  else {
    const rule = category.referral;
    const base = feeBase(r, rule.base);
    const raw = referralBeforeBounds(rule, base);
    if (rule.min !== null) r.bendReferralMin = raw - rule.min;
    if (rule.max !== null) r.bendReferralMax = raw - rule.max;
    r.referral = r.fee(referralFee(raw, rule.min, rule.max));
    if (r.trace !== null) traceReferral(r, category, base, raw);
  }
}

function traceReferral(r: Reckoning, { name, referral: rule }: Category, base: number, raw: number): void {
  const whole = rule.mode === 'whole';
  const tiers = rule.tiers.map(
    (t) => `${+(t.pct * 100).toFixed(4)} %${t.upTo === null ? '' : ` ≤ ${t.upTo}`}`,
  );
  r.trace?.line(
    'referral',
    r.referral,
    whole ? 'round(clamp(pct * base, min, max))' : 'round(clamp(sum(pct * slice), min, max))',
    [
      ['category', name, 'text', 'product.category'],
      ['pct', whole ? (base > 0 ? raw / base : 0) : null, 'share', 'rates.marketplace'],
      ['tiers', tiers.join(' · '), 'text', 'rates.marketplace'],
      ['base', base, 'money', ''],
      ['min', rule.min, 'money', 'rates.marketplace'],
      ['max', rule.max, 'money', 'rates.marketplace'],
    ],
  );
}

function itemFeeOf(r: Reckoning, card: MarketplaceCard | null, category: Category | null): void {
  const { itemFee: typed } = r.doc.typed;
  if (typed === null && card === null) return;
  const fee = typed ?? category?.itemFee ?? card?.itemFee ?? 0;
  r.itemFee = roundMinor(fee, r.power);
  r.trace?.line('itemFee', r.itemFee, 'round(fee)', [
    ['fee', fee, 'money', typed !== null ? 'typed.itemFee' : 'rates.marketplace'],
  ]);
}

function paymentFeeOf(r: Reckoning, card: MarketplaceCard | null): void {
  const { typed } = r.doc;
  if (typed.paymentPct === null && typed.paymentFixed === null && !card?.payment) return;
  const pct = typed.paymentPct ?? card?.payment?.pct ?? 0;
  const fixed = typed.paymentFixed ?? card?.payment?.fixed ?? 0;
  const base = feeBase(r, card?.payment?.base ?? 'gross');
  r.payment = r.fee(paymentFee(pct, base, fixed));
  r.trace?.line('payment', r.payment, 'round(pct * base + fixed)', [
    ['pct', pct, 'share', typed.paymentPct !== null ? 'typed.paymentPct' : 'rates.marketplace'],
    ['base', base, 'money', ''],
    ['fixed', fixed, 'money', typed.paymentFixed !== null ? 'typed.paymentFixed' : 'rates.marketplace'],
  ]);
}
