/** Parts of an opened row: larger orders, its listings, its barcode. */
import { Box, Button } from '@mui/material';
import { useMemo, useState } from 'react';
import { breakQuantities } from '../../../core/launch/orders.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { minorDigits } from '../../../core/money/money.ts';
import type { RowListing } from '../../../between/ask.ts';
import { useFormat } from '../../ui/locale.ts';
import { useResultFigures } from '../../ui/resultFigures.ts';
import { useWords } from '../../ui/useWords.ts';

/** What the order costs and keeps at the quantities where a price break begins; choosing one shows the row at it. */
export function Quantities({
  doc,
  now,
  onChoose,
}: {
  doc: LaneDocument;
  now: number | null;
  onChoose: (of: number) => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const said = useResultFigures();
  const orders = useMemo(
    () => breakQuantities(doc).map((of) => ({ of, result: evaluate({ ...doc, orderQuantity: of }) })),
    [doc],
  );
  if (orders.length < 2) return null;
  return (
    <Box component="fieldset" sx={{ mt: 1.25, p: 0, border: 0 }}>
      <Box component="legend" sx={{ p: 0, fontWeight: 640 }}>
        {t('list.atQuantities')}
      </Box>
      {orders.map(({ of, result }) => (
        <Box component="label" key={of} sx={{ display: 'flex', gap: 0.75, py: 0.25, alignItems: 'baseline' }}>
          <input type="radio" name="quantity" checked={of === now} onChange={() => onChoose(of)} />
          <span>
            {t('list.atQuantity', {
              quantity: f.number(of, 0),
              cost: said(result, 'landedCost'),
              profit: said(result, 'unitProfit'),
            })}
          </span>
        </Box>
      ))}
    </Box>
  );
}

/** The listings of a barcode in the market figures: one counts, by the rule of the list or chosen here. */
export function Listings({
  listings,
  byHand,
  currency,
  canEdit,
  onChoose,
}: {
  listings: readonly RowListing[];
  byHand: boolean;
  currency: string;
  canEdit: boolean;
  onChoose: (line: number | null) => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <Box component="fieldset" sx={{ mt: 1.25, p: 0, border: 0 }}>
      <Box component="legend" sx={{ p: 0, fontWeight: 640 }}>
        {t('list.listingsOf')}
      </Box>
      {listings.slice(0, 50).map((l) => (
        <Box
          component="label"
          key={l.line}
          sx={{ display: 'flex', gap: 0.75, py: 0.25, alignItems: 'baseline' }}>
          <input
            type="radio"
            name="listing"
            checked={l.counts}
            disabled={!canEdit}
            aria-label={t('list.listingTakes', { row: l.line })}
            onChange={() => onChoose(l.line)}
          />
          <span>
            <span dir="auto">{l.title || t('list.listingRow', { row: l.line })}</span>{' '}
            <Box component="span" sx={{ color: 'text.secondary' }}>
              {[
                f.money(l.price, currency),
                l.units === null ? null : `${f.number(l.units, 0)} ${t('blank.demand')}`,
                l.title === '' ? null : t('list.listingRow', { row: l.line }),
              ]
                .filter(Boolean)
                .join(' · ')}
            </Box>
          </span>
        </Box>
      ))}
      {byHand && canEdit && (
        <Button size="small" onClick={() => onChoose(null)}>
          {t('list.listingByRule')}
        </Button>
      )}
    </Box>
  );
}

export const round = (x: number, currency: string): number =>
  Math.round(x * 10 ** minorDigits(currency)) / 10 ** minorDigits(currency);

/** A barcode that is copied by a click. */
export function CopyCode({ code }: { code: string }) {
  const { t } = useWords();
  const [copied, setCopied] = useState(false);
  return (
    <button
      type="button"
      className="copy-code"
      aria-label={t('list.copy', { code })}
      title={t('list.copy', { code })}
      onClick={(e) => {
        e.stopPropagation();
        void navigator.clipboard?.writeText(code).then(() => {
          setCopied(true);
          setTimeout(() => setCopied(false), 1200);
        });
      }}>
      {copied ? t('list.copied') : code}
    </button>
  );
}
