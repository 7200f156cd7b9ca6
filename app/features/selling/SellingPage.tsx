/** Lanes on sale, each with its plan over what really came of it, and the reports that say so. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useRef, useState } from 'react';
import { Trans } from 'react-i18next';
import { Link, useNavigate } from 'react-router';
import type { WorkspaceMonth } from '../../../core/actuals/allMonths.ts';
import type { EstimateSaid } from '../../../core/actuals/estimates.ts';
import { FileField } from '../../ui/FileField.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useUpload } from '../../ui/useUpload.ts';
import { Estimates } from './Estimates.tsx';
import { LaunchedRow } from './LaunchedRow.tsx';
import type { LaunchedLine } from './LaunchedRow.tsx';
import { LaunchForm } from './LaunchForm.tsx';
import type { LaneChoice } from './LaunchForm.tsx';
import { Reports } from './Reports.tsx';
import type { ReportLine } from './Reports.tsx';
import { UnknownCodes } from './UnknownCodes.tsx';
import type { CodeUnknown } from './UnknownCodes.tsx';
import { WholeMonths } from './WholeMonths.tsx';
import type { PlaceSaid } from './WholeMonths.tsx';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  readonly lanes: readonly LaunchedLine[];
  readonly counts: {
    readonly all: number;
    readonly settled: number;
    readonly less: number;
    readonly asks: number;
  };
  readonly mix: { readonly currency: string; readonly volume: number; readonly mix: number } | null;
  readonly unknown: readonly CodeUnknown[];
  readonly months: readonly WorkspaceMonth[];
  readonly homeCurrency: string;
  readonly stock: { readonly value: number; readonly lacks: number };
  readonly places: readonly PlaceSaid[];
  readonly estimates: readonly EstimateSaid[];
  readonly choices: readonly LaneChoice[];
  readonly reports: readonly ReportLine[];
  readonly largest: number;
  readonly today: string;
  readonly base: string;
  readonly canEdit: boolean;
};

export function SellingPage(p: Props) {
  const { t } = useWords();
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
        <Answer counts={p.counts} mix={p.mix} />
      )}
      {p.lanes.map((lane) => (
        <LaunchedRow key={lane.laneId} lane={lane} base={p.base} home={p.homeCurrency} />
      ))}
      {p.counts.all > p.lanes.length && (
        <Button component={Link} to="?all" preventScrollReset>
          {t('selling.showAll', { count: p.counts.all })}
        </Button>
      )}
      <WholeMonths months={p.months} home={p.homeCurrency} stock={p.stock} places={p.places} />
      <Estimates estimates={p.estimates} />
      <UnknownCodes codes={p.unknown} {...(p.canEdit && { onMine: setLaunching })} />
      <Reports reports={p.reports} base={p.base} />
    </Box>
  );
}

function Answer({ counts, mix }: Pick<Props, 'counts' | 'mix'>) {
  const { t } = useWords();
  const f = useFormat();
  const { settled, less, asks } = counts;
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
      {asks > 0 && t('selling.asks', { count: asks })}{' '}
      {mix !== null && (
        <Typography component="span" color="text.secondary">
          {t('selling.mix', { volume: signed(mix.volume, mix.currency), mix: signed(mix.mix, mix.currency) })}
        </Typography>
      )}
    </Typography>
  );
}
