import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEFAULT_LOOK, LIST_FLAGS, listLook, listQuery, queryIn, searchOf } from './query.ts';
import { LIST_FIGURES } from './figures.ts';
import type { ListFilter } from './query.ts';

const word = fc.constantFrom('pot', 'cold frame', 'Größe', '50:50', 'a&b=c');
const level = fc.option(fc.integer({ min: -500, max: 500 }).map((x) => x / 4));
const filter: fc.Arbitrary<ListFilter> = fc.oneof(
  fc.record({
    kind: fc.constant('range' as const),
    figure: fc.constantFrom(...LIST_FIGURES),
    min: level,
    max: level,
    keepUnknown: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('words' as const),
    mode: fc.constantFrom('in' as const, 'out' as const),
    words: fc.array(word, { maxLength: 4 }),
  }),
  fc.record({
    kind: fc.constant('oneOf' as const),
    of: fc.constantFrom('brand' as const, 'category' as const),
    values: fc.array(fc.constantFrom('Larkmoor', 'a, b', 'x:y', ''), { maxLength: 3 }),
    not: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('verdict' as const),
    only: fc.uniqueArray(fc.constantFrom('pass' as const, 'near' as const, 'fail' as const), {
      minLength: 1,
    }),
  }),
  fc.record({ kind: fc.constant('flag' as const), flag: fc.constantFrom(...LIST_FLAGS), is: fc.boolean() }),
);

describe('a query in an address', () => {
  it('reads back as it was, filters in their order', () => {
    fc.assert(
      fc.property(
        fc.record({
          text: fc.constantFrom('', 'plant pot', '12:3'),
          filters: fc.array(filter, { maxLength: 6 }),
          sort: fc.array(
            fc.record({
              by: fc.constantFrom(...LIST_FIGURES, 'title' as const, 'line' as const),
              down: fc.boolean(),
            }),
            { maxLength: 3 },
          ),
        }),
        (q) => {
          expect(queryIn(new URLSearchParams(searchOf(q).toString()))).toEqual(q);
          expect(listQuery.safeParse(q).success).toBe(true);
        },
      ),
    );
  });
  it('leaves out what is not understood', () => {
    expect(
      queryIn(
        new URLSearchParams(
          'limit=nonsense:1:2&limit=roi:x:0.3&words=on:a&brand=is:[&flag=gone:yes&verdict=fine&sort=-up,roi',
        ),
      ),
    ).toEqual({
      text: '',
      filters: [{ kind: 'range', figure: 'roi', min: null, max: 0.3, keepUnknown: false }],
      sort: [{ by: 'roi', down: false }],
    });
  });
  it('the ready-made look is a valid one', () => expect(listLook.parse(DEFAULT_LOOK)).toEqual(DEFAULT_LOOK));
});
