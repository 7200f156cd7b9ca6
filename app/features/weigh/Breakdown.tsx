/** The breakdown that is the form: cost families, their lines, and the figures below. */
import { Box } from '@mui/material';
import type { TFunction } from 'i18next';
import { memo } from 'react';
import { FAMILIES, FAMILY_LINES } from '../../../core/lane/costLines.ts';
import type { Family } from '../../../core/lane/costLines.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { useBounds } from '../../ui/bounds.ts';
import { inSentence } from '../../ui/inSentence.ts';
import { useFormat } from '../../ui/locale.ts';
import { roundToTotal } from '../../../core/money/money.ts';
import { Num } from './bound.tsx';
import { FamilyForm } from './forms.tsx';
import type { LaneView } from './useFigures.ts';
import { useRivals } from './useRivals.ts';
import { Figure } from './Workings.tsx';
import type { SheetProps } from './Sheet.tsx';
import { DemandPart, KeepsLine } from './BreakdownEnd.tsx';
import { useWords } from '../../ui/useWords.ts';

type Opened = Family | 'demand' | null;

export function Breakdown({
  view,
  candidateId,
  open,
  toggle,
  cardHeads,
}: {
  view: LaneView;
  candidateId: string;
  open: Opened;
  toggle: (family: Family | 'demand') => void;
  cardHeads: SheetProps['cardHeads'];
}) {
  const { t } = useWords();
  const f = useFormat();
  const { result, doc } = view;
  const gross = result.figures.gross;
  const digits = minorDigits(doc.currency);
  const rounded = roundToTotal(
    [...FAMILIES.map((x) => result.families[x]), result.figures.unitProfit],
    digits,
  );
  const bounds = useBounds();
  const dear = useRivals(view.id, doc)(doc.price);
  const form = { laneId: view.id, candidateId, doc };
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', pb: 1 }}>
        <Num
          entity="lane"
          id={view.id}
          path={['price']}
          label={t('form.price')}
          kind="money"
          currency={doc.currency}
          width={128}
        />
        <Num
          entity="lane"
          id={view.id}
          path={['averageDiscount']}
          label={t('form.averageDiscount')}
          kind="percent"
          max={0.99}
          zero
          width={128}
        />
        <Num
          entity="lane"
          id={view.id}
          path={['shippingCharged']}
          label={t('form.shippingCharged')}
          kind="money"
          currency={doc.currency}
          zero
          width={150}
        />
        {dear !== null && (
          <Box role="note" sx={{ alignSelf: 'end', fontSize: '0.82rem', color: 'error.main', pb: 0.75 }}>
            {dear}
          </Box>
        )}
      </Box>
      {FAMILIES.map((family, i) => {
        const value = result.families[family];
        const lines = FAMILY_LINES[family];
        const missing = lines.filter(
          (l) => result.lines[l] === null || (result.blanks as string[]).includes(l),
        );
        const isOpen = open === family;
        return (
          <Box
            key={family}
            sx={{
              borderTop: '1px solid',
              borderColor: 'hairline',
              bgcolor: isOpen ? 'paperTint' : 'transparent',
              px: isOpen ? 1.5 : 0,
              mx: isOpen ? -1.5 : 0,
            }}>
            <FamilyHead
              family={family}
              open={isOpen}
              toggle={toggle}
              amount={
                value === null || (missing.length > 0 && value === 0)
                  ? '–'
                  : bounds.of(f.plain(rounded[i] ?? null, doc.currency), missing, 'atLeast')
              }
              share={
                value === null || !gross || (missing.length > 0 && value === 0)
                  ? ''
                  : f.percent(value / gross)
              }
              says={
                missing.length > 0
                  ? t('line.missing', { lines: missing.map((l) => inSentence(t(`lines.${l}`))).join(', ') })
                  : describe(family, doc, t, f)
              }
            />
            {isOpen && (
              <Box sx={{ pb: 1.5 }}>
                <Lines family={family} view={view} total={rounded[i] ?? null} />
                <FamilyForm family={family} {...form} cardHeads={cardHeads} />
              </Box>
            )}
          </Box>
        );
      })}
      <KeepsLine view={view} profitShown={rounded[FAMILIES.length] ?? null} />
      <FigureLine view={view} />
      <DemandPart
        view={view}
        candidateId={candidateId}
        open={open === 'demand'}
        toggle={() => toggle('demand')}
      />
    </Box>
  );
}

/** The line of a cost family: opens its form. */
const FamilyHead = memo(function FamilyHead({
  family,
  open,
  toggle,
  amount,
  share,
  says,
}: {
  family: Family;
  open: boolean;
  toggle: (family: Family) => void;
  amount: string;
  share: string;
  says: string;
}) {
  const { t } = useWords();
  return (
    <div className={open ? 'line open' : 'line'}>
      <i aria-hidden style={{ backgroundColor: `var(--mui-palette-family-${family})` }} />
      <button type="button" aria-expanded={open} onClick={() => toggle(family)}>
        {t(`family.${family}`)}
      </button>
      <small>{says}</small>
      <span>{amount}</span>
      <small>{share}</small>
    </div>
  );
});

