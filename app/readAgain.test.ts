import { describe, expect, it } from 'vitest';
import { readAgainFor } from './readAgain.ts';

const turn = (from: string, to: string, more: { formMethod?: string; usual?: boolean } = {}) => ({
  currentUrl: new URL(from, 'http://here'),
  nextUrl: new URL(to, 'http://here'),
  defaultShouldRevalidate: more.usual ?? true,
  ...(more.formMethod === undefined ? {} : { formMethod: more.formMethod }),
});

describe('whether a page is read again', () => {
  const isRead = readAgainFor('market', 'lane');
  it('a pane that opens asks for nothing', () => {
    expect(isRead(turn('/w/a/m?market=x', '/w/a/m?market=x&open=terms'))).toBe(false);
  });
  it('another part that it hangs on is read, one that goes too', () => {
    expect(isRead(turn('/w/a/m?market=x', '/w/a/m?market=y&open=terms'))).toBe(true);
    expect(isRead(turn('/w/a/m?market=x&lane=1', '/w/a/m?market=x'))).toBe(true);
  });
  it('another page, the same address and a form that was sent go as usual', () => {
    for (const usual of [true, false]) {
      expect(isRead(turn('/w/a/m?open=x', '/w/a/n?open=y', { usual }))).toBe(usual);
      expect(isRead(turn('/w/a/m?open=x', '/w/a/m?open=x', { usual }))).toBe(usual);
      expect(isRead(turn('/w/a/m?open=x', '/w/a/m?open=y', { usual, formMethod: 'POST' }))).toBe(usual);
    }
  });
});
