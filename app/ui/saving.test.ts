import { describe, expect, it } from 'vitest';
import { answerTo } from './saving.ts';

const of = (status: number, type: ResponseType = 'basic') =>
  answerTo({ ok: status >= 200 && status < 300, status, type });

describe('an answer to a background save', () => {
  it('is tried again only where the server did not answer or was not able to', () => {
    expect([null, 500, 502, 503, 408, 429].map((s) => (s === null ? answerTo(null) : of(s)))).toEqual(
      Array(6).fill('offline'),
    );
    for (const status of [400, 401, 403, 404, 405, 409, 413, 415, 422])
      expect(of(status), String(status)).not.toBe('offline');
  });
  it('is told for what it is', () => {
    expect([200, 401, 403, 404, 409, 413, 422, 400].map((s) => of(s))).toEqual([
      'saved',
      'signedOut',
      'notAllowed',
      'gone',
      'conflict',
      'tooLarge',
      'invalid',
      'refused',
    ]);
    expect(of(0, 'opaqueredirect')).toBe('signedOut');
  });
});
