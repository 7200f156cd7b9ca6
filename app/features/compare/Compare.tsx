import { Box, Typography } from '@mui/material';
import { lazy, Suspense, useDeferredValue, useMemo } from 'react';
import { useFetcher } from 'react-router';
import { MEASURES } from '../../../core/compare/measures.ts';
import type { Measure } from '../../../core/compare/measures.ts';
import type { MarketFacts } from '../../../core/evidence/stored.ts';
import { conversionsOf } from '../../../core/money/money.ts';
import type { FreightCard } from '../../../core/cards/schema.ts';
import { unpack } from '../../../core/compare/pack.ts';
import type { Packed } from '../../../core/compare/pack.ts';
import { CARD_FIELDS } from '../../../core/workspace/compose.ts';
import type { StoredLane } from '../../../core/workspace/records.ts';
import { planOf } from '../../../core/workspace/summary.ts';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { RatesUsed } from '../../ui/RatesUsed.tsx';
import { useAddress } from '../../ui/useAddress.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { DifferencePane } from './DifferencePane.tsx';
import { GridView } from './GridView.tsx';
import { LaneList } from './LaneList.tsx';
import { TickedLanes, useTicked } from './TickedLanes.tsx';
import { PricesView } from './PricesView.tsx';
import { QuotesView } from './QuotesView.tsx';
import { RoutesView } from './RoutesView.tsx';
import { bestOf, evaluateAll, GROUPS, SORTS, sorted, useDocuments } from './useCompared.ts';
import type { Around, Compared } from './useCompared.ts';
import './words.ts';
import { CompareAnswer, ChangeDone, NewerRates } from './CompareNotices.tsx';
import { CompareHead } from './CompareHead.tsx';
import { Controls, VIEWS } from './Controls.tsx';
import { useQuestion, WhatIfBar } from './WhatIfBar.tsx';
import { useWords } from '../../ui/useWords.ts';

/** Loaded where it is looked at: the words of markets come with it. */
const MarketsView = lazy(() => import('./MarketsView.tsx'));

export type Payload = Omit<Around, 'plan'> & {
  candidateId: string;
  /** By market, of those that are followed. */
  markets: Record<string, MarketFacts>;
  ids: string[];
  lanes: Packed;
  cardHeads: { id: string; kind: string; key: string; name: string; inForceFrom: string }[];
  newest: Record<string, string>;
  freight: { id: string; card: FreightCard }[];
};
type Props = { payload: string; root: string; canEdit: boolean; print: boolean };
const pick = <T extends string>(list: readonly T[], value: string | null, or: T): T =>
  list.find((x) => x === value) ?? or;

