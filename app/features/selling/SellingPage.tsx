/** Lanes on sale, each with its plan over what really came of it, and the reports that say so. */
import { Alert, Box, Button, Link as MuiLink, Typography } from '@mui/material';
import { useRef, useState } from 'react';
import { Trans, useTranslation } from 'react-i18next';
import { Link, useNavigate } from 'react-router';
import type { Compared, Stands } from '../../../core/actuals/compare.ts';
import { useBounds } from '../../ui/bounds.ts';
import { FileField } from '../../ui/FileField.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useUpload } from '../../ui/useUpload.ts';
import { LaunchForm } from './LaunchForm.tsx';
import type { LaneChoice } from './LaunchForm.tsx';
import { StandsSaid, TwoBars } from './parts.tsx';
import { Reports } from './Reports.tsx';
import type { ReportLine } from './Reports.tsx';
import { UnknownCodes } from './UnknownCodes.tsx';
import type { CodeUnknown } from './UnknownCodes.tsx';
import './words.ts';

export type LaunchedLine = {
  readonly laneId: string;
  readonly name: string;
  readonly place: string;
  readonly codes: readonly string[];
  readonly since: string;
  readonly until: string | null;
  readonly stands: Stands;
  readonly whole: Compared | null;
};
type Props = {
  readonly lanes: readonly LaunchedLine[];
  readonly mix: { readonly currency: string; readonly volume: number; readonly mix: number } | null;
  readonly unknown: readonly CodeUnknown[];
  readonly choices: readonly LaneChoice[];
  readonly reports: readonly ReportLine[];
  readonly largest: number;
  readonly today: string;
  readonly base: string;
  readonly canEdit: boolean;
};

