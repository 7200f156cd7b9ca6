/** Terms people search for: which belong to the product, their season in the row, flags with reasons, bids. */
import { Box, Button, Checkbox, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { bidRange } from '../../../core/evidence/bids.ts';
import { termKey } from '../../../core/evidence/observed.ts';
import type { Watch } from '../../../core/evidence/observed.ts';
import { MATCHES } from '../../../core/evidence/schema.ts';
import type { Term } from '../../../core/evidence/schema.ts';
import { nowOf } from '../../../core/evidence/market.ts';
import { termsHolding, withAndWithout } from '../../../core/evidence/terms.ts';
import { ChoiceLine, NumField, TextLine } from '../../ui/Field.tsx';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useBounds } from '../../ui/bounds.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import { From, IntoLane, NotKnown } from './parts.tsx';
import type { PaneProps } from './parts.tsx';
import { TermSeason } from './TermSeason.tsx';
import { useIntoLane } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

const FIRST = 10;

export function TermsPane(p: PaneProps) {
  const { t } = useWords();
  const [include, setInclude] = useState('');
  const [exclude, setExclude] = useState('');
  const [all, setAll] = useState(false);
  const { composed, said, view } = p.market;
  const { terms, match } = composed.document;
  if (terms.length === 0)
    return (
      <Pane title={t('market.terms.title')}>
        <NotKnown>{t('market.terms.none')}</NotKnown>
      </Pane>
    );
  const volume = (i: number): number => said.terms.terms[i]?.volume ?? -1;
  const found = termsHolding(terms, include, exclude).sort(
    (a, b) => Number(terms[b]?.ticked) - Number(terms[a]?.ticked) || volume(b) - volume(a),
  );
  const shown = all ? found.slice(0, 400) : found.slice(0, FIRST);
  return (
    <Pane
      title={t('market.terms.title')}
      aside={
        <>
          {t('market.terms.aside')} · <From kind="terms" {...p} />
        </>
      }>
      <Box sx={{ display: 'flex', gap: 1.5, mb: 0.5, flexWrap: 'wrap', alignItems: 'end' }}>
        <TextLine label={t('market.terms.include')} value={include} onChange={setInclude} width={150} />
        <TextLine label={t('market.terms.exclude')} value={exclude} onChange={setExclude} width={150} />
        {p.canEdit && (
          <ChoiceLine
            label={t('market.terms.match')}
            value={match}
            onChange={(m) => p.decide({ match: m })}
            options={MATCHES.map((m) => ({ value: m, label: t(`market.terms.matches.${m}`) }))}
          />
        )}
        <Typography variant="body2" color="text.secondary" role="status">
          {t('market.terms.found', { count: found.length })}
        </Typography>
      </Box>
      <WithWord {...p} word={include} />
      <FigureTable label={t('market.terms.title')}>
        <thead>
          <tr>
            <th scope="col">{t('market.terms.term')}</th>
            <th scope="col">{t('market.terms.volume')}</th>
            <th scope="col" className="text">
              {t('market.terms.season')}
            </th>
            <th scope="col">{t('market.terms.bid')}</th>
            <th scope="col" className="text">
              {t('market.terms.says')}
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((i) => (
            <TermRow key={termKey(terms[i] as Term)} term={terms[i] as Term} i={i} {...p} />
          ))}
        </tbody>
      </FigureTable>
      {found.length > FIRST && (
        <Button size="small" onClick={() => setAll(!all)}>
          {all
            ? t('market.rivals.less')
            : t('market.terms.more', { count: Math.min(400, found.length) - FIRST })}
        </Button>
      )}
      <Adverts {...p} />
      <TableFile
        table={() => ({
          name: `${view.doc.country} ${t('market.terms.title')}`,
          columns: [
            'ticked',
            'term',
            'language',
            'volume',
            'sales',
            'sales per search',
            'low bid',
            'high bid',
            'flags',
            'note',
          ].map((title) => ({ title })),
          rows: found.slice(0, 20_000).map((i) => {
            const own = terms[i] as Term;
            const s = said.terms.terms[i];
            const range = bidRange(own.bids, match);
            return [
              own.ticked,
              own.term,
              own.language,
              s?.volume ?? null,
              own.sales,
              s?.salesPerSearch ?? null,
              range?.low ?? null,
              range?.high ?? null,
              (s?.flags ?? []).map((x) => t(`market.terms.flags.${x}`)).join(', '),
              own.note,
            ];
          }),
        })}
      />
      <Typography variant="body2" color="text.secondary" sx={{ fontSize: '0.78rem' }}>
        {t('market.terms.buyers')}
      </Typography>
    </Pane>
  );
}

