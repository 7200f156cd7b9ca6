import { Box, Button, IconButton, Menu, MenuItem, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import { useRef, useState } from 'react';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useFetcher } from 'react-router';
import { evaluate } from '../../../core/lane/result.ts';
import { highestPurchaseCost, priceFor, priceHeadroom } from '../../../core/lane/solve.ts';
import type { Target } from '../../../core/lane/solve.ts';
import { trial } from '../../../core/lane/trial.ts';
import { proofSteps } from '../../../core/lane/workings.ts';
import { costProof, priceProof } from '../../../core/lane/figureWorkings.ts';
import { launchWorkings } from '../../../core/launch/workings.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { NumField } from '../../ui/Field.tsx';
import { barExtent, MarginBar } from '../../ui/MarginBar.tsx';
import { hurdleAmount } from '../../ui/figures.ts';
import { floorTo, roundToTotal, useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { Explain, Figure } from './Workings.tsx';
import { useStore } from './store.ts';
import type { Answers, LaneView } from './useFigures.ts';

function Pane({ title, aside, children }: { title: ReactNode; aside?: ReactNode; children: ReactNode }) {
  return (
    <Box component="section" sx={{ mb: 2.5 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1, borderBottom: '1px solid', borderColor: 'hairline', pb: 0.5, mb: 0.75 }}>
        <Typography variant="h3" component="h2">{title}</Typography>
        <Box sx={{ fontSize: '0.82rem', color: 'text.secondary', flex: 1 }}>{aside}</Box>
      </Box>
      {children}
    </Box>
  );
}

/** The lanes stacked on one scale in the home currency; choose, add, remove, open a lane document. */
export function LanesPane({ views, cardHeads, chosen, onChoose, base }: { views: readonly LaneView[]; cardHeads: readonly { id: string; kind: string; name: string }[]; chosen: string | null; onChoose: (id: string) => void; base: string }) {
  const { t, i18n } = useTranslation();
  const f = useFormat();
  const store = useStore();
  const fetcher = useFetcher<{ error?: string; undo?: unknown }>();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [gone, setGone] = useState<{ row: unknown; name: string } | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const scale = Math.max(...views.map((v) => (v.home === null ? 0 : barExtent(v.home))), 1e-9);
  const home = views[0]?.doc.homeCurrency ?? '';
  const { candidate } = store.get().state;
  const post = (body: Record<string, string>) => void fetcher.submit(body, { method: 'post', action: `${base}/${candidate.id}` });
  return (
    <Pane
      title={t('lanes.title')}
      aside={
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <span>{views.length > 0 ? t('lanes.scale', { currency: home }) : ''}</span>
          {store.canEdit && <Button size="small" startIcon={<AddIcon />} sx={{ ml: 'auto', py: 0 }} onClick={(e) => setMenu(e.currentTarget)} aria-haspopup="menu">{t('lanes.add')}</Button>}
        </Box>
      }
    >
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)} onClick={() => setMenu(null)} slotProps={{ paper: { sx: { maxHeight: 380 } } }}>
        <MenuItem onClick={() => file.current?.click()}>{t('lanes.open')}</MenuItem>
        {cardHeads.filter((c) => c.kind === 'marketplace').map((c) => (
          <MenuItem key={c.id} onClick={() => post({ intent: 'addLane', marketplaceCardId: c.id })}>{c.name}</MenuItem>
        ))}
      </Menu>
      <input
        ref={file} type="file" accept="application/json,.json" hidden aria-label={t('lanes.open')}
        onChange={(e) => {
          const chosenFile = e.target.files?.[0];
          if (chosenFile !== undefined) void chosenFile.text().then((text) => post({ intent: 'openLane', document: text }));
          e.target.value = '';
        }}
      />
      {fetcher.data?.error && <Typography role="alert" color="error" variant="body2" sx={{ mb: 1 }}>{fetcher.data.error}</Typography>}
      {gone !== null && (
        <Box role="status" sx={{ fontSize: '0.84rem', mb: 1 }}>
          {t('lanes.removed', { name: gone.name })} <Button size="small" onClick={() => (post({ intent: 'putLane', row: JSON.stringify(gone.row) }), setGone(null))}>{t('undo')}</Button>
        </Box>
      )}
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {views.map((v) => {
          const profit = v.home?.figures.unitProfit ?? v.result.figures.unitProfit;
          const incomplete = (v.result.incomplete.unitProfit?.length ?? 0) > 0;
          const name = `${countryName(v.doc.country, i18n.language)} · ${v.doc.marketplace || t('sheet.noMarketplace')}`;
          return (
            <Box component="li" key={v.id} sx={{ display: 'flex', alignItems: 'center', bgcolor: v.id === chosen ? 'paperTint' : 'transparent', mx: -1, px: 1, borderRadius: 1 }}>
              <Box component="button" type="button" onClick={() => onChoose(v.id)} aria-current={v.id === chosen} sx={{ flex: 1, minWidth: 0, display: 'grid', gridTemplateColumns: { xs: '104px 1fr 74px', sm: '124px 1fr 82px' }, gap: 1.25, alignItems: 'center', border: 0, bgcolor: 'transparent', color: 'inherit', font: 'inherit', textAlign: 'left', cursor: 'pointer', py: 0.5, px: 0 }}>
                <Box sx={{ lineHeight: 1.25, minWidth: 0 }}>
                  <Box sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap', fontSize: '0.88rem' }}>{countryName(v.doc.country, i18n.language)}</Box>
                  <Box sx={{ fontSize: '0.76rem', color: 'text.secondary', overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{v.doc.marketplace || t('sheet.noMarketplace')} · {f.money(v.doc.price, v.doc.currency)}</Box>
                </Box>
                {v.home === null ? <Box sx={{ fontSize: '0.8rem' }}>{t('lanes.noRate')}</Box> : <MarginBar result={v.home} scale={scale} height={12} />}
                <Box sx={{ textAlign: 'right', lineHeight: 1.25 }}>
                  <Box sx={{ fontWeight: 650, color: profit === null ? 'text.secondary' : profit < 0 ? 'error.main' : 'primary.main' }}>{profit === null ? '–' : f.plain(profit, v.home?.currency ?? v.doc.currency)}</Box>
                  <Box sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>{profit === null ? t('lanes.unknown') : incomplete ? t('sheet.incompleteWord') : `${profit < 0 ? `${t('lanes.losesWord')} · ` : ''}${f.percent(v.result.figures.margin)}`}</Box>
                </Box>
              </Box>
              {store.canEdit && views.length > 1 && (
                <IconButton size="small" aria-label={t('lanes.remove', { name })} onClick={() => {
                  setGone({ row: v.state, name });
                  post({ intent: 'removeLane', id: v.id });
                }}><CloseIcon sx={{ fontSize: 14 }} /></IconButton>
              )}
            </Box>
          );
        })}
      </Box>
    </Pane>
  );
}

export function HurdlesPane({ view, answers }: { view: LaneView; answers: Answers }) {
  const { t } = useTranslation();
  const f = useFormat();
  const { doc } = view;
  return (
    <Pane title={t('hurdles.title')} aside={t('hurdles.aside', { way: t(`way.${doc.way}`).toLowerCase() })}>
      {answers.hurdles.map(({ result: h, remedy }) => {
        const weight = h.verdict === 'pass' || h.verdict === 'unknown' ? 400 : 680;
        const ways = remedy === null ? [] : [
          remedy.price !== null ? t('hurdles.atPrice', { price: f.money(remedy.price, doc.currency) }) : null,
          remedy.unitPrice !== null ? t('hurdles.atQuote', { price: f.money(floorTo(remedy.unitPrice, minorDigits(remedy.unitPriceCurrency)), remedy.unitPriceCurrency) }) : null,
          remedy.costPerClick !== null ? t('hurdles.atClick', { price: f.money(floorTo(remedy.costPerClick, 2), doc.currency) }) : null,
        ].filter((x) => x !== null);
        return (
          <Box key={`${h.hurdle.figure}${h.hurdle.bound}`} sx={{ display: 'grid', gridTemplateColumns: '64px 1fr', columnGap: 1, py: 0.4, fontSize: '0.88rem' }}>
            <Box sx={{ fontWeight: weight, color: h.verdict === 'fail' ? 'error.main' : h.verdict === 'pass' ? 'text.secondary' : 'text.primary', fontSize: '0.82rem' }}>{t(`verdict.${h.verdict}`)}</Box>
            <Box>
              {t(`figure.${h.hurdle.figure}`)} <Box component="span" sx={{ color: 'text.secondary' }}>{t(`hurdles.${h.hurdle.bound}`, { level: hurdleAmount(h.level, h.hurdle.figure, doc.currency, f) })} · {t('hurdles.is', { value: hurdleAmount(h.value, h.hurdle.figure, doc.currency, f) })}</Box>
              {ways.length > 0 && <Box sx={{ fontSize: '0.82rem' }}>{t('hurdles.clears')} {ways.join(t('hurdles.or'))}</Box>}
            </Box>
          </Box>
        );
      })}
    </Pane>
  );
}

/** Break-evens, and what a target would take. */
export function TargetsPane({ view, answers }: { view: LaneView; answers: Answers }) {
  const { t } = useTranslation();
  const f = useFormat();
  const { doc, result } = view;
  const [figure, setFigure] = useState<'margin' | 'roi' | 'unitProfit'>('margin');
  const [value, setValue] = useState<number | null>(0.3);
  const target: Target | null = value === null ? null : { figure, value };
  const price = target === null ? null : priceFor(doc, target);
  const cost = target === null ? null : highestPurchaseCost(doc, target);
  const headroom = priceHeadroom(doc.price, answers.breakEven.price);
  const line = (label: string, text: ReactNode, note?: string | null) => (
    <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2, fontSize: '0.88rem', py: 0.2 }}>
      <Box>{label}{note && <Box component="span" sx={{ color: 'text.secondary' }}> {note}</Box>}</Box>
      <Box sx={{ fontWeight: 600, whiteSpace: 'nowrap' }}>{text}</Box>
    </Box>
  );
  const dips = answers.breakEven.dips.map((d) => t(d.to === null ? 'targets.dipOpen' : 'targets.dip', { from: f.plain(d.from, doc.currency), to: f.plain(d.to, doc.currency) })).join(' ');
  const most = answers.mostToPay;
  return (
    <Pane title={t('targets.title')}>
      {line(t('targets.breakEvenPrice'), <Explain label={t('targets.breakEvenPrice')} currency={doc.currency} steps={() => proofSteps(doc, priceProof(doc, answers.breakEven))}>{f.money(answers.breakEven.price, doc.currency)}</Explain>, answers.breakEven.price === null ? t(`unsolved.${answers.breakEven.reason}`) : dips || null)}
      {line(t('targets.headroom'), f.percent(headroom))}
      {line(t('targets.mostToPay'), most.unitPrice === null ? '–' : <Explain label={t('targets.mostToPay')} currency={doc.currency} amountCurrency={most.currency} steps={() => proofSteps(doc, costProof(doc, most))}>{f.money(floorTo(most.unitPrice, minorDigits(most.currency)), most.currency)}</Explain>, most.reason === null ? null : t(`unsolved.${most.reason}`))}
      {line(t('targets.highestCpc'), <Figure doc={doc} of="highestCpc" label={t('targets.highestCpc')}>{f.money(result.figures.highestCpc === null ? null : floorTo(result.figures.highestCpc, 2), doc.currency)}</Figure>, t('targets.perAdSale'))}
      {line(t('targets.lowestConversion'), <Figure doc={doc} of="lowestConversion" label={t('targets.lowestConversion')}>{f.percent(result.figures.lowestConversion)}</Figure>, t('targets.perAdSale'))}
      <Box sx={{ display: 'flex', alignItems: 'flex-end', gap: 1.5, mt: 1, flexWrap: 'wrap' }}>
        <ToggleButtonGroup exclusive size="small" value={figure} onChange={(_, v: typeof figure | null) => v !== null && (setFigure(v), setValue(v === 'unitProfit' ? 5 : v === 'roi' ? 0.6 : 0.3))} aria-label={t('targets.which')} sx={{ '& .MuiToggleButton-root': { py: 0.4, px: 1, textTransform: 'none', color: 'text.primary', fontWeight: 400 }, '& .Mui-selected': { fontWeight: '700 !important' } }}>
          {(['margin', 'roi', 'unitProfit'] as const).map((x) => <ToggleButton key={x} value={x}>{t(`figure.${x}`)}</ToggleButton>)}
        </ToggleButtonGroup>
        <NumField label={t('targets.want')} value={value} onChange={setValue} kind={figure === 'unitProfit' ? 'money' : 'percent'} currency={doc.currency} min={figure === 'unitProfit' ? -1e12 : -1} max={figure === 'unitProfit' ? 1e12 : 100} width={110} />
        <Box sx={{ fontSize: '0.88rem', flex: 1, minWidth: 180 }} data-testid="target-answer">
          {price === null || cost === null ? '' : t('targets.takes', {
            price: price.price === null ? t(`unsolved.${price.reason}`) : f.money(price.price, doc.currency),
            cost: cost.unitPrice === null ? t(`unsolved.${cost.reason}`) : f.money(floorTo(cost.unitPrice, minorDigits(cost.currency)), cost.currency),
          })}
        </Box>
      </Box>
    </Pane>
  );
}

