/** The categories of a shop, many of which may be read at once. */
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import type { Shop } from '../../../core/shops/schema.ts';
import { TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  categories: Shop['categories'];
  ticked: ReadonlySet<string>;
  onTick: (ticked: ReadonlySet<string>) => void;
};

/** So many categories are looked through; more are searched. */
const MANY = 12;

export function ShopCategories({ categories, ticked, onTick }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const [words, setWords] = useState('');
  const found = categories.filter((c) => c.name.toLowerCase().includes(words.trim().toLowerCase()));
  const tickAll = (on: boolean): void => {
    const keys = new Set(found.map((c) => c.key));
    onTick(new Set(on ? [...ticked, ...keys] : [...ticked].filter((k) => !keys.has(k))));
  };
  const tick = (key: string, on: boolean): void =>
    onTick(new Set(on ? [...ticked, key] : [...ticked].filter((k) => k !== key)));
  return (
    <Box component="section" aria-label={t('shops.categories')} sx={{ minWidth: 0 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1, mb: 0.5 }}>
        <Typography variant="h2">{t('shops.categories')}</Typography>
        <Button size="small" onClick={() => tickAll(true)}>
          {t('shops.all')}
        </Button>
        <Button size="small" onClick={() => tickAll(false)}>
          {t('shops.noneOf')}
        </Button>
      </Box>
      {categories.length > MANY && (
        <TextLine label={t('shops.find')} value={words} onChange={setWords} width="100%" />
      )}
      <Box
        component="ul"
        sx={{
          listStyle: 'none',
          m: 0,
          mt: 1,
          p: 0,
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fill, minmax(210px, 1fr))',
          gap: '2px 18px',
        }}>
        {found.map((c) => (
          <li key={c.key}>
            <Box
              component="label"
              sx={{ display: 'flex', gap: 1, py: 0.4, alignItems: 'baseline', cursor: 'pointer' }}>
              <input
                type="checkbox"
                checked={ticked.has(c.key)}
                onChange={(e) => tick(c.key, e.target.checked)}
              />
              <span dir="auto">{c.name}</span>
              <Box component="span" sx={{ ml: 'auto', color: 'text.secondary', fontSize: '0.82rem' }}>
                {f.number(c.goods, 0)}
              </Box>
            </Box>
          </li>
        ))}
      </Box>
      {found.length === 0 && <Typography color="text.secondary">{t('shops.noCategory')}</Typography>}
    </Box>
  );
}
