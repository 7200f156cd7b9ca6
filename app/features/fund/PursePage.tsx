/** Several launches from one purse: which, how many of each, in which week, and what is left out. */
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import equal from 'fast-deep-equal';
import { useMemo } from 'react';
import type { PurseAnswered } from '../../../between/purseWork.ts';
import type { PurseDocument } from '../../../core/purse/schema.ts';
import { purseOfWorkspace } from '../../../core/workspace/purse.ts';
import type { PurseSource } from '../../../core/workspace/purse.ts';
import { useFormat } from '../../ui/locale.ts';
import { AdoptPlan } from './AdoptPlan.tsx';
import { CashFields } from './CashFields.tsx';
import { FewOrMany } from './FewOrMany.tsx';
import { FundWays } from './FundWays.tsx';
import { PurseAnswer } from './PurseAnswer.tsx';
import { PurseCalendar } from './PurseCalendar.tsx';
import { PurseCurve } from './PurseCurve.tsx';
import { PurseLanes } from './PurseLanes.tsx';
import { PurseRuleFields } from './PurseRuleFields.tsx';
import { PurseTable } from './PurseTable.tsx';
import { PurseSides } from './PurseSides.tsx';
import { ServerPurse } from './ServerPurse.tsx';
import type { PurseStep } from '../../../between/solvingPurse.ts';
import { useLaneName } from './useLaneName.ts';
import { usePurse } from './usePurse.ts';
import type { PurseState } from './usePurse.ts';
import { usePurseRules } from './usePurseRules.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = { source: PurseSource; answered?: PurseAnswered | null; canEdit: boolean; base: string };

/** Lanes that a browser solves while one waits. */
const MOST_HERE = 60;

export function PursePage({ source, answered = null, canEdit, base }: Props) {
  const { t } = useWords();
  const home = source.settings.homeCurrency;
  const rules = usePurseRules(source, base, canEdit);
  const { document, kept, change } = rules;
  const isWrong = kept.cash !== null && kept.reserve > kept.cash;
  const wrong = isWrong ? t('purse.reserveOver') : null;
  const asked = useMemo(
    () => (kept.cash === null || isWrong || document.lanes.length === 0 ? null : document),
    [document, kept.cash, isWrong],
  );
  const fromServer = useServerStep(source, answered, asked);
  const isMany = fromServer === null && document.lanes.length > MOST_HERE;
  const here = usePurse(fromServer !== null || isMany ? null : asked);
  const { step, state, stop } =
    fromServer === null ? here : { ...here, step: fromServer, state: 'idle' as const };
  const said = asked === null || isMany ? null : (step?.said ?? null);
  const nameOf = useLaneName(document);
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 1.5 }}>
        <Typography variant="h1" sx={{ mr: 1 }}>
          {t('purse.title')}
        </Typography>
        <CashFields money={kept} set={change} currency={home} wrong={wrong} />
        <Box
          role="status"
          sx={{
            fontSize: '0.82rem',
            color: rules.error === null ? 'text.secondary' : 'error.main',
            ml: 'auto',
          }}>
          {rules.error ?? t(`saving.${rules.state}`)} · <Progress step={step} state={state} onStop={stop} />
        </Box>
      </Box>
      <FundWays base={base} candidate={null} lane={null} here="purse" />
      {state === 'working' && step !== null && step.all > 0 && (
        <LinearProgress
          variant="determinate"
          value={(100 * step.done) / step.all}
          aria-label={t('purse.working')}
        />
      )}
      <PurseAnswer
        said={said?.plan ?? null}
        step={step}
        state={state}
        document={document}
        money={kept.cash}
        wrong={wrong}
        isMany={isMany}
        nameOf={nameOf}
      />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) 320px' },
          columnGap: 4,
        }}>
        <Box>
          {said?.plan.feasible && (
            <>
              <PurseCalendar
                plan={said.plan}
                document={document}
                rules={rules}
                nameOf={nameOf}
                currency={home}
              />
              <PurseTable plan={said.plan} document={document} nameOf={nameOf} currency={home} />
            </>
          )}
          <PurseRuleFields rules={rules} nameOf={nameOf} today={source.today} />
          {asked !== null && (
            <ServerPurse
              answered={answered}
              isShown={fromServer !== null}
              isSaved={rules.state === 'saved'}
              canEdit={canEdit}
              base={base}
            />
          )}
          {said !== null && said.curve.length > 1 && (
            <PurseCurve curve={said.curve} cash={document.cash} currency={home} />
          )}
          {kept.cash !== null && <FewOrMany document={document} nameOf={nameOf} currency={home} />}
          <PurseLanes source={source} rules={rules} />
        </Box>
        <Box>
          {said !== null && <PurseSides said={said} nameOf={nameOf} currency={home} />}
          {said?.plan.feasible && (
            <AdoptPlan plan={said.plan} document={document} base={base} canEdit={canEdit} />
          )}
        </Box>
      </Box>
    </Box>
  );
}

/** What the server said, where it is about the very purse that stands on the page. */
function useServerStep(
  source: PurseSource,
  answered: PurseAnswered | null,
  asked: PurseDocument | null,
): PurseStep | null {
  const said = answered?.isCurrent ? answered.said : null;
  const stored = useMemo(() => (said === null ? null : purseOfWorkspace(source)), [source, said]);
  return useMemo(() => {
    if (said === null || stored === null || asked === null) return null;
    // However long a solver may think here, it is the same purse.
    if (!equal({ ...stored, seconds: 0 }, { ...asked, seconds: 0 })) return null;
    return { said, stage: 'done', done: 0, all: 0, seconds: answered?.took ?? 0 };
  }, [said, stored, asked, answered?.took]);
}

function Progress({
  step,
  state,
  onStop,
}: {
  step: PurseStep | null;
  state: PurseState;
  onStop: () => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  if (state === 'working')
    return (
      <>
        {step?.stage === 'options'
          ? t('purse.options', { done: step.done, all: step.all })
          : t('purse.working')}{' '}
        <Button size="small" onClick={onStop}>
          {t('purse.cancel')}
        </Button>
      </>
    );
  return step === null ? null : t('purse.solvedIn', { seconds: f.number(step.seconds, 1) });
}
