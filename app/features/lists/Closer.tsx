/** Goods of a list looked at a second time: the fast figures beside what the market's own history says. */
import { Alert, Box, Button, LinearProgress, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { Trans } from 'react-i18next';
import { Link, useFetcher, useRevalidator } from 'react-router';
import type { CloserLook } from '../../../core/evidence/closer.ts';
import type { ListRow } from '../../../between/ask.ts';
import { tell } from '../../ui/client.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { CloserRow } from './CloserRow.tsx';
import { TickedRows } from './TickedRows.tsx';
import type { Decided } from './TickedRows.tsx';
import './closerWords.ts';
import { useWords } from '../../ui/useWords.ts';

export type LookedShown = {
  key: number;
  line: number;
  code: string;
  title: string;
  listing: string;
  listingTitle: string;
  state: 'waiting' | 'looked' | 'noListing' | 'failed';
  fault: string | null;
  row: ListRow | null;
  look: CloserLook | null;
};
export type CloserData = {
  list: { id: string; name: string };
  home: string;
  work: { done: number; total: number } | null;
  rows: LookedShown[];
  root: string;
  canEdit: boolean;
};

export function CloserPage(p: CloserData) {
  const { t } = useWords();
  const url = `${p.root}/lists/${p.list.id}`;
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set());
  const { revalidate } = useRevalidator();
  const working = p.work !== null;
  useEffect(() => {
    if (!working) return;
    const timer = setInterval(() => void revalidate(), 1500);
    return () => clearInterval(timer);
  }, [working, revalidate]);
  const decide = useDecide(url, () => {
    setTicked(new Set());
    void revalidate();
  });
  const chosen = p.rows.filter((r) => ticked.has(r.key) && r.row !== null);
  return (
    <Box>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap' }}>
        <Typography variant="h1" sx={{ fontSize: '1.4rem' }}>
          {t('closer.title')}
        </Typography>
        <Typography color="text.secondary" dir="auto">
          {t('closer.of', { list: p.list.name })}
        </Typography>
        <Box sx={{ ml: 'auto', display: 'flex', gap: 1 }}>
          {p.canEdit && p.rows.length > 0 && <AllAgain rows={p.rows} busy={working} />}
          <Button component={Link} to={url} size="small">
            {t('closer.back')}
          </Button>
        </Box>
      </Box>
      <Typography color="text.secondary" sx={{ mb: 1, maxWidth: 760 }}>
        {t('closer.lead')}
      </Typography>
      {decide.wrong !== null && (
        <Alert severity="error" sx={{ mb: 1 }}>
          {decide.wrong}
        </Alert>
      )}
      <Said rows={p.rows} work={p.work} />
      {chosen.length > 0 && (
        <TickedRows
          count={chosen.length}
          canEdit={p.canEdit}
          onMark={(change) => decide.mark(chosen, change)}
          onKeep={() => decide.keep(chosen)}
          onUntick={() => setTicked(new Set())}
        />
      )}
      {p.rows.length > 0 && <Looks p={p} ticked={ticked} onTick={setTicked} />}
    </Box>
  );
}

/** How far the asking is, and how many goods nothing speaks against. */
function Said({ rows, work }: Pick<CloserData, 'rows' | 'work'>) {
  const { t } = useWords();
  const f = useFormat();
  if (work !== null)
    return (
      <Box role="status" sx={{ mb: 1, maxWidth: 420 }}>
        {t('closer.working', { done: f.number(work.done, 0), total: f.number(work.total, 0) })}
        <LinearProgress
          variant="determinate"
          value={work.total === 0 ? 0 : Math.min(100, (100 * work.done) / work.total)}
          aria-label={t('closer.title')}
        />
      </Box>
    );
  if (rows.length === 0) return <Typography sx={{ py: 3 }}>{t('closer.none')}</Typography>;
  const looked = rows.filter((r) => r.look !== null);
  const clear = looked.filter((r) => r.look?.warnings.length === 0).length;
  return (
    <Typography sx={{ fontSize: '1.12rem', mb: 1 }}>
      <Trans
        i18nKey="closer.said"
        count={clear}
        values={{ count: clear, of: looked.length }}
        components={{ b: <strong /> }}
      />
    </Typography>
  );
}

/** Asks for everything anew, or takes all off. */
function AllAgain({ rows, busy }: { rows: readonly LookedShown[]; busy: boolean }) {
  const { t } = useWords();
  const fetcher = useFetcher();
  const send = (body: object): void =>
    void fetcher.submit(JSON.stringify(body), { method: 'post', encType: 'application/json' });
  const asked = rows.map(({ key, line, code, title }) => ({ key, line, code, title }));
  return (
    <>
      <Button size="small" disabled={busy} onClick={() => send({ what: 'look', rows: asked })}>
        {t('closer.again')}
      </Button>
      <Button size="small" disabled={busy} onClick={() => send({ what: 'clear' })}>
        {t('closer.clear')}
      </Button>
    </>
  );
}

/** Decisions about rows, noted as on the list itself. */
function useDecide(url: string, done: () => void) {
  const { t } = useWords();
  const [wrong, setWrong] = useState<string | null>(null);
  const act = async (body: object): Promise<void> => {
    const told = await tell(`${url}/act`, body);
    setWrong(told.ok ? null : (told.error ?? t(`notDone.${told.why}`)));
    if (told.ok) done();
  };
  return {
    wrong,
    mark: (rows: readonly LookedShown[], change: Decided): void => {
      const of = rows.map((r) => ({
        key: r.key,
        name: (r.row?.title ?? r.title).slice(0, 500),
        profitPerMonth: r.row?.figures.profitPerMonth ?? null,
      }));
      void act({ what: 'mark', change: { rows: of, ...change } });
    },
    keep: (rows: readonly LookedShown[]): void =>
      void act({ what: 'keep', lines: rows.map((r) => r.line).slice(0, 200) }),
  };
}

const MEANS = ['30', '90', '180'] as const;

function Looks({
  p,
  ticked,
  onTick,
}: {
  p: CloserData;
  ticked: ReadonlySet<number>;
  onTick: (t: ReadonlySet<number>) => void;
}) {
  const { t } = useWords();
  const tick = (key: number, on: boolean): void =>
    onTick(new Set(on ? [...ticked, key] : [...ticked].filter((k) => k !== key)));
  return (
    <FigureTable label={t('closer.title')}>
      <thead>
        <tr>
          <th scope="col">{t('closer.goods')}</th>
          <th scope="col" className="text">
            {t('closer.against')}
          </th>
          <th scope="col">{t('closer.fast')}</th>
          <th scope="col">{t('closer.now')}</th>
          {MEANS.map((days) => (
            <th scope="col" key={days}>
              {t('closer.mean', { days })}
            </th>
          ))}
          <th scope="col">{t('closer.keepsAtMean')}</th>
          <th scope="col">{t('closer.ownShop')}</th>
          <th scope="col">{t('closer.offers')}</th>
          <th scope="col" className="text">
            {t('closer.permission')}
          </th>
        </tr>
      </thead>
      <tbody>
        {p.rows.map((r) => (
          <CloserRow
            key={r.key}
            r={r}
            ticked={ticked.has(r.key)}
            onTick={p.canEdit ? (on) => tick(r.key, on) : null}
          />
        ))}
      </tbody>
    </FigureTable>
  );
}
