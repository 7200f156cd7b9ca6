import { Box, Typography } from '@mui/material';
import type { TFunction } from 'i18next';
import { parcelOf, priceBandOf, sizeTierOf } from '../../../core/rules/parcel.ts';
import { cellText } from '../../../core/cards/cells.ts';
import { shownCell } from './choiceWords.ts';
import { CARD_FORMS } from '../../../core/cards/forms.ts';
import type { CardData, CardKind } from '../../../core/cards/schema.ts';
import type { MarketplaceCard, Referral, SizeTier } from '../../../core/cards/rates.ts';
import type { ExchangeTable } from '../../../core/money/money.ts';
import { inSentence } from '../../ui/inSentence.ts';
import { useFormat } from '../../ui/locale.ts';
import type { Format } from '../../ui/locale.ts';
import './words.ts';
import { Rows, applied, Small, ByMonth } from './tableParts.tsx';
import type { Item } from '../../../core/compare/tryItem.ts';
import { useWords } from '../../ui/useWords.ts';

const GIVEN_BACK = ['referral', 'itemFee', 'payment', 'surcharges'] as const;
const ADD_ONS = ['dangerous', 'oversize'] as const;

/**
 * A referral fee in words that say whether the price picks one rate for all of it, or each part of it has its
 * own.
 */
function referralText(
  { tiers, mode }: Referral,
  t: TFunction,
  f: Format,
  m: (x: number | null) => string,
): string {
  if (tiers.length === 1) return t('rates.ofAll', { pct: f.percent(tiers[0]?.pct ?? null) });
  return tiers
    .map((x, i) => {
      const before = tiers[i - 1]?.upTo ?? null;
      if (mode === 'whole')
        return x.upTo === null
          ? t('rates.wholeAbove', { pct: f.percent(x.pct), amount: m(before) })
          : t('rates.wholeUpTo', { pct: f.percent(x.pct), amount: m(x.upTo) });
      if (before === null) return t('rates.sliceFirst', { pct: f.percent(x.pct), amount: m(x.upTo) });
      return x.upTo === null
        ? t('rates.sliceAbove', { pct: f.percent(x.pct), amount: m(before) })
        : t('rates.sliceBetween', { pct: f.percent(x.pct), from: m(before), amount: m(x.upTo) });
    })
    .join('; ');
}

/** An amount in the currency of the card. */
type Amount = (x: number | null) => string;

/** A marketplace's card, readable, with the rows that apply to an item marked. */
export function MarketplaceTables({
  card,
  item,
  category,
  price,
}: {
  card: MarketplaceCard;
  item: Item;
  category: string;
  price: number | null;
}) {
  const { t } = useWords();
  const f = useFormat();
  const m = (x: number | null) => f.plain(x, card.currency);
  const itemFees = card.categories.some((c) => c.itemFee !== null && c.itemFee !== card.itemFee);
  return (
    <Box sx={{ minWidth: 0 }}>
      <Rows
        caption={t('rates.referral')}
        head={[
          t('form.category'),
          t('rates.base'),
          t('rates.tiers'),
          t('rates.min'),
          t('rates.max'),
          ...(itemFees ? [t('lines.itemFee')] : []),
        ]}>
        {card.categories.map((c) => (
          <Box component="tr" key={c.key} {...applied(c.key === category)}>
            <td>{c.name}</td>
            <td>{t(`feeBase.${c.referral.base}`)}</td>
            <td>{referralText(c.referral, t, f, m)}</td>
            <td>{m(c.referral.min)}</td>
            <td>{m(c.referral.max)}</td>
            {itemFees && <td>{m(c.itemFee ?? card.itemFee)}</td>}
          </Box>
        ))}
      </Rows>
      <OtherFees card={card} itemFees={itemFees} m={m} />
      <Warehouse card={card} item={item} price={price} m={m} />
      {card.warehouse !== null &&
        (card.warehouse.addOns.dangerous > 0 || card.warehouse.addOns.oversize > 0) && (
          <Rows caption={t('rates.addOns')} head={[t('rates.what'), t('rates.howMuch')]}>
            {ADD_ONS.filter((x) => (card.warehouse?.addOns[x] ?? 0) > 0).map((x) => (
              <tr key={x}>
                <td>{t(`rates.${x}`)}</td>
                <td>{m(card.warehouse?.addOns[x] ?? null)}</td>
              </tr>
            ))}
          </Rows>
        )}
      {card.warehouse?.peak != null && (
        <ByMonth caption={t('rates.peak')} months={card.warehouse.peak} m={m} />
      )}
      {card.storage !== null && (
        <ByMonth caption={t('rates.storage')} months={card.storage.perM3Month} m={m} />
      )}
      {card.storage !== null && card.storage.longStay.length > 0 && (
        <Typography variant="body2" color="text.secondary">
          {card.storage.longStay
            .map((b) => t('rates.longStay', { from: f.number(b.fromMonths), rate: m(b.rate) }))
            .join(' · ')}
        </Typography>
      )}
    </Box>
  );
}