/** All lanes of one candidate on one scale: which is best, why one keeps more than another, and what if. */
export function ComparePage({ payload, root, canEdit, print }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const page = useComparePage(payload);
  const { data, around, search, setAddress, question, setQuestion, lanesIn, lanes, shown } = page;
  const { view, measure, sort, group, per, local, turned, home, place, ticks, best } = page;
  const { ticked, untick, only, setOnly } = ticks;
  const keeping = lanes.filter((c) => (c.light.figures.unitProfit ?? -1) > 0);
  const newer = lanesIn.filter((l) =>
    Object.values(CARD_FIELDS).some((field) => data.newest[l.data[field] ?? ''] !== undefined),
  ).length;
  const fetcher = useFetcher<{ dropped?: number; undo?: string; error?: string }>();

  const post = (body: Record<string, string>): void => void fetcher.submit(body, { method: 'post' });
  const change = useLatest(setAddress);
  const chooseMeasure = useLatest((m: Measure) => {
    setAddress({ measure: m === data.settings.bestBy ? null : m, sort: null });
    if (canEdit) post({ intent: 'measure', measure: m });
  });

  return (
    <Box sx={{ maxWidth: 1360 }}>
      <CompareHead
        root={root}
        candidate={{ id: data.candidateId, name: data.candidate.name }}
        search={search}
        lanes={lanes.length}
        print={print}
        canEdit={canEdit}
      />
      {print && (
        <Typography sx={{ mb: 1 }}>
          {t('compare.printed', { name: data.candidate.name, count: lanes.length, date: f.day(data.today) })}
        </Typography>
      )}
      {lanes.length === 0 ? (
        <Typography variant="h4" component="p" sx={{ mt: 3, maxWidth: 640 }}>
          {t('compare.none')}
        </Typography>
      ) : (
        <>
          <Typography
            variant="h4"
            component="p"
            data-testid="compare-answer"
            sx={{ mb: 1, '& strong': { fontWeight: 720 } }}
            aria-live="polite">
            <CompareAnswer
              best={best}
              measure={measure}
              plan={around.plan}
              home={home}
              keeping={keeping}
              all={lanes.length}
              place={place}
            />
          </Typography>
          {newer > 0 && !print && (
            <NewerRates count={newer} cards={data.cardHeads} newest={data.newest} root={root} />
          )}
          <ChangeDone done={fetcher.data} onUndo={(rows) => post({ intent: 'putLanes', rows })} />
          {!print && (
            <Controls
              view={view}
              measure={measure}
              sort={sort}
              group={group}
              per={per}
              local={local}
              turned={turned}
              change={change}
              choose={chooseMeasure}
            />
          )}
          {!print && view !== 'suppliers' && view !== 'prices' && (
            <WhatIfBar
              question={question}
              setQuestion={setQuestion}
              busy={fetcher.state !== 'idle'}
              onSaveQuantity={canEdit ? (x) => post({ intent: 'quantity', quantity: String(x) }) : null}
            />
          )}
          {view === 'lanes' && !print && (
            <TickedLanes
              count={ticked.size}
              all={lanes.length}
              shown={only === null ? null : shown.length}
              onOnly={() => {
                setOnly(new Set(ticked));
                untick();
              }}
              onAll={() => setOnly(null)}
              onDrop={
                canEdit
                  ? () => {
                      post({ intent: 'drop', ids: [...ticked].join(',') });
                      untick();
                    }
                  : null
              }
              onUntick={untick}
            />
          )}
          <View page={page} root={root} canEdit={canEdit} print={print} post={post} />
        </>
      )}
    </Box>
  );
}

/** What a comparison works on: its lanes under the question asked of all, and how they are looked at. */
function useComparePage(payload: string) {
  const { i18n, t } = useWords();
  const [search, setAddress] = useAddress();
  const data = useMemo(() => JSON.parse(payload) as Payload, [payload]);
  const around = useMemo<Around>(
    () => ({ ...data, plan: planOf(data.candidate, data.settings.launch) }),
    [data],
  );
  const lanesIn = useMemo(
    () => unpack<StoredLane>(data.lanes).map((l, i) => ({ id: data.ids[i] as string, data: l })),
    [data],
  );
  const documents = useDocuments(lanesIn, around);
  const [question, setQuestion] = useQuestion(search, setAddress);
  const lanes = useMemo(() => evaluateAll(documents, question), [documents, question]);
  const late = useDeferredValue(lanes);

  const view = pick(VIEWS, search.get('view'), 'lanes');
  const measure = pick(MEASURES, search.get('measure'), data.settings.bestBy);
  const sort = pick(SORTS, search.get('sort'), measure);
  const group = pick(GROUPS, search.get('group'), 'none');
  const per = search.get('per') === 'hundred' ? 'hundred' : 'money';
  const local = search.get('currency') === 'local';
  const turned = search.get('turned') === '1';
  const home = data.settings.homeCurrency;
  const place = (c: Compared): string =>
    `${countryName(c.doc.country, i18n.language)} · ${c.doc.marketplace || t('sheet.noMarketplace')}`;
  const ticks = useTicked();
  const { only } = ticks;
  const shown = useMemo(
    () => sorted(only === null ? lanes : lanes.filter((c) => only.has(c.id)), sort, turned, around.plan),
    [lanes, only, sort, turned, around.plan],
  );
  const rates = useMemo(
    () =>
      conversionsOf(
        documents.map((d) => d.doc),
        home,
      ),
    [documents, home],
  );
  const pinned = lanes.find((c) => c.id === search.get('pin')) ?? null;
  const chosen = lanes.find((c) => c.id === search.get('lane')) ?? null;
  const lead = chosen ?? shown[0] ?? null;
  const best = useMemo(() => bestOf(late, measure, around.plan), [late, measure, around.plan]);
  return {
    data,
    around,
    search,
    setAddress,
    question,
    setQuestion,
    lanesIn,
    lanes,
    shown,
    rates,
    pinned,
    chosen,
    lead,
    best,
    view,
    measure,
    sort,
    group,
    per,
    local,
    turned,
    home,
    place,
    ticks,
  } as const;
}
type ComparePageState = ReturnType<typeof useComparePage>;