export function LaunchPane({ view, answers, base, candidateId }: { view: LaneView; answers: Answers; base: string; candidateId: string }) {
  const { t } = useTranslation();
  const f = useFormat();
  const l = answers.launch;
  const b = l.budget;
  const c = l.currency;
  const plan = answers.plan;
  const keys = ['goods', 'oneOffs', 'advertising', 'discounts', 'contingency'] as const;
  const shown = b === null ? [] : roundToTotal(keys.map((k) => b.lines[k]), minorDigits(c));
  return (
    <Pane title={t('launch.title')} aside={<Box component={Link} to={`${base.replace(/\/weigh$/, '/fund')}?candidate=${candidateId}&lane=${view.id}`} sx={{ color: 'inherit', display: 'inline-block', minHeight: 24, lineHeight: '24px' }}>{t('launch.more')}</Box>}>
      {b === null ? (
        <Typography variant="body2">{t('launch.noQuantity')}</Typography>
      ) : (
        <Box sx={{ fontSize: '0.88rem' }}>
          {keys.map((k, i) => (
            <Box key={k} sx={{ display: 'flex', justifyContent: 'space-between', py: 0.15 }}><span>{t(`launch.${k}`, { quantity: f.number(b.quantity) })}</span><span>{f.plain(shown[i] ?? null, c)}</span></Box>
          ))}
          <Box sx={{ display: 'flex', justifyContent: 'space-between', fontWeight: 680, borderTop: '1px solid', borderColor: 'text.primary', mt: 0.5, pt: 0.25 }} data-testid="launch-total"><span>{t('launch.total')}</span><Explain label={t('launch.total')} currency={c} steps={() => launchWorkings(l, plan).total ?? []}>{f.money(b.total, c)}</Explain></Box>
          {b.leftOfCash !== null && <Box sx={{ color: b.leftOfCash < 0 ? 'error.main' : 'text.secondary' }}>{t(b.leftOfCash < 0 ? 'launch.short' : 'launch.left', { amount: f.money(Math.abs(b.leftOfCash), c) })}</Box>}
          {l.incomplete.length > 0 && <Box sx={{ color: 'text.secondary' }}>{t('launch.incomplete', { blanks: l.incomplete.map((x) => t(`blank.${x}`, { defaultValue: x })).join(', ') })}</Box>}
        </Box>
      )}
    </Pane>
  );
}

