import { describe, expect, it } from 'vitest';
import { marketplaceCard, taxCard } from '../cards/rates.ts';
import { evaluate } from '../lane/evaluate.ts';
import { exchangeTable } from '../money/schema.ts';
import { marketplaceCardOf, taxCardOf } from '../testing/documents.ts';
import { allFees, coversFee, feeShare, itemOn, triedOn } from './tryItem.ts';

const CARD = marketplaceCard.parse(marketplaceCardOf([{ upTo: null, pct: 0.1 }]));
const TAX = taxCard.parse(taxCardOf('inclusive', 0.2));
const ITEM = { sides: [10, 8, 4] as [number, number, number], kg: 0.4, category: 'any', price: 24 };
const BY = { homeCurrency: 'EUR', standings: {}, today: '2026-11-28' };

describe('an item tried on a card', () => {
  it('bears the card’s fees and nothing else', () => {
    const { lines, figures } = evaluate(triedOn({ card: CARD, tax: TAX }, ITEM, BY));
    expect(lines.referral).toBeCloseTo(2.4, 12);
    expect([lines.goods, lines.freight, lines.returns, lines.adverts, lines.subscription]).toEqual([
      0, 0, 0, 0, 0,
    ]);
    expect(figures.gross).toBe(24);
  });
  it('all fees are their sum, and a share of what the buyer pays', () => {
    const r = evaluate(triedOn({ card: { ...CARD, itemFee: 0.6 }, tax: TAX }, ITEM, BY));
    expect(allFees(r)).toBeCloseTo(3, 12);
    expect(feeShare(r)).toBeCloseTo(0.125, 12);
  });
  it('without a price no fee that hangs on it is known, and no sum', () => {
    const r = evaluate(triedOn({ card: CARD, tax: TAX }, { ...ITEM, price: null }, BY));
    expect([allFees(r), feeShare(r)]).toEqual([null, null]);
  });
  it('a card without a warehouse says nothing of fulfilment', () => {
    expect([coversFee(CARD, 'referral'), coversFee(CARD, 'fulfilment'), coversFee(CARD, 'storage')]).toEqual([
      true,
      false,
      false,
    ]);
    expect(evaluate(triedOn({ card: CARD, tax: TAX }, ITEM, BY)).lines.fulfilment).toBe(0);
  });
});

describe('the same item on another card', () => {
  const yen = { ...CARD, currency: 'JPY', categories: CARD.categories.map((c) => ({ ...c, key: 'misc' })) };
  const rates = exchangeTable.parse({ base: 'EUR', date: '2026-11-20', rates: { JPY: 161.27 } });
  it('costs the same, in whole units of its currency, in the category that card has', () => {
    expect(itemOn(ITEM, CARD, yen, rates)).toEqual({ ...ITEM, category: 'misc', price: 3870 });
    expect(itemOn(ITEM, CARD, CARD, null)).toEqual(ITEM);
  });
  it('without a rate has no price', () => {
    expect(itemOn(ITEM, CARD, yen, null).price).toBeNull();
    expect(itemOn({ ...ITEM, price: null }, CARD, yen, rates).price).toBeNull();
  });
});
