import { Alert, Box, Typography } from '@mui/material';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import type { MarketplaceCard, TaxCard } from '../../../core/cards/rates.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { LaneResult } from '../../../core/lane/result.ts';
import { laneDocument } from '../../../core/lane/schema.ts';
import type { LaneDocument, Standing } from '../../../core/lane/schema.ts';
import { exchangeFactor, minorDigits, powerOfTen } from '../../../core/money/money.ts';
import { roundMinor } from '../../../core/rules/numbers.ts';
import type { ExchangeTable } from '../../../core/money/money.ts';
import { ChoiceLine, NumField, SidesField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Figure } from '../weigh/Workings.tsx';
import type { Item } from './tableParts.tsx';

/** A lane on which nothing but the card's fees falls. */
function triedOn(
  card: MarketplaceCard,
  tax: TaxCard | null,
  item: Item,
  category: string,
  price: number | null,
  homeCurrency: string,
  standing: Standing | null,
  today: string,
): LaneDocument {
  return laneDocument.parse({
    format: 'bold-margin/lane',
    version: 1,
    date: today,
    homeCurrency,
    country: card.country,
    currency: card.currency,
    marketplace: card.marketplace,
    price,
    standing: standing ?? { kind: 'registered' },
    product: { sides: item.sides, kg: item.kg, category },
    goods: 'none',
    route: 'none',
    prep: 'none',
    returns: 'none',
    adverts: 'none',
    orderQuantity: 1,
    monthsHeld: 1,
    method: card.warehouse === null ? 'ownDispatch' : 'warehouse',
    dispatch: 'none',
    storage: card.storage === null ? 'none' : 'card',
    typed: { subscriptionMonthly: 0 },
    rates: { tax, marketplace: card },
  });
}

/** Everything the card takes; null as long as a fee of it is not known. */
const allFees = (r: LaneResult): number | null =>
  TRIED.reduce<number | null>((sum, l) => (sum === null || r.lines[l] === null ? null : sum + r.lines[l]), 0);

const TRIED = ['referral', 'itemFee', 'payment', 'surcharges', 'feeVat', 'fulfilment', 'storage'] as const;
type Tried = (typeof TRIED)[number];

export type Beside = { id: string; name: string; card: MarketplaceCard; tax: TaxCard | null };
type Props = {
  card: MarketplaceCard;
  tax: TaxCard | null;
  item: Item;
  setItem: (i: Item) => void;
  category: string;
  price: number | null;
  homeCurrency: string;
  standings: Record<string, Standing>;
  today: string;
  others: readonly { id: string; name: string }[];
  beside: Beside | null;
  onBeside: (id: string) => void;
  exchange: ExchangeTable | null;
};

