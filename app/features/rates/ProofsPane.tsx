/** Proofs of a card: what was really charged, whether the card says so, and what would have to be otherwise. */
import { Alert, Box, Button, IconButton, Typography } from '@mui/material';
import CloseIcon from '@mui/icons-material/Close';
import { useMemo, useState } from 'react';
import { useFetcher } from 'react-router';
import type { MarketplaceCard, TaxCard } from '../../../core/cards/rates.ts';
import type { CardData } from '../../../core/cards/schema.ts';
import { draftOf } from '../../../core/cards/tables.ts';
import type { Trier } from '../../../core/compare/tryItem.ts';
import { holdAll } from '../../../core/proofs/check.ts';
import type { Held } from '../../../core/proofs/check.ts';
import { mended, mendsFor, rowOfFee } from '../../../core/proofs/mends.ts';
import type { Mend } from '../../../core/proofs/mends.ts';
import { proofOfLine, proofsOfRows, rowsOfProofs } from '../../../core/proofs/rows.ts';
import type { Proof } from '../../../core/proofs/schema.ts';
import { dayAfter } from '../../../core/money/days.ts';
import { rowsOfText } from '../../../core/schedules/given.ts';
import { inWords } from '../../../words/index.ts';
import { TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { meetsSaid } from './scheduleWords.ts';
import { useWords } from '../../ui/useWords.ts';

/** More than these are not listed; all of them count. */
const SHOWN = 60;
export type Kept = { readonly id: string; readonly proof: Proof };
type Props = {
  card: MarketplaceCard;
  tax: TaxCard | null;
  by: Trier;
  proofs: readonly Kept[];
  /** null: one may only look. */
  onAdd: ((proofs: readonly Proof[]) => void) | null;
  onDrop: (id: string) => void;
  /** Writes a mend down; absent: it is only shown. */
  onMend?: (mend: Mend) => void;
};

export function ProofsPane({ card, tax, by, proofs, onAdd, onDrop, onMend }: Props) {
  const { t } = useWords();
  const all = useMemo(() => proofs.map((p) => p.proof), [proofs]);
  const held = useMemo(() => holdAll(card, tax, by, all), [card, tax, by, all]);
  const mends = useMemo(
    () => (held.fails === 0 ? [] : mendsFor(card, tax, by, all).filter((m) => m.mends > 0)),
    [card, tax, by, all, held.fails],
  );
  return (
    <Box
      component="section"
      aria-label={t('proofs.title')}
      sx={{ bgcolor: 'paperTint', p: 2, borderRadius: 1, alignSelf: 'start', fontSize: '0.88rem' }}>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        {t('proofs.title')}{' '}
        <Typography component="span" variant="body2" color="text.secondary">
          {t('proofs.what')}
        </Typography>
      </Typography>
      {proofs.length === 0 ? (
        <Typography variant="body2" color="text.secondary">
          {t('proofs.none')}
        </Typography>
      ) : (
        <Typography variant="body2" role="status" sx={{ mb: 0.5 }}>
          {meetsSaid(t, held)}
        </Typography>
      )}
      {proofs.slice(0, SHOWN).map((p, i) => (
        <ProofLine
          key={p.id}
          proof={p.proof}
          held={held.held[i] as Held}
          card={card}
          onDrop={onAdd === null ? null : () => onDrop(p.id)}
        />
      ))}
      <Mends mends={mends} card={card} onMend={onMend} />
      {onAdd !== null && <AddProof card={card} onAdd={onAdd} />}
      {proofs.length > 0 && (
        <TableFile
          table={() => {
            const [heads = [], ...rows] = rowsOfProofs(all);
            return {
              name: `${card.name} ${t('proofs.title')}`,
              columns: heads.map((title) => ({ title })),
              rows,
            };
          }}
        />
      )}
    </Box>
  );
}

/** What a draft breaks: proofs that the version before meets and it does not. Nothing where it breaks none. */
export function Broken({
  before,
  after,
  tax,
  by,
  proofs,
}: {
  before: CardData;
  after: CardData;
  tax: TaxCard | null;
  by: Trier;
  proofs: readonly Kept[];
}) {
  const { t } = useWords();
  const broken = useMemo(() => {
    const all = proofs.map((p) => p.proof);
    const was = holdAll(before as MarketplaceCard, tax, by, all).held;
    const is = holdAll(after as MarketplaceCard, tax, by, all).held;
    return was.filter((h, i) => h.state === 'met' && is[i]?.state !== 'met').length;
  }, [before, after, tax, by, proofs]);
  return broken === 0 ? null : (
    <Alert severity="warning" sx={{ mb: 1 }}>
      {t('proofs.broken', { count: broken })}
    </Alert>
  );
}

/** The proofs of a card in force, which are kept as they come. */
export function ProofsOfCard({
  cardId,
  cardKey,
  canEdit,
  readUrl,
  ...pane
}: Omit<Props, 'onAdd' | 'onDrop'> & {
  /** The version that is shown. */
  cardId: string;
  cardKey: string;
  canEdit: boolean;
  /** Where proofs are kept. */
  readUrl: string;
}) {
  const fetcher = useFetcher<{ error?: string }>();
  const send = (body: object): void =>
    void fetcher.submit(body as never, { method: 'post', action: readUrl, encType: 'application/json' });
  return (
    <Box>
      <ProofsPane
        {...pane}
        onAdd={canEdit ? (proofs) => send({ intent: 'addProofs', key: cardKey, proofs }) : null}
        onDrop={(id) => send({ intent: 'dropProofs', ids: [id] })}
        {...(canEdit ? { onMend: (m: Mend) => send(draftWith(pane.card, m, cardId, pane.by.today)) } : {})}
      />
      {fetcher.data?.error && <Alert severity="error">{fetcher.data.error}</Alert>}
    </Box>
  );
}

/** The draft of a card's next version with one value mended, in force from the first day it may be. */
function draftWith(card: MarketplaceCard, mend: Mend, basedOn: string, today: string): object {
  const inForceFrom = dayAfter(card.inForceFrom > today ? card.inForceFrom : today);
  const cells = draftOf('marketplace', { ...mended(card, mend), inForceFrom });
  return { intent: 'draft', kind: 'marketplace', cells, basedOn, standing: null, choices: {}, proofs: [] };
}

function useItemWords(): (p: Proof, currency: string) => string {
  const { t } = useWords();
  const f = useFormat();
  return (p, currency) => {
    const parts = [
      p.sides === null ? null : `${p.sides.map((s) => f.number(s, 1)).join(' × ')} cm`,
      p.kg === null ? null : `${f.number(p.kg, 3)} kg`,
      p.category === '' ? null : p.category,
      p.price === null ? null : f.money(p.price, currency),
    ].filter((x) => x !== null);
    return parts.length === 0 ? t('proofs.noItem') : parts.join(', ');
  };
}

function ProofLine({
  proof,
  held,
  card,
  onDrop,
}: {
  proof: Proof;
  held: Held;
  card: MarketplaceCard;
  onDrop: (() => void) | null;
}) {
  const { t } = useWords();
  const f = useFormat();
  const item = useItemWords();
  const { currency } = card;
  return (
    <Box sx={{ py: 0.5, borderBottom: '1px solid', borderColor: 'hairline' }}>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <span dir="auto">{item(proof, currency)}</span>
          <Box component="span" sx={{ display: 'block', fontSize: '0.76rem', color: 'text.secondary' }}>
            {[proof.date === null ? '' : f.day(proof.date), proof.note].filter(Boolean).join(' · ')}
          </Box>
        </Box>
        <Box sx={{ textAlign: 'right' }}>
          {held.fees.map((fee) => (
            <Box key={fee.fee}>
              {held.fees.length > 1 || fee.fee !== 'fulfilment' ? `${t(`proofs.fee.${fee.fee}`)} ` : ''}
              <b>{f.plain(fee.charged, currency)}</b>{' '}
              {fee.says === null ? (
                <Box component="span" sx={{ color: 'text.secondary' }}>
                  {t('proofs.cannot')}
                </Box>
              ) : fee.meets ? (
                t('proofs.met')
              ) : (
                <Box component="b" sx={{ color: 'error.main' }}>
                  {t('proofs.says', { amount: f.plain(fee.says, currency) })}
                </Box>
              )}
            </Box>
          ))}
        </Box>
        {onDrop !== null && (
          <IconButton
            size="small"
            aria-label={t('proofs.drop')}
            onClick={onDrop}
            sx={{ alignSelf: 'center' }}>
            <CloseIcon fontSize="inherit" />
          </IconButton>
        )}
      </Box>
      {held.state === 'fails' && <WhyFails proof={proof} held={held} card={card} />}
    </Box>
  );
}

/** By how much, and which row of the card decided. */
function WhyFails({ proof, held, card }: { proof: Proof; held: Held; card: MarketplaceCard }) {
  const { t } = useWords();
  const f = useFormat();
  const wrong = held.fees.filter((x) => x.says !== null && !x.meets);
  const row = wrong.some((x) => x.fee === 'fulfilment') ? rowOfFee(card, proof) : null;
  const off = wrong.map((x) => {
    const by = (x.says as number) - x.charged;
    return t(by > 0 ? 'proofs.tooMuch' : 'proofs.tooLittle', {
      amount: f.plain(Math.abs(by), card.currency),
    });
  });
  const where =
    row === null
      ? []
      : [
          t(row.byVolume ? 'proofs.byVolume' : 'proofs.counted', {
            tier: row.tier.name,
            kg: f.number(row.kg, 3),
          }),
        ];
  return (
    <Box component="span" sx={{ display: 'block', fontSize: '0.8rem' }}>
      {[...off, ...where].join('. ')}
    </Box>
  );
}

/** The rows that would have to be otherwise, with what else that changes. */
function Mends({
  mends,
  card,
  onMend,
}: {
  mends: readonly Mend[];
  card: MarketplaceCard;
  onMend: ((mend: Mend) => void) | undefined;
}) {
  const { t } = useWords();
  const f = useFormat();
  if (mends.length === 0) return null;
  const said = ({ at, from, to }: Mend): string => {
    const money = (x: number | null): string => f.plain(x, card.currency);
    const name = (key: string): string => card.categories.find((c) => c.key === key)?.name ?? key;
    switch (at.of) {
      case 'step':
        return t('proofs.mend.step', {
          tier: at.tier,
          kg: f.number(at.upToKg, 3),
          from: money(from),
          to: money(to),
        });
      case 'divisor':
        return t('proofs.mend.divisor', { tier: at.tier, from: f.number(from, 0), to: f.number(to, 0) });
      case 'percent':
        return t('proofs.mend.percent', {
          category: name(at.category),
          from: f.percent(from, 2),
          to: f.percent(to, 2),
        });
      case 'itemFee':
        return t('proofs.mend.itemFee', { category: name(at.category), from: money(from), to: money(to) });
      case 'mode':
        return t(`proofs.mend.${at.mode}`, { category: name(at.category) });
      case 'addition':
        return t('proofs.mend.addition', { tier: at.tier, to: money(to) });
    }
  };
  return (
    <Box sx={{ mt: 1.25 }}>
      <b>{t('proofs.mends')}</b>
      {mends.slice(0, 4).map((m) => (
        <Box key={JSON.stringify([m.at, m.to])} sx={{ mt: 0.5 }}>
          {said(m)}:{' '}
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {t('proofs.mendMeets', { count: m.mends })},{' '}
            {m.breaks === 0 ? t('proofs.breaksNone') : t('proofs.mendBreaks', { count: m.breaks })}
          </Box>{' '}
          {onMend !== undefined && (
            <Button size="small" onClick={() => onMend(m)}>
              {t('proofs.mendIt')}
            </Button>
          )}
        </Box>
      ))}
    </Box>
  );
}

/** One line typed in, or rows pasted; what is wrong stands under it. */
function AddProof({ card, onAdd }: { card: MarketplaceCard; onAdd: (proofs: readonly Proof[]) => void }) {
  const { t } = useWords();
  const [line, setLine] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  return (
    <Box
      component="form"
      sx={{ mt: 1.5 }}
      onSubmit={(e: { preventDefault: () => void }) => {
        e.preventDefault();
        const read = proofOfLine(line, card);
        setWrong(read.ok ? null : inWords(read.wrong));
        if (!read.ok) return;
        onAdd([read.proof]);
        setLine('');
      }}
      onPaste={(e: React.ClipboardEvent) => {
        // Rows under their headings come in together; what is wrong with one keeps none of the others out of sight.
        const text = e.clipboardData.getData('text/plain');
        if (!text.trim().includes('\n')) return;
        e.preventDefault();
        const { proofs, wrong } = proofsOfRows(rowsOfText(text), card);
        const [first] = wrong;
        setWrong(first === undefined ? null : `${t('proofs.row', { row: first.row })} ${inWords(first)}`);
        if (first === undefined) onAdd(proofs);
      }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'end' }}>
        <TextLine
          label={t('proofs.add')}
          value={line}
          onChange={setLine}
          width="100%"
          placeholder={t('proofs.example')}
          maxLength={300}
          error={wrong}
        />
        <Button type="submit" size="small" variant="outlined" disabled={line.trim() === ''}>
          {t('proofs.addButton')}
        </Button>
      </Box>
    </Box>
  );
}
