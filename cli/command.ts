/**
 * The commands of `bm`: evaluate | solve | launch | cash | purse | risk | screen | match | card | evidence |
 * actuals | schema. JSON in, JSON out; docs/formats.md describes the documents.
 */
import { createReadStream } from 'node:fs';
import { createInterface } from 'node:readline';
import { parseArgs } from 'node:util';
import { z } from 'zod';
import { cashPlan } from '../core/cash/schema.ts';
import { cardDocument } from '../core/cards/schema.ts';
import { cardPack } from '../core/packs/schema.ts';
import { openApiOfFeed } from '../between/feed.ts';
import { evidenceDocument } from '../core/evidence/schema.ts';
import { issuesOf } from '../core/issues.ts';
import type { Issue } from '../core/issues.ts';
import { fillIn, inWords, problemText, sayFault } from '../words/index.ts';
import { TARGET_FIGURES } from '../core/lane/hurdles.ts';
import { laneResult } from '../core/lane/result.ts';
import { evaluate } from '../core/lane/evaluate.ts';
import { laneDocument } from '../core/lane/schema.ts';
import type { LaneDocument } from '../core/lane/schema.ts';
import { breakEvenUnits, highestPurchaseCost, priceFor, priceHeadroom } from '../core/lane/solve.ts';
import type { Target } from '../core/lane/solve.ts';
import { workings } from '../core/lane/workings.ts';
import { launch, quotedOneOffs } from '../core/launch/launch.ts';
import { launchDocument } from '../core/launch/schema.ts';
import { listMap } from '../core/lists/map.ts';
import { CHOICES } from '../core/lists/reference.ts';
import { settlementMap } from '../core/actuals/schema.ts';
import { screenSettings } from '../core/lists/settings.ts';
import { cannot, fileTrouble, readText, UsageError } from './files.ts';
import { asked, usage } from '../words/en/commandLine.ts';
import { checkCard, readCard } from './card.ts';
import { feedWords } from '../words/en/feed.ts';
import { cash } from './cash.ts';
import { actuals } from './actuals.ts';
import { matchFiles } from './match.ts';
import { purse } from './purse.ts';
import { risk } from './risk.ts';
import { purseDocument } from '../core/purse/schema.ts';
import { rangesDocument } from '../core/risk/schema.ts';
import { NOT_JSON } from './documents.ts';
import { evidence } from './evidence.ts';
import { screen } from './screen.ts';
import type { ScreenOptions } from './screen.ts';
import { broughtUp } from '../core/versions.ts';

const USUAL_TARGETS: readonly Target[] = [
  { figure: 'margin', value: 0.2 },
  { figure: 'margin', value: 0.3 },
  { figure: 'roi', value: 0.5 },
  { figure: 'roi', value: 1 },
];
function targetOf(text: string): Target {
  const [figure, value] = text.split('=');
  const known = TARGET_FIGURES.find((f) => f === figure);
  const number = value === undefined || value.trim() === '' ? Number.NaN : Number(value);
  if (known === undefined || !Number.isFinite(number)) throw cannot('notTarget', { text });
  return { figure: known, value: number };
}

function solve(doc: LaneDocument, targets: readonly Target[]): object {
  const result = evaluate(doc);
  const breakEven = priceFor(doc);
  const components = Array.isArray(doc.goods) ? doc.goods.length : 1;
  const oneOffs = quotedOneOffs(doc).reduce((s, o) => s + o.amount, 0);
  const f = result.figures;
  return {
    format: 'bold-margin/solution',
    version: 1,
    currency: doc.currency,
    date: doc.date,
    breakEvenPrice: breakEven,
    priceHeadroom: priceHeadroom(doc.price, breakEven.price),
    highestPurchaseCost: Array.from({ length: components }, (_, i) =>
      highestPurchaseCost(doc, { figure: 'unitProfit', value: 0 }, i),
    ),
    breakEvenAcos: f.breakEvenAcos,
    highestCpc: f.highestCpc,
    highestCpcBlended: f.highestCpcBlended,
    lowestConversion: f.lowestConversion,
    lowestConversionBlended: f.lowestConversionBlended,
    breakEvenUnits: Number.isNaN(oneOffs) ? null : breakEvenUnits(oneOffs, f.unitProfit),
    targets: targets.map((t) => ({
      target: t,
      price: priceFor(doc, t),
      highestPurchaseCost: Array.from({ length: components }, (_, i) => highestPurchaseCost(doc, t, i)),
    })),
    problems: result.problems.map((p) => ({ ...p, message: problemText(p) })),
    blanks: result.blanks,
  };
}

