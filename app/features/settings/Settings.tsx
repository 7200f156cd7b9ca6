import {
  Alert,
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  TextField,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Form, useFetcher } from 'react-router';
import { HURDLE_FIGURES } from '../../../core/lane/hurdles.ts';
import { WAYS } from '../../../core/lane/schema.ts';
import { valueAt, withValueAt } from '../../../core/workspace/patch.ts';
import type { Path } from '../../../core/workspace/patch.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { ROLES, invitationForm } from '../../../core/workspace/people.ts';
import { useRecordForm } from '../../ui/forms.ts';
import type { FormAnswer } from '../../ui/forms.ts';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import type { NumberKind } from '../../ui/Field.tsx';
import { useCountries, useCurrencies } from '../../ui/names.ts';
import { hurdleKind } from '../../ui/figures.ts';
import { NewHurdle } from '../../ui/NewHurdle.tsx';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import type { WorkspaceHead } from '../frame/Shell.tsx';
import { Standings } from './Standings.tsx';

type Props = {
  settings: Settings;
  me: string;
  members: { id: string; userId: string; role: string; name: string; email: string }[];
  invitations: { id: string; email: string; role: string | null; link: string }[];
  countries: string[];
  said: (FormAnswer & { error: string | null; link: string | null }) | null;
  head: WorkspaceHead;
};

