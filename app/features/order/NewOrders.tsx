/** Choosing what to order: candidates and shortlisted goods become drafts, one for each supplier. */
import { Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material';
import { useState } from 'react';
import { useNavigation, useSubmit } from 'react-router';
import type { ToOrder } from '../../../between/orders.ts';
import { TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { Pane } from '../weigh/Pane.tsx';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

export function NewOrders({ toOrder, chosen }: { toOrder: ToOrder; chosen: readonly string[] }) {
  const { t } = useWords();
  const submit = useSubmit();
  const busy = useNavigation().state !== 'idle';
  const [lanes, setLanes] = useState<ReadonlySet<string>>(new Set(chosen));
  const [goods, setGoods] = useState<ReadonlySet<number>>(new Set());
  const [search, setSearch] = useState('');
  const wanted = search.trim().toLowerCase();
  const fits = (...texts: readonly string[]): boolean =>
    wanted === '' || texts.some((x) => x.toLowerCase().includes(wanted));
  const candidates = toOrder.candidates.filter((c) => fits(c.name, ...c.suppliers));
  const planned = candidates.filter((c) => c.isPlanned);
  const others = candidates.filter((c) => !c.isPlanned);
  const shown = toOrder.goods.filter((g) => fits(g.name, g.supplier, g.list));
  const count = lanes.size + goods.size;
  const send = (wish: object): void =>
    void submit(wish as never, { method: 'post', encType: 'application/json' });
  const make = (): void =>
    send({
      lanes: [...lanes],
      goods: toOrder.goods.filter((g) => goods.has(g.key)).map(({ key, listId }) => ({ key, listId })),
    });
  return (
    <Box sx={{ maxWidth: 980 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          {t('toOrder.title')}
        </Typography>
        <Button onClick={() => send({ byHand: true })} disabled={busy}>
          {t('toOrder.byHand')}
        </Button>
        <Button variant="contained" disabled={count === 0 || busy} onClick={make}>
          {t('toOrder.make', { count })}
        </Button>
      </Box>
      <Typography color="text.secondary" sx={{ mb: 1.5 }}>
        {t('toOrder.lead')}
      </Typography>
      <Box sx={{ mb: 2 }}>
        <TextLine label={t('toOrder.search')} value={search} onChange={setSearch} width={280} />
      </Box>
      {planned.length > 0 && (
        <Pane title={t('toOrder.planned')}>
          <Lanes lanes={planned} ticked={lanes} set={setLanes} />
        </Pane>
      )}
      <Pane title={t('toOrder.others')}>
        {others.length === 0 ? (
          <Typography>{t('toOrder.noCandidates')}</Typography>
        ) : (
          <Lanes lanes={others} ticked={lanes} set={setLanes} />
        )}
      </Pane>
      <Pane title={t('toOrder.goods')}>
        {shown.length === 0 ? (
          <Typography>{t('toOrder.noGoods')}</Typography>
        ) : (
          shown.map((g) => (
            <Choice
              key={g.key}
              name={g.name}
              about={[
                g.supplier === '' ? t('toOrder.noSupplier') : t('toOrder.from', { supplier: g.supplier }),
                g.list,
              ]}
              checked={goods.has(g.key)}
              onChange={() => setGoods(toggled(goods, g.key))}
            />
          ))
        )}
      </Pane>
    </Box>
  );
}

function toggled<T>(set: ReadonlySet<T>, one: T): ReadonlySet<T> {
  const next = new Set(set);
  if (!next.delete(one)) next.add(one);
  return next;
}

function Lanes({
  lanes,
  ticked,
  set,
}: {
  lanes: ToOrder['candidates'];
  ticked: ReadonlySet<string>;
  set: (next: ReadonlySet<string>) => void;
}) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const choice = (l: ToOrder['candidates'][number]) => (
    <Choice
      key={l.laneId}
      name={l.name}
      about={[
        `${l.lane}, ${countryName(l.country, i18n.language)}`,
        l.units === null
          ? t('toOrder.noUnits')
          : t('toOrder.units', { count: l.units, formatted: f.number(l.units) }),
        ...l.suppliers.map((s) => (s === '' ? t('toOrder.noSupplier') : t('toOrder.from', { supplier: s }))),
        ...(l.isOrdered ? [t('toOrder.ordered')] : []),
      ]}
      checked={ticked.has(l.laneId)}
      onChange={() => set(toggled(ticked, l.laneId))}
    />
  );
  const candidates = [...new Set(lanes.map((l) => l.candidateId))];
  return candidates.map((id) => {
    const own = lanes.filter((l) => l.candidateId === id);
    const [first, ...rest] = [...own].sort((a, b) => Number(b.isFirst) - Number(a.isFirst));
    // A lane that is ticked is never out of sight.
    const isOpen = opened.has(id) || rest.some((l) => ticked.has(l.laneId));
    return first === undefined ? null : (
      <Box key={id}>
        {choice(first)}
        {rest.length > 0 && !isOpen && (
          <Button
            size="small"
            onClick={() => setOpened(toggled(opened, id))}
            sx={{ ml: 4, py: 0, minWidth: 0, fontWeight: 400 }}>
            {t('toOrder.otherLanes', { count: rest.length })}
          </Button>
        )}
        {isOpen && rest.map(choice)}
      </Box>
    );
  });
}

function Choice({
  name,
  about,
  checked,
  onChange,
}: {
  name: string;
  about: readonly string[];
  checked: boolean;
  onChange: () => void;
}) {
  return (
    <FormControlLabel
      sx={{ display: 'flex', alignItems: 'flex-start', m: 0, py: 0.25 }}
      control={<Checkbox size="small" checked={checked} onChange={onChange} sx={{ py: 0.25 }} />}
      label={
        <Box component="span" sx={{ fontSize: '0.92rem' }}>
          <bdi style={{ fontWeight: 600 }}>{name}</bdi>{' '}
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {about.join(' · ')}
          </Box>
        </Box>
      }
    />
  );
}
