import { describe, expect, it } from 'vitest';
import { evaluate } from '../lane/evaluate.ts';
import { quote as quoteSchema } from '../lane/schema.ts';
import { lantern } from '../testing/lantern.ts';
import { candidateData } from '../workspace/records.ts';
import { askedKeys, openQuestions, quantitiesAsked, targetPrice } from './questions.ts';
import { QUESTIONS } from './schema.ts';

const DAY = '2026-11-24';
const quote = (over: object = {}) =>
  quoteSchema.parse({
    kind: 'quote',
    currency: 'EUR',
    priceBreaks: [{ minQty: 0, unitPrice: 10 }],
    leadDays: 30,
    depositShare: 0.3,
    carton: { units: 10 },
    ...over,
  });
const candidate = (over: object = {}) => candidateData.parse({ name: 'Lantern', way: 'wholesale', ...over });
const known = { product: { sides: [20, 10, 10], kg: 0.5 } };

describe('what is asked', () => {
  it('of goods one knows nothing of, everything; of own goods mark, samples and reports too', () => {
    expect(openQuestions(candidate({ way: 'ownBrand' }), null, DAY)).toEqual([...QUESTIONS]);
    expect(openQuestions(candidate(), null, DAY)).toEqual(QUESTIONS.slice(0, 8));
  });
  it('of goods that are known and quoted, nothing', () => {
    expect(openQuestions(candidate(known), quote(), DAY)).toEqual([]);
  });
  it('each blank of the quote and of the goods is a question', () => {
    const asks = (over: object) => openQuestions(candidate(known), quote(over), DAY);
    expect(asks({ priceBreaks: [{ minQty: 0, unitPrice: null }] })).toEqual(['price']);
    expect(asks({ validUntil: '2026-11-23' })).toEqual(['price']);
    expect(asks({ validUntil: DAY })).toEqual([]);
    expect(asks({ carton: null })).toEqual(['carton']);
    expect(asks({ leadDays: null })).toEqual(['leadDays']);
    expect(asks({ depositShare: null })).toEqual(['deposit']);
    expect(openQuestions(candidate(), quote(), DAY)).toEqual(['size', 'weight']);
  });
});

describe('how much one asks for, and how much one can pay', () => {
  it('half, all and twice of what the lane orders, in bought units', () => {
    expect(quantitiesAsked(lantern())).toEqual([50, 100, 200]);
    const pairs = lantern();
    const [goods] = pairs.goods as unknown as object[];
    const packs = {
      ...pairs,
      goods: [{ ...goods, unitsInSoldPack: 2, unitsInBoughtPack: 1 }],
    } as typeof pairs;
    expect(quantitiesAsked(packs)).toEqual([100, 200, 400]);
    expect(quantitiesAsked({ ...lantern(), orderQuantity: null })).toEqual([]);
  });
  it('the most that clears all hurdles: at it they clear, one cent above they do not', () => {
    const doc = lantern();
    const hurdles = [
      { figure: 'unitProfit' as const, bound: 'atLeast' as const, level: 4, near: 0 },
      { figure: 'roi' as const, bound: 'atLeast' as const, level: 0.5, near: 0 },
    ];
    const most = targetPrice(doc, hurdles, 100);
    if (most === null) throw new Error('there is a price');
    const at = (unitPrice: number) => {
      const [goods] = doc.goods as unknown as { source: object }[];
      const source = { ...goods?.source, priceBreaks: [{ minQty: 0, unitPrice }] };
      return evaluate({ ...doc, goods: [{ ...goods, source }] } as typeof doc).figures;
    };
    expect(at(most).unitProfit).toBeGreaterThanOrEqual(4 - 1e-9);
    expect(at(most).roi).toBeGreaterThanOrEqual(0.5 - 1e-9);
    expect(at(most + 0.01).roi).toBeLessThan(0.5);
    // Without hurdles it breaks even.
    expect(targetPrice(doc, [], 100)).toBeGreaterThan(most);
    expect(targetPrice({ ...doc, price: null }, hurdles, 100)).toBeNull();
    expect(targetPrice(doc, [{ ...(hurdles[0] as (typeof hurdles)[0]), level: 1000 }], 100)).toBeNull();
  });
  it('keys for whoever reads the mail by program', () => {
    expect(askedKeys(['price', 'size'], [100, 200], 'USD')).toEqual([
      'price/100/USD',
      'price/200/USD',
      'size',
    ]);
    expect(askedKeys(['price'], [], 'USD')).toEqual(['price']);
  });
});
