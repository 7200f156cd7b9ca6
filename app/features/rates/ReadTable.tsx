import { Alert, Box, Button, Typography } from '@mui/material';
import { useRef, useState } from 'react';
import { FileField } from '../../ui/FileField.tsx';
import { Link, useFetcher } from 'react-router';
import type { MarketplaceCard } from '../../../core/cards/rates.ts';
import { day } from '../../../core/money/schema.ts';
import { inWords } from '../../../words/index.ts';
import { ChoiceLine, fieldInput, NumField, TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { languageOf, useCountries, useCurrencies } from '../../ui/names.ts';
import { StandingChoice } from '../../ui/StandingChoice.tsx';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import { useAddress } from '../../ui/useAddress.ts';
import { ChangeList } from './ChangeList.tsx';
import { ProofsPane } from './ProofsPane.tsx';
import type { Kept } from './ProofsPane.tsx';
import { ReadSentence, Understanding } from './Understanding.tsx';
import { MODES, useReadTable } from './useReadTable.ts';
import type { ReadData, ReadState } from './useReadTable.ts';
import './words.ts';
import './scheduleWords.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = ReadData & { proofs: readonly Kept[]; base: ReadData['base']; root: string; canEdit: boolean };
type Answer = { error?: string; text?: string };

/** Whatever fee table one has becomes a card: what was given, what was understood, what was really charged. */
export function ReadTablePage(p: Props) {
  const { t } = useWords();
  const state = useReadTable(p);
  const [mine, setMine] = useState<Kept[]>([]);
  const fetcher = useFetcher<Answer>();
  const { made } = state;
  const send = (body: object): void =>
    void fetcher.submit(body as never, { method: 'post', encType: 'application/json' });
  const card = made.kind === 'marketplace' && made.data !== null ? (made.data as MarketplaceCard) : null;
  const proofs = p.base === null ? mine : p.proofs;
  const draft = {
    kind: made.kind,
    cells: made.cells,
    basedOn: p.base?.id ?? null,
    choices: state.choices,
    standing: state.standing,
    vat: state.vat,
    proofs: p.base === null ? mine.map((x) => x.proof) : [],
  };
  return (
    <Box sx={{ maxWidth: 1400 }}>
      <Typography component="div" color="text.secondary">
        <Box component={Link} to={`${p.root}/rates`} sx={{ color: 'inherit' }}>
          {t('nav.rates')}
        </Box>{' '}
        / <b>{p.base?.name ?? (state.name || t('read.title'))}</b>
      </Typography>
      <ReadSentence state={state} />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: '330px minmax(0, 1fr)', lg: '330px minmax(0, 1fr) 300px' },
          gap: 3,
        }}>
        <Box>
          <About p={p} state={state} />
          <Given state={state} fetcher={fetcher} canEdit={p.canEdit} />
        </Box>
        <Understanding state={state} />
        <Box sx={{ gridColumn: { md: '2', lg: 'auto' } }}>
          {card !== null && (
            <ProofsPane
              card={card}
              tax={p.tax}
              by={p.by}
              proofs={proofs}
              onAdd={
                p.canEdit
                  ? (added) =>
                      p.base === null
                        ? setMine([...mine, ...added.map((proof) => ({ id: crypto.randomUUID(), proof }))])
                        : send({ intent: 'addProofs', key: p.base.key, proofs: added })
                  : null
              }
              onDrop={(id) =>
                p.base === null
                  ? setMine(mine.filter((x) => x.id !== id))
                  : send({ intent: 'dropProofs', ids: [id] })
              }
            />
          )}
          {p.canEdit && (
            <Box sx={{ mt: 2 }}>
              <Done
                state={state}
                busy={fetcher.state !== 'idle'}
                onSend={(intent) => send({ intent, ...draft })}
              />
              {fetcher.data?.error && (
                <Alert severity="error" sx={{ mt: 1 }}>
                  {fetcher.data.error}
                </Alert>
              )}
            </Box>
          )}
        </Box>
      </Box>
    </Box>
  );
}

