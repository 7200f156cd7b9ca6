import { adCostPerAdSale, adCostPerUnit, advertVatFactor, costPerClick } from '../../rules/adverts.ts';
import type { Reckoning } from '../reckoning.ts';

/**
 * Advertising cost per unit (economics, section 7), sales currency. `cpc` and `conversionRate` over several
 * keywords are means weighted by expected clicks, equally where any keyword lacks them (or all expect none).
 */
export function reckonAdverts(r: Reckoning): void {
  const doc = r.doc;
  const ads = doc.adverts;
  const card = doc.rates.marketplace;
  r.advertVatFactor = 1;
  if (card !== null && card.advertVat.treatment !== 'none' && card.advertVat.rate > 0)
    r.advertVatFactor = advertVatFactor(card.advertVat.rate, r.vatIsCost);
  r.cpc = r.conversionRate = r.adCostPerAdSale = Number.NaN;
  r.adShare = 1;
  r.adverts = 0;
  if (ads === null) {
    r.blank('adverts');
    return;
  }
  if (ads === 'none') {
    r.adShare = 0;
    r.trace?.line('adverts', 0, '0', []);
    return;
  }
  r.adShare = ads.adShare;
  const keywords = ads.keywords;
  let weighted = true;
  let clicks = 0;
  for (let i = 0; i < keywords.length; i++) {
    const e = (keywords[i] as (typeof keywords)[number]).expectedClicks;
    if (e === null) weighted = false;
    else clicks += e;
  }
  if (clicks <= 0) weighted = false;
  let cpc = 0;
  let conversion = 0;
  for (let i = 0; i < keywords.length; i++) {
    const k = keywords[i] as (typeof keywords)[number];
    if (k.low === null || k.high === null || k.conversionRate === null) {
      r.blank('adverts');
      return;
    }
    const w = weighted ? (k.expectedClicks as number) / clicks : 1 / keywords.length;
    cpc += w * costPerClick(k.low, k.high, k.weight);
    conversion += w * k.conversionRate;
  }
  cpc *= r.tried.bids;
  conversion *= r.tried.conversion;
  r.cpc = cpc;
  r.conversionRate = conversion;
  if (conversion >= 1e-9) r.adCostPerAdSale = adCostPerAdSale(cpc, r.advertVatFactor, conversion);
  if (ads.adShare === 0) {
    r.trace?.line('adverts', 0, '0', [['adShare', 0, 'share', 'adverts.adShare']]);
    return;
  }
  if (conversion < 1e-9) {
    r.adverts = r.problem('zeroConversion', 'adverts', 'adverts.keywords.0.conversionRate');
    return;
  }
  r.adverts = adCostPerUnit(ads.adShare, r.adCostPerAdSale);
  r.trace?.line('adverts', r.adverts, 'adShare * costPerClick * vatFactor / conversionRate', [
    ['adShare', ads.adShare, 'share', 'adverts.adShare'],
    ['costPerClick', cpc, 'money', 'adverts.keywords'],
    ['vatFactor', r.advertVatFactor, 'number', 'rates.marketplace.advertVat'],
    ['conversionRate', conversion, 'share', 'adverts.keywords'],
  ]);
}