type AnswerOptions = { readonly workings: boolean; readonly targets: readonly Target[] };
function answer(
  command: string,
  input: unknown,
  options: AnswerOptions,
): { ok: true; value: object } | { ok: false; issues: Issue[] } {
  if (command === 'launch') {
    const parsed = launchDocument.safeParse(broughtUp(input));
    return parsed.success
      ? { ok: true, value: launch(parsed.data.lane, parsed.data.plan) }
      : { ok: false, issues: issuesOf(parsed.error) };
  }
  const parsed = laneDocument.safeParse(broughtUp(input));
  if (!parsed.success) return { ok: false, issues: issuesOf(parsed.error) };
  if (command === 'solve') return { ok: true, value: solve(parsed.data, options.targets) };
  const result = evaluate(parsed.data);
  const withText = { ...result, problems: result.problems.map((p) => ({ ...p, message: problemText(p) })) };
  return { ok: true, value: options.workings ? { ...withText, workings: workings(parsed.data) } : withText };
}

function report(issues: readonly Issue[], line?: number): void {
  for (const i of issues)
    process.stderr.write(`${line === undefined ? '' : `line ${line}: `}${inWords(i)}\n`);
}

const SCHEMAS: Readonly<Record<string, z.ZodType>> = {
  lane: laneDocument,
  result: laneResult,
  launch: launchDocument,
  plan: cashPlan,
  purse: purseDocument,
  ranges: rangesDocument,
  card: cardDocument,
  pack: cardPack,
  evidence: evidenceDocument,
  map: listMap,
  'settlement-map': settlementMap,
  screen: screenSettings,
};

const argumentsOf = (args: string[]) =>
  parseArgs({
    args,
    allowPositionals: true,
    options: {
      currency: { type: 'string' },
      like: { type: 'string' },
      kind: { type: 'string' },
      plan: { type: 'string' },
      csv: { type: 'string' },
      ranges: { type: 'string' },
      uniforms: { type: 'string' },
      map: { type: 'string' },
      settings: { type: 'string' },
      as: { type: 'string', default: 'csv' },
      only: { type: 'string', default: '' },
      invalid: { type: 'string' },
      reference: { type: 'string' },
      'reference-map': { type: 'string' },
      choose: { type: 'string', default: 'sellsFastest' },
      previous: { type: 'string' },
      listings: { type: 'string' },
      noise: { type: 'string' },
      lane: { type: 'string' },
      settlement: { type: 'string', multiple: true, default: [] },
      code: { type: 'string', multiple: true, default: [] },
      since: { type: 'string' },
      solve: { type: 'boolean', default: false },
      workings: { type: 'boolean', default: false },
      jsonl: { type: 'boolean', default: false },
      target: { type: 'string', multiple: true, default: [] },
      help: { type: 'boolean', default: false },
    },
  });
type Values = ReturnType<typeof argumentsOf>['values'];

function writeSchema(name: string | undefined): number {
  // Of a feed it is not one document that is described, but every question with its answer.
  if (name === 'feed') {
    process.stdout.write(`${JSON.stringify(openApiOfFeed(feedWords), null, 2)}\n`);
    return 0;
  }
  const schema = SCHEMAS[name ?? ''];
  if (schema === undefined)
    throw cannot('whichSchema', { choices: [...Object.keys(SCHEMAS), 'feed'].join(', ') });
  const io = name === 'result' ? 'output' : 'input';
  process.stdout.write(`${JSON.stringify(z.toJSONSchema(schema, { io }), null, 2)}\n`);
  return 0;
}

async function screenFile(file: string | undefined, values: Values): Promise<number> {
  if (file === undefined) throw cannot('whichFile');
  const { as } = values;
  if (as !== 'csv' && as !== 'jsonl') throw cannot('notFormat', { text: as });
  const choose = CHOICES.find((c) => c === values.choose);
  if (choose === undefined) throw cannot('noneOf', { text: values.choose, choices: CHOICES.join(', ') });
  const options: ScreenOptions = {
    reference: values.reference,
    referenceMap: values['reference-map'],
    choose,
    previous: values.previous,
    solve: values.solve,
    map: values.map,
    settings: values.settings,
    as,
    invalid: values.invalid,
    only: values.only.split(',').filter(Boolean),
  };
  return screen(file, options, process.stdout, (text) => void process.stderr.write(text));
}

