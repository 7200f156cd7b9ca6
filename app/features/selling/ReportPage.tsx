/** A report: which column says what, what each kind of line is, and what it came to. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { Link, useFetcher, useNavigate, useRevalidator } from 'react-router';
import { mapLike } from '../../../core/actuals/map.ts';
import { STEPS } from '../../../core/actuals/schema.ts';
import type { SettledPlace, SettlementMap } from '../../../core/actuals/schema.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { KindsSaid } from './KindsSaid.tsx';
import { MapFields } from './MapFields.tsx';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

export type ReportSaid = {
  readonly rows: number;
  readonly lines: number;
  readonly amount: number;
  readonly waiting: readonly { readonly kind: string; readonly lines: number; readonly amount: number }[];
  readonly refusedRows: number;
  readonly refusedAmount: number;
  readonly refused: readonly { readonly row: number; readonly message: string }[];
};
type Props = {
  readonly id: string;
  readonly name: string;
  readonly sheet: string | null;
  readonly sheets: readonly string[];
  readonly header: readonly string[];
  readonly rows: readonly (readonly string[])[];
  readonly map: SettlementMap | null;
  readonly guessed: SettlementMap;
  readonly earlier: Readonly<Record<string, SettlementMap>>;
  readonly place: SettledPlace | null;
  readonly places: readonly SettledPlace[];
  readonly said: ReportSaid | null;
  readonly sameAs: string | null;
  /** The last reading on the server; null: it was read while one waited, or not yet. */
  readonly reading: {
    readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
    readonly done: number;
    readonly error: string | null;
  } | null;
  readonly base: string;
  readonly canEdit: boolean;
};
/** Milliseconds between two looks at how far reading is. */
const LOOK_MS = 1500;
const keyOf = (p: SettledPlace): string => `${p.marketplace}/${p.country}`;

export function ReportPage(p: Props) {
  const { t } = useWords();
  const f = useFormat();
  const navigate = useNavigate();
  const act = useFetcher<{ read?: true; error?: string }>();
  const [map, setMap] = useState(p.map ?? p.guessed);
  const [place, setPlace] = useState(p.place);
  const [isChanged, setChanged] = useState(false);
  const change = (next: SettlementMap): void => {
    setMap(next);
    setChanged(true);
  };
  const places = [...p.places, ...(p.place === null ? [] : [p.place])].filter(
    (x, i, all) => all.findIndex((y) => keyOf(y) === keyOf(x)) === i,
  );
  const choosePlace = (key: string): void => {
    setPlace(places.find((x) => keyOf(x) === key) ?? null);
    setChanged(true);
    // What was said of this marketplace and country before holds for it alone.
    if (p.map === null) setMap(mapLike(p.guessed, p.earlier[key] ?? null, p.header));
  };
  const send = (body: object): void => {
    setChanged(false);
    void act.submit(JSON.stringify(body), { method: 'post', encType: 'application/json' });
  };
  const isReading = p.reading?.state === 'waiting' || p.reading?.state === 'running';
  useWatch(isReading);
  const currency = place?.currency ?? '';
  return (
    <Box sx={{ maxWidth: 1080 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          <bdi>{p.name}</bdi>
        </Typography>
        <Button component={Link} to={`${p.base}/selling`}>
          {t('report.back')}
        </Button>
        {p.canEdit && <Button onClick={() => send({ intent: 'takeBack' })}>{t('report.takeBack')}</Button>}
      </Box>
      {p.sameAs !== null && (
        <Alert severity="info" sx={{ mb: 1 }}>
          {t('selling.sameAs', { name: p.sameAs })}
        </Alert>
      )}
      {isReading && (
        <Typography role="status" sx={{ mb: 1, fontSize: '1.05rem' }}>
          {t('report.reading', { rows: f.number(p.reading?.done ?? 0, 0) })}
        </Typography>
      )}
      {p.reading?.state === 'failed' && p.reading.error !== null && (
        <Alert severity="error" sx={{ mb: 1 }}>
          {p.reading.error}
        </Alert>
      )}
      {p.said !== null && !isReading && <Said said={p.said} currency={currency} />}
      {p.said !== null && (
        <KindsSaid said={p.said} map={map} currency={currency} canEdit={p.canEdit} onChange={change} />
      )}
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1.5 }}>
        <ChoiceLine
          label={t('report.place')}
          width={220}
          value={place === null ? '' : keyOf(place)}
          onChange={choosePlace}
          options={[
            { value: '', label: t('report.noPlace') },
            ...places.map((x) => ({
              value: keyOf(x),
              label: `${x.marketplace} ${x.country}, ${x.currency}`,
            })),
          ]}
        />
        {p.sheets.length > 1 && (
          <ChoiceLine
            label={t('report.sheet')}
            value={p.sheet ?? ''}
            onChange={(sheet) => void navigate(`?sheet=${encodeURIComponent(sheet)}`)}
            options={p.sheets.map((s) => ({ value: s, label: s }))}
          />
        )}
      </Box>
      <MapFields header={p.header} rows={p.rows} map={map} onChange={change} />
      {act.data?.error !== undefined && (
        <Alert severity="error" sx={{ my: 1 }}>
          {act.data.error}
        </Alert>
      )}
      {p.canEdit && (
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', my: 1.5 }}>
          <Button
            variant="contained"
            disabled={place === null || act.state !== 'idle' || isReading}
            onClick={() => send({ intent: 'read', place, map, sheet: p.sheet })}>
            {t(p.said === null ? 'report.read' : 'report.readAgain')}
          </Button>
          {isChanged && p.said !== null && (
            <Typography role="status" variant="body2">
              {t('report.changed')}
            </Typography>
          )}
        </Box>
      )}
      {p.said !== null && p.said.refused.length > 0 && (
        <Box
          sx={{ maxHeight: 260, overflowY: 'auto' }}
          tabIndex={0}
          role="region"
          aria-label={t('selling.reports.open')}>
          {p.said.refused.map((r) => (
            <Typography variant="body2" key={r.row}>
              <b>{t('report.row', { row: f.number(r.row, 0) })}</b> {r.message}
            </Typography>
          ))}
        </Box>
      )}
    </Box>
  );
}

/** Looks again every while, as long as the report is being read. */
function useWatch(isReading: boolean): void {
  const { revalidate } = useRevalidator();
  useEffect(() => {
    if (!isReading) return;
    const timer = setInterval(() => void revalidate(), LOOK_MS);
    return () => clearInterval(timer);
  }, [isReading, revalidate]);
}

/** What counts, and what is refused; the two and what waits add up to the file. */
function Said({ said, currency }: { said: ReportSaid; currency: string }) {
  const { t } = useWords();
  const f = useFormat();
  const money = (steps: number): string => f.money(steps / STEPS, currency);
  return (
    <Typography role="status" data-testid="report-said" sx={{ mb: 1, fontSize: '1.05rem' }}>
      {t('report.said', {
        lines: f.number(said.lines, 0),
        amount: money(said.amount),
        rows: f.number(said.rows, 0),
      })}{' '}
      {said.refusedRows > 0 &&
        t('report.refused', { count: said.refusedRows, amount: money(said.refusedAmount) })}
    </Typography>
  );
}
