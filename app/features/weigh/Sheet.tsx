import { Alert, Box, Button, IconButton, MenuItem, Typography } from '@mui/material';
import { Menu } from '../../ui/later.tsx';
import { MoreButton } from '../../ui/MoreButton.tsx';
import RedoIcon from '@mui/icons-material/Redo';
import UndoIcon from '@mui/icons-material/Undo';
import { lazy, memo, Suspense, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import type { ReactNode } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { saveText } from '../../ui/saveText.ts';
import { Link, useFetcher, useRevalidator } from 'react-router';
import type { Family } from '../../../core/lane/costLines.ts';
import { grossAt } from '../../../core/lane/steps/revenue.ts';
import { MarginBar } from '../../ui/MarginBar.tsx';
import { useOthersChanges } from '../../ui/saving.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { useAddress } from '../../ui/useAddress.ts';
import { Text } from './bound.tsx';
import { HurdlesPane, LaunchPane } from './panes.tsx';
import { TargetsPane, TrialsPane } from './TargetsPane.tsx';
import { LanesPane } from './LanesPane.tsx';
import { SheetContext, SheetStore, useSelected, useSnapshot, useStore, useValue } from './store.ts';
import type { SheetState } from './store.ts';
import { answersFor, useLaneViews } from './useFigures.ts';
import type { Frame, LaneView } from './useFigures.ts';
import { Conflicts, Answer, NewerRates } from './Answer.tsx';
import { Problems } from './Problems.tsx';
import { Breakdown } from './Breakdown.tsx';
import { GatesAndNotes } from './GatesAndNotes.tsx';
import { useWords } from '../../ui/useWords.ts';

const More = lazy(() => import('./More.tsx'));
const MarketBrief = lazy(() => import('../market/MarketBrief.tsx'));
const MORE = ['scenarios', 'ladder', 'variations', 'sure', 'history'] as const;

export type SheetProps = {
  state: SheetState;
  frame: Frame;
  cardHeads: { id: string; kind: string; key: string; name: string; inForceFrom: string; example: boolean }[];
  usedHeads: SheetProps['cardHeads'];
  canEdit: boolean;
  base: string;
  dropped: string | null;
};

/**
 * The candidate's sheet: the answer in a sentence, the live bar, the breakdown that is the form, and what
 * follows from it.
 */
export function Sheet({ state, frame, cardHeads, usedHeads, canEdit, base, dropped }: SheetProps) {
  const store = useRef<SheetStore>(null);
  if (store.current === null || store.current.get().state.candidate.id !== state.candidate.id)
    store.current = new SheetStore(state, `${base}/${state.candidate.id}/save`, canEdit, frame.today);
  const current = store.current;
  useEffect(() => current.recover(), [current]);
  useEffect(() => current.refresh(state), [current, state]);
  const { revalidate } = useRevalidator();
  const by = useOthersChanges(`${base}/${state.candidate.id}/edition`, () => void revalidate());
  useEffect(() => {
    const leave = (e: BeforeUnloadEvent) => {
      void current.flush();
      if (current.get().saving === 'unsaved' || current.get().saving === 'saving') e.preventDefault();
    };
    window.addEventListener('beforeunload', leave);
    return () => window.removeEventListener('beforeunload', leave);
  }, [current]);
  return (
    <SheetContext value={current}>
      <SheetBody
        frame={frame}
        cardHeads={cardHeads}
        usedHeads={usedHeads}
        base={base}
        dropped={dropped}
        by={by}
      />
    </SheetContext>
  );
}

function SheetBody({
  frame,
  cardHeads,
  usedHeads,
  base,
  dropped,
  by,
}: Pick<SheetProps, 'frame' | 'cardHeads' | 'usedHeads' | 'base' | 'dropped'> & { by: string | null }) {
  const { t } = useWords();
  const store = useStore();
  const snapshot = useSnapshot();
  const [search, setAddress] = useAddress();
  const views = useLaneViews(snapshot.state, frame);
  const lanesOnly = useMemo(() => views.filter((v) => v.state.scenarioOf === null), [views]);
  const chosen = views.find((v) => v.id === search.get('lane')) ?? lanesOnly[0];
  const more = MORE.find((x) => x === search.get('more')) ?? null;
  const [open, setOpen] = useState<Family | 'demand' | null>(null);
  useHotkeys(
    'mod+z',
    (e) => {
      e.preventDefault();
      store.undo();
    },
    { enableOnFormTags: true },
  );
  useHotkeys(
    'mod+shift+z, mod+y',
    (e) => {
      e.preventDefault();
      store.redo();
    },
    { enableOnFormTags: true },
  );
  const viewOf = useLatest(() => chosen);
  const choose = useLatest((id: string) => setAddress({ lane: id }));
  const toggle = useLatest((family: Family | 'demand') => setOpen(open === family ? null : family));
  // Break-evens take longer than a figure; they follow a moment later while one types fast.
  const late = useDeferredValue(chosen);
  const lateState = useDeferredValue(snapshot.state);
  const answers = useMemo(
    () => (late === undefined ? null : answersFor(late, lateState, frame.settings)),
    [late, lateState, frame.settings],
  );

  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Head base={base} dropped={dropped} viewOf={viewOf} by={by} />
      <Conflicts />
      {chosen === undefined || answers === null ? (
        <Box sx={{ mt: 3 }}>
          <Typography variant="h4" sx={{ mb: 2 }}>
            {t('sheet.noLanes')}
          </Typography>
          <LanesPane views={lanesOnly} cardHeads={cardHeads} chosen={null} onChoose={choose} base={base} />
        </Box>
      ) : (
        <>
          <Answer view={late ?? chosen} answers={answers} />
          <MarginBar
            result={chosen.result}
            large
            height={54}
            breakEven={answers.breakEven.price === null ? null : grossAt(chosen.doc, answers.breakEven.price)}
            onChoose={toggle}
            chosen={open === 'demand' ? null : open}
          />
          <Problems view={chosen} root={base.replace(/\/weigh$/, '')} canEdit={store.canEdit} />
          <NewerRates
            key={chosen.id}
            view={chosen}
            cardHeads={cardHeads}
            usedHeads={usedHeads}
            base={base}
            frame={frame}
          />
          {chosen.state.scenarioOf !== null && (
            <Alert
              severity="info"
              variant="outlined"
              sx={{ my: 1, py: 0 }}
              action={
                <Button size="small" onClick={() => choose(chosen.state.scenarioOf as string)}>
                  {t('sheet.backToLane')}
                </Button>
              }>
              {t('sheet.isScenario', { name: chosen.doc.name })}
            </Alert>
          )}
          <Box
            sx={{
              display: 'grid',
              gridTemplateColumns: { xs: '1fr', lg: '1.28fr 1fr' },
              gap: { xs: 3, lg: 4 },
              mt: 1.5,
            }}>
            <Box sx={{ minWidth: 0 }}>
              <Breakdown
                view={chosen}
                candidateId={snapshot.state.candidate.id}
                open={open}
                toggle={toggle}
                cardHeads={cardHeads}
              />
              <LaunchPane
                view={late ?? chosen}
                answers={answers}
                base={base}
                candidateId={snapshot.state.candidate.id}
              />
            </Box>
            <Box sx={{ minWidth: 0 }}>
              <LanesPane
                views={lanesOnly}
                cardHeads={cardHeads}
                chosen={chosen.id}
                onChoose={choose}
                base={base}
              />
              <Suspense fallback={null}>
                <MarketBrief
                  view={late ?? chosen}
                  frame={frame}
                  url={`${base}/${snapshot.state.candidate.id}/market`}
                />
              </Suspense>
              <HurdlesPane view={late ?? chosen} answers={answers} />
              <TargetsPane view={late ?? chosen} answers={answers} />
              <TrialsPane view={late ?? chosen} />
            </Box>
          </Box>
          <Box
            component="section"
            aria-label={t('sheet.moreAbout')}
            sx={{ borderTop: '1px solid', borderColor: 'text.primary', mt: 3, pt: 1 }}>
            <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', alignItems: 'baseline', mb: 1 }}>
              <Typography variant="h3" component="h2" sx={{ mr: 1 }}>
                {t('sheet.moreAbout')}
              </Typography>
              {MORE.map((x) => (
                <Button
                  key={x}
                  size="small"
                  aria-expanded={more === x}
                  onClick={() => setAddress({ more: more === x ? null : x })}
                  sx={{
                    fontWeight: more === x ? 700 : 500,
                    textDecoration: more === x ? 'underline' : 'none',
                  }}>
                  {t(`sheet.moreTabs.${x}`)}
                </Button>
              ))}
            </Box>
            {more !== null && (
              <Suspense fallback={<Typography variant="body2">{t('nav.loading')}</Typography>}>
                <More
                  tab={more}
                  view={late ?? chosen}
                  views={views}
                  onChoose={choose}
                  base={base}
                  candidateId={snapshot.state.candidate.id}
                />
              </Suspense>
            )}
          </Box>
          <GatesAndNotes candidateId={snapshot.state.candidate.id} />
        </>
      )}
    </Box>
  );
}

