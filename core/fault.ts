/**
 * What is wrong with something that was given: a code and the values in it. Problem and remedy stand in the
 * catalogues (`words/`), so that core and server say nothing in any language.
 */
export type Detail = Readonly<Record<string, string | number>>;
export type Fault = { readonly code: string; readonly detail: Detail };

type Value = string | number | boolean | readonly string[] | null | undefined;

/** A fault as plain data; several words are told with commas between, a blank is an empty text. */
export function fault(code: string, detail: Readonly<Record<string, Value>> = {}): Fault {
  const told = ([name, v]: [string, Value]): [string, string | number] => [
    name,
    typeof v === 'number' ? v : Array.isArray(v) ? v.join(', ') : String(v ?? ''),
  ];
  return { code, detail: Object.fromEntries(Object.entries(detail).map(told)) };
}

/** Whether something read is what is wrong with it, and no value. */
export const isFault = (x: unknown): x is Fault => typeof x === 'object' && x !== null && 'detail' in x;
