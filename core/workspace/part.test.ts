import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { fieldsOf, partOf } from './part.ts';

const whole = z.strictObject({
  cash: z.number().min(0).nullable().default(null),
  most: z.number().int().max(9).default(3),
  names: z.array(z.string()).default([]),
});
const part = partOf(whole);

describe('some fields of a document', () => {
  it('come through as they are, and what is left out gets no default', () => {
    expect(part.parse({})).toEqual({});
    expect(part.parse({ cash: 5 })).toEqual({ cash: 5 });
    expect(part.parse({ cash: null, names: ['a'] })).toEqual({ cash: null, names: ['a'] });
  });
  it.each([
    ['a value the whole would refuse', { cash: -1 }, 'cash'],
    ['a number that is not whole', { most: 2.5 }, 'most'],
    ['a wrong one beside a right one', { cash: 5, most: 10 }, 'most'],
    ['a wrong name within a list', { names: ['a', 1] }, 'names'],
  ])('%s is refused with its place', (_, sent, field) => {
    const read = part.safeParse(sent);
    expect(read.success).toBe(false);
    expect(read.error?.issues[0]?.path[0]).toBe(field);
  });
  it.each([null, 7, 'cash', [1]])('%j is no part of a document', (sent) => {
    expect(part.safeParse(sent).success).toBe(false);
  });
  it('a field that there is not is refused', () => {
    expect(part.safeParse({ cash: 1, gold: 2 }).success).toBe(false);
  });
  it('are taken out of a larger one', () => {
    expect(fieldsOf(whole, { cash: 1, gold: 2, names: [] })).toEqual({ cash: 1, names: [] });
    expect(fieldsOf(whole, {})).toEqual({});
  });
});
