/** A walk through shops, summed up: what was kept and left and why, what it would bring, and what becomes of it. */
import { Alert, Box, Button, Link as MuiLink, Typography } from '@mui/material';
import { Trans } from 'react-i18next';
import { Link, useActionData, useSubmit } from 'react-router';
import type { CheckGist } from '../../../core/check/check.ts';
import { goodsName, minutesOf, walked } from '../../../core/check/session.ts';
import type { CheckSession, ShelfCheck } from '../../../core/check/schema.ts';
import { addWords } from '../../i18n.ts';
import { checkWords } from '../../locales/en.check.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { useBounds } from '../../ui/bounds.ts';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import type { TableToSave } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import { useWords } from '../../ui/useWords.ts';

addWords(checkWords);
type KeptCheck = {
  readonly id: string;
  readonly data: ShelfCheck;
  readonly said: CheckGist;
  readonly candidateId: string | null;
};
type Found = {
  readonly session: CheckSession;
  readonly checks: readonly KeptCheck[];
  readonly homeCurrency: string;
};
type Props = { found: Found | null; now: string; root: string; canEdit: boolean };

export function WalkPage({ found, now, root, canEdit }: Props) {
  const { t } = useWords();
  const told = useActionData<{ error?: string }>();
  if (found === null)
    return (
      <Typography>
        {t('walks.empty')}{' '}
        <MuiLink component={Link} to={`${root}/checks`}>
          {t('walks.back')}
        </MuiLink>
      </Typography>
    );
  return (
    <Box sx={{ maxWidth: 1180 }}>
      <Summary found={found} now={now} />
      {told?.error !== undefined && <Alert severity="error">{told.error}</Alert>}
      {canEdit && <WhatNext found={found} />}
      <Checks found={found} root={root} canEdit={canEdit} />
      <MuiLink component={Link} to={`${root}/checks`} className="no-print">
        {t('walks.back')}
      </MuiLink>
    </Box>
  );
}

function Summary({ found, now }: { found: Found; now: string }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const { session, checks, homeCurrency } = found;
  const tally = walked(checks);
  const minutes = t('check.minutes', { count: Math.floor(minutesOf(session.stretches, now)) });
  const month =
    tally.kept === 0
      ? null
      : tally.unknown === tally.kept
        ? 'saidMonthNone'
        : tally.unknown > 0
          ? 'saidMonthSome'
          : 'saidMonth';
  return (
    <>
      <Typography variant="h1">
        {t('walks.listName', { day: f.day((session.stretches[0]?.from ?? now).slice(0, 10)) })}
      </Typography>
      <Typography variant="h4" component="p" sx={{ my: 1.5 }} data-testid="walk-said">
        {t('walks.said', { kept: tally.kept, checked: tally.checked, minutes })}{' '}
        {month !== null && (
          <Trans
            i18nKey={`walks.${month}`}
            values={{
              amount: bounds.of(f.money(tally.perMonthHome, homeCurrency), tally.lacks),
              unknown: tally.unknown,
            }}
            components={{ b: <Box component="strong" sx={{ color: 'primary.main' }} /> }}
          />
        )}
      </Typography>
    </>
  );
}

/** What was kept becomes candidates, or a list. */
function WhatNext({ found }: { found: Found }) {
  const { t } = useWords();
  const f = useFormat();
  const submit = useSubmit();
  const send = (body: object): void =>
    void submit(body as never, { method: 'post', encType: 'application/json' });
  const day = f.day(
    (found.session.stretches[0]?.from ?? '').slice(0, 10) || found.session.changedAt.slice(0, 10),
  );
  const kept = found.checks.filter((c) => c.data.state === 'kept');
  if (kept.length === 0) return null;
  return (
    <Box className="no-print" sx={{ display: 'flex', gap: 1.5, mb: 2, flexWrap: 'wrap' }}>
      <Button
        variant="contained"
        onClick={() =>
          send({ intent: 'weigh', ids: kept.map((c) => c.id), notes: t('walks.notes', { day }) })
        }>
        {t('walks.toWeigh')}
      </Button>
      <Button variant="outlined" onClick={() => send({ intent: 'list', name: t('walks.listName', { day }) })}>
        {t('walks.toList')}
      </Button>
      <Button onClick={() => window.print()}>{t('walks.print')}</Button>
    </Box>
  );
}

const COLUMNS = ['shelf', 'sells', 'keeps', 'roi', 'most', 'take', 'month'] as const;
type Column = (typeof COLUMNS)[number];

