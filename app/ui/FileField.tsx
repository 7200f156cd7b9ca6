/** The field behind a button that opens the device's choice of a file: hidden, found by its label. */
import type { RefObject } from 'react';

type Props = {
  /** A press of the caller's own button opens it: `ref.current?.click()`. */
  ref: RefObject<HTMLInputElement | null>;
  label: string;
  accept: string;
  onFile: (file: File) => void;
};

/** The same file can be chosen twice, as one does that was mended meanwhile. */
export function FileField({ ref, label, accept, onFile }: Props) {
  return (
    <input
      ref={ref}
      type="file"
      accept={accept}
      aria-label={label}
      hidden
      onChange={(e) => {
        const file = e.target.files?.[0];
        if (file !== undefined) onFile(file);
        e.target.value = '';
      }}
    />
  );
}
