/** What launch adverts take, day by day. */
import type { Reckoning } from '../lane/reckoning.ts';
import type { LaunchPlan } from '../launch/schema.ts';
import { advertVat } from './perUnit.ts';

/** Days over which launch adverts that are meant in units are spread. */
const SPREAD_DAYS = 30;
/** A day from the first on sale: what is paid, VAT included, what that adds to the VAT account, and for how long. */
export type LaunchAdverts = { readonly perDay: number; readonly vat: number; readonly days: number };

/**
 * Launch adverts by day, home currency: a budget with its VAT as typed, or what so many units take of clicks. `r` is
 * the reckoned lane, `toHome` a unit of its currency in the home currency.
 */
export function launchAdverts({ advertising: a }: LaunchPlan, r: Reckoning, toHome: number): LaunchAdverts {
  if (a === null) return { perDay: 0, vat: 0, days: 0 };
  if (a.kind === 'daily') return { perDay: a.perDay ?? 0, vat: 0, days: a.days ?? 0 };
  if (a.units === null || a.units === 0) return { perDay: 0, vat: 0, days: 0 };
  const net = ((a.units * r.cpc) / r.conversionRate) * toHome;
  const { charged, account } = advertVat(r);
  return {
    perDay: (net * (1 + charged)) / SPREAD_DAYS,
    vat: (net * account) / SPREAD_DAYS,
    days: SPREAD_DAYS,
  };
}

/** Whether a part of the launch plan was opened and not filled in. */
export function launchIsOpen({ advertising: a, oneOffs }: LaunchPlan): boolean {
  const open = a !== null && (a.kind === 'daily' ? a.perDay === null || a.days === null : a.units === null);
  return open || oneOffs.some((o) => o.amount === null);
}

/** Launch adverts that are meant in units sold take what a click costs and sells, which the lane may not say. */
export const clicksAreUnknown = ({ advertising: a }: LaunchPlan, r: Reckoning): boolean =>
  a?.kind === 'units' && (a.units ?? 0) > 0 && !(r.conversionRate >= 1e-9 && r.cpc >= 0);
