/** Over a market: whose it is, the way to its costs, and which country is looked at. */
import { Box, Typography } from '@mui/material';
import { Link, useNavigate } from 'react-router';
import { countryName } from '../../ui/names.ts';
import { useSelected, useStore } from '../weigh/store.ts';
import type { LaneView } from '../weigh/useFigures.ts';
import { useWords } from '../../ui/useWords.ts';

export function MarketHead({
  name,
  sheet,
  base,
  views,
  chosen,
  all,
  onChoose,
  onAll,
}: {
  name: string;
  sheet: string;
  base: string;
  views: readonly LaneView[];
  chosen: LaneView | undefined;
  all: boolean;
  onChoose: (lane: string) => void;
  onAll: () => void;
}) {
  const { t, i18n } = useWords();
  const saving = useSelected((x) => x.saving);
  const store = useStore();
  const navigate = useNavigate();
  const costs = `${sheet}${chosen === undefined ? '' : `?lane=${chosen.id}`}`;
  const tab = { color: 'inherit', textDecoration: 'none', ml: 1.5 } as const;
  return (
    <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 0.5, flexWrap: 'wrap', mb: 1 }}>
      <Typography component="span" color="text.secondary">
        <Box component={Link} to={base} sx={{ color: 'inherit', textDecoration: 'none' }}>
          {t('nav.weigh')}
        </Box>{' '}
        /
      </Typography>
      <Typography component="h1" sx={{ fontWeight: 650, fontSize: '0.95rem' }} dir="auto">
        {name}
      </Typography>
      <Box
        component={Link}
        to={costs}
        onClick={(e: React.MouseEvent) => {
          // What was put into the lane has to be there before its costs are read.
          if (e.metaKey || e.ctrlKey || e.shiftKey) return;
          e.preventDefault();
          void store.flush().then(() => navigate(costs));
        }}
        sx={tab}>
        {t('market.costs')}
      </Box>
      <Box
        component="span"
        aria-current="page"
        sx={{ ...tab, fontWeight: 700, borderBottom: 2, borderColor: 'primary.main' }}>
        {t('market.market')}
      </Box>
      <Box sx={{ ml: 'auto', display: 'flex', gap: 1, alignItems: 'baseline', flexWrap: 'wrap' }}>
        <Typography
          variant="body2"
          role="status"
          color={saving === 'saved' || saving === 'viewer' ? 'text.secondary' : 'error'}>
          {t(`saving.${saving}`)}
        </Typography>
        <Box
          component="select"
          aria-label={t('market.which')}
          value={all ? '' : (chosen?.id ?? '')}
          onChange={(e: React.ChangeEvent<HTMLSelectElement>) =>
            e.target.value === '' ? onAll() : onChoose(e.target.value)
          }
          sx={{
            font: 'inherit',
            bgcolor: 'background.paper',
            color: 'inherit',
            border: '1px solid',
            borderColor: 'fieldLine',
            borderRadius: 1,
            px: 1,
            py: 0.25,
          }}>
          {views.map((v) => (
            <option key={v.id} value={v.id}>
              {countryName(v.doc.country, i18n.language)} · {v.doc.marketplace}
              {v.doc.name === '' ? '' : ` · ${v.doc.name}`}
            </option>
          ))}
          {views.length > 1 && <option value="">{t('market.all', { count: views.length })}</option>}
        </Box>
      </Box>
    </Box>
  );
}