/** Any item through a card, and through a second one beside it: every fee, with its workings. Nothing here is saved. */
export function TryIt({
  card,
  tax,
  item,
  setItem,
  category,
  price,
  homeCurrency,
  standings,
  today,
  others,
  beside,
  onBeside,
  exchange,
}: Props) {
  const { t } = useTranslation();
  const f = useFormat();
  const doc = useMemo(
    () => triedOn(card, tax, item, category, price, homeCurrency, standings[card.country] ?? null, today),
    [card, tax, item, category, price, homeCurrency, standings, today],
  );
  const r = evaluate(doc);
  const factor = beside === null ? 1 : exchangeFactor(exchange, card.currency, beside.card.currency);
  const secondPrice =
    price === null || Number.isNaN(factor)
      ? null
      : roundMinor(price * factor, powerOfTen(minorDigits(beside?.card.currency ?? card.currency)));
  const secondDoc =
    beside === null
      ? null
      : triedOn(
          beside.card,
          beside.tax,
          item,
          beside.card.categories.some((c) => c.key === category)
            ? category
            : (beside.card.categories[0]?.key ?? ''),
          secondPrice,
          homeCurrency,
          standings[beside.card.country] ?? null,
          today,
        );
  const second = secondDoc === null ? null : evaluate(secondDoc);
  const covered = (line: Tried, c: MarketplaceCard) =>
    line === 'fulfilment' ? c.warehouse !== null : line === 'storage' ? c.storage !== null : true;
  const fees = TRIED.filter(
    (l) =>
      !covered(l, card) ||
      r.lines[l] !== 0 ||
      (second !== null && beside !== null && (!covered(l, beside.card) || second.lines[l] !== 0)),
  );
  const [total, secondTotal] = [allFees(r), second === null ? null : allFees(second)];
  const shares = (x: number | null, gross: number | null): string =>
    x === null || gross === null || gross <= 0 ? '–' : f.percent(x / gross);
  const fee = (l: Tried, of: LaneResult, lane: LaneDocument, c: MarketplaceCard, label: string) =>
    !covered(l, c) ? (
      <Box component="span" sx={{ fontWeight: 400, fontSize: '0.78rem' }}>
        {t('rates.notCovered')}
      </Box>
    ) : of.lines[l] === null ? (
      '–'
    ) : (
      <Figure doc={lane} of={l} label={label}>
        {f.plain(of.lines[l], lane.currency)}
      </Figure>
    );
  return (
    <Box
      component="section"
      aria-label={t('rates.try')}
      sx={{
        bgcolor: 'paperTint',
        p: 2,
        borderRadius: 1,
        alignSelf: 'start',
        position: { lg: 'sticky' },
        top: { lg: 16 },
      }}>
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        {t('rates.try')}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1.5 }}>
        <SidesField
          label={t('form.sides')}
          value={item.sides}
          onChange={(sides) => setItem({ ...item, sides })}
          width={150}
        />
        <NumField
          label={t('form.weight')}
          value={item.kg}
          onChange={(kg) => setItem({ ...item, kg })}
          kind="weight"
          min={0.000001}
          width={110}
        />
        <ChoiceLine
          label={t('form.category')}
          value={category}
          options={card.categories.map((c) => ({ value: c.key, label: c.name }))}
          onChange={(v) => setItem({ ...item, category: v })}
          width={150}
        />
        <NumField
          label={t('form.price')}
          value={price}
          onChange={(v) => setItem({ ...item, price: v })}
          kind="money"
          currency={card.currency}
          width={110}
        />
      </Box>
      {beside !== null &&
        beside.card.currency !== card.currency &&
        exchange !== null &&
        !Number.isNaN(factor) && (
          <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
            {t('workings.rate', {
              from: card.currency,
              to: beside.card.currency,
              rate: f.number(factor, 6),
              date: f.day(exchange.date),
            })}
          </Typography>
        )}
      {r.problems.map((p) => (
        <Alert key={p.code} severity="error" variant="outlined" sx={{ mb: 1 }}>
          {t(`problem.${p.code}`, p.detail as Record<string, string>)}
        </Alert>
      ))}
      {second?.problems.map((p) => (
        <Alert key={p.code} severity="error" variant="outlined" sx={{ mb: 1 }}>
          {beside?.name}: {t(`problem.${p.code}`, p.detail as Record<string, string>)}
        </Alert>
      ))}
      <Box
        component="table"
        aria-live="polite"
        sx={{
          width: '100%',
          borderCollapse: 'collapse',
          fontSize: '0.88rem',
          '& th': { textAlign: 'left', fontWeight: 400, py: 0.2 },
          '& td': { textAlign: 'right', fontWeight: 600, py: 0.2 },
          '& thead th': { textAlign: 'right', color: 'text.secondary', fontSize: '0.78rem' },
          '& tfoot th, & tfoot td': { fontWeight: 680, borderTop: '1px solid' },
        }}>
        {beside !== null && (
          <thead>
            <tr>
              <th>
                <span className="hidden-text">{t('rates.what')}</span>
              </th>
              <th scope="col">{card.name}</th>
              <th scope="col">{beside.name}</th>
            </tr>
          </thead>
        )}
        <tbody>
          {fees.map((l) => (
            <tr key={l}>
              <th scope="row">
                {t(`lines.${l}`)}
                {l === 'storage' && (
                  <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.78rem' }}>
                    {' '}
                    {t('rates.oneMonth')}
                  </Box>
                )}
              </th>
              <td>{fee(l, r, doc, card, t(`lines.${l}`))}</td>
              {second !== null && secondDoc !== null && beside !== null && (
                <td>{fee(l, second, secondDoc, beside.card, `${beside.name} ${t(`lines.${l}`)}`)}</td>
              )}
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">{t('rates.allFees')}</th>
            <td>{f.money(total, card.currency)}</td>
            {secondDoc !== null && <td>{f.money(secondTotal, secondDoc.currency)}</td>}
          </tr>
          <tr>
            <Box component="th" scope="row" sx={{ border: '0 !important', fontWeight: '400 !important' }}>
              {t('rates.ofPrice')}
            </Box>
            <Box component="td" sx={{ border: '0 !important' }}>
              {shares(total, r.figures.gross)}
            </Box>
            {second !== null && (
              <Box component="td" sx={{ border: '0 !important' }}>
                {shares(secondTotal, second.figures.gross)}
              </Box>
            )}
          </tr>
        </tfoot>
      </Box>
      <Box sx={{ mt: 1.5 }}>
        <ChoiceLine
          label={t('tryTwo.with')}
          value={beside?.id ?? ''}
          options={[
            { value: '', label: t('tryTwo.none') },
            ...others.map((o) => ({ value: o.id, label: o.name })),
          ]}
          onChange={onBeside}
          width="100%"
        />
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
        {t('rates.tryNote')}
      </Typography>
    </Box>
  );
}
