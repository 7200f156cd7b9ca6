import { useCallback, useEffect, useRef, useState } from 'react';
import type { CatalogueSaid } from '../../../core/shops/place.ts';
import type { ListQuery } from '../../../core/lists/query.ts';
import type { ListFigure } from '../../../core/lists/figures.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import { tell } from '../../ui/client.ts';
import type { Told, Why } from '../../ui/client.ts';
import type { Answer, JudgedRow, ListRow } from '../../../between/ask.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { CHUNK, RowsAtHand } from './rowsAtHand.ts';

export type Work = {
  readonly state: string;
  readonly done: number;
  readonly total: number;
  readonly error: string | null;
  /** Of a list that is read from a shop: how far its catalogue is. */
  readonly catalogue: CatalogueSaid | null;
};
type Answered = Answer & { readonly work: Work | null };
type Ask = {
  readonly query: ListQuery;
  readonly show: 'kept' | 'removed';
  /** Assumptions tried; null: those that are saved. */
  readonly settings: ListSettings | null;
  /** Whether columns kept as they are stand in the grid. */
  readonly more: boolean;
};
/** The most that one question may ask for. */
const AT_MOST = 500;

/** Time until a question that met nobody is asked again, ms. */
const AGAIN = 700;
/** Time to draw what has just been answered, ms. */
const FRAME = 16;

/** Whether rows are being read. */
export const isReading = (work: Work | null): boolean =>
  work?.state === 'waiting' || work?.state === 'running';

/** The question without its assumptions. */
const queryOf = ({ query, show, more }: Ask): string => JSON.stringify([query, show, more]);

export type Screen = {
  readonly answer: Answer | null;
  /** Sums and distributions of the rows shown; null until they have followed. */
  readonly sums: Pick<Answer, 'stats' | 'facets' | 'funnel' | 'strange'> | null;
  readonly rowAt: (index: number) => ListRow | undefined;
  /** Says which rows are in view, so that those that are missing are asked for. */
  readonly inView: (from: number, to: number) => void;
  readonly busy: boolean;
  /** Why the last question was not answered; one that is `offline` is asked again by itself. */
  readonly notAnswered: Why | null;
  readonly work: Work | null;
  /** The first rows of the question, however far down; fewer where the screening is away. */
  readonly rowsUpTo: (most: number) => Promise<ListRow[]>;
  /** What the verdicts would be under other settings. */
  readonly verdictsUnder: (settings: ListSettings) => Promise<Answer['verdicts'] | null>;
  /** Asks again: marks have changed. */
  readonly refresh: () => void;
};

/**
 * The rows of a list under a query and assumptions: the window in view first, sums and distributions after
 * it. A newer question overtakes an older one; where the screening is away, it is asked again until it
 * answers.
 */
export function useScreen(
  url: string,
  ask: Ask,
  first: Answer | null,
  figures: readonly ListFigure[],
  firstWork: Work | null,
): Screen {
  const key = JSON.stringify(ask);
  const asked = useRef(ask);
  asked.current = ask;
  const [answer, setAnswer] = useState<{ key: string; answer: Answer } | null>(
    first === null ? null : { key, answer: first },
  );
  const [sums, setSums] = useState<Screen['sums']>(null);
  const [notAnswered, setNotAnswered] = useState<Why | null>(null);
  const [busy, setBusy] = useState(false);
  const [work, setWork] = useState<Work | null>(firstWork);
  const [, drawn] = useState(0);
  const [rows] = useState(() =>
    first === null ? new RowsAtHand() : new RowsAtHand(first.window, key, queryOf(ask)),
  );
  const round = useRef(0);
  const figuresKey = figures.join(',');
  const running = useRef(false);
  running.current = isReading(work);

  const post = useCallback(
    <T = Answered>(body: object, signal?: AbortSignal): Promise<Told<T>> =>
      tell<T>(url, body, signal === undefined ? {} : { signal }),
    [url],
  );

  const redraw = (): void => drawn((n) => n + 1);
  const lookAhead = useLookAhead(post, rows, round, redraw);
  const fill = useFilling(post, asked, rows, round, (why) => {
    setNotAnswered(why);
    if (why === null) redraw();
  });

  const question = useCallback(
    async (mine: number, signal: AbortSignal): Promise<void> => {
      setBusy(true);
      const now = asked.current;
      const nowKey = JSON.stringify(now);
      if (rows.query === queryOf(now) && rows.key !== nowKey) {
        await lookAhead(mine, now, signal);
        if (mine !== round.current) return;
      }
      // A new question begins at its top; the same one, asked again, stays where it is.
      const from = rows.key === nowKey ? Math.floor(rows.view[0] / CHUNK) * CHUNK : 0;
      for (;;) {
        const told = await post({ ...now, from, count: CHUNK * 2 }, signal);
        if (mine !== round.current) return;
        setNotAnswered(told.ok ? null : told.why);
        if (!told.ok && told.why === 'offline') {
          await new Promise((done) => setTimeout(done, AGAIN));
          if (mine !== round.current) return;
          continue;
        }
        setBusy(false);
        if (!told.ok) return;
        const got = told.data;
        setWork(got.work);
        running.current = isReading(got.work);
        rows.replace(from, got.window, nowKey, queryOf(now));
        setAnswer({ key: nowKey, answer: got });
        // Whoever moved on meanwhile looks at rows that this answer does not hold.
        fill();
        break;
      }
      // Sums of a list that is still being read would be old before they are there.
      if (running.current) return;
      const more = await post(
        { ...now, count: 0, figures: figuresKey.split(',').filter(Boolean), facets: true },
        signal,
      );
      if (mine !== round.current || !more.ok) return;
      const { stats, facets, funnel, strange } = more.data;
      setSums({ stats, facets, funnel, strange });
    },
    [post, rows, lookAhead, fill, figuresKey],
  );

  const refresh = useAsking(key, round, question, isReading(work), answer);

  const inView = useCallback(
    (from: number, to: number) => {
      rows.view = [from, to];
      fill();
    },
    [rows, fill],
  );

  const { rowsUpTo, verdictsUnder } = useBeside(post, asked);
  return {
    answer: answer?.answer ?? null,
    sums,
    rowsUpTo,
    verdictsUnder,
    rowAt: (i) => rows.at(i),
    inView,
    busy,
    notAnswered,
    work,
    refresh,
  };
}

