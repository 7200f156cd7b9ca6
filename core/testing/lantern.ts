/** The lane that tests of launches begin with: a lantern, bought and sold at round figures, nothing open. */
import { plainLane, taxCardOf } from './documents.ts';

/**
 * Bought in Euro at 10, on sale after 30 days, sold at 25, 100 a month, paid out every two weeks and three days later;
 * no VAT. `over` changes the lane, `quoted` the supplier's quote.
 */
export const lantern = (over: object = {}, quoted: object = {}) =>
  plainLane({
    price: 25,
    orderQuantity: 100,
    demand: { kind: 'typed', units: 100 },
    goods: [
      {
        name: 'Lantern',
        source: {
          kind: 'quote',
          currency: 'EUR',
          priceBreaks: [{ minQty: 0, unitPrice: 10 }],
          leadDays: 30,
          ...quoted,
        },
      },
    ],
    payoutEveryDays: 14,
    payoutDelayDays: 3,
    rates: { tax: taxCardOf('exclusive', 0) },
    ...over,
  } as never);

/** Price breaks: 10 each, 8 from 300 on. */
export const CHEAPER_FROM_300 = [
  { minQty: 0, unitPrice: 10 },
  { minQty: 300, unitPrice: 8 },
];
