import { adCostPerAdSale, adCostPerUnit, advertVatFactor, costPerClick } from '../../rules/adverts.ts';
import type { Reckoning } from '../reckoning.ts';
import type { LaneDocument } from '../schema.ts';

type Keyword = Exclude<LaneDocument['adverts'], 'none' | null>['keywords'][number];

/**
 * Advertising cost per unit (economics, section 7), sales currency. `cpc` and `conversionRate` over several
 * keywords are means weighted by expected clicks, equally where any keyword lacks them (or all expect none).
 */
export function reckonAdverts(r: Reckoning): void {
  const { doc } = r;
  const ads = doc.adverts;
  r.advertVatFactor = vatFactor(r);
  r.cpc = r.conversionRate = r.adCostPerAdSale = Number.NaN;
  r.adShare = 1;
  r.adverts = 0;
  if (ads === 'none') {
    r.adShare = 0;
    r.trace?.line('adverts', 0, '0', []);
    return;
  }
  if (ads !== null) r.adShare = ads.adShare;
  if (ads === null || !reckonClicks(r, ads.keywords)) {
    r.blank('adverts');
    return;
  }
  if (r.conversionRate >= 1e-9)
    r.adCostPerAdSale = adCostPerAdSale(r.cpc, r.advertVatFactor, r.conversionRate);
  if (r.adShare === 0) {
    r.trace?.line('adverts', 0, '0', [['adShare', 0, 'share', 'adverts.adShare']]);
    return;
  }
  if (r.conversionRate < 1e-9) {
    r.adverts = r.problem('zeroConversion', 'adverts', 'adverts.keywords.0.conversionRate');
    return;
  }
  r.adverts = adCostPerUnit(r.adShare, r.adCostPerAdSale);
  r.trace?.line('adverts', r.adverts, 'adShare * costPerClick * vatFactor / conversionRate', [
    ['adShare', r.adShare, 'share', 'adverts.adShare'],
    ['costPerClick', r.cpc, 'money', 'adverts.keywords'],
    ['vatFactor', r.advertVatFactor, 'number', 'rates.marketplace.advertVat'],
    ['conversionRate', r.conversionRate, 'share', 'adverts.keywords'],
  ]);
}

/** What VAT that is a cost makes of a click; 1 where the card charges none. */
function vatFactor(r: Reckoning): number {
  const terms = r.doc.rates.marketplace?.advertVat;
  if (terms === undefined || terms.treatment === 'none' || terms.rate <= 0) return 1;
  return advertVatFactor(terms.rate, r.vatIsCost);
}

/** All clicks expected of the keywords; 0 where one of them does not say. */
function clicksOf(keywords: readonly Keyword[]): number {
  let clicks = 0;
  for (let i = 0; i < keywords.length; i++) {
    const e = (keywords[i] as Keyword).expectedClicks;
    if (e === null) return 0;
    clicks += e;
  }
  return clicks;
}

/** Cost of a click and conversion over all keywords, as tried; false where one of them is blank. */
function reckonClicks(r: Reckoning, keywords: readonly Keyword[]): boolean {
  const clicks = clicksOf(keywords);
  let cpc = 0;
  let conversion = 0;
  for (let i = 0; i < keywords.length; i++) {
    const k = keywords[i] as Keyword;
    if (k.low === null || k.high === null || k.conversionRate === null) return false;
    const w = clicks > 0 ? (k.expectedClicks as number) / clicks : 1 / keywords.length;
    cpc += w * costPerClick(k.low, k.high, k.weight);
    conversion += w * k.conversionRate;
  }
  r.cpc = cpc * r.tried.bids;
  r.conversionRate = conversion * r.tried.conversion;
  return true;
}
