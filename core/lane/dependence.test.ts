/** What depends on what: cases in which a line has no answer, is blank, or needs nothing of what is missing. */
import { describe, expect, it } from 'vitest';
import { FILL } from '../testing/fill.ts';
import { randomLane } from '../testing/lanes.ts';
import { FIGURES } from './figures.ts';
import type { Blank } from './blanks.ts';
import type { Figure } from './figures.ts';
import { evaluate } from './evaluate.ts';
import { laneDocument } from './schema.ts';
import type { LaneDocument } from './schema.ts';
import { highestPurchaseCost, priceFor } from './solve.ts';
import { cases, enough } from '../testing/seed.ts';

const quote = { kind: 'quote', currency: 'EUR', incoterm: 'FOB', priceBreaks: [{ minQty: 0, unitPrice: 5 }] };
const tax = {
  name: 'T',
  inForceFrom: '2026-01-01',
  country: 'DE',
  currency: 'EUR',
  regime: 'exclusive',
  vatRates: { standard: 0 },
  customsBasis: 'CIF',
  importVatBase: 'cif',
  duties: [{ heading: '', pct: 0.1 }],
};
const product = { sides: [20, 10, 10], kg: 0.5, hsCode: '4421', origin: 'CN' };
/**
 * An order of 100 at 5.00 FOB, sold at 30.00, duty 10 %, all else none. `over` adds to it, `taxOver` and
 * `quoteOver` to card and quote.
 */
const lane = (over: object, taxOver: object = {}, quoteOver: object = {}): LaneDocument =>
  laneDocument.parse({
    format: 'bold-margin/lane',
    version: 1,
    date: '2026-11-24',
    homeCurrency: 'EUR',
    country: 'DE',
    currency: 'EUR',
    price: 30,
    standing: { kind: 'notRegistered' },
    orderQuantity: 100,
    goods: [{ source: { ...quote, ...quoteOver } }],
    route: 'none',
    prep: 'none',
    method: 'ownDispatch',
    dispatch: 'none',
    storage: 'none',
    referralApplies: false,
    returns: 'none',
    adverts: 'none',
    demand: { kind: 'typed', units: 50 },
    product,
    rates: { tax: { ...tax, ...taxOver } },
    ...over,
  });
const marked = (doc: LaneDocument, figure: Figure): readonly Blank[] =>
  evaluate(doc).incomplete[figure] ?? [];

