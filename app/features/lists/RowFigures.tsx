/**
 * What a row comes to: its figures, its build-up, its hurdles with what would clear them, what else its file
 * says.
 */
import { Box } from '@mui/material';
import { FIGURE } from '../../../core/lane/figures.ts';
import { FAMILIES, FAMILY_LINES } from '../../../core/lane/costLines.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { useBounds } from '../../ui/bounds.ts';
import type { ListRow } from '../../../between/ask.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { roundToTotal } from '../../../core/money/money.ts';
import { hurdleAmount } from '../../ui/figures.ts';
import { Figure } from '../weigh/Workings.tsx';
import { round } from './RowParts.tsx';
import type { LaneResult } from '../../../core/lane/result.ts';
import type { Worked } from './useOpened.ts';
import { useWords } from '../../ui/useWords.ts';

export function RowFigures({ doc, worked }: { doc: LaneDocument; worked: Worked }) {
  const { t } = useWords();
  const bounds = useBounds();
  const f = useFormat();
  const { result } = worked;
  const say = (x: number | null): string => f.money(x, doc.currency);
  const blanks = result.incomplete.unitProfit ?? [];
  return (
    <Box component="dl" className="figures" sx={{ mt: '10px !important' }}>
      {(
        [
          ['margin', f.percent(result.figures.margin)],
          ['roi', f.percent(result.figures.roi, 0)],
          ['profitPerMonth', say(result.figures.profitPerMonth)],
        ] as const
      )
        .map(([k, text]) => [k, text === '–' ? text : bounds.of(text, result.incomplete[k])] as const)
        .map(([k, text]) => (
          <div key={k}>
            <dt>{t(`listFigure.${k}`)}</dt>
            <dd>
              <Figure doc={doc} of={k} label={t(`listFigure.${k}`)}>
                {text}
              </Figure>
            </dd>
          </div>
        ))}
      <div>
        <dt>{t('weigh.breaksEven')}</dt>
        <dd>{worked.even === null ? '–' : bounds.of(say(worked.even), blanks, 'above')}</dd>
      </div>
      <div>
        <dt>{t('weigh.payAtMost')}</dt>
        <dd>
          {worked.most.unitPrice === null
            ? '–'
            : bounds.of(
                f.money(
                  floorTo(worked.most.unitPrice, minorDigits(worked.most.currency)),
                  worked.most.currency,
                ),
                worked.most.incomplete,
                'lessThan',
              )}
        </dd>
      </div>
      <div>
        <dt>{t('listFigure.quantity')}</dt>
        <dd>{f.number(doc.orderQuantity, 0)}</dd>
      </div>
    </Box>
  );
}

/** The price taken apart, line by line; what is shown adds up to what is shown as kept. */
export function BuildUp({ doc, result }: { doc: LaneDocument; result: LaneResult }) {
  const { t } = useWords();
  const bounds = useBounds();
  const f = useFormat();
  const say = (x: number | null): string => f.money(x, doc.currency);
  const profit = result.figures.unitProfit;
  const blanks = result.incomplete.unitProfit ?? [];
  const shown = FAMILIES.flatMap((family) =>
    FAMILY_LINES[family].filter((l) => (result.lines[l] ?? 0) !== 0).map((l) => ({ family, l })),
  );
  const amounts = roundToTotal(
    shown.map(({ l }) => -(result.lines[l] as number)),
    minorDigits(doc.currency),
    result.figures.unitProfit === null || result.figures.gross === null
      ? null
      : round(result.figures.unitProfit, doc.currency) - round(result.figures.gross, doc.currency),
  );
  return (
    <Box
      component="table"
      sx={{
        width: '100%',
        borderCollapse: 'collapse',
        mt: 1,
        '& td': { py: 0.25, borderBottom: '1px solid', borderColor: 'hairline' },
      }}>
      <tbody>
        <tr>
          <td>{t('listFigure.price')}</td>
          <td style={{ textAlign: 'right' }}>
            <Figure doc={doc} of="gross" label={t('listFigure.price')}>
              {say(result.figures.gross)}
            </Figure>
          </td>
        </tr>
        {shown.map(({ family, l }, i) => (
          <tr key={l}>
            <td>
              <Box
                component="i"
                sx={{ display: 'inline-block', width: 9, height: 9, mr: 0.75, bgcolor: `family.${family}` }}
              />
              {t(`lines.${l}`)}
            </td>
            <td style={{ textAlign: 'right' }}>
              <Figure doc={doc} of={l} label={t(`lines.${l}`)}>
                {say(amounts[i] ?? null)}
              </Figure>
            </td>
          </tr>
        ))}
        <tr>
          <td>
            <b>{t('listFigure.unitProfit')}</b>
          </td>
          <td style={{ textAlign: 'right' }}>
            <b>
              <Figure doc={doc} of="unitProfit" label={t('listFigure.unitProfit')}>
                {profit === null ? '–' : bounds.of(say(profit), blanks)}
              </Figure>
            </b>
          </td>
        </tr>
      </tbody>
    </Box>
  );
}

