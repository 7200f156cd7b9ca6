import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { randomLane } from '../../core/testing/lanes.ts';
import { withoutNothing, workings } from '../../core/lane/workings.ts';
import { cardWords } from './en.cards.ts';
import { packWords } from './en.packs.ts';
import { scheduleWords } from './en.schedules.ts';
import { closerWords } from './en.closer.ts';
import { checkWords } from './en.check.ts';
import { compareWords } from './en.compare.ts';
import { listTerms } from './en.listTerms.ts';
import { listWords } from './en.lists.ts';
import { findMarketWords } from './en.findMarket.ts';
import { fundWords } from './en.fund.ts';
import { marketWords } from './en.market.ts';
import { matchingWords } from './en.matching.ts';
import { moreWords } from './en.more.ts';
import { enquiryWords, orderWords } from './en.orders.ts';
import { sellerWords } from './en.sellers.ts';
import { sellingWords } from './en.selling.ts';
import { shopWords } from './en.shops.ts';
import { supplierWords } from './en.suppliers.ts';
import { workingWords } from './en.workings.ts';
import { en } from './en.ts';

const places: readonly object[] = [
  en,
  cardWords,
  scheduleWords,
  packWords,
  checkWords,
  closerWords,
  compareWords,
  listTerms,
  listWords,
  findMarketWords,
  fundWords,
  marketWords,
  matchingWords,
  moreWords,
  orderWords,
  enquiryWords,
  sellerWords,
  sellingWords,
  shopWords,
  supplierWords,
  workingWords,
];
const at = (words: object, key: string): unknown =>
  key
    .split('.')
    .reduce<unknown>(
      (o, k) => (typeof o === 'object' && o !== null ? (o as Record<string, unknown>)[k] : undefined),
      words,
    );
const said = (key: string): boolean =>
  places.some((words) => typeof at(words, key) === 'string' || typeof at(words, `${key}_other`) === 'string');
const sources = readdirSync('app', { recursive: true, encoding: 'utf8' }).filter(
  (p) => /\.tsx?$/.test(p) && !/\.test\./.test(p),
);

describe('the words of the screens', () => {
  it('every key that is written out exists', () => {
    const missing: string[] = [];
    let keys = 0;
    for (const path of sources)
      for (const [, key] of readFileSync(join('app', path), 'utf8').matchAll(
        /\bt\(\s*'([A-Za-z][\w]*(?:\.[\w]+)+)'/g,
      )) {
        keys++;
        if (!said(key as string)) missing.push(`${path}: ${key}`);
      }
    expect(keys).toBeGreaterThan(800);
    expect(missing).toEqual([]);
  });

  it('plurals get a number, never a text that was formatted: of a text nothing can tell one from many', () => {
    const plural = (key: string) => places.some((words) => at(words, `${key}_one`) !== undefined);
    const texts = sources.flatMap((path) =>
      [...readFileSync(join('app', path), 'utf8').matchAll(/\bt\(\s*'([\w.]+)',\s*\{\s*count: f\./g)].flatMap(
        ([, key]) => (plural(key as string) ? [`${path}: ${key}`] : []),
      ),
    );
    expect(texts).toEqual([]);
  });

  it('every name in the workings of a lane is one of the trade, not of the code', () => {
    const names = new Set<string>();
    for (let seed = 1; seed <= 400; seed++)
      for (const steps of Object.values(workings(randomLane(seed))))
        for (const step of steps.map(withoutNothing))
          for (const name of [
            ...(step.formula.match(/[A-Za-z]\w*/g) ?? []),
            ...step.terms.map((term) => term.name),
          ])
            names.add(name);
    expect(names.size).toBeGreaterThan(50);
    expect(
      [...names].filter((name) => !['term', 'lines', 'figure'].some((group) => said(`${group}.${name}`))),
    ).toEqual([]);
  });
});
