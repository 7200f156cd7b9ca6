import { Alert, Box, Button, LinearProgress, Typography } from '@mui/material';
import { useEffect } from 'react';
import { Form, Link, useFetcher, useNavigation, useRevalidator } from 'react-router';
import type { Impact } from '../../../core/workspace/impact.ts';
import { useAddress } from '../../ui/useAddress.ts';
import { useBounds } from '../../ui/bounds.ts';
import { loses } from '../../ui/ProfitCell.tsx';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

type Touched = Impact & {
  laneId: string;
  candidateId: string;
  candidate: string;
  country: string;
  marketplace: string;
  method: string;
  onSale: boolean;
};
type Props = {
  touched: Touched[];
  all: number;
  candidates: number;
  falls: number;
  under: number;
  lists: { id: string; name: string }[];
  name: string;
  day: string;
  back: string;
  draft: boolean;
  homeCurrency: string;
  task: { id: string; state: string; done: number; total: number; data: Record<string, unknown> } | null;
  today: string;
  root: string;
  canEdit: boolean;
};

/** Which candidates a version of a card touches, what each would keep, and why. */
export function TouchPage({
  touched,
  all,
  candidates,
  falls,
  under,
  lists,
  name,
  day,
  back,
  draft,
  homeCurrency,
  task,
  today,
  root,
  canEdit,
}: Props) {
  const { t } = useWords();
  const f = useFormat();
  const [search, setAddress] = useAddress();
  const { revalidate } = useRevalidator();
  const busy = useNavigation().state !== 'idle';
  const working = task !== null && (task.state === 'waiting' || task.state === 'running');
  useEffect(() => {
    if (!working) return;
    const timer = setInterval(() => void revalidate(), 900);
    return () => clearInterval(timer);
  }, [working, revalidate]);
  const only = search.get('only') === 'falls';
  const shown = only ? touched.filter((x) => x.change === null || x.change < -0.005) : touched;
  const unknown = touched.filter((x) => x.change === null).length;
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Typography component="span" color="text.secondary">
        <Box component={Link} to={`${root}/${back}`} sx={{ color: 'inherit' }}>
          {t('touch.back')}
        </Box>
      </Typography>
      <Typography variant="h1" sx={{ fontSize: '1.5rem', mb: 0.5 }}>
        {t('touch.title', { name, date: f.day(day) })}
      </Typography>
      {task !== null && <Bringing task={task} working={working} root={root} />}
      {lists.length > 0 && <Lists lists={lists} root={root} />}
      {all === 0 ? (
        <Typography sx={{ mt: 1 }}>{t('touch.none')}</Typography>
      ) : (
        <>
          <Typography variant="h4" component="p" sx={{ mb: 0.5 }} data-testid="touch-answer">
            {t('touch.lanes', { count: all })} {t('touch.of', { count: candidates })}:{' '}
            <Box component="strong" sx={{ color: falls > 0 ? 'error.main' : 'inherit' }}>
              {falls === 0 ? t('touch.noneFalls') : t('touch.fall', { count: falls })}
            </Box>
            {under > 0 && (
              <>
                , <strong>{t('touch.under', { count: under })}</strong>
              </>
            )}
            {unknown > 0 && <>, {t('touch.some', { count: unknown })}</>}.
          </Typography>
          <Typography variant="body2" color="text.secondary" sx={{ mb: 1.5 }}>
            {t('touch.lead', { currency: homeCurrency })}
          </Typography>
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mb: 1.5 }}>
            {draft ? (
              <Typography>{t('touch.draft')}</Typography>
            ) : day > today ? (
              <Typography>{t('touch.later', { date: f.day(day) })}</Typography>
            ) : (
              canEdit &&
              !working && (
                <Form method="post">
                  <Button type="submit" variant="contained" disabled={busy}>
                    {t('touch.bring', { count: all })}
                  </Button>
                </Form>
              )
            )}
            <Button
              size="small"
              aria-pressed={only}
              onClick={() => setAddress({ only: only ? null : 'falls' })}
              sx={{ textDecoration: only ? 'underline' : 'none' }}>
              {t('touch.onlyFalls')}
            </Button>
            {(['csv', 'xlsx'] as const).map((as) => (
              <Button
                key={as}
                size="small"
                component="a"
                href={`${root}/rates/touch/file?as=${as}&${search.toString()}`}>
                {as.toUpperCase()}
              </Button>
            ))}
          </Box>
          <FigureTable label={t('touch.title', { name, date: f.day(day) })}>
            <thead>
              <tr>
                <th scope="col" className="text">
                  {t('touch.candidate')}
                </th>
                <th scope="col">{t('touch.before')}</th>
                <th scope="col">{t('touch.after')}</th>
                <th scope="col">{t('touch.change')}</th>
                <th scope="col" className="text">
                  {t('touch.why')}
                </th>
                <th scope="col" className="text">
                  {t('touch.hurdles')}
                </th>
              </tr>
            </thead>
            <tbody>
              {shown.map((x) => (
                <TouchedLane key={x.laneId} x={x} home={homeCurrency} root={root} />
              ))}
            </tbody>
          </FigureTable>
          {all > touched.length && (
            <Typography variant="body2" sx={{ mt: 1 }}>
              {t('touch.shown', { shown: f.number(touched.length), all: f.number(all) })}
            </Typography>
          )}
        </>
      )}
    </Box>
  );
}

