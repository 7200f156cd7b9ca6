/** A figure of a lane among many in words: in the home currency, as the bound it is. */
import { useCallback } from 'react';
import { isMoney } from '../../../core/lane/figures.ts';
import { launch } from '../../../core/launch/launch.ts';
import type { LaunchPlan } from '../../../core/launch/schema.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import type { Measure } from '../../../core/compare/measures.ts';
import { useBounds } from '../../ui/bounds.ts';
import { useBoundOf } from '../../ui/resultFigures.ts';
import { useFormat } from '../../ui/locale.ts';
import { figureOf, resultOf } from './useCompared.ts';
import type { Compared, Sort } from './useCompared.ts';

const lacking = new WeakMap<LaneDocument, readonly string[]>();
/** What the launch of a lane leaves out, worked out once for each document. */
function launchLacks(doc: LaneDocument, plan: LaunchPlan): readonly string[] {
  let lacks = lacking.get(doc);
  if (lacks === undefined) {
    lacks = launch(doc, plan).incomplete;
    lacking.set(doc, lacks);
  }
  return lacks;
}

export function useFigureWords(
  plan: LaunchPlan,
  home: string,
): (c: Compared, figure: Sort | Measure) => string {
  const f = useFormat();
  const bounds = useBounds();
  const boundOf = useBoundOf();
  return useCallback(
    (c, figure) => {
      const x = figureOf(c, figure, plan);
      if (x === null) return '–';
      if (figure === 'launchCash') return bounds.of(f.money(x, home), launchLacks(c.doc, plan), 'atLeast');
      const result = resultOf(c);
      if (figure === 'breakEven') return bounds.of(f.money(x, home), result.incomplete.unitProfit, 'above');
      const text = isMoney(figure)
        ? f.money(x, home)
        : figure === 'cashCycleDays'
          ? f.number(x, 0)
          : f.percent(x);
      return boundOf(text, result, figure);
    },
    [f, bounds, boundOf, plan, home],
  );
}
