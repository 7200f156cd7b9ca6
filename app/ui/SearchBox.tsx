/** What a choice of many becomes while one searches: a field and the options that hold what was typed. */
import { Autocomplete } from '@mui/material';
import { useState } from 'react';
import { fieldLook } from './Field.tsx';
import type { Option } from './SearchChoice.tsx';
import { useWords } from './useWords.ts';

export type SearchBoxProps = {
  id: string;
  value: string;
  /** What was typed before this stood here. */
  typed: string;
  options: readonly Option[];
  onChoose: (value: string) => void;
  onLeave: () => void;
};

export default function SearchBox({ id, value, typed, options, onChoose, onLeave }: SearchBoxProps) {
  const { t } = useWords();
  const current = options.find((o) => o.value === value) ?? null;
  const [text, setText] = useState(typed === '' ? (current?.label ?? '') : typed);
  return (
    <Autocomplete
      id={id}
      options={options}
      value={current}
      inputValue={text}
      onInputChange={(_, next, reason) => reason !== 'reset' && setText(next)}
      onChange={(_, option) => option !== null && onChoose(option.value)}
      onBlur={onLeave}
      isOptionEqualToValue={(a, b) => a.value === b.value}
      getOptionKey={(o) => o.value}
      openOnFocus
      autoHighlight
      blurOnSelect
      disableClearable={current !== null}
      noOptionsText={t('field.noSuchOption')}
      slotProps={{ popper: { sx: { minWidth: 240 } }, listbox: { sx: { fontSize: '0.88rem' } } }}
      renderInput={(params) => (
        <div ref={params.slotProps.input.ref}>
          <input
            {...params.slotProps.htmlInput}
            // It takes the place of the field that was just focused.
            // biome-ignore lint/a11y/noAutofocus: the focus is here already
            autoFocus
            type="text"
            onFocus={(e) => {
              params.slotProps.htmlInput.onFocus?.(e);
              if (typed === '') e.target.select();
            }}
            style={fieldLook}
          />
        </div>
      )}
    />
  );
}