const writeJson = (value: object): void => void process.stdout.write(`${JSON.stringify(value, null, 2)}\n`);

/** One document a line; a line that cannot be read is said, and the others are answered. */
async function answerLines(
  command: string,
  file: string | undefined,
  options: AnswerOptions,
): Promise<number> {
  const lines = createInterface({
    input: file === undefined ? process.stdin : createReadStream(file),
    crlfDelay: Number.POSITIVE_INFINITY,
  });
  let n = 0;
  let bad = false;
  for await (const line of lines) {
    n++;
    const text = n === 1 ? line.replace(/^\ufeff/, '') : line;
    if (text.trim() === '') continue;
    let got: ReturnType<typeof answer>;
    try {
      got = answer(command, JSON.parse(text), options);
    } catch {
      got = { ok: false, issues: NOT_JSON };
    }
    if (!got.ok) {
      bad = true;
      report(got.issues, n);
    }
    const problems = got.ok ? [] : got.issues.map((i) => ({ path: i.path, ...sayFault(i) }));
    const out = `${JSON.stringify(got.ok ? got.value : { line: n, problems })}\n`;
    if (!process.stdout.write(out)) await new Promise((done) => process.stdout.once('drain', done));
  }
  return bad ? 2 : 0;
}

function answerDocument(command: string, file: string | undefined, options: AnswerOptions): number {
  let input: unknown;
  try {
    input = JSON.parse(readText(file));
  } catch (e) {
    if (!(e instanceof SyntaxError)) throw e;
    report(NOT_JSON);
    return 2;
  }
  const got = answer(command, input, options);
  if (!got.ok) {
    report(got.issues);
    return 2;
  }
  writeJson(got.value);
  return 0;
}

async function main(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args);
  const [command, file, ...files] = positionals;
  if (values.help) {
    process.stdout.write(`${usage}\n`);
    return 0;
  }
  if (command === 'schema') return writeSchema(file);
  if (command === 'cash') return cash(file, { plan: values.plan, csv: values.csv }, writeJson, report);
  if (command === 'purse') return purse(file, writeJson, report);
  if (command === 'risk')
    return risk(file, { ranges: values.ranges, uniforms: values.uniforms }, writeJson, report);
  if (command === 'evidence') return evidence(file, files[0], files[1], writeJson, report);
  if (command === 'card' && file === 'read')
    return readCard(files[0], { ...values, as: values.kind }, writeJson, report);
  if (command === 'card' && file === 'check') return checkCard(files[0], files[1], writeJson, report);
  if (command === 'card') throw cannot('whichCard');
  if (command === 'screen') return screenFile(file, values);
  if (command === 'match')
    return matchFiles(file, { listings: values.listings, noise: values.noise }, writeJson);
  if (command === 'actuals') return actuals(values, writeJson, report);
  if (command === undefined) throw cannot('nothing');
  if (!['evaluate', 'solve', 'launch'].includes(command)) throw cannot('noCommand', { text: command });
  const options = {
    workings: values.workings,
    targets: values.target.length === 0 ? USUAL_TARGETS : values.target.map(targetOf),
  };
  return values.jsonl ? answerLines(command, file, options) : answerDocument(command, file, options);
}

/** Runs `bm` with these arguments; returns its exit code: 0, or 2 where something was said on standard error. */
export async function runCommand(args: string[]): Promise<number> {
  try {
    return await main(args);
  } catch (e) {
    const trouble = fileTrouble(e);
    const asks =
      e instanceof UsageError || (e as { code?: string }).code?.startsWith('ERR_PARSE_ARGS') === true;
    // A reader that has enough closes the pipe; nobody is left to be told.
    if ((e as { code?: string }).code !== 'EPIPE') {
      const said = e instanceof Error ? e.message : String(e);
      process.stderr.write(`${trouble ?? (asks ? said : fillIn(asked.unforeseen, { said }))}\n`);
      // How it is used helps where a word was wrong, not where a file was.
      if (asks && !(e as Error).message.includes(': ')) process.stderr.write(`${usage}\n`);
    }
    return 2;
  }
}
