import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { marketplaceCard, taxCard } from '../cards/rates.ts';
import type { CardData, CardKind } from '../cards/schema.ts';
import { cardDay, cardFrom, cardKey } from '../cards/schema.ts';
import { proof } from '../proofs/schema.ts';
import { cardPackOf, marketplaceCardOf, taxCardOf } from '../testing/documents.ts';
import { comparePack, newProofsOf } from './compare.ts';
import type { OwnVersion } from './compare.ts';
import { readPack } from './read.ts';
import type { CardPack, PackedCard } from './schema.ts';

const market = (name: string, from: string, pct = 0.15) =>
  marketplaceCard.parse({
    ...marketplaceCardOf([{ upTo: null, pct }]),
    name,
    marketplace: name,
    inForceFrom: from,
  });
const TAX = taxCard.parse(taxCardOf('inclusive', 0.2));
const packed = (kind: CardKind, data: CardData): PackedCard => ({
  kind,
  data,
  from: { source: 'Tern', day: '2026-10-02' },
});
const own = (kind: CardKind, data: CardData, withdrawn = false): OwnVersion => ({
  id: `${cardKey(kind, data)} ${cardDay(data)}`,
  kind,
  key: cardKey(kind, data),
  inForceFrom: cardDay(data),
  withdrawn,
  data,
});
const PROOF = proof.parse({ price: 20, charged: { referral: 3 } });
const stateOf = (p: CardPack, versions: readonly OwnVersion[]) =>
  comparePack(p, versions, new Map()).map((l) => [l.state, l.against, l.changes.length]);

describe('a pack beside the cards that are there', () => {
  const winter = packed('marketplace', market('Fell', '2027-01-01'));
  it('a card that nothing is there of is new', () => {
    expect(stateOf(cardPackOf([winter]), [])).toEqual([['new', null, 0]]);
    expect(stateOf(cardPackOf([winter]), [own('tax', TAX)])).toEqual([['new', null, 0]]);
  });
  it('another version is held against the one in force before it', () => {
    const older = [
      own('marketplace', market('Fell', '2026-01-01', 0.1)),
      own('marketplace', market('Fell', '2026-06-01', 0.12)),
      own('marketplace', market('Fell', '2028-01-01', 0.2)),
    ];
    // The day and the percentage.
    expect(stateOf(cardPackOf([winter]), older)).toEqual([['version', 'Fell/DE 2026-06-01', 2]]);
    expect(stateOf(cardPackOf([winter]), older.slice(2))).toEqual([['version', null, 0]]);
  });
  it('the same with every figure the same is there already; otherwise on its day is a conflict', () => {
    expect(stateOf(cardPackOf([winter]), [own('marketplace', market('Fell', '2027-01-01'))])).toEqual([
      ['same', 'Fell/DE 2027-01-01', 0],
    ]);
    expect(stateOf(cardPackOf([winter]), [own('marketplace', market('Fell', '2027-01-01', 0.1))])).toEqual([
      ['conflict', 'Fell/DE 2027-01-01', 1],
    ]);
  });
  it('what was taken out of force does not come back by itself', () => {
    expect(stateOf(cardPackOf([winter]), [own('marketplace', market('Fell', '2027-01-01'), true)])).toEqual([
      ['withdrawn', null, 0],
    ]);
  });
  it('new proofs are counted once, at the first version of their card', () => {
    const later = packed('marketplace', cardFrom(winter.data, '2027-06-01'));
    const p = cardPackOf(
      [winter, later, packed('tax', TAX)],
      [
        { card: 'Fell/DE', proof: PROOF },
        { card: 'Fell/DE', proof: PROOF },
        { card: 'Fell/DE', proof: { ...PROOF, price: 30 } },
      ],
    );
    expect(comparePack(p, [], new Map()).map((l) => l.newProofs)).toEqual([2, 0, 0]);
    expect(newProofsOf(p, 'Fell/DE', [PROOF])).toEqual([{ ...PROOF, price: 30 }]);
  });
  it('whatever is there: a version of one’s own is never `new` nor `version` on its day', () => {
    const day = fc.constantFrom('2026-01-01', '2026-06-01', '2027-01-01');
    const version = fc.tuple(day, fc.constantFrom(0.1, 0.15), fc.boolean());
    fc.assert(
      fc.property(fc.array(version, { maxLength: 5 }), day, (versions, on) => {
        const there = versions.map(([d, pct, out]) => own('marketplace', market('Fell', d, pct), out));
        const [line] = comparePack(cardPackOf([packed('marketplace', market('Fell', on))]), there, new Map());
        const taken = there.some((v) => v.inForceFrom === on && !v.withdrawn);
        expect(taken && (line?.state === 'new' || line?.state === 'version')).toBe(false);
        expect(line?.state === 'new').toBe(there.length === 0);
      }),
    );
  });
});

describe('a pack from outside', () => {
  const whole = cardPackOf(
    [packed('marketplace', market('Fell', '2027-01-01')), packed('tax', TAX)],
    [{ card: 'Fell/DE', proof: PROOF }],
  );
  const codes = (over: object): string[] => {
    const read = readPack({ ...whole, ...over });
    return read.ok ? [] : read.issues.map((i) => i.code);
  };
  it('reads back as it was written', () => {
    expect(readPack(JSON.parse(JSON.stringify(whole)))).toEqual({ ok: true, pack: whole });
  });
  it.each([
    ['of another format', { format: 'bold-margin/lane' }, 'notKnown'],
    ['of a later version', { version: 2 }, 'otherVersion'],
    ['without a name', { name: '' }, 'packNoName'],
    ['without cards', { cards: [], proofs: [] }, 'packNoCards'],
    ['with a card twice', { cards: [whole.cards[0], whole.cards[0]] }, 'packCardTwice'],
    ['with a proof of a card that is not in it', { cards: [whole.cards[1]] }, 'packProofOfNone'],
    ['with a field that nobody knows', { extra: 1 }, 'unknownFields'],
  ])('%s is refused', (_, over, code) => expect(codes(over)).toContain(code));
  it('with a card whose rows cannot stand names the card, the sheet and the row', () => {
    const card = market('Fell', '2027-01-01');
    const falls = {
      ...card,
      categories: card.categories.map((c) => ({
        ...c,
        referral: { ...c.referral, tiers: [{ upTo: null, pct: 0.1 }, ...c.referral.tiers] },
      })),
    };
    const read = readPack({ ...whole, cards: [packed('marketplace', falls)] });
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.issues[0]?.path).toMatch(/^cards\.0/);
  });
  it.each([null, 1, 'pack', [], {}])('%j is no pack', (x) => expect(readPack(x).ok).toBe(false));
});
