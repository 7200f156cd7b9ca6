/** The rows of a screened list; what to do where none is left. */
import { Box, LinearProgress, Typography } from '@mui/material';
import type { ListRow } from '../../../between/ask.ts';
import { useCell } from './Cell.tsx';
import { Grid } from './Grid.tsx';
import type { VerdictName } from './ListBar.tsx';
import type { ListData } from './listData.ts';
import { Nothing } from './Nothing.tsx';
import { useFoot } from './useFoot.tsx';
import type { ListPageState } from './useListPage.ts';
import { isReading } from './useScreen.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  data: ListData;
  page: ListPageState;
  opened: number | null;
  onOpen: (row: ListRow) => void;
  onVerdict: (verdict: VerdictName) => void;
  onAssume: () => void;
  height: string;
};

export function Rows({
  data: p,
  page: { url, query, removed, settings, screen, count, columns, decisions },
  opened,
  onOpen,
  onVerdict,
  onAssume,
  height,
}: Props) {
  const { t } = useWords();
  const { answer } = screen;
  const sales = p.screen.currency;
  const list = settings.own.assumptions.purchase.currency;
  const scale = screen.sums?.stats.find((x) => x.figure === 'price')?.to ?? 0;
  const cell = useCell({ list, sales, scale });
  const foot = useFoot(screen, count, list, sales);
  const only = query.filters.find((x) => x.kind === 'verdict');
  return (
    <Box sx={{ minWidth: 0, position: 'relative' }}>
      <Box sx={{ height: 2 }}>
        {screen.busy && <LinearProgress aria-label={t('nav.loading')} sx={{ height: 2 }} />}
      </Box>
      {answer !== null && answer.rows === 0 && isReading(screen.work) ? (
        <Typography color="text.secondary" sx={{ py: 5, px: 2 }}>
          {t(p.list.isCatalogue ? 'catalogue.nothingYet' : 'list.waiting')}
        </Typography>
      ) : answer !== null && count === 0 && !screen.busy ? (
        <Nothing
          answer={answer}
          short={query.text === '' && query.filters.length === 1 && only?.only.join() === 'pass'}
          onUnknown={() => onVerdict('unknown')}
          onNear={() => onVerdict('near')}
          setup={`${url}/setup`}
          refused={p.counts.invalid > 0 ? { count: p.counts.invalid, url: `${url}/file?what=refused` } : null}
          onAssume={onAssume}
        />
      ) : (
        <Grid
          columns={columns.grid}
          count={count}
          rowAt={screen.rowAt}
          inView={screen.inView}
          cell={cell}
          foot={foot}
          sort={query.sort}
          onSort={columns.sortBy}
          onWidth={columns.widen}
          onMove={columns.moveTo}
          ticked={new Set(decisions.ticked.keys())}
          allTicked={decisions.allTicked}
          onTick={decisions.tick}
          onTickAll={() => void decisions.tickAll()}
          opened={opened}
          onOpen={onOpen}
          question={JSON.stringify([query, removed])}
          label={t('list.grid')}
          height={height}
        />
      )}
    </Box>
  );
}
