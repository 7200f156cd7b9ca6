/** Test code: what a blank of a lane may turn out to be. */
import type { Blank } from '../lane/blanks.ts';
import type { LaneDocument } from '../lane/schema.ts';

/** Several ways to fill in a blank, none of which the lane had. */
export const FILL: Partial<Record<Blank, (doc: LaneDocument) => Partial<LaneDocument>[]>> = {
  duty: (d) => [0.05, 0.4].map((dutyPct) => ({ typed: { ...d.typed, dutyPct } })),
  importVat: (d) => [0.05, 0.4].map((importVatRate) => ({ typed: { ...d.typed, importVatRate } })),
  referral: (d) => [0.05, 0.4].map((referralPct) => ({ typed: { ...d.typed, referralPct } })),
  fulfilment: (d) =>
    d.method === 'supplierShips'
      ? [1, 9].map((amount) => ({
          supplierDelivery: {
            amount,
            currency: d.currency,
            vat: 'none' as const,
            vatRate: 0,
            recoverable: null,
          },
        }))
      : [1, 9].map((fulfilmentFee) => ({ typed: { ...d.typed, fulfilmentFee } })),
  storage: (d) =>
    d.product.sides === null
      ? []
      : [3, 90].map((rate) => {
          const { storage } = d;
          return storage !== null && storage !== 'none' && storage !== 'card'
            ? { storage: { own: { ...storage.own, amount: rate } } }
            : { storage: 'card' as const, typed: { ...d.typed, storagePerM3Month: rate } };
        }),
  prep: (d) =>
    [1, 7].map((standard) => ({
      prep: {
        standard,
        oversize: null,
        currency: d.currency,
        vat: 'added' as const,
        vatRate: 0.2,
        recoverable: null,
      },
    })),
  returns: () =>
    [0.02, 0.3].map((rate) => ({ returns: { rate, resaleShare: 0.5, handling: null, disposal: null } })),
  adverts: () =>
    [0.3, 2].map((low) => ({
      adverts: {
        keywords: [{ text: '', low, high: low, weight: 0.5, conversionRate: 0.1, expectedClicks: null }],
        adShare: 0.5,
      },
    })),
  demand: () => [3, 400].map((units) => ({ demand: { kind: 'typed' as const, units } })),
};