/** Which card it is for: one there is, or a new one by name, country, currency and what it takes of a sale. */
function About({ p, state }: { p: Props; state: ReadState }) {
  const { t } = useWords();
  const [, setAddress] = useAddress();
  const countries = useCountries();
  const currencies = useCurrencies();
  const into = p.base?.id ?? state.kind;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '10px 14px', mb: 2 }}>
      <Box sx={{ gridColumn: '1 / -1' }}>
        <ChoiceLine
          label={t('read.into')}
          value={into}
          options={[
            { value: 'marketplace', label: t('read.newMarketplace') },
            { value: 'postage', label: t('read.newPostage') },
            { value: 'freight', label: t('read.newFreight') },
            ...p.marketplaces.map((m) => ({ value: m.id, label: m.name })),
          ]}
          onChange={(v) => {
            const isNew = v === 'marketplace' || v === 'postage' || v === 'freight';
            state.setKind(isNew ? v : 'marketplace');
            setAddress({ card: isNew ? null : v });
          }}
          width="100%"
        />
      </Box>
      {p.base !== null && <FromDay state={state} />}
      {p.base === null && (
        <>
          <TextLine
            label={t(state.kind === 'marketplace' ? 'read.marketplace' : 'read.name')}
            value={state.name}
            onChange={state.setName}
            width="100%"
          />
          {state.kind === 'freight' && (
            <SearchChoice
              label={t('read.origin')}
              value={state.origin}
              options={countries}
              onChange={state.setOrigin}
              width="100%"
            />
          )}
          <SearchChoice
            label={t(state.kind === 'freight' ? 'read.to' : 'read.country')}
            value={state.country}
            options={countries}
            onChange={state.turnTo}
            width="100%"
          />
          <SearchChoice
            label={t('read.currency')}
            value={state.currency}
            options={currencies}
            onChange={state.setCurrency}
            width="100%"
          />
          <Language country={state.country} />
          {state.kind === 'freight' && (
            <ChoiceLine
              label={t('read.mode')}
              value={state.mode}
              options={MODES.map((m) => ({ value: m, label: t(`cards.choice.${m}`, { defaultValue: m }) }))}
              onChange={state.setMode}
              width="100%"
            />
          )}
          {state.kind === 'marketplace' && p.by.standings[state.country] === undefined && (
            <Box sx={{ gridColumn: '1 / -1' }}>
              <StandingChoice
                label={t('read.standing')}
                none={t('standing.missing')}
                standing={state.standing}
                onChange={state.setStanding}
              />
            </Box>
          )}
          {state.kind === 'marketplace' && <Vat p={p} state={state} />}
          {state.kind === 'marketplace' && (
            <ChoiceLine
              label={t('read.sender')}
              value={state.sender ?? ''}
              options={[
                ...(state.sender === null ? [{ value: '' as const, label: t('read.senders.none') }] : []),
                { value: 'marketplace' as const, label: t('read.senders.marketplace') },
                { value: 'self' as const, label: t('read.senders.self') },
              ]}
              onChange={(v) => state.setSender(v === '' ? null : v)}
              width="100%"
            />
          )}
          {state.kind === 'marketplace' && (
            <NumField
              label={t('read.takes')}
              kind="percent"
              value={state.pct}
              onChange={state.setPct}
              min={0}
              max={1}
              width="100%"
            />
          )}
        </>
      )}
    </Box>
  );
}

/** The day from which it is in force. */
function FromDay({ state }: { state: ReadState }) {
  const { t } = useWords();
  const isDay = day.safeParse(state.from).success;
  return (
    <TextLine
      label={t('read.from')}
      value={state.from}
      onChange={state.setFrom}
      error={isDay ? null : '2026-12-01'}
      width="100%"
    />
  );
}

/** The language that most people of a country read, as the browser's tables of locales have it. */
function Language({ country }: { country: string }) {
  const { t, i18n } = useWords();
  const language = languageOf(country, i18n.language);
  return language === null ? null : (
    <Box sx={{ fontSize: '0.86rem', alignSelf: 'end', pb: 0.75 }}>{t('read.language', { language })}</Box>
  );
}

/** The standard rate of a country: one's own card's, or what a package says until one types another. */
function Vat({ p, state }: { p: Props; state: ReadState }) {
  const { t } = useWords();
  const f = useFormat();
  const own = p.taxed[state.country];
  const known = p.known.rates[state.country] ?? null;
  if (own != null)
    return (
      <Box sx={{ fontSize: '0.86rem', alignSelf: 'end', pb: 0.75 }}>
        {t('read.vatByCard', { pct: f.percent(own, 1) })}
      </Box>
    );
  const from = known === null ? t('read.vatUnknown') : t('read.vatFrom', { source: p.known.from });
  return (
    <Box>
      <NumField
        label={t('read.vat')}
        kind="percent"
        value={state.vat ?? known}
        onChange={state.setVat}
        min={0}
        max={1}
        width="100%"
      />
      {state.vat === null && (
        <Typography variant="body2" color="text.secondary" sx={{ fontSize: '0.76rem' }}>
          {from}
        </Typography>
      )}
    </Box>
  );
}

