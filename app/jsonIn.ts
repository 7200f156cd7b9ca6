/** JSON that stands in a field of a form; null where it is none, which no schema takes. */
export function jsonIn(text: unknown): unknown {
  try {
    return JSON.parse(String(text));
  } catch {
    return null;
  }
}
