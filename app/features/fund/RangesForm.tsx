/** Ranges of what is not certain: typed, or taken from those that are offered. */
import { Box, Button } from '@mui/material';
import { useMemo, useState } from 'react';
import { RISK_INPUTS } from '../../../core/risk/schema.ts';
import type { Range, RiskInput, SureTerms } from '../../../core/risk/schema.ts';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { saveJson } from '../../ui/saveText.ts';
import { Pane } from '../weigh/Pane.tsx';
import type { AheadPart } from './fundParts.tsx';
import { offeredFor, withOffered } from './offered.ts';
import { rangesOf } from './sureOf.ts';
import { useInputText } from './useInputText.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = { part: AheadPart; sure: SureTerms; change: (more: Partial<SureTerms>) => void };

export function RangesForm({ part, sure, change }: Props) {
  const { t } = useWords();
  const { view, settings, plan, candidate } = part;
  const { cards, markets, learned, today } = part;
  const offered = useMemo(
    () => offeredFor({ settings, cards, markets, learned, today }, view),
    [settings, cards, markets, learned, today, view],
  );
  const set = (input: RiskInput, range: Range | null): void =>
    change({ ranges: { ...sure.ranges, [input]: range } });
  return (
    <Pane
      title={t('sure.ranges')}
      aside={
        <Box className="no-print" sx={{ display: 'flex', justifyContent: 'flex-end' }}>
          <Button size="small" onClick={() => change(withOffered(sure, offered))}>
            {t('sure.takeAll')}
          </Button>
          <Button
            size="small"
            onClick={() =>
              saveJson(
                `${candidate.name}.ranges.json`,
                rangesOf(sure, settings.hurdles[candidate.way] ?? [], plan),
              )
            }>
            {t('sure.file')}
          </Button>
        </Box>
      }>
      <FigureTable label={t('sure.ranges')}>
        <thead>
          <tr>
            <HiddenHead>{t('sure.ranges')}</HiddenHead>
            {(['low', 'likely', 'high'] as const).map((k) => (
              <th scope="col" key={k}>
                {t(`sure.${k}`)}
              </th>
            ))}
            <HiddenHead>{t('sure.offer')}</HiddenHead>
          </tr>
        </thead>
        <tbody>
          {RISK_INPUTS.map((input) => (
            <RangeRow
              key={input}
              part={part}
              input={input}
              range={sure.ranges[input]}
              offered={offered[input]}
              onChange={(r) => set(input, r)}
            />
          ))}
        </tbody>
      </FigureTable>
      <Drawing sure={sure} change={change} />
    </Pane>
  );
}

const PERCENT: ReadonlySet<RiskInput> = new Set(['returnRate']);
type RowProps = {
  part: AheadPart;
  input: RiskInput;
  range: Range | null;
  offered: { range: Range; source: string; learned?: true } | undefined;
  onChange: (range: Range | null) => void;
};

/** A range while it is typed: it is kept once all three are there and in order. */
function RangeRow({ part, input, range, offered, onChange }: RowProps) {
  const { t } = useWords();
  const [typed, setTyped] = useState<Partial<Range>>({});
  const inputText = useInputText(part.view.doc);
  const shown = { ...range, ...typed };
  const { low, likely, high } = shown;
  const isWhole = low !== undefined && likely !== undefined && high !== undefined;
  const isWrong = isWhole && !(low <= likely && likely <= high);
  const type = (key: keyof Range, x: number | null): void => {
    const next = { ...shown, [key]: x ?? undefined };
    if (x === null) {
      setTyped(next as Partial<Range>);
      return;
    }
    const { low: l, likely: m, high: h } = next;
    if (l !== undefined && m !== undefined && h !== undefined && l <= m && m <= h) {
      setTyped({});
      onChange({ low: l, likely: m, high: h });
    } else setTyped(next as Partial<Range>);
  };
  const name = t(`sure.input.${input}`);
  const at = (x: number | undefined): string => inputText(input, x ?? 0);
  const take = t('sure.take', { low: at(offered?.range.low), high: at(offered?.range.high) });
  return (
    <tr>
      <th scope="row">
        {name}
        {isWrong && (
          <Box role="alert" sx={{ color: 'error.main', fontSize: '0.78rem' }}>
            {t('sure.outOfOrder')}
          </Box>
        )}
      </th>
      {(['low', 'likely', 'high'] as const).map((k) => (
        <td key={k}>
          <NumField
            label={`${name}: ${t(`sure.${k}`)}`}
            value={shown[k] ?? null}
            onChange={(x) => type(k, x)}
            kind={PERCENT.has(input) ? 'percent' : 'number'}
            max={PERCENT.has(input) ? 0.99 : 1e9}
            width={78}
            inTable
          />
        </td>
      ))}
      <td className="text">
        {range !== null && (
          <button
            type="button"
            className="figure"
            aria-label={`${name}: ${t('sure.clear')}`}
            onClick={() => {
              setTyped({});
              onChange(null);
            }}>
            {t('sure.clear')}
          </button>
        )}{' '}
        {offered !== undefined && range === null && (
          <>
            <button
              type="button"
              className="figure"
              aria-label={`${name}: ${take}`}
              onClick={() => {
                setTyped({});
                onChange(offered.range);
              }}>
              {take}
            </button>{' '}
            <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.78rem' }}>
              {offered.learned
                ? t('sure.learned')
                : t('sure.from', { source: t(`source.${offered.source}`) })}
            </Box>
          </>
        )}
      </td>
    </tr>
  );
}

/** How it is drawn: shape, how often, the seed that brings the same numbers again, months on sale. */
function Drawing({ sure, change }: Omit<Props, 'part'>) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, mt: 1 }}>
      <ChoiceLine
        label={t('sure.shape')}
        value={sure.shape}
        options={(['triangular', 'pert'] as const).map((k) => ({ value: k, label: t(`sure.shapes.${k}`) }))}
        onChange={(shape) => change({ shape })}
        width={140}
      />
      <ChoiceLine
        label={t('sure.draws')}
        value={String(sure.draws)}
        options={[...new Set([1000, 10_000, 50_000, sure.draws])].map((n) => ({
          value: String(n),
          label: f.number(n),
        }))}
        onChange={(n) => change({ draws: Number(n) })}
        width={110}
      />
      <NumField
        label={t('sure.seed')}
        value={sure.seed}
        onChange={(x) => change({ seed: x ?? 1 })}
        kind="number"
        whole
        width={90}
      />
      <NumField
        label={t('sure.months')}
        value={sure.months}
        onChange={(x) => change({ months: x ?? 12 })}
        kind="number"
        max={600}
        width={120}
      />
      <NumField
        label={t('sure.salvage')}
        value={sure.salvage}
        onChange={(x) => change({ salvage: x ?? 0 })}
        kind="percent"
        max={1}
        width={140}
      />
    </Box>
  );
}
