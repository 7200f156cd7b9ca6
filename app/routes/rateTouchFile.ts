import { data } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { fileAnswer } from '../fileAnswer.ts';
import { writeCsv, writeXlsx } from '../../server/files/sheets.ts';
import { askedAbout, touchedBy } from '../../server/use/touched.ts';
import { settingsOf } from '../../server/use/workspaces.ts';
import type { Route } from './+types/rateTouchFile.ts';
import { answering } from '../answers.ts';
import { fileNames } from '../../words/en/fileNames.ts';
import { fillIn } from '../../words/index.ts';

/** What a version or draft touches, as a table: every lane, with profit before and after in the home currency. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const search = new URL(request.url).searchParams;
  const about = await askedAbout(entry.workspaceId, search);
  const settings = await settingsOf(entry.workspaceId);
  if (about === null || about === 'gone' || settings === null) throw data(null, 404);
  const touched = await touchedBy(entry.workspaceId, about.kind, about.key, about.data, about.versionId);
  const home = settings.homeCurrency;
  const columns = [
    'candidate',
    'country',
    'marketplace',
    'fulfilment',
    `keeps now ${home}`,
    `then ${home}`,
    `change ${home}`,
    'why',
    'falls under',
    'not known now',
    'not known then',
  ].map((title) => ({ title }));
  const rows = touched.map((t) => [
    t.candidate,
    t.country,
    t.marketplace,
    t.method,
    t.before,
    t.after,
    t.change,
    t.why.map((w) => `${w.line} ${w.effect.toFixed(2)}`).join('; '),
    t.dropped.join(' '),
    t.lacks.before.join(' '),
    t.lacks.after.join(' '),
  ]);
  const name = fillIn(fileNames.touches, { name: about.name, day: about.day });
  const sheet = { name: 'touched', columns, rows };
  return search.get('as') === 'csv'
    ? fileAnswer(`${name}.csv`, writeCsv(sheet))
    : fileAnswer(`${name}.xlsx`, await writeXlsx([sheet]));
});
