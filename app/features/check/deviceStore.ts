/**
 * Checks and sessions on the device, until a server has them: they survive a closed tab and a flat battery. What the
 * device has no room for is held in memory, and said.
 */
import { openDB } from 'idb';
import type { DBSchema, IDBPDatabase } from 'idb';
import type { CheckGist } from '../../../core/check/check.ts';
import type { CheckSession, ShelfCheck } from '../../../core/check/schema.ts';

/** Whose it is: a device may be used by several people, and a person works in several workspaces. */
export type Owner = { readonly root: string; readonly person: string };
export type HeldCheck = Owner & {
  readonly id: string;
  readonly data: ShelfCheck;
  readonly said: CheckGist;
  /** A server has it as it stands. */
  readonly sent: boolean;
  /** Why a server would not take it; null: it was not refused. */
  readonly refused: string | null;
};
export type HeldSession = Owner & {
  readonly id: string;
  readonly data: CheckSession;
  readonly sent: boolean;
};
export type Held = {
  /** The session that goes on; null: none. */
  readonly session: HeldSession | null;
  /** Its checks, and those of others that still wait, in the order they were made. */
  readonly checks: readonly HeldCheck[];
  /** Sessions that still wait. */
  readonly waiting: readonly HeldSession[];
  /** False: the device has no room, or keeps nothing for this page, and all of this stands in memory alone. */
  readonly isSafe: boolean;
};
export const NOTHING_HELD: Held = { session: null, checks: [], waiting: [], isSafe: true };

interface Shelf extends DBSchema {
  checks: { key: string; value: HeldCheck };
  sessions: { key: string; value: HeldSession };
}
type Table = 'checks' | 'sessions';
type Row<T extends Table> = Shelf[T]['value'];

// A browser that has no such place at all fails here too, and not while it is called.
const openShelf = async (): Promise<IDBPDatabase<Shelf>> =>
  openDB<Shelf>('bold-margin-checks', 1, {
    upgrade(db) {
      db.createObjectStore('checks', { keyPath: 'id' });
      db.createObjectStore('sessions', { keyPath: 'id' });
    },
  });

/** The device's keeping place of one person in one workspace. Never throws; what cannot be kept is in memory. */
export class DeviceStore {
  private db: IDBPDatabase<Shelf> | null = null;
  private opening: Promise<void> | null = null;
  /** What the device would not take. */
  private readonly memory = {
    checks: new Map<string, HeldCheck>(),
    sessions: new Map<string, HeldSession>(),
  };

  constructor(
    readonly owner: Owner,
    private readonly open: () => Promise<IDBPDatabase<Shelf>> = openShelf,
  ) {}

  private async ready(): Promise<void> {
    this.opening ??= this.open().then(
      (db) => {
        this.db = db;
      },
      () => undefined,
    );
    await this.opening;
  }

  private async rows<T extends Table>(table: T): Promise<Row<T>[]> {
    await this.ready();
    const stored = ((await this.db?.getAll(table).catch(() => [])) ?? []) as Row<T>[];
    const memory = this.memory[table] as Map<string, Row<T>>;
    const all = new Map([...stored, ...memory.values()].map((r) => [r.id, r]));
    const { root, person } = this.owner;
    return [...all.values()].filter((r) => r.root === root && r.person === person);
  }

  private async put<T extends Table>(table: T, row: Row<T>): Promise<void> {
    await this.ready();
    const memory = this.memory[table] as Map<string, Row<T>>;
    try {
      if (this.db === null) throw new Error('no store');
      await this.db.put(table, row as never);
      memory.delete(row.id);
    } catch {
      memory.set(row.id, row);
    }
  }

  private async drop(table: Table, id: string): Promise<void> {
    this.memory[table].delete(id);
    await this.db?.delete(table, id).catch(() => undefined);
  }

  async held(): Promise<Held> {
    const sessions = await this.rows('sessions');
    const open = sessions
      .filter((s) => !s.data.ended)
      .sort((a, b) => (a.data.changedAt < b.data.changedAt ? 1 : -1));
    const session = open[0] ?? null;
    const checks = (await this.rows('checks'))
      .filter((c) => !c.sent || c.data.session === session?.id)
      .sort((a, b) => (a.data.at < b.data.at ? -1 : 1));
    return {
      session,
      checks,
      waiting: sessions.filter((s) => !s.sent),
      isSafe: this.memory.checks.size + this.memory.sessions.size === 0,
    };
  }

  keepCheck(data: ShelfCheck, said: CheckGist): Promise<void> {
    return this.put('checks', { ...this.owner, id: data.id, data, said, sent: false, refused: null });
  }

  keepSession(data: CheckSession): Promise<void> {
    return this.put('sessions', { ...this.owner, id: data.id, data, sent: false });
  }

  /** Notes what a server has of what was sent, and what it would not take. What was changed meanwhile still waits. */
  async told(
    sent: { readonly checks: readonly HeldCheck[]; readonly sessions: readonly HeldSession[] },
    taken: ReadonlySet<string>,
    refused: ReadonlyMap<string, string>,
  ): Promise<void> {
    const [checks, sessions] = [await this.rows('checks'), await this.rows('sessions')];
    const now = <R extends { id: string; data: { changedAt: string } }>(
      all: readonly R[],
      was: R,
    ): R | null => all.find((r) => r.id === was.id && r.data.changedAt === was.data.changedAt) ?? null;
    for (const was of sent.checks) {
      const c = now(checks, was);
      if (c === null) continue;
      if (taken.has(c.id)) await this.put('checks', { ...c, sent: true, refused: null });
      else if (refused.has(c.id)) await this.put('checks', { ...c, refused: refused.get(c.id) ?? '' });
    }
    for (const was of sent.sessions) {
      const s = now(sessions, was);
      if (s !== null && taken.has(s.id)) await this.put('sessions', { ...s, sent: true });
    }
    await this.tidy();
  }

  /** Lets go of sessions that have ended once a server has them and all their checks. */
  private async tidy(): Promise<void> {
    const checks = await this.rows('checks');
    for (const s of await this.rows('sessions')) {
      if (!s.data.ended || !s.sent) continue;
      const its = checks.filter((c) => c.data.session === s.id);
      if (its.some((c) => !c.sent)) continue;
      for (const c of its) await this.drop('checks', c.id);
      await this.drop('sessions', s.id);
    }
  }
}