const Head = memo(function Head({
  base,
  dropped,
  viewOf,
  by,
}: {
  base: string;
  dropped: string | null;
  viewOf: () => LaneView | undefined;
  by: string | null;
}) {
  const { t } = useWords();
  const store = useStore();
  const { id } = store.get().state.candidate;
  const name = useValue('candidate', id, ['name']) as string;
  const way = useValue('candidate', id, ['way']) as string;
  const stage = useValue('candidate', id, ['stage']) as string;
  const fetcher = useFetcher();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [naming, setNaming] = useState(false);
  const act = (body: Record<string, string>) =>
    void fetcher.submit(body, { method: 'post', action: `${base}` });
  const text = () => JSON.stringify(viewOf()?.doc, null, 2);
  const hasLane = viewOf() !== undefined;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap', mb: 1 }}>
      <Typography component="span" sx={{ color: 'text.secondary' }}>
        <Box component={Link} to={base} sx={{ color: 'inherit', textDecoration: 'none' }}>
          {t('nav.weigh')}
        </Box>{' '}
        /
      </Typography>
      {naming ? (
        <Box sx={{ minWidth: 260 }} onKeyDown={(e) => e.key === 'Enter' && setNaming(false)}>
          <Text entity="candidate" id={id} path={['name']} label={t('form.name')} width="100%" required />
        </Box>
      ) : (
        <Typography
          component="h1"
          sx={{ fontWeight: 650, fontSize: '0.95rem', overflowWrap: 'anywhere' }}
          dir="auto">
          {name}
        </Typography>
      )}
      <Box
        component="span"
        aria-current="page"
        sx={{ ml: 1, fontWeight: 700, borderBottom: 2, borderColor: 'primary.main' }}>
        {t('sheet.costs')}
      </Box>
      <Box
        component={Link}
        to={`${base}/${id}/market${viewOf() === undefined ? '' : `?lane=${viewOf()?.id}`}`}
        sx={{ color: 'inherit', textDecoration: 'none', mx: 1 }}>
        {t('sheet.market')}
      </Box>
      <Tag>{t(`way.${way}`)}</Tag>
      <Tag>{t(`stageOfWork.${stage}`)}</Tag>
      {dropped !== null && <Tag color="error.main">{t('weigh.droppedWith', { reason: dropped })}</Tag>}
      <Box sx={{ ml: 'auto', display: 'flex', alignItems: 'center', gap: 0.5 }}>
        <SaveState back={`${base}/${id}`} by={by} />
        <MoreButton label={t('sheet.more')} onOpen={setMenu} />
        <Menu
          open={menu !== null}
          anchorEl={menu}
          onClose={() => setMenu(null)}
          onClick={() => setMenu(null)}>
          {store.canEdit && (
            <MenuItem onClick={() => setNaming(!naming)}>
              {naming ? t('sheet.renameDone') : t('sheet.rename')}
            </MenuItem>
          )}
          {hasLane && (
            <MenuItem onClick={() => saveText(`${name} ${viewOf()?.doc.country}.lane.json`, text())}>
              {t('sheet.download')}
            </MenuItem>
          )}
          {hasLane && (
            <MenuItem onClick={() => void navigator.clipboard?.writeText(text())}>{t('sheet.copy')}</MenuItem>
          )}
          {store.canEdit && (
            <MenuItem onClick={() => act({ intent: 'duplicate', id })}>{t('weigh.duplicate')}</MenuItem>
          )}
          {store.canEdit && (
            <MenuItem onClick={() => act({ intent: 'archive', ids: id })}>{t('weigh.archive')}</MenuItem>
          )}
          {store.canEdit && (
            <MenuItem onClick={() => act({ intent: 'delete', ids: id })}>{t('weigh.delete')}</MenuItem>
          )}
        </Menu>
      </Box>
    </Box>
  );
});

