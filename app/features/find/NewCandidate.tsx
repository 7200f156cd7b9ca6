import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, useLocation, useNavigation, useSearchParams, useSubmit } from 'react-router';
import type { MarketplaceCard } from '../../../core/cards/rates.ts';
import { isGtin } from '../../../core/goods/gtin.ts';
import { isHeading } from '../../../core/workspace/newCandidate.ts';
import type { NewCandidate } from '../../../core/workspace/newCandidate.ts';
import type { CardData } from '../../../core/cards/schema.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { ChoiceLine, NumField, SidesField, TextLine } from '../../ui/Field.tsx';
import { useCountries, useCurrencies } from '../../ui/names.ts';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import { FirstAnswer } from './FirstAnswer.tsx';
import { PasteRows, OpenDocument } from './PasteRows.tsx';
import { StartFrom } from './StartFrom.tsx';
import type { LaneCards } from '../../../core/workspace/compose.ts';
import { useWords } from '../../ui/useWords.ts';

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

/** Rows that the command bar was given. */
const textIn = (state: unknown): string =>
  state !== null && typeof state === 'object' && 'pasted' in state && typeof state.pasted === 'string'
    ? state.pasted.slice(0, 1_000_000)
    : '';
const barcodeIn = (text: string | null): string | null => (text !== null && isGtin(text) ? text : null);

/** A product from nothing to a first answer: name, price and cost; everything else by defaults that say so. */
export function NewCandidateForm(p: Props) {
  const { t } = useWords();
  const submit = useSubmit();
  const busy = useNavigation().state !== 'idle';
  const [search, setSearch] = useSearchParams();
  const { pathname, state } = useLocation();
  /** Rows that were pasted where one begins: into the field above, or into the command bar. */
  const [pasted, setPasted] = useState(textIn(state));
  const [typed, setTyped] = useState<NewCandidate>({
    name: (search.get('name') ?? '').slice(0, 200),
    way: p.settings.ways[0] ?? 'ownBrand',
    price: null,
    cost: null,
    costCurrency: p.settings.homeCurrency,
    sides: null,
    kg: null,
    marketplaceCardId: p.chosen,
    country: p.country,
    origin: null,
    category: null,
    hsCode: null,
    gtin: barcodeIn(search.get('gtin')),
  });
  const set =
    <K extends keyof NewCandidate>(key: K) =>
    (value: NewCandidate[K]): void =>
      setTyped((now) => ({ ...now, [key]: value }));
  const [tried, setTried] = useState(false);
  const card = p.chosen === null ? null : ((p.cards[p.chosen] as MarketplaceCard | undefined) ?? null);
  const currency = card?.currency ?? p.settings.homeCurrency;

  const send = () => {
    setTried(true);
    if (typed.name.trim() === '' || (typed.gtin !== null && !isGtin(typed.gtin))) return;
    // The marketplace may have been chosen anew since one began to type.
    const row = { ...typed, marketplaceCardId: p.chosen, country: p.country };
    void submit([row] as never, { method: 'post', encType: 'application/json' });
  };
  const currencies = useCurrencies();
  const countries = useCountries();
  return (
    <Box sx={{ maxWidth: 1080 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2 }}>
        <Typography variant="h1">{t('nav.find')}</Typography>
        {/* Opened as a page of its own, as it has to be where there is no network. */}
        <Button
          component={Link}
          to="../check"
          relative="path"
          reloadDocument
          size="small"
          sx={{ ml: 'auto' }}>
          {t('find.quickCheck')}
        </Button>
        <Button component={Link} to="market" size="small">
          {t('find.market')}
        </Button>
        <Button component={Link} to="../lists" relative="path" size="small">
          {t('find.lists')}
        </Button>
      </Box>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        {t('find.lead')}
      </Typography>
      <StartFrom root={pathname.replace(/\/find$/, '')} onRows={setPasted} />
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
            value={typed.name}
            onChange={set('name')}
            width={320}
            error={tried && typed.name.trim() === '' ? t('find.nameMissing') : null}
          />
          <NumField
            label={t('find.price')}
            value={typed.price}
            onChange={set('price')}
            kind="money"
            currency={currency}
            width={170}
          />
          <NumField
            label={typed.way === 'retail' ? t('form.shelfPrice') : t('find.cost')}
            value={typed.cost}
            onChange={set('cost')}
            kind="money"
            currency={typed.costCurrency}
            width={150}
          />
          <SearchChoice
            label={t('form.currency')}
            value={typed.costCurrency}
            options={currencies}
            onChange={set('costCurrency')}
          />
        </Box>
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'flex-start', mb: 2 }}>
          <ChoiceLine
            label={t('find.way')}
            value={typed.way}
            options={p.settings.ways.map((w) => ({ value: w, label: t(`way.${w}`) }))}
            onChange={set('way')}
            width={150}
          />
          <ChoiceLine
            label={t('find.where')}
            value={p.chosen ?? ''}
            options={p.markets.map((m) => ({ value: m.id, label: m.name }))}
            onChange={(v) => setSearch({ card: v }, { replace: true, preventScrollReset: true })}
            width={160}
          />
          {p.canEdit && (
            <Button
              component={Link}
              to="../rates/read"
              relative="path"
              size="small"
              sx={{ alignSelf: 'end' }}>
              {t('find.ownMarket')}
            </Button>
          )}
          {card !== null && (
            <ChoiceLine
              label={t('form.category')}
              value={typed.category || (card.categories[0]?.key ?? '')}
              options={card.categories.map((c) => ({ value: c.key, label: c.name }))}
              onChange={set('category')}
              width={190}
            />
          )}
          <SidesField label={t('form.sides')} value={typed.sides} onChange={set('sides')} width={150} />
          <NumField
            label={t('form.weight')}
            value={typed.kg}
            onChange={set('kg')}
            kind="weight"
            min={0.000001}
            width={90}
          />
          <SearchChoice
            label={t('form.origin')}
            value={typed.origin ?? ''}
            options={[{ value: '', label: '–' }, ...countries]}
            onChange={(v) => set('origin')(v || null)}
          />
          {typed.gtin !== null && (
            <TextLine
              label={t('find.barcode')}
              value={typed.gtin}
              onChange={(v) => set('gtin')(v === '' ? null : v)}
              width={140}
              maxLength={14}
              error={isGtin(typed.gtin) ? null : t('anything.notABarcode.wrongCheckDigit')}
            />
          )}
          <TextLine
            label={t('form.hsCode')}
            value={typed.hsCode ?? ''}
            onChange={(v) => set('hsCode')(v || null)}
            width={104}
            maxLength={10}
            error={typed.hsCode !== null && !isHeading(typed.hsCode) ? t('find.hsCode') : null}
          />
        </Box>
        <FirstAnswer {...p} typed={typed} card={card} currency={currency} />
        <Button type="submit" variant="contained" size="large" disabled={busy || !p.canEdit} sx={{ mt: 1 }}>
          {t('find.add')}
        </Button>
      </Box>
      <PasteRows key={pasted} {...p} from={pasted} way={typed.way} currency={currency} />
      {p.canEdit && <OpenDocument />}
    </Box>
  );
}
