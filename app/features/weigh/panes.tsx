import { Box, Button, IconButton, Menu, MenuItem, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import { memo, useRef, useState } from 'react';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useFetcher } from 'react-router';
import { evaluate } from '../../../core/lane/result.ts';
import { highestPurchaseCost, priceFor, priceHeadroom } from '../../../core/lane/solve.ts';
import type { Target } from '../../../core/lane/solve.ts';
import { trial } from '../../../core/lane/trial.ts';
import { proofSteps } from '../../../core/lane/workings.ts';
import { costProof, headroomProof, priceProof } from '../../../core/lane/figureWorkings.ts';
import { launchWorkings } from '../../../core/launch/workings.ts';
import { conversionsOf, minorDigits } from '../../../core/money/money.ts';
import { NumField } from '../../ui/Field.tsx';
import { restsOnDefault } from '../../../core/lane/hurdles.ts';
import { useBounds } from '../../ui/bounds.ts';
import { barExtent, MarginBar } from '../../ui/MarginBar.tsx';
import { hurdleAmount } from '../../ui/figures.ts';
import { floorTo, roundToTotal, useFormat } from '../../ui/locale.ts';
import { RatesUsed } from '../../ui/RatesUsed.tsx';
import { countryName } from '../../ui/names.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { Explain, Figure } from './Workings.tsx';
import { useStore } from './store.ts';
import type { Answers, LaneView } from './useFigures.ts';

function Pane({ title, aside, children }: { title: ReactNode; aside?: ReactNode; children: ReactNode }) {
  return (
    <Box component="section" sx={{ mb: 2.5 }}>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'baseline',
          gap: 1,
          borderBottom: '1px solid',
          borderColor: 'hairline',
          pb: 0.5,
          mb: 0.75,
        }}>
        <Typography variant="h3" component="h2">
          {title}
        </Typography>
        <Box sx={{ fontSize: '0.82rem', color: 'text.secondary', flex: 1 }}>{aside}</Box>
      </Box>
      {children}
    </Box>
  );
}

/** The lanes stacked on one scale in the home currency; choose, add, remove, open a lane document. */
const MOST_SHOWN = 12;

export const LanesPane = memo(function LanesPane({
  views,
  cardHeads,
  chosen,
  onChoose,
  base,
}: {
  views: readonly LaneView[];
  cardHeads: readonly { id: string; kind: string; name: string }[];
  chosen: string | null;
  onChoose: (id: string) => void;
  base: string;
}) {
  const { t } = useTranslation();
  const store = useStore();
  const fetcher = useFetcher<{ error?: string; undo?: unknown }>();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [gone, setGone] = useState<{ row: unknown; name: string } | null>(null);
  const file = useRef<HTMLInputElement>(null);
  // Of many lanes the first stand here, and the chosen one; the rest side by side on their own page.
  const first = views.slice(0, MOST_SHOWN);
  const own = views.find((v) => v.id === chosen);
  const shown = own === undefined || first.includes(own) ? first : [...first, own];
  const scale = Math.max(...shown.map((v) => (v.home === null ? 0 : barExtent(v.home))), 1e-9);
  const home = views[0]?.doc.homeCurrency ?? '';
  const { candidate } = store.get().state;
  const post = (body: Record<string, string>) =>
    void fetcher.submit(body, { method: 'post', action: `${base}/${candidate.id}` });
  const remove = useLatest((view: LaneView, name: string) => {
    setGone({ row: view.state, name });
    post({ intent: 'removeLane', id: view.id });
  });
  return (
    <Pane
      title={t('lanes.title')}
      aside={
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <span>{views.length > 0 ? t('lanes.scale', { currency: home }) : ''}</span>
          {views.length > 0 && (
            <Box
              component={Link}
              to={`${base}/${candidate.id}/compare`}
              sx={{ ml: 'auto', color: 'inherit', display: 'inline-block', minHeight: 24, lineHeight: '24px' }}>
              {t('lanes.compare')}
            </Box>
          )}
          {store.canEdit && (
            <Button
              size="small"
              startIcon={<AddIcon />}
              sx={{ ml: views.length > 0 ? 0 : 'auto', py: 0 }}
              onClick={(e) => setMenu(e.currentTarget)}
              aria-haspopup="menu">
              {t('lanes.add')}
            </Button>
          )}
        </Box>
      }>
      <Menu
        open={menu !== null}
        anchorEl={menu}
        onClose={() => setMenu(null)}
        onClick={() => setMenu(null)}
        slotProps={{ paper: { sx: { maxHeight: 380 } } }}>
        <MenuItem component={Link} to={`${base}/${candidate.id}/add-lanes`}>
          {t('lanes.many')}
        </MenuItem>
        <MenuItem onClick={() => file.current?.click()}>{t('lanes.open')}</MenuItem>
        {cardHeads
          .filter((c) => c.kind === 'marketplace')
          .map((c) => (
            <MenuItem key={c.id} onClick={() => post({ intent: 'addLane', marketplaceCardId: c.id })}>
              {c.name}
            </MenuItem>
          ))}
      </Menu>
      <input
        ref={file}
        type="file"
        accept="application/json,.json"
        hidden
        aria-label={t('lanes.open')}
        onChange={(e) => {
          const chosenFile = e.target.files?.[0];
          if (chosenFile !== undefined)
            void chosenFile.text().then((text) => post({ intent: 'openLane', document: text }));
          e.target.value = '';
        }}
      />
      {fetcher.data?.error && (
        <Typography role="alert" color="error" variant="body2" sx={{ mb: 1 }}>
          {fetcher.data.error}
        </Typography>
      )}
      {gone !== null && (
        <Box role="status" sx={{ fontSize: '0.84rem', mb: 1 }}>
          {t('lanes.removed', { name: gone.name })}{' '}
          <Button
            size="small"
            onClick={() => (post({ intent: 'putLane', row: JSON.stringify(gone.row) }), setGone(null))}>
            {t('undo')}
          </Button>
        </Box>
      )}
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {shown.map((v) => (
          <LaneRow
            key={v.id}
            view={v}
            scale={scale}
            chosen={v.id === chosen}
            onChoose={onChoose}
            removable={store.canEdit && views.length > 1}
            onRemove={remove}
          />
        ))}
      </Box>
      <RatesUsed
        rates={conversionsOf(
          shown.map((v) => v.doc),
          home,
        )}
      />
      {views.length > shown.length && (
        <Box
          component={Link}
          to={`${base}/${candidate.id}/compare`}
          sx={{ display: 'inline-block', fontSize: '0.84rem', color: 'inherit', mt: 0.75 }}>
          {t('lanes.rest', { count: views.length - shown.length })}
        </Box>
      )}
    </Pane>
  );
});

