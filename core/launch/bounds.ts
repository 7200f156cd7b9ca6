import { boundWithout } from '../lane/bounds.ts';
import type { Bound } from '../lane/bounds.ts';
import type { LaunchResult } from './schema.ts';
import type { LaneResult } from '../lane/result.ts';

/**
 * What a line of the budget lacks: the goods cost lines of their way in, the contingency whatever any line of
 * the launch lacks.
 */
export function lacksOfLine(line: string, unit: LaneResult, launched: LaunchResult): readonly string[] {
  if (line === 'goods') return unit.incomplete.landedCash ?? [];
  return line === 'contingency' && (launched.budget?.lines.contingency ?? 0) > 0 ? launched.incomplete : [];
}

/**
 * Launch figures that missing launch costs lower, those that they raise, and those that missing costs of a
 * unit raise.
 */
const LOWERED = ['mostUnits', 'mostUnitPrice', 'shelfPriceBand'];
/** The same, where the goods do not count. */
const LOWERED_BESIDE_GOODS = ['productBudget', 'mostPerUnit', 'mostPerUnitSmallest'];
const RAISED = ['total', 'shortfall'];
const RAISED_BY_UNIT = ['unitsADay', 'breakEvenUnits', 'monthsToPayBack'];

/** What each figure of a launch is a bound of, given the blanks of the launch and those of the unit profit. */
export function launchBounds(ofLaunch: readonly string[], ofUnit: readonly string[]): Record<string, Bound> {
  const bounds: Record<string, Bound> = {};
  const put = (names: readonly string[], bound: Bound | null): void => {
    if (bound !== null) for (const name of names) bounds[name] = bound;
  };
  put(LOWERED, boundWithout(ofLaunch, 'atMost'));
  put(
    LOWERED_BESIDE_GOODS,
    boundWithout(
      ofLaunch.filter((b) => b === 'advertising' || b === 'adverts' || b === 'oneOffs'),
      'atMost',
    ),
  );
  put(RAISED, boundWithout(ofLaunch, 'atLeast'));
  put(RAISED_BY_UNIT, boundWithout([...ofUnit, ...ofLaunch], 'atLeast'));
  return bounds;
}
