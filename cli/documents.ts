/** Documents that a command reads, and how it answers. */
import { fault } from '../core/fault.ts';
import type { Issue } from '../core/issues.ts';
import { broughtUp } from '../core/versions.ts';
import { readText } from './files.ts';

export type Write = (value: object) => void;
export type Report = (issues: readonly Issue[]) => void;

export const NOT_JSON: Issue[] = [{ path: '(document)', ...fault('notJson') }];

/** The document of a file (or of standard input) in the form of today; undefined where it is no JSON. */
export function documentIn(path: string | undefined): unknown {
  try {
    return broughtUp(JSON.parse(readText(path)));
  } catch (e) {
    if (e instanceof SyntaxError) return undefined;
    throw e;
  }
}
