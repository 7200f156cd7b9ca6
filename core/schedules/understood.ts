/** What was understood of a fee table, cell by cell, and the parts of a card that it makes. */
import type { FREIGHT_BASES, Stage } from '../cards/carriage.ts';
import type { Fault } from '../fault.ts';
import type { Role } from './columns.ts';
import type { Percent, Said } from './forms.ts';

/**
 * How a cell was read: `sure`; `doubtful`, with what else it could be; `notUnderstood`, with why; `heading`
 * and `blank` as they are; `leftOut` on purpose: a total, a figure that is not offered.
 */
export type CellState = 'sure' | 'doubtful' | 'notUnderstood' | 'heading' | 'blank' | 'leftOut';
export type CellRead = {
  readonly text: string;
  readonly state: CellState;
  readonly role: Role;
  readonly said: Said | null;
  /** Other readings of a doubtful cell. */
  readonly or: readonly Said[];
  readonly why: Fault | null;
  /** Names the cell by its row, its column and its text, so that a choice is found again in the next version. */
  readonly key: string;
};
export type RowRead = { readonly line: number; readonly cells: readonly CellRead[] };
export const TABLE_KINDS = ['fees', 'tiers', 'referral', 'storage', 'charges', 'freight', 'unread'] as const;
export type TableKind = (typeof TABLE_KINDS)[number];
export type TableRead = {
  readonly kind: TableKind;
  readonly title: string;
  readonly rows: readonly RowRead[];
};

/** A size tier as a table gives it: sides in cm, longest first; kg; null where it says nothing. */
export type TierPart = {
  readonly name: string;
  readonly sides: readonly number[] | null;
  readonly maxKg: number | null;
  readonly girth: number | null;
  readonly divisor: number | null;
  readonly packagingKg: number | null;
};
/**
 * A fee: up to a weight or for each further so much (kg), of a tier or zone ('' where the table has none), up
 * to a price.
 */
export type StepPart = {
  readonly tier: string;
  readonly priceUpTo: number | null;
  readonly upToKg: number | null;
  readonly each: number | null;
  readonly fee: number;
  readonly line: number;
};
export type CategoryPart = {
  readonly name: string;
  readonly percent: Percent;
  readonly itemFee: number | null;
  readonly line: number;
};
/** Storage a m3 and month in these calendar months. */
export type StoragePart = {
  readonly months: readonly number[];
  readonly perM3: number;
  readonly line: number;
};
export type LongStayPart = {
  readonly fromMonths: number;
  readonly toMonths: number | null;
  readonly rate: number;
  readonly line: number;
};
/** What a sale or the account costs besides: a share, an amount, or both. */
export type ChargePart = {
  readonly of: 'itemFee' | 'payment' | 'subscription';
  readonly pct: number | null;
  readonly amount: number | null;
  readonly line: number;
};
export type Parts = {
  readonly charges: readonly ChargePart[];
  readonly tiers: readonly TierPart[];
  readonly steps: readonly StepPart[];
  readonly categories: readonly CategoryPart[];
  readonly storage: readonly StoragePart[];
  readonly longStay: readonly LongStayPart[];
};
/** A charge on the way: for what, how much, where it falls. */
export type LegPart = {
  readonly name: string;
  readonly stage: Stage;
  readonly basis: (typeof FREIGHT_BASES)[number];
  /** null: by the bands. */
  readonly rate: number | null;
  readonly currency: string;
  readonly minCharge: number | null;
  /** On top, a fraction. */
  readonly fuel: number | null;
  readonly bands: readonly { readonly upToKg: number; readonly rate: number }[];
  readonly line: number;
};
export type FreightParts = {
  readonly legs: readonly LegPart[];
  readonly transitDays: number | null;
  readonly insuranceRate: number | null;
};
export type NoteRead = { readonly line: number; readonly text: string; readonly read: boolean };
export type Understood = {
  readonly tables: readonly TableRead[];
  readonly notes: readonly NoteRead[];
  readonly parts: Parts;
  /** What it says of a way, where it was read as freight. */
  readonly freight: FreightParts | null;
  /** Gaps, overlaps, what a card cannot say: each names line and remedy. */
  readonly faults: readonly (Fault & { readonly line: number | null })[];
  readonly counts: Readonly<Record<CellState, number>>;
};
