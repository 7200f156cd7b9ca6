import { Alert, Box, Chip, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { parcelOf, priceBandOf, sizeTierOf } from '../../../core/fees/fulfilment.ts';
import type { MarketplaceCard, SizeTier, TaxCard } from '../../../core/lane/rates.ts';
import { evaluate } from '../../../core/lane/result.ts';
import { laneDocument } from '../../../core/lane/schema.ts';
import type { Standing } from '../../../core/lane/schema.ts';
import type { ExchangeTable } from '../../../core/money/money.ts';
import type { CardData, CardKind } from '../../../core/cards/schema.ts';
import { ChoiceLine, NumField, SidesField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { Figure } from '../weigh/Workings.tsx';

type Head = { id: string; kind: CardKind; key: string; name: string; inForceFrom: string; example: boolean };
type Props = { heads: Head[]; chosen: (Head & { data: CardData }) | null; tax: CardData | null; homeCurrency: string; standings: Record<string, Standing>; today: string; base: string };
type Item = { sides: [number, number, number] | null; kg: number | null; category: string; price: number | null };

/** The cards in force, readable, with any item tried on them. */
export function RatesPage({ heads, chosen, tax, homeCurrency, standings, today, base }: Props) {
  const { t, i18n } = useTranslation();
  const f = useFormat();
  const card = chosen?.kind === 'marketplace' ? (chosen.data as MarketplaceCard) : null;
  const [item, setItem] = useState<Item>({ sides: [28, 18, 11], kg: 0.85, category: '', price: null });
  const category = card?.categories.some((c) => c.key === item.category) ? item.category : (card?.categories[0]?.key ?? '');
  const price = item.price ?? (card === null ? null : roundish(29.9 * (card.currency === 'JPY' ? 160 : card.currency === 'PLN' || card.currency === 'AED' ? 4 : 1)));
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Typography variant="h1">{t('nav.rates')}</Typography>
      <Typography color="text.secondary" sx={{ mb: 2 }}>{t('rates.lead')}</Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '210px 1fr' }, gap: 3 }}>
        <Box component="nav" aria-label={t('rates.cards')} sx={{ maxHeight: { xs: 180, md: 'calc(100vh - 170px)' }, overflowY: 'auto', pr: 1 }} tabIndex={0}>
          {(['marketplace', 'tax', 'exchange'] as const).map((kind) => (
            <Box key={kind} sx={{ mb: 2 }}>
              <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>{t(`rates.kind.${kind}`)}</Typography>
              {heads.filter((h) => h.kind === kind).map((h) => (
                <Box key={h.id} component={Link} to={`?card=${h.id}`} prefetch="intent" preventScrollReset aria-current={h.id === chosen?.id ? 'page' : undefined} sx={{ display: 'block', fontSize: '0.88rem', py: 0.35, px: 1, ml: -1, borderRadius: 1, color: 'text.primary', textDecoration: 'none', bgcolor: h.id === chosen?.id ? 'paperTint' : 'transparent', fontWeight: h.id === chosen?.id ? 650 : 400 }}>
                  {kind === 'tax' ? countryName(h.key, i18n.language) : h.name}
                </Box>
              ))}
            </Box>
          ))}
        </Box>
        <Box sx={{ minWidth: 0 }}>
          {chosen === null ? (
            <Typography>{t('rates.none')}</Typography>
          ) : (
            <>
              <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline', mb: 1, flexWrap: 'wrap' }}>
                <Typography variant="h2">{chosen.kind === 'tax' ? countryName(chosen.key, i18n.language) : chosen.name}</Typography>
                <Typography color="text.secondary">{t('rates.inForce', { date: f.day(chosen.inForceFrom) })}</Typography>
                {chosen.example && <Chip size="small" variant="outlined" label={t('rates.example')} />}
              </Box>
              {'note' in chosen.data && chosen.data.note && <Typography variant="body2" color="text.secondary" sx={{ mb: 1.5 }}>{chosen.data.note}</Typography>}
              {card !== null && (
                <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1fr 330px' }, gap: 4 }}>
                  <MarketplaceTables card={card} item={item} category={category} price={price} />
                  <TryIt card={card} tax={tax as TaxCard | null} item={item} setItem={setItem} category={category} price={price} homeCurrency={homeCurrency} standing={standings[card.country] ?? null} today={today} />
                </Box>
              )}
              {chosen.kind === 'tax' && <TaxTables card={chosen.data as TaxCard} standing={standings[chosen.key] ?? null} base={base} />}
              {chosen.kind === 'exchange' && <ExchangeRows table={chosen.data as ExchangeTable} />}
            </>
          )}
        </Box>
      </Box>
    </Box>
  );
}

