import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { faultOf, firstIssue, issuesOf } from './issues.ts';

const issue = (schema: z.ZodType, given: unknown) => {
  const parsed = schema.safeParse(given);
  if (parsed.success) throw new Error('it was taken');
  return firstIssue(parsed.error);
};

describe('what a schema says, as faults', () => {
  it.each([
    ['a field that is missing', z.object({ a: z.string() }), {}, 'a', 'fieldMissing', { kind: 'string' }],
    ['a field of another kind', z.object({ a: z.number() }), { a: 'x' }, 'a', 'notKind', { kind: 'number' }],
    ['a list of something else', z.array(z.int()), [1, 2.5], '1', 'notKind', { kind: 'int' }],
    ['none of several shapes', z.union([z.string(), z.number()]), true, '(document)', 'noneOfThese', {}],
    [
      'no value of a few',
      z.object({ a: z.enum(['x', 'y']) }),
      { a: 'z' },
      'a',
      'notKnown',
      { values: 'x, y' },
    ],
    [
      'another version',
      z.object({ version: z.literal(1) }),
      { version: 2 },
      'version',
      'otherVersion',
      { values: '1' },
    ],
    [
      'fields that are none',
      z.strictObject({ a: z.string() }),
      { a: '', b: 1, c: 2 },
      '(document)',
      'unknownFields',
      { fields: '"b", "c"' },
    ],
    ['less than the least', z.number().min(3), 1, '(document)', 'under', { minimum: 3 }],
    ['more than the most', z.string().max(2), 'xxx', '(document)', 'over', { maximum: 2 }],
    ['a rule of ours', z.string().min(1, 'cardNoName'), '', '(document)', 'cardNoName', {}],
    [
      'a rule of ours over several fields',
      z.object({ a: z.number() }).refine(() => false, 'zonesAddUp'),
      { a: 1 },
      '(document)',
      'zonesAddUp',
      {},
    ],
  ] as const)('%s', (_, schema, given, path, code, detail) => {
    expect(issue(schema, given)).toEqual({ path, code, detail });
  });
  it('what the library alone has words for is told in them, and never taken for a code of ours', () => {
    const said = issue(z.string().regex(/^a/), 'b');
    expect(said.code).toBe('cannotStand');
    expect(said.detail.said).toMatch(/ /);
  });
  it('kind and version of a document come first', () => {
    const schema = z.object({ a: z.number(), version: z.literal(1), format: z.literal('x') });
    const parsed = schema.safeParse({ a: 'no' });
    expect(parsed.success ? [] : issuesOf(parsed.error).map((i) => i.path)).toEqual([
      'format',
      'version',
      'a',
    ]);
  });
  it('every issue of a document is told, each by itself', () => {
    const parsed = z.object({ a: z.number(), b: z.string().max(1) }).safeParse({ a: null, b: 'xx' });
    expect(parsed.success ? [] : parsed.error.issues.map(faultOf).map((f) => f.code)).toEqual([
      'notKind',
      'over',
    ]);
  });
});
