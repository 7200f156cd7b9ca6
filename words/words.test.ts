import { readdirSync, readFileSync } from 'node:fs';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import { fault } from '../core/fault.ts';
import { NOTICES, PROBLEMS } from '../core/lane/problems.ts';
import { faults, values } from './en/faults.ts';
import { notices, problems } from './en/problems.ts';
import { fillIn, inWords, sayFault } from './index.ts';

const ROOMS = ['core', 'server', 'between', 'screening', 'app/routes', 'cli'];
const sources = ROOMS.flatMap((room) =>
  readdirSync(room, { recursive: true, encoding: 'utf8' })
    .filter((p) => /\.tsx?$/.test(p) && !/\.test\.|(^|\/)testing\//.test(p))
    .map((p) => `${room}/${p}`),
).map((path) => ({
  path,
  source: ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true),
}));
const walk = (node: ts.Node, see: (n: ts.Node) => void): void => {
  see(node);
  ts.forEachChild(node, (n) => walk(n, see));
};
const textOf = (n: ts.Node): string | null =>
  ts.isStringLiteral(n) || ts.isNoSubstitutionTemplateLiteral(n)
    ? n.text
    : ts.isTemplateExpression(n)
      ? n.head.text + n.templateSpans.map((s) => `…${s.literal.text}`).join('')
      : null;
const places = (text: string): string[] => [...text.matchAll(/\{\{(\w+)/g)].map((m) => m[1] as string);

/** Calls of `fault` and `refused` with a code that is written out, and the names of the values they give. */
function saidFaults(): { at: string; code: string; given: string[] | null }[] {
  const said: { at: string; code: string; given: string[] | null }[] = [];
  for (const { path, source } of sources)
    walk(source, (n) => {
      if (!ts.isCallExpression(n) || !/^(fault|refused)$/.test(n.expression.getText(source))) return;
      const [code, detail] = n.arguments;
      if (code === undefined || !ts.isStringLiteral(code)) return;
      const whole =
        detail === undefined
          ? []
          : ts.isObjectLiteralExpression(detail) && !detail.properties.some(ts.isSpreadAssignment)
            ? detail.properties.map((p) => p.name?.getText(source) ?? '')
            : null;
      said.push({ at: path, code: code.text, given: whole });
    });
  return said;
}

describe('the words of faults and problems', () => {
  it('there are words for every code that is given, and every place in them gets its value', () => {
    const said = saidFaults();
    expect(said.length).toBeGreaterThan(100);
    const wanting = said.flatMap(({ at, code, given }) => {
      const words = faults[code];
      if (words === undefined) return [`${at}: no words for ${code}`];
      if (given === null) return [];
      return words.flatMap(places).flatMap((p) => (given.includes(p) ? [] : [`${at}: ${code} lacks ${p}`]));
    });
    expect(wanting).toEqual([]);
  });
  it('every word is said by somebody', () => {
    const mentioned = new Set<string>();
    for (const { source } of sources)
      walk(source, (n) => {
        if (ts.isStringLiteral(n)) mentioned.add(n.text);
      });
    // These are read from the database alone: what was kept in words before codes were, and what restoring writes.
    const kept = ['asWritten', 'underWayAtBackup'];
    const unsaid = Object.keys(faults).filter((code) => !kept.includes(code) && !mentioned.has(code));
    expect(unsaid).toEqual([]);
  });
  it('a table of values that a sentence names is there', () => {
    const tables = Object.values(faults)
      .flat()
      .flatMap((text) => [...text.matchAll(/\|(\w+)\}\}/g)].map((m) => m[1] as string));
    expect(tables.filter((t) => values[t] === undefined)).toEqual([]);
  });
  it('lanes: a sentence for every problem and notice', () => {
    expect(Object.keys(problems).sort()).toEqual([...PROBLEMS].sort());
    expect(Object.keys(notices).sort()).toEqual([...NOTICES].sort());
  });
});

