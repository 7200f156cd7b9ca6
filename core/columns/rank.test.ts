import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { foldText, rankTexts } from './rank.ts';
import type { TextColumn } from './rank.ts';

function columnOf(texts: readonly string[]): TextColumn {
  const parts = texts.map((t) => Buffer.from(t));
  const offsets = new Uint32Array(texts.length + 1);
  parts.forEach((p, i) => {
    offsets[i + 1] = (offsets[i] as number) + p.length;
  });
  return { bytes: Buffer.concat(parts), offsets };
}

describe('ranks of texts', () => {
  it('order like the bytes of the texts; equal texts share a rank, blank ones have none', () => {
    const word = fc.oneof(
      fc.string({ maxLength: 9 }),
      fc.constantFrom('', 'plant', 'plant pot', 'plant pot terracotta', 'plant pot terracotta 12', 'ä', '鉢'),
    );
    fc.assert(
      fc.property(fc.array(word, { maxLength: 60 }), (texts) => {
        const ranks = rankTexts(columnOf(texts));
        const distinct = [...new Set(texts.filter((t) => t !== ''))].sort((a, b) =>
          Buffer.compare(Buffer.from(a), Buffer.from(b)),
        );
        expect([...ranks]).toEqual(texts.map((t) => (t === '' ? Number.NaN : distinct.indexOf(t))));
      }),
    );
  });
  it('of many texts that begin alike are told apart at their ends', () => {
    const texts = Array.from(
      { length: 3000 },
      (_, i) => `garden things of every sort, number ${String((i * 7919) % 3000).padStart(4, '0')}`,
    );
    expect([...rankTexts(columnOf(texts))]).toEqual(texts.map((_, i) => (i * 7919) % 3000));
  });
});

describe('folded text', () => {
  it.each([
    ['Größe', 'grosse'.replace('ss', 'ß')],
    ['Café CRÈME', 'cafe creme'],
    ['plain text 12', 'plain text 12'],
    ['ŻÓŁĆ', 'zołc'],
    ['كتاب', 'كتاب'],
  ])('%s', (text, folded) => expect(foldText(text)).toBe(folded));
});
