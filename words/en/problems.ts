/** Problems of a lane, by code: what is wrong, where, what to do. Notices: what the reader should know besides. */
import type { NoticeCode, ProblemCode } from '../../core/lane/problems.ts';

export const problems: Readonly<Record<ProblemCode, string>> = {
  noExchangeRate:
    'There is no exchange rate for {{currency}} on {{date}}. Add one to the exchange rates, or ' +
    'quote in another currency.',
  standingMissing: 'Your VAT standing in {{country}} is not set. Choose it in Settings or on this lane.',
  noTaxCard: 'There is no tax card for {{country}}. Add one in Rates, or type the VAT rate on the lane.',
  noTaxClass:
    'The tax card of {{country}} has no rate for the tax class "{{taxClass}}". Choose another ' +
    'class, or type the VAT rate.',
  noMarketplaceCard:
    'There is no rate card for {{marketplace}} in {{country}}. Add one in Rates, or type the fees on the lane.',
  cardCurrency:
    'The card of {{marketplace}} is in {{card}}, the lane sells in {{currency}}. Choose the card of that country.',
  categoryNotOnCard: 'The card of {{marketplace}} has no category "{{category}}". Choose one that it has.',
  underFirstBreak:
    'The quote starts at {{minQty}} pieces; this order is {{bought}}. Order more, or add a price for fewer.',
  underMinimumOrder:
    'The supplier takes no order under {{minimum}} pieces; this order is {{bought}}. Order more.',
  noCarton:
    'The leg "{{leg}}" is charged by carton, but a quote has no units per carton. Add them to the quote.',
  noContainer:
    'The leg "{{leg}}" is charged by container, but its usable volume is not given. Add it to the leg.',
  noWeightBand: 'The leg "{{leg}}" has no band for {{kg}} kg. Add one, or ship less at once.',
  noDutyRate:
    'The tax card of {{country}} has no duty for HS {{hsCode}} from {{origin}}. Add it in Rates, or type the duty.',
  noSizeTier:
    'No size tier of {{marketplace}} takes {{sides}} cm at {{kg}} kg. Make the parcel smaller, or ' +
    'fulfil it another way.',
  noWarehouse: '{{marketplace}} has no warehouse in {{country}}. Fulfil it another way.',
  noStorageRates:
    'The card of {{marketplace}} has no storage rates. Type a rate, or say that storage does not apply.',
  noPostageStep:
    'The postage table ends at {{upToKg}} kg; the parcel weighs {{kg}} kg. Add a step to the table.',
  zeroUnits:
    'No units a month are expected, so a monthly cost cannot be spread over them. Change the demand.',
  zeroConversion: 'A conversion rate of 0 sells nothing. Enter the units that a click sells on average.',
};
export const notices: Readonly<Record<NoticeCode, string>> = {
  quoteExpired: 'The quote of {{supplier}} was valid until {{date}}. Ask for a new one.',
  outOfTheRunning:
    'At this price nobody would find the offer: {{rivals}} rivals are cheaper by more than the band allows.',
};