function roundish(x: number): number {
  return x > 1000 ? Math.round(x / 10) * 10 : Math.round(x * 100) / 100;
}

function Rows({ head, children, caption }: { head: string[]; children: ReactNode; caption: string }) {
  return (
    <Box role="region" aria-label={caption} tabIndex={0} sx={{ overflowX: 'auto', mb: 2.5 }}>
      <Box component="table" sx={{ borderCollapse: 'collapse', fontSize: '0.85rem', width: '100%', '& td, & th': { py: 0.4, px: 0.75, textAlign: 'right', borderBottom: '1px solid', borderColor: 'hairline', verticalAlign: 'top' }, '& th': { fontWeight: 400, color: 'text.secondary' }, '& td:first-of-type, & th:first-of-type': { textAlign: 'left' } }}>
        <Box component="caption" sx={{ textAlign: 'left', fontWeight: 650, fontSize: '0.9rem', pb: 0.5 }}>{caption}</Box>
        <thead><tr>{head.map((h) => <th key={h} scope="col">{h}</th>)}</tr></thead>
        <tbody>{children}</tbody>
      </Box>
    </Box>
  );
}

/** A row that applied to the tried item: tinted, bold, with an edge, and said to screen readers. */
const applied = (on: boolean) => ({ 'aria-current': on ? ('true' as const) : undefined, sx: on ? { bgcolor: 'paperTint', '& td': { fontWeight: 680 }, '& td:first-of-type': { boxShadow: 'inset 3px 0 0 var(--mui-palette-primary-main)' } } : {} });

