/** What a pack would bring to the cards that are there: what is new, what is there already, what is otherwise. */
import { compareCards } from '../cards/tables.ts';
import type { RowChange } from '../cards/tables.ts';
import { cardDay, cardKey, cardName } from '../cards/schema.ts';
import type { CardData, CardKind } from '../cards/schema.ts';
import type { Proof } from '../proofs/schema.ts';
import type { CardPack, Origin } from './schema.ts';

/** A version that is there. */
export type OwnVersion = {
  readonly id: string;
  readonly kind: CardKind;
  readonly key: string;
  readonly inForceFrom: string;
  readonly withdrawn: boolean;
  readonly data: CardData;
};

/**
 * - `new`: no card is about this yet
 * - `version`: a card that is there gets another version, from a day that none has
 * - `same`: it is there, with every figure the same
 * - `conflict`: a version of one's own is in force from that day and says otherwise: it stays as it is
 * - `withdrawn`: it is there and was taken out of force
 */
export type PackState = 'new' | 'version' | 'same' | 'conflict' | 'withdrawn';
export type PackLine = {
  /** Its place in the pack. */
  readonly at: number;
  readonly kind: CardKind;
  readonly key: string;
  readonly name: string;
  readonly inForceFrom: string;
  readonly from: Origin;
  readonly state: PackState;
  /** The version it is held against: the one of its day, else the one in force before it. */
  readonly against: string | null;
  readonly changes: readonly RowChange[];
  /** Proofs of this card in the pack that are not there yet; said at the first version of the card. */
  readonly newProofs: number;
};

const isOf = (kind: CardKind, key: string) => (v: OwnVersion) => v.kind === kind && v.key === key;

/** The proofs of a pack for a card that are not among those that are there. */
export function newProofsOf(pack: CardPack, key: string, there: readonly Proof[]): Proof[] {
  const known = new Set(there.map((p) => JSON.stringify(p)));
  const fresh: Proof[] = [];
  for (const { card, proof } of pack.proofs) {
    const text = JSON.stringify(proof);
    if (card !== key || known.has(text)) continue;
    known.add(text);
    fresh.push(proof);
  }
  return fresh;
}

/**
 * Holds a pack against the versions and proofs that are there. Nothing of one's own is ever overwritten: what
 * is otherwise on the same day is a conflict.
 */
export function comparePack(
  pack: CardPack,
  own: readonly OwnVersion[],
  proofs: ReadonlyMap<string, readonly Proof[]>,
): PackLine[] {
  const counted = new Set<string>();
  return pack.cards.map(({ kind, data, from }, at): PackLine => {
    const key = cardKey(kind, data);
    const day = cardDay(data);
    const there = own.filter(isOf(kind, key));
    const sameDay = there.filter((v) => v.inForceFrom === day);
    const inForce = sameDay.find((v) => !v.withdrawn);
    const before = there
      .filter((v) => !v.withdrawn && v.inForceFrom < day)
      .sort((a, b) => (a.inForceFrom < b.inForceFrom ? 1 : -1))[0];
    const against = inForce ?? before ?? null;
    const changes = against === null ? [] : compareCards(kind, against.data, data);
    const isSame = inForce !== undefined && changes.length === 0;
    const isOut = inForce === undefined && sameDay.some((v) => v.withdrawn);
    const countsProofs = kind === 'marketplace' && !counted.has(key);
    if (kind === 'marketplace') counted.add(key);
    return {
      at,
      kind,
      key,
      name: cardName(data),
      inForceFrom: day,
      from,
      state: isSame
        ? 'same'
        : inForce !== undefined
          ? 'conflict'
          : isOut
            ? 'withdrawn'
            : there.length === 0
              ? 'new'
              : 'version',
      against: against?.id ?? null,
      changes,
      newProofs: countsProofs ? newProofsOf(pack, key, proofs.get(key) ?? []).length : 0,
    };
  });
}
