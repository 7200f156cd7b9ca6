import { describe, expect, it } from 'vitest';
import { firstMarket, isOffered } from './offered.ts';

const card = (key: string, example = false, kind: 'marketplace' | 'tax' | 'freight' = 'marketplace') => ({
  kind,
  key,
  example,
});

describe('cards that are offered', () => {
  it('are all, unless examples are hidden: then the invented ones are not', () => {
    const cards = [card('A/DE'), card('B/DE', true), card('DE', true, 'tax'), card('Sea', true, 'freight')];
    const offered = (hideExamples: boolean) =>
      cards.filter((c) => isOffered(c, { hideExamples })).map((c) => c.key);
    expect(offered(false)).toEqual(['A/DE', 'B/DE', 'DE', 'Sea']);
    expect(offered(true)).toEqual(['A/DE', 'DE']);
  });
  it('the first marketplace is one’s own at home, else one’s own, else an example at home, else any', () => {
    const all = [card('X', false, 'tax'), card('B/FR', true), card('C/DE', true), card('D/FR'), card('E/DE')];
    const first = (n: number) => firstMarket(all.slice(0, n), 'DE')?.key ?? null;
    expect([5, 4, 3, 2, 1].map(first)).toEqual(['E/DE', 'D/FR', 'C/DE', 'B/FR', null]);
  });
});