function MarketplaceTables({ card, item, category, price }: { card: MarketplaceCard; item: Item; category: string; price: number | null }) {
  const { t } = useTranslation();
  const f = useFormat();
  const m = (x: number | null) => f.plain(x, card.currency);
  const tiers = card.warehouse?.tiers ?? [];
  const parcel = item.sides === null || item.kg === null ? null : parcelOf(item.sides[0], item.sides[1], item.sides[2], item.kg, { L: 0, W: 0, H: 0, kg: 0 });
  const tierAt = parcel === null ? -1 : sizeTierOf(tiers, parcel);
  const band = (tier: SizeTier) => (price === null ? tier.bands.length - 1 : priceBandOf(tier, price));
  return (
    <Box sx={{ minWidth: 0 }}>
      <Rows caption={t('rates.referral')} head={[t('form.category'), t('rates.base'), t('rates.tiers'), t('rates.min'), t('rates.max')]}>
        {card.categories.map((c) => (
          <Box component="tr" key={c.key} {...applied(c.key === category)}>
            <td>{c.name}</td><td>{t(`feeBase.${c.referral.base}`)}</td>
            <td>{c.referral.tiers.map((x) => `${f.percent(x.pct)} ${x.upTo === null ? t(c.referral.tiers.length > 1 ? (c.referral.mode === 'whole' ? 'rates.aboveWhole' : 'rates.aboveSliced') : 'rates.ofAll') : t('rates.upTo', { amount: m(x.upTo) })}`).join(' · ')}</td>
            <td>{m(c.referral.min)}</td><td>{m(c.referral.max)}</td>
          </Box>
        ))}
      </Rows>
      <Rows caption={t('rates.others')} head={[t('rates.what'), t('rates.howMuch')]}>
        {card.itemFee > 0 && <Box component="tr" {...applied(true)}><td>{t('lines.itemFee')}</td><td>{m(card.itemFee)}</td></Box>}
        {card.payment !== null && <Box component="tr" {...applied(true)}><td>{t('lines.payment')}</td><td>{f.percent(card.payment.pct)} {t('rates.of')} {t(`feeBase.${card.payment.base}`)} + {m(card.payment.fixed)}</td></Box>}
        {card.surcharges.map((s) => <Box component="tr" key={s.name} {...applied(true)}><td>{s.name}</td><td>{f.percent(s.pct)} {t('rates.of')} {s.of.map((x) => t(`lines.${x}`).toLowerCase()).join(', ')}</td></Box>)}
        {card.subscriptionMonthly > 0 && <tr><td>{t('lines.subscription')}</td><td>{t('rates.aMonth', { amount: f.money(card.subscriptionMonthly, card.currency) })}</td></tr>}
        <tr><td>{t('rates.feeVat')}</td><td>{card.feeVat.treatment === 'none' ? t('line.none') : `${t(`treatment.${card.feeVat.treatment}`)}, ${f.percent(card.feeVat.rate)}`}</td></tr>
        <tr><td>{t('rates.refund')}</td><td>{f.percent(card.refund.back.referral, 0)} {t('rates.ofReferralBack')}{card.refund.adminPct > 0 && `; ${t('rates.refundFee', { pct: f.percent(card.refund.adminPct, 0), max: m(card.refund.adminMax) })}`}</td></tr>
        <tr><td>{t('rates.payout')}</td><td>{t('rates.payoutText', { every: f.number(card.payoutEveryDays), after: f.number(card.payoutDelayDays) })}</td></tr>
      </Rows>
      {card.warehouse !== null && (
        <Rows caption={t('rates.warehouse')} head={[t('rates.tier'), t('rates.sidesUpTo'), t('rates.kgUpTo'), t('rates.steps')]}>
          {tiers.map((tier, i) => (
            <Box component="tr" key={tier.name} {...applied(i === tierAt)}>
              <td>{tier.name}</td><td>{[tier.maxL, tier.maxW, tier.maxH].map((x) => f.number(x)).join(' × ')}</td><td>{f.number(tier.maxKg)}{tier.divisor !== null && <Box component="span" sx={{ color: 'text.secondary' }}> {t('rates.byVolume')}</Box>}</td>
              <td>{tier.bands.map((b, j) => (
                <Box key={b.upToPrice ?? 'open'} sx={{ opacity: i === tierAt && tier.bands.length > 1 && j !== band(tier) ? 0.75 : 1, fontWeight: i === tierAt && j === band(tier) ? 680 : 400 }}>
                  {tier.bands.length > 1 && <>{b.upToPrice === null ? t('rates.priceAbove') : t('rates.priceUpTo', { amount: m(b.upToPrice) })}: </>}
                  {b.table.steps.map((s) => `${f.number(s.upToKg)} kg ${m(s.fee)}`).join(' · ')}{b.table.stepKg !== null && ` · ${t('rates.further', { kg: f.number(b.table.stepKg), fee: m(b.table.stepFee) })}`}
                </Box>
              ))}</td>
            </Box>
          ))}
        </Rows>
      )}
      {card.storage !== null && (
        <Rows caption={t('rates.storage')} head={Array.from({ length: 12 }, (_, i) => new Intl.DateTimeFormat('en', { month: 'short' }).format(new Date(2026, i, 1)))}>
          <tr>{Object.entries(card.storage.perM3Month).map(([month, x]) => <Box component="td" key={month} sx={{ textAlign: 'right !important' }}>{m(x)}</Box>)}</tr>
        </Rows>
      )}
      {card.storage !== null && card.storage.longStay.length > 0 && <Typography variant="body2" color="text.secondary">{card.storage.longStay.map((b) => t('rates.longStay', { from: f.number(b.fromMonths), rate: m(b.rate) })).join(' · ')}</Typography>}
    </Box>
  );
}

const TRIED = ['referral', 'itemFee', 'payment', 'surcharges', 'feeVat', 'fulfilment', 'storage'] as const;