/** What the workspace decides once; each change is saved where it stands. */
export function SettingsPage({ settings: loaded, me, members, invitations, countries, said, head }: Props) {
  const { t } = useTranslation();
  const [everyCountry, everyCurrency] = [useCountries(), useCurrencies()];
  const fetcher = useFetcher<{ error: string | null }>({ key: 'settings' });
  const [settings, setSettings] = useState(loaded);
  const [asking, setAsking] = useState(false);
  const canEdit = head.role !== 'viewer';
  const owner = head.role === 'owner';
  const home = settings.homeCurrency;
  const set = (path: Path, to: unknown) => {
    setSettings((s) => withValueAt(s, path, to));
    if (canEdit)
      void fetcher.submit({ path, to } as never, {
        method: 'post',
        encType: 'application/json',
        action: `/w/${head.slug}/settings`,
      });
  };
  const num = (path: Path, label: string, kind: NumberKind, nullable = true, width = 150) => (
    <NumField
      key={path.join('.')}
      label={label}
      value={(valueAt(settings, path) as number | null) ?? null}
      onChange={(v) => set(path, v ?? (nullable ? null : 0))}
      kind={kind}
      currency={home}
      max={kind === 'percent' ? 1 : 1e12}
      width={width}
    />
  );
  return (
    <Box sx={{ maxWidth: 980 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2 }}>
        <Typography variant="h1">{t('nav.settings')}</Typography>
        <Box
          role="status"
          sx={{ fontSize: '0.84rem', color: fetcher.data?.error ? 'error.main' : 'text.secondary' }}>
          {!canEdit
            ? t('saving.viewer')
            : (fetcher.data?.error ?? t(fetcher.state === 'idle' ? 'saving.saved' : 'saving.saving'))}
        </Box>
      </Box>
      <Section title={t('settings.money')}>
        <SearchChoice
          label={t('welcome.currency')}
          value={home}
          options={everyCurrency}
          onChange={(v) => set(['homeCurrency'], v)}
          width={190}
        />
        <SearchChoice
          label={t('welcome.country')}
          value={settings.homeCountry}
          options={everyCountry}
          onChange={(v) => set(['homeCountry'], v)}
          width={190}
        />
        {num(['launch', 'cash'], t('fund.cash'), 'money')}
        {num(['launch', 'reserve'], t('fund.reserve'), 'money', false)}
        {num(['launch', 'contingency'], t('fund.contingency'), 'percent', false)}
        {num(['defaults', 'benchmarkRate'], t('settings.benchmark'), 'percent', false)}
      </Section>
      <Section title={t('settings.standing')} id="standing" text={t('settings.standingText')}>
        <Standings
          standings={settings.standings}
          countries={countries}
          canEdit={canEdit}
          onCountry={(c, to) => set(['standings', c], to ?? undefined)}
          onAll={(to) => set(['standings'], to)}
        />
      </Section>
      <Section title={t('settings.ways')} text={t('settings.waysText')}>
        {WAYS.map((w) => (
          <Box
            key={w}
            component="label"
            sx={{ display: 'flex', gap: 0.75, fontSize: '0.9rem', alignItems: 'center' }}>
            <input
              type="checkbox"
              checked={settings.ways.includes(w)}
              onChange={(e) => {
                const next = e.target.checked ? [...settings.ways, w] : settings.ways.filter((x) => x !== w);
                if (next.length > 0) set(['ways'], next);
              }}
            />
            {t(`way.${w}`)}
          </Box>
        ))}
      </Section>
      <Section title={t('settings.hurdles')} text={t('settings.hurdlesText')}>
        <Box sx={{ display: 'grid', gap: 1.5, width: '100%' }}>
          {settings.ways.map((w) => (
            <Box key={w}>
              <Box sx={{ fontWeight: 650, fontSize: '0.9rem' }}>{t(`way.${w}`)}</Box>
              {(settings.hurdles[w] ?? []).map((h, i) => (
                <Box
                  // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place alone
                  key={i}
                  sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-end', mb: 0.5 }}>
                  <ChoiceLine
                    label={t('settings.figure')}
                    value={h.figure}
                    options={HURDLE_FIGURES.map((x) => ({ value: x, label: t(`figure.${x}`) }))}
                    onChange={(v) => set(['hurdles', w, i, 'figure'], v)}
                    width={190}
                  />
                  <ChoiceLine
                    label={t('settings.bound')}
                    value={h.bound}
                    options={[
                      { value: 'atLeast', label: t('settings.atLeast') },
                      { value: 'atMost', label: t('settings.atMost') },
                    ]}
                    onChange={(v) => set(['hurdles', w, i, 'bound'], v)}
                    width={100}
                  />
                  <NumField
                    label={t('settings.level')}
                    value={h.level}
                    onChange={(v) => v !== null && set(['hurdles', w, i, 'level'], v)}
                    required
                    kind={hurdleKind(h.figure)}
                    currency={home}
                    min={-1e12}
                    width={110}
                  />
                  <NumField
                    label={t('settings.near')}
                    value={h.near}
                    onChange={(v) => set(['hurdles', w, i, 'near'], v ?? 0)}
                    kind="percent"
                    max={1}
                    width={110}
                  />
                  <Button
                    size="small"
                    sx={{ color: 'text.secondary', minWidth: 0 }}
                    aria-label={t('line.removeNumber', { n: i + 1 })}
                    onClick={() =>
                      set(
                        ['hurdles', w],
                        (settings.hurdles[w] ?? []).filter((_, j) => j !== i),
                      )
                    }>
                    {t('line.remove')}
                  </Button>
                </Box>
              ))}
              <NewHurdle
                add={t('settings.addHurdle')}
                figures={HURDLE_FIGURES}
                home={home}
                onAdd={(h) => set(['hurdles', w], [...(settings.hurdles[w] ?? []), h])}
              />
            </Box>
          ))}
        </Box>
      </Section>
      <Section title={t('settings.defaults')} text={t('settings.defaultsText')}>
        {num(['defaults', 'orderQuantity'], t('form.orderQuantity'), 'number')}
        {num(['defaults', 'monthlyUnits'], t('form.unitsMonth'), 'number')}
        {num(['defaults', 'prep'], t('form.prep'), 'money')}
        {num(['defaults', 'mainFreightPerCbm'], t('settings.mainFreight'), 'money')}
        {num(['defaults', 'inboundPerUnit'], t('settings.inbound'), 'money')}
        {num(['defaults', 'postagePerParcel'], t('settings.postage'), 'money')}
        {num(['defaults', 'returnRate'], t('form.returnRate'), 'percent')}
        {num(['defaults', 'resaleShare'], t('form.resaleShare'), 'percent', false)}
        {num(['defaults', 'returnHandling'], t('form.handling'), 'money', false)}
        {num(['defaults', 'clickLow'], t('form.cpcLow'), 'money')}
        {num(['defaults', 'clickHigh'], t('form.cpcHigh'), 'money')}
        {num(['defaults', 'conversionRate'], t('form.conversion'), 'percent')}
        {num(['defaults', 'adShare'], t('form.adShare'), 'percent', false, 180)}
        {num(['defaults', 'leadDays'], t('form.leadDays'), 'number', false)}
        {num(['defaults', 'transitDays'], t('form.transitDays'), 'number', false)}
      </Section>
      <Section title={t('settings.members')} id="members">
        <Box sx={{ width: '100%' }}>
          {said?.error && (
            <Alert severity="error" sx={{ mb: 1 }}>
              {t([`settings.errors.${said.error}`, 'account.errors.FAILED'])}
            </Alert>
          )}
          {said?.link && (
            <Alert severity="info" sx={{ mb: 1, overflowWrap: 'anywhere' }}>
              {t('settings.resetLink')} <code>{said.link}</code>
            </Alert>
          )}
          {members.map((m) => (
            <Box
              key={m.id}
              sx={{
                display: 'flex',
                gap: 1.5,
                alignItems: 'center',
                py: 0.5,
                flexWrap: 'wrap',
                borderBottom: '1px solid',
                borderColor: 'hairline',
              }}>
              <Box sx={{ minWidth: 240 }}>
                <b>{m.name}</b>{' '}
                <Box component="span" sx={{ color: 'text.secondary' }}>
                  {m.email}
                </Box>
              </Box>
              <span>{t(`roles.${m.role}`)}</span>
              {owner && m.userId !== me && (
                <>
                  {ROLES.filter((r) => r !== m.role).map((r) => (
                    <Act
                      key={r}
                      intent="role"
                      id={m.id}
                      role={r}
                      label={t('settings.makeRole', { role: t(`roles.${r}`).toLowerCase() })}
                    />
                  ))}
                  <Act intent="resetLink" id={m.id} label={t('settings.makeReset')} />
                  <Act intent="remove" id={m.id} label={t('line.remove')} />
                </>
              )}
            </Box>
          ))}
          {invitations.map((i) => (
            <Box
              key={i.id}
              sx={{
                py: 0.75,
                fontSize: '0.86rem',
                borderBottom: '1px solid',
                borderColor: 'hairline',
                overflowWrap: 'anywhere',
              }}>
              {t('settings.invited', {
                email: i.email,
                role: t(`roles.${i.role ?? 'viewer'}`).toLowerCase(),
              })}{' '}
              <code>{i.link}</code> <Act intent="uninvite" id={i.id} label={t('settings.takeBack')} />
            </Box>
          ))}
          {owner && <Invite said={said ?? undefined} />}
        </Box>
      </Section>
      <Section title={t('settings.all')} id="export">
        <Button variant="outlined" href={`/w/${head.slug}/export`} download>
          {t('settings.export')}
        </Button>
        <Form method="post">
          <input type="hidden" name="intent" value="leave" />
          <Button type="submit">{t('settings.leave')}</Button>
        </Form>
        {owner && (
          <Button color="error" onClick={() => setAsking(true)}>
            {t('settings.delete')}
          </Button>
        )}
      </Section>
      {asking && (
        <Dialog open onClose={() => setAsking(false)}>
          <DialogTitle>{t('settings.deleteTitle', { name: head.name })}</DialogTitle>
          <DialogContent>
            <Typography>{t('settings.deleteText')}</Typography>
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setAsking(false)}>{t('cancel')}</Button>
            <Form method="post">
              <input type="hidden" name="intent" value="delete" />
              <Button type="submit" color="error" variant="contained">
                {t('settings.delete')}
              </Button>
            </Form>
          </DialogActions>
        </Dialog>
      )}
    </Box>
  );
}