const TRIALS = [['worst', -0.1, 0.1], ['expected', 0, 0], ['best', 0.1, -0.1]] as const;

/** Worst, expected and best of price and cost, side by side. */
export function TrialsPane({ view }: { view: LaneView }) {
  const { t } = useTranslation();
  const f = useFormat();
  const [spread, setSpread] = useState<number | null>(0.1);
  const { doc } = view;
  const s = (spread ?? 0) / 0.1;
  return (
    <Pane title={t('trials.title')}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end' }}>
        <NumField label={t('trials.spread')} value={spread} onChange={setSpread} kind="percent" max={0.9} width={120} />
        <Box component="table" sx={{ flex: 1, borderCollapse: 'collapse', fontSize: '0.86rem', '& th, & td': { textAlign: 'right', py: 0.3, fontWeight: 500 }, '& th:first-of-type': { textAlign: 'left' } }}>
          <thead><tr><th scope="col"><span hidden>{t('trials.case')}</span></th><th scope="col">{t('form.price')}</th><th scope="col">{t('trials.cost')}</th><th scope="col">{t('figure.unitProfit')}</th><th scope="col">{t('figure.margin')}</th></tr></thead>
          <tbody>
            {TRIALS.map(([name, price, cost]) => {
              const at = trial(doc, 1 + price * s, 1 + cost * s);
              const r = evaluate(at);
              const profit = r.figures.unitProfit;
              return (
                <tr key={name}>
                  <th scope="row">{t(`trials.${name}`)}</th>
                  <td>{f.plain(at.price, doc.currency)}</td>
                  <td>{cost * s > 0 ? '+' : ''}{f.percent(cost * s, 0)}</td>
                  <Box component="td" sx={{ color: profit !== null && profit < 0 ? 'error.main' : 'primary.main', fontWeight: '680 !important' }}>{f.plain(profit, doc.currency)}</Box>
                  <td>{f.percent(r.figures.margin)}</td>
                </tr>
              );
            })}
          </tbody>
        </Box>
      </Box>
    </Pane>
  );
}
