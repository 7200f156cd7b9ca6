/** The limits above Weigh, and what stands there while it is empty. */
import { Box, Button, InputBase, Typography } from '@mui/material';
import { Link } from 'react-router';
import { roomy } from './WeighCells.tsx';
import { useWords } from '../../ui/useWords.ts';

export function Limit({
  label,
  value,
  onChange,
  width,
  takes,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  width: number;
  takes: number;
}) {
  const { t } = useWords();
  return (
    <Box
      component="label"
      sx={{
        display: label === t('weigh.words') ? 'flex' : roomy(value !== ''),
        alignItems: 'center',
        gap: 0.75,
        border: '1px solid',
        borderColor: value ? 'text.primary' : 'hairline',
        borderRadius: 1,
        px: 1,
        height: 30,
        fontSize: '0.84rem',
        bgcolor: 'background.paper',
      }}>
      {label}
      <InputBase
        value={value}
        onChange={(e) => onChange(e.target.value)}
        inputProps={{ 'aria-label': label }}
        sx={{
          width,
          fontSize: '0.84rem',
          fontWeight: 650,
          borderBottom: '1px solid',
          borderColor: 'fieldLine',
          '& input': { p: 0 },
        }}
      />
      {takes > 0 && (
        <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.76rem' }}>
          {t('weigh.takes', { count: takes })}
        </Box>
      )}
    </Box>
  );
}

export function Pick({
  label,
  value,
  options,
  onChange,
  takes,
  none,
}: {
  label: string;
  value: string;
  options: (readonly [string, string])[];
  onChange: (v: string) => void;
  takes: number;
  none?: string;
}) {
  const { t } = useWords();
  return (
    <Box
      component="label"
      sx={{
        display: label === t('weigh.way') ? 'flex' : roomy(value !== ''),
        alignItems: 'center',
        gap: 0.5,
        border: '1px solid',
        borderColor: value ? 'text.primary' : 'hairline',
        borderRadius: 1,
        px: 1,
        height: 30,
        fontSize: '0.84rem',
        bgcolor: 'background.paper',
      }}>
      {label}
      <Box
        component="select"
        aria-label={label}
        value={value}
        onChange={(e: { target: { value: string } }) => onChange(e.target.value)}
        sx={{
          font: 'inherit',
          fontWeight: 650,
          border: 0,
          bgcolor: 'transparent',
          color: 'text.primary',
          maxWidth: 96,
        }}>
        <option value="">{none ?? t('weigh.any')}</option>
        {options.map(([v, text]) => (
          <option key={v} value={v}>
            {text}
          </option>
        ))}
      </Box>
      {takes > 0 && (
        <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.76rem' }}>
          {t('weigh.takes', { count: takes })}
        </Box>
      )}
    </Box>
  );
}

export function Empty({ base, canEdit }: { base: string; canEdit: boolean }) {
  const { t } = useWords();
  return (
    <Box sx={{ py: 6, maxWidth: 560 }}>
      <Typography variant="h4" sx={{ mb: 1 }}>
        {t('weigh.emptyTitle')}
      </Typography>
      <Typography color="text.secondary" sx={{ mb: 3 }}>
        {t('weigh.emptyText')}
      </Typography>
      {canEdit && (
        <>
          <Button component={Link} to={`${base}/find`} variant="contained" size="large">
            {t('weigh.first')}
          </Button>
          <Typography color="text.secondary" sx={{ mt: 3, mb: 1 }}>
            {t('weigh.sellWhereText')}
          </Typography>
          <Button component={Link} to={`${base}/rates/read`} variant="outlined">
            {t('weigh.sellWhere')}
          </Button>
        </>
      )}
    </Box>
  );
}
