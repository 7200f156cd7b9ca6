/** Every rule says what it does with an example, and the example is true. */
import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import * as adverts from './adverts.ts';
import * as demand from './demand.ts';
import * as fees from './fees.ts';
import * as goods from './goods.ts';
import * as numbers from './numbers.ts';
import * as parcel from './parcel.ts';
import * as result from './result.ts';
import * as returns from './returns.ts';
import * as revenue from './revenue.ts';
import * as storage from './storage.ts';
import * as wayIn from './wayIn.ts';

const BOOK: Record<string, Record<string, unknown>> = {
  adverts,
  demand,
  fees,
  goods,
  numbers,
  parcel,
  result,
  returns,
  revenue,
  storage,
  wayIn,
};
const folder = new URL('.', import.meta.url);
const pages = readdirSync(folder).filter((f) => f.endsWith('.ts') && !f.endsWith('.test.ts'));

type Example = { rule: string; says: string; expression: string; value: string };

/** The examples of a page of the book, each with the rule it stands over. */
function examplesOf(text: string): Example[] {
  const out: Example[] = [];
  for (const [, comment, rule] of text.matchAll(
    /\/\*\*([^/]*(?:\/(?!\*)[^/]*)*?)\*\/\nexport (?:const|function) (\w+)/g,
  ))
    for (const [says, expression, value] of (comment as string).matchAll(/@example (.+) \/\/ (.+)/g))
      out.push({ rule: rule as string, says, expression: expression as string, value: value as string });
  return out;
}

/** What an expression of our own source comes to, with the rules of its page at hand. */
const worthOf = (code: string, page: Record<string, unknown>): unknown =>
  new Function(...Object.keys(page), `return (${code});`)(...Object.values(page));

describe('the rule book', () => {
  it('is all there', () => {
    expect(pages.map((p) => p.replace('.ts', '')).sort()).toEqual(Object.keys(BOOK).sort());
  });
  for (const file of pages) {
    const page = BOOK[file.replace('.ts', '')] ?? {};
    const examples = examplesOf(readFileSync(new URL(file, folder), 'utf8'));
    it(`${file}: each rule has an example`, () => {
      const rules = Object.keys(page).filter((name) => typeof page[name] === 'function');
      expect(rules.length).toBeGreaterThan(2);
      expect([...new Set(examples.map((e) => e.rule))].sort()).toEqual(rules.sort());
    });
    for (const e of examples)
      it(`${file}: ${e.expression} is ${e.value}`, () => {
        expect(e.expression.startsWith(`${e.rule}(`)).toBe(true);
        const [got, want] = [worthOf(e.expression, page), worthOf(e.value, {})];
        if (Number.isNaN(want)) expect(got).toBeNaN();
        else if (typeof want === 'number') expect(got).toBeCloseTo(want, 9);
        else expect(got).toEqual(want);
      });
  }
});