export function RowHurdles({ doc, worked, row }: { doc: LaneDocument; worked: Worked; row: ListRow }) {
  const { t } = useWords();
  const bounds = useBounds();
  const f = useFormat();
  const { result } = worked;
  const say = (x: number | null): string => f.money(x, doc.currency);
  const blanks = result.incomplete.unitProfit ?? [];
  return (
    <Box sx={{ mt: 1.25 }}>
      {worked.hurdles.map(({ h, remedy }) => (
        <Box key={`${h.hurdle.figure}${h.hurdle.bound}`} sx={{ py: 0.25 }}>
          <Box
            component="span"
            sx={{
              fontWeight: h.verdict === 'pass' ? 400 : 680,
              color: h.verdict === 'fail' ? 'error.main' : 'text.primary',
            }}>
            {t(`verdict.${h.verdict}`)}
          </Box>{' '}
          {t(`figure.${h.hurdle.figure}`)}{' '}
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {t(`hurdles.${h.hurdle.bound}`, {
              level: hurdleAmount(h.level, h.hurdle.figure, doc.currency, f),
            })}{' '}
            ·{' '}
            {t('hurdles.is', {
              value: bounds.of(
                hurdleAmount(h.value, h.hurdle.figure, doc.currency, f),
                h.value === null ? [] : result.incomplete[h.hurdle.figure],
                FIGURE[h.hurdle.figure].errs === 'rises' ? 'atLeast' : 'atMost',
              ),
            })}
          </Box>
          {remedy !== null && (
            <Box sx={{ fontSize: '0.8rem' }}>
              {remedy.unitPrice !== null && remedy.unitPrice > 0
                ? t('list.pays', {
                    price: bounds.of(
                      f.money(
                        floorTo(remedy.unitPrice, minorDigits(remedy.unitPriceCurrency)),
                        remedy.unitPriceCurrency,
                      ),
                      blanks,
                      'lessThan',
                    ),
                    now: f.money(row.figures.paid ?? row.figures.cost ?? null, remedy.unitPriceCurrency),
                  })
                : t('list.paysNot')}
              {remedy.price !== null &&
                `, ${t('list.paysPrice', { price: bounds.of(say(remedy.price), blanks, 'atLeast') })}`}
            </Box>
          )}
        </Box>
      ))}
    </Box>
  );
}

/** Picture, notes and columns that are kept as the file has them. */
export function MoreOfRow({ more }: { more: Readonly<Record<string, string>> }) {
  const { t } = useWords();
  const kept = Object.entries(more).filter(([k]) => k !== 'link');
  if (kept.length === 0) return null;
  return (
    <Box
      component="dl"
      sx={{
        mt: 1,
        mb: 0,
        fontSize: '0.8rem',
        display: 'grid',
        gridTemplateColumns: 'auto 1fr',
        gap: '2px 10px',
        '& dt': { color: 'text.secondary' },
        '& dd': { m: 0, overflowWrap: 'anywhere' },
      }}>
      {kept.map(([k, v]) => (
        <Box key={k} sx={{ display: 'contents' }}>
          <dt>{k === 'picture' || k === 'notes' ? t(`role.${k}`) : k}</dt>
          <dd dir="auto">
            {/^https?:\/\//i.test(v) ? (
              <a href={v} target="_blank" rel="noreferrer noopener">
                {k === 'picture' ? t('list.openPicture') : v}
              </a>
            ) : (
              v
            )}
          </dd>
        </Box>
      ))}
    </Box>
  );
}
