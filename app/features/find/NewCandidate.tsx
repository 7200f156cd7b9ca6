import { Alert, Box, Button, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { Trans, useTranslation } from 'react-i18next';
import { Link, useNavigation, useSearchParams, useSubmit } from 'react-router';
import type { MarketplaceCard } from '../../../core/cards/rates.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import { quote, retailPurchase } from '../../../core/lane/schema.ts';
import type { Way } from '../../../core/lane/schema.ts';
import { highestPurchaseCost, priceFor } from '../../../core/lane/solve.ts';
import { minorDigits } from '../../../core/money/money.ts';
import type { ExchangeTable } from '../../../core/money/money.ts';
import { newLane } from '../../../core/workspace/newLane.ts';
import { composeLane } from '../../../core/workspace/records.ts';
import type { CardData } from '../../../core/cards/schema.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { ChoiceLine, NumField, SidesField, TextLine } from '../../ui/Field.tsx';
import { MarginBar } from '../../ui/MarginBar.tsx';
import { useBounds } from '../../ui/bounds.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { useCountries, useCurrencies } from '../../ui/names.ts';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import { PasteRows, OpenDocument } from './PasteRows.tsx';
import type { LaneCards } from '../../../core/workspace/records.ts';

export type Props = {
  settings: Settings;
  today: string;
  markets: { id: string; name: string; key: string }[];
  chosen: string | null;
  country: string;
  cards: Record<string, CardData>;
  laneCards: LaneCards;
  canEdit: boolean;
  error: { row: number; field: string; message: string } | string | null;
};

/** A product from nothing to a first answer: name, price and cost; everything else by defaults that say so. */
export function NewCandidateForm(p: Props) {
  const { t } = useTranslation();
  const f = useFormat();
  const submit = useSubmit();
  const busy = useNavigation().state !== 'idle';
  const [, setSearch] = useSearchParams();
  const [name, setName] = useState('');
  const [way, setWay] = useState<Way>(p.settings.ways[0] ?? 'ownBrand');
  const [price, setPrice] = useState<number | null>(null);
  const [cost, setCost] = useState<number | null>(null);
  const [costCurrency, setCostCurrency] = useState(p.settings.homeCurrency);
  const [sides, setSides] = useState<[number, number, number] | null>(null);
  const [kg, setKg] = useState<number | null>(null);
  const [origin, setOrigin] = useState('');
  const [category, setCategory] = useState('');
  const [hsCode, setHsCode] = useState('');
  const [tried, setTried] = useState(false);
  const card = p.chosen === null ? null : ((p.cards[p.chosen] as MarketplaceCard | undefined) ?? null);
  const currency = card?.currency ?? p.settings.homeCurrency;

  const draft = useMemo(() => {
    const data = {
      name: name || '–',
      way,
      product: {
        sides,
        kg,
        category: category || (card?.categories[0]?.key ?? null),
        taxClass: 'standard',
        hsCode: /^\d{4,10}$/.test(hsCode) ? hsCode : null,
        origin: origin || null,
        dangerous: false,
        oversize: false,
      },
    };
    const source =
      way === 'retail'
        ? retailPurchase.parse({ kind: 'retail', currency: costCurrency, shelfPrice: cost })
        : quote.parse({
            kind: 'quote',
            currency: costCurrency,
            incoterm: way === 'ownBrand' ? 'FOB' : way === 'wholesale' ? 'DAP' : 'EXW',
            priceBreaks: [{ minQty: 0, unitPrice: cost }],
          });
    const lane = newLane({
      way,
      settings: p.settings,
      country: p.country,
      currency,
      marketplace: card,
      exchange: (p.cards[p.laneCards.exchange ?? ''] as ExchangeTable | undefined) ?? null,
      cards: p.laneCards,
      origin: origin || null,
      price,
      quoteId: 'q',
      today: p.today,
    });
    return composeLane({
      candidate: data,
      lane,
      quotes: { q: source },
      cards: p.cards,
      homeCurrency: p.settings.homeCurrency,
      standings: p.settings.standings,
      today: p.today,
    });
  }, [name, way, price, cost, costCurrency, sides, kg, origin, category, hsCode, card, currency, p]);
  const result = evaluate(draft);
  const profit = result.figures.unitProfit;
  // What the workspace's defaults have filled in, in the words of the form.
  const taken = Object.keys(draft.provenance)
    .filter((k) => draft.provenance[k]?.source === 'default')
    .map((k) => t(`find.taken.${k}`));
  const breakEven = profit === null ? null : priceFor(draft);
  // A price alone answers what one may pay.
  const mostToPay = price === null ? null : highestPurchaseCost(draft);
  const bounds = useBounds();

  const send = () => {
    setTried(true);
    if (name.trim() === '') return;
    void submit(
      [
        {
          name,
          way,
          price,
          cost,
          costCurrency,
          sides,
          kg,
          marketplaceCardId: p.chosen,
          country: p.country,
          origin: origin || null,
          category: category || null,
          hsCode: hsCode || null,
        },
      ] as never,
      { method: 'post', encType: 'application/json' },
    );
  };
  const currencies = useCurrencies();
  const countries = useCountries();
  return (
    <Box sx={{ maxWidth: 1080 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2 }}>
        <Typography variant="h1">{t('nav.find')}</Typography>
        <Button component={Link} to="../lists" relative="path" size="small" sx={{ ml: 'auto' }}>
          {t('find.lists')}
        </Button>
      </Box>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        {t('find.lead')}
      </Typography>
      {!p.canEdit && (
        <Alert severity="info" sx={{ mb: 2 }}>
          {t('find.viewer')}
        </Alert>
      )}
      {p.error !== null && (
        <Alert severity="error" sx={{ mb: 2 }}>
          {typeof p.error === 'string' ? p.error : t('find.serverError', p.error)}
        </Alert>
      )}
      <Box
        component="form"
        aria-label={t('find.byHand')}
        onSubmit={(e: { preventDefault: () => void }) => {
          e.preventDefault();
          send();
        }}>
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'flex-start', mb: 2 }}>
          <TextLine
            label={t('find.name')}
            value={name}
            onChange={setName}
            width={320}
            error={tried && name.trim() === '' ? t('find.nameMissing') : null}
          />
          <NumField
            label={t('find.price')}
            value={price}
            onChange={setPrice}
            kind="money"
            currency={currency}
            width={170}
          />
          <NumField
            label={way === 'retail' ? t('form.shelfPrice') : t('find.cost')}
            value={cost}
            onChange={setCost}
            kind="money"
            currency={costCurrency}
            width={150}
          />
          <SearchChoice
            label={t('form.currency')}
            value={costCurrency}
            options={currencies}
            onChange={setCostCurrency}
          />
        </Box>
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'flex-start', mb: 2 }}>
          <ChoiceLine
            label={t('find.way')}
            value={way}
            options={p.settings.ways.map((w) => ({ value: w, label: t(`way.${w}`) }))}
            onChange={setWay}
            width={150}
          />
          <ChoiceLine
            label={t('find.where')}
            value={p.chosen ?? ''}
            options={p.markets.map((m) => ({ value: m.id, label: m.name }))}
            onChange={(v) => setSearch({ card: v }, { replace: true, preventScrollReset: true })}
            width={160}
          />
          {card !== null && (
            <ChoiceLine
              label={t('form.category')}
              value={category || (card.categories[0]?.key ?? '')}
              options={card.categories.map((c) => ({ value: c.key, label: c.name }))}
              onChange={setCategory}
              width={190}
            />
          )}
          <SidesField label={t('form.sides')} value={sides} onChange={setSides} width={150} />
          <NumField
            label={t('form.weight')}
            value={kg}
            onChange={setKg}
            kind="weight"
            min={0.000001}
            width={90}
          />
          <SearchChoice
            label={t('form.origin')}
            value={origin}
            options={[{ value: '', label: '–' }, ...countries]}
            onChange={setOrigin}
          />
          <TextLine
            label={t('form.hsCode')}
            value={hsCode}
            onChange={setHsCode}
            width={104}
            maxLength={10}
            error={hsCode !== '' && !/^\d{4,10}$/.test(hsCode) ? t('find.hsCode') : null}
          />
        </Box>
        <Box
          aria-live="polite"
          sx={{ borderTop: '1px solid', borderColor: 'hairline', pt: 1.5, minHeight: 150 }}>
          {price === null ? (
            <Typography color="text.secondary">{t('find.waiting')}</Typography>
          ) : (
            <>
              <Typography variant="h4" component="p" sx={{ mb: 1 }} data-testid="first-answer">
                {profit === null ? (
                  cost === null && result.figures.proceeds !== null ? (
                    t('find.afterFees', {
                      amount: bounds.of(
                        f.money(result.figures.proceeds, currency),
                        result.incomplete.proceeds,
                      ),
                    })
                  ) : (
                    t('find.cannot')
                  )
                ) : (
                  <Trans
                    i18nKey={profit < 0 ? 'find.loses' : 'find.keeps'}
                    values={{
                      amount: bounds.of(
                        f.money(Math.abs(profit), currency),
                        result.incomplete.unitProfit,
                        profit < 0 ? 'atLeast' : 'atMost',
                      ),
                    }}
                    components={{
                      k: (
                        <Box component="strong" sx={{ color: profit < 0 ? 'error.main' : 'primary.main' }} />
                      ),
                    }}
                  />
                )}{' '}
                {result.blanks.length > 0 && (
                  <Box component="span" sx={{ color: 'text.secondary' }}>
                    {t('answer.incomplete', {
                      blanks: bounds.list(result.blanks.filter((b) => b !== 'goods' || way !== 'feeCheck')),
                    })}
                  </Box>
                )}{' '}
                {breakEven?.price != null &&
                  t(breakEven.bound === null ? 'find.breaksEven' : 'find.breaksEvenBound', {
                    price: bounds.of(f.money(breakEven.price, currency), breakEven.incomplete, 'above'),
                  })}{' '}
                {mostToPay?.unitPrice != null &&
                  t(mostToPay.bound === null ? 'find.most' : 'find.mostBound', {
                    cost: bounds.of(
                      f.money(
                        floorTo(mostToPay.unitPrice, minorDigits(mostToPay.currency)),
                        mostToPay.currency,
                      ),
                      mostToPay.incomplete,
                      'lessThan',
                    ),
                  })}
              </Typography>
              {result.problems.map((x) => (
                <Alert key={x.code + x.path} severity="warning" variant="outlined" sx={{ mb: 1 }}>
                  {t(`problem.${x.code}`, x.detail as Record<string, string>)}
                </Alert>
              ))}
              <MarginBar result={result} large height={48} breakEven={breakEven?.price ?? null} />
              {taken.length > 0 && (
                <Typography variant="body2" color="text.secondary">
                  {t('find.defaults', { list: taken.join(', ') })}
                </Typography>
              )}
            </>
          )}
        </Box>
        <Button type="submit" variant="contained" size="large" disabled={busy || !p.canEdit} sx={{ mt: 1 }}>
          {t('find.add')}
        </Button>
      </Box>
      <PasteRows {...p} way={way} currency={currency} />
      {p.canEdit && <OpenDocument />}
    </Box>
  );
}
