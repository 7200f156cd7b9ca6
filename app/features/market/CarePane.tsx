/**
 * May one sell it, and what is still to be looked after: permission, a list of cares, complaints and what would
 * mend them.
 */
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { CARE_STATES, PERMISSIONS } from '../../../core/evidence/schema.ts';
import type { CareItem } from '../../../core/evidence/schema.ts';
import { ChoiceLine, NumField, TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { tell } from '../../ui/client.ts';
import { useNotDone } from '../../ui/useNotDone.ts';
import { exchangeFactor } from '../../../core/money/money.ts';
import { planOf } from '../../../core/workspace/summary.ts';
import { Pane } from '../weigh/Pane.tsx';
import { useSelected, useStore } from '../weigh/store.ts';
import { Complaints } from './Complaints.tsx';
import { From, NotKnown } from './parts.tsx';
import type { PaneProps } from './parts.tsx';
import { useWords } from '../../ui/useWords.ts';

export function CarePane(p: PaneProps) {
  const { t } = useWords();
  const f = useFormat();
  const { document } = p.market.composed;
  const { permission } = document;
  const cost = p.market.said.approvalCost;
  return (
    <Pane title={t('market.care.title')} aside={<From kind="permission" {...p} />}>
      <Typography variant="body2">
        {t(`market.care.state.${permission?.state ?? 'unknown'}`)}{' '}
        {permission?.by === 'documents' && t('market.care.documents')}
        {cost !== null &&
          t('market.care.purchase', {
            units: f.number(permission?.units ?? 0, 0),
            cost: f.money(cost, p.market.view.doc.currency),
          })}
      </Typography>
      {cost !== null && <IntoBudget cost={cost} {...p} />}
      {p.canEdit && <SayPermission {...p} />}
      <CareList {...p} />
      <Complaints {...p} />
    </Pane>
  );
}

/** A first purchase that permission asks for, as a line of the candidate's launch budget in the home currency. */
function IntoBudget({ cost, market }: PaneProps & { cost: number }) {
  const { t } = useWords();
  const store = useStore();
  const candidate = useSelected((x) => x.state.candidate);
  const { doc } = market.view;
  const factor = exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);
  const name = t('market.care.budgetLine', { country: doc.country });
  const plan = planOf(candidate.data, market.plan);
  if (!store.canEdit || !Number.isFinite(factor) || plan.oneOffs.some((o) => o.name === name)) return null;
  const amount = Math.round(cost * factor * 100) / 100;
  return (
    <Button
      size="small"
      onClick={() =>
        store.edit([
          {
            entity: 'candidate',
            id: candidate.id,
            path: ['launch'],
            to: { ...plan, oneOffs: [...plan.oneOffs, { name, amount }] },
          },
        ])
      }>
      {t('market.care.intoBudget')}
    </Button>
  );
}

/** A permission by hand: asked, answered, by whom. */
function SayPermission({ market, url, onChanged }: PaneProps) {
  const { t } = useWords();
  const notDone = useNotDone();
  const [open, setOpen] = useState(false);
  const [state, setState] = useState<(typeof PERMISSIONS)[number]>('open');
  const [by, setBy] = useState<'documents' | 'purchase'>('documents');
  const [units, setUnits] = useState<number | null>(null);
  const [price, setPrice] = useState<number | null>(null);
  const [who, setWho] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const today = market.view.doc.date;
  const keep = async (): Promise<void> => {
    const approval = state === 'approval';
    const purchase = approval && by === 'purchase';
    const value = {
      state,
      by: approval ? by : null,
      units: purchase ? units : null,
      price: purchase ? price : null,
      asked: null,
      answered: today,
      who,
    };
    const told = await tell(`${url}/act`, {
      intent: 'observe',
      market: market.key,
      kind: 'permission',
      asOf: today,
      stated: true,
      value: { ...value, answered: approval ? null : today },
    });
    setWrong(told.ok ? null : notDone(told));
    if (told.ok) {
      setOpen(false);
      onChanged();
    }
  };
  if (!open)
    return (
      <Button size="small" onClick={() => setOpen(true)}>
        {t('market.care.say')}
      </Button>
    );
  return (
    <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'end', my: 0.5 }}>
      <ChoiceLine
        label={t('market.care.permission')}
        value={state}
        onChange={setState}
        options={PERMISSIONS.map((x) => ({ value: x, label: t(`market.care.states.${x}`) }))}
      />
      {state === 'approval' && (
        <ChoiceLine
          label={t('market.care.by')}
          value={by}
          onChange={setBy}
          options={(['documents', 'purchase'] as const).map((x) => ({
            value: x,
            label: t(`market.care.byWhat.${x}`),
          }))}
        />
      )}
      {state === 'approval' && by === 'purchase' && (
        <>
          <NumField label={t('market.care.units')} kind="number" value={units} onChange={setUnits} />
          <NumField label={t('market.care.price')} kind="money" value={price} onChange={setPrice} />
        </>
      )}
      <TextLine label={t('market.care.who')} value={who} onChange={setWho} width={140} />
      <Button size="small" variant="outlined" onClick={() => void keep()}>
        {t('market.care.keep')}
      </Button>
      {wrong !== null && (
        <Typography role="alert" variant="body2" color="error">
          {wrong}
        </Typography>
      )}
    </Box>
  );
}

/** What has to be looked after, each with its state; the usual ones by a press. */
function CareList({ watch, decide, canEdit, market }: PaneProps) {
  const { t } = useWords();
  const [what, setWhat] = useState('');
  const list = watch.care;
  const put = (care: CareItem[]) => decide({ care });
  const add = (names: readonly string[]): void => {
    const fresh = names.filter((n) => n.trim() !== '' && !list.some((c) => c.what === n));
    if (fresh.length > 0)
      put([
        ...list,
        ...fresh.map((n) => ({ what: n.trim(), state: 'open' as const, note: '', date: null, who: '' })),
      ]);
  };
  const usual = t('market.care.usual').split('; ');
  return (
    <Box sx={{ mt: 0.5 }}>
      {list.length === 0 && <NotKnown>{t('market.care.noCares')}</NotKnown>}
      {list.map((c, i) => (
        <Box key={c.what} sx={{ py: 0.25 }}>
          {canEdit ? (
            <ChoiceLine
              label={c.what}
              width="100%"
              value={c.state}
              onChange={(state) =>
                put(list.map((x, j) => (j === i ? { ...x, state, date: market.view.doc.date } : x)))
              }
              options={CARE_STATES.map((x) => ({ value: x, label: t(`market.care.careState.${x}`) }))}
            />
          ) : (
            <Typography variant="body2">
              {c.what}: {t(`market.care.careState.${c.state}`)}
            </Typography>
          )}
        </Box>
      ))}
      {canEdit && (
        <Box
          component="form"
          sx={{ display: 'flex', gap: 1, alignItems: 'end', flexWrap: 'wrap' }}
          onSubmit={(e: React.FormEvent) => {
            e.preventDefault();
            add([what]);
            setWhat('');
          }}>
          <TextLine label={t('market.care.add')} value={what} onChange={setWhat} width={170} />
          <Button size="small" type="submit">
            {t('market.care.addOne')}
          </Button>
          {list.length === 0 && (
            <Button size="small" onClick={() => add(usual)}>
              {t('market.care.addUsual')}
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}
