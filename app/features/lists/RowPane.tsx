import { Alert, Box, IconButton, Typography } from '@mui/material';
import CloseIcon from '@mui/icons-material/Close';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { judgeHurdles, remedyFor } from '../../../core/lane/hurdles.ts';
import type { Hurdle } from '../../../core/lane/hurdles.ts';
import { FIGURE } from '../../../core/lane/figures.ts';
import { FAMILIES, FAMILY_LINES } from '../../../core/lane/costLines.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { highestPurchaseCost, priceFor } from '../../../core/lane/solve.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { useBounds } from '../../ui/bounds.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import type { ListRow, RowListing } from '../../../between/ask.ts';
import { MarginBar } from '../../ui/MarginBar.tsx';
import { floorTo, roundToTotal, useFormat } from '../../ui/locale.ts';
import { hurdleAmount } from '../../ui/figures.ts';
import { Figure } from '../weigh/Workings.tsx';
import { Decide, Packs } from './RowDecisions.tsx';
import type { RowMark, Change } from './RowDecisions.tsx';
import { Quantities, Listings, round, CopyCode } from './RowParts.tsx';
import { tell, type Why } from '../../ui/client.ts';

export type OpenRow = {
  row: ListRow;
  doc: LaneDocument;
  mark: RowMark | null;
  more: Record<string, string>;
  listings: RowListing[];
  /** Whether the one that counts was chosen by hand. */
  listingByHand: boolean;
};
type Props = {
  url: string;
  line: number;
  edition: number;
  /** Assumptions that are tried and not saved. */
  tried: ListSettings | null;
  hurdles: readonly Hurdle[];
  root: string;
  canEdit: boolean;
  onClose: () => void;
  onMark: (row: ListRow, change: Change) => void;
  /** `quantity`: to be ordered, where not the list's. */
  onKeep: (row: ListRow, quantity: number | null) => void;
};

