import { useRef, useState } from 'react';
import type { Column } from '../../../core/cards/cells.ts';

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
        list={column.choices ? 'cell-choices' : undefined}
        onChange={(e) => setValue(e.target.value)}
        onBlur={() => finish(0, 0)}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') e.preventDefault(), finish(e.shiftKey ? -1 : 1, 0);
          else if (e.key === 'Tab') e.preventDefault(), finish(0, e.shiftKey ? -1 : 1);
          else if (e.key === 'Escape') {
            done.current = true;
            onCancel();
          }
        }}
        style={{ textAlign: align(column) }}
      />
      {column.choices && (
        <datalist id="cell-choices">
          {column.choices.map((c) => (
            <option key={c} value={c} />
          ))}
        </datalist>
      )}
    </>
  );
}
