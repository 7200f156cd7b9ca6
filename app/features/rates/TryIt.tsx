import { Alert, Box, Typography } from '@mui/material';
import { HiddenHead } from '../../ui/FigureTable.tsx';
import type { MarketplaceCard, TaxCard } from '../../../core/cards/rates.ts';
import { allFees, coversFee, FEES_TRIED, feeShare, itemOn, triedOn } from '../../../core/compare/tryItem.ts';
import type { FeeTried, Item, Trier, TriedCard } from '../../../core/compare/tryItem.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { LaneResult } from '../../../core/lane/result.ts';
import type { LaneDocument, Standing } from '../../../core/lane/schema.ts';
import { exchangeFactor } from '../../../core/money/money.ts';
import type { ExchangeTable } from '../../../core/money/money.ts';
import { ChoiceLine, NumField, SidesField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Figure } from '../weigh/Workings.tsx';
import { useWords } from '../../ui/useWords.ts';

/** An item on a card, worked out. */
type Tried = { readonly card: MarketplaceCard; readonly doc: LaneDocument; readonly result: LaneResult };
function tried(on: TriedCard, item: Item, by: Trier): Tried {
  const doc = triedOn(on, item, by);
  return { card: on.card, doc, result: evaluate(doc) };
}
const shows = (of: Tried, fee: FeeTried): boolean => !coversFee(of.card, fee) || of.result.lines[fee] !== 0;

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

/**
 * Any item through a card, and through a second one beside it: every fee, with its workings. Nothing here is
 * saved.
 */
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
  const { t } = useWords();
  const f = useFormat();
  const by = { homeCurrency, standings, today };
  const own = tried({ card, tax }, { ...item, category, price }, by);
  const second =
    beside === null
      ? null
      : tried(beside, itemOn({ ...item, category, price }, card, beside.card, exchange), by);
  const factor = beside === null ? 1 : exchangeFactor(exchange, card.currency, beside.card.currency);
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
      {own.result.problems.map((p) => (
        <Alert key={p.code} severity="error" variant="outlined" sx={{ mb: 1 }}>
          {t(`problem.${p.code}`, p.detail as Record<string, string>)}
        </Alert>
      ))}
      {second?.result.problems.map((p) => (
        <Alert key={p.code} severity="error" variant="outlined" sx={{ mb: 1 }}>
          {beside?.name}: {t(`problem.${p.code}`, p.detail as Record<string, string>)}
        </Alert>
      ))}
      <FeeTable
        name={card.name}
        own={own}
        beside={second === null || beside === null ? null : { ...second, name: beside.name }}
      />
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

/** Fee by fee, all fees and their share of the price; a second card's beside them. */
function FeeTable({
  name,
  own,
  beside,
}: {
  name: string;
  own: Tried;
  beside: (Tried & { name: string }) | null;
}) {
  const { t } = useWords();
  const f = useFormat();
  const fees = FEES_TRIED.filter((fee) => shows(own, fee) || (beside !== null && shows(beside, fee)));
  return (
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
            <HiddenHead>{t('rates.what')}</HiddenHead>
            <th scope="col">{name}</th>
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
            <td>
              <FeeCell fee={l} of={own} label={t(`lines.${l}`)} />
            </td>
            {beside !== null && (
              <td>
                <FeeCell fee={l} of={beside} label={`${beside.name} ${t(`lines.${l}`)}`} />
              </td>
            )}
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <th scope="row">{t('rates.allFees')}</th>
          <td>{f.money(allFees(own.result), own.doc.currency)}</td>
          {beside !== null && <td>{f.money(allFees(beside.result), beside.doc.currency)}</td>}
        </tr>
        <tr>
          <Box component="th" scope="row" sx={{ border: '0 !important', fontWeight: '400 !important' }}>
            {t('rates.ofPrice')}
          </Box>
          <Box component="td" sx={{ border: '0 !important' }}>
            {f.percent(feeShare(own.result))}
          </Box>
          {beside !== null && (
            <Box component="td" sx={{ border: '0 !important' }}>
              {f.percent(feeShare(beside.result))}
            </Box>
          )}
        </tr>
      </tfoot>
    </Box>
  );
}

/** A fee with its workings; says so where the card knows nothing of it. */
function FeeCell({ fee, of, label }: { fee: FeeTried; of: Tried; label: string }) {
  const { t } = useWords();
  const f = useFormat();
  const x = of.result.lines[fee];
  if (!coversFee(of.card, fee))
    return (
      <Box component="span" sx={{ fontWeight: 400, fontSize: '0.78rem' }}>
        {t('rates.notCovered')}
      </Box>
    );
  return x === null ? (
    '–'
  ) : (
    <Figure doc={of.doc} of={fee} label={label}>
      {f.plain(x, of.doc.currency)}
    </Figure>
  );
}
