/** Proofs held against a marketplace's card: what it says, what was charged, and how far the two are apart. */
import type { MarketplaceCard, TaxCard } from '../cards/rates.ts';
import { triedOn } from '../compare/tryItem.ts';
import type { Trier } from '../compare/tryItem.ts';
import { lineValue } from '../lane/costLines.ts';
import { reckon } from '../lane/reckon.ts';
import { Reckoning } from '../lane/reckoning.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { minorDigits, powerOfTen } from '../money/money.ts';
import { isUnknown } from '../rules/numbers.ts';
import { PROVED } from './schema.ts';
import type { Proof, Proved } from './schema.ts';

/** One fee of a proof: `says` is null where the card or the proof lacks what it takes. */
export type FeeHeld = {
  readonly fee: Proved;
  readonly charged: number;
  readonly says: number | null;
  readonly meets: boolean;
};
export type Held = {
  readonly fees: readonly FeeHeld[];
  /** `met`: every fee; `fails`: one does not; `open`: none fails, and one cannot be told. */
  readonly state: 'met' | 'fails' | 'open';
};
export type HeldAll = {
  readonly held: readonly Held[];
  readonly met: number;
  readonly fails: number;
  readonly open: number;
};

/** Amounts are the same where they differ by less than half of the smallest unit. */
export const isSame = (a: number, b: number, currency: string): boolean =>
  Math.abs(a - b) < 0.5 / powerOfTen(minorDigits(currency)) - 1e-9;

/** Tries items on one card: the document is put together once, an item takes a few fields of it. */
export class Tried {
  private readonly doc: LaneDocument;
  private readonly r = new Reckoning();

  constructor(
    readonly card: MarketplaceCard,
    tax: TaxCard | null,
    by: Trier,
  ) {
    this.doc = triedOn({ card, tax }, { sides: null, kg: null, category: '', price: null }, by);
  }

  /** What the card says of a proof's item; the reckoning is used again for the next. */
  reckoned({ sides, kg, category, price, date }: Proof): Reckoning {
    const only = this.card.categories.length === 1 ? (this.card.categories[0]?.key ?? '') : '';
    const product = { ...this.doc.product, sides, kg, category: category === '' ? only : category };
    // The month of the proof decides peak surcharges.
    const saleMonth = date === null ? null : Number(date.slice(5, 7));
    return reckon({ ...this.doc, price, product, saleMonth }, this.r);
  }

  hold(p: Proof): Held {
    const r = this.reckoned(p);
    const fees: FeeHeld[] = [];
    for (const fee of PROVED) {
      const charged = p.charged[fee];
      if (charged === null) continue;
      const x = lineValue(r, fee);
      const says = isUnknown(x) || (fee === 'fulfilment' && this.card.warehouse === null) ? null : x;
      fees.push({ fee, charged, says, meets: says !== null && isSame(says, charged, this.card.currency) });
    }
    const fails = fees.some((f) => f.says !== null && !f.meets);
    return { fees, state: fails ? 'fails' : fees.every((f) => f.meets) ? 'met' : 'open' };
  }
}

/** Which fees of a card are proven: every proof that can be told is met; disputed: one is not. */
export function provenFees({ held }: HeldAll): Partial<Record<Proved, 'proven' | 'disputed'>> {
  const said: Partial<Record<Proved, 'proven' | 'disputed'>> = {};
  for (const { fee, says, meets } of held.flatMap((h) => h.fees))
    if (says !== null) said[fee] = meets && said[fee] !== 'disputed' ? 'proven' : 'disputed';
  return said;
}

/** All proofs of a card, in their order. */
export function holdAll(
  card: MarketplaceCard,
  tax: TaxCard | null,
  by: Trier,
  proofs: readonly Proof[],
): HeldAll {
  const tried = new Tried(card, tax, by);
  const held = proofs.map((p) => tried.hold(p));
  const count = (state: Held['state']): number => held.filter((h) => h.state === state).length;
  return { held, met: count('met'), fails: count('fails'), open: count('open') };
}
