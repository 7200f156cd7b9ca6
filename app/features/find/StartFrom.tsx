/** One field that takes whatever one holds, and shows where it leads. */
import { Box, InputBase, Typography } from '@mui/material';
import { Link } from 'react-router';
import { useState } from 'react';
import { FieldShell, fieldInput } from '../../ui/Field.tsx';
import { useAnything } from './useAnything.ts';
import { useWords } from '../../ui/useWords.ts';

export function StartFrom({ root, onRows }: { root: string; onRows: (text: string) => void }) {
  const { t } = useWords();
  const [text, setText] = useState('');
  const { is, ways, wrong, isAsking, recognised } = useAnything(root, text);
  return (
    <Box role="search" sx={{ mb: 2.5, maxWidth: 640 }}>
      <FieldShell
        label={t('anything.label')}
        error={recognised.kind === 'notABarcode' ? is : null}
        note={recognised.kind === 'notABarcode' ? null : is || null}
        width="100%">
        {({ id, describedBy }) => (
          <InputBase
            id={id}
            value={text}
            onChange={(e) => setText(e.target.value)}
            // A field of one line drops the ends of lines: rows go on as rows.
            onPaste={(e) => {
              const pasted = e.clipboardData.getData('text');
              if (!/[\n\t]/.test(pasted.trim())) return;
              e.preventDefault();
              onRows(pasted);
            }}
            inputProps={{
              maxLength: 2000,
              autoComplete: 'off',
              ...(describedBy === undefined ? {} : { 'aria-describedby': describedBy }),
            }}
            sx={fieldInput(false)}
          />
        )}
      </FieldShell>
      <Box role="status">
        {isAsking && (
          <Typography variant="body2" color="text.secondary">
            {t('anything.asking')}
          </Typography>
        )}
        {wrong.map((w) => (
          <Typography key={w} variant="body2" color="text.secondary">
            {w}
          </Typography>
        ))}
      </Box>
      {ways.length > 0 && (
        <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
          {ways.map((w) => (
            <Box
              component="li"
              key={w.key}
              sx={{ borderBottom: '1px solid', borderColor: 'hairline', py: 0.5 }}>
              <Box
                component={Link}
                to={w.to}
                reloadDocument={w.isPage === true}
                sx={{ color: 'text.primary', fontWeight: 550 }}>
                <bdi>{w.label}</bdi>
              </Box>{' '}
              <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.84rem' }}>
                {w.hint}
              </Box>
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}