export function ExchangeRows({ table }: { table: ExchangeTable & { source?: string } }) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <Box sx={{ maxWidth: 420 }}>
      <Rows
        caption={t('rates.exchange', { base: table.base, date: f.day(table.date) })}
        head={[t('form.currency'), t('rates.perBase', { base: table.base })]}>
        {Object.entries(table.rates).map(([k, v]) => (
          <tr key={k}>
            <td>{k}</td>
            <td>{f.number(v, 6)}</td>
          </tr>
        ))}
      </Rows>
      {table.source && (
        <Typography variant="body2" color="text.secondary">
          {table.source}
        </Typography>
      )}
    </Box>
  );
}

/** Any other card as its fields and tables. */
export function PlainTables({ kind, data }: { kind: CardKind; data: CardData }) {
  const { t } = useWords();
  const form = CARD_FORMS[kind];
  const written = form.write(data);
  const fields = form.fields.filter(
    (f) =>
      !['name', 'inForceFrom', 'note'].includes(f.key) && cellText(f, written.fields[f.key] ?? null) !== '',
  );
  return (
    <Box sx={{ maxWidth: 760 }}>
      <Rows caption={t('cards.sheet.card')} head={[t('cards.column.field'), t('cards.column.value')]}>
        {fields.map((f) => (
          <tr key={f.key}>
            <td>{t(`cards.column.${f.key}`)}</td>
            <td>{shownCell(t, f, cellText(f, written.fields[f.key] ?? null))}</td>
          </tr>
        ))}
      </Rows>
      {form.sheets
        .filter((s) => (written.sheets[s.key] ?? []).length > 0)
        .map((s) => {
          const rows = written.sheets[s.key] ?? [];
          // Columns that say nothing anywhere are left out.
          const used = s.columns
            .map((c, i) => ({ c, i }))
            .filter(({ c, i }) =>
              rows.some((r) => !['', '0', '0%', 'none'].includes(cellText(c, r[i] ?? null))),
            );
          return (
            <Rows
              key={s.key}
              caption={t(`cards.sheet.${s.key}`)}
              head={used.map(({ c }) => t(`cards.column.${c.key}`))}>
              {rows.map((r) => (
                <tr key={r.slice(0, Math.max(2, s.identity)).join('|')}>
                  {used.map(({ c, i }) => (
                    <td key={c.key}>{shownCell(t, c, cellText(c, r[i] ?? null))}</td>
                  ))}
                </tr>
              ))}
            </Rows>
          );
        })}
    </Box>
  );
}

/** What a marketplace takes besides its referral fee, what it gives back and when it pays. */
function OtherFees({ card, itemFees, m }: { card: MarketplaceCard; itemFees: boolean; m: Amount }) {
  const { t } = useWords();
  const f = useFormat();
  const back = GIVEN_BACK.filter((x) => card.refund.back[x] > 0);
  return (
    <Rows caption={t('rates.others')} head={[t('rates.what'), t('rates.howMuch')]}>
      {!itemFees && card.itemFee > 0 && (
        <Box component="tr" {...applied(true)}>
          <td>{t('lines.itemFee')}</td>
          <td>{m(card.itemFee)}</td>
        </Box>
      )}
      {card.payment !== null && (
        <Box component="tr" {...applied(true)}>
          <td>{t('lines.payment')}</td>
          <td>
            {f.percent(card.payment.pct)} {t('rates.of')} {t(`feeBase.${card.payment.base}`)} +{' '}
            {m(card.payment.fixed)}
          </td>
        </Box>
      )}
      {card.surcharges.map((s) => (
        <Box component="tr" key={s.name} {...applied(true)}>
          <td>{s.name}</td>
          <td>
            {f.percent(s.pct)} {t('rates.of')} {s.of.map((x) => inSentence(t(`lines.${x}`))).join(', ')}
          </td>
        </Box>
      ))}
      {card.subscriptionMonthly > 0 && (
        <tr>
          <td>{t('lines.subscription')}</td>
          <td>{t('rates.aMonth', { amount: f.money(card.subscriptionMonthly, card.currency) })}</td>
        </tr>
      )}
      <tr>
        <td>{t('rates.feeVat')}</td>
        <td>
          {card.feeVat.treatment === 'none'
            ? t('line.none')
            : [
                `${t(`treatment.${card.feeVat.treatment}`)}, ${f.percent(card.feeVat.rate)}:`,
                card.feeVat.bears.map((x) => inSentence(t(`lines.${x}`))).join(', ') || t('line.none'),
              ].join(' ')}
        </td>
      </tr>
      <tr>
        <td>{t('rates.advertVat')}</td>
        <td>
          {card.advertVat.treatment === 'none'
            ? t('line.none')
            : `${t(`treatment.${card.advertVat.treatment}`)}, ${f.percent(card.advertVat.rate)}`}
        </td>
      </tr>
      <tr>
        <td>{t('rates.refund')}</td>
        <td>
          {back.length === 0
            ? t('rates.nothingBack')
            : back
                .map((x) =>
                  t('rates.feeBack', {
                    pct: f.percent(card.refund.back[x], 0),
                    fee: t(`lines.${x}`).toLowerCase(),
                  }),
                )
                .join(', ')}
          {card.refund.adminPct > 0 &&
            `; ${t(card.refund.adminMax === null ? 'rates.refundFeeOpen' : 'rates.refundFee', {
              pct: f.percent(card.refund.adminPct, 0),
              max: m(card.refund.adminMax),
            })}`}
        </td>
      </tr>
      <tr>
        <td>{t('rates.payout')}</td>
        <td>
          {card.payoutEveryDays === null || card.payoutDelayDays === null
            ? t('rates.payoutNotSaid')
            : t('rates.payoutText', {
                every: f.number(card.payoutEveryDays),
                after: f.number(card.payoutDelayDays),
              })}
        </td>
      </tr>
    </Rows>
  );
}

