import { Alert, Box, Button, Table, TableBody, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, useSubmit } from 'react-router';
import { barExtent } from '../../ui/MarginBar.tsx';
import { useFormat } from '../../ui/locale.ts';
import { RatesUsed } from '../../ui/RatesUsed.tsx';
import { TableFile } from '../../ui/TableFile.tsx';
import { useAddress } from '../../ui/useAddress.ts';
import { useOpenLanes, useRowsAsNeeded } from './useWeighRows.ts';
import type { Opened } from './useWeighRows.ts';
import { CandidateMenu, DropDialog, Ticked } from './WeighActions.tsx';
import { perHundred } from './WeighCells.tsx';
import { clears, weighedBy } from './weighed.ts';
import type { CandidateLine, LaneLine } from './weighed.ts';
import { WeighFilters } from './WeighFilters.tsx';
import { WeighHead } from './WeighHead.tsx';
import { Empty } from './WeighLimits.tsx';
import { CandidateRow } from './WeighRow.tsx';
import { weighTable } from './weighTable.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  lines: CandidateLine[];
  /** The lanes of the candidate that the address opens. */
  opened: Opened | null;
  rates: Parameters<typeof RatesUsed>[0]['rates'];
  homeCurrency: string;
  toSpend: number | null;
  base: string;
  canEdit: boolean;
};
export function WeighList({ lines, opened, rates, homeCurrency, toSpend, base, canEdit }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const [search, set] = useAddress();
  const submit = useSubmit();
  const [menu, setMenu] = useState<{ el: HTMLElement; line: CandidateLine } | null>(null);
  const [dropping, setDropping] = useState<CandidateLine[] | null>(null);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const tick = (id: string): void => {
    const next = new Set(ticked);
    if (!next.delete(id)) next.add(id);
    setTicked(next);
  };

  const weighed = weighedBy(lines, search, f.locale);
  const { shelf, shown } = weighed;
  const hundred = search.get('bars') !== 'money';
  const openId = search.get('open');
  const openLanes = useOpenLanes(opened, openId, base);
  const { drawn, more } = useRowsAsNeeded(shown.length);
  const barOf = (x: LaneLine) => (hundred ? perHundred(x.bar) : x.bar);
  const scale = Math.max(
    1e-9,
    ...shown.flatMap((l) => l.best ?? []).map((x) => barExtent(barOf(x))),
    ...openLanes.map((x) => barExtent(barOf(x))),
  );
  const cleared = lines.filter((l) => !l.archived && l.dropped === null && clears(l)).length;
  const done = search.get('done');
  const post = (body: Record<string, string>) =>
    void submit(body, { method: 'post', action: `${base}/weigh` });

  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, mb: 1.5, flexWrap: 'wrap' }}>
        <Typography variant="h1">{t('nav.weigh')}</Typography>
        <Typography color="text.secondary">
          {t('weigh.summary', { count: shelf.length })} · {t('weigh.cleared', { count: cleared })}
          {toSpend !== null && <> · {t('weigh.toSpend', { amount: f.money(toSpend, homeCurrency) })}</>}
        </Typography>
        <Button component={Link} to={`${base}/suppliers`} sx={{ ml: 'auto' }}>
          {t('palette.suppliers')}
        </Button>
        {canEdit && (
          <Button component={Link} to={`${base}/find`} variant="contained">
            {t('weigh.new')}
          </Button>
        )}
      </Box>
      {done !== null && (
        <Alert
          severity="info"
          sx={{ mb: 1.5 }}
          onClose={() => set({ done: null, ids: null })}
          action={
            <Button size="small" onClick={() => post({ intent: `un${done}`, ids: search.get('ids') ?? '' })}>
              {t('undo')}
            </Button>
          }>
          {t(`weigh.done.${done}`)}
        </Alert>
      )}
      {lines.length === 0 ? (
        <Empty base={base} canEdit={canEdit} />
      ) : (
        <>
          <WeighFilters lines={lines} search={search} set={set} takes={weighed.takes} />
          {ticked.size > 0 && (
            <Ticked
              lines={lines.filter((l) => ticked.has(l.id))}
              onDrop={() => setDropping(lines.filter((l) => ticked.has(l.id)))}
              onUntick={() => setTicked(new Set())}
              base={base}
              post={post}
            />
          )}
          <Box sx={{ overflowX: 'auto', position: 'relative' }}>
            <Table
              size="small"
              sx={{
                minWidth: { md: 960 },
                tableLayout: { md: 'fixed' },
                '& thead th': {
                  lineHeight: 1.25,
                  verticalAlign: 'bottom',
                  borderBottom: '1.5px solid',
                  borderColor: 'text.primary',
                },
              }}>
              <WeighHead
                weighed={weighed}
                set={set}
                homeCurrency={homeCurrency}
                hundred={hundred}
                allTicked={shown.length > 0 && shown.every((l) => ticked.has(l.id))}
                onTickAll={canEdit ? (all) => setTicked(new Set(all ? shown.map((l) => l.id) : [])) : null}
              />
              <TableBody>
                {shown.slice(0, drawn).map((l) => (
                  <CandidateRow
                    key={l.id}
                    line={l}
                    barOf={barOf}
                    scale={scale}
                    base={base}
                    homeCurrency={homeCurrency}
                    isOpen={l.id === openId}
                    lanes={l.id === openId ? openLanes : []}
                    ticked={ticked.has(l.id)}
                    onOpen={() => set({ open: l.id === openId ? null : l.id })}
                    onTick={canEdit ? () => tick(l.id) : null}
                    onMenu={canEdit ? (el) => setMenu({ el, line: l }) : null}
                  />
                ))}
              </TableBody>
            </Table>
          </Box>
          {shown.length > drawn && <div ref={more}>{t('weigh.more', { count: shown.length - drawn })}</div>}
          {shown.length === 0 && <Typography sx={{ my: 3 }}>{t('weigh.nothing')}</Typography>}
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', mt: 0.5 }}>
            <Box sx={{ flex: 1 }}>
              <RatesUsed rates={rates} />
            </Box>
            {shown.length > 0 && <TableFile table={() => weighTable(t, homeCurrency, shown)} />}
          </Box>
        </>
      )}
      {menu !== null && (
        <CandidateMenu
          {...menu}
          onClose={() => setMenu(null)}
          onDrop={() => setDropping([menu.line])}
          post={post}
        />
      )}
      {dropping !== null && (
        <DropDialog
          lines={dropping}
          base={base}
          onClose={() => {
            setDropping(null);
            setTicked(new Set());
          }}
        />
      )}
    </Box>
  );
}
