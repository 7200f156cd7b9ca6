/** The way back from a place of Find. */
import { Box, Typography } from '@mui/material';
import { Fragment } from 'react';
import { Link } from 'react-router';
import { useWords } from '../../ui/useWords.ts';

export function FindTrail({
  root,
  over = [],
  here,
}: {
  root: string;
  /** Places between Find and here. */
  over?: readonly { readonly to: string; readonly name: string }[];
  here: string;
}) {
  const { t } = useWords();
  return (
    <Typography component="div" color="text.secondary" sx={{ mb: 0.5 }}>
      {[{ to: `${root}/find`, name: t('nav.find') }, ...over].map(({ to, name }) => (
        <Fragment key={to}>
          <Box component={Link} to={to} sx={{ color: 'inherit' }}>
            {name}
          </Box>{' '}
          /{' '}
        </Fragment>
      ))}
      <b>{here}</b>
    </Typography>
  );
}
