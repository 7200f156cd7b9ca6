import { describe, expect, it } from 'vitest';
import { classes } from './classes.ts';
import { hurdleAmount, hurdleKind } from './figures.ts';
import { inSentence } from './inSentence.ts';

describe('labels within a sentence', () => {
  it('begin small, unless an abbreviation leads', () => {
    expect(['Output VAT', 'VAT not recovered', 'ROI', 'Éco fee', 'fees', ''].map(inSentence)).toEqual([
      'output VAT',
      'VAT not recovered',
      'ROI',
      'éco fee',
      'fees',
      '',
    ]);
  });
});

describe('class names', () => {
  it('are those that apply', () => {
    expect(classes('row', false, 'opened', '')).toBe('row opened');
    expect(classes(false)).toBe('');
  });
});

describe('the level of a hurdle', () => {
  it('is typed and shown in the unit of its figure', () => {
    expect(['margin', 'unitProfit', 'coverMonths'].map(hurdleKind)).toEqual(['percent', 'money', 'number']);
    const f = {
      percent: (x: number) => `${x * 100} %`,
      money: (x: number, c: string) => `${c} ${x}`,
      number: (x: number) => String(x),
    } as never;
    expect(hurdleAmount(0.25, 'margin', 'EUR', f)).toBe('25 %');
    expect(hurdleAmount(3, 'unitProfit', 'EUR', f)).toBe('EUR 3');
    expect(hurdleAmount(3, 'coverMonths', 'EUR', f)).toBe('3');
  });
});
