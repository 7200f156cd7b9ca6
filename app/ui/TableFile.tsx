import { Box, Button } from '@mui/material';
import { useParams } from 'react-router';
import { useWords } from './useWords.ts';

export type TableToSave = {
  readonly name: string;
  readonly columns: readonly { readonly title: string; readonly percent?: boolean }[];
  readonly rows: readonly (readonly (string | number | boolean | null)[])[];
};

/**
 * Saves a table that is on the screen as CSV or XLSX, figures as numbers. The rows are made when a button is
 * pressed.
 */
export function TableFile({ table }: { table: () => TableToSave }) {
  const { t } = useWords();
  const { workspace } = useParams();
  return (
    <Box
      component="form"
      method="post"
      action={`/w/${workspace}/table`}
      className="no-print"
      sx={{ display: 'flex', gap: 0.5 }}
      onSubmit={(e: React.FormEvent<HTMLFormElement>) => {
        (e.currentTarget.elements.namedItem('table') as HTMLInputElement).value = JSON.stringify(table());
      }}>
      <input type="hidden" name="table" />
      {(['csv', 'xlsx'] as const).map((as) => (
        <Button
          key={as}
          size="small"
          type="submit"
          name="as"
          value={as}
          aria-label={t('tableAs', { format: as.toUpperCase() })}>
          {as.toUpperCase()}
        </Button>
      ))}
    </Box>
  );
}
