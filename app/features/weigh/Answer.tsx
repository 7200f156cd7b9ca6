/** The answer of a sheet in a sentence, and what stands beside it: conflicts, newer rates. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { memo, Suspense, useState, lazy } from 'react';
import { Trans } from 'react-i18next';
import { Link } from 'react-router';
import { CARD_FIELDS } from '../../../core/workspace/compose.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { useBounds } from '../../ui/bounds.ts';
import { isQuoted } from '../../../core/lane/costLines.ts';
import { inSentence } from '../../ui/inSentence.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { hurdleAmount } from '../../ui/figures.ts';
import { countryName } from '../../ui/names.ts';
import { type SheetStore, useSelected, useStore } from './store.ts';
import type { Answers, Frame, LaneView } from './useFigures.ts';
import type { SheetProps } from './Sheet.tsx';
import { useWords } from '../../ui/useWords.ts';

const UpToDate = lazy(() => import('./UpToDate.tsx'));

export const Conflicts = memo(function Conflicts() {
  const { t } = useWords();
  const store = useStore();
  const conflicts = useSelected((x) => x.conflicts);
  const invalid = useSelected((x) => x.invalid);
  const show = (v: unknown) =>
    v === null || v === undefined
      ? t('line.blank')
      : typeof v === 'object'
        ? t('sheet.severalValues')
        : String(v);
  return (
    <>
      {conflicts
        .filter((c) => c.patch.path[0] !== 'provenance')
        .map((c) => (
          <Alert
            key={`${c.patch.id}${c.patch.path.join('.')}`}
            severity="warning"
            sx={{ mb: 1 }}
            action={
              <>
                <Button size="small" onClick={() => decide(store, c.patch.path, false)}>
                  {t('sheet.takeTheirs')}
                </Button>
                <Button size="small" onClick={() => decide(store, c.patch.path, true)}>
                  {t('sheet.keepMine')}
                </Button>
              </>
            }>
            {t('sheet.conflict', {
              field: c.patch.path.join(' › '),
              theirs: show(c.current),
              mine: show(c.patch.to),
            })}
          </Alert>
        ))}
      {invalid.length > 0 && (
        <Alert severity="error" sx={{ mb: 1 }}>
          {invalid.map((i) => `${i.patch.path.join(' › ')}: ${i.message}`).join(' · ')}
        </Alert>
      )}
    </>
  );
});

/** A decision about a value decides about the note of where it came from too. */
function decide(store: SheetStore, path: readonly (string | number)[], mine: boolean): void {
  for (const c of [...store.get().conflicts])
    if (
      c.patch.path.join('.') === path.join('.') ||
      (c.patch.path[0] === 'provenance' && c.patch.path[1] === path.join('.'))
    )
      store.resolve(c, mine);
}

