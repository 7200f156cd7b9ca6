/** Which notices come to oneself by mail; each tick is kept where it is set. */
import { Alert, Box } from '@mui/material';
import { useRef, useState } from 'react';
import { noticeGroups } from '../../../core/workspace/notices.ts';
import type { NoticeGroup } from '../../../core/workspace/notices.ts';
import { tell } from '../../ui/client.ts';
import { useInOrder } from '../../ui/useInOrder.ts';
import { useNotDone } from '../../ui/useNotDone.ts';
import { Section } from './Section.tsx';
import { useWords } from '../../ui/useWords.ts';

export type NoticesByMail = { groups: NoticeGroup[]; email: string; canMail: boolean };

export function NoticeChoice({ byMail, slug }: { byMail: NoticesByMail; slug: string }) {
  const { t } = useWords();
  const notDone = useNotDone();
  const [groups, setGroups] = useState(byMail.groups);
  const kept = useRef(byMail.groups);
  const [wrong, setWrong] = useState<string | null>(null);
  const inOrder = useInOrder();
  const keep = async (next: NoticeGroup[]): Promise<void> => {
    const told = await tell(`/w/${slug}/settings/notices`, { groups: next });
    setWrong(told.ok ? null : notDone(told));
    if (told.ok) kept.current = next;
    else setGroups(kept.current);
  };
  const choose = (group: NoticeGroup, isChosen: boolean): void => {
    const next = isChosen ? [...groups, group] : groups.filter((g) => g !== group);
    setGroups(next);
    void inOrder(() => keep(next));
  };
  return (
    <Section
      id="notices"
      title={t('noticeChoice.title')}
      text={t('noticeChoice.text', { email: byMail.email })}>
      <Box sx={{ display: 'grid', gap: 0.75, width: '100%' }}>
        {!byMail.canMail && <Alert severity="info">{t('noticeChoice.noServer')}</Alert>}
        {noticeGroups.options.map((group) => (
          <Box key={group} component="label" sx={{ display: 'flex', gap: 0.75, fontSize: '0.9rem' }}>
            <input
              type="checkbox"
              checked={groups.includes(group)}
              onChange={(e) => choose(group, e.target.checked)}
            />
            {t(`noticeChoice.group.${group}`)}
          </Box>
        ))}
        {wrong !== null && (
          <Alert role="status" severity="error">
            {wrong}
          </Alert>
        )}
      </Box>
    </Section>
  );
}
