/** One order: what it comes to, its lines and terms, and how it goes. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useActionData, useSubmit } from 'react-router';
import type { ExchangeTable } from '../../../core/money/money.ts';
import { orderName } from '../../../core/orders/name.ts';
import { openOf, orderSaid } from '../../../core/orders/totals.ts';
import { Arrivals } from './Arrivals.tsx';
import { Bills } from './Bills.tsx';
import { OrderAnswer } from './OrderAnswer.tsx';
import { OrderLines } from './OrderLines.tsx';
import { OrderSteps } from './OrderSteps.tsx';
import { OrderTermsForm } from './OrderTermsForm.tsx';
import type { ActOn, MailsShown, OrderShown } from './orderPage.ts';
import { Payments } from './Payments.tsx';
import { useOrder } from './useOrder.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = MailsShown & {
  shown: OrderShown;
  suppliers: readonly { id: string; name: string; mail: string }[];
  names: Readonly<Record<string, string>>;
  /** Who orders: name, and below it the address. */
  from: string;
  /** What other orders leave, home currency; null: not known. */
  left: number | null;
  home: string;
  exchange: ExchangeTable | null;
  today: string;
  base: string;
  canEdit: boolean;
};

export function OrderPage(props: Props) {
  const { shown, suppliers, left, home, exchange, today, base, canEdit } = props;
  const { t } = useWords();
  const told = useActionData<{ error?: string }>();
  const submit = useSubmit();
  const isDraft = shown.state === 'draft';
  const edits = isDraft && canEdit;
  const own = useOrder(shown.id, shown.terms, `${base}/order/${shown.id}/save`, edits);
  const edit = edits ? own : null;
  const { terms } = edits ? own : shown;
  const said = orderSaid(terms, isDraft ? today : (terms.placedOn ?? today));
  const isSaved = own.state === 'saved' || own.state === 'viewer';
  const act: ActOn = (what) => void submit(what as never, { method: 'post', encType: 'application/json' });
  useHotkeys('mod+z', () => own.undo?.(), { enableOnFormTags: false, preventDefault: true });
  useHotkeys('mod+shift+z, mod+y', () => own.redo?.(), { enableOnFormTags: false, preventDefault: true });
  return (
    <Box sx={{ maxWidth: 1180 }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline', flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h1">
          {orderName(shown.number)} <bdi>{terms.supplier}</bdi>
        </Typography>
        <Typography color="text.secondary">{t(`orderState.${shown.state}`)}</Typography>
        <Box role="status" sx={{ flex: 1, fontSize: '0.84rem', color: 'text.secondary' }}>
          {edits && t(`order.${isSaved ? 'saved' : own.state === 'saving' ? 'saving' : 'unsaved'}`)}
        </Box>
        {edit !== null && (
          <>
            <Button size="small" disabled={edit.undo === null} onClick={() => edit.undo?.()}>
              {t('order.undo')}
            </Button>
            <Button size="small" disabled={edit.redo === null} onClick={() => edit.redo?.()}>
              {t('order.redo')}
            </Button>
          </>
        )}
        {(['pdf', 'xlsx', 'csv'] as const).map((as) => (
          <Button key={as} component="a" size="small" href={`${base}/order/${shown.id}/file?as=${as}`}>
            {as.toUpperCase()}
          </Button>
        ))}
      </Box>
      <OrderAnswer {...{ terms, said, left, home, exchange }} state={shown.state} />
      {(own.error ?? told?.error) != null && (
        <Alert severity="error" sx={{ mb: 1 }}>
          {own.error ?? told?.error}
        </Alert>
      )}
      <OrderLines terms={terms} said={said} edit={edit} base={base} />
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1.6fr 1fr' }, gap: 3 }}>
        <Box>
          {edit !== null ? (
            <OrderTermsForm terms={terms} edit={edit} suppliers={suppliers} />
          ) : (
            !isDraft && (
              <>
                <Arrivals {...{ shown, said, act, canEdit, today }} />
                <Payments {...{ shown, said, act, canEdit, today, home }} open={openOf(shown, said)} />
                <Bills {...{ shown, act, canEdit, today, home }} />
              </>
            )
          )}
        </Box>
        <OrderSteps
          shown={{ ...shown, terms }}
          {...{ said, act, canEdit, isSaved }}
          names={props.names}
          mails={props.mails}
          canMail={props.canMail}
          mailbox={props.mailbox}
          from={props.from}
        />
      </Box>
      <Button component={Link} to={`${base}/order`} className="no-print" sx={{ mt: 1 }}>
        {t('order.back')}
      </Button>
    </Box>
  );
}
