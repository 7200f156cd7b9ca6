import fc from 'fast-check';
import { expect, it } from 'vitest';
import { circleBy } from './bundles.ts';

it('names the way that a circular bundle would take', () => {
  const makeup = new Map([
    ['set', ['pan', 'box']],
    ['box', ['lid']],
  ]);
  expect(circleBy(makeup, 'lid', 'set')).toEqual(['set', 'box', 'lid']);
  expect(circleBy(makeup, 'set', 'set')).toEqual(['set']);
  expect(circleBy(makeup, 'set', 'lid')).toBeNull();
  expect(circleBy(makeup, 'pan', 'box')).toBeNull();
});

it('a makeup that is only ever added to where no circle is said never has one', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(9), fc.nat(9)), { maxLength: 60 }), (asked) => {
      const makeup = new Map<string, string[]>();
      for (const [whole, part] of asked)
        if (circleBy(makeup, `${whole}`, `${part}`) === null)
          makeup.set(`${whole}`, [...(makeup.get(`${whole}`) ?? []), `${part}`]);
      // Sorted by taking away what is made of nothing that is left, everything goes.
      const left = new Set([...makeup.keys()]);
      for (let again = true; again; ) {
        again = false;
        for (const x of left)
          if ((makeup.get(x) ?? []).every((p) => !left.has(p))) again = left.delete(x) || again;
      }
      expect(left.size).toBe(0);
    }),
  );
});
