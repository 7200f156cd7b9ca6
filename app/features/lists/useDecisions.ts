/** What is ticked in a list and decided about it: shortlisted, kept, dropped, packs confirmed. */
import { useCallback, useRef, useState } from 'react';
import { blanksIn } from '../../../core/lane/blanks.ts';
import { costsOf } from '../../../core/lists/figures.ts';
import { packsAsNamed } from '../../../core/goods/packs.ts';
import type { ListRow } from '../../../between/ask.ts';
import { useFormat } from '../../ui/locale.ts';
import { useLatest } from '../../ui/useLatest.ts';
import type { Tally } from './listData.ts';
import type { Change } from './RowDecisions.tsx';
import type { Screen } from './useScreen.ts';
import { tell } from '../../ui/client.ts';
import { useWords } from '../../ui/useWords.ts';

/** Rows that become candidates with one request. */
const AT_ONCE = 100;
/** Rows that can be ticked and decided about together. */
const MOST_TICKED = 5000;

type Acted = { kept: string[]; tally: Tally };

/** Sends what is decided about a list; the answer brings the tally along. */
export function useAct(url: string, firstTally: Tally) {
  const { t } = useWords();
  const [tally, setTally] = useState(firstTally);
  const [said, setSaid] = useState<string | null>(null);
  const act = useCallback(
    async (body: object): Promise<Acted | null> => {
      const told = await tell<Acted>(`${url}/act`, body);
      if (!told.ok) {
        setSaid(told.why === 'invalid' && told.error !== null ? told.error : t(`notDone.${told.why}`));
        return null;
      }
      setTally(told.data.tally);
      return told.data;
    },
    [url, t],
  );
  return { act, tally, said, setSaid };
}

type Needs = {
  screen: Screen;
  /** How many rows the query leaves. */
  count: number;
  act: (body: object) => Promise<Acted | null>;
  setSaid: (text: string) => void;
  /** Saves the assumptions that are seen, if they are not yet; false where that was refused. */
  saveSettings: () => Promise<boolean>;
};

/** Rows that are ticked, whether they are in view or not. */
function useTicks(screen: Screen, count: number, setSaid: (text: string) => void) {
  const { t } = useWords();
  const f = useFormat();
  const [ticked, setTicked] = useState<ReadonlyMap<number, ListRow>>(new Map());
  const lastTicked = useRef<number | null>(null);
  const untick = useCallback(() => setTicked(new Map()), []);
  const tick = useLatest((row: ListRow, at: number, range: boolean): void => {
    const next = new Map(ticked);
    if (range && lastTicked.current !== null) {
      for (let i = Math.min(at, lastTicked.current); i <= Math.max(at, lastTicked.current); i++) {
        const r = screen.rowAt(i);
        if (r !== undefined) next.set(r.key, r);
      }
    } else if (next.has(row.key)) next.delete(row.key);
    else next.set(row.key, row);
    lastTicked.current = at;
    setTicked(next);
  });
  /** Ticks every row the query leaves, also those not in view; or takes the ticks away where all have one. */
  const tickAll = useLatest(async (): Promise<void> => {
    const most = Math.min(count, MOST_TICKED);
    if (ticked.size >= most) return untick();
    const rows = await screen.rowsUpTo(most);
    setTicked(new Map(rows.map((r) => [r.key, r])));
    if (count > rows.length)
      setSaid(t('list.tickedSome', { n: f.number(rows.length, 0), all: f.number(count, 0) }));
  });
  const allTicked = count > 0 && ticked.size >= Math.min(count, MOST_TICKED);
  return { ticked, allTicked, tick, tickAll, untick };
}

export function useDecisions({ screen, count, act, setSaid, saveSettings }: Needs) {
  const { t } = useWords();
  const { ticked, allTicked, tick, tickAll, untick } = useTicks(screen, count, setSaid);
  /** Moves with every decision: what shows an opened row asks for it again. */
  const [edition, setEdition] = useState(0);
  const changed = useCallback(() => setEdition((n) => n + 1), []);

  const mark = useLatest(async (rows: readonly ListRow[], change: Change): Promise<void> => {
    await act({
      what: 'mark',
      change: {
        rows: rows.map((r) => ({
          key: r.key,
          name: r.title.slice(0, 500),
          profitPerMonth: r.figures.profitPerMonth ?? null,
          lacks: blanksIn(r.blanks & costsOf('profitPerMonth')),
        })),
        ...change,
      },
    });
    changed();
    screen.refresh();
  });
  /** Confirms the packs that the words of each row name: one request for each ratio, whatever the number of rows. */
  const confirmPacks = async (chosen: readonly ListRow[]): Promise<void> => {
    const byRatio = new Map<string, { pack: ReturnType<typeof packsAsNamed>; rows: ListRow[] }>();
    for (const r of chosen) {
      const pack = packsAsNamed(r.figures.pack ?? 0, r.listingPack);
      const group = byRatio.get(`${pack.sold}/${pack.bought}`) ?? { pack, rows: [] as ListRow[] };
      group.rows.push(r);
      byRatio.set(`${pack.sold}/${pack.bought}`, group);
    }
    for (const { pack, rows: same } of byRatio.values()) await mark(same, { pack });
    untick();
  };
  const keep = useLatest(async (rows: readonly ListRow[], quantity: number | null = null): Promise<void> => {
    // They are kept under the assumptions that are seen.
    if (!(await saveSettings())) return;
    let kept = 0;
    for (let i = 0; i < rows.length; i += AT_ONCE) {
      const got = await act({
        what: 'keep',
        lines: rows.slice(i, i + AT_ONCE).map((r) => r.line),
        ...(quantity === null ? {} : { quantity }),
      });
      if (got === null) return;
      kept += got.kept.length;
      setSaid(t('list.keptNow', { count: kept }));
    }
    untick();
    changed();
    screen.refresh();
  });
  return { ticked, allTicked, tick, tickAll, untick, mark, keep, confirmPacks, edition, changed };
}
