import type { z } from 'zod';

/** What is wrong with a document, where, and what to do. */
export type Issue = { readonly path: string; readonly problem: string; readonly remedy: string };

const KINDS: Readonly<Record<string, string>> = {
  string: 'text',
  number: 'a number',
  boolean: 'true or false',
  object: 'a group of fields',
  array: 'a list',
  int: 'a whole number',
  tuple: 'a list',
  record: 'a group of fields',
};

/** The issues of a failed validation in plain words; what concerns the kind and version of the document comes first. */
export function issuesOf(error: z.ZodError): Issue[] {
  const rank = (i: z.core.$ZodIssue): number =>
    i.path[0] === 'format' ? 0 : i.path[0] === 'version' ? 1 : 2;
  return [...error.issues]
    .sort((a, b) => rank(a) - rank(b))
    .map((i) => ({ path: i.path.join('.') || '(document)', problem: problemOf(i), remedy: remedyOf(i) }));
}

/** The first issue in one sentence: where, what, and what to do. */
export function sayIssue(error: z.ZodError): string {
  const [issue] = issuesOf(error);
  return issue === undefined ? '' : `${issue.path}: ${issue.problem}. ${issue.remedy}`;
}

function problemOf(i: z.core.$ZodIssue): string {
  if (i.code === 'invalid_type')
    return /received undefined$/.test(i.message)
      ? 'This is missing'
      : `This is not ${KINDS[i.expected] ?? i.expected}`;
  if (i.code === 'invalid_union' && /^Invalid/.test(i.message)) return 'This is none of what may stand here';
  if (i.code === 'invalid_value')
    return i.path[0] === 'version'
      ? 'The version is missing, or that of another version of the program'
      : 'This value is not known here';
  if (i.code === 'unrecognized_keys')
    return `There is no field ${i.keys.map((k) => `"${k}"`).join(', ')} here`;
  if (i.code === 'too_small') return `This is under ${i.minimum}`;
  if (i.code === 'too_big') return `This is over ${i.maximum}`;
  return i.message;
}

function remedyOf(i: z.core.$ZodIssue): string {
  switch (i.code) {
    case 'invalid_type':
      return `Give ${KINDS[i.expected] ?? i.expected}.`;
    case 'unrecognized_keys':
      return 'Remove it, or check the spelling.';
    case 'invalid_value':
      return `Use one of: ${i.values.map(String).join(', ')}.`;
    case 'too_small':
      return `Use at least ${i.minimum}.`;
    case 'too_big':
      return `Use at most ${i.maximum}.`;
    default:
      return 'See docs/formats.md for what may stand here.';
  }
}
