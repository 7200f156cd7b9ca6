/** The limits of Weigh, each with what it takes away. */
import { Box, Button } from '@mui/material';
import { STAGES_OF_WORK } from '../../../core/workspace/records.ts';
import type { SetAddress } from '../../ui/useAddress.ts';
import { Limit, Pick } from './WeighLimits.tsx';
import { LIMITS } from './weighed.ts';
import type { CandidateLine, Weighed } from './weighed.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  lines: readonly CandidateLine[];
  search: URLSearchParams;
  set: SetAddress;
  takes: Weighed['takes'];
};

export function WeighFilters({ lines, search, set, takes }: Props) {
  const { t } = useWords();
  const show = search.get('show') ?? 'live';
  const tags = [...new Set(lines.flatMap((l) => l.tags))].sort();
  return (
    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 1.5, alignItems: 'center' }} role="search">
      <Limit
        label={t('weigh.words')}
        value={search.get('q') ?? ''}
        onChange={(v) => set({ q: v })}
        width={84}
        takes={takes('q')}
      />
      <Pick
        label={t('weigh.way')}
        value={search.get('way') ?? ''}
        options={['ownBrand', 'retail', 'wholesale', 'supplierShips', 'feeCheck'].map((w) => [
          w,
          t(`way.${w}`),
        ])}
        onChange={(v) => set({ way: v })}
        takes={takes('way')}
      />
      <Pick
        label={t('weigh.stage')}
        value={search.get('stage') ?? ''}
        options={STAGES_OF_WORK.map((w) => [w, t(`stageOfWork.${w}`)])}
        onChange={(v) => set({ stage: v })}
        takes={takes('stage')}
      />
      {tags.length > 0 && (
        <Pick
          label={t('weigh.tag')}
          value={search.get('tag') ?? ''}
          options={tags.map((x) => [x, x])}
          onChange={(v) => set({ tag: v })}
          takes={takes('tag')}
        />
      )}
      <Limit
        label={t('weigh.keepsAtLeast')}
        value={search.get('keeps') ?? ''}
        onChange={(v) => set({ keeps: v })}
        width={40}
        takes={takes('keeps')}
      />
      <Limit
        label={t('weigh.launchUpTo')}
        value={search.get('launch') ?? ''}
        onChange={(v) => set({ launch: v })}
        width={48}
        takes={takes('launch')}
      />
      <Pick
        label={t('weigh.show')}
        value={show === 'live' ? '' : show}
        none={t('weigh.live')}
        options={[
          ['archived', t('weigh.archived')],
          ['dropped', t('weigh.dropped')],
        ]}
        onChange={(v) => set({ show: v })}
        takes={0}
      />
      {LIMITS.some((k) => search.get(k)) && (
        <Button size="small" onClick={() => set(Object.fromEntries(LIMITS.map((k) => [k, null])))}>
          {t('weigh.clear')}
        </Button>
      )}
    </Box>
  );
}
