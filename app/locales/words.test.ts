import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { en } from './en.ts';
import { cardWords } from './en.cards.ts';
import { compareWords } from './en.compare.ts';
import { listWords } from './en.lists.ts';
import { moreWords } from './en.more.ts';
import { supplierWords } from './en.suppliers.ts';

const root = join(import.meta.dirname, '..');
const files = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((f) => /\.tsx?$/.test(f) && !/\.test\./.test(f));

/** Whether a key leads to a word, or to its plural forms. */
function known(words: unknown, key: string): boolean {
  const parts = key.split('.');
  const last = parts.pop() as string;
  let at: unknown = words;
  for (const p of parts) at = at !== null && typeof at === 'object' ? (at as Record<string, unknown>)[p] : undefined;
  return at !== null && typeof at === 'object' && (typeof (at as Record<string, unknown>)[last] === 'string' || typeof (at as Record<string, unknown>)[`${last}_other`] === 'string');
}

it('every word that a screen asks for is there', () => {
  const asked = new Map<string, string>();
  for (const f of files) for (const m of readFileSync(join(root, f), 'utf8').matchAll(/(?:\bt\(|i18nKey=)(?:[^'"`()]*\? ?)?['"]([a-zA-Z]+(?:\.[a-zA-Z0-9]+)+)['"](?: : ['"]([a-zA-Z]+(?:\.[a-zA-Z0-9]+)+)['"])?/g)) for (const key of [m[1], m[2]]) if (key !== undefined) asked.set(key, f);
  expect(asked.size).toBeGreaterThan(400);
  const missing = [...asked].filter(([key]) => ![en, cardWords, compareWords, listWords, moreWords, supplierWords].some((w) => known(w, key)));
  expect(missing).toEqual([]);
});