function Checks({ found, root, canEdit }: { found: Found; root: string; canEdit: boolean }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const submit = useSubmit();
  const { checks, homeCurrency } = found;
  const shown = ({ data: c, said }: KeptCheck): Record<Column, string> => {
    // What lacks costs is a bound; what is not known is a dash and no bound of anything.
    const bounded = (x: number | null, text: string, way?: 'lessThan'): string =>
      x === null ? text : bounds.of(text, said.lacks, way);
    const shop = c.till.currency;
    const most = said.mostShelf === null ? null : floorTo(said.mostShelf, minorDigits(shop));
    return {
      shelf: f.money(c.shelf, shop),
      sells: f.money(said.price, said.currency),
      keeps: bounded(said.unitProfit, f.money(said.unitProfit, said.currency)),
      roi: bounded(said.roi, f.percent(said.roi)),
      most: bounded(most, f.money(most, shop), 'lessThan'),
      take: f.number(c.take, 0),
      month: bounded(said.perMonthHome, f.money(said.perMonthHome, homeCurrency)),
    };
  };
  const decide = (c: KeptCheck, state: 'kept' | 'left'): void =>
    void submit({ intent: 'decide', ids: [c.id], state }, { method: 'post', encType: 'application/json' });
  if (checks.length === 0) return <Typography>{t('walks.empty')}</Typography>;
  return (
    <Pane title={t('walks.goods')} aside={<TableFile table={() => tableOf(found, t)} />}>
      <FigureTable label={t('walks.goods')}>
        <thead>
          <tr>
            <th scope="col">{t('walks.goods')}</th>
            {COLUMNS.map((c) => (
              <th key={c} scope="col">
                {t(`walks.${c}`)}
              </th>
            ))}
            <th scope="col" className="text">
              {t('walks.state')}
            </th>
            <HiddenHead>{t('walks.toWeighOne')}</HiddenHead>
          </tr>
        </thead>
        <tbody>
          {checks.map((c) => {
            const figures = shown(c);
            const isKept = c.data.state === 'kept';
            return (
              <tr key={c.id}>
                <th scope="row" style={{ fontWeight: 500 }}>
                  <bdi>{goodsName(c.data)}</bdi>
                </th>
                {COLUMNS.map((k) => (
                  <td key={k} className={k === 'keeps' && (c.said.unitProfit ?? 0) < 0 ? 'loss' : ''}>
                    {figures[k]}
                  </td>
                ))}
                <td className="text">
                  {t(isKept ? 'walks.keptState' : 'walks.leftState')}
                  {c.data.reason !== '' && `: ${c.data.reason}`}
                  {!isKept &&
                    c.data.reason === '' &&
                    c.said.missed !== null &&
                    `: ${t(`figure.${c.said.missed}`)}`}
                </td>
                <td className="no-print">
                  {c.candidateId !== null ? (
                    <MuiLink component={Link} to={`${root}/weigh/${c.candidateId}`}>
                      {t('walks.weighed')}
                    </MuiLink>
                  ) : (
                    canEdit && (
                      <Button
                        size="small"
                        aria-label={`${t(isKept ? 'walks.leave' : 'walks.keep')}: ${goodsName(c.data)}`}
                        onClick={() => decide(c, isKept ? 'left' : 'kept')}>
                        {t(isKept ? 'walks.leave' : 'walks.keep')}
                      </Button>
                    )
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </FigureTable>
    </Pane>
  );
}

/** The walk as a file: every figure with its currency beside it. */
function tableOf({ checks, homeCurrency }: Found, t: ReturnType<typeof useWords>['t']): TableToSave {
  const titles = [
    'barcode',
    'goods',
    'brand',
    'shelf',
    'sells',
    'keeps',
    'roi',
    'most',
    'take',
    'month',
    'state',
    'reason',
  ];
  return {
    name: t('walks.goods'),
    columns: [
      ...titles.map((k) => ({
        title: k === 'month' ? `${t('walks.month')}, ${homeCurrency}` : t(`walks.${k}`),
        percent: k === 'roi',
      })),
      { title: t('check.shopCurrency') },
      { title: t('check.market') },
    ],
    rows: checks.map(({ data: c, said }) => [
      c.gtin,
      goodsName(c),
      c.listing?.brand ?? '',
      c.shelf,
      said.price,
      said.unitProfit,
      said.roi,
      said.mostShelf,
      c.take,
      said.perMonthHome,
      t(c.state === 'kept' ? 'walks.keptState' : 'walks.leftState'),
      c.reason,
      c.till.currency,
      `${c.market} (${said.currency})`,
    ]),
  };
}