/**
 * Asks for the rows in view that are not there. Where the screening is away they are asked for again; `said` is
 * told why they have not come, or that they have.
 */
function useFilling(
  post: Post,
  asked: { readonly current: Ask },
  rows: RowsAtHand,
  round: { readonly current: number },
  said: (why: Why | null) => void,
): () => void {
  const say = useLatest(said);
  return useCallback(
    function fill(): void {
      const mine = round.current;
      for (const at of rows.missing())
        void post({ ...asked.current, from: at, count: CHUNK }).then((told) => {
          rows.came(at);
          if (mine !== round.current) return;
          if (told.ok) rows.put(at, told.data.window);
          say(told.ok ? null : told.why);
          if (!told.ok && told.why === 'offline') setTimeout(fill, AGAIN);
        });
    },
    [post, asked, rows, round, say],
  );
}

/** What the rows in view come to under other assumptions, before the whole list has answered. */
function useLookAhead(
  post: Post,
  rows: RowsAtHand,
  round: { readonly current: number },
  redraw: () => void,
): (mine: number, now: Ask, signal: AbortSignal) => Promise<void> {
  const draw = useRef(redraw);
  draw.current = redraw;
  return useCallback(
    async (mine: number, now: Ask, signal: AbortSignal): Promise<void> => {
      const seen = rows.seen();
      const lines = seen.map(([, r]) => r.line);
      const told = await post<{ ahead: JudgedRow[] | null }>({ ...now, ahead: lines, count: 0 }, signal);
      if (!told.ok || told.data.ahead === null || mine !== round.current) return;
      rows.judge(seen, told.data.ahead);
      draw.current();
      // These rows are on screen before the whole list is asked, whose work would hold them up.
      await new Promise((done) => setTimeout(done, FRAME));
    },
    [post, rows, round],
  );
}

/**
 * Asks when the question changes, again when told to, and every second while rows are being read, for what is
 * there so far. Returns what asks again.
 */
function useAsking(
  key: string,
  round: { current: number },
  question: (mine: number, signal: AbortSignal) => Promise<void>,
  reading: boolean,
  answer: unknown,
): () => void {
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for what is asked
  useEffect(() => {
    const mine = ++round.current;
    const stop = new AbortController();
    void question(mine, stop.signal);
    return () => {
      stop.abort();
      // Whatever is still under way for a question that has gone asks no more.
      round.current += 1;
    };
  }, [key, round, question]);

  const refresh = useCallback(
    () => void question(++round.current, new AbortController().signal),
    [round, question],
  );

  // biome-ignore lint/correctness/useExhaustiveDependencies: each answer asks for the next
  useEffect(() => {
    if (!reading) return;
    const timer = setTimeout(refresh, 1000);
    return () => clearTimeout(timer);
  }, [reading, refresh, answer]);
  return refresh;
}

type Post = <T = Answered>(body: object, signal?: AbortSignal) => Promise<Told<T>>;
/** Questions beside the window: rows however far down, and what verdicts would be under other settings. */
function useBeside(post: Post, asked: { readonly current: Ask }): Pick<Screen, 'rowsUpTo' | 'verdictsUnder'> {
  const rowsUpTo = useCallback(
    async (most: number): Promise<ListRow[]> => {
      const out: ListRow[] = [];
      while (out.length < most) {
        const count = Math.min(AT_MOST, most - out.length);
        const told = await post({ ...asked.current, remedies: false, from: out.length, count });
        if (!told.ok) return out;
        out.push(...told.data.window);
        if (told.data.window.length < count) return out;
      }
      return out;
    },
    [post, asked],
  );
  const verdictsUnder = useCallback(
    async (settings: ListSettings): Promise<Answer['verdicts'] | null> => {
      const told = await post({ ...asked.current, settings, count: 0 });
      return told.ok ? told.data.verdicts : null;
    },
    [post, asked],
  );
  return { rowsUpTo, verdictsUnder };
}
