import { describe, expect, it } from 'vitest';
import { mail } from '../core/mail/schema.ts';
import type { Notice } from '../core/workspace/notices.ts';
import { noticeLetter } from './noticeLetter.ts';

const base = 'https://margin.example/w/shop';
const notice = (over: Partial<Notice>): Notice => ({
  id: 'n',
  kind: 'listRead',
  data: { list: 'November', count: 1, invalid: 0 },
  link: '/lists/a',
  at: new Date('2026-11-30T12:00:00Z'),
  ...over,
});
const letter = (notices: Notice[], more = 0, locale = 'en-GB') => {
  const made = noticeLetter({ workspace: 'Shop', base, locale, notices, more });
  return mail.parse({ to: 'ada@shop.example', ...made });
};

describe('notices as a mail tells them', () => {
  it('a line for each and where it is looked at, figures as the reader’s locale writes them', () => {
    const fell = { candidate: 'Bird bath', card: 'Alderway/DE', figure: 'unitProfit', currency: 'EUR' };
    const { subject, text } = letter(
      [
        notice({ data: { list: 'November', count: 3, invalid: 0 } }),
        notice({ kind: 'underHurdle', data: { ...fell, before: 3.5, after: -1.25 }, link: '/weigh/b' }),
        notice({
          kind: 'underBreakEven',
          data: { candidate: 'Bird bath', market: 'Alderway/DE', price: 9, breakEven: 9.5, currency: 'EUR' },
        }),
      ],
      0,
      'de-DE',
    );
    expect(subject).toBe('3 notices of Shop');
    const [read, under, breakEven, why] = text.split('\n\n');
    expect(read).toBe(`"November" is read: 3 rows, 0 to mend.\n${base}/lists/a`);
    expect(under).toMatch(/^Bird bath falls under your hurdle .*: 3,50\s€ became −1,25\s€\.\n.*\/weigh\/b$/);
    expect(breakEven).toMatch(/the price fell to 9,00\s€, under your break-even of 9,50\s€\./);
    expect(why).toBe(
      `You have these by mail because you chose so in Shop. Choose others, or none:\n${base}/settings#notices`,
    );
  });
  it('one alone is its own subject, in one line however long', () => {
    expect(letter([notice({})]).subject).toBe('Shop: "November" is read: 1 row, 0 to mend.');
    const long = letter([notice({ data: { list: `a\nb${'x'.repeat(400)}`, count: 1, invalid: 0 } })]);
    expect(long.subject).toMatch(/^Shop: "a b/);
    expect(long.subject.length).toBe(200);
  });
  it('says how many more there are', () => {
    expect(letter([notice({})], 1).text).toContain('One more stands in the application.');
    const many = letter([notice({})], 10);
    expect([many.subject, many.text.includes('10 more stand in the application.')]).toEqual([
      '11 notices of Shop',
      true,
    ]);
  });
});
