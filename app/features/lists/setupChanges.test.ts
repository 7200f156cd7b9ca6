import { describe, expect, it } from 'vitest';
import { listMap } from '../../../core/lists/map.ts';
import { listSettings } from '../../../core/lists/settings.ts';
import { demoScreen, TIDY_HEADER, TIDY_MAP } from '../../../demo/lists.ts';
import {
  assigned,
  bought,
  guessed,
  headings,
  mapLike,
  pricedLike,
  soldOn,
  supplierNamed,
} from './setupChanges.ts';

const MAP = listMap.parse(TIDY_MAP);
const { homeCurrency: _h, date: _d, standing: _s, ...assumptions } = demoScreen().assumptions;
const OWN = listSettings.parse({ country: 'DE', marketplaceCardId: 'm', assumptions });

describe('columns of a list', () => {
  it('are guessed from the first rows of the sheet that is turned to', () => {
    const map = guessed([
      ['A list of ours'],
      [' EAN ', 'Titel', 'EK netto'],
      ['9520000000014', 'Topf', '3,20'],
    ]);
    expect(map.columns).toMatchObject({ identifier: 'EAN', cost: 'EK netto' });
    expect(guessed([]).columns).toEqual({});
    expect([headings([' a ', 'b']), headings(undefined)]).toEqual([['a', 'b'], []]);
  });
  it('say one thing each: what one said before is asked for again', () => {
    const map = assigned({ ...MAP, extras: ['Shelf price'] }, 'units', 'Shelf price');
    expect(map.columns.units).toBe('Shelf price');
    expect(map.columns.price).toBeUndefined();
    expect(map.extras).toEqual([]);
    expect(assigned(MAP, 'price', '').columns.price).toBeUndefined();
    // What was given stays as it was.
    expect(MAP.columns.price).toBe('Shelf price');
  });
});

describe('a supplier who is known', () => {
  const known = { name: 'Pentlow Wholesale', map: MAP, currency: 'GBP' };
  it('is found by name, whatever its case', () => {
    expect(supplierNamed([known], ' pentlow wholesale ')).toBe(known);
    expect(supplierNamed([known], 'Pentlow')).toBeUndefined();
  });
  it('has its columns read as before where this file has them', () => {
    const guess = guessed([['Barcode', 'Net price']]);
    expect(mapLike(guess, known, TIDY_HEADER)).toBe(MAP);
    expect(mapLike(guess, known, ['Barcode', 'Net price'])).toBe(guess);
    expect(mapLike(guess, { ...known, map: null }, TIDY_HEADER)).toBe(guess);
  });
  it('is priced in its currency, where that is known', () => {
    expect(pricedLike(OWN, known).assumptions.purchase.currency).toBe('GBP');
    expect(pricedLike(OWN, { ...known, currency: null })).toBe(OWN);
    const other = bought(OWN, { discount: 0.1 }).assumptions.purchase;
    expect([other.discount, other.currency]).toEqual([0.1, OWN.assumptions.purchase.currency]);
  });
});

describe('another marketplace', () => {
  const market = { id: 'n', country: 'FR', hasWarehouse: true, categories: [{ key: 'garden' }] };
  const own = (over: object) => ({ ...OWN, assumptions: { ...OWN.assumptions, ...over } });
  it('brings its country; a category stays where it has it', () => {
    expect(soldOn(own({ category: 'garden' }), market)).toMatchObject({
      marketplaceCardId: 'n',
      country: 'FR',
      assumptions: { category: 'garden' },
    });
    expect(soldOn(own({ category: 'books' }), market).assumptions.category).toBeNull();
    expect(soldOn(own({ category: null }), market).assumptions.category).toBeNull();
  });
  it('without a warehouse is dispatched to by oneself', () => {
    const from = own({ method: 'warehouse' });
    expect(soldOn(from, market).assumptions.method).toBe('warehouse');
    expect(soldOn(from, { ...market, hasWarehouse: false }).assumptions.method).toBe('ownDispatch');
  });
});
