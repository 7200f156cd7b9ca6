/** Where one is, what can be added, printed, taken along. */
import { Box, Button, Menu, MenuItem, Typography } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  root: string;
  candidate: { id: string; name: string };
  search: URLSearchParams;
  lanes: number;
  print: boolean;
  canEdit: boolean;
};
export function CompareHead({ root, candidate, search, lanes, print, canEdit }: Props) {
  const { t } = useWords();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const sheet = `${root}/weigh/${candidate.id}`;
  const file = (as: string): string => `${sheet}/compare/file?as=${as}&${search.toString()}`;
  return (
    <Box className="no-print" sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 0.5 }}>
      <Typography component="span" color="text.secondary">
        <Box component={Link} to={`${root}/weigh`} sx={{ color: 'inherit', textDecoration: 'none' }}>
          {t('nav.weigh')}
        </Box>{' '}
        /{' '}
        <Box component={Link} to={sheet} sx={{ color: 'inherit' }} dir="auto">
          {candidate.name}
        </Box>{' '}
        /
      </Typography>
      <Typography component="h1" sx={{ fontWeight: 650, fontSize: '0.95rem' }}>
        {t('compare.title')}
      </Typography>
      <Box sx={{ ml: 'auto', display: 'flex', gap: 0.5 }}>
        {print ? (
          <Button variant="contained" onClick={() => window.print()}>
            {t('compare.printNow')}
          </Button>
        ) : (
          canEdit && (
            <Button component={Link} to={`${sheet}/add-lanes`} variant={lanes < 3 ? 'contained' : 'text'}>
              {t('compare.add')}
            </Button>
          )
        )}
        {print ? (
          <Button component={Link} to={`${sheet}/compare`}>
            {t('compare.back')}
          </Button>
        ) : (
          <Button onClick={(e) => setMenu(e.currentTarget)} aria-haspopup="menu">
            {t('compare.export')}
          </Button>
        )}
      </Box>
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)} onClick={() => setMenu(null)}>
        <MenuItem component="a" href={file('csv')}>
          {t('compare.csv')}
        </MenuItem>
        <MenuItem component="a" href={file('xlsx')}>
          {t('compare.xlsx')}
        </MenuItem>
        <MenuItem component="a" href={file('jsonl')}>
          {t('compare.documents')}
        </MenuItem>
        <MenuItem component={Link} to={`?${new URLSearchParams([...search, ['print', '1']]).toString()}`}>
          {t('compare.print')}
        </MenuItem>
      </Menu>
    </Box>
  );
}
