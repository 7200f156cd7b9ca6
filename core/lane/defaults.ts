/**
 * What the parts of a lane are before anybody has said anything: the defaults of the schemas as plain values, for
 * whoever makes a lane on a page that carries no schemas. defaults.test.ts holds them against the schemas.
 */
import type { Leg, OwnDispatch, Route } from '../cards/carriage.ts';
import type { PurchasedLine } from '../money/schema.ts';
import type {
  Keyword,
  LaneTerms,
  Product,
  Quote,
  RetailPurchase,
  ReturnsTerms,
  TypedRates,
} from './schema.ts';

export const NO_TYPED_RATES: TypedRates = {
  vatRate: null,
  importVatRate: null,
  dutyPct: null,
  referralPct: null,
  itemFee: null,
  paymentPct: null,
  paymentFixed: null,
  subscriptionMonthly: null,
  fulfilmentFee: null,
  storagePerM3Month: null,
};

export const NEW_PRODUCT: Product = {
  sides: null,
  kg: null,
  category: null,
  taxClass: 'standard',
  hsCode: null,
  origin: null,
  dangerous: false,
  oversize: false,
};

const NO_VAT = { vat: 'none', vatRate: 0, recoverable: null } as const;
/** What of its own VAT a purchase says: none is charged, and whether it comes back is up to the standing. */
const SOURCE = {
  supplier: '',
  date: null,
  validUntil: null,
  ...NO_VAT,
  leadDays: null,
  creditDays: 0,
} as const;

/** An amount bought without VAT. */
export const purchased = (amount: number | null, currency: string): PurchasedLine => ({
  amount,
  currency,
  ...NO_VAT,
});

/** A quote of any quantity at a price that is still to be filled in. */
export const newQuote = (currency: string): Quote => ({
  kind: 'quote',
  ...SOURCE,
  currency,
  incoterm: 'EXW',
  priceBreaks: [{ minQty: 0, unitPrice: null }],
  firstPrice: null,
  minimumOrder: 0,
  extras: [],
  perOrder: [],
  oneOffs: [],
  freightInPrice: 0,
  carton: null,
  depositShare: null,
});

export const newRetail = (currency: string): RetailPurchase => ({
  kind: 'retail',
  ...SOURCE,
  currency,
  shelfPrice: null,
  discounts: [],
  reordered: false,
  salesTax: 0,
  exempt: false,
  giftCard: null,
  cashback: null,
  delivery: null,
  stock: null,
  exclusions: '',
});

export const newLeg = (leg: Pick<Leg, 'name' | 'stage' | 'basis' | 'rate' | 'currency'>): Leg => ({
  ...NO_VAT,
  minCharge: 0,
  fuelSurcharge: 0,
  divisor: null,
  minKg: 0,
  minCbm: 0,
  usableM3: null,
  bands: [],
  buyerPays: null,
  ...leg,
});

export const newRoute = (legs: Leg[]): Route => ({
  name: '',
  legs,
  packingAllowance: 0,
  insuranceRate: 0,
  transitDays: null,
  inboundDays: 0,
});

/** One zone, one step of weight. */
export const newDispatch = (upToKg: number, fee: number | null, currency: string): OwnDispatch => ({
  zones: [{ name: '', share: 1, postage: { currency, steps: [{ upToKg, fee }], stepKg: null, stepFee: 0 } }],
  ...NO_VAT,
  packagingKg: 0,
  packaging: null,
  pickAndPack: null,
});

export const NEW_KEYWORD: Keyword = {
  text: '',
  low: null,
  high: null,
  weight: 0.5,
  conversionRate: null,
  expectedClicks: null,
};

export const NEW_RETURNS: ReturnsTerms = { rate: null, resaleShare: 0, handling: null, disposal: null };

/** The terms of a lane that says where it sells, and nothing else. */
export const newTerms = (country: string, currency: string): LaneTerms => ({
  name: '',
  marketplace: '',
  country,
  currency,
  imported: false,
  price: null,
  averageDiscount: 0,
  shippingCharged: 0,
  standing: null,
  orderQuantity: null,
  buyingSpread: 0,
  route: null,
  importVatPostponed: false,
  prep: null,
  method: 'warehouse',
  dispatch: null,
  supplierDelivery: null,
  storage: null,
  monthsHeld: null,
  saleMonth: null,
  referralApplies: true,
  accountUnitsPerMonth: null,
  returns: null,
  breakage: 0,
  otherPerUnit: [],
  freeExtraProfit: 0,
  conversionSpread: 0,
  adverts: null,
  demand: null,
  season: null,
  monthlyFixedCosts: 0,
  payoutEveryDays: null,
  payoutDelayDays: null,
  typed: NO_TYPED_RATES,
  provenance: {},
});
