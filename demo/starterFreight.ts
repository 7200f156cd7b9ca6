/** Freight and postage cards of the demo, drawn by a stated rule. */
import { benchmarkCard, freightCard, postageCard } from '../core/cards/schema.ts';
import { COUNTRY_CURRENCY } from '../core/tax/countries.ts';
import { drawer, money } from './drawing.ts';
import type { StarterCard } from './drawing.ts';

export const EU_ROAD = ['DE', 'FR', 'ES', 'IT', 'PL', 'GB'];

const LAND: Readonly<Record<string, string>> = {
  DE: 'Germany',
  FR: 'France',
  ES: 'Spain',
  IT: 'Italy',
  PL: 'Poland',
  GB: 'Britain',
  US: 'the United States',
  JP: 'Japan',
  AE: 'the Emirates',
};

/**
 * Rule of the routes, in euros: by sea 110 to 190 a m3, at least one, origin handling 60 to 110 a shipment,
 * 30 to 44 days; by air 3.20 to 6.40 a kg by weight or volume at 6000 cm3 a kg, at least 45 kg, fuel 10 to 20
 * %, 6 to 11 days; by road, in Europe, 55 to 120 a m3, at least half a one, 3 to 9 days. To the warehouse
 * 0.20 to 0.40 a unit.
 */
export function drawFreight(): StarterCard[] {
  const cards: StarterCard[] = [];
  let seed = 4200;
  for (const to of Object.keys(LAND)) {
    const draw = drawer(seed++);
    const inbound = {
      name: 'To the warehouse',
      stage: 'inbound' as const,
      basis: 'perUnit' as const,
      rate: draw(0.2, 0.4, 0.05),
      currency: 'EUR',
    };
    const add = (
      mode: 'sea' | 'air' | 'road',
      name: string,
      legs: object[],
      transitDays: number,
      insuranceRate: number,
    ): void => {
      const data = freightCard.parse({
        name,
        inForceFrom: '2026-10-01',
        note: 'Drawn rates: an example to replace',
        from: null,
        to,
        mode,
        route: {
          legs: [...legs, inbound],
          packingAllowance: 0.1,
          insuranceRate,
          transitDays,
          inboundDays: 5,
        },
      });
      cards.push({ kind: 'freight', key: name, name, inForceFrom: data.inForceFrom, data });
    };
    add(
      'sea',
      `By sea to ${LAND[to]}`,
      [
        {
          name: 'Handling at the port',
          stage: 'origin',
          basis: 'perShipment',
          rate: draw(60, 110, 5),
          currency: 'EUR',
        },
        {
          name: 'Vessel, shared container',
          stage: 'main',
          basis: 'perCbm',
          rate: draw(110, 190, 5),
          currency: 'EUR',
          minCbm: 1,
        },
      ],
      draw(30, 44, 1),
      0.003,
    );
    add(
      'air',
      `By air to ${LAND[to]}`,
      [
        {
          name: 'Air, by weight or volume',
          stage: 'main',
          basis: 'perKg',
          rate: draw(3.2, 6.4, 0.1),
          currency: 'EUR',
          divisor: 6000,
          minKg: 45,
          fuelSurcharge: draw(0.1, 0.2, 0.01),
        },
      ],
      draw(6, 11, 1),
      0.004,
    );
    if (EU_ROAD.includes(to))
      add(
        'road',
        `By road to ${LAND[to]}`,
        [
          {
            name: 'Lorry, part load',
            stage: 'main',
            basis: 'perCbm',
            rate: draw(55, 120, 5),
            currency: 'EUR',
            minCbm: 0.5,
          },
        ],
        draw(3, 9, 1),
        0.002,
      );
  }
  return cards;
}

/**
 * Rule of the postage, in euros: 2.90 to 4.40 up to half a kilo, each step 12 to 22 % more, beyond 30 kg 0.40
 * to 0.80 a kilo.
 */
export function drawPostage(): StarterCard[] {
  return Object.keys(LAND).map((country, i) => {
    const draw = drawer(5300 + i);
    const currency = COUNTRY_CURRENCY[country] as string;
    let fee = draw(2.9, 4.4, 0.1);
    const steps = [0.5, 1, 2, 5, 10, 20, 30].map((upToKg) => {
      const step = { upToKg, fee: money(fee, currency) };
      fee *= 1 + draw(0.12, 0.22, 0.01);
      return step;
    });
    const data = postageCard.parse({
      name: `Parcels in ${LAND[country]}`,
      inForceFrom: '2026-10-01',
      note: 'Drawn rates: an example to replace',
      country,
      zones: [
        {
          name: 'all',
          share: 1,
          postage: { currency, steps, stepKg: 1, stepFee: money(draw(0.4, 0.8, 0.1), currency) },
        },
      ],
      vat: 'none',
      vatRate: 0,
      recoverable: null,
      packagingKg: 0.15,
    });
    return { kind: 'postage', key: data.name, name: data.name, inForceFrom: data.inForceFrom, data };
  });
}

/** Rule of the bank's rate: 1.5 to 3.5 % a year, in steps of a quarter. */
export function drawBenchmarks(): StarterCard[] {
  return ['EUR', 'GBP', 'USD', 'PLN'].map((currency, i) => {
    const data = benchmarkCard.parse({
      name: `Savings account, ${currency}`,
      inForceFrom: '2026-10-01',
      note: 'Drawn: replace it by what your bank pays',
      currency,
      rate: drawer(6400 + i)(0.015, 0.035, 0.0025),
    });
    return { kind: 'benchmark', key: currency, name: data.name, inForceFrom: data.inForceFrom, data };
  });
}
