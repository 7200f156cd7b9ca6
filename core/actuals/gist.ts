/** A unit planned and a unit as it was, as a list shows them: two bars on one ruler and the figures beside them. */
import { FAMILIES, FAMILY_LINES } from '../lane/costLines.ts';
import type { Family } from '../lane/costLines.ts';
import type { ActualLine } from './actual.ts';
import type { Compared } from './compare.ts';

/** A unit, sales currency; units of all months. `lacks`: what its profit leaves out. */
export type Side = {
  readonly gross: number | null;
  readonly unitProfit: number | null;
  readonly units: number | null;
  readonly families: Readonly<Record<Family, number | null>>;
  readonly lacks: readonly string[];
};
export type Gist = {
  readonly currency: string;
  readonly planned: Side;
  readonly actual: Side;
  /** What all units brought beside the plan; null: not known. */
  readonly difference: number | null;
};

/** Cost families of a unit; what was paid for losses lowers other costs. */
function familiesOf(c: Compared, which: 'planned' | 'actual'): Side['families'] {
  const by = new Map(c.lines.map((l) => [l.line, l[which]]));
  return Object.fromEntries(
    FAMILIES.map((family) => {
      const lines: ActualLine[] = [
        ...FAMILY_LINES[family],
        ...(family === 'other' ? (['reimbursement'] as const) : []),
      ];
      const known = lines.flatMap((l) => by.get(l) ?? []);
      return [family, known.length === 0 ? null : known.reduce((s, x) => s + x, 0)];
    }),
  ) as Record<Family, number | null>;
}

export function gistOf(c: Compared): Gist {
  const { planned, actual } = c;
  const { shipped } = actual;
  return {
    currency: c.currency,
    planned: {
      gross: planned.gross,
      unitProfit: planned.unitProfit,
      units: planned.units,
      families: familiesOf(c, 'planned'),
      lacks: planned.lacks,
    },
    actual: {
      gross: shipped === 0 ? null : actual.gross / shipped,
      unitProfit: c.unitProfit,
      units: shipped,
      families: familiesOf(c, 'actual'),
      lacks: actual.lacks,
    },
    difference: c.parts?.difference ?? null,
  };
}
