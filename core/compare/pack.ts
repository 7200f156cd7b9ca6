/**
 * Many lanes of one candidate share most of what they say. Packed, each different value travels once: a pool
 * of JSON texts, and for every lane the numbers of its values. Unpacked, equal values are one object, so that
 * comparing them is quick.
 */
export type Packed = {
  readonly keys: readonly string[];
  readonly pool: readonly string[];
  readonly rows: readonly (readonly number[])[];
};

export function pack(records: readonly object[]): Packed {
  const keys = [...new Set(records.flatMap((r) => Object.keys(r)))];
  const pool: string[] = [];
  const known = new Map<string, number>();
  const rows = records.map((r) =>
    keys.map((key) => {
      const value = (r as Record<string, unknown>)[key];
      if (value === undefined) return -1;
      const text = JSON.stringify(value);
      let at = known.get(text);
      if (at === undefined) {
        at = pool.push(text) - 1;
        known.set(text, at);
      }
      return at;
    }),
  );
  return { keys, pool, rows };
}

export function unpack<T>(packed: Packed): T[] {
  const values = packed.pool.map((text) => JSON.parse(text) as unknown);
  return packed.rows.map((row) => {
    const out: Record<string, unknown> = {};
    for (let i = 0; i < row.length; i++) {
      const at = row[i] as number;
      if (at >= 0) out[packed.keys[i] as string] = values[at];
    }
    return out as T;
  });
}