describe('customs', () => {
  it('freight inside the price leaves an FOB customs value under C and D rules alone', () => {
    const figures = (incoterm: string) =>
      evaluate(lane({ imported: true }, { customsBasis: 'FOB' }, { incoterm, freightInPrice: 1 })).figures
        .customsValue;
    expect(['EXW', 'FCA', 'FAS', 'FOB'].map(figures)).toEqual([5, 5, 5, 5]);
    expect(['CFR', 'CPT', 'CIF', 'CIP', 'DAP', 'DPU'].map(figures)).toEqual([4, 4, 4, 4, 4, 4]);
    expect(
      evaluate(lane({ imported: true }, { customsBasis: 'FOB' }, { freightInPrice: 1 })).lines.duty,
    ).toBeCloseTo(0.5, 12);
  });
  const reduced = { imported: true, product: { ...product, taxClass: 'reduced' } };
  it('import VAT is at the VAT rate of the class where the card has no import rate of its own for it', () => {
    const got = evaluate(
      lane(reduced, {
        regime: 'inclusive',
        vatRates: { standard: 0.2, reduced: 0.07 },
        importVatRates: { standard: 0.1 },
      }),
    );
    expect(got.figures.importVat).toBeCloseTo(0.385, 12);
    expect(got.blanks).toEqual([]);
  });
  it(
    'a blank import VAT is a cost where VAT is one, cash where it is recovered, and neither where it ' +
      'is postponed too',
    () => {
      const without = { regime: 'inclusive', vatRates: { standard: 0.2 } };
      const as = (over: object) => lane({ ...reduced, typed: { vatRate: 0.2 }, ...over }, without);
      expect(
        (
          ['unitProfit', 'landedCost', 'roi', 'markup', 'landedCash', 'recoverableVat', 'importVat'] as const
        ).map((f) => marked(as({ standing: { kind: 'registered' } }), f).join()),
      ).toEqual(['', '', '', '', 'importVat', 'importVat', 'importVat']);
      expect(
        (['unitProfit', 'landedCost', 'landedCash', 'importVat'] as const).map((f) =>
          marked(as({ standing: { kind: 'notRegistered' } }), f).join(),
        ),
      ).toEqual(['importVat', 'importVat', 'importVat', 'importVat']);
      expect(
        (['unitProfit', 'landedCash', 'importVat'] as const).map((f) =>
          marked(as({ standing: { kind: 'registered' }, importVatPostponed: true }), f).join(),
        ),
      ).toEqual(['', '', 'importVat']);
    },
  );
  it('a tax card of percentages alone needs no exchange rate; one with an amount does', () => {
    const foreign = (over: object) => evaluate(lane({ imported: true }, { currency: 'USD', ...over }));
    expect(foreign({})).toMatchObject({ problems: [], lines: { duty: 0.5 }, figures: { unitProfit: 24.5 } });
    expect(foreign({ duties: [{ heading: '', pct: 0.1, perUnit: 0.2 }] }).lines.duty).toBeNull();
    expect(foreign({ dutyFreeLimit: 10 }).lines.duty).toBeNull();
    expect(foreign({ importCharges: [{ name: 'c', pct: 0.01 }] }).lines.importCharges).toBeCloseTo(0.05, 12);
    for (const amount of [{ min: 1 }, { max: 9 }, { flat: 3 }])
      expect(foreign({ importCharges: [{ name: 'c', pct: 0.01, ...amount }] })).toMatchObject({
        lines: { importCharges: null },
        problems: [{ code: 'noExchangeRate' }],
      });
  });
  it('what is worked out from a blank delivery by the supplier says so', () => {
    const ships = (over: object, taxOver: object = {}) =>
      lane({ imported: true, method: 'supplierShips', orderQuantity: null, ...over }, taxOver);
    expect(
      (['landedCost', 'landedCash', 'cifValue', 'customsValue', 'roi'] as const).map((f) =>
        marked(ships({}), f).includes('fulfilment'),
      ),
    ).toEqual([true, true, true, true, true]);
    expect(marked(ships({ imported: false }), 'landedCost')).toEqual([]);
    // An FOB customs value has no delivery in it, and import VAT that is recovered is no cost.
    expect(
      (['landedCost', 'customsValue', 'cifValue', 'landedCash'] as const).map((f) =>
        marked(
          ships({ standing: { kind: 'registered' } }, { customsBasis: 'FOB', vatRates: { standard: 0.2 } }),
          f,
        ).join(),
      ),
    ).toEqual(['', '', 'fulfilment', 'fulfilment']);
  });
});

describe('goods without an answer', () => {
  it('leave the VAT on them without one', () => {
    const over = { prep: { standard: 1, currency: 'EUR', vat: 'added', vatRate: 0.2 } };
    const late = { priceBreaks: [{ minQty: 500, unitPrice: 5 }], vat: 'added', vatRate: 0.2 };
    expect(evaluate(lane(over, {}, late)).lines.irrecoverableVat).toBeNull();
    expect(evaluate(lane({ ...over, standing: { kind: 'registered' } }, {}, late))).toMatchObject({
      lines: { irrecoverableVat: 0 },
      figures: { recoverableVat: null },
    });
    expect(
      evaluate(lane(over, {}, { minimumOrder: 500, vat: 'added', vatRate: 0.2 })).lines.irrecoverableVat,
    ).toBeNull();
  });
  it('have a highest purchase cost all the same where no price break reaches the order, none under the minimum', () => {
    expect(
      highestPurchaseCost(lane({}, {}, { priceBreaks: [{ minQty: 500, unitPrice: 5 }] })).unitPrice,
    ).toBeCloseTo(30, 9);
    expect(highestPurchaseCost(lane({}, {}, { minimumOrder: 500 }))).toMatchObject({
      unitPrice: null,
      reason: 'unknown',
    });
  });
});

