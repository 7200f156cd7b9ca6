/** What stands above the rows of a list: where it is sold, how its reading goes, the answer in a sentence. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { Link } from 'react-router';
import type { Answer } from '../../../between/ask.ts';
import { useFormat } from '../../ui/locale.ts';
import type { ListData, Tally } from './listData.ts';
import { useTally } from './useTally.ts';
import { CatalogueOdd, LeftOutOf, ReadAgain } from './CatalogueSaid.tsx';
import { lackingWord, Progress } from './Nothing.tsx';
import type { Screen } from './useScreen.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  data: ListData;
  url: string;
  screen: Screen;
  tally: Tally;
  shownCount: number;
  onStop: (() => void) | null;
  onAssumptions: () => void;
};

export function ListHead({ data: p, url, screen, tally, shownCount, onStop, onAssumptions }: Props) {
  const { t } = useWords();
  const { answer, work } = screen;
  const running = work?.state === 'waiting' || work?.state === 'running';
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap' }}>
        <Typography variant="h1" dir="auto" sx={{ fontSize: '1.4rem' }}>
          {p.list.name}
        </Typography>
        <Facts data={p} url={url} answer={answer} />
        <Box sx={{ ml: 'auto', display: 'flex', gap: 0.5, alignItems: 'baseline' }}>
          <Button component={Link} to={`${p.root}/lists`} size="small">
            {t('list.back')}
          </Button>
          {p.list.isCatalogue && p.canEdit && !running && <ReadAgain id={p.list.id} root={p.root} />}
          <Button component={Link} to={`${url}/setup`} size="small">
            {t(p.list.isCatalogue ? 'catalogue.other' : 'list.setup')}
          </Button>
        </Box>
      </Box>
      {running && <Progress work={work} startedAt={p.work?.startedAt ?? null} onStop={onStop} />}
      {work?.catalogue != null && <CatalogueOdd said={work.catalogue} />}
      {work?.state === 'cancelled' && (
        <Alert severity="warning" sx={{ my: 0.5, py: 0 }}>
          {t('list.stopped')}
        </Alert>
      )}
      {work?.state === 'failed' && (
        <Alert severity="error" sx={{ my: 0.5, py: 0 }}>
          {t('list.failed', { error: work.error })}
        </Alert>
      )}
      {screen.notAnswered !== null && (
        <Alert
          severity={screen.notAnswered === 'offline' ? 'info' : 'error'}
          role="status"
          sx={{ my: 0.5, py: 0 }}>
          {screen.notAnswered === 'offline' ? t('list.away') : t(`notDone.${screen.notAnswered}`)}
        </Alert>
      )}
      {answer !== null && !(running && answer.rows === 0) && (
        <Sentence answer={answer} running={running} tally={tally} home={p.home} />
      )}
      {answer !== null && shownCount > 0 && (
        <MostUnknown answer={answer} url={url} onAssumptions={onAssumptions} />
      )}
    </>
  );
}

/** Supplier and marketplace, rows to mend, what changed since the edition before, what rows lack. */
function Facts({ data: p, url, answer }: { data: ListData; url: string; answer: Answer | null }) {
  const { t } = useWords();
  const f = useFormat();
  const { counts } = p;
  return (
    <Typography variant="body2" color="text.secondary" sx={{ flex: '1 1 320px', minWidth: 0 }}>
      {p.supplierName !== '' && `${p.supplierName} · `}
      {p.screen.rates.marketplace?.marketplace} {p.screen.country}
      {counts.invalid > 0 && (
        <>
          {' '}
          · <a href={`${url}/file?what=refused`}>{t('list.toMend', { count: counts.invalid })}</a>
        </>
      )}
      {(counts.troubles.barcode ?? 0) > 0 && (
        <>
          {' '}
          · <Link to={`${url}/match`}>{t('list.toMatch', { count: counts.troubles.barcode ?? 0 })}</Link>
        </>
      )}
      {p.list.looked > 0 && (
        <>
          {' '}
          · <Link to={`${url}/closer`}>{t('list.looked', { count: p.list.looked })}</Link>
        </>
      )}
      {p.list.hasPrevious && p.work?.state === 'done' && (
        <>
          {' '}
          ·{' '}
          {t('list.edition', {
            fresh: f.number(counts.changes.new ?? 0, 0),
            dearer: f.number(counts.changes.dearer ?? 0, 0),
            cheaper: f.number(counts.changes.cheaper ?? 0, 0),
          })}
          {counts.gone !== null && counts.gone > 0 && (
            <>
              , <a href={`${url}/file?what=gone&as=xlsx`}>{t('list.gone', { count: counts.gone })}</a>
            </>
          )}
        </>
      )}
      {p.work?.catalogue != null && <LeftOutOf said={p.work.catalogue} />}
      {counts.garbled > 0 && <> · {t('list.garbled', { count: counts.garbled })}</>}
      {answer !== null && answer.unknown.noMarket > 0 && (
        <> · {t('list.noMarket', { count: f.number(answer.unknown.noMarket, 0) as never })}</>
      )}
      {answer !== null && answer.unknown.noCategory > 0 && (
        <> · {t('list.noCategory', { count: f.number(answer.unknown.noCategory, 0) as never })}</>
      )}
    </Typography>
  );
}

/** How many rows pay, and what those kept add up to. */
function Sentence({
  answer,
  running,
  tally,
  home,
}: {
  answer: Answer;
  running: boolean;
  tally: Tally;
  home: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const kept = tally.kept + tally.ordered;
  const adds = useTally(tally, home);
  return (
    <Typography
      sx={{
        fontFamily: '"Bricolage Grotesque Variable", sans-serif',
        fontSize: '1.12rem',
        lineHeight: 1.35,
      }}>
      {running && `${t('list.soFar')}: `}
      {t('list.sentence', {
        rows: f.number(answer.rows, 0),
        pass: f.number(answer.verdicts.pass, 0),
        near: f.number(answer.verdicts.near, 0),
        fail: f.number(answer.verdicts.fail, 0),
        unknown: f.number(answer.verdicts.unknown, 0),
      })}
      {kept > 0 && (
        <Box component="span" sx={{ color: 'primary.main' }}>
          {' '}
          {adds.amount === null
            ? t('list.tallyKept', { kept: f.number(kept, 0) })
            : t('list.tally', { kept: f.number(kept, 0), amount: adds.amount })}
          {adds.unknown}.
        </Box>
      )}
    </Typography>
  );
}

/** Where most rows cannot be told: what they lack, and the two places where it can be given. */
function MostUnknown({
  answer,
  url,
  onAssumptions,
}: {
  answer: Answer;
  url: string;
  onAssumptions: () => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const [most] = answer.lacking;
  if (most === undefined || answer.verdicts.unknown * 2 <= answer.rows) return null;
  const [what, rows] = most;
  return (
    <Typography variant="body2" color="text.secondary">
      {t('list.mostUnknown', { what: lackingWord(what, t), count: rows, n: f.number(rows, 0) })}{' '}
      {t(`listRemedy.${what}`, { defaultValue: '' })}{' '}
      <Button size="small" sx={{ py: 0 }} onClick={onAssumptions}>
        {t('list.assumptions')}
      </Button>
      <Button size="small" sx={{ py: 0 }} component={Link} to={`${url}/setup`}>
        {t('list.setup')}
      </Button>
    </Typography>
  );
}
