/** A device's keeping place for tests: in memory, full or away at will. */
import type { DeviceStore } from '../deviceStore.ts';

type Opens = NonNullable<ConstructorParameters<typeof DeviceStore>[1]>;
type Rows = Map<string, { readonly id: string }>;

export class FakeDevice {
  readonly tables: Record<string, Rows> = { checks: new Map(), sessions: new Map() };
  isFull = false;
  isAway = false;

  /** What a store is opened with. */
  readonly open: Opens = async () => {
    if (this.isAway) throw new Error('storage is not allowed');
    const rows = (name: string): Rows => this.tables[name] as Rows;
    const db = {
      getAll: async (name: string) => [...rows(name).values()].map((r) => structuredClone(r)),
      put: async (name: string, row: { readonly id: string }) => {
        if (this.isFull) throw new DOMException('full', 'QuotaExceededError');
        rows(name).set(row.id, structuredClone(row));
      },
      delete: async (name: string, id: string) => void rows(name).delete(id),
    };
    return db as unknown as Awaited<ReturnType<Opens>>;
  };
}