/** Lists that are weighed with an older version; each says of itself what the newer one would change. */
function Lists({ lists, root }: { lists: Props['lists']; root: string }) {
  const { t } = useWords();
  return (
    <Typography variant="body2" sx={{ mb: 1 }}>
      {t('touch.lists', { count: lists.length })}{' '}
      {lists.slice(0, 20).map((l, i) => (
        <span key={l.id}>
          {i > 0 && ', '}
          <Box component={Link} to={`${root}/lists/${l.id}`} dir="auto" sx={{ color: 'inherit' }}>
            {l.name}
          </Box>
        </span>
      ))}
      {lists.length > 20 && ' …'}
    </Typography>
  );
}

/** What one lane keeps before and after, which lines change it, and the hurdles it falls under. */
function TouchedLane({ x, home, root }: { x: Touched; home: string; root: string }) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const money = (x: number | null, lacks: readonly string[]): string =>
    x === null ? '–' : bounds.of(f.money(x, home), lacks);
  const signed = (x: number | null, before: number | null = null): string =>
    x === null
      ? t(before === null ? 'touch.notKnown' : 'touch.unknown')
      : x > 0
        ? `+${f.plain(x, home)}`
        : f.plain(x, home);
  return (
    <tr>
      <th scope="row" className="text" style={{ fontWeight: 400 }}>
        <Box
          component={Link}
          to={`${root}/weigh/${x.candidateId}?lane=${x.laneId}`}
          dir="auto"
          sx={{ color: 'text.primary', fontWeight: 650 }}>
          {x.candidate}
        </Box>
        <Box sx={{ color: 'text.secondary', fontSize: '0.8rem' }}>
          {countryName(x.country, i18n.language)} · {x.marketplace || t('sheet.noMarketplace')} ·{' '}
          {t(`method.${x.method}`)}
        </Box>
      </th>
      <td>{money(x.before, x.lacks.before)}</td>
      <td>
        {money(x.after, x.lacks.after)}
        {loses(x.after) && (
          <Box sx={{ fontSize: '0.74rem', color: 'error.main' }}>{t('lanes.losesWord')}</Box>
        )}
      </td>
      <Box
        component="td"
        sx={{ fontWeight: 680, color: x.change !== null && x.change < 0 ? 'error.main' : 'text.primary' }}>
        {signed(x.change, x.before)}
      </Box>
      <td className="text">
        {x.why
          .slice(0, 3)
          .map((d) => `${t(`lines.${d.line}`, { defaultValue: t(`figure.${d.line}`) })} ${signed(d.effect)}`)
          .join(', ')}
        {x.lost.length > 0 && (
          <Box sx={{ color: 'error.main' }}>
            {x.lost
              .map((b) => t(`blank.${b}`, { defaultValue: t(`problemShort.${b}`, { defaultValue: b }) }))
              .join(', ')}
            : {t('touch.unknown')}
          </Box>
        )}
      </td>
      <td className="text">{x.dropped.map((d) => t(`figure.${d}`)).join(', ')}</td>
    </tr>
  );
}

/** How far bringing the lanes to these rates is, and what it came to. */
function Bringing({
  task,
  working,
  root,
}: {
  task: NonNullable<Props['task']>;
  working: boolean;
  root: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const cancel = useFetcher();
  return (
    <>
      {working && (
        <Box sx={{ my: 1.5, maxWidth: 560 }}>
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
            <Typography role="status">
              {t('touch.working', { done: f.number(task.done), total: f.number(task.total) })}
            </Typography>
            <Button
              size="small"
              onClick={() =>
                void cancel.submit(
                  { intent: 'cancel', id: task.id },
                  { method: 'post', action: `${root}/pulse` },
                )
              }>
              {t('cancel')}
            </Button>
          </Box>
          <LinearProgress
            variant="determinate"
            value={task.total === 0 ? 0 : Math.min(100, (100 * task.done) / task.total)}
            aria-label={t('touch.working', { done: task.done, total: task.total })}
          />
        </Box>
      )}
      {task.state === 'done' && (
        <Alert severity="info" variant="outlined" sx={{ my: 1.5 }}>
          {t('touch.done', { count: Number(task.data.changed ?? 0) })}
        </Alert>
      )}
      {task.state === 'cancelled' && (
        <Alert severity="warning" variant="outlined" sx={{ my: 1.5 }}>
          {t('touch.cancelled', { done: task.done, total: task.total })}
        </Alert>
      )}
      {task.state === 'failed' && (
        <Alert severity="error" variant="outlined" sx={{ my: 1.5 }}>
          {t('touch.failed')}
        </Alert>
      )}
    </>
  );
}