describe('adverts, demand and cover', () => {
  const keywords = [{ low: 0.4, high: 0.6, conversionRate: 0.1 }];
  it('an advert sale costs what it costs, also where adverts bring no units', () => {
    expect(evaluate(lane({ adverts: { keywords, adShare: 0 } }))).toMatchObject({
      lines: { adverts: 0 },
      figures: { adCostPerAdSale: 5 },
    });
    expect(
      evaluate(lane({ adverts: { keywords: [{ ...keywords[0], conversionRate: 0 }], adShare: 0 } })),
    ).toMatchObject({ lines: { adverts: 0 }, figures: { adCostPerAdSale: null } });
  });
  it('units a month that hang on a price nobody typed are held unknown while prices are tried', () => {
    const doc = lane({
      price: null,
      demand: { kind: 'offerSplit', listingUnits: 100, rivals: [3] },
      typed: { subscriptionMonthly: 10 },
    });
    expect(priceFor(doc)).toMatchObject({ price: 5, reason: null });
    expect(priceFor(doc).incomplete).toContain('subscription');
  });
  it('months held are the cover wherever it stands, with or without demand', () => {
    const held = lane(
      {
        demand: null,
        monthsHeld: 3,
        payoutEveryDays: 14,
        payoutDelayDays: 2,
        rates: { tax, benchmark: { rate: 0.02, date: '2026-11-01' } },
      },
      {},
      { leadDays: 20 },
    );
    expect(evaluate(held).figures).toMatchObject({
      coverMonths: 6,
      turnsPerYear: 2,
      cashCycleDays: expect.closeTo(20 + 30.4375 * 3 + 7 + 2, 9),
    });
    for (const figure of [
      'coverMonths',
      'cashCycleDays',
      'turnsPerYear',
      'costOfHolding',
      'yearlyReturnOnCash',
    ] as const)
      expect([figure, marked(held, figure)]).toEqual([figure, []]);
    expect(marked(lane({ demand: null }), 'coverMonths')).toEqual(['demand']);
    // A supplier who ships ties no stock up, so its cycle hangs on no demand.
    expect(
      marked(
        lane({
          demand: null,
          method: 'supplierShips',
          supplierDelivery: 'none',
          payoutEveryDays: 14,
          payoutDelayDays: 2,
        }),
        'cashCycleDays',
      ),
    ).toEqual([]);
  });
});

describe('a figure names each blank that it hangs on', () => {
  /**
   * Nothing hangs on a blank where what it would change is taken times nothing: no VAT recovered, no units by
   * adverts, no units at all.
   */
  const factorIsZero = (figure: Figure, { figures }: ReturnType<typeof evaluate>): boolean =>
    figure === 'recoverableVat' ||
    figures[figure] === 0 ||
    (figure === 'profitPerMonth' && figures.expectedMonthlyUnits === 0) ||
    (figure === 'proceeds' && (figures.payout ?? 0) <= 0);
  it('over random lanes: filled in one way or another, the figures that named it change, and no others', () => {
    const missed: string[] = [];
    const idle: string[] = [];
    const tried = new Map<string, number>();
    // On until each blank has been filled in often enough, whatever the draw.
    const isUnmet = (): boolean => Object.keys(FILL).some((b) => (tried.get(b) ?? 0) <= enough(100));
    for (let seed = 0; seed < cases(6000) || (isUnmet() && seed < 6000); seed++) {
      const doc = randomLane(seed, 3);
      const before = evaluate(doc);
      for (const blank of before.blanks) {
        const moved = new Set<Figure>();
        // Where nothing is bought, under a duty-free limit or at a duty of 0, some blanks change nothing;
        // they stay blank all the same.
        const nothing =
          doc.goods === 'none' ||
          before.figures.customsValue === 0 ||
          doc.rates.tax?.dutyFreeLimit !== null ||
          doc.method === 'supplierShips';
        if (nothing && (blank === 'fulfilment' || blank === 'duty' || blank === 'importVat'))
          for (const f of FIGURES) moved.add(f);
        for (const more of FILL[blank]?.(doc) ?? []) {
          const after = evaluate({ ...doc, ...more });
          // A storage rate is no use without a cover.
          if (after.blanks.includes(blank)) for (const f of FIGURES) moved.add(f);
          tried.set(blank, (tried.get(blank) ?? 0) + 1);
          // With demand, a subscription or storage that was blank for want of it is known too.
          const filled = before.blanks.filter((b) => b === blank || !after.blanks.includes(b));
          for (const figure of FIGURES) {
            const [a, b] = [before.figures[figure], after.figures[figure]];
            if (a === null || b === null || Math.abs(a - b) > 1e-12 * Math.max(1, Math.abs(a)))
              moved.add(figure);
            if (
              a === null ||
              b === null ||
              Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a)) ||
              (before.incomplete[figure] ?? []).some((b) => filled.includes(b))
            )
              continue;
            missed.push(`seed ${seed}: ${figure} hangs on ${blank} (${a} or ${b}) and does not say so`);
          }
        }
        if ((FILL[blank]?.(doc).length ?? 0) > 0)
          for (const figure of FIGURES)
            if (
              !factorIsZero(figure, before) &&
              (before.incomplete[figure] ?? []).includes(blank) &&
              !moved.has(figure)
            )
              idle.push(`seed ${seed}: ${figure} names ${blank} and does not hang on it`);
      }
    }
    expect(idle.slice(0, 10)).toEqual([]);
    expect(missed.slice(0, 10)).toEqual([]);
    for (const blank of Object.keys(FILL))
      expect([blank, (tried.get(blank) ?? 0) > enough(100)]).toEqual([blank, true]);
  });
});
