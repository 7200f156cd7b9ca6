/** All enquiries: who was asked, who has answered, whom to ask again. */
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Trans } from 'react-i18next';
import { Link, useSubmit } from 'react-router';
import type { Enquiry, EnquiryState } from '../../../core/enquiries/schema.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import './enquiryWords.ts';
import { useWords } from '../../ui/useWords.ts';

export type EnquiryLine = {
  readonly id: string;
  readonly candidateId: string;
  readonly candidate: string;
  readonly state: EnquiryState;
  readonly data: Enquiry;
};

export function EnquiriesPage({
  lines,
  candidates,
  base,
  canEdit,
}: {
  lines: readonly EnquiryLine[];
  candidates: readonly { id: string; name: string }[];
  base: string;
  canEdit: boolean;
}) {
  const { t } = useWords();
  const f = useFormat();
  const submit = useSubmit();
  const [candidate, setCandidate] = useState('');
  const day = (d: string | null): string => (d === null ? '–' : f.day(d));
  const waiting = lines.filter((l) => l.state === 'sent').length;
  const start = (id: string): void => {
    setCandidate(id);
    void submit({ candidate: id }, { method: 'post', encType: 'application/json' });
  };
  return (
    <Box sx={{ maxWidth: 1080 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 1.5 }}>
        <Typography variant="h1">{t('enquiries.title')}</Typography>
        <Typography color="text.secondary" sx={{ flex: 1 }}>
          {t('enquiries.lead')}
        </Typography>
        <Button component={Link} to={`${base}/order`}>
          {t('enquiries.orders')}
        </Button>
        {canEdit && (
          <SearchChoice
            label={t('enquiries.new')}
            value={candidate}
            options={candidates.map((c) => ({ value: c.id, label: c.name }))}
            onChange={start}
            width={260}
          />
        )}
      </Box>
      {lines.length === 0 ? (
        <Typography>{t('enquiries.none')}</Typography>
      ) : (
        <>
          <Typography variant="h4" component="p" sx={{ mb: 1.5 }}>
            {waiting === 0 ? (
              t('enquiries.waitingNone')
            ) : (
              <Trans
                i18nKey="enquiries.waiting"
                count={waiting}
                values={{ count: waiting }}
                components={{ k: <strong /> }}
              />
            )}
          </Typography>
          <FigureTable label={t('enquiries.title')}>
            <thead>
              <tr>
                {(['candidate', 'supplier', 'state', 'sentOn', 'answeredOn', 'remindOn'] as const).map(
                  (k) => (
                    <th scope="col" key={k} className="text">
                      {t(`enquiries.${k}`)}
                    </th>
                  ),
                )}
              </tr>
            </thead>
            <tbody>
              {lines.map((l) => (
                <tr key={l.id} className={l.state === 'closed' ? 'quiet' : undefined}>
                  <th scope="row">
                    <Box
                      component={Link}
                      to={`${base}/order/enquiries/${l.id}`}
                      sx={{ color: 'text.primary', fontWeight: 650 }}>
                      <bdi>{l.candidate}</bdi>
                    </Box>
                  </th>
                  <td className="text">
                    {l.data.supplier === '' ? (
                      <i>{t('enquiries.noSupplier')}</i>
                    ) : (
                      <bdi>{l.data.supplier}</bdi>
                    )}
                  </td>
                  <td className="text">{t(`enquiries.states.${l.state}`)}</td>
                  <td className="text">{day(l.data.sentOn)}</td>
                  <td className="text">{day(l.data.answeredOn)}</td>
                  <td className="text">{day(l.data.remindOn)}</td>
                </tr>
              ))}
            </tbody>
          </FigureTable>
        </>
      )}
    </Box>
  );
}
