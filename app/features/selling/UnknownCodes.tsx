/** Codes that reports name and no lane on sale has: nothing of them counts until somebody says whose they are. */
import { Button, Typography } from '@mui/material';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

export type CodeUnknown = {
  readonly place: string;
  readonly code: string;
  readonly currency: string;
  readonly units: number;
  readonly amount: number;
};
const SHOWN = 100;

export function UnknownCodes({
  codes,
  onMine,
}: {
  codes: readonly CodeUnknown[];
  onMine?: (code: string) => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  if (codes.length === 0) return null;
  return (
    <>
      <Typography variant="h3" component="h2" sx={{ mt: 3, mb: 0.5 }}>
        {t('selling.unknown.title')}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        {t('selling.unknown.lead')}
      </Typography>
      <FigureTable label={t('selling.unknown.title')}>
        <thead>
          <tr>
            <th scope="col">{t('selling.unknown.code')}</th>
            <th scope="col" className="text">
              {t('selling.unknown.place')}
            </th>
            <th scope="col">{t('selling.unknown.units')}</th>
            <th scope="col">{t('selling.unknown.amount')}</th>
            {onMine !== undefined && <HiddenHead>{t('selling.unknown.mine')}</HiddenHead>}
          </tr>
        </thead>
        <tbody>
          {codes.slice(0, SHOWN).map((c) => (
            <tr key={`${c.place} ${c.code}`}>
              <th scope="row">
                <bdi>{c.code}</bdi>
              </th>
              <td className="text">{c.place.replace('/', ' ')}</td>
              <td>{f.number(c.units, 0)}</td>
              <td>{f.money(c.amount, c.currency)}</td>
              {onMine !== undefined && (
                <td>
                  <Button
                    size="small"
                    aria-label={t('selling.unknown.mineOf', { code: c.code })}
                    onClick={() => onMine(c.code)}>
                    {t('selling.unknown.mine')}
                  </Button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </FigureTable>
    </>
  );
}
