/** The field of the cell that is edited. */
import { useRef, useState } from 'react';
import type { Column } from '../../../core/cards/cells.ts';
import { choiceWord } from './choiceWords.ts';
import { useCountries, useCurrencies } from '../../ui/names.ts';
import type { Option } from '../../ui/SearchChoice.tsx';
import { useWords } from '../../ui/useWords.ts';

export const align = (c: Column): 'left' | 'right' =>
  ['number', 'share', 'rate', 'days', 'month'].includes(c.kind) ? 'right' : 'left';

export function CellInput({
  column,
  initial,
  onCommit,
  onCancel,
}: {
  column: Column;
  initial: string;
  onCommit: (value: string, dRow: number, dColumn: number) => void;
  onCancel: () => void;
}) {
  const [value, setValue] = useState(initial);
  const done = useRef(false);
  const options = useOptions(column);
  const finish = (dRow: number, dColumn: number): void => {
    if (done.current) return;
    done.current = true;
    onCommit(value, dRow, dColumn);
  };
  return (
    <>
      <input
        // biome-ignore lint/a11y/noAutofocus: the cell that is edited takes over the keys
        autoFocus
        value={value}
        aria-label={column.key}
        list={options.length > 0 ? 'cell-choices' : undefined}
        onChange={(e) => setValue(e.target.value)}
        onBlur={() => finish(0, 0)}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') {
            e.preventDefault();
            finish(e.shiftKey ? -1 : 1, 0);
          } else if (e.key === 'Tab') {
            e.preventDefault();
            finish(0, e.shiftKey ? -1 : 1);
          } else if (e.key === 'Escape') {
            done.current = true;
            onCancel();
          }
        }}
        style={{ textAlign: align(column) }}
      />
      {options.length > 0 && (
        <datalist id="cell-choices">
          {options.map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </datalist>
      )}
    </>
  );
}

/** What a cell may hold, where that is a list: the choices of its column, every country, every currency. */
function useOptions(column: Column): readonly Option[] {
  const countries = useCountries();
  const currencies = useCurrencies();
  const { t } = useWords();
  switch (column.kind) {
    case 'country':
    case 'countries':
      return countries;
    case 'currency':
      return currencies;
    default:
      return (column.choices ?? []).map((c) => {
        const word = choiceWord(t, column, c);
        return { value: word, label: word };
      });
  }
}
