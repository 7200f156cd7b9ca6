import { describe, expect, it } from 'vitest';
import { CARD_FIELDS, cardFields } from '../workspace/compose.ts';
import { CARD_FORMS } from './forms.ts';
import { CARD_KINDS, cardDocument, cardSchema, idsOf, isCardKind, usualCards } from './schema.ts';
import type { CardKind } from './schema.ts';
import { blankCells, sheetsOf } from './tables.ts';

const card = (kind: CardKind, key: string, id = `${kind} ${key}`) => ({ kind, key, id });
const IN_FORCE = [
  card('marketplace', 'Alderway/DE'),
  card('tax', 'DE'),
  card('tax', 'FR'),
  card('exchange', 'exchange'),
  card('freight', 'Sea to the north'),
  card('postage', 'Parcels'),
  card('benchmark', 'EUR'),
  card('benchmark', 'GBP'),
];

describe('the registry of card kinds', () => {
  it('knows its kinds and no others', () => {
    for (const kind of CARD_KINDS) expect(isCardKind(kind)).toBe(true);
    for (const other of ['weather', 'constructor', '__proto__', '', 7, null, undefined])
      expect(isCardKind(other)).toBe(false);
  });
  it('gives every kind a schema, sheets, a field of a lane and a document of its own', () => {
    for (const kind of CARD_KINDS) {
      expect(cardSchema(kind).safeParse({}).success, kind).toBe(false);
      expect(CARD_FORMS[kind].fields.length, kind).toBeGreaterThan(2);
      expect(CARD_FIELDS[kind], kind).toMatch(/CardId$/);
      const said = cardDocument.safeParse({ format: 'bold-margin/rate-card', version: 1, kind, data: {} });
      expect(said.success ? [] : said.error.issues.every((i) => i.path[0] === 'data'), kind).toBe(true);
    }
  });
  it('a card made from nothing has its sheets, its day, and the rows it cannot do without', () => {
    for (const kind of CARD_KINDS) {
      const cells = blankCells(kind, '2026-12-01', { name: 'Mine' });
      expect(Object.keys(cells).sort()).toEqual(
        sheetsOf(kind)
          .map((s) => s.key)
          .sort(),
      );
      expect(cells.card?.find((r) => r[0] === (kind === 'exchange' ? 'date' : 'inForceFrom'))?.[1]).toBe(
        '2026-12-01',
      );
      for (const [sheet, rows] of Object.entries(CARD_FORMS[kind].first ?? {}))
        expect(cells[sheet], `${kind} ${sheet}`).toEqual(rows);
    }
    expect(blankCells('tax', '2026-12-01', { name: 'Mine' }).card).toContainEqual(['name', 'Mine']);
  });
});

describe('cards that a lane takes unasked', () => {
  it('are those of its country and of the home currency, and the exchange rates', () => {
    const usual = usualCards(IN_FORCE, { country: 'FR', homeCurrency: 'GBP' });
    expect(idsOf(usual)).toEqual({
      tax: 'tax FR',
      exchange: 'exchange exchange',
      benchmark: 'benchmark GBP',
    });
  });
  it('are none where none fits: a marketplace, a route and postage are always chosen', () => {
    const usual = usualCards(IN_FORCE, { country: 'US', homeCurrency: 'JPY' });
    expect(Object.keys(usual)).toEqual(['exchange']);
    expect(usualCards([], { country: 'DE', homeCurrency: 'EUR' })).toEqual({});
  });
  it('the first of several stands', () => {
    const two = [card('tax', 'DE', 'first'), card('tax', 'DE', 'second')];
    expect(usualCards(two, { country: 'DE', homeCurrency: 'EUR' }).tax?.id).toBe('first');
  });
  it('fill the fields of a lane; what is not named is none', () => {
    expect(cardFields({ tax: 't', freight: null })).toEqual({
      marketplaceCardId: null,
      taxCardId: 't',
      exchangeCardId: null,
      freightCardId: null,
      postageCardId: null,
      benchmarkCardId: null,
    });
  });
});
