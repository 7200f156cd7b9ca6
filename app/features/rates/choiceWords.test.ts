import i18next from 'i18next';
import { describe, expect, it } from 'vitest';
import type { Column } from '../../../core/cards/cells.ts';
import { CARD_FORMS } from '../../../core/cards/forms.ts';
import { CARD_KINDS } from '../../../core/cards/schema.ts';
import { addWords } from '../../i18n.ts';
import { cardWords } from '../../locales/en.cards.ts';
import { choiceWord, namedChoices, shownCell } from './choiceWords.ts';

addWords(cardWords);
const { t } = i18next;
const bears: Column = { key: 'feeVatBears', kind: 'choices', choices: ['referral', 'itemFee', 'storage'] };
const rates: Column = { key: 'importVatRates', kind: 'choice', choices: ['asVat', 'own'] };
const columns = CARD_KINDS.flatMap((kind) => {
  const form = CARD_FORMS[kind];
  return [...form.fields, ...form.sheets.flatMap((s) => s.columns)];
}).filter((c) => (c.choices?.length ?? 0) > 0);

describe('choices of a card in words', () => {
  it('every choice of every kind of card has words, no two of a column the same', () => {
    expect(columns.length).toBeGreaterThan(10);
    for (const c of columns) {
      const words = c.choices?.map((x) => choiceWord(t, c, x)) ?? [];
      expect(new Set(words).size).toBe(words.length);
      for (const w of words) expect(w).not.toMatch(/[a-z][A-Z]/);
    }
  });
  it('what is shown reads back as the names that the format has', () => {
    for (const c of columns) {
      const text = c.kind === 'choices' ? c.choices?.slice(0, 3).join(' ') : c.choices?.[0];
      expect(namedChoices(t, c, shownCell(t, c, text ?? ''))).toBe(text);
    }
  });
  it('words, names and a mixture of both are taken; a lone choice of several too', () => {
    expect(shownCell(t, bears, 'referral itemFee')).toBe('referral, item fee');
    expect(namedChoices(t, bears, 'Item fee, storage')).toBe('itemFee storage');
    expect(namedChoices(t, bears, 'itemFee storage')).toBe('itemFee storage');
    expect(namedChoices(t, bears, 'Item fee')).toBe('itemFee');
    expect(namedChoices(t, rates, 'The VAT rates')).toBe('asVat');
    expect(namedChoices(t, rates, 'asvat')).toBe('asVat');
  });
  it('what is no choice stays as it was typed, so that its fault can be said', () => {
    expect(namedChoices(t, rates, 'mine')).toBe('mine');
    expect(shownCell(t, rates, 'mine')).toBe('mine');
    expect(shownCell(t, bears, 'referral mine')).toBe('referral mine');
    expect(namedChoices(t, { key: 'name', kind: 'text' }, 'Own')).toBe('Own');
  });
});
