/** Which cards go into a pack, and the pack as a file. */
import { Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material';
import { useState } from 'react';
import { CARD_KINDS } from '../../../core/cards/schema.ts';
import { TextLine } from '../../ui/Field.tsx';
import { countryName } from '../../ui/names.ts';
import type { Version } from './Rates.tsx';
import { useWords } from '../../ui/useWords.ts';

/** The versions of one card, the newest first. */
type CardVersions = { readonly id: string; readonly versions: readonly Version[] };

const byCard = (versions: readonly Version[]): CardVersions[] => {
  const cards = new Map<string, Version[]>();
  for (const v of versions) {
    const id = `${v.kind} ${v.key}`;
    cards.set(id, [...(cards.get(id) ?? []), v]);
  }
  return [...cards].map(([id, own]) => ({ id, versions: own }));
};

/** What is in force and what comes after; with `earlier`, what was before too. */
const taken = ({ versions }: CardVersions, today: string, earlier: boolean): Version[] => {
  const now = versions.find((v) => v.inForceFrom <= today)?.inForceFrom ?? '';
  return versions.filter((v) => earlier || v.inForceFrom >= now);
};

const isOwn = (c: CardVersions): boolean => c.versions.some((v) => !v.example);

export function GivePack({
  versions,
  today,
  name,
}: {
  versions: readonly Version[];
  today: string;
  name: string;
}) {
  const { t } = useWords();
  const cards = byCard(versions);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(
    () => new Set(cards.filter(isOwn).map((c) => c.id)),
  );
  const [earlier, setEarlier] = useState(false);
  const [called, setCalled] = useState(name);
  const [source, setSource] = useState(name);
  const ids = cards.filter((c) => chosen.has(c.id)).flatMap((c) => taken(c, today, earlier));
  const toggle = (id: string, on: boolean): void => {
    const next = new Set(chosen);
    if (on) next.add(id);
    else next.delete(id);
    setChosen(next);
  };
  if (cards.length === 0) return <Typography>{t('packs.none1')}</Typography>;
  return (
    <Box component="form" method="post" action="packs/file">
      <Typography variant="h2" sx={{ mb: 1 }}>
        {t('packs.give')}
      </Typography>
      <TextLine label={t('packs.name')} value={called} onChange={setCalled} width="100%" />
      <TextLine label={t('packs.source')} value={source} onChange={setSource} width="100%" />
      <input type="hidden" name="name" value={called} />
      <input type="hidden" name="source" value={source} />
      {ids.map((v) => (
        <input key={v.id} type="hidden" name="card" value={v.id} />
      ))}
      <Box sx={{ display: 'flex', alignItems: 'baseline', mt: 1.5 }}>
        <Typography variant="h3" sx={{ flex: 1 }}>
          {t('packs.giveWhich')}
        </Typography>
        <Button size="small" onClick={() => setChosen(new Set(cards.map((c) => c.id)))}>
          {t('packs.all')}
        </Button>
        <Button size="small" onClick={() => setChosen(new Set())}>
          {t('packs.none')}
        </Button>
      </Box>
      <Box
        tabIndex={0}
        role="group"
        aria-label={t('packs.giveWhich')}
        sx={{ maxHeight: 'calc(100vh - 470px)', minHeight: 160, overflowY: 'auto' }}>
        <CardsOfPack cards={cards.filter(isOwn)} chosen={chosen} toggle={toggle} />
        {cards.some((c) => !isOwn(c)) && (
          <details open={!cards.some(isOwn)}>
            <Box component="summary" sx={{ fontSize: '0.84rem', color: 'text.secondary', cursor: 'pointer' }}>
              {t('cards.examples')}
            </Box>
            <CardsOfPack cards={cards.filter((c) => !isOwn(c))} chosen={chosen} toggle={toggle} />
          </details>
        )}
      </Box>
      <FormControlLabel
        control={<Checkbox size="small" checked={earlier} onChange={(e) => setEarlier(e.target.checked)} />}
        label={
          <Box component="span" sx={{ fontSize: '0.88rem' }}>
            {t('packs.earlier')}
          </Box>
        }
      />
      <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
        {(['json', 'zip'] as const).map((as) => (
          <Button
            key={as}
            type="submit"
            name="as"
            value={as}
            variant="outlined"
            disabled={ids.length === 0 || called.trim() === ''}>
            {t(as === 'json' ? 'packs.asJson' : 'packs.asZip')}
          </Button>
        ))}
      </Box>
    </Box>
  );
}

function CardsOfPack({
  cards,
  chosen,
  toggle,
}: {
  cards: readonly CardVersions[];
  chosen: ReadonlySet<string>;
  toggle: (id: string, on: boolean) => void;
}) {
  const { t, i18n } = useWords();
  return (
    <>
      {CARD_KINDS.map((kind) => {
        const own = cards.filter((c) => c.versions[0]?.kind === kind);
        if (own.length === 0) return null;
        return (
          <Box key={kind} sx={{ mb: 0.5 }}>
            <Typography variant="body2" color="text.secondary">
              {t(`cards.kind.${kind}`)}
            </Typography>
            {own.map((c) => (
              <FormControlLabel
                key={c.id}
                sx={{ display: 'flex', ml: 0, mr: 0, '& .MuiCheckbox-root': { p: 0.4 } }}
                control={
                  <Checkbox
                    size="small"
                    checked={chosen.has(c.id)}
                    onChange={(e) => toggle(c.id, e.target.checked)}
                  />
                }
                label={
                  <Box component="span" dir="auto" sx={{ fontSize: '0.88rem' }}>
                    {kind === 'tax'
                      ? countryName(c.versions[0]?.key ?? '', i18n.language)
                      : c.versions[0]?.name}
                  </Box>
                }
              />
            ))}
          </Box>
        );
      })}
    </>
  );
}