function TryIt({ card, tax, item, setItem, category, price, homeCurrency, standing, today }: { card: MarketplaceCard; tax: TaxCard | null; item: Item; setItem: (i: Item) => void; category: string; price: number | null; homeCurrency: string; standing: Standing | null; today: string }) {
  const { t } = useTranslation();
  const f = useFormat();
  const doc = useMemo(
    () =>
      laneDocument.parse({
        format: 'bold-margin/lane', version: 1, date: today, homeCurrency, country: card.country, currency: card.currency, marketplace: card.marketplace, price, standing: standing ?? { kind: 'registered' },
        product: { sides: item.sides, kg: item.kg, category }, goods: 'none', route: 'none', prep: 'none', returns: 'none', adverts: 'none', orderQuantity: 1, monthsHeld: 1,
        method: card.warehouse === null ? 'ownDispatch' : 'warehouse', dispatch: 'none', storage: card.storage === null ? 'none' : 'card', typed: { subscriptionMonthly: 0 },
        rates: { tax, marketplace: card },
      }),
    [card, tax, item, category, price, homeCurrency, standing, today],
  );
  const r = evaluate(doc);
  const fees = TRIED.filter((l) => r.lines[l] !== 0);
  const total = TRIED.reduce((s, l) => s + (r.lines[l] ?? 0), 0);
  return (
    <Box component="section" aria-label={t('rates.try')} sx={{ bgcolor: 'paperTint', p: 2, borderRadius: 1, alignSelf: 'start', position: { lg: 'sticky' }, top: { lg: 16 } }}>
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>{t('rates.try')}</Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1.5 }}>
        <SidesField label={t('form.sides')} value={item.sides} onChange={(sides) => setItem({ ...item, sides })} width={150} />
        <NumField label={t('form.weight')} value={item.kg} onChange={(kg) => setItem({ ...item, kg })} kind="weight" min={0.000001} width={110} />
        <ChoiceLine label={t('form.category')} value={category} options={card.categories.map((c) => ({ value: c.key, label: c.name }))} onChange={(v) => setItem({ ...item, category: v })} width={150} />
        <NumField label={t('form.price')} value={price} onChange={(v) => setItem({ ...item, price: v })} kind="money" currency={card.currency} width={110} />
      </Box>
      {r.problems.map((p) => <Alert key={p.code} severity="error" variant="outlined" sx={{ mb: 1 }}>{t(`problem.${p.code}`, p.detail as Record<string, string>)}</Alert>)}
      <Box component="dl" aria-live="polite" sx={{ display: 'grid', gridTemplateColumns: '1fr auto', m: 0, rowGap: 0.4, fontSize: '0.9rem' }}>
        {fees.map((l) => <Box key={l} sx={{ display: 'contents' }}><dt>{t(`lines.${l}`)}{l === 'storage' && <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.78rem' }}> {t('rates.oneMonth')}</Box>}</dt><Box component="dd" sx={{ m: 0, textAlign: 'right', fontWeight: 600 }}>{r.lines[l] === null ? '–' : <Figure doc={doc} of={l} label={t(`lines.${l}`)}>{f.plain(r.lines[l], card.currency)}</Figure>}</Box></Box>)}
        <Box component="dt" sx={{ fontWeight: 680, borderTop: '1px solid' }}>{t('rates.allFees')}</Box><Box component="dd" sx={{ m: 0, textAlign: 'right', fontWeight: 680, borderTop: '1px solid' }}>{f.money(total, card.currency)}</Box>
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>{t('rates.tryNote')}</Typography>
    </Box>
  );
}

function TaxTables({ card, standing, base }: { card: TaxCard; standing: Standing | null; base: string }) {
  const { t } = useTranslation();
  const f = useFormat();
  return (
    <Box sx={{ maxWidth: 640 }}>
      <Rows caption={t('rates.vat')} head={[t('form.taxClass'), t('rates.rate')]}>
        {Object.entries(card.vatRates).map(([k, v]) => <tr key={k}><td>{k}</td><td>{f.percent(v)}</td></tr>)}
        <tr><td>{t('rates.regime')}</td><td>{t(`regime.${card.regime}`)}</td></tr>
        <tr><td>{t('rates.standing')}</td><td>{standing === null ? t('standing.missing') : t(`standing.${standing.kind}`)} · <a href={`${base}/settings#standing`}>{t('rates.change')}</a></td></tr>
        <tr><td>{t('rates.customsBasis')}</td><td>{card.customsBasis}</td></tr>
      </Rows>
      <Rows caption={t('rates.duty')} head={[t('rates.heading'), t('form.origin'), t('rates.rate')]}>
        {card.duties.map((d) => <tr key={`${d.heading}${d.origins?.join()}`}><td>{d.heading === '' ? t('rates.anyHeading') : d.heading}</td><td>{d.origins?.join(', ') ?? t('rates.anyOrigin')}</td><td>{f.percent(d.pct)}</td></tr>)}
      </Rows>
      <Rows caption={t('rates.charges')} head={[t('rates.what'), t('rates.howMuch')]}>
        {card.importCharges.map((c) => <tr key={c.name}><td>{c.name}</td><td>{c.pct > 0 && f.percent(c.pct)} {f.money(c.flat, card.currency)} {t('rates.aShipment')}</td></tr>)}
      </Rows>
    </Box>
  );
}

function ExchangeRows({ table }: { table: ExchangeTable & { source?: string } }) {
  const { t } = useTranslation();
  const f = useFormat();
  return (
    <Box sx={{ maxWidth: 420 }}>
      <Rows caption={t('rates.exchange', { base: table.base, date: f.day(table.date) })} head={[t('form.currency'), t('rates.perBase', { base: table.base })]}>
        {Object.entries(table.rates).map(([k, v]) => <tr key={k}><td>{k}</td><td>{f.number(v, 6)}</td></tr>)}
      </Rows>
      {table.source && <Typography variant="body2" color="text.secondary">{table.source}</Typography>}
    </Box>
  );
}