/** The lanes as they are looked at: under each other, in a grid, by price, route or supplier. */
function View({
  page,
  root,
  canEdit,
  print,
  post,
}: {
  page: ComparePageState;
  root: string;
  canEdit: boolean;
  print: boolean;
  post: (body: Record<string, string>) => void;
}) {
  const { data, around, setAddress, lanes, shown, rates, lead } = page;
  const { view, measure, local, home, place } = page;
  const sheet = `${root}/weigh/${data.candidateId}`;
  return (
    <>
      {view === 'lanes' && (
        <LanesView
          page={page}
          print={print}
          sheet={sheet}
          onDrop={canEdit ? (id) => post({ intent: 'drop', ids: id }) : null}
        />
      )}
      {!local && ['lanes', 'markets', 'grid', 'prices'].includes(view) && <RatesUsed rates={rates} />}
      {view === 'markets' && (
        <Suspense fallback={null}>
          <MarketsView lanes={shown} markets={data.markets} settings={around.settings} sheet={sheet} />
        </Suspense>
      )}
      {view === 'grid' && (
        <GridView
          lanes={lanes}
          measure={measure}
          plan={around.plan}
          home={home}
          onChoose={(id) => setAddress({ view: null, lane: id })}
        />
      )}
      {view === 'prices' && (
        <PricesView
          lanes={shown}
          place={place}
          home={home}
          canEdit={canEdit}
          saveUrl={`${sheet}/save`}
          today={data.today}
        />
      )}
      {view === 'routes' && lead !== null && (
        <RoutesView
          lanes={shown}
          chosen={lead}
          place={place}
          onChoose={(id) => setAddress({ lane: id })}
          canEdit={canEdit}
          use={(cardId) => post({ intent: 'route', lane: lead.id, card: cardId })}
          freight={data.freight}
          root={root}
        />
      )}
      {view === 'suppliers' && lead !== null && (
        <QuotesView
          lanes={shown}
          chosen={lead}
          around={around}
          place={place}
          onChoose={(id) => setAddress({ lane: id })}
          canEdit={canEdit}
          use={(quoteId) => post({ intent: 'quote', lane: lead.id, quote: quoteId })}
          add={() => post({ intent: 'addQuote' })}
          sheet={sheet}
        />
      )}
    </>
  );
}

/** Lanes on one ruler, and what makes the difference to a pinned one. */
function LanesView({
  page,
  print,
  sheet,
  onDrop,
}: {
  page: ComparePageState;
  print: boolean;
  sheet: string;
  onDrop: ((id: string) => void) | null;
}) {
  const { data, around, search, setAddress, shown, pinned, chosen } = page;
  const { group, per, local, sort, home, place, ticks } = page;
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', lg: print || pinned === null ? '1fr' : 'minmax(0, 1fr) 320px' },
        gap: 3,
      }}>
      <LaneList
        lanes={shown}
        group={group}
        per={per}
        local={local}
        sort={sort}
        plan={around.plan}
        quotes={data.quotes}
        cards={data.cards}
        home={home}
        place={place}
        pinned={pinned}
        chosen={chosen}
        print={print}
        onPin={(id) => setAddress({ pin: id === search.get('pin') ? null : id })}
        onChoose={(id) => setAddress({ lane: id })}
        onDrop={onDrop}
        ticked={ticks.ticked}
        onTick={ticks.onTick}
        sheet={sheet}
      />
      {!print && pinned !== null && (
        <DifferencePane
          pinned={pinned}
          chosen={chosen !== null && chosen.id !== pinned.id ? chosen : null}
          place={place}
        />
      )}
    </Box>
  );
}
