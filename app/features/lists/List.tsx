import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { ListRow } from '../../../between/ask.ts';
import { SHORT_LIST } from '../../../core/lists/query.ts';
import type { ListLook } from '../../../core/lists/query.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import { useFormat } from '../../ui/locale.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { AssumptionsPane } from './AssumptionsPane.tsx';
import { MOST_LOOKS } from '../../../core/evidence/closer.ts';
import { useSubmit } from 'react-router';
import { Rows } from './Rows.tsx';
import { Limits } from './Limits.tsx';
import { ListBar } from './ListBar.tsx';
import { TickedRows } from './TickedRows.tsx';
import type { VerdictName } from './ListBar.tsx';
import { NewerCards } from './ListCards.tsx';
import type { ListData } from './listData.ts';
import { ListHead } from './ListHead.tsx';
import { ListLooks } from './ListLooks.tsx';
import { RowPane } from './RowPane.tsx';
import { useRowsTop } from './useFoot.tsx';
import { useListPage } from './useListPage.ts';
import { usePanes } from './usePanes.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

/**
 * A screened list: the answer in a sentence, the limits as a funnel, the rows, and the assumptions or an
 * opened row beside them.
 */
export function ListPage(p: ListData) {
  const { t } = useWords();
  const page = useListPage(p);
  const { url, query, removed, setQuery, columns, act, tally, said, settings, screen, count, decisions } =
    page;
  const { own, setOwn, tried } = settings;
  const { answer } = screen;
  const { ticked, untick, mark } = decisions;
  const { showLimits, side, toggleLimits, closeRow, openSide } = usePanes();
  const [openLine, setOpenLine] = useState<number | null>(null);
  const { above, top } = useRowsTop();

  const open = useLatest((row: ListRow): void => {
    setOpenLine(row.line);
    openSide('row');
  });
  const showVerdict = (v: VerdictName | null): void => {
    const rest = query.filters.filter((x) => x.kind !== 'verdict');
    setQuery(
      {
        ...query,
        filters: v === null ? rest : [{ kind: 'verdict', only: [v] }, ...rest],
        sort: v === 'near' && query.sort.length === 0 ? SHORT_LIST.sort : query.sort,
      },
      false,
    );
  };
  const apply = (look: ListLook, assumptions: ListSettings['assumptions'] | null): void => {
    columns.set(look.columns);
    setQuery(look.query, false);
    if (assumptions !== null) setOwn({ ...own, assumptions });
  };
  const rows = [...ticked.values()];
  const submit = useSubmit();
  const lookCloser = (): void => {
    const asked = rows.map(({ key, line, code, title }) => ({ key, line, code, title }));
    const to = { method: 'post', action: `${url}/closer`, encType: 'application/json' } as const;
    void submit(JSON.stringify({ what: 'look', rows: asked }), to);
  };
  const tall = { maxHeight: `max(360px, calc(100vh - ${top + 8}px))` };

  return (
    <Box sx={{ mx: { sm: -1.5 } }}>
      <div ref={above}>
        <ListHead
          data={p}
          url={url}
          screen={screen}
          tally={tally}
          shownCount={count}
          onStop={p.canEdit ? () => void act({ what: 'cancel' }) : null}
          onAssumptions={() => openSide('assumptions')}
        />
        {answer !== null && (
          <NewerCards
            cards={p.cards}
            before={answer.verdicts}
            ask={(ids) => screen.verdictsUnder({ ...own, ...ids })}
            onTake={p.canEdit ? (ids) => setOwn({ ...own, ...ids }) : null}
          />
        )}
        <ListBar
          query={query}
          removed={removed}
          answer={answer}
          onVerdict={showVerdict}
          onText={(text) => setQuery({ ...query, text })}
          middle={
            <>
              {ticked.size > 0 && (
                <TickedRows
                  count={rows.length}
                  canEdit={p.canEdit}
                  onMark={(change) => void mark(rows, change).then(untick)}
                  onKeep={() => void decisions.keep(rows)}
                  onPacks={
                    rows.some((r) => (r.figures.pack ?? 0) > 1 || r.listingPack > 1)
                      ? () => void decisions.confirmPacks(rows)
                      : null
                  }
                  onCloser={rows.length <= MOST_LOOKS ? lookCloser : null}
                  onUntick={untick}
                />
              )}
              <SaidOrShortlisted
                said={said}
                shortlisted={ticked.size === 0 ? tally.shortlisted : 0}
                onShow={() =>
                  setQuery(
                    { ...query, text: '', filters: [{ kind: 'flag', flag: 'shortlisted', is: true }] },
                    false,
                  )
                }
              />
            </>
          }>
          <Button
            size="small"
            aria-pressed={removed}
            onClick={() => setQuery(query, !removed)}
            disabled={query.filters.length === 0 && query.text === ''}>
            {t(removed ? 'list.keptShown' : 'list.showRemoved')}
          </Button>
          <ListLooks
            url={url}
            views={p.views}
            extras={p.list.extras}
            canEdit={p.canEdit}
            columns={columns}
            query={query}
            tried={tried}
            assumptions={own.assumptions}
            act={act}
            onApply={apply}
          />
          <Button size="small" aria-pressed={showLimits} onClick={toggleLimits}>
            {t('list.limits')}
          </Button>
          <Button
            size="small"
            aria-pressed={side === 'assumptions'}
            onClick={() => openSide(side === 'assumptions' ? null : 'assumptions')}>
            {t('list.assumptions')}
          </Button>
        </ListBar>
      </div>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: {
            xs: '1fr',
            md: [showLimits && '204px', 'minmax(0, 1fr)', side !== null && '292px'].filter(Boolean).join(' '),
          },
          gap: 2,
          alignItems: 'start',
        }}>
        {showLimits && (
          <Box sx={{ overflow: 'auto', pr: 0.5 }} style={tall}>
            <Limits
              query={query}
              onQuery={setQuery}
              answer={answer}
              sums={screen.sums}
              listCurrency={own.assumptions.purchase.currency}
              salesCurrency={p.screen.currency}
              figures={columns.can}
            />
          </Box>
        )}
        <Rows
          data={p}
          page={page}
          opened={side === 'row' ? openLine : null}
          onOpen={open}
          onVerdict={showVerdict}
          onAssume={() => openSide('assumptions')}
          height={`max(360px, calc(100vh - ${top + 12}px))`}
        />
        {side !== null && (
          <Box
            style={tall}
            sx={{ overflow: 'auto', pl: 2, borderLeft: '1px solid', borderColor: 'hairline' }}>
            {side === 'assumptions' || openLine === null ? (
              <AssumptionsPane data={p} settings={settings} strange={screen.sums?.strange} />
            ) : (
              <RowPane
                url={url}
                line={openLine}
                edition={decisions.edition + settings.edition}
                tried={tried}
                hurdles={own.assumptions.hurdles}
                root={p.root}
                canEdit={p.canEdit}
                onClose={closeRow}
                onMark={(row, change) => void mark([row], change)}
                onKeep={(row, quantity) => void decisions.keep([row], quantity)}
              />
            )}
          </Box>
        )}
      </Box>
    </Box>
  );
}

/** What was just done; where nothing was said, the way to the short list. */
function SaidOrShortlisted({
  said,
  shortlisted,
  onShow,
}: {
  said: string | null;
  shortlisted: number;
  onShow: () => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  if (said !== null)
    return (
      <Box role="status" sx={{ fontSize: '0.84rem' }}>
        {said}
      </Box>
    );
  return (
    shortlisted > 0 && (
      <Button size="small" onClick={onShow}>
        {t('list.tallyShort', { count: f.number(shortlisted, 0) as never })}
      </Button>
    )
  );
}
