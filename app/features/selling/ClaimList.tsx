/** Fees above the card's: what to claim, order by order, and how far each claim is. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { CLAIM_STATES } from '../../../core/actuals/fees.ts';
import type { Claim, ClaimState } from '../../../core/actuals/fees.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { useLaneAct } from './LaneActs.ts';
import { useWords } from '../../ui/useWords.ts';

export type ClaimShown = Pick<Claim, 'code' | 'kind' | 'month' | 'why'> & {
  readonly place: string;
  readonly found: Pick<Claim, 'count' | 'of' | 'due' | 'charged' | 'orders'>;
  readonly state: ClaimState;
  readonly claimed: number | null;
};
type Props = {
  readonly claims: readonly ClaimShown[];
  readonly currency: string;
  readonly name: string;
  readonly canEdit: boolean;
};
const keyOf = (c: ClaimShown): string => `${c.code}/${c.kind}/${c.month}/${c.why}`;

export function ClaimList({ claims, currency, name, canEdit }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const { act, error, isBusy } = useLaneAct();
  const [open, setOpen] = useState<string | null>(null);
  if (claims.length === 0) return null;
  const money = (x: number): string => f.money(x, currency);
  const monthOf = (m: string): string => `${f.monthName(Number(m.slice(5)))} ${m.slice(0, 4)}`;
  return (
    <Box sx={{ mt: 3 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
          {t('launched.claims.title')}
        </Typography>
        <TableFile
          table={() => ({
            name: `${name}, ${t('launched.claims.title')}`,
            columns: (['order', 'day', 'fee', 'why', 'due', 'charged', 'over', 'state'] as const).map(
              (h) => ({ title: t(`launched.claims.${h}`) }),
            ),
            rows: claims.flatMap((c) =>
              c.found.orders.map((o) => [
                o.order,
                o.day,
                t(`report.kind.${c.kind}`),
                t(`launched.claims.because.${c.why}`),
                o.due,
                o.charged,
                o.charged - o.due,
                t(`launched.claims.is.${c.state}`),
              ]),
            ),
          })}
        />
      </Box>
      <Typography variant="body2" color="text.secondary">
        {t('launched.claims.lead')}
      </Typography>
      {error !== undefined && <Alert severity="error">{error}</Alert>}
      <FigureTable label={t('launched.claims.title')}>
        <thead>
          <tr>
            <th scope="col">{t('launched.claims.fee')}</th>
            <th scope="col" className="text">
              {t('launched.claims.why')}
            </th>
            <th scope="col">{t('launched.claims.orders')}</th>
            <th scope="col">{t('launched.claims.due')}</th>
            <th scope="col">{t('launched.claims.charged')}</th>
            <th scope="col">{t('launched.claims.over')}</th>
            <th scope="col" className="text">
              {t('launched.claims.state')}
            </th>
            <HiddenHead>{t('launched.claims.show')}</HiddenHead>
          </tr>
        </thead>
        <tbody>
          {claims.map((c) => (
            <tr key={keyOf(c)}>
              <th scope="row">
                {t(`report.kind.${c.kind}`)}, {monthOf(c.month)}
              </th>
              <td className="text">{t(`launched.claims.because.${c.why}`)}</td>
              <td>
                {t('launched.claims.countOf', {
                  count: c.found.count,
                  of: f.number(c.found.of, 0),
                  some: f.number(c.found.count, 0),
                })}
              </td>
              <td>{money(c.found.due)}</td>
              <td>{money(c.found.charged)}</td>
              <td>
                <b>{money(c.found.charged - c.found.due)}</b>
              </td>
              <td className="text">
                {canEdit ? (
                  <ChoiceLine
                    label={t('launched.claims.stateOf', {
                      fee: `${t(`report.kind.${c.kind}`)}, ${monthOf(c.month)}`,
                    })}
                    inTable
                    value={c.state}
                    onChange={(state) => {
                      const { place, code, kind, month, why } = c;
                      if (!isBusy) act({ intent: 'claim', place, code, kind, month, why, state });
                    }}
                    options={CLAIM_STATES.map((s) => ({ value: s, label: t(`launched.claims.is.${s}`) }))}
                  />
                ) : (
                  t(`launched.claims.is.${c.state}`)
                )}
                {c.claimed !== null && (
                  <Typography variant="body2" color="text.secondary">
                    {t('launched.claims.asked', { amount: money(c.claimed) })}
                  </Typography>
                )}
              </td>
              <td>
                <Button
                  size="small"
                  aria-expanded={open === keyOf(c)}
                  onClick={() => setOpen(open === keyOf(c) ? null : keyOf(c))}>
                  {t('launched.claims.show')}
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </FigureTable>
      {claims
        .filter((c) => keyOf(c) === open)
        .map((c) => (
          <Orders key={keyOf(c)} claim={c} currency={currency} />
        ))}
    </Box>
  );
}

/** The orders of a claim, the dearest first. */
function Orders({ claim, currency }: { claim: ClaimShown; currency: string }) {
  const { t } = useWords();
  const f = useFormat();
  const money = (x: number): string => f.money(x, currency);
  const { orders, count } = claim.found;
  return (
    <Box sx={{ mt: 1, maxHeight: 300, overflowY: 'auto' }}>
      <FigureTable label={t('launched.claims.orders')}>
        <thead>
          <tr>
            {(['order', 'day', 'units', 'due', 'charged', 'over'] as const).map((h) => (
              <th scope="col" key={h}>
                {t(`launched.claims.${h}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {orders.map((o) => (
            <tr key={o.order}>
              <th scope="row">
                <bdi>{o.order}</bdi>
              </th>
              <td>{f.day(o.day)}</td>
              <td>{f.number(o.units, 0)}</td>
              <td>{money(o.due)}</td>
              <td>{money(o.charged)}</td>
              <td>{money(o.charged - o.due)}</td>
            </tr>
          ))}
        </tbody>
      </FigureTable>
      {count > orders.length && (
        <Typography variant="body2">
          {t('launched.claims.more', { more: f.number(count - orders.length, 0) })}
        </Typography>
      )}
    </Box>
  );
}
