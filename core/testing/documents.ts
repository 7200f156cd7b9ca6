/** Small made-up documents for tests of the core. */
import type { CardPack, PackedCard } from '../packs/schema.ts';
import { laneDocument } from '../lane/schema.ts';
import type { LaneDocument, LaneDocumentInput } from '../lane/schema.ts';
import type { z } from 'zod';
import type { marketplaceCard, taxCard } from '../cards/rates.ts';

type TaxInput = z.input<typeof taxCard>;
type CardInput = z.input<typeof marketplaceCard>;

export function taxCardOf(regime: 'inclusive' | 'exclusive', vat: number): TaxInput {
  return {
    name: 'Test tax',
    inForceFrom: '2026-01-01',
    country: 'DE',
    currency: 'EUR',
    regime,
    vatRates: { standard: vat },
    customsBasis: 'CIF',
    importVatBase: 'cif',
    dutyFreeLimit: null,
  };
}

export function marketplaceCardOf(tiers: { upTo: number | null; pct: number }[]): CardInput {
  return {
    name: 'Test card',
    inForceFrom: '2026-01-01',
    marketplace: 'Testmarket',
    country: 'DE',
    currency: 'EUR',
    categories: [
      {
        key: 'any',
        name: 'Anything',
        referral: { base: 'gross', mode: 'whole', tiers, min: null, max: null },
      },
    ],
  };
}

/** A lane in which every line that is not named is none, nothing is imported and no tax is due. */
export function plainLane(over: Partial<LaneDocumentInput> = {}): LaneDocument {
  return laneDocument.parse({
    format: 'bold-margin/lane',
    version: 1,
    date: '2026-11-24',
    homeCurrency: 'EUR',
    country: 'DE',
    currency: 'EUR',
    price: 30,
    standing: { kind: 'registered' },
    goods: 'none',
    route: 'none',
    prep: 'none',
    method: 'ownDispatch',
    dispatch: 'none',
    storage: 'none',
    referralApplies: false,
    returns: 'none',
    adverts: 'none',
    orderQuantity: 100,
    rates: { tax: taxCardOf('exclusive', 0) },
    ...over,
  });
}

/** A pack of cards that somebody else made. */
export const cardPackOf = (cards: readonly PackedCard[], proofs: CardPack['proofs'] = []): CardPack => ({
  format: 'bold-margin/card-pack',
  version: 1,
  name: 'Autumn',
  madeOn: '2026-11-01',
  cards,
  proofs,
});