const RemoveLane = memo(function RemoveLane({ name, onRemove }: { name: string; onRemove: () => void }) {
  const { t } = useTranslation();
  return (
    <IconButton size="small" aria-label={t('lanes.remove', { name })} onClick={onRemove}>
      <CloseIcon sx={{ fontSize: 14 }} />
    </IconButton>
  );
});

/** One lane on the scale of its neighbours. */
const LaneRow = memo(function LaneRow({
  view: v,
  scale,
  chosen,
  onChoose,
  removable,
  onRemove,
}: {
  view: LaneView;
  scale: number;
  chosen: boolean;
  onChoose: (id: string) => void;
  removable: boolean;
  onRemove: (view: LaneView, name: string) => void;
}) {
  const { t, i18n } = useTranslation();
  const f = useFormat();
  const profit = v.home?.figures.unitProfit ?? v.result.figures.unitProfit;
  const bounds = useBounds();
  const lacking = v.result.incomplete.unitProfit;
  const name = `${countryName(v.doc.country, i18n.language)} · ${v.doc.marketplace || t('sheet.noMarketplace')}`;
  const remove = useLatest(() => onRemove(v, name));
  return (
    <li className={chosen ? 'lane chosen' : 'lane'}>
      <button type="button" onClick={() => onChoose(v.id)} aria-current={chosen}>
        <span className="lane-where">
          <span>{countryName(v.doc.country, i18n.language)}</span>
          <small>
            {v.doc.marketplace || t('sheet.noMarketplace')} · {f.money(v.doc.price, v.doc.currency)}
          </small>
        </span>
        {v.home === null ? <small>{t('lanes.noRate')}</small> : <MarginBar result={v.home} scale={scale} height={12} />}
        <span className="lane-keeps">
          <b className={profit === null ? 'unknown' : profit < 0 ? 'loses' : ''}>
            {profit === null ? '–' : bounds.of(f.plain(profit, v.home?.currency ?? v.doc.currency), lacking)}
          </b>
          <small>
            {profit === null
              ? t('lanes.unknown')
              : bounds.lacks(lacking)
                ? t('weigh.incomplete', { blanks: bounds.list(lacking ?? []) })
                : `${profit < 0 ? `${t('lanes.losesWord')} · ` : ''}${f.percent(v.result.figures.margin)}`}
          </small>
        </span>
      </button>
      {removable && <RemoveLane name={name} onRemove={remove} />}
    </li>
  );
});

