/**
 * Whether it is worth it, in parts: each from 0 to 1 between a poor and a good level, with the figure it comes from
 * (evidence, section 8). Never one number alone; a veto stands in its place.
 */
import { clamp } from '../rules/numbers.ts';
import { OWN_BRAND_PARTS, RESALE_PARTS } from './settings.ts';
import type { EvidenceSettings, Part } from './settings.ts';

export type PartSaid = {
  readonly part: Part;
  /** The figure it is judged by; null: not known, the part stays out. */
  readonly value: number | null;
  /** 0 poor, 1 good; null: not known. */
  readonly worth: number | null;
  readonly poor: number;
  readonly good: number;
  readonly weight: number;
};
export const VETOES = ['closed', 'rightsAlert', 'loses'] as const;
export type Veto = (typeof VETOES)[number];
export type Opportunity = {
  readonly kind: 'ownBrand' | 'resale';
  readonly vetoes: readonly Veto[];
  readonly parts: readonly PartSaid[];
  /** By weight over the parts that are known; null under half of the weight, or with a veto. */
  readonly mean: number | null;
  readonly unknown: readonly Part[];
};

/**
 * Where a figure lies between poor and good, 0 to 1; equal levels are a step.
 *
 * @example between(30, 20, 40) // 0.5
 * @example between(0.2, 0.5, 0.1) // 0.75
 */
export function between(value: number, poor: number, good: number): number {
  if (poor === good) return value >= good ? 1 : 0;
  return clamp((value - poor) / (good - poor), 0, 1);
}

/** The parts of a way of working, from the figures that are known. */
export function opportunityOf(
  kind: Opportunity['kind'],
  figures: Partial<Record<Part, number | null>>,
  vetoes: readonly Veto[],
  s: EvidenceSettings,
): Opportunity {
  const parts = (kind === 'ownBrand' ? OWN_BRAND_PARTS : RESALE_PARTS).map((part): PartSaid => {
    const { poor, good, weight } = s.opportunity[part];
    const value = figures[part] ?? null;
    return { part, value, worth: value === null ? null : between(value, poor, good), poor, good, weight };
  });
  const known = parts.filter((p) => p.worth !== null);
  const weightOf = (own: readonly PartSaid[]): number => own.reduce((sum, p) => sum + p.weight, 0);
  const [all, there] = [weightOf(parts), weightOf(known)];
  const enough = there > 0 && there >= all / 2 - 1e-9;
  return {
    kind,
    vetoes,
    parts,
    mean:
      vetoes.length > 0 || !enough
        ? null
        : known.reduce((sum, p) => sum + p.weight * (p.worth as number), 0) / there,
    unknown: parts.filter((p) => p.worth === null).map((p) => p.part),
  };
}
