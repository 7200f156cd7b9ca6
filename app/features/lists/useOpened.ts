import { useEffect, useMemo, useState } from 'react';
import { judgeHurdles, remedyFor } from '../../../core/lane/hurdles.ts';
import type { Hurdle } from '../../../core/lane/hurdleSchema.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { highestPurchaseCost, priceFor } from '../../../core/lane/solve.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import type { ListRow, RowListing } from '../../../between/ask.ts';
import type { RowMark } from './RowDecisions.tsx';
import { tell, type Why } from '../../ui/client.ts';

export type OpenRow = {
  row: ListRow;
  doc: LaneDocument;
  mark: RowMark | null;
  more: Record<string, string>;
  listings: RowListing[];
  /** Whether the one that counts was chosen by hand. */
  listingByHand: boolean;
};
/** The row, under assumptions that are tried or the list's own, or why it could not be had. */
export function useOpened(
  url: string,
  line: number,
  edition: number,
  tried: ListSettings | null,
): { opened: OpenRow | null; notRead: Why | null } {
  const [opened, setOpened] = useState<OpenRow | null>(null);
  const [notRead, setNotRead] = useState<Why | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another edition reads the row anew
  useEffect(() => {
    let stale = false;
    const timer = setTimeout(
      () =>
        void tell<OpenRow>(`${url}/row/${line}`, { settings: tried }).then((told) => {
          if (stale) return;
          if (told.ok) setOpened(told.data);
          setNotRead(told.ok ? null : told.why);
        }),
      tried === null ? 0 : 150,
    );
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [url, line, edition, tried]);
  return { opened, notRead };
}

/** What its lane comes to, and what would clear each hurdle. */
export function useWorked(doc: LaneDocument | null, hurdles: readonly Hurdle[]) {
  return useMemo(
    () =>
      doc === null
        ? null
        : {
            result: evaluate(doc),
            even: priceFor(doc).price,
            most: highestPurchaseCost(doc),
            hurdles: judgeHurdles(doc, hurdles).map((h) => ({
              h,
              remedy: h.verdict === 'near' || h.verdict === 'fail' ? remedyFor(doc, h.hurdle) : null,
            })),
          },
    [doc, hurdles],
  );
}
export type Worked = NonNullable<ReturnType<typeof useWorked>>;
