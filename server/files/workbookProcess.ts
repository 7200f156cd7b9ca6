/**
 * The process that reads one workbook and ends: readApart.ts starts it, watches its memory and its time, and
 * hears what it found.
 */
import type { Fault } from '../../core/fault.ts';
import { Refusal } from '../refusal.ts';
import { isDiskFull } from './store.ts';
import { broken, checkWorkbook, convertSheet, readTables, sheetHeads } from './workbook.ts';
import type { WorkbookJob, WorkbookSaid } from './readApart.ts';

async function work(job: WorkbookJob): Promise<unknown> {
  if (job.what === 'tables') return readTables(job.bytes);
  if (job.what === 'heads') return sheetHeads(job.path, job.rows, await checkWorkbook(job.path));
  await checkWorkbook(job.path);
  return convertSheet(job.path, job.sheet, job.to);
}

process.once('message', (job: WorkbookJob) => {
  work(job)
    .then((found): WorkbookSaid => ({ found }))
    // What the library stumbles over is no workbook; a disk that is full is not the workbook's fault.
    .catch(
      (e): WorkbookSaid =>
        isDiskFull(e)
          ? { failed: String(e), code: (e as { code: string }).code }
          : { fault: ((e instanceof Refusal ? e : broken()).fault ?? broken().fault) as Fault },
    )
    .then((said) => process.send?.(said, () => process.exit(0)));
});