function Given({
  state,
  fetcher,
  canEdit,
}: {
  state: ReadState;
  fetcher: ReturnType<typeof useFetcher<Answer>>;
  canEdit: boolean;
}) {
  const { t } = useWords();
  const file = useRef<HTMLInputElement>(null);
  const taken = useRef<unknown>(null);
  // What the server made of a workbook comes into the field once.
  if (fetcher.data?.text !== undefined && taken.current !== fetcher.data) {
    taken.current = fetcher.data;
    const { text } = fetcher.data;
    queueMicrotask(() => state.add(text));
  }
  const take = async (f: File): Promise<void> => {
    if (/\.xlsx$/i.test(f.name)) {
      const form = new FormData();
      form.set('file', f);
      void fetcher.submit(form, { method: 'post', encType: 'multipart/form-data' });
    } else state.add((await f.text()).replace(/^\ufeff/, '').slice(0, 1_000_000));
  };
  return (
    <>
      <Typography component="label" htmlFor="given" variant="h3" sx={{ display: 'block', mb: 0.5 }}>
        {t('read.given')}
      </Typography>
      <Box
        component="textarea"
        id="given"
        value={state.text}
        spellCheck={false}
        placeholder={t('read.placeholder')}
        onChange={(e: { target: { value: string } }) => state.setText(e.target.value)}
        onDragOver={(e: { preventDefault: () => void }) => e.preventDefault()}
        onDrop={(e: React.DragEvent) => {
          const [f] = e.dataTransfer.files;
          if (f === undefined) return;
          e.preventDefault();
          void take(f);
        }}
        sx={{
          ...fieldInput(false),
          width: '100%',
          height: 'max(260px, calc(100vh - 430px))',
          border: '1px solid',
          borderColor: 'fieldLine',
          borderRadius: 1,
          p: 1,
          color: 'text.primary',
          font: '0.8rem/1.5 ui-monospace, monospace',
          resize: 'vertical',
          whiteSpace: 'pre',
          overflow: 'auto',
        }}
      />
      <Typography variant="body2" color="text.secondary">
        {t('read.givenHelp')}
      </Typography>
      {canEdit && (
        <Button size="small" onClick={() => file.current?.click()} sx={{ mt: 0.5 }}>
          {t('read.file')}
        </Button>
      )}
      <FileField
        ref={file}
        label={t('read.file')}
        accept=".csv,.tsv,.txt,.xlsx"
        onFile={(f) => void take(f)}
      />
    </>
  );
}

/** What keeps the card from being in force, what it would change, and the two ways on. */
function Done({
  state,
  busy,
  onSend,
}: {
  state: ReadState;
  busy: boolean;
  onSend: (intent: 'draft' | 'force') => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const { made, from } = state;
  const changes = made.changes;
  return (
    <>
      {changes !== null && (
        <Typography variant="body2" sx={{ mb: 1 }}>
          {changes.length === 0 ? t('read.same') : t('read.changes', { count: changes.length })}
        </Typography>
      )}
      {changes !== null && changes.length > 0 && (
        <Box
          tabIndex={0}
          role="group"
          aria-label={t('read.changed')}
          sx={{ maxHeight: 240, overflowY: 'auto', mb: 1 }}>
          <ChangeList kind={made.kind} changes={changes} />
        </Box>
      )}
      {state.understood.counts.doubtful > 0 && (
        <Typography variant="body2" sx={{ mb: 1 }}>
          {t('read.open1', { count: state.understood.counts.doubtful })}
        </Typography>
      )}
      {state.understood.counts.notUnderstood > 0 && (
        <Typography variant="body2" color="error" sx={{ mb: 1 }}>
          {t('read.missing', { count: state.understood.counts.notUnderstood })}
        </Typography>
      )}
      {made.errors.length > 0 && (
        <Box sx={{ mb: 1, fontSize: '0.86rem' }}>
          <b>{t('read.errors')}</b>
          {made.errors.slice(0, 6).map((e) => (
            <Box key={`${e.sheet} ${e.row} ${e.column} ${e.code}`}>
              {e.column === null ? '' : `${t(`cards.column.${e.column}`, { defaultValue: e.column })}: `}
              {inWords(e)}
            </Box>
          ))}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button
          variant="contained"
          disabled={
            busy || made.data === null || changes?.length === 0 || state.understood.counts.doubtful > 0
          }
          onClick={() => onSend('force')}>
          {t('read.force', { date: f.day(from) })}
        </Button>
        <Button variant="outlined" disabled={busy} onClick={() => onSend('draft')}>
          {t('read.draft')}
        </Button>
      </Box>
    </>
  );
}
