/** By when to order for a season's peak, what being late costs, and what the same money would bring in the bank. */
import { Box } from '@mui/material';
import { Trans } from 'react-i18next';
import { broughtBy, inBank } from '../../../core/cash/bank.ts';
import type { CashRuns, PeakOrder } from '../../../core/cash/cash.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = { said: CashRuns; doc: LaneDocument; currency: string };

export function PeaksAndBank({ said, doc, currency }: Props) {
  const { t } = useWords();
  return (
    <>
      {said.peaks.map((p) => (
        <Peak key={p.from} peak={p} currency={currency} />
      ))}
      {said.peaks.length === 0 && (
        <Box component="p" sx={{ fontSize: '0.84rem', color: 'text.secondary', m: 0, mb: 2 }}>
          {t('overTime.noPeak')}
        </Box>
      )}
      <Bank said={said} doc={doc} currency={currency} />
    </>
  );
}

function Peak({ peak, currency }: { peak: PeakOrder; currency: string }) {
  const { t } = useWords();
  const f = useFormat();
  const month = (day: string): string => f.monthName(Number(day.slice(5, 7)));
  const months =
    month(peak.from) === month(peak.to) ? month(peak.from) : `${month(peak.from)} – ${month(peak.to)}`;
  return (
    <Pane title={t('overTime.peak', { months })}>
      <Box sx={{ fontSize: '0.92rem' }}>
        <Trans
          i18nKey={peak.tooLate ? 'overTime.tooLate' : 'overTime.orderBy'}
          values={{ day: f.day(peak.orderBy), units: f.number(peak.units, 0) }}
          components={{ b: <strong />, l: <Box component="strong" sx={{ color: 'error.main' }} /> }}
        />{' '}
        <Box component="span" sx={{ color: 'text.secondary' }}>
          {t('overTime.late', {
            units: f.number(peak.late.units, 0),
            money: f.money(peak.late.profit, currency),
          })}
        </Box>
      </Box>
    </Pane>
  );
}

function Bank({ said, doc, currency }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const { benchmark } = doc.rates;
  const c = said.cases.expected;
  const brought = broughtBy(c.run, c.left);
  return (
    <Box component="p" sx={{ fontSize: '0.86rem', color: 'text.secondary' }}>
      {benchmark === null ? (
        t('overTime.bankUnknown')
      ) : (
        <Trans
          i18nKey="overTime.bank"
          values={{
            rate: f.percent(benchmark.rate, 2),
            money: f.money(inBank(c.run, benchmark.rate), currency),
            gain: f.money(brought.cash, currency),
            toCome: f.money(brought.toCome, currency),
            goods: f.money(brought.goods, currency),
          }}
          components={{
            b: <strong />,
            k: <Box component="strong" sx={{ color: brought.cash < 0 ? 'error.main' : 'primary.main' }} />,
          }}
        />
      )}
    </Box>
  );
}