function Tag({ color = 'text.primary', children }: { color?: string; children: ReactNode }) {
  return (
    <Box
      component="span"
      sx={{
        border: '1px solid',
        borderColor: 'fieldLine',
        borderRadius: 1,
        px: 1,
        fontSize: '0.8rem',
        color,
      }}>
      {children}
    </Box>
  );
}

/** What has been saved, and the way back and forth through one's own changes. */
function SaveState({ back, by }: { back: string; by: string | null }) {
  const { t } = useWords();
  const store = useStore();
  const saving = useSelected((x) => x.saving);
  const canUndo = useSelected((x) => x.canUndo);
  const canRedo = useSelected((x) => x.canRedo);
  return (
    <>
      <Typography
        variant="body2"
        role="status"
        color={['saved', 'saving', 'unsaved', 'viewer'].includes(saving) ? 'text.secondary' : 'error'}>
        {by !== null && <>{t('saving.changedBy', { name: by })} · </>}
        {t(`saving.${saving}`)}
        {saving === 'signedOut' && (
          <>
            {' '}
            <a href={`/sign-in?to=${encodeURIComponent(back)}`}>{t('account.signIn')}</a>
          </>
        )}
      </Typography>
      <IconButton
        size="small"
        onClick={() => store.undo()}
        disabled={!canUndo}
        title={t('sheet.undo')}
        aria-label={t('sheet.undo')}>
        <UndoIcon fontSize="small" />
      </IconButton>
      <IconButton
        size="small"
        onClick={() => store.redo()}
        disabled={!canRedo}
        title={t('sheet.redo')}
        aria-label={t('sheet.redo')}>
        <RedoIcon fontSize="small" />
      </IconButton>
    </>
  );
}
