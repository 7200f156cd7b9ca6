/** A lane on sale in a row: how it stands, its plan over what came, what is to be decided. */
import { Link } from 'react-router';
import type { LaneBook } from '../../../core/actuals/book.ts';
import type { Stands } from '../../../core/actuals/compare.ts';
import type { Gist } from '../../../core/actuals/gist.ts';
import type { Stopped } from '../../../core/actuals/letGo.ts';
import type { Stock } from '../../../core/actuals/stock.ts';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import { Decisions, StandsSaid, TwoBars } from './parts.tsx';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

export type LaunchedLine = Pick<LaneBook, 'until' | 'stands' | 'lately' | 'gist' | 'stock' | 'decisions'> & {
  readonly laneId: string;
  readonly name: string;
  readonly place: string;
  readonly codes: readonly string[];
  readonly since: string;
  readonly stopped: Stopped | null;
};

/** How a lane stands now: by its last two periods, where they were settled. */
export const nowOf = (l: LaunchedLine): { stands: Stands; gist: Gist | null } => l.lately ?? l;

export function LaunchedRow({ lane, base, home }: { lane: LaunchedLine; base: string; home: string }) {
  const { t } = useWords();
  const f = useFormat();
  const { stands, gist } = nowOf(lane);
  const changed = lane.lately !== null && lane.stands.standing !== stands.standing;
  return (
    <article className="on-sale" aria-label={lane.name}>
      <div>
        <Link className="on-sale-name" to={`${base}/selling/${lane.laneId}`}>
          <bdi>{lane.name}</bdi>
        </Link>
        <p className="quiet">
          {lane.place.replace('/', ' ')} · {t('selling.onSaleSince', { day: f.day(lane.since) })}
          {lane.until !== null && `, ${t('selling.until', { day: f.day(lane.until) })}`}
        </p>
        {lane.stopped === null ? (
          <StandsSaid
            stands={stands}
            currency={gist?.currency ?? null}
            advises={lane.decisions.length === 0}
            isPart={(gist?.actual.lacks.length ?? 0) > 0}
          />
        ) : (
          <p>
            {t('selling.stopped', {
              day: f.day(lane.stopped.day),
              reason: t(`selling.reason.${lane.stopped.reason}`),
            })}
          </p>
        )}
        {changed && lane.stopped === null && (
          <p className="quiet">{t(`selling.before.${lane.stands.standing}`)}</p>
        )}
      </div>
      {gist !== null && (
        <div>
          <TwoBars gist={gist} />
          {lane.lately !== null && (
            <p className="two-bars-of">
              {t('selling.lately', { from: f.day(lane.lately.from), to: f.day(lane.lately.to) })}
            </p>
          )}
          <Decisions decisions={lane.decisions} currency={gist.currency} home={home} />
        </div>
      )}
      {gist !== null && <Figures gist={gist} stock={lane.stock} />}
    </article>
  );
}

/** Profit of a unit and units, planned and actual; what the difference comes to; what is on the shelf. */
function Figures({ gist: g, stock }: { gist: Gist; stock: Stock }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const planned =
    g.planned.unitProfit === null
      ? '–'
      : bounds.of(f.money(g.planned.unitProfit, g.currency), g.planned.lacks as never);
  return (
    <dl className="on-sale-figures">
      <div>
        <dt>{t('selling.unitProfit')}</dt>
        <dd>
          {planned} → <b>{bounds.of(f.money(g.actual.unitProfit, g.currency), g.actual.lacks as never)}</b>
        </dd>
      </div>
      <div>
        <dt>{t('selling.units')}</dt>
        <dd>
          {f.number(g.planned.units, 0)} → <b>{f.number(g.actual.units, 0)}</b>
        </dd>
      </div>
      {g.difference !== null && (
        <div>
          <dt>{t('selling.difference')}</dt>
          <dd>
            <b className={g.difference < 0 ? 'loss' : ''}>
              {g.difference > 0 && '+'}
              {f.money(g.difference, g.currency)}
            </b>
          </dd>
        </div>
      )}
      {stock.units !== null && (
        <div>
          <dt>{t('selling.onShelf')}</dt>
          <dd>
            {f.number(stock.units, 0)}
            {stock.value !== null && ` · ${f.money(stock.value, g.currency)}`}
          </dd>
        </div>
      )}
    </dl>
  );
}
