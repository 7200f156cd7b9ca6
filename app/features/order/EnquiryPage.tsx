/** One enquiry: what is asked, the letter, what came back, and how the price was talked about. */
import { Alert, Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material';
import { Link, useActionData, useSubmit } from 'react-router';
import { enquiryPart, QUESTIONS } from '../../../core/enquiries/schema.ts';
import type { Enquiry } from '../../../core/enquiries/schema.ts';
import type { QuoteSource } from '../../../core/workspace/records.ts';
import { LANGUAGES } from '../../../core/workspace/supplier.ts';
import type { Language } from '../../../core/workspace/supplier.ts';
import { letters } from '../../locales/enquiryLetters.ts';
import { ChoiceLine, NumField, TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useSavedFields } from '../../ui/useSavedFields.ts';
import { Pane } from '../weigh/Pane.tsx';
import type { EnquiryLine } from './EnquiriesPage.tsx';
import { EnquiryAnswer } from './EnquiryAnswer.tsx';
import { letterOf } from './letter.ts';
import { Negotiation } from './Negotiation.tsx';
import { MailsSaid } from './MailsSaid.tsx';
import type { MailsShown } from './orderPage.ts';
import './enquiryWords.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = MailsShown & {
  row: EnquiryLine;
  from: string;
  /** The quote one has of this supplier, beside which the answer is put. */
  before: QuoteSource | null;
  today: string;
  base: string;
  canEdit: boolean;
};
export type Fields = { fields: Enquiry; set: (some: Partial<Enquiry>) => void; canEdit: boolean };

export function EnquiryPage(props: Props) {
  const { row, mails, canMail, mailbox, from, before, today, base, canEdit } = props;
  const { t } = useWords();
  const told = useActionData<{ error?: string }>();
  const submit = useSubmit();
  const url = `${base}/order/enquiries/${row.id}`;
  const { fields, set, state, error } = useSavedFields<Enquiry>(row.data, {
    tab: `bm-unsaved-enquiry-${row.id}`,
    url: `${url}/save`,
    canEdit,
    part: enquiryPart,
    bodyOf: (changed) => changed,
  });
  const act = (what: object): void =>
    void submit(what as never, { method: 'post', encType: 'application/json' });
  const isDraft = row.state === 'draft';
  const edits = canEdit && isDraft;
  const isSaved = state === 'saved' || state === 'viewer';
  return (
    <Box sx={{ maxWidth: 1180 }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline', flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h1">{t('enquiry.title', { goods: row.candidate })}</Typography>
        <Typography color="text.secondary">{t(`enquiries.states.${row.state}`)}</Typography>
        <Box role="status" sx={{ flex: 1, fontSize: '0.84rem', color: 'text.secondary' }}>
          {canEdit && t(`enquiry.${isSaved ? 'saved' : state === 'saving' ? 'stillSaving' : 'unsaved'}`)}
        </Box>
        <Button component={Link} to={`${base}/weigh/${row.candidateId}`} size="small">
          {t('enquiry.toSheet')}
        </Button>
      </Box>
      {(error ?? told?.error) != null && (
        <Alert severity="error" sx={{ mb: 1 }}>
          {error ?? told?.error}
        </Alert>
      )}
      <MailsSaid mails={mails} mailbox={mailbox} again={null} />
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '360px 1fr' }, gap: 3 }}>
        <Box>
          <Asked fields={fields} set={set} canEdit={edits} />
          <Negotiation fields={fields} set={set} canEdit={canEdit} today={today} />
        </Box>
        <Box>
          {!isDraft && (
            <EnquiryAnswer
              {...{ fields, set, canEdit, before, today, act, base, isSaved }}
              state={row.state}
              candidateId={row.candidateId}
            />
          )}
          <LetterPane
            {...{ fields, set, from, canMail, isSaved, act }}
            goods={row.candidate}
            canEdit={edits}
          />
        </Box>
      </Box>
      <Box className="no-print" sx={{ display: 'flex', gap: 1, mt: 1 }}>
        <Button component={Link} to={`${base}/order/enquiries`}>
          {t('enquiry.back')}
        </Button>
        {canEdit && (
          <Button
            color="inherit"
            onClick={() => act({ intent: row.state === 'closed' ? 'reopen' : 'close' })}>
            {t(row.state === 'closed' ? 'enquiry.reopen' : 'enquiry.close')}
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** To whom, in which language, what of it, and the price one can pay. */
function Asked({ fields, set, canEdit }: Fields) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <>
      <Pane title={t('enquiry.to')}>
        {canEdit ? (
          <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
            <TextLine
              label={t('enquiries.supplier')}
              value={fields.supplier}
              onChange={(supplier) => set({ supplier })}
              width={200}
            />
            <ChoiceLine<Language>
              label={t('enquiry.language')}
              value={fields.language}
              options={LANGUAGES.map((l) => ({ value: l, label: letters[l].name }))}
              onChange={(language) => set({ language })}
              width={120}
            />
            <TextLine
              label={t('order.mail')}
              value={fields.mail}
              onChange={(mail) => set({ mail: mail.trim() })}
              width="100%"
            />
          </Box>
        ) : (
          <Typography>
            <bdi>{fields.supplier}</bdi> {fields.mail}
          </Typography>
        )}
      </Pane>
      <Pane title={t('enquiry.questions')}>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr' }}>
          {QUESTIONS.map((q) => (
            <FormControlLabel
              key={q}
              sx={{ m: 0 }}
              control={
                <Checkbox
                  size="small"
                  disabled={!canEdit}
                  checked={fields.questions.includes(q)}
                  onChange={(_, on) =>
                    set({ questions: QUESTIONS.filter((x) => (x === q ? on : fields.questions.includes(x))) })
                  }
                  sx={{ py: 0.25 }}
                />
              }
              label={<span style={{ fontSize: '0.9rem' }}>{t(`enquiry.question.${q}`)}</span>}
            />
          ))}
        </Box>
        {canEdit && <Quantities fields={fields} set={set} canEdit={canEdit} />}
      </Pane>
      <Pane title={t('enquiry.target')}>
        <Typography variant="body2">
          {fields.target === null
            ? t('enquiry.targetNone')
            : t('enquiry.targetText', { price: f.money(fields.target, fields.currency) })}
        </Typography>
        {fields.target !== null && canEdit && (
          <FormControlLabel
            sx={{ m: 0 }}
            control={
              <Checkbox
                size="small"
                checked={fields.tellTarget}
                onChange={(_, tellTarget) => set({ tellTarget })}
              />
            }
            label={<span style={{ fontSize: '0.9rem' }}>{t('enquiry.tellTarget')}</span>}
          />
        )}
      </Pane>
    </>
  );
}

