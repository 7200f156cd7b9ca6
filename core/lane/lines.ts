/** The cost lines of a lane, in the order in which they fill the bar, and the families they belong to. */
export const LINES = [
  'outputVat',
  'irrecoverableVat',
  'feeVat',
  'goods',
  'buyingCosts',
  'prep',
  'freight',
  'insurance',
  'duty',
  'importCharges',
  'referral',
  'itemFee',
  'payment',
  'surcharges',
  'subscription',
  'currencyConversion',
  'fulfilment',
  'storage',
  'returns',
  'breakage',
  'other',
  'freeExtra',
  'adverts',
] as const;
export type Line = (typeof LINES)[number];

export const FAMILIES = [
  'tax',
  'goods',
  'wayIn',
  'marketplace',
  'fulfilment',
  'returns',
  'other',
  'adverts',
] as const;
export type Family = (typeof FAMILIES)[number];

/** A line that gives money back (freeExtra) is negative and so netted in its family. */
export const FAMILY_LINES: Readonly<Record<Family, readonly Line[]>> = {
  tax: ['outputVat', 'irrecoverableVat', 'feeVat'],
  goods: ['goods', 'buyingCosts', 'prep'],
  wayIn: ['freight', 'insurance', 'duty', 'importCharges'],
  marketplace: ['referral', 'itemFee', 'payment', 'surcharges', 'subscription', 'currencyConversion'],
  fulfilment: ['fulfilment', 'storage'],
  returns: ['returns', 'breakage'],
  other: ['other', 'freeExtra'],
  adverts: ['adverts'],
};

/** What may be blank; a bit each, so that a million rows can carry their blanks in one number. */
export const BLANKS = [
  'price',
  'goods',
  'freight',
  'duty',
  'importVat',
  'prep',
  'referral',
  'fulfilment',
  'storage',
  'returns',
  'adverts',
  'subscription',
  'demand',
  'other',
] as const;
export type Blank = (typeof BLANKS)[number];
/**
 * What of a blank reaches where, when not every figure depends on it: a bit each, set beside that of the
 * blank they name. Import VAT that would be recovered is no cost, postponed no cash either; delivery by the
 * supplier counts in customs; demand decides the cover only where no months held are typed; what is paid to
 * others than the marketplace is not taken from the payout; a payout that is converted reads returns.
 */
const REACHES = {
  importVatAsCost: 'importVat',
  importVatAsCash: 'importVat',
  deliveryInCif: 'fulfilment',
  deliveryInCustoms: 'fulfilment',
  deliveryInImportVat: 'fulfilment',
  deliveryInCost: 'fulfilment',
  deliveryInCash: 'fulfilment',
  demandInCover: 'demand',
  demandInCycle: 'demand',
  fulfilmentInPayout: 'fulfilment',
  storageInPayout: 'storage',
  returnsInConversion: 'returns',
} as const satisfies Record<string, Blank>;
export type Reach = keyof typeof REACHES;
const REACH = Object.keys(REACHES) as Reach[];
export const BIT = Object.fromEntries([...BLANKS, ...REACH].map((b, i) => [b, 1 << i])) as Readonly<
  Record<Blank | Reach, number>
>;

export const FIGURES = [
  'itemPrice',
  'gross',
  'netRevenue',
  'proceeds',
  'landedCost',
  'landedCash',
  'contribution',
  'unitProfit',
  'margin',
  'marginOnShelfPrice',
  'roi',
  'markup',
  'priceMultiple',
  'expectedMonthlyUnits',
  'profitPerMonth',
  'coverMonths',
  'cashCycleDays',
  'turnsPerYear',
  'yearlyReturnOnCash',
  'costOfHolding',
  'payout',
  'recoverableVat',
  'cashbackToCome',
  'cifValue',
  'customsValue',
  'importVat',
  'adCostPerAdSale',
  'acos',
  'tacos',
  'breakEvenAcos',
  'highestCpc',
  'highestCpcBlended',
  'lowestConversion',
  'lowestConversionBlended',
] as const;
export type Figure = (typeof FIGURES)[number];

const landed = BIT.goods | BIT.freight | BIT.duty | BIT.importVatAsCost | BIT.prep | BIT.deliveryInCost;
const landedCash = landed | BIT.importVatAsCash | BIT.deliveryInCash;
const proceeds =
  BIT.price | BIT.referral | BIT.fulfilment | BIT.storage | BIT.subscription | BIT.returnsInConversion;
const contribution = landed | proceeds | BIT.returns | BIT.other;
const profit = contribution | BIT.adverts;

/** The blanks that make a figure incomplete. */
export const FIGURE_BLANKS: Readonly<Record<Figure, number>> = {
  itemPrice: BIT.price,
  gross: BIT.price,
  netRevenue: BIT.price,
  proceeds,
  landedCost: landed,
  landedCash,
  contribution,
  unitProfit: profit,
  margin: profit,
  marginOnShelfPrice: profit,
  roi: profit,
  markup: landed | BIT.price,
  priceMultiple: BIT.price | BIT.goods,
  expectedMonthlyUnits: BIT.demand,
  profitPerMonth: profit | BIT.demand,
  coverMonths: BIT.demandInCover,
  cashCycleDays: BIT.demandInCycle,
  turnsPerYear: BIT.demandInCover | BIT.demandInCycle,
  yearlyReturnOnCash: profit | landedCash | BIT.demandInCover | BIT.demandInCycle,
  costOfHolding: landedCash | BIT.demandInCycle,
  payout:
    BIT.price | BIT.referral | BIT.subscription | BIT.returns | BIT.fulfilmentInPayout | BIT.storageInPayout,
  recoverableVat: BIT.goods | BIT.freight | BIT.duty | BIT.prep | BIT.importVatAsCash | BIT.deliveryInCash,
  cashbackToCome: BIT.goods,
  cifValue: BIT.goods | BIT.freight | BIT.deliveryInCif,
  customsValue: BIT.goods | BIT.freight | BIT.deliveryInCustoms,
  importVat: BIT.goods | BIT.freight | BIT.duty | BIT.importVat | BIT.deliveryInImportVat,
  adCostPerAdSale: BIT.adverts,
  acos: BIT.adverts | BIT.price,
  tacos: BIT.adverts | BIT.price,
  breakEvenAcos: contribution,
  highestCpc: contribution | BIT.adverts,
  highestCpcBlended: contribution | BIT.adverts,
  lowestConversion: contribution | BIT.adverts,
  lowestConversionBlended: contribution | BIT.adverts,
};

/** Few masks come up again and again; each has its list made once. */
const lists = new Map<number, readonly Blank[]>();
/** Names of the blanks in a bit mask. */
export function blanksIn(mask: number): readonly Blank[] {
  let list = lists.get(mask);
  if (list === undefined) {
    list = Object.freeze(
      BLANKS.filter(
        (b) => (mask & BIT[b]) !== 0 || REACH.some((part) => REACHES[part] === b && (mask & BIT[part]) !== 0),
      ),
    );
    lists.set(mask, list);
  }
  return list;
}