export const HurdlesPane = memo(function HurdlesPane({ view, answers }: { view: LaneView; answers: Answers }) {
  const { t } = useTranslation();
  const f = useFormat();
  const { doc } = view;
  const bounds = useBounds();
  return (
    <Pane title={t('hurdles.title')} aside={t('hurdles.aside', { way: t(`way.${doc.way}`).toLowerCase() })}>
      {answers.hurdles.map(({ result: h, remedy }) => {
        const weight = h.verdict === 'pass' || h.verdict === 'unknown' ? 400 : 680;
        const ways =
          remedy === null
            ? []
            : [
                remedy.price !== null ? t('hurdles.atPrice', { price: f.money(remedy.price, doc.currency) }) : null,
                remedy.unitPrice !== null
                  ? t('hurdles.atQuote', {
                      price: f.money(
                        floorTo(remedy.unitPrice, minorDigits(remedy.unitPriceCurrency)),
                        remedy.unitPriceCurrency,
                      ),
                    })
                  : null,
                remedy.costPerClick !== null
                  ? t('hurdles.atClick', { price: f.money(floorTo(remedy.costPerClick, 2), doc.currency) })
                  : null,
              ].filter((x) => x !== null);
        return (
          <Box
            key={`${h.hurdle.figure}${h.hurdle.bound}`}
            sx={{ display: 'grid', gridTemplateColumns: '64px 1fr', columnGap: 1, py: 0.4, fontSize: '0.88rem' }}>
            <Box
              sx={{
                fontWeight: weight,
                color: h.verdict === 'fail' ? 'error.main' : h.verdict === 'pass' ? 'text.secondary' : 'text.primary',
                fontSize: '0.82rem',
              }}>
              {t(`verdict.${h.verdict}`)}
            </Box>
            <Box>
              {t(`figure.${h.hurdle.figure}`)}{' '}
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {t(`hurdles.${h.hurdle.bound}`, { level: hurdleAmount(h.level, h.hurdle.figure, doc.currency, f) })} ·{' '}
                {t(
                  h.verdict === 'unknown' && restsOnDefault(doc, h.hurdle.figure) ? 'hurdles.isDefault' : 'hurdles.is',
                  {
                    value:
                      h.value === null
                        ? t('lanes.unknown')
                        : bounds.of(
                            hurdleAmount(h.value, h.hurdle.figure, doc.currency, f),
                            view.result.incomplete[h.hurdle.figure],
                          ),
                  },
                )}
              </Box>
              {ways.length > 0 && (
                <Box sx={{ fontSize: '0.82rem' }}>
                  {t('hurdles.clears')} {ways.join(t('hurdles.or'))}
                </Box>
              )}
            </Box>
          </Box>
        );
      })}
    </Pane>
  );
});

