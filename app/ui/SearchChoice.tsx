/** A choice of many, found by typing: countries, currencies, routes. */
import { useState } from 'react';
import type { ComponentType, InputHTMLAttributes } from 'react';
import { FieldShell, fieldLook } from './Field.tsx';
import type { SearchBoxProps } from './SearchBox.tsx';

/** What searches is loaded when a choice is first touched. */
let loaded: ComponentType<SearchBoxProps> | null = null;
const load = async (): Promise<void> => {
  loaded = (await import('./SearchBox.tsx')).default;
};

export type Option = { readonly value: string; readonly label: string };

export function SearchChoice({
  label,
  value,
  options,
  onChange,
  width = 150,
  tag,
  name,
}: {
  label: string;
  value: string;
  options: readonly Option[];
  onChange?: (value: string) => void;
  width?: number | string;
  tag?: string | undefined;
  /** Sends the value along with the form it stands in. */
  name?: string;
}) {
  /** What was typed so far, from the moment the field is touched. */
  const [typed, setTyped] = useState<string | null>(null);
  const [Box, setBox] = useState<ComponentType<SearchBoxProps> | null>(null);
  const [own, setOwn] = useState(value);
  const now = onChange === undefined ? own : value;
  const shown = options.find((o) => o.value === now)?.label ?? now;
  const touch = (text: string): void => {
    setTyped(text);
    // The field stays until what takes its place is there: no key is lost between them.
    if (loaded !== null) setBox(() => loaded);
    else void load().then(() => setBox(() => loaded));
  };
  const leave = (): void => {
    setTyped(null);
    setBox(null);
  };
  const choose = (v: string): void => {
    setOwn(v);
    leave();
    onChange?.(v);
  };
  return (
    <FieldShell label={label} tag={tag} width={width}>
      {({ id }) => (
        <>
          {Box === null || typed === null ? (
            <Closed
              id={id}
              value={typed === null || typed === '' ? shown : typed}
              onFocus={(e) => {
                e.target.select();
                touch('');
              }}
              onBlur={leave}
              onChange={(e) => touch(e.target.value)}
            />
          ) : (
            <Box id={id} value={now} typed={typed} options={options} onChoose={choose} onLeave={leave} />
          )}
          {name !== undefined && <input type="hidden" name={name} value={now} />}
        </>
      )}
    </FieldShell>
  );
}

/** The choice as it stands, before anybody searches. */
function Closed(props: InputHTMLAttributes<HTMLInputElement>) {
  return (
    <input
      {...props}
      type="text"
      role="combobox"
      aria-expanded={false}
      aria-haspopup="listbox"
      autoComplete="off"
      className="search-choice"
      title={String(props.value)}
      style={fieldLook}
    />
  );
}
