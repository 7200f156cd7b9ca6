import { data } from 'react-router';
import { z } from 'zod';
import { firstIssue } from '../../core/issues.ts';
import { inWords } from '../../words/index.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { fileAnswer } from '../fileAnswer.ts';
import { writeCsv, writeXlsx } from '../../server/files/sheets.ts';
import { jsonIn } from '../jsonIn.ts';
import type { Route } from './+types/tableFile.ts';
import { answering } from '../answers.ts';

const table = z.object({
  name: z.string().trim().min(1).max(200),
  columns: z
    .array(z.object({ title: z.string().max(200), percent: z.boolean().optional() }))
    .min(1)
    .max(200),
  rows: z
    .array(z.array(z.union([z.string().max(10_000), z.number(), z.boolean(), z.null()])).max(200))
    .max(20_000),
});

/** A table that stands on somebody's screen, as a file. Nothing is read of the workspace and nothing is kept. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  await enterWorkspace(request, params.workspace);
  const form = await request.formData();
  const sent = table.safeParse(jsonIn(form.get('table')));
  if (!sent.success) throw data(inWords(firstIssue(sent.error)), 422);
  const { name } = sent.data;
  const sheet = {
    name,
    columns: sent.data.columns.map((c) => ({ title: c.title, percent: c.percent === true })),
    rows: sent.data.rows,
  };
  return form.get('as') === 'csv'
    ? fileAnswer(`${name}.csv`, writeCsv(sheet))
    : fileAnswer(`${name}.xlsx`, await writeXlsx([sheet]));
});
