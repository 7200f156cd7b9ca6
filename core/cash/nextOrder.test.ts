/** The next order of a lane on sale, by the cash run begun with its stock. */
import { describe, expect, it } from 'vitest';
import type { LaneDocument } from '../lane/schema.ts';
import { BASE } from '../testing/settled.ts';
import { nextOrder } from './nextOrder.ts';
import type { OnShelf } from './nextOrder.ts';
import { cashPlan } from './schema.ts';

const goods = (BASE.goods as Exclude<LaneDocument['goods'], null | 'none'>).map((g) => ({
  ...g,
  source: { ...g.source, leadDays: 30, depositShare: 0.3 },
})) as LaneDocument['goods'];
const LANE: LaneDocument = { ...BASE, goods, payoutEveryDays: 14, payoutDelayDays: 3 };
const at = (over: Partial<OnShelf> = {}): OnShelf => ({
  day: '2026-11-01',
  stock: 100,
  onTheWay: [],
  // One a day.
  unitsPerMonth: 30.4375,
  ...over,
});
// Half of what comes back is worth its cost, none of it is sold again.
const plan = cashPlan.parse({ safetyDays: 10 });
const none = { ...LANE, returns: 'none' as const };

describe('the next order', () => {
  it('is placed while the stock lasts for the lead time and the safety days', () => {
    const { next } = nextOrder(none, plan, at());
    // After the day's sale 40 units are left for the 30 + 10 days that follow: the day after they are too few.
    expect(next).toMatchObject({ day: '2026-12-31', quantity: 100, soldOut: null });
    // 100 units at 5 and the VAT of a fifth on them.
    expect(next?.money).toBeCloseTo(600, 6);
  });
  it('waits for what is on its way', () => {
    const onTheWay = [{ day: '2026-11-20', units: 50 }];
    expect(nextOrder(none, plan, at({ onTheWay })).next?.day).toBe('2027-02-19');
    // What should be here already is on the shelf today.
    expect(nextOrder(none, plan, at({ onTheWay: [{ day: '2026-10-01', units: 50 }] })).next?.day).toBe(
      '2027-02-19',
    );
  });
  it('is due at once where it is late, and says from when something lacks', () => {
    const { next } = nextOrder(none, plan, at({ stock: 12 }));
    expect(next).toMatchObject({ day: '2026-11-01', soldOut: '2026-11-13' });
  });
  it('without a pace of its own goes by the lane’s units and the last factor of the ramp', () => {
    const slow = cashPlan.parse({ safetyDays: 10, ramp: [0.2, 0.304375] });
    // 100 a month, three tenths of them: one a day.
    const { next } = nextOrder(none, slow, at({ unitsPerMonth: null }));
    expect(next?.day).toBe('2026-12-31');
  });
  it('covers the days that a plan asks for; a plan without reorders is asked as one with the same', () => {
    const cover = cashPlan.parse({ safetyDays: 10, reorder: { kind: 'cover', days: 60 } });
    expect(nextOrder(none, cover, at()).next?.quantity).toBe(61);
    const never = cashPlan.parse({ safetyDays: 10, reorder: { kind: 'none' } });
    expect(nextOrder(none, never, at()).next?.quantity).toBe(100);
  });
  it('is none within the horizon, none for a supplier who ships, and names what a lane lacks', () => {
    expect(nextOrder(none, plan, at({ stock: 1000 }))).toEqual({ next: null, lacks: [] });
    const ships = { ...none, method: 'supplierShips' as const, supplierDelivery: 'none' as const };
    expect(nextOrder(ships, plan, at()).next).toBeNull();
    expect(nextOrder({ ...none, goods: BASE.goods }, plan, at())).toEqual({
      next: null,
      lacks: ['leadDays'],
    });
  });
});