/** Where English stands for a reason of its own: for the log, for a developer, for a schema's own description. */
const DESCRIBES =
  /^(log\.\w+|.*\.(describe|meta|write|execute)|sql|sql\.raw|new (Error|TypeError|RangeError))$/;
const SENTENCE = /(^|[.:] )[A-Z"“…][\w'"…]*,?( [\w'"(…]+,?){2,}/;
const LOWER = /[a-z]{2}/;
/**
 * Headings that files of suppliers have, in the languages they are written in; what documents are begun with and
 * belongs to their reader from then on; made-up data.
 */
const APART = [
  'core/lists/roles.ts',
  'core/workspace/newLane.ts',
  'server/use/cardDrafts.ts',
  'server/loadDemoLists.ts',
];

function sentencesIn({ path, source }: (typeof sources)[number]): string[] {
  const found: string[] = [];
  const visit = (n: ts.Node): void => {
    if (ts.isCallExpression(n) || ts.isNewExpression(n)) {
      const called = `${ts.isNewExpression(n) ? 'new ' : ''}${n.expression.getText(source)}`;
      if (DESCRIBES.test(called)) return;
    }
    if (ts.isTaggedTemplateExpression(n) || ts.isImportDeclaration(n)) return;
    if (ts.isPropertyAssignment(n) && n.name.getText(source) === 'description') return;
    const text = textOf(n);
    if (text !== null && SENTENCE.test(text) && LOWER.test(text)) found.push(`${path}: ${text.slice(0, 80)}`);
    else ts.forEachChild(n, visit);
  };
  visit(source);
  return found;
}

describe('core and server say nothing in any language', () => {
  it('has no English sentence outside of the catalogues', () => {
    const said = sources.filter((s) => !APART.includes(s.path)).flatMap(sentencesIn);
    expect(said).toEqual([]);
  });
  it('and one that is put there is found', () => {
    const put = (text: string) =>
      sentencesIn({ path: 'x.ts', source: ts.createSourceFile('x.ts', text, ts.ScriptTarget.Latest, true) });
    expect(put("fail('This row is not read');")).toHaveLength(1);
    expect(put(['fail(`"$', '{name}" has no quote yet`);'].join(''))).toHaveLength(1);
    expect(put("log.warn('The database is away');")).toEqual([]);
    expect(put("fail('rowTwice');")).toEqual([]);
  });
});

describe('a fault in words', () => {
  it('says problem and remedy with their values, and words for values that have some', () => {
    expect(sayFault(fault('maxUnderMin', { max: 3, min: 5 }))).toEqual({
      problem: 'The maximum 3 is under the minimum 5',
      remedy: 'Exchange the two, or leave one blank.',
    });
    expect(inWords(fault('foreign', { kind: 'card' }))).toBe(
      'This names a rate card that is not in this workspace. Choose one that is.',
    );
    expect(inWords(fault('noChoices'))).toBe('noChoices.');
  });
  it('leads with the file and the field it is in', () => {
    const wrong = fault('noColumnFor', { role: 'identifier', in: 'reference' });
    expect(sayFault(wrong).problem).toBe('Market figures: No column is the barcode');
    expect(inWords({ path: 'price', ...fault('under', { minimum: 0 }) })).toBe(
      'price: This is under 0. Use at least 0.',
    );
    expect(inWords(fault('under', { minimum: 0, in: 'laneFile', path: 'price' }))).toBe(
      'This file is not a lane document. At price: This is under 0. Use at least 0.',
    );
  });
  it('what was kept in words ends as it did', () => {
    expect(inWords(fault('asWritten', { text: 'The work stopped. Start it again.' }))).toBe(
      'The work stopped. Start it again.',
    );
  });
  it('a value that is missing leaves its place empty, one without words stands as it is', () => {
    expect([fillIn('a {{x}} b', {}), fillIn('{{x|role}}', { x: 'brand' })]).toEqual(['a  b', 'brand']);
  });
});
