import { Alert, Box, Button, Menu, MenuItem, Slider, Typography } from '@mui/material';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { Trans, useTranslation } from 'react-i18next';
import { Link, useFetcher } from 'react-router';
import { MEASURES } from '../../../core/compare/measures.ts';
import type { Measure } from '../../../core/compare/measures.ts';
import { conversionsOf } from '../../../core/money/money.ts';
import { AS_IS } from '../../../core/compare/whatIf.ts';
import type { WhatIf } from '../../../core/compare/whatIf.ts';
import type { FreightCard } from '../../../core/cards/schema.ts';
import { unpack } from '../../../core/compare/pack.ts';
import type { Packed } from '../../../core/compare/pack.ts';
import { CARD_FIELDS } from '../../../core/workspace/records.ts';
import type { StoredLane } from '../../../core/workspace/records.ts';
import { planOf } from '../../../core/workspace/summary.ts';
import { NumField } from '../../ui/Field.tsx';
import { inSentence } from '../../ui/inSentence.ts';
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
import {
  bestOf,
  evaluateAll,
  figureOf,
  figureText,
  GROUPS,
  SORTS,
  sorted,
  useDocuments,
} from './useCompared.ts';
import type { Around, Compared } from './useCompared.ts';
import './words.ts';
import { Controls, numberIn } from './Controls.tsx';
import { VIEWS } from './Controls.tsx';

