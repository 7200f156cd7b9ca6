import { Typography } from '@mui/material';
import { Opened } from '../../ui/Opened.tsx';
import { lazy, Suspense, useState } from 'react';
import type { MouseEvent, ReactNode } from 'react';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { workings } from '../../../core/lane/workings.ts';
import type { Working } from '../../../core/lane/workings.ts';
import { useWords } from '../../ui/useWords.ts';

/** Loaded when workings are first opened. */
const WorkingSteps = lazy(() => import('./WorkingSteps.tsx'));

type ExplainProps = {
  label: string;
  currency: string;
  amountCurrency?: string;
  steps: () => readonly Working[];
  children: ReactNode;
};

/** A number that opens its workings: the formula with the numbers in it, and where each came from. */
export function Explain({ label, currency, amountCurrency = currency, steps, children }: ExplainProps) {
  const { t } = useWords();
  const [open, setOpen] = useState<{ el: HTMLElement; steps: readonly Working[] } | null>(null);
  return (
    <>
      <button
        type="button"
        className="figure"
        aria-label={t('workings.open', { figure: label })}
        aria-haspopup="dialog"
        onClick={(e: MouseEvent<HTMLElement>) => {
          e.stopPropagation();
          setOpen({ el: e.currentTarget, steps: steps() });
        }}>
        {children}
      </button>
      {open !== null && (
        <Opened
          at={open.el}
          label={t('workings.of', { figure: label })}
          title={label}
          onClose={() => setOpen(null)}>
          {open.steps.length === 0 && <Typography variant="body2">{t('workings.none')}</Typography>}
          <Suspense fallback={null}>
            <WorkingSteps steps={open.steps} currency={currency} amountCurrency={amountCurrency} />
          </Suspense>
        </Opened>
      )}
    </>
  );
}

/** A line or figure of a lane that opens its workings. */
export function Figure({
  doc,
  of,
  children,
  label,
}: {
  doc: LaneDocument;
  of: string;
  children: ReactNode;
  label: string;
}) {
  return (
    <Explain label={label} currency={doc.currency} steps={() => workings(doc)[of] ?? []}>
      {children}
    </Explain>
  );
}
