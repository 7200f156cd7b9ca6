/**
 * What core and server say by code, in words: for screens, the command line and whatever else faces a reader.
 * Another language is one more folder beside `en`.
 */
import type { Detail, Fault } from '../core/fault.ts';
import type { Issue } from '../core/issues.ts';
import type { Problem } from '../core/lane/problems.ts';
import { faults, places, values } from './en/faults.ts';
import { problems } from './en/problems.ts';

/** Fills `{{name}}` places of a message; `{{name|table}}` are the words that a table of values has for it. */
export function fillIn(text: string, detail: Detail): string {
  return text.replace(/\{\{(\w+)(?:\|(\w+))?\}\}/g, (_, name: string, table?: string) => {
    const value = String(detail[name] ?? '');
    return table === undefined ? value : (values[table]?.[value] ?? value);
  });
}

/** What is wrong, and what to do; `detail.in` leads the problem where it says in which of several files. */
export function sayFault({ code, detail }: Fault): { problem: string; remedy: string } {
  const [problem, remedy] = faults[code] ?? [code, ''];
  const said = fillIn(problem, detail);
  const where = detail.in === undefined ? null : detail.path === undefined ? places.file : places.field;
  return {
    problem: where === null ? said : fillIn(where, { ...detail, said }),
    remedy: fillIn(remedy, detail),
  };
}

/** A fault in one piece: where (a field of a document), what, and what to do. */
export function inWords(fault: Fault | Issue): string {
  const { problem, remedy } = sayFault(fault);
  const where = 'path' in fault ? `${fault.path}: ` : '';
  return `${where}${problem.replace(/\.$/, '')}.${remedy === '' ? '' : ` ${remedy}`}`;
}

/** A problem of a lane: what is wrong, where, what to do. */
export const problemText = (problem: Problem): string => fillIn(problems[problem.code], problem.detail);
