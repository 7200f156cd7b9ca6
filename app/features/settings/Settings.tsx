import { Box, Typography } from '@mui/material';
import { useState } from 'react';
import { useFetcher } from 'react-router';
import { WAYS } from '../../../core/lane/choices.ts';
import { valueAt, withValueAt } from '../../../core/workspace/patch.ts';
import type { Path } from '../../../core/workspace/patch.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import type { FormAnswer } from '../../ui/forms.ts';
import { FieldShell, fieldLook, NumField } from '../../ui/Field.tsx';
import type { NumberKind } from '../../ui/Field.tsx';
import { useCountries, useCurrencies } from '../../ui/names.ts';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import type { WorkspaceHead } from '../frame/Shell.tsx';
import { Standings } from './Standings.tsx';
import { Hurdles } from './Hurdles.tsx';
import { rangeWidths } from '../../../core/risk/offered.ts';
import type { RangeWidths } from '../../../core/risk/offered.ts';
import { EvidenceLevels } from './EvidenceLevels.tsx';
import { FeedSettings } from './FeedSettings.tsx';
import type { FeedShown } from './FeedSettings.tsx';
import { Members } from './Members.tsx';
import { NoticeChoice } from './NoticeChoice.tsx';
import type { NoticesByMail } from './NoticeChoice.tsx';
import { Section } from './Section.tsx';
import { WholeWorkspace } from './WholeWorkspace.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  settings: Settings;
  me: string;
  members: { id: string; userId: string; role: string; name: string; email: string }[];
  invitations: { id: string; email: string; role: string | null; link: string }[];
  countries: string[];
  feed: FeedShown;
  byMail: NoticesByMail;
  said: (FormAnswer & { error: string | null; link: string | null }) | null;
  head: WorkspaceHead;
};

/** Ways a figure may be known, the least sure first. */
const WIDTHS = Object.keys(rangeWidths.shape) as (keyof RangeWidths)[];

/** What the workspace decides once; each change is saved where it stands. */
export function SettingsPage({
  settings: loaded,
  me,
  members,
  invitations,
  countries,
  feed,
  byMail,
  said,
  head,
}: Props) {
  const { t } = useWords();
  const [everyCountry, everyCurrency] = [useCountries(), useCurrencies()];
  const fetcher = useFetcher<{ error: string | null }>({ key: 'settings' });
  const [settings, setSettings] = useState(loaded);
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
        <FieldShell label={t('settings.letterhead')} width={260}>
          {({ id }) => (
            <textarea
              id={id}
              rows={3}
              maxLength={1000}
              value={settings.letterhead}
              onChange={(e) => set(['letterhead'], e.target.value)}
              style={{ ...fieldLook, height: 'auto' }}
            />
          )}
        </FieldShell>
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
      <Hurdles settings={settings} home={home} set={set} />
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
      <FeedSettings feed={feed} slug={head.slug} canEdit={owner} />
      <Section title={t('settings.widths')} text={t('settings.widthsText')}>
        {WIDTHS.map((source) => num(['widths', source], t(`source.${source}`), 'percent', false))}
      </Section>
      <Section title={t('settings.drift')} text={t('settings.driftText')}>
        {num(['drift', 'share'], t('settings.driftShare'), 'percent', false)}
        {num(['drift', 'amount'], t('settings.driftAmount'), 'money', false)}
        {num(['drift', 'units'], t('settings.driftUnits'), 'number', false)}
      </Section>
      <EvidenceLevels settings={settings} set={set} num={num} />
      <NoticeChoice byMail={byMail} slug={head.slug} />
      <Members me={me} members={members} invitations={invitations} said={said} owner={owner} />
      <WholeWorkspace head={head} owner={owner} />
    </Box>
  );
}