/** A row opened: the full lane with its workings, what would clear the hurdles, and what is decided about the goods. */
export function RowPane({
  url,
  line,
  edition,
  tried,
  hurdles,
  root,
  canEdit,
  onClose,
  onMark,
  onKeep,
}: Props) {
  const { t } = useTranslation();
  const bounds = useBounds();
  const f = useFormat();
  const [opened, setOpened] = useState<OpenRow | null>(null);
  const [notRead, setNotRead] = useState<Why | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another edition reads the row anew
  useEffect(() => {
    let stale = false;
    const timer = setTimeout(
      () =>
        void tell<OpenRow>(`${url}/row/${line}`, { settings: tried }).then((told) => {
          if (stale) return;
          if (told.ok) setOpened(told.data);
          setNotRead(told.ok ? null : told.why);
        }),
      tried === null ? 0 : 150,
    );
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [url, line, edition, tried]);
  const [quantity, setQuantity] = useState<{ line: number; of: number } | null>(null);
  const listed = opened?.row.line === line ? opened.doc : null;
  const order = quantity?.line === line ? quantity.of : null;
  const doc = useMemo(
    () => (listed === null || order === null ? listed : { ...listed, orderQuantity: order }),
    [listed, order],
  );
  const worked = useMemo(
    () =>
      doc === null
        ? null
        : {
            result: evaluate(doc),
            even: priceFor(doc).price,
            most: highestPurchaseCost(doc),
            hurdles: judgeHurdles(doc, hurdles).map((h) => ({
              h,
              remedy: h.verdict === 'near' || h.verdict === 'fail' ? remedyFor(doc, h.hurdle) : null,
            })),
          },
    [doc, hurdles],
  );
  if (doc === null || opened === null || worked === null)
    return (
      <Typography variant="body2" color="text.secondary" role="status">
        {notRead === null ? t('list.loadingRow') : t(`notDone.${notRead}`)}
      </Typography>
    );
  const { row, mark, more } = opened;
  const { result } = worked;
  const shown = FAMILIES.flatMap((family) =>
    FAMILY_LINES[family].filter((l) => (result.lines[l] ?? 0) !== 0).map((l) => ({ family, l })),
  );
  // Shown lines add up to what is shown as kept.
  const amounts = roundToTotal(
    shown.map(({ l }) => -(result.lines[l] as number)),
    minorDigits(doc.currency),
    result.figures.unitProfit === null || result.figures.gross === null
      ? null
      : round(result.figures.unitProfit, doc.currency) - round(result.figures.gross, doc.currency),
  );
  const profit = result.figures.unitProfit;
  const say = (x: number | null): string => f.money(x, doc.currency);
  const blanks = result.incomplete.unitProfit ?? [];
  const [problem] = result.problems;
  const pack = Math.max(1, row.figures.pack ?? 0);
  const listing = Math.max(1, row.listingPack);
  const link = more.link !== undefined && /^https?:\/\//i.test(more.link) ? more.link : null;
  return (
    <Box component="section" aria-label={row.title || row.code} sx={{ fontSize: '0.86rem' }}>
      <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 1 }}>
        <Typography variant="h2" dir="auto" sx={{ fontSize: '1.1rem', overflowWrap: 'anywhere' }}>
          {row.title || row.code}
        </Typography>
        <IconButton size="small" aria-label={t('list.close')} onClick={onClose} sx={{ ml: 'auto' }}>
          <CloseIcon fontSize="small" />
        </IconButton>
      </Box>
      <Box sx={{ color: 'text.secondary', fontSize: '0.8rem', mb: 1 }}>
        <CopyCode code={row.code} /> {row.brand !== '' && `· ${row.brand} `}
        {row.category !== '' && `· ${row.category} `}· {t('list.inFile', { row: row.line })}
        {link !== null && (
          <>
            {' '}
            ·{' '}
            <a href={link} target="_blank" rel="noreferrer noopener">
              {t('list.openLink')}
            </a>
          </>
        )}
      </Box>
      <Typography
        sx={{
          fontFamily: '"Bricolage Grotesque Variable", sans-serif',
          fontSize: '1.02rem',
          lineHeight: 1.35,
          mb: 1,
        }}>
        {profit === null
          ? problem === undefined
            ? t('answer.incomplete', { blanks: bounds.list(result.blanks) })
            : t(`problem.${problem.code}`, { ...problem })
          : t(profit < 0 ? 'bar.loses' : 'bar.keeps', {
              amount: bounds.of(say(Math.abs(profit)), blanks, profit < 0 ? 'atLeast' : 'atMost'),
              price: say(result.figures.gross),
            })}
        {profit !== null && blanks.length > 0 && (
          <>. {t('answer.incomplete', { blanks: bounds.list(blanks) })}</>
        )}
      </Typography>
      {result.figures.gross !== null && profit !== null && (
        <MarginBar result={result} height={18} breakEven={worked.even} />
      )}
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
      {listed !== null && (
        <Quantities doc={listed} now={doc.orderQuantity} onChoose={(of) => setQuantity({ line, of })} />
      )}
      {(pack > 1 || listing > 1 || mark?.soldPack != null) && (
        <Packs row={row} mark={mark} pack={pack} canEdit={canEdit} onMark={(change) => onMark(row, change)} />
      )}
      {opened.listings.length > 1 ? (
        <Listings
          listings={opened.listings}
          byHand={opened.listingByHand}
          currency={doc.currency}
          canEdit={canEdit}
          onChoose={(listing) => onMark(row, { listing })}
        />
      ) : (
        row.listings > 0 && (
          <Box sx={{ mt: 1, color: 'text.secondary' }}>{t('list.listings', { count: row.listings })}</Box>
        )
      )}
      {Object.entries(more).filter(([k]) => k !== 'link').length > 0 && (
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
          {Object.entries(more)
            .filter(([k]) => k !== 'link')
            .map(([k, v]) => (
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
      )}
      {mark?.state != null && (
        <Alert severity="info" icon={false} sx={{ mt: 1, py: 0 }}>
          {t(`listFlag.${mark.state}`)}
          {mark.reason !== '' && `: ${mark.reason}`}{' '}
          {mark.candidateId !== null && (
            <Link to={`${root}/weigh/${mark.candidateId}`}>{t('list.openCandidate')}</Link>
          )}
        </Alert>
      )}
      {canEdit && (
        <Decide
          key={row.key}
          row={row}
          mark={mark}
          onMark={(change) => onMark(row, change)}
          onKeep={() => onKeep(row, order)}
        />
      )}
    </Box>
  );
}