export const Answer = memo(function Answer({ view, answers }: { view: LaneView; answers: Answers }) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const { result, doc } = view;
  const profit = result.figures.unitProfit;
  const source = Array.isArray(doc.goods) ? doc.goods[0]?.source : undefined;
  const bounds = useBounds();
  const quoted =
    source === undefined
      ? null
      : source.kind === 'quote'
        ? (source.priceBreaks.findLast((b) => b.minQty <= (doc.orderQuantity ?? 0) + 1e-9)?.unitPrice ?? null)
        : source.shelfPrice;
  const cash = answers.launch.budget?.total ?? null;
  const at = {
    country: countryName(doc.country, i18n.language),
    marketplace: doc.marketplace || t('sheet.noMarketplace'),
    price: f.money(doc.price, doc.currency),
  };
  const b = <strong />;
  const missed =
    answers.hurdles.find((h) => h.result.verdict === 'fail') ??
    answers.hurdles.find((h) => h.result.verdict === 'near');
  const incomplete = result.incomplete.unitProfit ?? [];
  const launchLacks = answers.launch.incomplete;
  const amount = (h: NonNullable<typeof missed>['result']) =>
    hurdleAmount(h.short, h.hurdle.figure, doc.currency, f);
  const pays =
    quoted === null
      ? 'payNoQuote'
      : source?.kind === 'retail'
        ? 'payShop'
        : source !== undefined && isQuoted(source)
          ? 'pay'
          : 'payTyped';
  return (
    <Typography
      variant="h4"
      component="p"
      data-testid="answer"
      sx={{ mb: 1, '& strong': { fontWeight: 720 } }}
      aria-live="polite">
      {doc.price === null ? (
        t('answer.noPrice')
      ) : profit === null ? (
        <Trans i18nKey="answer.unknown" values={at} components={{ b }} />
      ) : (
        <Trans
          i18nKey={profit < 0 ? 'answer.loses' : 'answer.keeps'}
          values={{
            ...at,
            amount: bounds.of(
              f.money(Math.abs(profit), doc.currency),
              incomplete,
              profit < 0 ? 'atLeast' : 'atMost',
            ),
            margin: bounds.of(f.percent(result.figures.margin), incomplete),
          }}
          components={{
            b,
            k: <Box component="strong" sx={{ color: profit < 0 ? 'error.main' : 'primary.main' }} />,
          }}
        />
      )}{' '}
      {profit !== null && incomplete.length > 0 && (
        <Box component="span" sx={{ color: 'text.secondary' }}>
          {t('answer.incomplete', { blanks: bounds.list(incomplete) })}{' '}
        </Box>
      )}
      {profit !== null &&
        (answers.breakEven.price === null ? (
          t('answer.noBreakEven')
        ) : (
          <Trans
            i18nKey={answers.breakEven.bound === null ? 'answer.breakEven' : 'answer.breakEvenBound'}
            values={{
              price: bounds.of(
                f.money(answers.breakEven.price, doc.currency),
                answers.breakEven.incomplete,
                'above',
              ),
            }}
            components={{ b }}
          />
        ))}{' '}
      {answers.mostToPay.unitPrice !== null && (
        <Trans
          i18nKey={`answer.${pays}${answers.mostToPay.bound === null ? '' : 'Bound'}`}
          values={{
            most: bounds.of(
              f.money(
                floorTo(answers.mostToPay.unitPrice, minorDigits(answers.mostToPay.currency)),
                answers.mostToPay.currency,
              ),
              answers.mostToPay.incomplete,
              'lessThan',
            ),
            quote: f.money(quoted, answers.mostToPay.currency),
          }}
          components={{ b }}
        />
      )}{' '}
      {cash !== null && doc.way !== 'feeCheck' && (
        <Trans
          i18nKey={
            answers.launch.budget?.leftOfCash == null
              ? 'answer.launchNoCash'
              : answers.launch.budget.leftOfCash < 0
                ? 'answer.launchShort'
                : 'answer.launch'
          }
          values={{
            quantity: f.number(answers.launch.budget?.quantity ?? null),
            cash: bounds.of(f.money(cash, doc.homeCurrency), launchLacks, 'atLeast'),
            left: bounds.of(
              f.money(Math.abs(answers.launch.budget?.leftOfCash ?? 0), doc.homeCurrency),
              launchLacks,
              (answers.launch.budget?.leftOfCash ?? 0) < 0 ? 'atLeast' : 'atMost',
            ),
          }}
          components={{ b }}
        />
      )}{' '}
      {missed !== undefined && profit !== null && (
        <Box component="span" sx={{ color: 'text.secondary' }}>
          {t(missed.result.hurdle.bound === 'atLeast' ? 'answer.misses' : 'answer.exceeds', {
            figure: inSentence(t(`figure.${missed.result.hurdle.figure}`)),
            by: amount(missed.result),
          })}
        </Box>
      )}
    </Typography>
  );
});

/** Says where a newer version of a card is in force than the one the lane is computed with. */
export function NewerRates({
  view,
  cardHeads,
  usedHeads,
  base,
  frame,
}: {
  view: LaneView;
  cardHeads: SheetProps['cardHeads'];
  usedHeads: SheetProps['cardHeads'];
  base: string;
  frame: Frame;
}) {
  const { t } = useWords();
  const f = useFormat();
  const used = Object.values(CARD_FIELDS).flatMap(
    (field) => usedHeads.find((h) => h.id === view.state.data[field]) ?? [],
  );
  const newer = used.flatMap((u) => {
    const now = cardHeads.find(
      (h) => h.kind === u.kind && h.key === u.key && h.id !== u.id && h.inForceFrom >= u.inForceFrom,
    );
    return now === undefined ? [] : [{ used: u, now }];
  });
  const [open, setOpen] = useState(false);
  if (newer.length === 0) return null;
  const root = base.replace(/\/weigh$/, '');
  return (
    <Alert
      severity="info"
      variant="outlined"
      sx={{ my: 0.5, py: 0 }}
      action={
        <Button size="small" aria-expanded={open} onClick={() => setOpen(!open)}>
          {t(open ? 'sheet.upToDate.close' : 'sheet.upToDate.open')}
        </Button>
      }>
      {newer.map(({ used: u, now }) => (
        <div key={now.id}>
          {t('sheet.newerRates', { name: u.name, date: f.day(u.inForceFrom), newer: f.day(now.inForceFrom) })}{' '}
          <Box component={Link} to={`${root}/rates/touch?card=${now.id}`} sx={{ color: 'inherit' }}>
            {t('sheet.upToDate.all')}
          </Box>
        </div>
      ))}
      {open && (
        <Suspense fallback={<Typography variant="body2">{t('sheet.upToDate.loading')}</Typography>}>
          <UpToDate
            view={view}
            ids={newer.map(({ now }) => `${now.kind}/${now.id}`).join(',')}
            frame={frame}
            root={root}
          />
        </Suspense>
      )}
    </Alert>
  );
}
