import { Alert, Box, Button, Chip, IconButton, Menu, MenuItem, Tooltip, Typography } from '@mui/material';
import MoreIcon from '@mui/icons-material/MoreHoriz';
import RedoIcon from '@mui/icons-material/Redo';
import UndoIcon from '@mui/icons-material/Undo';
import type { TFunction } from 'i18next';
import { lazy, memo, Suspense, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Trans, useTranslation } from 'react-i18next';
import { Link, useFetcher, useRevalidator } from 'react-router';
import { FAMILIES, FAMILY_LINES } from '../../../core/lane/lines.ts';
import type { Family } from '../../../core/lane/lines.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { CARD_FIELDS } from '../../../core/workspace/records.ts';
import type { CandidateData } from '../../../core/workspace/records.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { grossOf } from '../../../core/tax/revenue.ts';
import { useBounds } from '../../ui/bounds.ts';
import { isQuoted } from '../../../core/goods/goods.ts';
import { MarginBar } from '../../ui/MarginBar.tsx';
import { floorTo, roundToTotal, useFormat } from '../../ui/locale.ts';
import { useOthersChanges } from '../../ui/saving.ts';
import { hurdleAmount } from '../../ui/figures.ts';
import { countryName } from '../../ui/names.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { useAddress } from '../../ui/useAddress.ts';
import { Num, Text } from './bound.tsx';
import { DemandForm, FamilyForm } from './forms.tsx';
import { HurdlesPane, LanesPane, LaunchPane, TargetsPane, TrialsPane } from './panes.tsx';
import { SheetContext, SheetStore, useSelected, useSnapshot, useStore, useValue } from './store.ts';
import type { SheetState } from './store.ts';
import { answersFor, useLaneViews } from './useFigures.ts';
import type { Answers, Frame, LaneView } from './useFigures.ts';
import { Figure } from './Workings.tsx';

const UpToDate = lazy(() => import('./UpToDate.tsx'));
const More = lazy(() => import('./More.tsx'));
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
 * The candidate's sheet: the answer in a sentence, the live bar, the breakdown that is the form, and what follows
 * from it.
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
      <SheetBody frame={frame} cardHeads={cardHeads} usedHeads={usedHeads} base={base} dropped={dropped} by={by} />
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
  const { t } = useTranslation();
  const store = useStore();
  const snapshot = useSnapshot();
  const [search, setAddress] = useAddress();
  const views = useLaneViews(snapshot.state, frame);
  const lanesOnly = useMemo(() => views.filter((v) => v.state.scenarioOf === null), [views]);
  const chosen = views.find((v) => v.id === search.get('lane')) ?? lanesOnly[0];
  const more = MORE.find((x) => x === search.get('more')) ?? null;
  const [open, setOpen] = useState<Family | 'demand' | null>(null);
  useHotkeys('mod+z', (e) => (e.preventDefault(), store.undo()), { enableOnFormTags: true });
  useHotkeys('mod+shift+z, mod+y', (e) => (e.preventDefault(), store.redo()), { enableOnFormTags: true });
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
            breakEven={answers.breakEven.price === null ? null : grossOf(chosen.doc, answers.breakEven.price)}
            onChoose={toggle}
            chosen={open === 'demand' ? null : open}
          />
          <Problems view={chosen} />
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
              <LanesPane views={lanesOnly} cardHeads={cardHeads} chosen={chosen.id} onChoose={choose} base={base} />
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
                  sx={{ fontWeight: more === x ? 700 : 500, textDecoration: more === x ? 'underline' : 'none' }}>
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
  const { t } = useTranslation();
  const store = useStore();
  const { id } = store.get().state.candidate;
  const name = useValue('candidate', id, ['name']) as string;
  const way = useValue('candidate', id, ['way']) as string;
  const stage = useValue('candidate', id, ['stage']) as string;
  const fetcher = useFetcher();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [naming, setNaming] = useState(false);
  const act = (body: Record<string, string>) => void fetcher.submit(body, { method: 'post', action: `${base}` });
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
        <Typography component="h1" sx={{ fontWeight: 650, fontSize: '0.95rem', overflowWrap: 'anywhere' }} dir="auto">
          {name}
        </Typography>
      )}
      <Chip size="small" variant="outlined" label={t(`way.${way}`)} />
      <Chip size="small" variant="outlined" label={t(`stageOfWork.${stage}`)} />
      {dropped !== null && (
        <Chip size="small" color="error" variant="outlined" label={t('weigh.droppedWith', { reason: dropped })} />
      )}
      <Box sx={{ ml: 'auto', display: 'flex', alignItems: 'center', gap: 0.5 }}>
        <SaveState back={`${base}/${id}`} by={by} />
        <IconButton
          size="small"
          onClick={(e) => setMenu(e.currentTarget)}
          aria-label={t('sheet.more')}
          aria-haspopup="menu">
          <MoreIcon fontSize="small" />
        </IconButton>
        <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)} onClick={() => setMenu(null)}>
          {store.canEdit && (
            <MenuItem onClick={() => setNaming(!naming)}>{naming ? t('sheet.renameDone') : t('sheet.rename')}</MenuItem>
          )}
          {hasLane && (
            <MenuItem onClick={() => download(`${name} ${viewOf()?.doc.country}.lane.json`, text())}>
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
          {store.canEdit && <MenuItem onClick={() => act({ intent: 'delete', ids: id })}>{t('weigh.delete')}</MenuItem>}
        </Menu>
      </Box>
    </Box>
  );
});

