import { describe, expect, it } from 'vitest';
import { languageOf } from './names.ts';

describe('the language of a country', () => {
  it('is what most people there read, in the reader’s words', () => {
    expect([languageOf('PT', 'en'), languageOf('JP', 'en'), languageOf('BR', 'de')]).toEqual([
      'Portuguese',
      'Japanese',
      'Portugiesisch',
    ]);
  });
  it('of no country, or one whose language the tables cannot name, is none', () => {
    expect([languageOf('', 'en'), languageOf('xx', 'en'), languageOf('ZZ', 'en')]).toEqual([
      null,
      null,
      null,
    ]);
    for (const country of ['BT', 'AQ', 'CH', 'VA'])
      expect(languageOf(country, 'en')).not.toMatch(/^[a-z]{2,3}$/);
  });
});
