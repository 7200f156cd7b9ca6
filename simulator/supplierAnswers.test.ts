import { describe, expect, it } from 'vitest';
import { answerTo, waitsFor } from './supplierAnswers.ts';

const ASKS = [
  'price/200/USD',
  'minimumOrder',
  'size',
  'weight',
  'carton',
  'leadDays',
  'incoterm',
  'deposit',
  'branding',
  'samples',
  'certificates',
];
const ids = Array.from({ length: 200 }, (_, i) => `<${i}@shop.example>`);

describe('what an invented supplier answers', () => {
  it('the same mail gets the same answer; what was asked, in its own words, and nothing else', () => {
    for (const id of ids) {
      const text = answerTo(1, id, ASKS);
      expect(answerTo(1, id, ASKS)).toBe(text);
      expect(text).not.toMatch(/NaN|undefined/);
    }
    expect(answerTo(1, 'a', ['price/200/USD'])).toMatch(/Price for 200 pieces: USD \d+\.\d\d each|the rest/);
    expect(answerTo(1, 'a', ['whatever'])).not.toContain('whatever');
  });
  it('now and then leaves something out and says so, otherwise answers everything', () => {
    const short = ids.filter((id) => answerTo(1, id, ASKS).includes('the rest'));
    expect(short.length).toBeGreaterThan(30);
    expect(short.length).toBeLessThan(100);
    const whole = ids.filter((id) => !short.includes(id));
    for (const id of whole)
      expect(answerTo(1, id, ASKS).split('\n\n')[1]?.split('\n')).toHaveLength(ASKS.length);
  });
  it('more pieces never cost more each', () => {
    for (const id of ids) {
      const text = answerTo(1, id, ['price/100/USD', 'price/1000/USD']);
      const [few, many] = [...text.matchAll(/USD (\d+\.\d\d)/g)].map((m) => Number(m[1]));
      if (few !== undefined && many !== undefined) expect(many).toBeLessThanOrEqual(few);
    }
  });
  it('an order is confirmed with the days it takes', () => {
    expect(answerTo(1, 'b', [])).toMatch(/We confirm it as it stands; the goods are ready in \d+ days/);
  });
  it('most answer after a while, some late', () => {
    const waits = ids.map((id) => waitsFor(1, id, 1000));
    const late = waits.filter((w) => w > 1500);
    expect(Math.min(...waits)).toBeGreaterThanOrEqual(500);
    expect(Math.max(...waits)).toBeLessThanOrEqual(9000);
    expect(late.length).toBeGreaterThan(15);
    expect(late.length).toBeLessThan(80);
  });
});
