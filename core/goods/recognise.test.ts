import { describe, expect, it } from 'vitest';
import { isGtin } from './gtin.ts';
import { alsoCouldBe, codeInAddress, recognise } from './recognise.ts';
import { codesSeen, upcAOf } from './seen.ts';

describe('what was typed to name goods', () => {
  it.each([
    ['', 'nothing'],
    ['   ', 'nothing'],
    ['9521000000001', 'barcode'],
    [' 9 521000 000001 ', 'barcode'],
    ['9521000000005', 'notABarcode'],
    ['95210000', 'notABarcode'],
    ['Q7-LK20', 'code'],
    ['cork mat', 'words'],
    ['cork', 'words'],
    ['3 cork mats', 'words'],
  ])('%j is %s', (text, kind) => expect(recognise(text).kind).toBe(kind));
  it('a slip of one digit is said, not searched for', () =>
    expect(recognise('9521000000005')).toEqual({ kind: 'notABarcode', trouble: 'wrongCheckDigit' }));
  it('what goes on for ever is cut', () => {
    const r = recognise('mat '.repeat(5000));
    expect(r.kind === 'words' && r.words.length).toBeLessThanOrEqual(200);
  });
});

describe('a page of a listing', () => {
  const SHOP = 'https://shop.example/item/{code}';
  it.each([
    [SHOP, 'https://shop.example/item/L1', 'L1'],
    [SHOP, 'http://www.shop.example/item/L1?from=mail#top', 'L1'],
    [SHOP, 'shop.example/item/L1/', 'L1'],
    [SHOP, 'https://shop.example/item/gr%C3%BCn', 'grün'],
    [SHOP, 'https://shop.example/item/%E0%A4%A', '%E0%A4%A'],
    [SHOP, 'https://shop.example/item/', null],
    [SHOP, 'https://shop.example/other/L1', null],
    [SHOP, 'https://shop.example.evil/item/L1', null],
    ['https://shop.example/show?item={code}', 'https://shop.example/show?item=L1&ref=2', 'L1'],
    ['https://shop.example/{code}/about', 'https://shop.example/L1/about', 'L1'],
    ['https://shop.example/{code}/about', 'https://shop.example/L1/offers', null],
    ['', 'https://shop.example/item/L1', null],
    [SHOP, 'not an address', null],
  ])('by %s, %s is %s', (pattern, address, code) => expect(codeInAddress(pattern, address)).toBe(code));
  const markets = [
    { market: 'Other/FR', address: '' },
    { market: 'Shop/DE', address: SHOP },
  ];
  it('is of the market whose card has its pattern; of none it is strange', () => {
    expect(recognise('https://shop.example/item/L1', markets)).toEqual({
      kind: 'page',
      market: 'Shop/DE',
      code: 'L1',
    });
    expect(recognise('https://elsewhere.example/item/L1', markets)).toEqual({
      kind: 'strangePage',
      host: 'elsewhere.example',
    });
    // Words with a point in them are no address.
    expect(recognise('No.5 candle', markets).kind).toBe('words');
    expect(recognise('v2.5', markets).kind).toBe('code');
  });
  it('rows are rows, however they are parted', () => {
    expect(recognise('Cork mat\t12\t4')).toEqual({ kind: 'rows', rows: 1 });
    expect(recognise('Cork mat;12\n\nBell;4\r\n')).toEqual({ kind: 'rows', rows: 2 });
  });
  it('what could be two things says so', () => {
    expect(alsoCouldBe(recognise('9521000000001'))).toEqual([{ kind: 'code', code: '9521000000001' }]);
    expect(alsoCouldBe(recognise('Q7-LK20'))).toEqual([{ kind: 'words', words: 'Q7-LK20' }]);
    expect(alsoCouldBe(recognise('cork mat'))).toEqual([]);
  });
});

describe('what a camera sees', () => {
  it('a short code is the long one it stands for', () => {
    // GS1 General Specifications, section 5.2.2: one of each kind.
    expect(upcAOf('01234565')).toBe('012345000065');
    for (const e of ['01234505', '01234531', '01234543', '01234558'].map((s) => upcAOf(s)))
      expect(isGtin(e)).toBe(true);
    expect(upcAOf('01234505').slice(0, 11)).toBe('01200000345');
    expect(upcAOf('01234531').slice(0, 11)).toBe('01230000045');
    expect(upcAOf('01234543').slice(0, 11)).toBe('01234000005');
  });
  it('one product seen twice is one, two are two', () => {
    const ean = { format: 'ean_13', text: '9521000000001' };
    expect(codesSeen([ean, ean])).toEqual({ goods: ['9521000000001'], other: null });
    expect(codesSeen([ean, { format: 'ean_13', text: '9521000000018' }]).goods).toHaveLength(2);
  });
  it('a code of another kind is named; beside goods it is not in the way', () => {
    expect(codesSeen([{ format: 'qr_code', text: 'https://example.org' }])).toEqual({
      goods: [],
      other: 'qr_code',
    });
    const both = codesSeen([
      { format: 'qr_code', text: '9521000000001' },
      { format: 'ean_13', text: '9521000000001' },
    ]);
    expect(both).toEqual({ goods: ['9521000000001'], other: 'qr_code' });
  });
  it('a carton by its fourteen digits counts, other digits in a general code do not', () => {
    expect(codesSeen([{ format: 'itf', text: '19521000000008' }]).goods).toEqual(['19521000000008']);
    expect(codesSeen([{ format: 'code_128', text: '9521000000001' }]).goods).toEqual([]);
    expect(codesSeen([{ format: 'ean_13', text: '9521000000005' }])).toEqual({ goods: [], other: 'ean_13' });
  });
});