export function SellingPage(p: Props) {
  const { t } = useTranslation();
  const f = useFormat();
  const navigate = useNavigate();
  const choose = useRef<HTMLInputElement>(null);
  /** Codes that the form opens with; null: it is closed. */
  const [launching, setLaunching] = useState<string | null>(null);
  const upload = useUpload(
    `${p.base}/selling/upload`,
    ({ id, sameAs }) =>
      void navigate(
        `${p.base}/selling/reports/${id}${sameAs === null ? '' : `?same=${encodeURIComponent(sameAs)}`}`,
      ),
    t('selling.broken'),
    { most: p.largest, text: t('selling.tooLarge', { most: f.number(p.largest / 1024 / 1024, 0) }) },
  );
  return (
    <Box sx={{ maxWidth: 1180 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap', mb: 1.5 }}>
        <Typography variant="h1">{t('selling.title')}</Typography>
        <Typography color="text.secondary" sx={{ flex: 1, minWidth: 200 }}>
          {t('selling.lead')}
        </Typography>
        {p.canEdit && (
          <>
            <Button
              onClick={() => setLaunching(launching === null ? '' : null)}
              aria-expanded={launching !== null}>
              {t('selling.launch')}
            </Button>
            <Button
              variant="contained"
              onClick={() => choose.current?.click()}
              disabled={upload.now !== null}>
              {t('selling.bring')}
            </Button>
            <FileField
              ref={choose}
              label={t('selling.bring')}
              accept=".csv,.tsv,.txt,.xlsx"
              onFile={upload.send}
            />
          </>
        )}
      </Box>
      {upload.now !== null && (
        <Typography role="status">
          {t('selling.sending', { name: upload.now.name, share: f.percent(upload.now.share, 0) })}
        </Typography>
      )}
      {upload.error !== null && <Alert severity="error">{upload.error}</Alert>}
      {launching !== null && (
        <LaunchForm
          key={launching}
          choices={p.choices}
          codes={launching}
          today={p.today}
          onDone={() => setLaunching(null)}
        />
      )}
      {p.lanes.length === 0 ? (
        <Typography sx={{ my: 2, maxWidth: 720 }}>{t('selling.begin')}</Typography>
      ) : (
        <Answer lanes={p.lanes} mix={p.mix} />
      )}
      {p.lanes.map((lane) => (
        <LaunchedRow key={lane.laneId} lane={lane} base={p.base} />
      ))}
      <UnknownCodes codes={p.unknown} {...(p.canEdit && { onMine: setLaunching })} />
      <Reports reports={p.reports} base={p.base} />
    </Box>
  );
}

function Answer({ lanes, mix }: Pick<Props, 'lanes' | 'mix'>) {
  const { t } = useTranslation();
  const f = useFormat();
  const settled = lanes.filter((l) => l.whole !== null).length;
  const less = lanes.filter((l) => ['loses', 'paysLess'].includes(l.stands.standing)).length;
  const signed = (x: number, currency: string): string => `${x > 0 ? '+' : ''}${f.money(x, currency)}`;
  return (
    <Typography variant="h4" component="p" data-testid="selling-answer" sx={{ mb: 2 }}>
      {settled === 0 ? (
        t('selling.answerNothing')
      ) : (
        <Trans
          i18nKey={less === 0 ? 'selling.answerNone' : 'selling.answer'}
          count={settled}
          values={{ less, count: settled }}
          components={{ b: <Box component="strong" sx={{ fontWeight: 720 }} /> }}
        />
      )}{' '}
      {mix !== null && (
        <Typography component="span" color="text.secondary">
          {t('selling.mix', { volume: signed(mix.volume, mix.currency), mix: signed(mix.mix, mix.currency) })}
        </Typography>
      )}
    </Typography>
  );
}

function LaunchedRow({ lane, base }: { lane: LaunchedLine; base: string }) {
  const { t } = useTranslation();
  const f = useFormat();
  const { whole } = lane;
  return (
    <Box
      component="article"
      aria-label={lane.name}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1.1fr) minmax(0, 1fr) 230px' },
        gap: { xs: 1, md: 3 },
        alignItems: 'center',
        py: 1.5,
        borderTop: '1px solid',
        borderColor: 'hairline',
      }}>
      <Box sx={{ minWidth: 0 }}>
        <MuiLink
          component={Link}
          to={`${base}/selling/${lane.laneId}`}
          sx={{ color: 'text.primary', fontWeight: 650 }}>
          <bdi>{lane.name}</bdi>
        </MuiLink>
        <Typography variant="body2" color="text.secondary">
          {lane.place.replace('/', ' ')} · {t('selling.onSaleSince', { day: f.day(lane.since) })}
          {lane.until !== null && `, ${t('selling.until', { day: f.day(lane.until) })}`}
        </Typography>
        <StandsSaid stands={lane.stands} compared={whole} />
      </Box>
      {whole !== null && <TwoBars compared={whole} />}
      {whole !== null && <Figures compared={whole} />}
    </Box>
  );
}

/** Profit of a unit and units, planned and actual; what the difference comes to. */
function Figures({ compared: c }: { compared: Compared }) {
  const { t } = useTranslation();
  const f = useFormat();
  const bounds = useBounds();
  const rows = [
    [
      'unitProfit',
      bounds.of(f.money(c.planned.unitProfit, c.currency), c.planned.lacks),
      bounds.of(f.money(c.unitProfit, c.currency), c.actual.lacks),
    ],
    ['units', f.number(c.planned.units, 0), f.number(c.actual.shipped, 0)],
  ] as const;
  return (
    <Box sx={{ fontSize: '0.88rem' }}>
      {rows.map(([key, planned, actual]) => (
        <Box key={key} sx={{ display: 'flex', justifyContent: 'space-between', gap: 1 }}>
          <Box sx={{ color: 'text.secondary' }}>{t(`selling.${key}`)}</Box>
          <Box>
            {planned} → <b>{actual}</b>
          </Box>
        </Box>
      ))}
      {c.parts !== null && (
        <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1 }}>
          <Box sx={{ color: 'text.secondary' }}>{t('selling.difference')}</Box>
          <Box component="b" sx={{ color: c.parts.difference < 0 ? 'error.main' : 'text.primary' }}>
            {c.parts.difference > 0 && '+'}
            {f.money(c.parts.difference, c.currency)}
          </Box>
        </Box>
      )}
    </Box>
  );
}