/** Quantities a price is asked for: one that is emptied goes. */
function Quantities({ fields, set }: Fields) {
  const { t } = useWords();
  const { quantities } = fields;
  return (
    <Box role="group" aria-label={t('enquiry.quantities')} sx={{ mt: 0.5 }}>
      <Typography variant="body2" color="text.secondary">
        {t('enquiry.quantities')}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        {[...quantities, null].slice(0, 10).map((q, i) => (
          <NumField
            // biome-ignore lint/suspicious/noArrayIndexKey: quantities are told apart by their place alone
            key={i}
            label={`${t('order.units')} ${i + 1}`}
            inTable
            value={q}
            onChange={(v) =>
              set({
                quantities:
                  v === null || v === 0
                    ? quantities.filter((_, j) => j !== i)
                    : i < quantities.length
                      ? quantities.map((x, j) => (j === i ? v : x))
                      : [...quantities, v],
              })
            }
            kind="number"
            width={76}
          />
        ))}
      </Box>
    </Box>
  );
}

function LetterPane({
  fields,
  set,
  canEdit,
  goods,
  from,
  canMail,
  isSaved,
  act,
}: Fields & {
  goods: string;
  from: string;
  canMail: boolean;
  isSaved: boolean;
  act: (what: object) => void;
}) {
  const { t } = useWords();
  const write = (): void => set(letterOf(fields, goods, from.split('\n')[0] ?? ''));
  const isEmpty = fields.text.trim() === '';
  return (
    <Pane title={t('enquiry.letter')}>
      {canEdit && (
        <Button variant={isEmpty ? 'contained' : 'outlined'} size="small" onClick={write} sx={{ mb: 1 }}>
          {t(isEmpty ? 'enquiry.write' : 'enquiry.writeAgain')}
        </Button>
      )}
      {canEdit ? (
        !isEmpty && (
          <>
            <TextLine
              label={t('enquiry.subject')}
              value={fields.subject}
              onChange={(subject) => set({ subject })}
              width="100%"
            />
            <TextLine
              label={t('enquiry.text')}
              value={fields.text}
              onChange={(text) => set({ text })}
              multiline
              maxRows={18}
              maxLength={20_000}
              width="100%"
            />
            <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
              {canMail && (
                <Button
                  variant="contained"
                  disabled={!isSaved || fields.mail === ''}
                  onClick={() => act({ intent: 'send', how: 'mail' })}>
                  {t('enquiry.send')}
                </Button>
              )}
              <Button
                variant="outlined"
                disabled={!isSaved}
                onClick={() => act({ intent: 'send', how: 'another' })}>
                {t('enquiry.sendAnother')}
              </Button>
            </Box>
            {!canMail && (
              <Typography variant="body2" color="text.secondary">
                {t('enquiry.noMail')}
              </Typography>
            )}
          </>
        )
      ) : (
        <>
          <Typography sx={{ fontWeight: 650 }}>{fields.subject}</Typography>
          <Box sx={{ whiteSpace: 'pre-wrap', fontSize: '0.9rem' }}>{fields.text}</Box>
        </>
      )}
    </Pane>
  );
}
