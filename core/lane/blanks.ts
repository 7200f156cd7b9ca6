/** What of a lane may be blank, and in which sums that is felt. */
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