/** The lines of a family, each opening its workings. */
function Lines({ family, view, total }: { family: Family; view: LaneView; total: number | null }) {
  const { t } = useWords();
  const f = useFormat();
  const { result, doc } = view;
  const typed: Partial<Record<string, boolean>> = {
    outputVat: doc.typed.vatRate !== null,
    duty: doc.typed.dutyPct !== null,
    referral: doc.typed.referralPct !== null,
    itemFee: doc.typed.itemFee !== null,
    payment: doc.typed.paymentPct !== null || doc.typed.paymentFixed !== null,
    subscription: doc.typed.subscriptionMonthly !== null,
    fulfilment: doc.typed.fulfilmentFee !== null,
    storage: doc.typed.storagePerM3Month !== null,
  };
  const lines = FAMILY_LINES[family].filter((l) => result.lines[l] !== 0);
  const shown = roundToTotal(
    lines.map((l) => result.lines[l]),
    minorDigits(doc.currency),
    lines.length === 0 ? null : total,
  );
  return (
    <Box
      component="dl"
      sx={{
        display: 'grid',
        gridTemplateColumns: '1fr auto',
        pr: '68px',
        columnGap: 1,
        rowGap: 0.25,
        m: 0,
        mb: 1.5,
        fontSize: '0.86rem',
      }}>
      {lines.map((l, i) => (
        <Box key={l} sx={{ display: 'contents' }}>
          <Box component="dt" sx={{ pl: 3 }}>
            {t(`lines.${l}`)}
            {typed[l] && (
              <Box
                component="span"
                sx={{ color: 'text.secondary', fontStyle: 'italic', fontSize: '0.76rem' }}>
                {' '}
                {t('form.beatsCard')}
              </Box>
            )}
          </Box>
          <Box component="dd" sx={{ m: 0, textAlign: 'right' }}>
            {result.lines[l] === null ? (
              <em>{t('line.blank')}</em>
            ) : (
              <Figure doc={doc} of={l} label={t(`lines.${l}`)}>
                {f.plain(shown[i] ?? null, doc.currency)}
              </Figure>
            )}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

function describe(family: Family, doc: LaneDocument, t: TFunction, f: ReturnType<typeof useFormat>): string {
  switch (family) {
    case 'tax':
      return doc.rates.tax?.regime === 'exclusive'
        ? t('describe.exclusive')
        : t('describe.tax', {
            rate: f.percent(doc.typed.vatRate ?? doc.rates.tax?.vatRates[doc.product.taxClass] ?? null, 0),
            standing:
              doc.standing === null ? t('standing.missing') : inSentence(t(`standing.${doc.standing.kind}`)),
          });
    case 'goods': {
      const s = Array.isArray(doc.goods) ? doc.goods[0]?.source : undefined;
      return s === undefined
        ? ''
        : [
            [s.supplier, s.date ? f.day(s.date) : ''].filter(Boolean).join(' '),
            doc.orderQuantity === null || s.kind === 'retail'
              ? ''
              : t('describe.units', { count: doc.orderQuantity, n: f.number(doc.orderQuantity) }),
          ]
            .filter(Boolean)
            .join(' · ');
    }
    case 'wayIn':
      return doc.method === 'supplierShips'
        ? t('describe.supplierShips')
        : doc.route === null || doc.route === 'none'
          ? ''
          : doc.route.legs.map((l) => l.name || t(`stage.${l.stage}`)).join(', ');
    case 'marketplace':
      return doc.rates.marketplace === null
        ? ''
        : t('describe.card', {
            name: doc.rates.marketplace.name,
            date: f.day(doc.rates.marketplace.inForceFrom),
          });
    case 'fulfilment':
      return t(`method.${doc.method}`);
    case 'returns':
      return doc.returns === null || doc.returns === 'none'
        ? ''
        : t('describe.returns', { rate: f.percent(doc.returns.rate) });
    case 'adverts': {
      if (doc.adverts === null || doc.adverts === 'none') return t('line.none');
      const k = doc.adverts.keywords[0];
      return k === undefined || k.low === null || k.high === null
        ? ''
        : t('describe.adverts', {
            cpc: f.money(k.low + k.weight * (k.high - k.low), doc.currency),
            conversion: f.percent(k.conversionRate, 0),
            share: f.percent(doc.adverts.adShare, 0),
          });
    }
    case 'other':
      return doc.otherPerUnit.map((o) => o.name).join(', ');
  }
}

function FigureLine({ view }: { view: LaneView }) {
  const { t } = useWords();
  const f = useFormat();
  const { doc } = view;
  const { figures, incomplete, reasons } = view.result;
  const bounds = useBounds();
  const shown = [
    ['margin', f.percent(figures.margin)],
    ['roi', f.percent(figures.roi, 0)],
    ['markup', f.percent(figures.markup, 0)],
    ['priceMultiple', figures.priceMultiple === null ? '–' : `${f.number(figures.priceMultiple, 1)} ×`],
    ['yearlyReturnOnCash', f.percent(figures.yearlyReturnOnCash, 0)],
    ['breakEvenAcos', f.percent(figures.breakEvenAcos)],
  ] as const;
  return (
    <dl className="figures">
      {shown.map(([key, value]) => (
        <div key={key} title={reasons[key] ?? t(`basis.of.${key}`)}>
          <dt>{t(`figure.${key}`)}</dt>
          <dd>
            <Figure doc={doc} of={key} label={t(`figure.${key}`)}>
              {figures[key] === null ? value : bounds.of(value, incomplete[key])}
            </Figure>
          </dd>
        </div>
      ))}
    </dl>
  );
}
