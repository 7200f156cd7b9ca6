/** What a plan leaves out and what it would cost; what stands aside and why. */
import { Box } from '@mui/material';
import type { LeftOut, PurseSaid } from '../../../core/purse/purse.ts';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import { useLacks } from './useLacks.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = { said: PurseSaid; nameOf: (key: string) => string; currency: string };

function Line({ name, children, bad = false }: { name: string; children: React.ReactNode; bad?: boolean }) {
  const [product, ...where] = name.split(' · ');
  return (
    <Box
      sx={{
        display: 'flex',
        gap: 2,
        justifyContent: 'space-between',
        py: 0.5,
        borderBottom: '1px solid',
        borderColor: 'hairline',
        fontSize: '0.86rem',
      }}>
      <Box>
        {product}
        <Box sx={{ color: 'text.secondary', fontSize: '0.76rem' }}>{where.join(' · ')}</Box>
      </Box>
      <Box sx={{ textAlign: 'right', maxWidth: 170, color: bad ? 'error.main' : 'inherit' }}>{children}</Box>
    </Box>
  );
}

export function PurseSides({ said, nameOf, currency }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const lacksInWords = useLacks();
  const costs = (l: LeftOut): string => {
    // Where the solver ran out of time, a plan with the lane may turn out to be the better one.
    if (l.forbidden === null && l.costs < -0.005)
      return t('purse.betterWith', { money: f.money(-l.costs, currency) });
    if (l.forbidden === null) return f.money(l.costs < 0.005 ? 0 : -l.costs, currency);
    return t(`purse.forbidden.${l.forbidden.why}`, { cash: f.money(l.forbidden.cash, currency) });
  };
  const left = [...said.leftOut].sort((a, b) => (a.costs ?? 1e18) - (b.costs ?? 1e18));
  const why = (a: (typeof said.aside)[number]): string =>
    a.why === 'incomplete'
      ? t('purse.asideWhy.incomplete', { what: lacksInWords(a.lacks, a.problems) })
      : t(`purse.asideWhy.${a.why}`);
  return (
    <>
      {left.length > 0 && (
        <Pane title={t('purse.leftOut')}>
          {left.map((l) => (
            <Line key={l.key} name={nameOf(l.key)}>
              {costs(l)}
            </Line>
          ))}
        </Pane>
      )}
      {said.aside.length > 0 && (
        <Pane title={t('purse.aside')}>
          {said.aside.map((a) => (
            <Line key={a.key} name={nameOf(a.key)} bad={a.why === 'loses'}>
              {why(a)}
            </Line>
          ))}
        </Pane>
      )}
      {left.length + said.aside.length > 0 && (
        <TableFile
          table={() => ({
            name: t('purse.leftOut'),
            columns: [t('fund.lane'), `${t('purse.leftOut')}, ${currency}`, t('purse.why')].map((title) => ({
              title,
            })),
            rows: [
              ...left.map((l) => [nameOf(l.key), l.costs, l.forbidden === null ? '' : costs(l)]),
              ...said.aside.map((a) => [nameOf(a.key), null, why(a)]),
            ],
          })}
        />
      )}
    </>
  );
}