/** Break-evens, and what a target would take. */
export const TargetsPane = memo(function TargetsPane({ view, answers }: { view: LaneView; answers: Answers }) {
  const { t } = useTranslation();
  const f = useFormat();
  const { doc, result } = view;
  const bounds = useBounds();
  const [figure, setFigure] = useState<'margin' | 'roi' | 'unitProfit'>('margin');
  const [value, setValue] = useState<number | null>(0.3);
  const target: Target | null = value === null ? null : { figure, value };
  const price = target === null ? null : priceFor(doc, target);
  const cost = target === null ? null : highestPurchaseCost(doc, target);
  const headroom = priceHeadroom(doc.price, answers.breakEven.price);
  const line = (label: string, text: ReactNode, note?: string | null) => (
    <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2, fontSize: '0.88rem', py: 0.2 }}>
      <Box>
        {label}
        {note && (
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {' '}
            {note}
          </Box>
        )}
      </Box>
      <Box sx={{ fontWeight: 600, whiteSpace: 'nowrap' }}>{text}</Box>
    </Box>
  );
  const dips = answers.breakEven.dips
    .map((d) =>
      t(d.to === null ? 'targets.dipOpen' : 'targets.dip', {
        from: f.plain(d.from, doc.currency),
        to: f.plain(d.to, doc.currency),
      }),
    )
    .join(' ');
  const most = answers.mostToPay;
  return (
    <Pane title={t('targets.title')}>
      {line(
        t('targets.breakEvenPrice'),
        <Explain
          label={t('targets.breakEvenPrice')}
          currency={doc.currency}
          steps={() => proofSteps(doc, priceProof(doc, answers.breakEven))}>
          {answers.breakEven.price === null
            ? '–'
            : bounds.of(f.money(answers.breakEven.price, doc.currency), answers.breakEven.incomplete, 'above')}
        </Explain>,
        answers.breakEven.price === null ? t(`unsolved.${answers.breakEven.reason}`) : dips || null,
      )}
      {line(
        t('targets.headroom'),
        <Explain
          label={t('targets.headroom')}
          currency={doc.currency}
          steps={() => proofSteps(doc, headroomProof(doc, answers.breakEven.price))}>
          {headroom === null ? '–' : bounds.of(f.percent(headroom), answers.breakEven.incomplete)}
        </Explain>,
      )}
      {line(
        t('targets.mostToPay'),
        most.unitPrice === null ? (
          '–'
        ) : (
          <Explain
            label={t('targets.mostToPay')}
            currency={doc.currency}
            amountCurrency={most.currency}
            steps={() => proofSteps(doc, costProof(doc, most))}>
            {bounds.of(
              f.money(floorTo(most.unitPrice, minorDigits(most.currency)), most.currency),
              most.incomplete,
              'lessThan',
            )}
          </Explain>
        ),
        most.reason === null ? null : t(`unsolved.${most.reason}`),
      )}
      {line(
        t('targets.highestCpc'),
        <Figure doc={doc} of="highestCpc" label={t('targets.highestCpc')}>
          {result.figures.highestCpc === null
            ? '–'
            : bounds.of(f.money(floorTo(result.figures.highestCpc, 2), doc.currency), result.incomplete.highestCpc)}
        </Figure>,
        t('targets.perAdSale'),
      )}
      {line(
        t('targets.lowestConversion'),
        <Figure doc={doc} of="lowestConversion" label={t('targets.lowestConversion')}>
          {result.figures.lowestConversion === null
            ? '–'
            : bounds.of(f.percent(result.figures.lowestConversion), result.incomplete.lowestConversion, 'atLeast')}
        </Figure>,
        t('targets.perAdSale'),
      )}
      <Box sx={{ display: 'flex', alignItems: 'flex-end', gap: 1.5, mt: 1, flexWrap: 'wrap' }}>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={figure}
          onChange={(_, v: typeof figure | null) =>
            v !== null && (setFigure(v), setValue(v === 'unitProfit' ? 5 : v === 'roi' ? 0.6 : 0.3))
          }
          aria-label={t('targets.which')}
          sx={{
            '& .MuiToggleButton-root': {
              py: 0.4,
              px: 1,
              textTransform: 'none',
              color: 'text.primary',
              fontWeight: 400,
            },
            '& .Mui-selected': { fontWeight: '700 !important' },
          }}>
          {(['margin', 'roi', 'unitProfit'] as const).map((x) => (
            <ToggleButton key={x} value={x}>
              {t(`figure.${x}`)}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <NumField
          label={t('targets.want')}
          value={value}
          onChange={setValue}
          kind={figure === 'unitProfit' ? 'money' : 'percent'}
          currency={doc.currency}
          min={figure === 'unitProfit' ? -1e12 : -1}
          max={figure === 'unitProfit' ? 1e12 : 100}
          width={110}
        />
        <Box sx={{ fontSize: '0.88rem', flex: 1, minWidth: 180 }} data-testid="target-answer">
          {price === null || cost === null
            ? ''
            : [
                price.price === null
                  ? t(`targets.unsolved.price.${price.reason}`)
                  : t('targets.takesPrice', {
                      price: bounds.of(f.money(price.price, doc.currency), price.incomplete, 'above'),
                    }),
                cost.unitPrice === null
                  ? t(`targets.unsolved.cost.${cost.reason}`)
                  : t('targets.takesCost', {
                      cost: bounds.of(
                        f.money(floorTo(cost.unitPrice, minorDigits(cost.currency)), cost.currency),
                        cost.incomplete,
                        'lessThan',
                      ),
                    }),
              ].join(' ')}
        </Box>
      </Box>
    </Pane>
  );
});

export const LaunchPane = memo(function LaunchPane({
  view,
  answers,
  base,
  candidateId,
}: {
  view: LaneView;
  answers: Answers;
  base: string;
  candidateId: string;
}) {
  const { t } = useTranslation();
  const f = useFormat();
  const bounds = useBounds();
  const l = answers.launch;
  const b = l.budget;
  const c = l.currency;
  const plan = answers.plan;
  const keys = ['goods', 'oneOffs', 'advertising', 'discounts', 'contingency'] as const;
  const shown =
    b === null
      ? []
      : roundToTotal(
          keys.map((k) => b.lines[k]),
          minorDigits(c),
        );
  return (
    <Pane
      title={t('launch.title')}
      aside={
        <Box
          component={Link}
          to={`${base.replace(/\/weigh$/, '/fund')}?candidate=${candidateId}&lane=${view.id}`}
          sx={{ color: 'inherit', display: 'inline-block', minHeight: 24, lineHeight: '24px' }}>
          {t('launch.more')}
        </Box>
      }>
      {b === null ? (
        <Typography variant="body2">{t('launch.noQuantity')}</Typography>
      ) : (
        <Box sx={{ fontSize: '0.88rem' }}>
          {keys.map((k, i) => (
            <Box key={k} sx={{ display: 'flex', justifyContent: 'space-between', py: 0.15 }}>
              <span>{t(`launch.${k}`, { quantity: f.number(b.quantity) })}</span>
              <span>{f.plain(shown[i] ?? null, c)}</span>
            </Box>
          ))}
          <Box
            sx={{
              display: 'flex',
              justifyContent: 'space-between',
              fontWeight: 680,
              borderTop: '1px solid',
              borderColor: 'text.primary',
              mt: 0.5,
              pt: 0.25,
            }}
            data-testid="launch-total">
            <span>{t('launch.total')}</span>
            <Explain label={t('launch.total')} currency={c} steps={() => launchWorkings(l, plan).total ?? []}>
              {b.total === null ? '–' : bounds.of(f.money(b.total, c), l.incomplete, 'atLeast')}
            </Explain>
          </Box>
          {b.leftOfCash !== null && (
            <Box sx={{ color: b.leftOfCash < 0 ? 'error.main' : 'text.secondary' }}>
              {t(b.leftOfCash < 0 ? 'launch.short' : 'launch.left', {
                amount: bounds.of(
                  f.money(Math.abs(b.leftOfCash), c),
                  l.incomplete,
                  b.leftOfCash < 0 ? 'atLeast' : 'atMost',
                ),
              })}
            </Box>
          )}
          {l.incomplete.length > 0 && (
            <Box sx={{ color: 'text.secondary' }}>{t('launch.incomplete', { blanks: bounds.list(l.incomplete) })}</Box>
          )}
        </Box>
      )}
    </Pane>
  );
});

const TRIALS = [
  ['worst', -0.1, 0.1],
  ['expected', 0, 0],
  ['best', 0.1, -0.1],
] as const;

/** Worst, expected and best of price and cost, side by side. */
export const TrialsPane = memo(function TrialsPane({ view }: { view: LaneView }) {
  const { t } = useTranslation();
  const f = useFormat();
  const bounds = useBounds();
  const [spread, setSpread] = useState<number | null>(0.1);
  const { doc } = view;
  const s = (spread ?? 0) / 0.1;
  return (
    <Pane title={t('trials.title')}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end' }}>
        <NumField label={t('trials.spread')} value={spread} onChange={setSpread} kind="percent" max={0.9} width={120} />
        <Box
          component="table"
          sx={{
            flex: 1,
            borderCollapse: 'collapse',
            fontSize: '0.86rem',
            '& th, & td': { textAlign: 'right', py: 0.3, fontWeight: 500 },
            '& th:first-of-type': { textAlign: 'left' },
          }}>
          <thead>
            <tr>
              <th scope="col">
                <span className="hidden-text">{t('trials.case')}</span>
              </th>
              <th scope="col">{t('form.price')}</th>
              <th scope="col">{t('trials.cost')}</th>
              <th scope="col">{t('figure.unitProfit')}</th>
              <th scope="col">{t('figure.margin')}</th>
            </tr>
          </thead>
          <tbody>
            {TRIALS.map(([name, price, cost]) => {
              const at = trial(doc, view.result.figures.expectedMonthlyUnits, 1 + price * s, 1 + cost * s);
              const r = evaluate(at);
              const profit = r.figures.unitProfit;
              return (
                <tr key={name}>
                  <th scope="row">{t(`trials.${name}`)}</th>
                  <td>{f.plain(at.price, doc.currency)}</td>
                  <td>
                    {cost * s > 0 ? '+' : ''}
                    {f.percent(cost * s, 0)}
                  </td>
                  <Box
                    component="td"
                    sx={{
                      color: profit !== null && profit < 0 ? 'error.main' : 'primary.main',
                      fontWeight: '680 !important',
                    }}>
                    {profit === null ? '–' : bounds.of(f.plain(profit, doc.currency), r.incomplete.unitProfit)}
                  </Box>
                  <td>
                    {r.figures.margin === null ? '–' : bounds.of(f.percent(r.figures.margin), r.incomplete.margin)}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Box>
      </Box>
    </Pane>
  );
});