/** Size tiers of the warehouse, their fees by weight and price; those that apply are marked. */
function Warehouse({
  card,
  item,
  price,
  m,
}: {
  card: MarketplaceCard;
  item: Item;
  price: number | null;
  m: Amount;
}) {
  const { t } = useWords();
  const f = useFormat();
  const tiers = card.warehouse?.tiers ?? [];
  const parcel =
    item.sides === null || item.kg === null
      ? null
      : parcelOf(item.sides[0], item.sides[1], item.sides[2], item.kg, { L: 0, W: 0, H: 0, kg: 0 });
  const tierAt = parcel === null ? -1 : sizeTierOf(tiers, parcel);
  const band = (tier: SizeTier) => (price === null ? tier.bands.length - 1 : priceBandOf(tier.bands, price));
  return card.warehouse === null ? (
    <Typography variant="body2" color="text.secondary" sx={{ mb: 2.5 }}>
      {t('rates.noWarehouse')}
    </Typography>
  ) : (
    <Rows
      caption={t('rates.warehouse')}
      head={[t('rates.tier'), t('rates.sidesUpTo'), t('rates.kgUpTo'), t('rates.steps')]}>
      {tiers.map((tier, i) => (
        <Box component="tr" key={tier.name} {...applied(i === tierAt)}>
          <td>{tier.name}</td>
          <td>
            {[tier.maxL, tier.maxW, tier.maxH]
              .map((x) => (x === null ? t('rates.anySide') : f.number(x)))
              .join(' × ')}
            {tier.maxLengthGirth !== null && (
              <Small>{t('rates.lengthGirth', { cm: f.number(tier.maxLengthGirth) })}</Small>
            )}
          </td>
          <td>
            {tier.maxKg === null ? t('rates.anySide') : f.number(tier.maxKg)}
            {tier.divisor !== null && (
              <Small>{t('rates.byVolume', { divisor: f.number(tier.divisor) })}</Small>
            )}
            {tier.packagingKg > 0 && (
              <Small>{t('rates.packagingKg', { kg: f.number(tier.packagingKg) })}</Small>
            )}
          </td>
          <td>
            {tier.bands.map((b, j) => (
              <Box
                key={b.upToPrice ?? 'open'}
                sx={{
                  opacity: i === tierAt && tier.bands.length > 1 && j !== band(tier) ? 0.75 : 1,
                  fontWeight: i === tierAt && j === band(tier) ? 680 : 400,
                }}>
                {tier.bands.length > 1 && (
                  <>
                    {b.upToPrice === null
                      ? t('rates.priceAbove')
                      : t('rates.priceUpTo', { amount: m(b.upToPrice) })}
                    :{' '}
                  </>
                )}
                {b.table.steps.map((s) => `${f.number(s.upToKg)} kg ${m(s.fee)}`).join(' · ')}
                {b.table.stepKg !== null &&
                  ` · ${t('rates.further', { kg: f.number(b.table.stepKg), fee: m(b.table.stepFee) })}`}
              </Box>
            ))}
          </td>
        </Box>
      ))}
    </Rows>
  );
}
