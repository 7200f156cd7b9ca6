import { data } from 'react-router';
import { z } from 'zod';
import { evidenceMap, FILE_KINDS, guessEvidenceMap } from '../../core/evidence/fileMap.ts';
import type { EvidenceMap, FileKind } from '../../core/evidence/fileMap.ts';
import { readEvidence } from '../../core/evidence/fileRows.ts';
import type { FileRead } from '../../core/evidence/fileRows.ts';
import { fault } from '../../core/fault.ts';
import { headerAmong } from '../../core/lists/map.ts';
import { currency, day } from '../../core/money/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { sheetOfText, textSheets } from '../../server/files/evidenceFiles.ts';
import type { TextSheet } from '../../server/files/evidenceFiles.ts';
import { keepEvidenceMap, loadEvidenceMaps, observe } from '../../server/use/evidence.ts';
import type { FileLook } from '../features/market/fileLook.ts';
import { inWords } from '../../words/index.ts';
import { answering, unfit } from '../answers.ts';
import { jsonIn } from '../jsonIn.ts';
import type { Route } from './+types/marketFile.ts';

const asked = z.object({
  kind: z.enum(FILE_KINDS),
  market: z.string().min(1).max(300),
  currency,
  asOf: day,
  sheet: z.coerce.number().int().min(0).max(200).default(0),
  map: evidenceMap.nullable(),
  stated: z.enum(['stated', 'estimated']).default('stated'),
  take: z.enum(['look', 'keep']).default('look'),
});
const SHOWN_ROWS = 12;
const SHOWN_FAULTS = 200;

/** Reads a file, or pasted rows, of one kind of evidence: to look at first, then to keep. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const form = await request.formData();
  const read = asked.safeParse({
    kind: form.get('kind'),
    market: form.get('market'),
    currency: form.get('currency'),
    asOf: form.get('asOf') || today(),
    sheet: form.get('sheet') ?? undefined,
    map: form.has('map') ? jsonIn(form.get('map')) : null,
    stated: form.get('stated') ?? undefined,
    take: form.get('take') ?? undefined,
  });
  if (!read.success) return unfit(read.error);
  const a = read.data;
  const file = form.get('file');
  const given = file instanceof File && file.size > 0;
  const sheets = given
    ? await textSheets(Buffer.from(await file.arrayBuffer()))
    : [sheetOfText(String(form.get('text') ?? ''))];
  const remembered = (await loadEvidenceMaps(entry.workspaceId))[a.kind];
  const look = lookAt(sheets, a, remembered);
  if (a.take === 'look' || look.read.value === null || look.read.stops.length > 0)
    return a.take === 'keep'
      ? unfit(look.read.stops[0] ?? fault('evidenceNothing'))
      : data(shown(look, sheets, false));
  await observe(
    entry.workspaceId,
    { candidateId: params.candidate, market: a.market },
    [
      {
        kind: a.kind,
        value: look.read.value,
        asOf: look.read.asOf !== null && look.read.asOf < a.asOf ? look.read.asOf : a.asOf,
        source: given ? `file:${file.name.slice(0, 200)}` : 'typed',
        stated: a.stated === 'stated',
      },
    ],
    entry.person.id,
  );
  await keepEvidenceMap(entry.workspaceId, a.kind, look.map);
  return data(shown(look, sheets, true));
});

type Looked = { header: string[]; rows: readonly (readonly string[])[]; map: EvidenceMap; read: FileRead };

function lookAt(
  sheets: readonly TextSheet[],
  a: { kind: FileKind; sheet: number; map: EvidenceMap | null; currency: string },
  remembered: EvidenceMap | undefined,
): Looked {
  const sheet = sheets[a.sheet] ?? sheets[0];
  const all = sheet?.rows ?? [];
  const at = headerAmong(all);
  const header = (all[at] ?? []).map((h) => h.trim());
  const rows = all.slice(at + 1);
  const fits = remembered !== undefined && Object.values(remembered.columns).every((h) => header.includes(h));
  const guessed = guessEvidenceMap(a.kind, header, rows.slice(0, 200));
  // Columns as last time, where the file has them all; how figures are written is this file's own.
  const map =
    a.map ?? (fits ? { ...guessed, columns: { ...guessed.columns, ...remembered.columns } } : guessed);
  return { header, rows, map, read: readEvidence(a.kind, header, rows, map, at + 2, a.currency, today()) };
}

function shown({ header, rows, map, read }: Looked, sheets: readonly TextSheet[], kept: boolean): FileLook {
  return {
    kept,
    sheets: sheets.map((s) => s.name),
    header,
    rows: rows.slice(0, SHOWN_ROWS).map((r) => r.slice(0, 60).map((c) => c.slice(0, 120))),
    map,
    good: read.good,
    stops: read.stops.map((f) => inWords(f)),
    faults: read.faults
      .slice(0, SHOWN_FAULTS)
      .map((f) => ({ row: f.row, column: f.column, message: inWords(f) })),
    faultCount: read.faults.length,
    asOf: read.asOf,
  };
}
