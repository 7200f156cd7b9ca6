/** Stores the parts of a list one after the other while the next are read. */
import { randomBytes } from 'node:crypto';
import Papa from 'papaparse';
import type { Position } from '../files/lists.ts';
import { refusedHead } from '../files/refusedRows.ts';
import { inThread } from './finishList.ts';
import { Gathering } from './gathering.ts';
import { MOST_WAITING } from './listTask.ts';
import type { Tally } from './listTask.ts';
import { storeGathered } from './storeGathered.ts';
import type { PartJob } from './storeGathered.ts';

type Where = {
  readonly workspaceId: string;
  readonly taskId: string;
  readonly folder: string;
  readonly refusedFile: string;
  /** Whether rows are kept, or only looked at. */
  readonly storing: boolean;
  /** Whether a thread stores them. */
  readonly long: boolean;
  /** Of the file, bytes. */
  readonly size: number;
};

export class StoringParts {
  private readonly reading = randomBytes(8).toString('hex');
  /** Places that are free again. */
  private readonly free: Gathering[] = [];
  private readonly waiting: Promise<boolean>[] = [];
  private storing: Promise<boolean> = Promise.resolve(true);
  private first: Promise<boolean> = this.storing;

  constructor(private readonly where: Where) {}

  /** A place for the rows of the next part. */
  place(): Gathering {
    return this.free.pop() ?? new Gathering();
  }

  /** Whether everything that was given has been stored; false: the work goes on elsewhere. */
  stored(): Promise<boolean> {
    return this.storing;
  }

  /**
   * Has a part stored, and notes in `work` how far it is: where reading goes on, and whether all is read. Waits
   * where several parts wait already. False where the work goes on elsewhere.
   */
  async store(
    work: Tally,
    part: Gathering,
    rows: { readonly header: readonly string[]; readonly hasMore: boolean },
    next: Position | null,
    whole: boolean,
  ): Promise<boolean> {
    while (this.waiting.length >= MOST_WAITING) if (!(await this.waiting.shift())) return false;
    const { steps } = work;
    const job = this.jobOf(work, part, rows, next, whole);
    // The first part does not wait for the thread to stand; the thread's parts wait for it, and so keep their
    // order.
    const stored =
      !this.where.long || steps === 0
        ? storeGathered(job, this.storing)
        : this.first.then((ok) => ok && inThread(job));
    if (steps === 0) this.first = stored;
    this.storing = stored.then((ok) => {
      part.clear();
      this.free.push(part);
      return ok;
    });
    this.waiting.push(this.storing);
    // What goes wrong is said where it is awaited.
    this.storing.catch(() => undefined);
    return true;
  }

  private jobOf(
    work: Tally,
    part: Gathering,
    rows: { readonly header: readonly string[]; readonly hasMore: boolean },
    next: Position | null,
    whole: boolean,
  ): PartJob {
    const { workspaceId, taskId, folder, refusedFile, storing } = this.where;
    const name = `part-${String(work.parts.length).padStart(4, '0')}-${randomBytes(4).toString('hex')}`;
    const keeps = storing && part.count > 0;
    const { steps } = work;
    const refused =
      part.refused.length === 0
        ? null
        : `${work.refusedBytes === 0 ? refusedHead(rows.header) : ''}${Papa.unparse(part.refused)}\r\n`;
    const done = work.valid + work.invalid;
    work.steps = steps + 1;
    work.at = next ?? work.at;
    work.read = whole;
    if (keeps) work.parts = [...work.parts, { name, rows: part.count }];
    work.refusedBytes += refused === null ? 0 : Buffer.byteLength(refused);
    return {
      reading: this.reading,
      workspaceId,
      taskId,
      gathered: keeps ? part.gathered(rows.hasMore) : null,
      path: `${folder}/${name}`,
      refused: refused === null ? null : { path: refusedFile, text: refused },
      steps,
      task: { ...work, troubles: { ...work.troubles }, changes: { ...work.changes } },
      done,
      total: whole ? done : this.expected(done, work, next),
    };
  }

  /** How many rows there will be, from how much of the file, or of a catalogue, has been taken. */
  private expected(done: number, { catalogue }: Tally, next: Position | null): number {
    const { size } = this.where;
    const share =
      catalogue === undefined
        ? next === null || size === 0
          ? 1
          : next.chars / size
        : catalogue.goods / Math.max(catalogue.goods, catalogue.expected, 1);
    return Math.round(done / Math.max(1e-6, Math.min(1, share)));
  }
}
