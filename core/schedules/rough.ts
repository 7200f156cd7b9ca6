/** What a card lacks before its figures are those of the marketplace. */
import type { Tables } from '../cards/reader.ts';

export type Rough =
  | { readonly code: 'noReferral' | 'oneReferral' | 'noWarehouse' | 'noStorage' | 'noFeeVat' | 'noCharges' }
  | { readonly code: 'noSides'; readonly tiers: string };

/** The rough parts of a marketplace's card, by its cells; none where it says all a unit is charged. */
export function roughCard(cells: Tables): Rough[] {
  const n = (sheet: string): number => cells[sheet]?.length ?? 0;
  const rough: Rough[] = [];
  if (n('categories') === 0) rough.push({ code: 'noReferral' });
  else if (n('categories') === 1) rough.push({ code: 'oneReferral' });
  if (n('weightSteps') === 0) rough.push({ code: 'noWarehouse' });
  const open = (cells.sizeTiers ?? []).filter((r) => !r[1] && !r[5]).map((r) => String(r[0]));
  if (open.length > 0 && n('sizeTiers') > 1) rough.push({ code: 'noSides', tiers: open.join(', ') });
  if (!(cells.months ?? []).some((r) => r[1] !== '' && r[1] != null)) rough.push({ code: 'noStorage' });
  // What no table says is taken as none, which is said.
  const field = (key: string): string => String(cells.card?.find((r) => r[0] === key)?.[1] ?? '');
  const isNone = (key: string): boolean => ['', '0', '0%'].includes(field(key));
  if (['paymentPct', 'paymentFixed', 'itemFee', 'subscriptionMonthly'].every(isNone))
    rough.push({ code: 'noCharges' });
  if (field('feeVat') === 'none') rough.push({ code: 'noFeeVat' });
  return rough;
}