function TermRow({ term, i, market, decide, canEdit, watch }: PaneProps & { term: Term; i: number }) {
  const { t } = useWords();
  const f = useFormat();
  const said = market.said.terms.terms[i];
  const range = bidRange(term.bids, market.composed.document.match);
  const c = market.view.doc.currency;
  const key = termKey(term);
  const { ticked, weight, broad, confirmed, ofRival, note } = term;
  const change = (own: Partial<Watch['terms'][string]>) =>
    decide({
      terms: {
        [key]: { ...(watch.terms[key] ?? { ticked, weight, broad, confirmed, ofRival, note }), ...own },
      },
    });
  const flags = said?.flags ?? [];
  const [open, setOpen] = useState(false);
  return (
    <tr>
      <Box component="th" scope="row" sx={{ fontWeight: ticked ? 650 : 400 }}>
        <Checkbox
          size="small"
          sx={{ p: 0, mr: 0.5 }}
          checked={ticked}
          disabled={!canEdit}
          onChange={(e) => change({ ticked: e.target.checked })}
          slotProps={{ input: { 'aria-label': t('market.terms.tick', { term: term.term }) } }}
        />
        <bdi>{term.term}</bdi>
        {term.language === '' ? '' : ` (${term.language})`}
      </Box>
      <td>{f.number(said?.volume ?? null, 0)}</td>
      <td className="text">
        <TermSeason season={market.said.season.terms[i]} />
      </td>
      <td>
        {range === null
          ? '–'
          : range.low === range.high
            ? f.plain(range.low, c)
            : `${f.plain(range.low, c)}–${f.plain(range.high, c)}`}
      </td>
      <td className="text">
        {[
          ...flags.map((x) => t(`market.terms.flags.${x}`)),
          ...(term.freePlace === null ? [] : [t('market.terms.freePlace', { place: term.freePlace })]),
          ...(term.paidPlace === null ? [] : [t('market.terms.paidPlace', { place: term.paidPlace })]),
        ].join(', ')}
        {flags.includes('broad') && canEdit && (
          <Button
            size="small"
            sx={{ py: 0, px: 0.5, minWidth: 0, minHeight: 25 }}
            onClick={() => change({ confirmed: true })}>
            {t('market.terms.confirm')}
          </Button>
        )}
        {canEdit && ticked && (
          <Button
            size="small"
            sx={{ py: 0, px: 0.5, minWidth: 0, minHeight: 25 }}
            aria-pressed={ofRival}
            onClick={() => change({ ofRival: !ofRival })}>
            {t(ofRival ? 'market.terms.notRival' : 'market.terms.rival')}
          </Button>
        )}
        {note !== '' && <Box sx={{ color: 'text.secondary' }}>{note}</Box>}
        {canEdit && ticked && (
          <Button
            size="small"
            sx={{ py: 0, px: 0.5, minWidth: 0, minHeight: 25 }}
            aria-expanded={open}
            onClick={() => setOpen(!open)}>
            {t('market.terms.details')}
          </Button>
        )}
        {open && (
          <Box sx={{ display: 'flex', gap: 1 }}>
            <TextLine
              label={t('market.terms.note')}
              value={note}
              onChange={(x) => change({ note: x })}
              width={170}
            />
            <NumField
              label={t('market.terms.weight')}
              kind="number"
              value={weight}
              width={90}
              onChange={(x) => change({ weight: x ?? 1 })}
            />
          </Box>
        )}
      </td>
    </tr>
  );
}

/** What the ticked terms make of the lane's adverts, and the most a click may cost. */
function Adverts({ market }: PaneProps) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const into = useIntoLane(market);
  const { bids, mostAClick } = market.said.terms;
  const c = market.view.doc.currency;
  const lacks = market.view.result.incomplete.highestCpc;
  const most = mostAClick === null ? '' : f.money(floorTo(mostAClick, 2), c);
  const text = bids.known
    ? t('market.terms.adverts', {
        count: bids.keywords.length,
        low: f.money(Math.min(...bids.keywords.map((k) => k.low ?? 0)), c),
        high: f.money(Math.max(...bids.keywords.map((k) => k.high ?? 0)), c),
        weights: t(`market.terms.weights.${bids.weights}`),
      })
    : t(`market.terms.${bids.why}`);
  return (
    <Typography variant="body2" sx={{ my: 0.5 }}>
      {text}{' '}
      {bids.known && bids.without.length > 0 && t('market.terms.without', { count: bids.without.length })}{' '}
      {bids.known && bids.ofRivals.length > 0 && t('market.terms.ofRivals', { count: bids.ofRivals.length })}{' '}
      {mostAClick !== null && (
        <b>
          {bounds.lacks(lacks)
            ? t('market.terms.mostAClickBound', { most: bounds.of(most, lacks) })
            : t('market.terms.mostAClick', { most })}{' '}
        </b>
      )}
      <IntoLane act={into('adverts', 'bids')} label={t('market.useBids')} />
    </Typography>
  );
}

/** Terms with the words and without them side by side; their searches are not added. */
function WithWord({ market, word }: PaneProps & { word: string }) {
  const { t } = useWords();
  const f = useFormat();
  const { terms } = market.composed.document;
  const both = useMemo(
    () => withAndWithout(terms, word, nowOf(market.composed.document)),
    [terms, word, market],
  );
  if (word.trim() === '') return null;
  return (
    <Typography variant="body2" sx={{ mb: 0.5 }}>
      {t('market.terms.withWord', {
        word,
        with: f.number(both.with.terms, 0),
        without: f.number(both.without.terms, 0),
        strongestWith: f.number(both.with.strongest, 0),
        strongestWithout: f.number(both.without.strongest, 0),
      })}
    </Typography>
  );
}