function Section({
  title,
  text,
  id,
  children,
}: {
  title: string;
  text?: string;
  id?: string;
  children: ReactNode;
}) {
  return (
    <Box component="section" id={id} sx={{ mt: 3.5 }}>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {title}
      </Typography>
      {text && (
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1, maxWidth: 640 }}>
          {text}
        </Typography>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, rowGap: 1.5, alignItems: 'flex-end' }}>
        {children}
      </Box>
    </Box>
  );
}

function Invite({ said }: { said: FormAnswer | undefined }) {
  const { t } = useTranslation();
  const form = useRecordForm(invitationForm, said);
  const { begins, wrong } = form.field('email');
  return (
    <Form method="post" {...form.props}>
      <Box sx={{ display: 'flex', gap: 1.5, mt: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <input type="hidden" name="intent" value="invite" />
        <TextField
          name="email"
          type="email"
          required
          label={t('settings.inviteEmail')}
          defaultValue={begins}
          error={wrong !== undefined}
          helperText={wrong}
          sx={{ width: 260 }}
          fullWidth={false}
          slotProps={{ inputLabel: { required: false } }}
        />
        <TextField
          select
          name="role"
          label={t('settings.role')}
          defaultValue="editor"
          sx={{ width: 130 }}
          fullWidth={false}>
          {ROLES.map((r) => (
            <MenuItem key={r} value={r}>
              {t(`roles.${r}`)}
            </MenuItem>
          ))}
        </TextField>
        <Button type="submit" variant="outlined">
          {t('settings.invite')}
        </Button>
      </Box>
    </Form>
  );
}

function Act({ intent, id, role, label }: { intent: string; id: string; role?: string; label: string }) {
  return (
    <Form method="post" style={{ display: 'inline' }} preventScrollReset>
      <input type="hidden" name="intent" value={intent} />
      <input type="hidden" name="id" value={id} />
      {role && <input type="hidden" name="role" value={role} />}
      <Button type="submit" size="small">
        {label}
      </Button>
    </Form>
  );
}