export type Payload = Omit<Around, 'plan'> & {
  candidateId: string;
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
  const { t, i18n } = useTranslation();
  const f = useFormat();
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
  const [question, setQuestion] = useState<WhatIf>(() => ({
    orderQuantity: numberIn(search.get('quantity')),
    mainFreight: numberIn(search.get('freight')) ?? 1,
    price: numberIn(search.get('price')) ?? 1,
  }));
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
  const { ticked, onTick, untick, only, setOnly } = useTicked();
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
  const keeping = lanes.filter((c) => (c.light.figures.unitProfit ?? -1) > 0).length;
  const newer = lanesIn.filter((l) =>
    Object.values(CARD_FIELDS).some((field) => data.newest[l.data[field] ?? ''] !== undefined),
  ).length;
  const fetcher = useFetcher<{ dropped?: number; undo?: string; error?: string }>();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const isAsked = question.orderQuantity !== null || question.mainFreight !== 1 || question.price !== 1;

  // The question goes into the address a moment after it was asked, so that a drag of the slider stays quick.
  useEffect(() => {
    const timer = setTimeout(() => {
      const want = {
        quantity: question.orderQuantity === null ? null : String(question.orderQuantity),
        freight: question.mainFreight === 1 ? null : String(question.mainFreight),
        price: question.price === 1 ? null : String(question.price),
      };
      if (Object.entries(want).some(([k, x]) => new URLSearchParams(window.location.search).get(k) !== x))
        setAddress(want);
    }, 400);
    return () => clearTimeout(timer);
  }, [question, setAddress]);

  const post = (body: Record<string, string>): void => void fetcher.submit(body, { method: 'post' });
  const change = useLatest(setAddress);
  const chooseMeasure = useLatest((m: Measure) => {
    setAddress({ measure: m === data.settings.bestBy ? null : m, sort: null });
    if (canEdit) post({ intent: 'measure', measure: m });
  });
  const bestValue = best === undefined ? null : figureOf(best, measure, around.plan);
  const b = <strong />;
  const answer =
    best === undefined || bestValue === null ? (
      t('compare.answerUnknown')
    ) : keeping === 0 ? (
      t('compare.answerNone', { all: lanes.length })
    ) : (
      <Trans
        i18nKey="compare.answer"
        values={{
          where: `${place(best)}, ${inSentence(t(`method.${best.doc.method}`))}`,
          measure: t(`compare.figure.${measure}`),
          value: figureText(f, measure, bestValue, home),
          count: keeping,
          all: lanes.length,
        }}
        components={{ b, k: <Box component="strong" sx={{ color: 'primary.main' }} /> }}
      />
    );
  const file = (as: string): string =>
    `${root}/weigh/${data.candidateId}/compare/file?as=${as}&${search.toString()}`;

  return (
    <Box sx={{ maxWidth: 1360 }}>
      <Box className="no-print" sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 0.5 }}>
        <Typography component="span" color="text.secondary">
          <Box component={Link} to={`${root}/weigh`} sx={{ color: 'inherit', textDecoration: 'none' }}>
            {t('nav.weigh')}
          </Box>{' '}
          /{' '}
          <Box component={Link} to={`${root}/weigh/${data.candidateId}`} sx={{ color: 'inherit' }} dir="auto">
            {data.candidate.name}
          </Box>{' '}
          /
        </Typography>
        <Typography component="h1" sx={{ fontWeight: 650, fontSize: '0.95rem' }}>
          {t('compare.title')}
        </Typography>
        <Box sx={{ ml: 'auto', display: 'flex', gap: 0.5 }}>
          {print ? (
            <Button variant="contained" onClick={() => window.print()}>
              {t('compare.printNow')}
            </Button>
          ) : (
            canEdit && (
              <Button
                component={Link}
                to={`${root}/weigh/${data.candidateId}/add-lanes`}
                variant={lanes.length < 3 ? 'contained' : 'text'}>
                {t('compare.add')}
              </Button>
            )
          )}
          {print ? (
            <Button component={Link} to={`${root}/weigh/${data.candidateId}/compare`}>
              {t('compare.back')}
            </Button>
          ) : (
            <Button onClick={(e) => setMenu(e.currentTarget)} aria-haspopup="menu">
              {t('compare.export')}
            </Button>
          )}
        </Box>
        <Menu
          open={menu !== null}
          anchorEl={menu}
          onClose={() => setMenu(null)}
          onClick={() => setMenu(null)}>
          <MenuItem component="a" href={file('csv')}>
            {t('compare.csv')}
          </MenuItem>
          <MenuItem component="a" href={file('xlsx')}>
            {t('compare.xlsx')}
          </MenuItem>
          <MenuItem component="a" href={file('jsonl')}>
            {t('compare.documents')}
          </MenuItem>
          <MenuItem component={Link} to={`?${new URLSearchParams([...search, ['print', '1']]).toString()}`}>
            {t('compare.print')}
          </MenuItem>
        </Menu>
      </Box>
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
            {answer}
          </Typography>
          {newer > 0 && !print && (
            <Alert severity="info" variant="outlined" sx={{ mb: 1, py: 0 }}>
              {t('compare.newer', { count: newer })}:{' '}
              {data.cardHeads
                .filter((h) => data.newest[h.id] !== undefined)
                .slice(0, 6)
                .map((h, i) => (
                  <span key={h.id}>
                    {i > 0 && ', '}
                    <Box
                      component={Link}
                      to={`${root}/rates/touch?card=${data.newest[h.id]}`}
                      sx={{ color: 'inherit' }}>
                      {h.name}
                    </Box>
                  </span>
                ))}
            </Alert>
          )}
          {fetcher.data?.dropped !== undefined && fetcher.data.dropped > 0 && (
            <Alert
              severity="info"
              variant="outlined"
              sx={{ mb: 1, py: 0 }}
              action={
                <Button
                  size="small"
                  onClick={() => post({ intent: 'putLanes', rows: fetcher.data?.undo ?? '[]' })}>
                  {t('undo')}
                </Button>
              }>
              {t('compare.dropped', { count: fetcher.data.dropped })}
            </Alert>
          )}
          {fetcher.data?.error && (
            <Alert severity="error" sx={{ mb: 1 }}>
              {fetcher.data.error}
            </Alert>
          )}
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
            <Box
              component="section"
              aria-label={t('compare.whatIf')}
              sx={{
                display: 'flex',
                flexWrap: 'wrap',
                gap: 2.5,
                rowGap: 1,
                alignItems: 'flex-end',
                mb: 1,
                px: 1.5,
                py: 0.75,
                bgcolor: 'paperTint',
                borderRadius: 1,
              }}>
              <Typography component="h2" sx={{ fontSize: '0.84rem', fontWeight: 650, pb: 0.5 }}>
                {t('compare.whatIf')}
              </Typography>
              <NumField
                label={t('compare.quantity')}
                value={question.orderQuantity}
                onChange={(x) => setQuestion({ ...question, orderQuantity: x })}
                kind="number"
                min={1}
                width={110}
                step={50}
              />
              <Box sx={{ width: 190 }}>
                <Box id="freight-factor" sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>
                  {t('compare.freight')}{' '}
                  <b>{t('compare.times', { factor: f.number(question.mainFreight) })}</b>
                </Box>
                <Slider
                  size="small"
                  value={question.mainFreight}
                  min={0.25}
                  max={4}
                  step={0.25}
                  marks={[{ value: 1 }, { value: 2 }, { value: 3 }]}
                  aria-labelledby="freight-factor"
                  onChange={(_, x) => setQuestion({ ...question, mainFreight: x as number })}
                  sx={{ py: 1, display: 'block' }}
                />
              </Box>
              <NumField
                label={t('compare.price')}
                value={question.price - 1}
                onChange={(x) => setQuestion({ ...question, price: 1 + (x ?? 0) })}
                kind="percent"
                min={-0.9}
                max={9}
                width={90}
              />
              {isAsked && (
                <Button size="small" onClick={() => setQuestion(AS_IS)}>
                  {t('compare.asIs')}
                </Button>
              )}
              {isAsked && (
                <Typography variant="body2" color="text.secondary" sx={{ pb: 0.75 }}>
                  {t('compare.notSaved')}
                </Typography>
              )}
              {canEdit && question.orderQuantity !== null && (
                <Button
                  size="small"
                  disabled={fetcher.state !== 'idle'}
                  onClick={() => post({ intent: 'quantity', quantity: String(question.orderQuantity) })}>
                  {t('compare.saveQuantity', { quantity: f.number(question.orderQuantity) })}
                </Button>
              )}
            </Box>
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
          {view === 'lanes' && (
            <Box
              sx={{
                display: 'grid',
                gridTemplateColumns: {
                  xs: '1fr',
                  lg: print || pinned === null ? '1fr' : 'minmax(0, 1fr) 320px',
                },
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
                onDrop={canEdit ? (id) => post({ intent: 'drop', ids: id }) : null}
                ticked={ticked}
                onTick={onTick}
                sheet={`${root}/weigh/${data.candidateId}`}
              />
              {!print && pinned !== null && (
                <DifferencePane
                  pinned={pinned}
                  chosen={chosen !== null && chosen.id !== pinned.id ? chosen : null}
                  place={place}
                />
              )}
            </Box>
          )}
          {!local && (view === 'lanes' || view === 'grid' || view === 'prices') && (
            <RatesUsed rates={rates} />
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
              saveUrl={`${root}/weigh/${data.candidateId}/save`}
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
              sheet={`${root}/weigh/${data.candidateId}`}
            />
          )}
        </>
      )}
    </Box>
  );
}