/** What has been saved, and the way back and forth through one's own changes. */
function SaveState({ back, by }: { back: string; by: string | null }) {
  const { t } = useTranslation();
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
      <Tooltip title={t('sheet.undo')}>
        <span>
          <IconButton size="small" onClick={() => store.undo()} disabled={!canUndo} aria-label={t('sheet.undo')}>
            <UndoIcon fontSize="small" />
          </IconButton>
        </span>
      </Tooltip>
      <Tooltip title={t('sheet.redo')}>
        <span>
          <IconButton size="small" onClick={() => store.redo()} disabled={!canRedo} aria-label={t('sheet.redo')}>
            <RedoIcon fontSize="small" />
          </IconButton>
        </span>
      </Tooltip>
    </>
  );
}

function download(name: string, text: string): void {
  const url = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
  const a = document.createElement('a');
  a.href = url;
  a.download = name.replace(/[^\p{L}\p{N}. _-]/gu, '');
  a.click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

const Conflicts = memo(function Conflicts() {
  const { t } = useTranslation();
  const store = useStore();
  const conflicts = useSelected((x) => x.conflicts);
  const invalid = useSelected((x) => x.invalid);
  const show = (v: unknown) =>
    v === null || v === undefined ? t('line.blank') : typeof v === 'object' ? t('sheet.severalValues') : String(v);
  return (
    <>
      {conflicts
        .filter((c) => c.patch.path[0] !== 'provenance')
        .map((c) => (
          <Alert
            key={`${c.patch.id}${c.patch.path.join('.')}`}
            severity="warning"
            sx={{ mb: 1 }}
            action={
              <>
                <Button size="small" onClick={() => decide(store, c.patch.path, false)}>
                  {t('sheet.takeTheirs')}
                </Button>
                <Button size="small" onClick={() => decide(store, c.patch.path, true)}>
                  {t('sheet.keepMine')}
                </Button>
              </>
            }>
            {t('sheet.conflict', { field: c.patch.path.join(' › '), theirs: show(c.current), mine: show(c.patch.to) })}
          </Alert>
        ))}
      {invalid.length > 0 && (
        <Alert severity="error" sx={{ mb: 1 }}>
          {invalid.map((i) => `${i.patch.path.join(' › ')}: ${i.message}`).join(' · ')}
        </Alert>
      )}
    </>
  );
});

/** A decision about a value decides about the note of where it came from too. */
function decide(store: SheetStore, path: readonly (string | number)[], mine: boolean): void {
  for (const c of [...store.get().conflicts])
    if (
      c.patch.path.join('.') === path.join('.') ||
      (c.patch.path[0] === 'provenance' && c.patch.path[1] === path.join('.'))
    )
      store.resolve(c, mine);
}

const Answer = memo(function Answer({ view, answers }: { view: LaneView; answers: Answers }) {
  const { t, i18n } = useTranslation();
  const f = useFormat();
  const { result, doc } = view;
  const profit = result.figures.unitProfit;
  const source = Array.isArray(doc.goods) ? doc.goods[0]?.source : undefined;
  const bounds = useBounds();
  const quoted =
    source === undefined
      ? null
      : source.kind === 'quote'
        ? (source.priceBreaks.findLast((b) => b.minQty <= (doc.orderQuantity ?? 0) + 1e-9)?.unitPrice ?? null)
        : source.shelfPrice;
  const cash = answers.launch.budget?.total ?? null;
  const at = {
    country: countryName(doc.country, i18n.language),
    marketplace: doc.marketplace || t('sheet.noMarketplace'),
    price: f.money(doc.price, doc.currency),
  };
  const b = <strong />;
  const missed =
    answers.hurdles.find((h) => h.result.verdict === 'fail') ??
    answers.hurdles.find((h) => h.result.verdict === 'near');
  const incomplete = result.incomplete.unitProfit ?? [];
  const launchLacks = answers.launch.incomplete;
  const amount = (h: NonNullable<typeof missed>['result']) => hurdleAmount(h.short, h.hurdle.figure, doc.currency, f);
  return (
    <Typography
      variant="h4"
      component="p"
      data-testid="answer"
      sx={{ mb: 1, '& strong': { fontWeight: 720 } }}
      aria-live="polite">
      {doc.price === null ? (
        t('answer.noPrice')
      ) : profit === null ? (
        <Trans i18nKey="answer.unknown" values={at} components={{ b }} />
      ) : (
        <Trans
          i18nKey={profit < 0 ? 'answer.loses' : 'answer.keeps'}
          values={{
            ...at,
            amount: bounds.of(f.money(Math.abs(profit), doc.currency), incomplete, profit < 0 ? 'atLeast' : 'atMost'),
            margin: bounds.of(f.percent(result.figures.margin), incomplete),
          }}
          components={{ b, k: <Box component="strong" sx={{ color: profit < 0 ? 'error.main' : 'primary.main' }} /> }}
        />
      )}{' '}
      {profit !== null && incomplete.length > 0 && (
        <Box component="span" sx={{ color: 'text.secondary' }}>
          {t('answer.incomplete', { blanks: bounds.list(incomplete) })}{' '}
        </Box>
      )}
      {profit !== null &&
        (answers.breakEven.price === null ? (
          t('answer.noBreakEven')
        ) : (
          <Trans
            i18nKey={answers.breakEven.bound === null ? 'answer.breakEven' : 'answer.breakEvenBound'}
            values={{
              price: bounds.of(f.money(answers.breakEven.price, doc.currency), answers.breakEven.incomplete, 'above'),
            }}
            components={{ b }}
          />
        ))}{' '}
      {answers.mostToPay.unitPrice !== null && (
        <Trans
          i18nKey={`answer.${source?.kind === 'retail' && quoted !== null ? 'payShop' : quoted === null ? 'payNoQuote' : source !== undefined && isQuoted(source) ? 'pay' : 'payTyped'}${answers.mostToPay.bound === null ? '' : 'Bound'}`}
          values={{
            most: bounds.of(
              f.money(
                floorTo(answers.mostToPay.unitPrice, minorDigits(answers.mostToPay.currency)),
                answers.mostToPay.currency,
              ),
              answers.mostToPay.incomplete,
              'lessThan',
            ),
            quote: f.money(quoted, answers.mostToPay.currency),
          }}
          components={{ b }}
        />
      )}{' '}
      {cash !== null && doc.way !== 'feeCheck' && (
        <Trans
          i18nKey={
            answers.launch.budget?.leftOfCash == null
              ? 'answer.launchNoCash'
              : answers.launch.budget.leftOfCash < 0
                ? 'answer.launchShort'
                : 'answer.launch'
          }
          values={{
            quantity: f.number(answers.launch.budget?.quantity ?? null),
            cash: bounds.of(f.money(cash, doc.homeCurrency), launchLacks, 'atLeast'),
            left: bounds.of(
              f.money(Math.abs(answers.launch.budget?.leftOfCash ?? 0), doc.homeCurrency),
              launchLacks,
              (answers.launch.budget?.leftOfCash ?? 0) < 0 ? 'atLeast' : 'atMost',
            ),
          }}
          components={{ b }}
        />
      )}{' '}
      {missed !== undefined && profit !== null && (
        <Box component="span" sx={{ color: 'text.secondary' }}>
          {t(missed.result.hurdle.bound === 'atLeast' ? 'answer.misses' : 'answer.exceeds', {
            figure: t(`figure.${missed.result.hurdle.figure}`).toLowerCase(),
            by: amount(missed.result),
          })}
        </Box>
      )}
    </Typography>
  );
});

/** Says where a newer version of a card is in force than the one the lane is computed with. */
function NewerRates({
  view,
  cardHeads,
  usedHeads,
  base,
  frame,
}: {
  view: LaneView;
  cardHeads: SheetProps['cardHeads'];
  usedHeads: SheetProps['cardHeads'];
  base: string;
  frame: Frame;
}) {
  const { t } = useTranslation();
  const f = useFormat();
  const used = Object.values(CARD_FIELDS).flatMap(
    (field) => usedHeads.find((h) => h.id === view.state.data[field]) ?? [],
  );
  const newer = used.flatMap((u) => {
    const now = cardHeads.find(
      (h) => h.kind === u.kind && h.key === u.key && h.id !== u.id && h.inForceFrom >= u.inForceFrom,
    );
    return now === undefined ? [] : [{ used: u, now }];
  });
  const [open, setOpen] = useState(false);
  if (newer.length === 0) return null;
  const root = base.replace(/\/weigh$/, '');
  return (
    <Alert
      severity="info"
      variant="outlined"
      sx={{ my: 0.5, py: 0 }}
      action={
        <Button size="small" aria-expanded={open} onClick={() => setOpen(!open)}>
          {t(open ? 'sheet.upToDate.close' : 'sheet.upToDate.open')}
        </Button>
      }>
      {newer.map(({ used: u, now }) => (
        <div key={now.id}>
          {t('sheet.newerRates', { name: u.name, date: f.day(u.inForceFrom), newer: f.day(now.inForceFrom) })}{' '}
          <Box component={Link} to={`${root}/rates/touch?card=${now.id}`} sx={{ color: 'inherit' }}>
            {t('sheet.upToDate.all')}
          </Box>
        </div>
      ))}
      {open && (
        <Suspense fallback={<Typography variant="body2">{t('sheet.upToDate.loading')}</Typography>}>
          <UpToDate
            view={view}
            ids={newer.map(({ now }) => `${now.kind}/${now.id}`).join(',')}
            frame={frame}
            root={root}
          />
        </Suspense>
      )}
    </Alert>
  );
}

function Problems({ view }: { view: LaneView }) {
  const { t } = useTranslation();
  const { problems, notices } = view.result;
  if (problems.length + notices.length === 0) return null;
  return (
    <Box sx={{ display: 'grid', gap: 0.75, my: 1 }}>
      {problems.map((p) => (
        <Alert key={p.code + p.path} severity="error" variant="outlined">
          {t(`problem.${p.code}`, p.detail as Record<string, string>)}
        </Alert>
      ))}
      {notices.map((n) => (
        <Alert key={n.code + n.path} severity="warning" variant="outlined">
          {t(`notice.${n.code}`, n.detail as Record<string, string>)}
        </Alert>
      ))}
    </Box>
  );
}

type Opened = Family | 'demand' | null;

function Breakdown({
  view,
  candidateId,
  open,
  toggle,
  cardHeads,
}: {
  view: LaneView;
  candidateId: string;
  open: Opened;
  toggle: (family: Family | 'demand') => void;
  cardHeads: SheetProps['cardHeads'];
}) {
  const { t } = useTranslation();
  const f = useFormat();
  const { result, doc } = view;
  const gross = result.figures.gross;
  const digits = minorDigits(doc.currency);
  const rounded = roundToTotal([...FAMILIES.map((x) => result.families[x]), result.figures.unitProfit], digits);
  const profit = result.figures.unitProfit;
  const bounds = useBounds();
  const lacking = result.incomplete.unitProfit;
  const form = { laneId: view.id, candidateId, doc };
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', pb: 1 }}>
        <Num
          entity="lane"
          id={view.id}
          path={['price']}
          label={t('form.price')}
          kind="money"
          currency={doc.currency}
          width={128}
        />
        <Num
          entity="lane"
          id={view.id}
          path={['averageDiscount']}
          label={t('form.averageDiscount')}
          kind="percent"
          max={0.99}
          zero
          width={128}
        />
        <Num
          entity="lane"
          id={view.id}
          path={['shippingCharged']}
          label={t('form.shippingCharged')}
          kind="money"
          currency={doc.currency}
          zero
          width={150}
        />
      </Box>
      {FAMILIES.map((family, i) => {
        const value = result.families[family];
        const lines = FAMILY_LINES[family];
        const missing = lines.filter((l) => result.lines[l] === null || (result.blanks as string[]).includes(l));
        const isOpen = open === family;
        return (
          <Box
            key={family}
            sx={{
              borderTop: '1px solid',
              borderColor: 'hairline',
              bgcolor: isOpen ? 'paperTint' : 'transparent',
              px: isOpen ? 1.5 : 0,
              mx: isOpen ? -1.5 : 0,
            }}>
            <FamilyHead
              family={family}
              open={isOpen}
              toggle={toggle}
              amount={value === null ? '–' : f.plain(rounded[i] ?? null, doc.currency)}
              share={value === null || !gross ? '' : f.percent(value / gross)}
              says={
                missing.length > 0
                  ? t('line.missing', { lines: missing.map((l) => t(`lines.${l}`).toLowerCase()).join(', ') })
                  : describe(family, doc, t, f)
              }
            />
            {isOpen && (
              <Box sx={{ pb: 1.5 }}>
                <Lines family={family} view={view} total={rounded[i] ?? null} />
                <FamilyForm family={family} {...form} cardHeads={cardHeads} />
              </Box>
            )}
          </Box>
        );
      })}
      <Box
        sx={{
          borderTop: '2px solid',
          borderColor: 'text.primary',
          display: 'grid',
          gridTemplateColumns: 'minmax(106px, 136px) 1fr auto 60px',
          columnGap: 1,
          alignItems: 'baseline',
          py: 0.75,
        }}>
        <Box sx={{ fontWeight: 700 }}>
          {profit !== null && profit < 0 ? (
            t('sheet.loses')
          ) : (
            <Box component="span" sx={{ display: 'inline-block', '&::first-letter': { textTransform: 'uppercase' } }}>
              {t(`bar.${bounds.keeps(lacking)}`)}
            </Box>
          )}
        </Box>
        <Box sx={{ fontSize: '0.82rem', color: 'text.secondary' }}>
          {t('sheet.afterFees')}{' '}
          <Figure doc={doc} of="proceeds" label={t('sheet.afterFees')}>
            {f.plain(result.figures.proceeds, doc.currency)}
          </Figure>{' '}
          · {t('sheet.afterCost')}{' '}
          <Figure doc={doc} of="contribution" label={t('sheet.afterCost')}>
            {f.plain(result.figures.contribution, doc.currency)}
          </Figure>{' '}
          · {t('sheet.afterAdverts')}
        </Box>
        <Box
          data-testid="unit-profit"
          sx={{
            textAlign: 'right',
            fontWeight: 720,
            color: profit !== null && profit < 0 ? 'error.main' : 'primary.main',
          }}>
          <Figure doc={doc} of="unitProfit" label={t('figure.unitProfit')}>
            {f.plain(rounded[FAMILIES.length] ?? null, doc.currency)}
          </Figure>
        </Box>
        <Box sx={{ textAlign: 'right', fontSize: '0.82rem', fontWeight: 650 }}>
          {result.figures.marginOnShelfPrice === null ? '' : f.percent(result.figures.marginOnShelfPrice)}
        </Box>
      </Box>
      <FigureLine view={view} />
      <Box sx={{ borderTop: '1px solid', borderColor: 'hairline', mt: 1, pt: 0.5 }}>
        <Box
          component="button"
          type="button"
          aria-expanded={open === 'demand'}
          onClick={() => toggle('demand')}
          sx={{
            font: 'inherit',
            border: 0,
            p: 0,
            py: 0.75,
            bgcolor: 'transparent',
            color: 'inherit',
            cursor: 'pointer',
            display: 'flex',
            gap: 1,
          }}>
          <b>{t('sheet.demand')}</b>
          <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.84rem' }}>
            {result.figures.expectedMonthlyUnits === null
              ? t('line.blank')
              : t('sheet.demandText', {
                  units: f.number(result.figures.expectedMonthlyUnits, 1),
                  profit: f.money(result.figures.profitPerMonth, doc.currency),
                })}
          </Box>
        </Box>
        {open === 'demand' && <DemandForm {...form} />}
      </Box>
    </Box>
  );
}

/** The line of a cost family: opens its form. */
const FamilyHead = memo(function FamilyHead({
  family,
  open,
  toggle,
  amount,
  share,
  says,
}: {
  family: Family;
  open: boolean;
  toggle: (family: Family) => void;
  amount: string;
  share: string;
  says: string;
}) {
  const { t } = useTranslation();
  return (
    <div className={open ? 'line open' : 'line'}>
      <i aria-hidden style={{ backgroundColor: `var(--mui-palette-family-${family})` }} />
      <button type="button" aria-expanded={open} onClick={() => toggle(family)}>
        {t(`family.${family}`)}
      </button>
      <small>{says}</small>
      <span>{amount}</span>
      <small>{share}</small>
    </div>
  );
});

/** The lines of a family, each opening its workings. */
function Lines({ family, view, total }: { family: Family; view: LaneView; total: number | null }) {
  const { t } = useTranslation();
  const f = useFormat();
  const { result, doc } = view;
  const typed: Partial<Record<string, boolean>> = {
    outputVat: doc.typed.vatRate !== null,
    duty: doc.typed.dutyPct !== null,
    referral: doc.typed.referralPct !== null,
    itemFee: doc.typed.itemFee !== null,
    payment: doc.typed.paymentPct !== null || doc.typed.paymentFixed !== null,
    subscription: doc.typed.subscriptionMonthly !== null,
    fulfilment: doc.typed.fulfilmentFee !== null,
    storage: doc.typed.storagePerM3Month !== null,
  };
  const lines = FAMILY_LINES[family].filter((l) => result.lines[l] !== 0);
  const shown = roundToTotal(
    lines.map((l) => result.lines[l]),
    minorDigits(doc.currency),
    lines.length === 0 ? null : total,
  );
  return (
    <Box
      component="dl"
      sx={{
        display: 'grid',
        gridTemplateColumns: '1fr auto',
        pr: '68px',
        columnGap: 1,
        rowGap: 0.25,
        m: 0,
        mb: 1.5,
        fontSize: '0.86rem',
      }}>
      {lines.map((l, i) => (
        <Box key={l} sx={{ display: 'contents' }}>
          <Box component="dt" sx={{ pl: 3 }}>
            {t(`lines.${l}`)}
            {typed[l] && (
              <Box component="span" sx={{ color: 'text.secondary', fontStyle: 'italic', fontSize: '0.76rem' }}>
                {' '}
                {t('form.beatsCard')}
              </Box>
            )}
          </Box>
          <Box component="dd" sx={{ m: 0, textAlign: 'right' }}>
            {result.lines[l] === null ? (
              <em>{t('line.blank')}</em>
            ) : (
              <Figure doc={doc} of={l} label={t(`lines.${l}`)}>
                {f.plain(shown[i] ?? null, doc.currency)}
              </Figure>
            )}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

function describe(family: Family, doc: LaneDocument, t: TFunction, f: ReturnType<typeof useFormat>): string {
  switch (family) {
    case 'tax':
      return doc.rates.tax?.regime === 'exclusive'
        ? t('describe.exclusive')
        : t('describe.tax', {
            rate: f.percent(doc.typed.vatRate ?? doc.rates.tax?.vatRates[doc.product.taxClass] ?? null, 0),
            standing: doc.standing === null ? t('standing.missing') : t(`standing.${doc.standing.kind}`).toLowerCase(),
          });
    case 'goods': {
      const s = Array.isArray(doc.goods) ? doc.goods[0]?.source : undefined;
      return s === undefined
        ? ''
        : [
            [s.supplier, s.date ? f.day(s.date) : ''].filter(Boolean).join(' '),
            doc.orderQuantity === null || s.kind === 'retail'
              ? ''
              : t('describe.units', { count: doc.orderQuantity, n: f.number(doc.orderQuantity) }),
          ]
            .filter(Boolean)
            .join(' · ');
    }
    case 'wayIn':
      return doc.method === 'supplierShips'
        ? t('describe.supplierShips')
        : doc.route === null || doc.route === 'none'
          ? ''
          : doc.route.legs.map((l) => l.name || t(`stage.${l.stage}`)).join(', ');
    case 'marketplace':
      return doc.rates.marketplace === null
        ? ''
        : t('describe.card', { name: doc.rates.marketplace.name, date: f.day(doc.rates.marketplace.inForceFrom) });
    case 'fulfilment':
      return t(`method.${doc.method}`);
    case 'returns':
      return doc.returns === null || doc.returns === 'none'
        ? ''
        : t('describe.returns', { rate: f.percent(doc.returns.rate) });
    case 'adverts': {
      if (doc.adverts === null || doc.adverts === 'none') return t('line.none');
      const k = doc.adverts.keywords[0];
      return k === undefined || k.low === null || k.high === null
        ? ''
        : t('describe.adverts', {
            cpc: f.money(k.low + k.weight * (k.high - k.low), doc.currency),
            conversion: f.percent(k.conversionRate, 0),
            share: f.percent(doc.adverts.adShare, 0),
          });
    }
    case 'other':
      return doc.otherPerUnit.map((o) => o.name).join(', ');
  }
}

function FigureLine({ view }: { view: LaneView }) {
  const { t } = useTranslation();
  const f = useFormat();
  const { doc } = view;
  const { figures, incomplete, reasons } = view.result;
  const bounds = useBounds();
  const shown = [
    ['margin', f.percent(figures.margin)],
    ['roi', f.percent(figures.roi, 0)],
    ['markup', f.percent(figures.markup, 0)],
    ['priceMultiple', figures.priceMultiple === null ? '–' : `${f.number(figures.priceMultiple, 1)} ×`],
    ['yearlyReturnOnCash', f.percent(figures.yearlyReturnOnCash, 0)],
    ['breakEvenAcos', f.percent(figures.breakEvenAcos)],
  ] as const;
  return (
    <dl className="figures">
      {shown.map(([key, value]) => (
        <div key={key} title={reasons[key] ?? t(`basis.of.${key}`)}>
          <dt>{t(`figure.${key}`)}</dt>
          <dd>
            <Figure doc={doc} of={key} label={t(`figure.${key}`)}>
              {figures[key] === null ? value : bounds.of(value, incomplete[key])}
            </Figure>
          </dd>
        </div>
      ))}
    </dl>
  );
}

const GatesAndNotes = memo(function GatesAndNotes({ candidateId }: { candidateId: string }) {
  const { t } = useTranslation();
  const store = useStore();
  const gates = useValue('candidate', candidateId, ['gates']) as CandidateData['gates'];
  const stage = useValue('candidate', candidateId, ['stage']) as string;
  const tags = useValue('candidate', candidateId, ['tags']) as string[];
  return (
    <Box
      component="section"
      sx={{
        mt: 4,
        borderTop: '1px solid',
        borderColor: 'hairline',
        pt: 2,
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' },
        gap: 4,
      }}>
      <Box>
        <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
          {t('gates.byHand')}
        </Typography>
        {(['demanded', 'enterable', 'permitted'] as const).map((g) => (
          <Box key={g} sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-end', mb: 1, flexWrap: 'wrap' }}>
            <Box sx={{ width: 150 }}>
              <Box component="label" htmlFor={`gate-${g}`} sx={{ fontSize: '0.84rem' }}>
                {t(`gates.${g}`)}
              </Box>
              <Box
                component="select"
                id={`gate-${g}`}
                value={gates[g] === null ? '' : gates[g].passed ? 'yes' : 'no'}
                onChange={(e: { target: { value: string } }) =>
                  store.edit([
                    {
                      entity: 'candidate',
                      id: candidateId,
                      path: ['gates', g],
                      to:
                        e.target.value === '' ? null : { passed: e.target.value === 'yes', note: gates[g]?.note ?? '' },
                    },
                  ])
                }
                sx={{
                  width: '100%',
                  height: 31,
                  font: 'inherit',
                  color: 'text.primary',
                  bgcolor: 'background.paper',
                  border: 0,
                  borderBottom: '1.5px solid',
                  borderColor: 'fieldLine',
                }}>
                <option value="">{t('gates.open')}</option>
                <option value="yes">{t('gates.passed')}</option>
                <option value="no">{t('gates.failed')}</option>
              </Box>
            </Box>
            {gates[g] !== null && (
              <Text
                entity="candidate"
                id={candidateId}
                path={['gates', g, 'note']}
                label={t('gates.note')}
                width={300}
                maxLength={2000}
              />
            )}
          </Box>
        ))}
      </Box>
      <Box>
        <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
          {t('sheet.notes')}
        </Typography>
        <Text
          entity="candidate"
          id={candidateId}
          path={['notes']}
          label={t('sheet.notesLabel')}
          width="100%"
          multiline
          maxLength={10000}
        />
        <Box sx={{ display: 'flex', gap: 2, mt: 1.5, alignItems: 'flex-end', flexWrap: 'wrap' }}>
          <Box sx={{ width: 150 }}>
            <Box component="label" htmlFor="stage" sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>
              {t('form.stageOfWork')}
            </Box>
            <Box
              component="select"
              id="stage"
              value={stage}
              onChange={(e: { target: { value: string } }) =>
                store.edit([{ entity: 'candidate', id: candidateId, path: ['stage'], to: e.target.value }])
              }
              sx={{
                width: '100%',
                height: 31,
                font: 'inherit',
                color: 'text.primary',
                bgcolor: 'background.paper',
                border: 0,
                borderBottom: '1.5px solid',
                borderColor: 'fieldLine',
              }}>
              {['idea', 'checking', 'sampling', 'ordering', 'selling'].map((s) => (
                <option key={s} value={s}>
                  {t(`stageOfWork.${s}`)}
                </option>
              ))}
            </Box>
          </Box>
          <TagsField candidateId={candidateId} tags={tags} />
          <ScoreField candidateId={candidateId} />
        </Box>
      </Box>
    </Box>
  );
});

function TagsField({ candidateId, tags }: { candidateId: string; tags: readonly string[] }) {
  const { t } = useTranslation();
  const store = useStore();
  const [text, setText] = useState<string | null>(null);
  return (
    <Box>
      <Box component="label" htmlFor="tags" sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>
        {t('form.tags')}
      </Box>
      <Box
        component="input"
        id="tags"
        value={text ?? tags.join(', ')}
        onChange={(e: { target: { value: string } }) => setText(e.target.value)}
        onBlur={() => {
          if (text !== null)
            store.edit([
              {
                entity: 'candidate',
                id: candidateId,
                path: ['tags'],
                to: [
                  ...new Set(
                    text
                      .split(',')
                      .map((x) => x.trim().slice(0, 40))
                      .filter(Boolean),
                  ),
                ].slice(0, 20),
              },
            ]);
          setText(null);
        }}
        sx={{
          display: 'block',
          width: 200,
          height: 31,
          font: 'inherit',
          color: 'text.primary',
          bgcolor: 'background.paper',
          border: 0,
          borderBottom: '1.5px solid',
          borderColor: 'fieldLine',
          px: 0.75,
        }}
      />
    </Box>
  );
}

/** One's own judgement, beside the figures and with its reason. */
function ScoreField({ candidateId }: { candidateId: string }) {
  const { t } = useTranslation();
  const store = useStore();
  const score = useValue('candidate', candidateId, ['score']) as CandidateData['score'];
  if (score === null)
    return (
      <Button
        size="small"
        onClick={() =>
          store.edit([{ entity: 'candidate', id: candidateId, path: ['score'], to: { value: null, reason: '' } }])
        }>
        {t('sheet.addScore')}
      </Button>
    );
  return (
    <>
      <Num
        entity="candidate"
        id={candidateId}
        path={['score', 'value']}
        label={t('sheet.score')}
        kind="number"
        max={10}
        width={110}
      />
      <Text entity="candidate" id={candidateId} path={['score', 'reason']} label={t('sheet.scoreReason')} width={220} />
    </>
  );
}
